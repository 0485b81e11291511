/**
 * What may be a lost original, best first: record linkage (Fellegi and Sunter 1969), with the evidence in words.
 *
 * Each field that can be compared gives `log2(m/u)` bits: `m` how often it comes out so for a file that was moved, `u`
 * how often for any other. The m are set by hand, from what people do to files (our own, see MOVED); the u are counted
 * in this very index, so that agreeing on a rare name says much and agreeing on "index.html" little. Fields that follow
 * from one another are not counted twice: size only where the content was not read, extension only where the name
 * differs.
 */
import type { EntryType, Kind } from '../kinds/index.js';
import { jaroWinkler } from './jaroWinkler.js';

/** What is known of an original, or of what may be it. */
export interface Traits {
  type: EntryType;
  kind: Kind;
  name: string;
  /** The name of the folder it lies in. */
  folder: string;
  size: number;
  /** Epoch milliseconds. */
  mtime: number;
  /** Absent where it was not read. */
  fingerprint?: string;
}

/** How common the values of the lost one are among all originals of its type. */
export interface Commonness {
  among: number;
  sameName: number;
  sameExtension: number;
  sameSize: number;
  sameKind: number;
  sameFolder: number;
}

export type Field = 'content' | 'name' | 'extension' | 'size' | 'modified' | 'folder' | 'kind';

export interface FieldEvidence {
  field: Field;
  words: string;
  /** For it (above 0) or against. */
  bits: number;
}

export interface Scored<C> {
  candidate: C;
  bits: number;
  evidence: FieldEvidence[];
  /** The probability that this is it, given these candidates and that it may be none of them. */
  sure: number;
}

/** How often a field comes out so for a file that was moved or renamed (m). Set by hand. */
const MOVED = {
  sameContent: 0.8,
  sameName: 0.8,
  likeName: 0.13,
  sameExtension: 0.97,
  sameSizeUnread: 0.8,
  likeSizeEdited: 0.6,
  sameModified: 0.9,
  sameModifiedEdited: 0.02,
  sameFolder: 0.4,
  sameKind: 0.99,
} as const;
/** How often for any other file (u), where the index cannot say it. Set by hand. */
const CHANCE = { likeName: 0.004, likeSize: 0.08, sameModified: 1e-4 } as const;
/** From here names are alike (Jaro–Winkler). */
const LIKE_NAME = 0.88;
/** Sizes that differ by less than this part are alike. */
const LIKE_SIZE = 0.1;
/** How often what is lost lies somewhere in the places at all. */
const IS_SOMEWHERE = 0.8;

const extension = (name: string) => /.\.([^.]{1,12})$/.exec(name)?.[1]?.toLowerCase() ?? '';

function share(count: number, among: number): number {
  return Math.min(0.5, Math.max(1, count) / Math.max(2, among));
}

/** Bits for an outcome that has these probabilities. */
const outcome = (m: number, u: number) => Math.log2(m / u);

/** Field by field; a field that cannot be compared is left out. Pure. */
export function evidenceOf(lost: Traits, found: Traits, common: Commonness): FieldEvidence[] {
  const out: FieldEvidence[] = [];
  const add = (field: Field, words: string, m: number, u: number) => out.push({ field, words, bits: outcome(m, u) });
  const { among } = common;
  let edited = false;
  if (lost.type === 'file' && lost.fingerprint !== undefined && found.fingerprint !== undefined && lost.size > 0) {
    // how many have this very content is not known before they are read; no more than have its size
    if (lost.size === found.size && lost.fingerprint === found.fingerprint)
      add('content', 'same content', MOVED.sameContent, share(1, among));
    else edited = true;
  } else if (lost.type === 'file' && lost.size === found.size)
    add('size', 'same size', MOVED.sameSizeUnread, share(common.sameSize, among));
  else if (lost.type === 'file') edited = true;
  if (edited) {
    add('content', 'other content', 1 - MOVED.sameContent, 1);
    const like = Math.abs(lost.size - found.size) <= LIKE_SIZE * Math.max(lost.size, found.size);
    if (like) add('size', 'like size', MOVED.likeSizeEdited, CHANCE.likeSize);
    else add('size', 'other size', 1 - MOVED.likeSizeEdited, 1 - CHANCE.likeSize);
  }
  const [a, b] = [lost.name.toLowerCase(), found.name.toLowerCase()];
  if (a === b) add('name', 'same name', MOVED.sameName, share(common.sameName, among));
  else {
    if (jaroWinkler(a, b) >= LIKE_NAME) add('name', 'like name', MOVED.likeName, CHANCE.likeName);
    else add('name', 'other name', 1 - MOVED.sameName - MOVED.likeName, 1 - CHANCE.likeName);
    const sameExtension = extension(a) === extension(b);
    const u = share(common.sameExtension, among);
    if (extension(a) !== '' && sameExtension) add('extension', `also ${extension(a)}`, MOVED.sameExtension, u);
    else if (!sameExtension) add('extension', 'other extension', 1 - MOVED.sameExtension, 1 - u);
  }
  if (lost.type === 'file') {
    const m = edited ? MOVED.sameModifiedEdited : MOVED.sameModified;
    if (lost.mtime === found.mtime) add('modified', 'same date', m, CHANCE.sameModified);
    else add('modified', found.mtime > lost.mtime ? 'newer' : 'older', 1 - m, 1 - CHANCE.sameModified);
  }
  const u = share(common.sameFolder, among);
  if (lost.folder === found.folder) add('folder', 'folder of the same name', MOVED.sameFolder, u);
  else add('folder', 'other folder', 1 - MOVED.sameFolder, 1 - u);
  if (lost.kind !== found.kind) add('kind', 'other kind', 1 - MOVED.sameKind, 1 - share(common.sameKind, among));
  return out;
}

/**
 * All of one type, best first; equal ones in the order given. `sure` shares the probability among them and "none of
 * these": each original of the index is as likely as another before it is looked at.
 */
export function scored<C extends Traits>(lost: Traits, found: readonly C[], common: Commonness): Scored<C>[] {
  const before = IS_SOMEWHERE / Math.max(2, common.among);
  const list = found
    .filter((f) => f.type === lost.type)
    .map((candidate) => {
      const evidence = evidenceOf(lost, candidate, common);
      return { candidate, evidence, bits: evidence.reduce((sum, e) => sum + e.bits, 0) };
    });
  const weights = list.map(({ bits }) => before * 2 ** bits);
  const all = weights.reduce((sum, w) => sum + w, 1 - IS_SOMEWHERE);
  return list.map((one, i) => ({ ...one, sure: weights[i]! / all })).sort((a, b) => b.bits - a.bits);
}
