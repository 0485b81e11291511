import { Refusal } from './refusal.js';

/** A name as it is kept; refused where nothing is left of it. `what` is what it is for: "board". */
export function named(text: string, what: string): string {
  const name = text.trim();
  if (!name) throw new Refusal('not-valid', `A ${what} needs a name.`);
  return name;
}
