/**
 * What is to be done so that the links on disk are those that are wanted. Nothing that was not written by us is ever
 * written over or removed: a link counts as ours where it stands as it was recorded, or as it was about to be when the
 * work was cut short. What a person did to a link on disk is told, not undone.
 */
import { grouped } from '../lists/index.js';
import { nameOf, parentOf } from '../paths/index.js';
import { FolderView, below, isNameOf, type Listing, type SeenEntry } from './folderView.js';
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

/**
 * `list` tells what lies in a folder, by its absolute path: null where it cannot be seen, as while its place is away,
 * undefined where nobody looked yet, which the plan then asks for. Cost: linear in what is wanted, recorded and seen.
 */
export function planLinks(
  wanted: readonly WantedLink[],
  recorded: readonly WrittenLink[],
  list: (folder: string) => Listing | null | undefined,
): LinkPlan {
  const planner = new LinkPlanner(wanted, recorded, new FolderView(list));
  planner.findMovedFolders();
  planner.clearLeftovers();
  // what is wanted no more goes first: its name is free again; folders go last, when all that leaves them has left
  const emptied = planner.removeUnwanted();
  for (const want of wanted) planner.bring(want);
  planner.removeFolders(emptied);
  planner.tellDropped();
  return planner.done();
}

/** What stands where a record says. */
interface Standing {
  at: Settled;
  inode: number;
}

type RemoveFolder = Extract<LinkStep, { do: 'remove' }>;

class LinkPlanner {
  private readonly plan: LinkPlan = {
    steps: [],
    deleted: [],
    remade: [],
    missing: [],
    dropped: [],
    waiting: [],
    unseen: [],
  };
  private readonly written: WrittenLink[];
  private readonly records: Map<string, WrittenLink>;
  private readonly inodes: Set<number | null>;
  private readonly asked: Set<string>;
  /** Paths at which something of ours stands. */
  private readonly mine = new Set<string>();
  /** Where each wanted link is to stand. */
  private readonly paths = new Map<string, string>();
  private inFolder: Map<string, WrittenLink[]> | undefined;
  private readonly emptiedAtOnce = new Map<string, boolean>();

  constructor(
    private readonly wanted: readonly WantedLink[],
    recorded: readonly WrittenLink[],
    private readonly view: FolderView,
  ) {
    this.written = recorded.map((w) => ({ ...w }));
    this.records = new Map(this.written.map((w) => [w.key, w]));
    this.inodes = new Set(this.written.map((w) => w.inode));
    this.asked = new Set(wanted.map((w) => w.key));
  }

  /** Folders that stand elsewhere than they were left, since the work was cut short. */
  findMovedFolders(): void {
    for (const record of this.written.filter((w) => w.form === 'folder' && w.now && w.next)) {
      const there = this.standing(record);
      if (there && there.at.path !== record.now!.path) this.relocate(record.now!.path, there.at.path);
    }
  }

  /** Old links, where the new one stands beside them already. */
  clearLeftovers(): void {
    for (const record of this.written) {
      const there = this.standing(record);
      if (!there) continue;
      this.mine.add(there.at.path);
      const old = this.leftover(record, there.at);
      if (!old) continue;
      this.plan.steps.push({ do: 'clear', key: record.key, form: record.form, from: old });
      this.view.removed(parentOf(old.path), nameOf(old.path));
    }
  }

  /** Of what is wanted no more, folders are given back: they are removed last. */
  removeUnwanted(): RemoveFolder[] {
    const folders: RemoveFolder[] = [];
    const longest = (w: WrittenLink) => (w.now ?? w.next)!.path.length;
    const gone = this.written.filter((w) => !this.asked.has(w.key)).sort((a, b) => longest(b) - longest(a));
    for (const record of gone) {
      const there = this.standing(record);
      const { key, form, before } = record;
      if (there && before !== null)
        this.plan.steps.push({ do: 'release', key, form, from: there.at, to: { ...there.at, content: before } });
      else if (there && form === 'folder') folders.push({ do: 'remove', key, form, from: there.at });
      else if (there && !record.foreign) {
        this.plan.steps.push({ do: 'remove', key, form, from: there.at });
        this.view.removed(parentOf(there.at.path), nameOf(there.at.path));
      } else if (there || [record.next, record.now].every((at) => !at || this.view.entries(parentOf(at.path))))
        this.plan.steps.push({ do: 'forget', key });
    }
    return folders;
  }

  /** Makes a link, or brings the one there is in step. Folders come before what lies in them. */
  bring(want: WantedLink): void {
    const { key } = want;
    const folder = 'path' in want.in ? want.in.path : this.paths.get(want.in.key);
    const seen = folder === undefined ? undefined : this.view.entries(folder);
    if (folder === undefined || !seen) {
      this.plan.waiting.push(key);
      return;
    }
    const record = this.records.get(key);
    const there = record && this.found(record, want, folder);
    if (record && there) {
      if (record.foreign ? this.keepForeign(want, folder, there) : this.change(want, folder, record, there)) return;
    } else if (record?.now && this.isMissed(want, folder, record, record.now)) return;
    if (this.adopt(want, folder, seen.get(want.name))) return;
    this.make(want, folder);
  }

  removeFolders(emptied: readonly RemoveFolder[]): void {
    for (const step of emptied)
      this.plan.steps.push({ ...step, from: { ...step.from, path: this.view.carriedTo(step.from.path) } });
  }

  /** Links that a person put into a wanted folder. */
  tellDropped(): void {
    for (const want of this.wanted) {
      const folder = want.form === 'folder' ? this.paths.get(want.key) : undefined;
      if (folder === undefined) continue;
      for (const entry of this.view.entries(folder)?.values() ?? []) {
        const path = below(folder, entry.name);
        if ((entry.form === 'link' || entry.form === 'entry') && !this.mine.has(path))
          this.plan.dropped.push({ folderKey: want.key, path, entry });
      }
    }
  }

  done(): LinkPlan {
    return { ...this.plan, unseen: [...this.view.unseen] };
  }

  /** What stands where a record says, if it is as we left it or were about to leave it. */
  private standing(record: WrittenLink): Standing | undefined {
    for (const at of [record.next, record.now]) {
      const entry = at && this.view.entries(parentOf(at.path))?.get(nameOf(at.path));
      if (!entry || entry.form !== record.form) continue;
      if (record.form === 'folder' ? !this.isOurFolder(record, at, entry) : entry.content !== at.content) continue;
      return { at, inode: entry.inode };
    }
    return undefined;
  }

  /** A folder has no content to tell it by: one whose making was cut short holds only what is ours. */
  private isOurFolder(record: WrittenLink, at: Settled, entry: SeenEntry): boolean {
    return record.inode === null
      ? !this.inodes.has(entry.inode) && this.holdsOnlyOurs(at.path)
      : entry.inode === record.inode;
  }

  private holdsOnlyOurs(folder: string): boolean {
    return [...(this.view.entries(folder)?.values() ?? [])].every((entry) =>
      this.written.some((w) =>
        [w.next, w.now].some(
          (at) =>
            at?.path === below(folder, entry.name) &&
            entry.form === w.form &&
            (w.form === 'folder' || entry.content === at.content),
        ),
      ),
    );
  }

  /** The old link, where the new one stands beside it. */
  private leftover({ form, now, next }: WrittenLink, there: Settled): Settled | undefined {
    if (form === 'folder' || !now || !next || there !== next || now.path === next.path) return undefined;
    const entry = this.view.entries(parentOf(now.path))?.get(nameOf(now.path));
    return entry?.form === form && entry.content === now.content ? now : undefined;
  }

  /** A folder stands elsewhere than recorded: so does what is recorded to lie in it. */
  private relocate(from: string, to: string): void {
    const under = (at: Settled | null) =>
      at?.path.startsWith(`${from}/`) ? { ...at, path: to + at.path.slice(from.length) } : at;
    for (const w of this.written) {
      w.now = under(w.now);
      w.next = under(w.next);
    }
  }

  /** Under another name in the folder: a person renamed it. */
  private renamedIn(folder: string, record: WrittenLink): SeenEntry | undefined {
    if (record.inode === null) return undefined;
    const isAsLeft = (e: SeenEntry) =>
      e.form === record.form && (e.form === 'folder' || e.content === record.now?.content);
    return this.view.withInode(folder, record.inode).find(isAsLeft);
  }

  /** The link of a record where it stands now, by its own name or one that a person gave it. */
  private found(record: WrittenLink, { form, name }: WantedLink, folder: string): Standing | undefined {
    let there = this.standing(record);
    if (!there) {
      const renamed = this.renamedIn(folder, record);
      if (!renamed) return undefined;
      there = { at: { path: below(folder, renamed.name), content: renamed.content }, inode: renamed.inode };
      this.mine.add(there.at.path);
      record.name = name;
      if (form === 'folder' && record.now) this.relocate(record.now.path, there.at.path);
    }
    // a record may be ahead of the disk: what was about to lie in a renamed folder lies in it under its old name still
    return { ...there, at: { ...there.at, path: this.view.carriedBack(there.at.path) } };
  }

  /** A person's link that stands for a wanted one stays as it is; whether it still leads there. */
  private keepForeign(want: WantedLink, folder: string, { at }: Standing): boolean {
    this.mine.add(at.path);
    if (want.leads(folder, at.content)) {
      this.paths.set(want.key, at.path);
      return true;
    }
    // it leads elsewhere now: one of ours is put beside it
    this.plan.steps.push({ do: 'forget', key: want.key });
    return false;
  }

  /** Brings our own link to its name and content. */
  private change(want: WantedLink, folder: string, record: WrittenLink, there: Standing): true {
    const { key, form, name } = want;
    const from = { path: this.view.carriedTo(there.at.path), content: there.at.content };
    this.mine.add(from.path);
    const stays = parentOf(from.path) === folder && (record.name === name || isNameOf(nameOf(from.path), name));
    const path = stays ? from.path : below(folder, this.view.takeName(folder, name));
    const to = { path, content: want.content(folder) };
    const isInStep = from.path === path && (form === 'folder' || from.content === to.content);
    const isRecorded =
      !record.next && record.now?.path === path && record.inode === there.inode && record.name === name;
    if (!isInStep) this.plan.steps.push({ do: 'change', key, form, name, from, to });
    else if (!isRecorded) this.plan.steps.push({ do: 'note', key, form, name, to, inode: there.inode });
    if (form === 'folder' && path !== there.at.path) this.view.carry(there.at.path, path, there.inode);
    this.paths.set(key, path);
    return true;
  }

  /**
   * A link that is not where it was: whether nothing is made in its place, since a person deleted it, or since another
   * folder stands where its own was, which the index finds before long.
   */
  private isMissed(want: WantedLink, folder: string, record: WrittenLink, was: Settled): boolean {
    const { key, form } = want;
    this.plan.missing.push(key);
    const inode = this.view.inodeOf(folder);
    const its = 'key' in want.in ? this.records.get(want.in.key)?.inode : want.in.inode;
    if (its != null && inode !== undefined && inode !== its) {
      this.plan.waiting.push(key);
      return true;
    }
    const gone = { key, folderInode: inode ?? 0 };
    const wasHere = parentOf(was.path) === folder && inode !== undefined;
    if (!wasHere || (form !== 'folder' && this.wentAtOnce(folder))) {
      this.plan.remade.push(gone);
      return false;
    }
    // it was there, and its folder is; a person took it away
    this.plan.deleted.push(gone);
    this.plan.steps.push({ do: 'forget', key });
    // with a folder goes what lay in it: that was not taken away one by one
    if (form === 'folder')
      for (const other of this.written)
        if (other.now?.path.startsWith(`${was.path}/`)) this.plan.steps.push({ do: 'forget', key: other.key });
    return true;
  }

  /** Whether most links of a folder went at once: a folder was exchanged, a copy was cut short; no person did that. */
  private wentAtOnce(folder: string): boolean {
    const known = this.emptiedAtOnce.get(folder);
    if (known !== undefined) return known;
    this.inFolder ??= grouped(
      this.written.filter((w) => w.now && w.form !== 'folder' && this.asked.has(w.key)),
      (w) => parentOf(w.now!.path),
    );
    const all = this.inFolder.get(folder) ?? [];
    const gone = all.filter((w) => !this.standing(w) && !this.renamedIn(folder, w)).length;
    const is = gone > MOST_DELETED && gone * 2 > all.length;
    this.emptiedAtOnce.set(folder, is);
    return is;
  }

  /** Takes over the link of a person's that it is to stand for; whether that is there. */
  private adopt({ key, form, name, before }: WantedLink, folder: string, theirs: SeenEntry | undefined): boolean {
    if (before === null || theirs?.form !== form || theirs.content !== before) return false;
    const at = { path: below(folder, name), content: theirs.content };
    this.plan.steps.push({ do: 'adopt', key, form, name, at, inode: theirs.inode });
    this.mine.add(at.path);
    this.paths.set(key, at.path);
    return true;
  }

  private make({ key, form, name, content }: WantedLink, folder: string): void {
    const path = below(folder, this.view.takeName(folder, name));
    this.plan.steps.push({ do: 'make', key, form, name, to: { path, content: content(folder) } });
    if (form === 'folder') this.view.made(path);
    this.paths.set(key, path);
  }
}
