export { compilePatterns, LONGEST_PATTERN, type PatternTest } from './patterns.js';
