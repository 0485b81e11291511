/**
 * Where a file belongs: the folders it may go to, ranked by what already lies in them, each with a probability that
 * holds and the reason in facts (docs/models.md, “Where a file belongs”). Learned from the tree as it is and corrected
 * by each answer; a file that comes, goes or moves changes counts, nothing else. No I/O.
 */
import { Calibration } from './calibration.js';
import { fitWeights, probabilities, type Chosen } from './choice.js';
import { EVIDENCE, evidenceFor, FIRST_WEIGHTS, type Asked, type Evidence } from './evidence.js';
import { KnownTree, type FileFacts, type KnownFile } from './tree.js';

export type { FileFacts } from './tree.js';

/** Why a folder is suggested: what speaks most for it. */
export type Reason =
  /** So many of the files in it have the ending. */
  | { by: 'ending'; ending: string; count: number; of: number }
  /** A name in it is alike; so many begin the same way. `word`: one of the name that stands in the path as well. */
  | { by: 'alike'; name: string; beginning: string; count: number; word?: string }
  /** A file of the same name with another ending lies in it. */
  | { by: 'same-name'; name: string }
  /** A word of the name stands in the folder's name, or in one above. */
  | { by: 'path'; word: string }
  /** Something went there lately. */
  | { by: 'lately' };

export interface Suggestion<K> {
  folder: K;
  /** From 0 to 1: of suggestions with this figure such a share is right. */
  probability: number;
  reason: Reason;
}

/** What is less likely than this is not worth saying: where something belongs is not known then. */
export const WORTH_SAYING = 0.15;

/** Of a tree's files the earliest are only learned; weights are fitted on those after, the figures on the last. */
const FIT_FROM = 0.5;
const CALIBRATE_FROM = 0.75;
const QUESTIONS = 800;
/** Questions made by hiding the latest of each folder, which count less than those in the order of time. */
const HIDDEN_QUESTIONS = 1200;
const HIDDEN_WEIGHT = 0.3;
const HIDDEN_SHARE = 10;
const GONE_FOLDERS = 400;
const MOST_WEIGHT = 20;
/** Of so few files nothing is sure: what was learned from twice as many counts two thirds. */
const FEW = 10;
/** So many files that begin the same way are told rather than a word of the path. */
const CONVINCING = 3;
const NO_FOLDERS: ReadonlySet<number> = new Set();

export class Belongs<K, F> {
  private tree = new KnownTree<K, F>();
  private weights: Float64Array = FIRST_WEIGHTS;
  private calibration = new Calibration();

  /** The parent first. */
  addFolder(key: K, parent: K | undefined, name: string): void {
    this.tree.addFolder(key, parent, name);
  }

  addFile(key: F, folder: K, facts: FileFacts): void {
    this.tree.addFile(key, folder, facts);
  }

  removeFile(key: F): void {
    this.tree.removeFile(key);
  }

  moveFile(key: F, folder: K): void {
    this.tree.moveFile(key, folder);
  }

  /** Where a file lies; undefined where it is not known. */
  folderOf(key: F): K | undefined {
    return this.tree.liesIn(key);
  }

  /** Files that are known. */
  get size(): number {
    return this.tree.total;
  }

  /**
   * The likeliest folders, the best first. Cost does not grow with the files: some milliseconds among 10,000 folders.
   *
   * @param most How many.
   * @example belongs.ask({ name: 'tides-may-2026.csv', size: 4000, modified: now })
   *   // [{ folder: 'Tides', probability: 0.93, reason: { by: 'alike', name: 'tides-apr-2026.csv', … } }, …]
   */
  ask(facts: FileFacts, most = 3): Suggestion<K>[] {
    return this.rank(facts, most, NO_FOLDERS);
  }

  private rank(facts: FileFacts, most: number, except: ReadonlySet<number>): Suggestion<K>[] {
    const asked = evidenceFor(this.tree, facts, except);
    const p = probabilities(asked.choice, this.weights);
    const order = [...asked.folders.keys()].sort((a, b) => p[b]! - p[a]! || a - b).slice(0, most);
    const [first] = order;
    // the figure of the best is what was made to hold; what is left is shared out by the others as before
    const { total } = this.tree;
    const top = first === undefined ? 0 : (this.calibration.of(p[first]!) * total) / (total + FEW);
    const rest = first === undefined || p[first]! >= 1 ? 0 : (1 - top) / (1 - p[first]!);
    return order.map((i) => ({
      folder: this.tree.folders[asked.folders[i]!]!.key,
      probability: i === first ? top : Math.min(top, p[i]! * rest),
      reason: this.reasonFor(asked, i),
    }));
  }

  /**
   * The same of many files that lie together unsorted: what lies beside them in these folders says nothing, and none of
   * these folders is an answer. Cost: the files there are counted out and in again, then each question as by itself.
   */
  askAll(files: readonly FileFacts[], unsorted: readonly K[], most = 3): Suggestion<K>[][] {
    const hidden = new Hidden(this.tree);
    const folders = unsorted.flatMap((key) => this.tree.folderOf(key) ?? []);
    hidden.hide(folders.flatMap((f) => [...this.tree.folders[f]!.files]));
    try {
      return files.map((facts) => this.rank(facts, most, new Set(folders)));
    } finally {
      hidden.restore();
    }
  }

  /** A file was filed there: the figures follow. Called before it is added. */
  filed(facts: FileFacts, folder: K): void {
    const asked = evidenceFor(this.tree, facts);
    const p = probabilities(asked.choice, this.weights);
    let best = 0;
    for (let i = 1; i < asked.folders.length; i++) if (p[i]! > p[best]!) best = i;
    if (asked.folders.length === 0) return;
    this.calibration.learn(p[best]!, asked.folders[best] === this.tree.folderOf(folder));
  }

  /** What another has learned holds here as well: for the same tree, counted anew. */
  learnedFrom({ weights, calibration }: Belongs<K, F>): void {
    this.weights = weights;
    this.calibration = calibration;
  }

  /**
   * Fits the weights to this tree and the figures to how often they were right: goes through its files in the order of
   * their times, asks of some where each belongs before it is learned, and of some whose neighbours are hidden. Cost: a
   * few seconds for 50,000 files.
   */
  learn(): void {
    const known = this.tree;
    const order = [...known.files.keys()].filter((id) => known.files[id]).sort((a, b) => byTime(known, a, b));
    const past = new KnownTree<number, number>();
    for (const [id, { parent, name }] of known.folders.entries())
      past.addFolder(id, parent < 0 ? undefined : parent, name);
    const [fitFrom, calibrateFrom] = [order.length * FIT_FROM, order.length * CALIBRATE_FROM].map(Math.floor);
    const step = Math.max(1, (order.length - fitFrom!) / (2 * QUESTIONS));
    const questions: Chosen[] = [];
    let weights: Float64Array = FIRST_WEIGHTS;
    const calibration = new Calibration();
    let next = fitFrom!;
    order.forEach((id, i) => {
      const file = known.files[id]!;
      if (i === calibrateFrom) weights = fitWeights([...questions, ...hiddenQuestions(past)], FIRST_WEIGHTS);
      if (i >= next) {
        next += step;
        const asked = evidenceFor(past, file);
        const right = asked.folders.indexOf(file.folder);
        if (i < calibrateFrom!) questions.push({ choice: asked.choice, right, weight: 1 });
        else if (asked.folders.length > 0) {
          const p = probabilities(asked.choice, weights);
          let best = 0;
          for (let a = 1; a < asked.folders.length; a++) if (p[a]! > p[best]!) best = a;
          calibration.learn(p[best]!, best === right);
        }
      }
      past.addFile(id, file.folder, file);
    });
    this.weights = weights;
    this.calibration = calibration;
  }

  private reasonFor({ choice, folders, parts, nearest }: Asked, at: number): Reason {
    const { tree } = this;
    const f = folders[at]!;
    const width = EVIDENCE.length;
    const speaks = (e: Evidence) => {
      const i = EVIDENCE.indexOf(e);
      return this.weights[i]! * choice.rows[at * width + i]!;
    };
    const near = nearest.get(f);
    const count = tree.firsts.in(parts.first, f);
    const { own } = tree.folders[f]!;
    const word = parts.words.find((w) => this.standsAbove(w, f));
    const alike = speaks('alike') + speaks('several-alike') + speaks('grams') + Math.max(0, speaks('beginning'));
    const reasons: [number, Reason][] = [[0, { by: 'lately' }]];
    const withWord = word !== undefined && { word };
    if (near)
      reasons.push([
        // many of the same name convince more than a word of the path, which they are told together with
        alike + (count >= CONVINCING ? Math.max(0, speaks('path')) : 0),
        { by: 'alike', name: tree.files[near.file]!.name, beginning: parts.first, count, ...withWord },
      ]);
    if (near?.alike === 1 && tree.stems.in(parts.stem, f) > 0)
      reasons.push([alike + 1, { by: 'same-name', name: tree.files[near.file]!.name }]);
    const withEnding = tree.ownEndings.in(parts.ending, f);
    if (parts.ending !== '' && withEnding > 0)
      reasons.push([
        speaks('ending') + speaks('last-ending') + speaks('shape'),
        { by: 'ending', ending: parts.ending, count: withEnding, of: own },
      ]);
    if (word !== undefined) reasons.push([speaks('path'), { by: 'path', word }]);
    return reasons.sort((a, b) => b[0] - a[0])[0]![1];
  }

  private standsAbove(word: string, folder: number): boolean {
    for (let at = folder; at >= 0; at = this.tree.folders[at]!.parent)
      if (this.tree.pathWords.in(word, at) > 0) return true;
    return false;
  }
}

/** In the order of time; those of one time by folder, as they are unpacked or copied. */
function byTime<K, F>({ files }: KnownTree<K, F>, a: number, b: number): number {
  const [x, y]: [KnownFile, KnownFile] = [files[a]!, files[b]!];
  return x.modified - y.modified || x.folder - y.folder || (x.name < y.name ? -1 : x.name > y.name ? 1 : a - b);
}

/**
 * Questions of which the answer is known, made by hiding the latest tenth of each folder; and of files whose whole
 * folder is hidden, as many as came into new folders so far.
 */
function hiddenQuestions(tree: KnownTree<number, number>): Chosen[] {
  const byFolder = tree.folders.map(({ files }) => [...files].sort((a, b) => byTime(tree, a, b)));
  const latest = byFolder.flatMap((ids) =>
    ids.length < 2 ? [] : ids.slice(-Math.max(1, Math.round(ids.length / HIDDEN_SHARE))),
  );
  const hidden = new Hidden(tree);
  const ask = (id: number, weight: number, isNone: boolean): Chosen[] => {
    const file = hidden.of(id);
    const asked = evidenceFor(tree, file);
    const right = isNone ? -1 : asked.folders.indexOf(file.folder);
    return asked.folders.length === 0 ? [] : [{ choice: asked.choice, right, weight }];
  };
  hidden.hide(latest);
  const some = every(latest, HIDDEN_QUESTIONS).flatMap((id) => ask(id, HIDDEN_WEIGHT, false));
  hidden.restore();
  const folders = every(
    byFolder.flatMap((ids, f) => (ids.length > 0 ? [f] : [])),
    GONE_FOLDERS,
  );
  const share = newFolders(tree);
  const weight = Math.min(MOST_WEIGHT, (share * some.length) / ((1 - share) * Math.max(1, folders.length)));
  hidden.hide(folders.flatMap((f) => byFolder[f]!));
  const none = folders.flatMap((f) => ask(byFolder[f]![0]!, HIDDEN_WEIGHT * weight, true));
  hidden.restore();
  return [...some, ...none];
}

/** So many of a list, evenly spread. */
function every<T>(list: readonly T[], most: number): T[] {
  const step = Math.max(1, list.length / most);
  return Array.from({ length: Math.min(most, list.length) }, (_, i) => list[Math.floor(i * step)]!);
}

/** Files taken out of a tree for a while. */
class Hidden<K, F> {
  private readonly files = new Map<number, KnownFile>();

  constructor(private readonly tree: KnownTree<K, F>) {}

  of(id: number): KnownFile {
    return this.files.get(id)!;
  }

  hide(ids: readonly number[]): void {
    for (const id of ids) {
      const file = this.tree.files[id]!;
      this.files.set(id, file);
      this.tree.setAside(id);
    }
  }

  restore(): void {
    for (const [id, file] of this.files) this.tree.bringBack(id, file);
    this.files.clear();
  }
}

/** Of the later half of the files in time, the share that came into a folder in which none lay before their tenth. */
function newFolders(tree: KnownTree<number, number>): number {
  const order = [...tree.files.keys()].filter((id) => tree.files[id]).sort((a, b) => byTime(tree, a, b));
  const seen = new Set<number>();
  let [fresh, all] = [0, 0];
  for (let tenth = 0; tenth < 10; tenth++) {
    const part = order.slice(Math.floor((order.length * tenth) / 10), Math.floor((order.length * (tenth + 1)) / 10));
    if (tenth >= 5)
      for (const id of part) {
        all++;
        if (!seen.has(tree.files[id]!.folder)) fresh++;
      }
    for (const id of part) seen.add(tree.files[id]!.folder);
  }
  return (fresh + 1) / (all + 2);
}

/**
 * The likeliest folders for several files together: probabilities of each folder added up over the files, then shared.
 *
 * @example together([[likely('A', 0.8)], [likely('A', 0.4)]])[0].probability // 0.6
 */
export function together<K>(each: readonly (readonly Suggestion<K>[])[], most = 3): Suggestion<K>[] {
  const sums = new Map<K, Suggestion<K>>();
  for (const own of each)
    for (const { folder, probability, reason } of own) {
      const known = sums.get(folder);
      if (known) known.probability += probability;
      else sums.set(folder, { folder, probability, reason });
    }
  return [...sums.values()]
    .map((s) => ({ ...s, probability: s.probability / each.length }))
    .sort((a, b) => b.probability - a.probability)
    .slice(0, most);
}
