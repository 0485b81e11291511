/** Which folders are to be looked at, and which of them are left alone for a while since they do not rest. */
import type { OriginalId } from '@rellin/contract';
import { RestlessFolders } from './restless.js';

/** Folder → the names that changed in it, or all of them. */
export type Changes = Map<number, Set<string> | 'all'>;

/** More names than so many: the whole folder is looked at. */
const MOST_NAMES = 500;

/** Remembers that something changed in a folder, or that anything may have. */
export function note(changes: Changes, folderId: OriginalId, name: string | undefined): void {
  const known = changes.get(folderId);
  if (name === undefined) changes.set(folderId, 'all');
  else if (known === undefined) changes.set(folderId, new Set([name]));
  else if (known !== 'all') {
    known.add(name);
    if (known.size > MOST_NAMES) changes.set(folderId, 'all');
  }
}

/** Marks what was to be looked at before together with what is. */
export function addAll(changes: Changes, more: Changes): void {
  for (const [id, names] of more) {
    const known = changes.get(id);
    if (known === undefined || names === 'all') changes.set(id, names);
    else if (known !== 'all') for (const name of names) known.add(name);
  }
}

export class PutOffChanges {
  private readonly put: Changes = new Map();

  constructor(private readonly restless = new RestlessFolders()) {}

  /** Takes up what changed in a folder: into `changes` at once, or later; in how many milliseconds. */
  heard(changes: Changes, folderId: OriginalId, name: string | undefined): number {
    const wait = this.restless.changed(folderId);
    note(wait > 0 ? this.put : changes, folderId, name);
    return wait;
  }

  /** Adds what was left alone long enough; in how many milliseconds the next is, `undefined` where there is none. */
  takeDue(changes: Changes): number | undefined {
    let next: number | undefined;
    for (const [id, names] of this.put) {
      const left = this.restless.left(id);
      if (left > 0) next = Math.min(next ?? left, left);
      else {
        addAll(changes, new Map([[id, names]]));
        this.put.delete(id);
      }
    }
    return next;
  }

  /** Adds all of it: somebody waits for what there is. */
  takeAll(changes: Changes): void {
    addAll(changes, this.put);
    this.put.clear();
  }

  looked(changes: Changes): void {
    for (const id of changes.keys()) this.restless.looked(id);
  }

  /** Somebody wants to see a folder. */
  calm(folderId: OriginalId): void {
    this.restless.calm(folderId);
  }

  /** Folders that are looked at more rarely at present. */
  slowed(): number[] {
    return this.restless.slowed();
  }
}
