/** What speaks for each folder that a file may belong in, as numbers of about the same size. */
import { lastEnding, sizeClass, type FileFacts, type KnownTree } from './tree.js';
import type { Choice } from './choice.js';
import type { Tally } from './tally.js';
import { nameParts, type NameParts } from './nameParts.js';

/** What a number of evidence is; the order is that of the weights. */
export const EVIDENCE = [
  'ending',
  'last-ending',
  'shape',
  'grams',
  'alike',
  'several-alike',
  'path',
  'size-of-folder',
  'lately',
  'beginning',
  'same-name',
  'size',
  'share-of-beginning',
  'name-is-free',
] as const;
export type Evidence = (typeof EVIDENCE)[number];
const WIDTH = EVIDENCE.length;
/** What speaks for none of the known folders. */
const NONE = 6;

/** Where the weights begin: fitted on trees of our own. */
export const FIRST_WEIGHTS = Float64Array.from([
  ...[0.5, 0, 0.3, 1.2, 0.8, 0.3, 2.5, 1, 3, 0.8, -1, 0.5, 0.3, 0],
  ...[3, 1.2, 1, 0.3, 0.3, -0.5],
]);

export interface Asked {
  choice: Choice;
  /** The folders that the answers stand for. */
  folders: number[];
  parts: NameParts;
  /** The name most alike in each folder, with how much. */
  nearest: Map<number, { alike: number; sum: number; file: number }>;
}

/** Of the files that share most 3-grams so many are compared. */
const MOST_COMPARED = 40;
/** So many entries of lists of files are gone through for that. */
const BUDGET = 3000;
/** A 3-gram that stands in more folders tells little. */
const COMMON = 2000;
const BEST_BY_GRAMS = 30;
const BEST_BY_WORDS = 12;
const BEST_BY_ENDING = 10;
const BEST_LATELY = 15;
/** Of files of exactly the same name so many are compared: there are names that hundreds of folders have. */
const SAME_NAMES = 8;
const DAY = 86_400_000;
const NO_FOLDERS: ReadonlySet<number> = new Set();
/** Log-odds beyond this say no more: they would outweigh all else. */
const MOST_SAID = 14;

/**
 * The log-odds of something in a folder against the whole tree, each folder's share drawn towards that of the folder
 * above (Dirichlet smoothing, MacKay and Peto 1995, from memory), so that a small folder borrows from above. 0 for what
 * was never seen anywhere.
 */
function logOdds<K>(
  tree: KnownTree<K, unknown>,
  seen: ReadonlyMap<number, number> | undefined,
  way: readonly number[],
  weight: number,
): number {
  const root = way[way.length - 1]!;
  const whole = seen?.get(root) ?? 0;
  if (whole === 0) return 0;
  const base = (whole + 0.5) / (tree.folders[root]!.below + 1);
  let share = base;
  for (let i = way.length - 2; i >= 0; i--) {
    const at = way[i]!;
    share = ((seen!.get(at) ?? 0) + weight * share) / (tree.folders[at]!.below + weight);
  }
  return Math.max(-MOST_SAID, Math.log(share / base));
}

/** A folder and those above it. */
function wayUp<K>(tree: KnownTree<K, unknown>, folder: number): number[] {
  const way: number[] = [];
  for (let at = folder; at >= 0; at = tree.folders[at]!.parent) way.push(at);
  return way;
}

/** The greatest so many, without sorting all: of most there are few. */
function best(of: Iterable<readonly [number, number]>, most: number): [number, number][] {
  const out: [number, number][] = [];
  for (const [folder, value] of of) {
    const last = out[most - 1];
    if (last && (value < last[1] || (value === last[1] && folder > last[0]))) continue;
    let at = out.length;
    while (at > 0 && (out[at - 1]![1] < value || (out[at - 1]![1] === value && out[at - 1]![0] > folder))) at--;
    out.splice(at, 0, [folder, value]);
    if (out.length > most) out.pop();
  }
  return out;
}

/** Cost: the lists of the name's 3-grams up to a budget, then some hundred folders; not the number of files. */
export function evidenceFor<K, F>(
  tree: KnownTree<K, F>,
  facts: FileFacts,
  except: ReadonlySet<number> = NO_FOLDERS,
): Asked {
  const parts = nameParts(facts.name);
  const grams = tree.knownGrams(parts.grams);
  const [byGrams, most] = gramScores(tree, grams);
  const nearest = nearestNames(tree, grams, parts.grams.length, facts.name);
  const byWords = wordScores(tree, parts);
  const stems = tree.stems.of(parts.stem) ?? new Map<number, number>();
  const firsts = tree.firsts.of(parts.first) ?? new Map<number, number>();
  const candidates = new Set<number>(nearest.keys());
  const add = (list: readonly (readonly [number, number])[]) => {
    for (const [folder] of list) candidates.add(folder);
  };
  add(best(byGrams, BEST_BY_GRAMS));
  add(best(stems, BEST_BY_WORDS));
  // where a name is common, folders that have its like but not itself
  const taken = tree.names.of(facts.name);
  if (taken) add(best(without(stems, taken), BEST_BY_WORDS));
  add(best(firsts, BEST_BY_WORDS));
  add(best(byWords, BEST_BY_WORDS));
  add(best(tree.ownEndings.of(parts.ending) ?? [], BEST_BY_ENDING));
  for (const folder of tree.recentFolders().slice(0, BEST_LATELY)) candidates.add(folder);

  const folders = [...candidates]
    .filter((f) => !except.has(f) && (tree.folders[f]!.own > 0 || byWords.has(f)))
    .sort((a, b) => a - b);
  const endings = tree.endings.of(parts.ending);
  const lastEndings = tree.lastEndings.of(lastEnding(parts.ending));
  const shapes = tree.shapes.of(parts.shape);
  const sizes = tree.sizes.of(sizeClass(facts.size));
  const rows = new Float64Array(folders.length * WIDTH);
  folders.forEach((f, i) => {
    const folder = tree.folders[f]!;
    const way = wayUp(tree, f);
    const near = nearest.get(f);
    const first = firsts.get(f) ?? 0;
    const sameSize = sizes?.get(f) ?? 0;
    const days = Math.abs(facts.modified - folder.latest) / DAY;
    rows.set(
      [
        logOdds(tree, endings, way, 2),
        logOdds(tree, lastEndings, way, 2),
        logOdds(tree, shapes, way, 3),
        most > 0 ? Math.sqrt((byGrams.get(f) ?? 0) / most) : 0,
        near?.alike ?? 0,
        Math.log1p(near?.sum ?? 0),
        Math.min(3, alongPath(byWords, way) / 5),
        Math.log1p(folder.own) / 3,
        folder.own > 0 ? -Math.min(1.5, Math.log1p(days) / 5) : -1.5,
        Math.log1p(first),
        Math.log1p(stems.get(f) ?? 0),
        Math.log((sameSize + 0.3) / (folder.own + 3)),
        folder.own > 0 ? first / folder.own : 0,
        taken?.has(f) ? 0 : 1,
      ],
      i * WIDTH,
    );
  });
  return { choice: { rows, none: noneOf(rows, folders.length), answers: folders.length }, folders, parts, nearest };
}

/** The best there is of what speaks most: where that is little, a new folder is likely. */
function noneOf(rows: Float64Array, answers: number): Float64Array {
  const none = new Float64Array(NONE);
  none[0] = 1;
  const max = (at: number, column: Evidence, by = 1) => {
    const c = EVIDENCE.indexOf(column);
    for (let a = 0; a < answers; a++) none[at] = Math.max(none[at]!, rows[a * WIDTH + c]! / by);
  };
  max(1, 'alike');
  max(2, 'grams');
  max(3, 'ending', 5);
  max(4, 'path');
  max(5, 'beginning');
  return none;
}

/** 3-grams weighed by how few folders have them (inverse document frequency), and what all of them come to. */
function gramScores<K, F>(tree: KnownTree<K, F>, grams: readonly number[]): [Map<number, number>, number] {
  const scores = tree.folderTally.cleared(tree.folders.length);
  let most = 0;
  for (const gram of grams) {
    const folders = tree.grams.of(gram);
    if (!folders) continue;
    const rare = Math.log((tree.folders.length + 1) / (folders.size + 0.5)) ** 2;
    most += rare;
    if (folders.size > COMMON) continue;
    for (const [folder, count] of folders)
      scores.add(folder, rare * Math.min(1, (4 * count) / Math.max(1, tree.folders[folder]!.own)));
  }
  return [scores.asMap(), most];
}

/** Counts of folders but those that others name. */
function* without(
  counts: ReadonlyMap<number, number>,
  others: ReadonlyMap<number, number>,
): Iterable<readonly [number, number]> {
  for (const one of counts) if (!others.has(one[0])) yield one;
}

/** In each folder the name most alike, by the share of common 3-grams (Jaccard), and the sum of its cubes. */
function nearestNames<K, F>(
  tree: KnownTree<K, F>,
  grams: readonly number[],
  length: number,
  name: string,
): Asked['nearest'] {
  const shared = tree.fileTally.cleared(tree.files.length);
  let budget = BUDGET;
  for (const gram of [...grams].sort((a, b) => tree.filesWith[a]!.length - tree.filesWith[b]!.length)) {
    const list = tree.filesWith[gram]!;
    if (list.length > budget && shared.touched.length > 0) break;
    budget -= list.length;
    for (const id of list) shared.add(id, 1);
  }
  const known = new Set(grams);
  const out: Asked['nearest'] = new Map();
  for (const id of mostShared(tree, shared, name)) {
    const file = tree.files[id]!;
    let common = 0;
    for (const gram of file.grams) if (known.has(gram)) common++;
    const alike = common / (length + file.grams.length - common);
    const now = out.get(file.folder);
    if (!now) out.set(file.folder, { alike, sum: alike ** 3, file: id });
    else {
      now.sum += alike ** 3;
      if (alike > now.alike) Object.assign(now, { alike, file: id });
    }
  }
  return out;
}

/** Without most of those of exactly this name. */
function fewOfName<K, F>(tree: KnownTree<K, F>, all: readonly number[], name: string): number[] {
  const [same, others]: [number[], number[]] = [[], []];
  for (const id of all) (tree.files[id]!.name === name ? same : others).push(id);
  return [...others, ...firstOf(same, SAME_NAMES, (x, y) => byName(tree, x, y))];
}

/** The files to compare: those that share most, found by counting how many share so much, without sorting all. */
function mostShared<K, F>(tree: KnownTree<K, F>, shared: Tally, name: string): number[] {
  const all = shared.touched.filter((id) => tree.files[id] !== undefined);
  const there = (tree.names.of(name)?.size ?? 0) > SAME_NAMES ? fewOfName(tree, all, name) : all;
  const counts: number[] = [];
  for (const id of there) counts[shared.of(id)] = (counts[shared.of(id)] ?? 0) + 1;
  let least = counts.length;
  for (let n = 0; least > 1 && n < MOST_COMPARED;) n += counts[--least] ?? 0;
  // of those that share just as much as the last many are left out
  const above = there.filter((id) => shared.of(id) > least);
  const level = there.filter((id) => shared.of(id) === least);
  return [...above, ...firstOf(level, MOST_COMPARED - above.length, (x, y) => byName(tree, x, y))];
}

/** The first so many of a list in an order, without sorting all of it. */
function firstOf(list: readonly number[], most: number, compare: (a: number, b: number) => number): number[] {
  const out: number[] = [];
  for (const one of list) {
    if (out.length >= most && compare(one, out[most - 1]!) >= 0) continue;
    let at = out.length;
    while (at > 0 && compare(one, out[at - 1]!) < 0) at--;
    out.splice(at, 0, one);
    if (out.length > most) out.pop();
  }
  return out;
}

/** By what they are, so that the order in which files were learned changes nothing. */
function byName<K, F>(tree: KnownTree<K, F>, a: number, b: number): number {
  const [x, y] = [tree.files[a]!, tree.files[b]!];
  return x.lot - y.lot || x.folder - y.folder || (x.name < y.name ? -1 : x.name > y.name ? 1 : a - b);
}

/** Words of the name that stand in folders' names, the rare ones more. */
function wordScores<K, F>(tree: KnownTree<K, F>, parts: NameParts): Map<number, number> {
  const scores = new Map<number, number>();
  for (const word of parts.words) {
    const folders = tree.pathWords.of(word);
    if (!folders || folders.size > COMMON / 4) continue;
    const rare = Math.log((tree.folders.length + 1) / (folders.size + 0.5));
    for (const folder of folders.keys()) scores.set(folder, (scores.get(folder) ?? 0) + rare);
  }
  return scores;
}

/** Of the folder and those above it, which count less the farther up they are. */
function alongPath(scores: ReadonlyMap<number, number>, way: readonly number[]): number {
  if (scores.size === 0) return 0;
  return way.reduce((sum, at, up) => sum + (scores.get(at) ?? 0) / (1 + up / 2), 0);
}
