/** What the loop below takes on this kind of machine undisturbed, by the ratio of one build's loads then and now. */
const LOOP_MS = 87;

/**
 * How many times slower the machine is just now than undisturbed, at least 1: bounds hold for the machine, not for its
 * neighbours.
 */
export function slowdown(): number {
  const started = performance.now();
  let sum = 0;
  for (let i = 0; i < 3e7; i++) sum += i % 7;
  return sum > 0 ? Math.max(1, (performance.now() - started) / LOOP_MS) : 1;
}
