/** What is done with originals in the folder where they lie: one act, undone exactly, nothing written over. */
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { namesFor, renameSteps } from '@rellin/core/filing';
import { grouped } from '@rellin/core/lists';
import { isWithin, nameOf, parentOf, shown } from '@rellin/core/paths';
import type { OriginalNames, OriginalRef, Renamed } from '@rellin/contract';
import { absolute } from '../disk/paths.js';
import { Refusal } from '../problems/refusal.js';
import type { FiledItem, SeenFile } from './diskMoves.js';
import { FilingService, refuseNoName, type Standing } from './filing.service.js';
import { MoverService } from './mover.service.js';

interface Wanted extends Standing {
  name: string;
}

/** One name changed; a thing that steps aside first takes two. */
interface Step {
  thing: Wanted;
  from: string;
  to: string;
}

@Injectable()
export class InPlaceService {
  constructor(
    private readonly filing: FilingService,
    private readonly mover: MoverService,
  ) {}

  /** New names of originals; those that have theirs already are left alone. */
  async rename({ names }: OriginalNames): Promise<Renamed> {
    const found = (await this.filing.standing(names)).map((thing, i) => ({ ...thing, name: names[i]!.name }));
    for (const { name, seen } of found) refuseNoName(name, seen.isFolder ? 'folder' : 'file');
    const wanted = [...new Map(found.map((w) => [w.path, w])).values()].filter((w) => nameOf(w.path) !== w.name);
    if (wanted.length === 0) return { renamed: 0 };
    refuseTwins(wanted);
    const byFolder = grouped(wanted, (w) => parentOf(w.path));
    // deepest first: what lies in a folder is renamed before the folder is
    const folders = [...byFolder.keys()].sort((a, b) => b.split('/').length - a.split('/').length);
    await this.filing.inTurns(folders, async () => {
      const id = randomUUID();
      const steps: Step[] = [];
      for (const folder of folders) {
        const there = new Set(await this.mover.run({ kind: 'names', path: folder }));
        const aside = (i: number) => `.rellin-part-${id.slice(0, 8)}-${steps.length + i}`;
        steps.push(...stepsIn(folder, there, byFolder.get(folder)!, aside));
      }
      const [one] = wanted;
      const what =
        wanted.length === 1 ? `“${shown(nameOf(one!.path))}” to “${shown(one!.name)}”` : `${wanted.length} originals`;
      await this.filing.perform(id, itemsOf(steps), {
        act: 'rename-original',
        summary: `Renamed ${what}`,
        title: 'Renaming originals',
      });
    });
    return { renamed: wanted.length };
  }

  /** A copy of each beside it, under the next free name; how many. */
  async duplicate(refs: readonly OriginalRef[]): Promise<number> {
    const sources = [...new Map((await this.filing.standing(refs)).map((s) => [s.path, s])).values()];
    const byFolder = grouped(sources, (s) => parentOf(s.path));
    await this.filing.inTurns(byFolder.keys(), async () => {
      const id = randomUUID();
      const items: FiledItem[] = [];
      for (const [folder, own] of byFolder) {
        const there = new Set(await this.mover.run({ kind: 'names', path: folder }));
        const incoming = own.map((s) => ({ name: nameOf(s.path), isFolder: s.seen.isFolder }));
        for (const { index, name } of namesFor(incoming, there, 'keep-both').filed) {
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
}

const keyOf = ({ dev, inode }: SeenFile) => `${dev} ${inode}`;

/** Things on the way are told apart by their file numbers; two names of one file have the same. */
function refuseTwins(wanted: readonly Wanted[]): void {
  const first = new Map<string, Wanted>();
  for (const thing of wanted) {
    const twin = first.get(keyOf(thing.seen));
    if (twin)
      throw new Refusal(
        'conflict',
        `“${shown(nameOf(twin.path))}” and “${shown(nameOf(thing.path))}” are two names of one file; nothing was renamed.`,
        { remedy: 'Rename them one after the other.' },
      );
    first.set(keyOf(thing.seen), thing);
  }
}

function stepsIn(
  folder: string,
  there: ReadonlySet<string>,
  wanted: readonly Wanted[],
  aside: (index: number) => string,
): Step[] {
  const renames = wanted.map((w) => ({ from: nameOf(w.path), to: w.name }));
  const out = renameSteps(renames, there, aside);
  if (out.kind === 'steps')
    return out.steps.map(({ from, to, index }) => ({
      thing: wanted[index]!,
      from: absolute(folder, from),
      to: absolute(folder, to),
    }));
  const names = [...new Set(out.indexes.map((i) => renames[i]!.to))];
  const [name] = names.map((one) => `“${shown(one)}”`);
  const what = there.has(names[0]!)
    ? `The name ${name} is taken in “${shown(nameOf(folder)) || '/'}”`
    : `More than one would be called ${name}`;
  const others = names.length > 1 ? `, and ${names.length - 1} more names cannot be given` : '';
  throw new Refusal('conflict', `${what}${others}; nothing was renamed.`);
}

/** Each with the other paths that its thing takes on the way, also as a folder above it gets another name. */
function itemsOf(steps: readonly Step[]): FiledItem[] {
  const now = new Map<Wanted, string>();
  const taken = new Map(steps.map(({ thing }) => [thing, new Set<string>()]));
  const stands = (thing: Wanted, path: string) => {
    now.set(thing, path);
    taken.get(thing)!.add(path);
  };
  const isOneFolder = new Set(steps.map((step) => parentOf(step.from))).size === 1;
  for (const { thing, from, to } of steps) {
    stands(thing, from);
    stands(thing, to);
    if (thing.seen.isFolder && !isOneFolder)
      for (const [inside, path] of now)
        if (inside !== thing && isWithin(from, path)) stands(inside, to + path.slice(from.length));
  }
  return steps.map(({ thing, from, to }): FiledItem => {
    const { dev, inode } = thing.seen;
    const via = [...taken.get(thing)!].filter((path) => path !== from && path !== to);
    // nothing is ever half there: a name is given at once
    return { from, to, stash: null, way: 'rename', source: { dev, inode }, part: '', via };
  });
}
