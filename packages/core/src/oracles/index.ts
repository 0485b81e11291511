/** What only tests and the bench use: answers found by another way than the one they hold against it. */
export { sqlOf } from './sql.js';
