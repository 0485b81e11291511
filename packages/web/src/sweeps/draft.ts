/** A sweep as it is looked at: what the plan proposes, and what the person made of it. */
import { groupOf, type Grouping } from '@rellin/core/sweep';
import { compareNatural } from '@rellin/core/units';
import type {
  NewSweep,
  OriginalRef,
  SweepFolder,
  SweepMove,
  SweepPlan,
  SweepRequest,
  SweepThing,
  SweepTo,
  SweepView,
} from '@rellin/contract';
import { MAY_GO } from './words';

/** What is asked, before anything is kept. */
export type SweepDraft = NewSweep;

export const NEW_SWEEP: Omit<SweepDraft, 'folders' | 'name'> = {
  rules: [{ name: 'Filed already', when: 'duplicate', query: '', to: 'bin' }],
  recentMinutes: 10,
  linkDays: 0,
  byItself: false,
  threshold: { things: 40, size: null, days: null },
};

export function draftOf(sweep: SweepView): SweepDraft {
  const { name, folders, rules, recentMinutes, linkDays, byItself, threshold } = sweep;
  return { name, folders, rules, recentMinutes, linkDays, byItself, threshold };
}

export const keyOf = (thing: Pick<SweepThing, 'placeId' | 'id'>) => `${thing.placeId}/${thing.id}`;

/** A folder by its original, which it keeps where the next plan has it at another position. */
export type FolderKey = `${number}/${number}`;
export const folderKey = ({ placeId, originalId }: OriginalRef): FolderKey => `${placeId}/${originalId}`;

/** What the person decided otherwise: by a thing's key. */
export type Decisions = ReadonlyMap<string, FolderKey | 'bin' | 'leave'>;

export const isFixed = ({ why }: SweepThing): boolean => why.by === 'stay' && !MAY_GO.has(why.reason);

/** Where a thing goes by the plan, or by what the person decided. */
function toOf(thing: SweepThing, decided: Decided, position: ReadonlyMap<FolderKey, number>): SweepTo {
  if (isFixed(thing)) return 'stay';
  const own = decided.decisions.get(keyOf(thing));
  if (own === 'bin' || own === 'leave') return own;
  const at = own === undefined ? undefined : position.get(own);
  if (at !== undefined) return at;
  if (thing.why.by !== 'belongs' && thing.why.by !== 'unknown') return thing.to;
  const [first] = thing.suggestions;
  return first && first.probability >= decided.sure ? first.to : 'leave';
}

/** What is decided besides the plan: by hand, and from which probability on a thing goes where it belongs. */
export interface Decided {
  decisions: Decisions;
  sure: number;
}

/** Things that go to one destination. */
export interface Section {
  to: SweepTo;
  things: SweepThing[];
  size: number;
  /** Of them so many have a name that is taken there. */
  clashes: number;
}

const LAST: Partial<Record<SweepTo, number>> = { bin: 1, leave: 2, stay: 3 };

/** By destination: folders, the fullest first, then the bin, what is left, and what stays. */
export function sectionsOf(shown: readonly SweepThing[], folders: readonly SweepFolder[], decided: Decided): Section[] {
  const position = new Map(folders.map((folder, i) => [folderKey(folder), i]));
  const taken = folders.map((folder) => new Set(folder.taken));
  const sections = new Map<SweepTo, Section>();
  for (const thing of shown) {
    const to = toOf(thing, decided, position);
    const section = sections.get(to) ?? { to, things: [], size: 0, clashes: 0 };
    sections.set(to, section);
    section.things.push(thing);
    section.size += thing.size;
    if (typeof to === 'number' && taken[to]!.has(thing.name)) section.clashes++;
  }
  for (const { things } of sections.values()) things.sort((a, b) => compareNatural(a.name, b.name));
  return [...sections.values()].sort(
    (a, b) => (LAST[a.to] ?? 0) - (LAST[b.to] ?? 0) || b.things.length - a.things.length || Number(a.to) - Number(b.to),
  );
}

export interface Facet {
  by: Grouping;
  key: string;
}

export const isIn = (thing: SweepThing, facet: Facet | undefined, now: number): boolean =>
  !facet || groupOf({ ...thing, isFolder: thing.type === 'folder' }, facet.by, now) === facet.key;

const MOST_IDS = 10_000;

/** What is sent: each destination with its things, by place. */
export function requestOf(
  plan: SweepPlan,
  folders: readonly SweepFolder[],
  decided: Decided,
  options: Pick<SweepRequest, 'linkDays' | 'search' | 'clash' | 'sweepId'>,
): SweepRequest {
  const moves: SweepMove[] = [];
  for (const { to, things } of sectionsOf(plan.things, folders, decided)) {
    if (to === 'leave' || to === 'stay') continue;
    const folder: OriginalRef | undefined = typeof to === 'number' ? folders[to] : undefined;
    const byPlace = new Map<number, number[][]>();
    for (const { placeId, id } of things) {
      const lists = byPlace.get(placeId) ?? [[]];
      byPlace.set(placeId, lists);
      if (lists.at(-1)!.length === MOST_IDS) lists.push([]);
      lists.at(-1)!.push(id);
    }
    moves.push({
      to: folder ? 'folder' : 'bin',
      ...(folder && { placeId: folder.placeId, originalId: folder.originalId }),
      things: [...byPlace].flatMap(([placeId, lists]) => lists.map((ids) => ({ placeId, ids }))),
    });
  }
  return {
    folders: plan.swept.map(({ placeId, originalId }) => ({ placeId, originalId })),
    at: plan.at,
    moves,
    ...options,
  };
}
