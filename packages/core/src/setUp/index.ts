export { estimateUse, weightOfSpan, type Trace, type UsedEstimate, type UsedSource } from './used.js';
export { firstStrip, type FirstStrip, type Starter } from './firstStrip.js';
export { tasksOf, type Task, type TaskThing } from './tasks.js';
