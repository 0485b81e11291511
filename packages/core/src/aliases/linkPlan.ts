/**
 * What is to be done so that the links on disk are those that are wanted. Nothing that was not written by us is ever
 * written over or removed: a link counts as ours where it stands as it was recorded, or as it was about to be when the
 * work was cut short. What a person did to a link on disk is told, not undone.
 */
import { grouped } from '../lists/index.js';
import { nameOf, parentOf } from '../paths/index.js';
import type { LinkForm } from './names.js';

/** A link that should be there. */
export interface WantedLink {
  key: string;
  /**
   * The folder it lies in: an absolute path, with the inode that the index knows it by; or the key of a wanted folder,
   * which comes before it.
   */
  in: { path: string; inode?: number } | { key: string };
  name: string;
  form: LinkForm;
  /** Where a link leads, given the folder it lies in; the text of a desktop entry; nothing for a folder. */
  content(folder: string): string;
  /** Whether a link with other content in that folder leads to the same. */
  leads(folder: string, content: string): boolean;
  /** What a person's own link held that stands for it from now on; null for one that we make. */
  before: string | null;
}

/** How a link stands, or is about to. */
export interface Settled {
  path: string;
  content: string;
}

export interface WrittenLink {
  key: string;
  form: LinkForm;
  /** The name that was wanted when it was last written; on disk it may be another, where that was taken. */
  name: string;
  /** As it was left; null before it was first written. */
  now: Settled | null;
  /** As it was about to be, where that was not recorded as done. */
  next: Settled | null;
  /** Of the link itself; null before it was first written. */
  inode: number | null;
  /** A person put it there, and it stands for a wanted one: it is never changed or removed. */
  foreign: boolean;
  /** What it held before it was taken over from a person, who gets it back so; null for one that we made. */
  before: string | null;
}

export interface SeenEntry {
  name: string;
  form: LinkForm | 'other';
  content: string;
  inode: number;
}

/** What a folder holds, and which folder that is: another may stand under its name meanwhile. */
export interface Listing {
  inode: number;
  entries: readonly SeenEntry[];
}

export type LinkStep =
  | { do: 'make'; key: string; form: LinkForm; name: string; to: Settled }
  /** A person's link stands for it from now on: it is recorded, and brought in step by the next plan. */
  | { do: 'adopt'; key: string; form: LinkForm; name: string; at: Settled; inode: number }
  /** Another name, another content, or both; `from` is what stands there. */
  | { do: 'change'; key: string; form: LinkForm; name: string; from: Settled; to: Settled }
  /** It stands as it should; only the record is behind. */
  | { do: 'note'; key: string; form: LinkForm; name: string; to: Settled; inode: number }
  | { do: 'remove'; key: string; form: LinkForm; from: Settled }
  /** The old link beside the new one, left there where the work was cut short. */
  | { do: 'clear'; key: string; form: LinkForm; from: Settled }
  /** It is the person's again, as it was. */
  | { do: 'release'; key: string; form: LinkForm; from: Settled; to: Settled }
  /** There is nothing of ours any more. */
  | { do: 'forget'; key: string };

export interface LinkPlan {
  /** In the order to be done. */
  steps: LinkStep[];
  /** Wanted links that a person deleted on disk, or put something else in the place of. */
  deleted: Deleted[];
  /**
   * Wanted links that are made anew since they are missing, and that may turn up elsewhere: made too soon, there are
   * two.
   */
  remade: Deleted[];
  /** Keys of wanted links that are not where they were recorded: deleted, moved, or in a folder that moved. */
  missing: string[];
  /** What lies in a wanted folder and is not ours: links that a person put there. */
  dropped: { folderKey: string; path: string; entry: SeenEntry }[];
  /** Wanted links whose folder is not to be seen now. */
  waiting: string[];
  /** Folders that must be listed first: while there are any, nothing else of the plan counts. */
  unseen: string[];
}

export interface Deleted {
  key: string;
  /** The folder that it was missing from: only if it still is when that same folder is looked at again is it gone. */
  folderInode: number;
}

/** More links than that, and more than half of a folder's, are not taken away by a person in one moment. */
const MOST_DELETED = 3;

const below = (folder: string, name: string) => (folder === '/' ? `/${name}` : `${folder}/${name}`);

/** A name beside others that are alike. */
function numbered(name: string, n: number): string {
  const dot = name.lastIndexOf('.');
  return dot > 0 ? `${name.slice(0, dot)} (${n})${name.slice(dot)}` : `${name} (${n})`;
}

/** Whether a file's name is one that was wanted, numbered or not. */
function isNameOf(file: string, name: string): boolean {
  const n = Number(/ \((\d+)\)(?:\.[^.]*)?$/.exec(file)?.[1] ?? 0);
  return file === name || (n > 1 && file === numbered(name, n));
}

/**
 * `list` tells what lies in a folder, by its absolute path: null where it cannot be seen, as while its place is away,
 * undefined where nobody looked yet, which the plan then asks for. Cost: linear in what is wanted, recorded and seen.
 */
export function planLinks(
  wanted: readonly WantedLink[],
  recorded: readonly WrittenLink[],
  list: (folder: string) => Listing | null | undefined,
): LinkPlan {
  const plan: LinkPlan = { steps: [], deleted: [], remade: [], missing: [], dropped: [], waiting: [], unseen: [] };
  const written = recorded.map((w) => ({ ...w }));
  const records = new Map(written.map((w) => [w.key, w]));
  const asked = new Set(wanted.map((w) => w.key));
  const seenIn = new Map<string, Map<string, SeenEntry>>();
  /** Which folder stands under a path. */
  const inodeAt = new Map<string, number>();
  const unseen = new Set<string>();
  const listing = (folder: string): Map<string, SeenEntry> | undefined => {
    const known = seenIn.get(folder);
    if (known) return known;
    const listing = list(folder);
    if (listing === undefined) unseen.add(folder);
    if (!listing) return undefined;
    const map = new Map(listing.entries.map((e) => [e.name, e]));
    seenIn.set(folder, map);
    inodeAt.set(folder, listing.inode);
    return map;
  };
  const byInode = new Map<string, Map<number, SeenEntry[]>>();
  const withInode = (folder: string, inode: number): readonly SeenEntry[] => {
    let entries = byInode.get(folder);
    if (!entries) {
      entries = grouped(listing(folder)?.values() ?? [], (e) => e.inode);
      byInode.set(folder, entries);
    }
    return entries.get(inode) ?? [];
  };
  const known = new Set(written.map((w) => w.inode));
  const holdsOnlyOurs = (folder: string): boolean =>
    [...(listing(folder)?.values() ?? [])].every((entry) =>
      written.some((w) =>
        [w.next, w.now].some(
          (at) =>
            at?.path === below(folder, entry.name) &&
            entry.form === w.form &&
            (w.form === 'folder' || entry.content === at.content),
        ),
      ),
    );
  /** What stands where a record says, if it is as we left it or were about to leave it. */
  const ours = (record: WrittenLink): { at: Settled; inode: number } | undefined => {
    for (const at of [record.next, record.now]) {
      const entry = at && listing(parentOf(at.path))?.get(nameOf(at.path));
      if (!entry || entry.form !== record.form || (record.form !== 'folder' && entry.content !== at.content)) continue;
      // a folder has no content to tell it by: one whose making was cut short holds only what is ours
      if (record.form === 'folder')
        if (record.inode === null ? known.has(entry.inode) || !holdsOnlyOurs(at.path) : entry.inode !== record.inode)
          continue;
      return { at, inode: entry.inode };
    }
    return undefined;
  };
  /** The old link, where the new one stands beside it already. */
  const leftOver = ({ form, now, next }: WrittenLink, there: Settled): Settled | undefined => {
    if (form === 'folder' || !now || !next || there !== next || now.path === next.path) return undefined;
    const entry = listing(parentOf(now.path))?.get(nameOf(now.path));
    return entry?.form === form && entry.content === now.content ? now : undefined;
  };
  /** A folder stands elsewhere than recorded: so does what is recorded to lie in it. */
  const relocate = (from: string, to: string): void => {
    const under = (at: Settled | null) =>
      at?.path.startsWith(`${from}/`) ? { ...at, path: to + at.path.slice(from.length) } : at;
    for (const w of written) {
      w.now = under(w.now);
      w.next = under(w.next);
    }
  };
  for (const record of written.filter((w) => w.form === 'folder' && w.now && w.next)) {
    const there = ours(record);
    if (there && there.at.path !== record.now!.path) relocate(record.now!.path, there.at.path);
  }
  const mine = new Set<string>();
  for (const record of written) {
    const there = ours(record);
    if (!there) continue;
    mine.add(there.at.path);
    const old = leftOver(record, there.at);
    if (!old) continue;
    plan.steps.push({ do: 'clear', key: record.key, form: record.form, from: old });
    listing(parentOf(old.path))!.delete(nameOf(old.path));
  }

  // what is wanted no more goes first: its name is free again; folders go last, when all that leaves them has left
  const emptied: Extract<LinkStep, { do: 'remove' }>[] = [];
  const gone = written.filter((w) => !asked.has(w.key));
  const longest = (w: WrittenLink) => (w.now ?? w.next)!.path.length;
  for (const record of gone.sort((a, b) => longest(b) - longest(a))) {
    const there = ours(record);
    const { key, form } = record;
    if (there && record.before !== null)
      plan.steps.push({ do: 'release', key, form, from: there.at, to: { ...there.at, content: record.before } });
    else if (there && form === 'folder') emptied.push({ do: 'remove', key, form, from: there.at });
    else if (there && !record.foreign) {
      plan.steps.push({ do: 'remove', key, form, from: there.at });
      listing(parentOf(there.at.path))!.delete(nameOf(there.at.path));
    } else if (there || [record.next, record.now].every((at) => !at || listing(parentOf(at.path))))
      plan.steps.push({ do: 'forget', key });
  }

  const asIs = (record: WrittenLink, e: SeenEntry) =>
    e.form === record.form && (e.form === 'folder' || e.content === record.now?.content);
  /** Under another name in the folder: a person renamed it. */
  const renamedIn = (folder: string, record: WrittenLink): SeenEntry | undefined =>
    record.inode === null ? undefined : withInode(folder, record.inode).find((e) => asIs(record, e));
  let inFolder: Map<string, WrittenLink[]> | undefined;
  const emptiedAtOnce = new Map<string, boolean>();
  /** Whether most links of a folder went at once: a folder was exchanged, a copy was cut short; no person did that. */
  const wentAtOnce = (folder: string): boolean => {
    let is = emptiedAtOnce.get(folder);
    if (is === undefined) {
      inFolder ??= grouped(
        written.filter((w) => w.now && w.form !== 'folder' && asked.has(w.key)),
        (w) => parentOf(w.now!.path),
      );
      const all = inFolder.get(folder) ?? [];
      const gone = all.filter((w) => !ours(w) && !renamedIn(folder, w)).length;
      is = gone > MOST_DELETED && gone * 2 > all.length;
      emptiedAtOnce.set(folder, is);
    }
    return is;
  };

  const pathOf = new Map<string, string>();
  /** Folders that get another name: what lies in them goes along. The latest first, so that the deepest counts. */
  const carried: { from: string; to: string }[] = [];
  const carriedTo = (path: string): string => {
    const c = carried.find(({ from }) => path.startsWith(`${from}/`));
    return c ? c.to + path.slice(c.from.length) : path;
  };
  const carriedBack = (path: string): string => {
    const c = carried.find(({ to }) => path.startsWith(`${to}/`));
    return c ? c.from + path.slice(c.to.length) : path;
  };
  const taken = new Map<string, Set<string>>();
  const takenIn = (folder: string): Set<string> => {
    let names = taken.get(folder);
    if (!names) {
      // case is not told apart on every file system
      names = new Set([...(listing(folder)?.keys() ?? [])].map((n) => n.toLowerCase()));
      taken.set(folder, names);
    }
    return names;
  };
  const freeName = (folder: string, name: string): string => {
    const names = takenIn(folder);
    let free = name;
    for (let n = 2; names.has(free.toLowerCase()); n++) free = numbered(name, n);
    names.add(free.toLowerCase());
    return free;
  };

  for (const want of wanted) {
    const { key, form, name } = want;
    const folder = 'path' in want.in ? want.in.path : pathOf.get(want.in.key);
    const seen = folder === undefined ? undefined : listing(folder);
    if (folder === undefined || !seen) {
      plan.waiting.push(key);
      continue;
    }
    const content = want.content(folder);
    const settle = (path: string) => pathOf.set(key, path);
    const make = () => {
      const path = below(folder, freeName(folder, name));
      plan.steps.push({ do: 'make', key, form, name, to: { path, content } });
      if (form === 'folder') seenIn.set(path, new Map<string, SeenEntry>());
      settle(path);
    };
    /** Whether the folder is the one that the link was put into. */
    const isItsFolder = () => {
      const its = 'key' in want.in ? records.get(want.in.key)?.inode : want.in.inode;
      return its == null || !inodeAt.has(folder) || inodeAt.get(folder) === its;
    };
    const record = records.get(key);
    let there = record && ours(record);
    if (record && !there) {
      const renamed = renamedIn(folder, record);
      if (renamed) {
        there = { at: { path: below(folder, renamed.name), content: renamed.content }, inode: renamed.inode };
        mine.add(there.at.path);
        record.name = name;
        if (form === 'folder' && record.now) relocate(record.now.path, there.at.path);
      }
    }
    // a record may be ahead of the disk: what was about to lie in a renamed folder lies in it under its old name still
    if (there) there = { ...there, at: { ...there.at, path: carriedBack(there.at.path) } };
    if (record?.foreign && there) {
      mine.add(there.at.path);
      if (want.leads(folder, there.at.content)) {
        settle(there.at.path);
        continue;
      }
      // it leads elsewhere now: one of ours is put beside it
      plan.steps.push({ do: 'forget', key });
      there = undefined;
    } else if (record && there) {
      const from = { path: carriedTo(there.at.path), content: there.at.content };
      mine.add(from.path);
      const stays = parentOf(from.path) === folder && (record.name === name || isNameOf(nameOf(from.path), name));
      const path = stays ? from.path : below(folder, freeName(folder, name));
      const to = { path, content };
      const is = from.path === path && (form === 'folder' || from.content === content);
      if (!is) plan.steps.push({ do: 'change', key, form, name, from, to });
      else if (record.next || record.now?.path !== path || record.inode !== there.inode || record.name !== name)
        plan.steps.push({ do: 'note', key, form, name, to, inode: there.inode });
      if (form === 'folder' && path !== there.at.path) {
        carried.unshift({ from: there.at.path, to: path });
        const inside = listing(there.at.path);
        if (inside) seenIn.set(path, inside);
        inodeAt.set(path, there.inode);
      }
      settle(path);
      continue;
    } else if (record?.now) {
      plan.missing.push(key);
      if (!isItsFolder()) {
        // another folder stands where the link's was: that one is found by the index before long
        plan.waiting.push(key);
        continue;
      }
      if (parentOf(record.now.path) === folder && inodeAt.has(folder) && !(form !== 'folder' && wentAtOnce(folder))) {
        // it was there, and its folder is; a person took it away
        plan.deleted.push({ key, folderInode: inodeAt.get(folder) ?? 0 });
        plan.steps.push({ do: 'forget', key });
        // with a folder goes what lay in it: that was not taken away one by one
        if (form === 'folder')
          for (const other of written)
            if (other.now?.path.startsWith(`${record.now.path}/`)) plan.steps.push({ do: 'forget', key: other.key });
        continue;
      }
      plan.remade.push({ key, folderInode: inodeAt.get(folder) ?? 0 });
    }
    const theirs = seen.get(name);
    if (want.before !== null && theirs?.form === form && theirs.content === want.before) {
      const at = { path: below(folder, name), content: theirs.content };
      plan.steps.push({ do: 'adopt', key, form, name, at, inode: theirs.inode });
      mine.add(at.path);
      settle(at.path);
      continue;
    }
    make();
  }

  for (const step of emptied) plan.steps.push({ ...step, from: { ...step.from, path: carriedTo(step.from.path) } });

  for (const want of wanted) {
    const folder = want.form === 'folder' ? pathOf.get(want.key) : undefined;
    if (folder === undefined) continue;
    for (const entry of listing(folder)?.values() ?? [])
      if ((entry.form === 'link' || entry.form === 'entry') && !mine.has(below(folder, entry.name)))
        plan.dropped.push({ folderKey: want.key, path: below(folder, entry.name), entry });
  }
  plan.unseen = [...unseen];
  return plan;
}
