import { parsePicture } from '@rellin/core/pictures';
import { Refusal } from '../problems/refusal.js';

/** The text as it is kept, or refused. */
export function checkedPicture(text: string): string {
  if (!parsePicture(text)) throw new Refusal('not-valid', `“${text.slice(0, 40)}” is no picture that Rellin knows.`);
  return text;
}
