/** The folders of a person and what lies in them, counted so that a question is answered from counts alone. */
import { fold } from '../match/index.js';
import { Counts } from './counts.js';
import { nameParts, wordsOf, type NameParts } from './nameParts.js';
import { Tally } from './tally.js';

/** What is known of a file before it is anywhere. */
export interface FileFacts {
  name: string;
  /** Bytes. */
  size: number;
  /** Epoch milliseconds. */
  modified: number;
}

export interface Folder<K> {
  key: K;
  name: string;
  parent: number;
  /** Files right in it, and with those below. */
  own: number;
  below: number;
  /** The latest change of a file right in it; -Infinity where none lies in it. */
  latest: number;
  files: Set<number>;
}

export interface KnownFile {
  folder: number;
  name: string;
  size: number;
  modified: number;
  parts: NameParts;
  grams: readonly number[];
  /** Drawn from its name: the order of files that are alike as much. */
  lot: number;
}

const MOST_RECENT = 40;

/** In powers of four: a scan is a scan whether it takes one megabyte or two. */
export const sizeClass = (bytes: number) => Math.round(Math.log2(bytes + 1) / 2);
export const lastEnding = (ending: string) => ending.slice(ending.lastIndexOf('.') + 1);

/** FNV-1a, 32 bits (from memory). */
function lotOf(name: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < name.length; i++) hash = Math.imul(hash ^ name.charCodeAt(i), 0x01000193);
  return hash >>> 0;
}

/** `K` names a folder, `F` a file, for whoever asks. */
export class KnownTree<K, F> {
  readonly folders: Folder<K>[] = [];
  readonly files: (KnownFile | undefined)[] = [];
  /** By these a folder and all above it are counted, the others by the folder alone. */
  readonly endings = new Counts<string>();
  readonly lastEndings = new Counts<string>();
  readonly shapes = new Counts<string>();
  readonly ownEndings = new Counts<string>();
  readonly firsts = new Counts<string>();
  readonly stems = new Counts<string>();
  /** Whole names: a folder has each once. */
  readonly names = new Counts<string>();
  readonly sizes = new Counts<number>();
  readonly grams = new Counts<number>();
  /** Folders with a word in their name. */
  readonly pathWords = new Counts<string>();
  /** Files with a 3-gram; some of them may be gone. */
  readonly filesWith: number[][] = [];
  /** For one question at a time. */
  readonly folderTally = new Tally();
  readonly fileTally = new Tally();
  total = 0;
  private readonly gramIds = new Map<string, number>();
  private readonly folderIds = new Map<K, number>();
  private readonly fileIds = new Map<F, number>();
  private recent: number[] | undefined;
  private gone = 0;

  folderOf(key: K): number | undefined {
    return this.folderIds.get(key);
  }

  /** The folder of a file, as whoever asks names it. */
  liesIn(key: F): K | undefined {
    const id = this.fileIds.get(key);
    const file = id === undefined ? undefined : this.files[id];
    return file && this.folders[file.folder]!.key;
  }

  /** The parent first; a folder that is known already stays as it is. */
  addFolder(key: K, parent: K | undefined, name: string): void {
    if (this.folderIds.has(key)) return;
    const id = this.folders.length;
    const above = parent === undefined ? -1 : (this.folderIds.get(parent) ?? -1);
    this.folders.push({ key, name, parent: above, own: 0, below: 0, latest: -Infinity, files: new Set() });
    this.folderIds.set(key, id);
    for (const word of wordsOf(fold(name))) this.pathWords.add(word, id, 1);
  }

  addFile(key: F, folder: K, { name, size, modified }: FileFacts): void {
    const at = this.folderIds.get(folder);
    if (at === undefined || this.fileIds.has(key)) return;
    const parts = nameParts(name);
    const id = this.files.length;
    const grams = parts.grams.map((gram) => this.gramId(gram));
    const file: KnownFile = { folder: at, name, size, modified, parts, grams, lot: lotOf(name) };
    this.files.push(file);
    this.fileIds.set(key, id);
    for (const gram of grams) this.filesWith[gram]!.push(id);
    this.count(id, file, 1);
  }

  removeFile(key: F): void {
    const id = this.fileIds.get(key);
    const file = id === undefined ? undefined : this.files[id];
    if (id === undefined || !file) return;
    this.fileIds.delete(key);
    this.count(id, file, -1);
    this.files[id] = undefined;
    // their numbers stay in the lists of 3-grams until there are too many
    if (++this.gone * 2 > this.files.length) this.forgetGone();
  }

  moveFile(key: F, folder: K): void {
    const id = this.fileIds.get(key);
    const file = id === undefined ? undefined : this.files[id];
    const to = this.folderIds.get(folder);
    if (id === undefined || !file || to === undefined) return;
    this.count(id, file, -1);
    file.folder = to;
    this.count(id, file, 1);
  }

  /** Out of all counts for a while; by its own number. */
  setAside(id: number): void {
    this.count(id, this.files[id]!, -1);
    this.files[id] = undefined;
  }

  bringBack(id: number, file: KnownFile): void {
    this.files[id] = file;
    this.count(id, file, 1);
  }

  /** Of the 3-grams that any file has. */
  knownGrams(grams: readonly string[]): number[] {
    return grams.flatMap((gram) => this.gramIds.get(gram) ?? []);
  }

  /** Folders in which something changed last, the latest first. */
  recentFolders(): readonly number[] {
    return (this.recent ??= [...this.folders.keys()]
      .filter((f) => this.folders[f]!.own > 0)
      .sort((a, b) => this.folders[b]!.latest - this.folders[a]!.latest || a - b)
      .slice(0, MOST_RECENT));
  }

  private gramId(gram: string): number {
    let id = this.gramIds.get(gram);
    if (id === undefined) {
      id = this.gramIds.size;
      this.gramIds.set(gram, id);
      this.filesWith.push([]);
    }
    return id;
  }

  private count(id: number, { folder, name, size, modified, parts, grams }: KnownFile, by: 1 | -1): void {
    const own = this.folders[folder]!;
    own.own += by;
    this.total += by;
    if (by === 1) own.files.add(id);
    else own.files.delete(id);
    this.changed(folder, modified, by);
    for (const gram of grams) this.grams.add(gram, folder, by);
    this.ownEndings.add(parts.ending, folder, by);
    this.firsts.add(parts.first, folder, by);
    this.stems.add(parts.stem, folder, by);
    this.names.add(name, folder, by);
    this.sizes.add(sizeClass(size), folder, by);
    for (let at = folder; at >= 0; at = this.folders[at]!.parent) {
      this.folders[at]!.below += by;
      this.endings.add(parts.ending, at, by);
      this.lastEndings.add(lastEnding(parts.ending), at, by);
      this.shapes.add(parts.shape, at, by);
    }
  }

  private changed(folder: number, modified: number, by: 1 | -1): void {
    const own = this.folders[folder]!;
    if (by === -1) {
      if (modified < own.latest) return;
      own.latest = -Infinity;
      for (const id of own.files) own.latest = Math.max(own.latest, this.files[id]!.modified);
      this.recent = undefined;
      return;
    }
    if (modified < own.latest) return;
    own.latest = modified;
    if (!this.recent) return;
    const list = this.recent.filter((f) => f !== folder);
    const before = list.findIndex((f) => this.folders[f]!.latest < modified);
    list.splice(before < 0 ? list.length : before, 0, folder);
    this.recent = list.slice(0, MOST_RECENT);
  }

  private forgetGone(): void {
    for (const [gram, list] of this.filesWith.entries())
      this.filesWith[gram] = list.filter((id) => this.files[id] !== undefined);
    this.gone = 0;
  }
}
