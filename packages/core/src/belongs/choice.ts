/**
 * Choosing one of several by a weighted sum of what speaks for each: conditional logit (McFadden 1974), with the choice
 * “none of them” beside. Fitted by the likelihood with a pull towards given weights, by Adam (Kingma and Ba 2015), from
 * memory.
 */

/** A question with its possible answers. */
export interface Choice {
  /** What speaks for each answer, one after another. */
  rows: Float64Array;
  /** What speaks for none of them. */
  none: Float64Array;
  answers: number;
}

export interface Chosen {
  choice: Choice;
  /** Which answer was right; -1 for none. */
  right: number;
  weight: number;
}

const STEPS = 120;
const STEP = 0.08;
/** How hard weights are held to where they begin, as so many questions. */
const PULL = 1e-3;

/** Probabilities of the answers, and of none at the end. `weights`: those of an answer, then those of none. */
export function probabilities({ rows, none, answers }: Choice, weights: Float64Array): Float64Array {
  const out = new Float64Array(answers + 1);
  const width = weights.length - none.length;
  let most = 0;
  for (let i = 0; i < none.length; i++) most += weights[width + i]! * none[i]!;
  out[answers] = most;
  for (let a = 0; a < answers; a++) {
    let sum = 0;
    for (let i = 0; i < width; i++) sum += weights[i]! * rows[a * width + i]!;
    out[a] = sum;
    if (sum > most) most = sum;
  }
  let total = 0;
  for (let a = 0; a <= answers; a++) total += out[a] = Math.exp(out[a]! - most);
  for (let a = 0; a <= answers; a++) out[a]! /= total;
  return out;
}

/**
 * Weights by which the right answers are likeliest. Cost: `STEPS` times all numbers in the choices.
 *
 * @param begin Where they begin and what they are pulled to.
 */
export function fitWeights(samples: readonly Chosen[], begin: Float64Array): Float64Array {
  const weights = Float64Array.from(begin);
  if (samples.length === 0) return weights;
  const [mean, square] = [new Float64Array(weights.length), new Float64Array(weights.length)];
  const pull = (PULL * samples.length) / 100;
  const width = begin.length - samples[0]!.choice.none.length;
  for (let step = 1; step <= STEPS; step++) {
    const slope = slopeOf(samples, weights);
    for (let i = 0; i < weights.length; i++) {
      const s = (slope[i]! - pull * (weights[i]! - begin[i]!)) / samples.length;
      mean[i] = 0.9 * mean[i]! + 0.1 * s;
      square[i] = 0.999 * square[i]! + 0.001 * s * s;
      weights[i]! += (STEP * (mean[i]! / (1 - 0.9 ** step))) / (Math.sqrt(square[i]! / (1 - 0.999 ** step)) + 1e-8);
      // what speaks for an answer never speaks against it
      if (i < width) weights[i] = Math.max(0, weights[i]!);
    }
  }
  return weights;
}

function slopeOf(samples: readonly Chosen[], weights: Float64Array): Float64Array {
  const slope = new Float64Array(weights.length);
  for (const { choice, right, weight } of samples) {
    const p = probabilities(choice, weights);
    const width = weights.length - choice.none.length;
    for (let a = 0; a < choice.answers; a++) {
      const off = weight * ((a === right ? 1 : 0) - p[a]!);
      if (Math.abs(off) < 1e-6) continue;
      for (let i = 0; i < width; i++) slope[i]! += off * choice.rows[a * width + i]!;
    }
    const off = weight * ((right < 0 ? 1 : 0) - p[choice.answers]!);
    for (let i = 0; i < choice.none.length; i++) slope[width + i]! += off * choice.none[i]!;
  }
  return slope;
}
