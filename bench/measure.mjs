/** Interleaved runs and medians: machines are shared, so that only what ran side by side compares. */
export const median = (values) => {
  const sorted = [...values].sort((a, b) => a - b);
  const mid = sorted.length >> 1;
  return sorted.length % 2 ? sorted[mid] : (sorted[mid - 1] + sorted[mid]) / 2;
};

/** Milliseconds of one run. */
export async function timed(work) {
  const started = performance.now();
  await work();
  return performance.now() - started;
}

/** Runs ours and the reference in turn, after one warming run of each; medians in ms and their ratio. */
export async function beside(ours, reference, runs = 5) {
  await reference();
  await ours();
  const a = [];
  const b = [];
  for (let i = 0; i < runs; i++) {
    b.push(await timed(reference));
    a.push(await timed(ours));
  }
  return { ours: median(a), reference: median(b), ratio: median(a) / median(b) };
}

/**
 * What a bench says.
 * @typedef {{ value: number, unit: string, reference?: string, referenceValue?: number, ratio?: number, note?: string
 *   }} Figure
 */

/** Medians at a thousand to a million, and the exponent of the growth between the last two: 1 is linear. */
export async function growth(measure, sizes = [1000, 10_000, 100_000, 1_000_000]) {
  const times = [];
  for (const size of sizes) {
    await measure(size);
    times.push(await measure(size));
  }
  const last = sizes.length - 1;
  const exponent = Math.log10(times[last] / times[last - 1]) / Math.log10(sizes[last] / sizes[last - 1]);
  return `median ms at ${sizes.map((size, i) => `${size.toLocaleString('en-GB')}: ${times[i].toFixed(2)}`).join(', ')}; exponent ${exponent.toFixed(2)}`;
}
