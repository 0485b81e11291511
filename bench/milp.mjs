/**
 * The plan of pins as a mixed-integer program for a general solver: written from the model's text, not from our code.
 */

/** Seconds to slot `j` (from 0) among `n`, by the model of docs/models.md 2. */
function pinSeconds(item, j, n, rules, width) {
  const c = rules.constants;
  const key = j < rules.keys ? rules.before + c.M + c.K : Infinity;
  const searched = c.searchA + c.searchB * n;
  const known = c.knownA + c.knownB * Math.log2(n);
  const expert = item.uses / (item.uses + c.practiceHalf);
  const choice = n <= 1 ? c.knownA : expert * Math.min(known, searched) + (1 - expert) * searched;
  // the strip begins at 18 and lies at 59 to 97; the pointer rests at 554, 433
  const distance = Math.hypot(18 + j * (width + 6) + width / 2 - 554, 59 + 19 - 433);
  const fitts = c.fittsA + c.fittsB * Math.log2(distance / Math.min(width, 38) + 1);
  return Math.min(key, rules.before + choice + c.H + fitts + 2 * c.B);
}

/** The least cost there is, by the solver `highs`. */
export function leastCost(highs, candidates, rules) {
  const width = candidates.reduce((sum, item) => sum + item.width, 0) / Math.max(1, candidates.length);
  const penalty = (item, slot) =>
    item.slot === null || item.slot === slot ? 0 : rules.movePenalty * (item.known ?? 1);
  const without = candidates.map((item) => item.rate * item.without + penalty(item, null));
  const most = Math.max(rules.limit, ...candidates.filter((c) => c.locked && c.slot !== null).map((c) => c.slot + 1));
  const objective = [];
  const binaries = [];
  const rows = [];
  const ofItem = candidates.map(() => []);
  const sizes = [];
  for (let n = 0; n <= most; n++) {
    sizes.push(`z${n}`);
    binaries.push(`z${n}`);
    for (let j = 0; j < n; j++) {
      const inSlot = [];
      candidates.forEach((item, i) => {
        if (item.slot === null && !item.eligible) return;
        const x = `x${i}_${j}_${n}`;
        binaries.push(x);
        inSlot.push(x);
        ofItem[i].push(x);
        const gain = item.rate * pinSeconds(item, j, n, rules, width) + penalty(item, j) - without[i];
        objective.push(`${gain < 0 ? '-' : '+'} ${Math.abs(gain).toFixed(12)} ${x}`);
      });
      rows.push(`${[...inSlot.map((x) => `+ ${x}`), `- z${n}`].join(' ')} = 0`);
    }
  }
  rows.push(`${sizes.map((z) => `+ ${z}`).join(' ')} = 1`);
  candidates.forEach((item, i) => {
    if (ofItem[i].length === 0) return;
    rows.push(`${ofItem[i].map((x) => `+ ${x}`).join(' ')} <= 1`);
    if (item.locked && item.slot !== null) {
      const own = ofItem[i].filter((x) => x.split('_')[1] === String(item.slot));
      rows.push(`${own.map((x) => `+ ${x}`).join(' ')} = 1`);
    }
  });
  const text = `Minimize\n obj: ${objective.join('\n ') || '0 z0'}\nSubject To\n${rows.map((r, k) => ` r${k}: ${r}`).join('\n')}\nBinary\n ${binaries.join('\n ')}\nEnd`;
  const answer = highs.solve(text, { mip_rel_gap: 0, mip_abs_gap: 1e-9 });
  if (answer.Status !== 'Optimal') throw new Error(`the solver says ${answer.Status}`);
  return answer.ObjectiveValue + without.reduce((a, b) => a + b, 0);
}

/** A small instance from a seed: some pinned, some locked, some not to be pinned. */
export function smallInstance(random, constants) {
  const limit = random.int(0, 5);
  const count = random.int(1, 9);
  const slots = Array.from({ length: Math.min(limit, count) }, (_, i) => i);
  const pinned = random.int(0, slots.length);
  const candidates = Array.from({ length: count }, (_, i) => ({
    id: `i${i}`,
    rate: random.next() < 0.1 ? 0 : Math.round(random.next() * 120) / 10,
    without: 1.5 + Math.round(random.next() * 900) / 100,
    uses: Math.round(random.next() * 300) / 10,
    slot: i < pinned ? i : null,
    locked: i < pinned && random.next() < 0.25,
    eligible: random.next() < 0.85,
    known: random.next() < 0.5 ? 1 : Math.round(random.next() * 100) / 100,
    width: 100 + random.int(0, 80),
  }));
  return {
    candidates,
    rules: {
      constants,
      limit,
      keys: random.int(0, limit),
      movePenalty: random.next() < 0.3 ? 0 : 4,
      before: random.pick([0, 0, 1.7]),
    },
  };
}
