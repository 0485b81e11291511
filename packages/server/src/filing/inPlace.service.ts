/** What is done with originals in the folder where they lie: one act, undone exactly, nothing written over. */
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { namesFor, renameSteps } from '@rellin/core/filing';
import { nameOf, parentOf, shown } from '@rellin/core/paths';
import type { OriginalNames, OriginalRef, Renamed } from '@rellin/contract';
import { absolute } from '../disk/paths.js';
import { OriginalsService } from '../originals/originals.service.js';
import { Refusal } from '../problems/refusal.js';
import type { FiledItem, SeenFile } from './diskMoves.js';
import { FilingService, refuseNoName } from './filing.service.js';
import { MoverService } from './mover.service.js';

interface Wanted {
  path: string;
  name: string;
  seen: SeenFile;
}

@Injectable()
export class InPlaceService {
  constructor(
    private readonly filing: FilingService,
    private readonly originals: OriginalsService,
    private readonly mover: MoverService,
  ) {}

  /** New names of originals; those that have theirs already are left alone. */
  async rename({ names }: OriginalNames): Promise<Renamed> {
    for (const { name } of names) refuseNoName(name, 'file');
    const byPath = new Map((await this.wanted(names)).map((w) => [w.path, w]));
    const wanted = [...byPath.values()].filter((w) => nameOf(w.path) !== w.name);
    if (wanted.length === 0) return { renamed: 0 };
    // deepest first: what lies in a folder is renamed before the folder is
    const folders = [...new Set(wanted.map((w) => parentOf(w.path)))].sort(
      (a, b) => b.split('/').length - a.split('/').length,
    );
    await this.inTurns([...folders].sort(), async () => {
      const id = randomUUID();
      const items: FiledItem[] = [];
      for (const folder of folders) {
        const there = new Set(await this.mover.run({ kind: 'names', path: folder }));
        items.push(
          ...itemsOf(
            id,
            folder,
            there,
            wanted.filter((w) => parentOf(w.path) === folder),
            items.length,
          ),
        );
      }
      const [one] = wanted;
      const what =
        wanted.length === 1 ? `“${shown(nameOf(one!.path))}” to “${shown(one!.name)}”` : `${wanted.length} originals`;
      await this.filing.perform(id, items, {
        act: 'rename-original',
        summary: `Renamed ${what}`,
        title: 'Renaming originals',
      });
    });
    return { renamed: wanted.length };
  }

  /** A copy of each beside it, under the next free name; how many. */
  async duplicate(refs: readonly OriginalRef[]): Promise<number> {
    const sources = [...new Map((await this.found(refs)).map((s) => [s.path, s])).values()];
    const folders = [...new Set(sources.map((s) => parentOf(s.path)))];
    await this.inTurns([...folders].sort(), async () => {
      const id = randomUUID();
      const items: FiledItem[] = [];
      for (const folder of folders) {
        const there = new Set(await this.mover.run({ kind: 'names', path: folder }));
        const own = sources.filter((s) => parentOf(s.path) === folder);
        const incoming = own.map((s) => ({ name: nameOf(s.path), isFolder: s.seen.isFolder }));
        const names = namesFor(incoming, there, 'keep-both');
        if (names.kind === 'names')
          for (const { index, name } of names.filed) {
            const { path, seen } = own[index]!;
            items.push({
              from: path,
              to: absolute(folder, name),
              stash: null,
              way: 'copy',
              source: { dev: seen.dev, inode: seen.inode },
              part: absolute(folder, `.rellin-part-${id.slice(0, 8)}-${items.length}`),
              digest: await this.mover.run({ kind: 'digest', path }),
            });
          }
      }
      const what = items.length === 1 ? `“${shown(nameOf(items[0]!.from!))}”` : `${items.length} originals`;
      await this.filing.perform(id, items, {
        act: 'duplicate-original',
        summary: `Duplicated ${what}`,
        title: 'Duplicating originals',
      });
    });
    return sources.length;
  }

  private async wanted(names: OriginalNames['names']): Promise<Wanted[]> {
    const found = await this.found(names);
    return found.map((f, i) => ({ ...f, name: names[i]!.name }));
  }

  /** Where they are, and what stands there now. */
  private async found(refs: readonly OriginalRef[]): Promise<Omit<Wanted, 'name'>[]> {
    const found = await this.originals.wherever(refs);
    const seen = await this.mover.run({ kind: 'probe', paths: found.map((f) => f.path) });
    return found.map(({ row, path }, i) => {
      if (row.name === '')
        throw new Refusal('not-valid', 'The top folder of a place is not changed here; its name is in Settings.');
      const now = seen[i];
      if (!now) throw new Refusal('not-found', `${shown(row.name)} is not there any more; nothing was changed.`);
      return { path, seen: now };
    });
  }

  private inTurns<T>(folders: readonly string[], work: () => Promise<T>): Promise<T> {
    const [first, ...rest] = folders;
    return first === undefined ? work() : this.filing.inTurn(first, () => this.inTurns(rest, work));
  }
}

function itemsOf(
  id: string,
  folder: string,
  there: ReadonlySet<string>,
  wanted: readonly Wanted[],
  before: number,
): FiledItem[] {
  const part = (i: number) => `.rellin-part-${id.slice(0, 8)}-${before + i}`;
  const renames = wanted.map((w) => ({ from: nameOf(w.path), to: w.name }));
  const out = renameSteps(renames, there, part);
  if (out.kind === 'clashes') {
    const taken = [...new Set(out.indexes.map((i) => renames[i]!.to))];
    const what =
      taken.length === 1
        ? `“${shown(taken[0]!)}” is`
        : `${taken.length} of the names, “${shown(taken[0]!)}” among them, are`;
    throw new Refusal('conflict', `${what} taken in “${shown(nameOf(folder)) || '/'}”; nothing was renamed.`);
  }
  return out.steps.map(({ from, to, index }, i): FiledItem => {
    const { dev, inode } = wanted[index]!.seen;
    return {
      from: absolute(folder, from),
      to: absolute(folder, to),
      stash: null,
      way: 'rename',
      source: { dev, inode },
      part: absolute(folder, `${part(i)}-step`),
    };
  });
}
