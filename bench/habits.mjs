/** Openings whose law is known: a few things belong to parts of the day, and chains of things follow each other. */

const HOUR = 3_600_000;
const ITEMS = 40;
/** A Monday. */
const FIRST_DAY = Date.UTC(2026, 7, 3);

export function generatedOpenings(random, days) {
  const out = [];
  for (let day = 0; day < days; day++)
    for (let quarter = 1; quarter < 4; quarter++) {
      let at = FIRST_DAY + (day * 24 + quarter * 6 + random.int(0, 3)) * HOUR;
      // what belongs to this part of the day, then what mostly follows it, or anything
      let item = quarter * 8 + random.int(0, 3);
      for (let n = random.int(1, 4); n > 0; n--) {
        out.push({ item: `i${item}`, at });
        at += random.int(1, 20) * 60_000;
        item = random.next() < 0.7 ? (item * 7 + 3) % ITEMS : random.int(0, ITEMS - 1);
      }
    }
  return out;
}
