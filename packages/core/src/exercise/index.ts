export { fitExercise, fittedConstants, type Chosen, type Done, type Part, type PartFit, type Tap } from './fit.js';
export { leastSquares, type Line, type Point } from './line.js';
export { CHOICE_LENGTHS, choicesOf, LINES, targetsIn, type Choice, type Target } from './trials.js';
