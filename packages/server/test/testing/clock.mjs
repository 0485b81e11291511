/** Preloaded into a server: its clock is off by what the file RELLIN_TEST_CLOCK says, in milliseconds. */
import { readFileSync } from 'node:fs';

const file = process.env['RELLIN_TEST_CLOCK'];
const now = Date.now;
const off = () => {
  try {
    return Number(readFileSync(file, 'utf8'));
  } catch {
    return 0;
  }
};
Date.now = () => now() + off();
globalThis.Date = new Proxy(Date, {
  construct: (target, args, as) => Reflect.construct(target, args.length === 0 ? [Date.now()] : args, as),
});
