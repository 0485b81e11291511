/** What may be the originals of lost shortcuts: looked for in the index, read on the disk, weighed by core. */
import type { OriginalId, PlaceId } from '@rellin/contract';
import { Injectable } from '@nestjs/common';
import type { Identity } from '@rellin/core/identity';
import { grouped } from '@rellin/core/lists';
import { nameOf, parentOf, shown } from '@rellin/core/paths';
import { scored, type Commonness, type Scored, type Traits } from '@rellin/core/repair';
import { DiskService } from '../disk/disk.service.js';
import { absolute } from '../disk/paths.js';
import { MemoryIndexService } from '../memoryIndex/memoryIndex.service.js';
import { OriginalsRepository, type OriginalRecord } from '../originals/originals.repository.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import type { ShortcutEntity } from '../database/entities/shortcut.entity.js';
import { CheckUpRepository } from './checkUp.repository.js';
import type { Kind } from '@rellin/core/kinds';

/** What is alike in name only is looked for of so many; each costs a question to the find line. */
const MOST_LIKE_NAMED = 40;
const LIKE_NAMED = 8;
/** Of so many lost ones the contents of what may be they are read. */
const MOST_READ = 60;
const READ_EACH = 6;
/** What is not even so likely is not worth showing. */
const LEAST_SURE = 0.005;
const MOST_SHOWN = 5;
/** After so many the server takes a breath. */
const BREATH = 100;

export interface Found extends Traits {
  placeId: PlaceId;
  originalId: OriginalId;
  path: string;
}

export interface Lost {
  shortcut: ShortcutEntity;
  candidates: Scored<Found>[];
}

@Injectable()
export class CandidatesService {
  constructor(
    private readonly rows: CheckUpRepository,
    private readonly disk: DiskService,
    private readonly index: MemoryIndexService,
    private readonly originals: OriginalsRepository,
    private readonly places: PlaceRegistry,
  ) {}

  /** For each of these, best first. One look through the index for all of them. */
  async of(shortcuts: readonly ShortcutEntity[]): Promise<{ lost: Lost[]; among: number }> {
    const here = this.places.all().filter((p) => p.state === 'here');
    const known = shortcuts.filter((s) => s.identity !== null);
    if (known.length === 0) return { lost: [], among: 0 };
    const names = [...new Set(known.map((s) => nameOf(s.identity!.path)))];
    const sizes = [...new Set(known.filter((s) => s.identity!.type === 'file').map((s) => s.identity!.size))];
    const rows: OriginalRecord[] = [];
    for (const { entity } of here) rows.push(...(await this.originals.namedOrSized(entity.id, names, sizes)));
    const byName = grouped(rows, (r) => r.name);
    const bySize = grouped(
      rows.filter((r) => r.type === 'file' && r.size > 0),
      (r) => r.size,
    );
    const common = await this.commonness(known.map((s) => nameOf(parentOf(s.identity!.path))));
    const all: { shortcut: ShortcutEntity; rows: OriginalRecord[] }[] = [];
    let asked = 0;
    for (const shortcut of known) {
      const { path, size, type } = shortcut.identity!;
      const found = new Map<string, OriginalRecord>();
      const add = (list: readonly OriginalRecord[] = []) => {
        for (const r of list) if (r.type === type) found.set(`${r.placeId}/${r.id}`, r);
      };
      add(byName.get(nameOf(path))?.slice(0, 50));
      add(bySize.get(size)?.slice(0, 50));
      if (found.size < 2 && asked++ < MOST_LIKE_NAMED) add(await this.likeNamed(nameOf(path)));
      all.push({ shortcut, rows: [...found.values()] });
    }
    const paths = await this.pathsOf(all.flatMap((one) => one.rows));
    const lost: Lost[] = [];
    for (const [i, one] of all.entries()) {
      // thousands take seconds: others are served in between
      if (i % BREATH === BREATH - 1) await new Promise((resolve) => setImmediate(resolve));
      const { shortcut } = one;
      const recorded = traitsOf(shortcut.identity!, shortcut.kind);
      const weighed: Commonness = {
        ...common.of(recorded),
        sameName: byName.get(recorded.name)?.length ?? 0,
        sameSize: bySize.get(recorded.size)?.length ?? 0,
      };
      const candidates = one.rows.flatMap((r): Found[] => {
        const path = paths.get(`${r.placeId}/${r.id}`);
        if (path === undefined || (r.placeId === shortcut.placeId && path === shortcut.identity!.path)) return [];
        if (shortcut.rejected.some((x) => x.inode === r.inode && x.birth === r.birth)) return [];
        return [
          {
            type: r.type,
            kind: r.kind,
            name: r.name,
            folder: nameOf(parentOf(path)),
            size: r.size,
            mtime: r.mtime,
            placeId: r.placeId,
            originalId: r.id,
            path,
          },
        ];
      });
      const first = scored(recorded, candidates, weighed);
      if (i < MOST_READ && recorded.fingerprint !== undefined)
        await this.read(first.slice(0, READ_EACH).map((s) => s.candidate));
      const list = scored(recorded, candidates, weighed).filter((s) => s.sure >= LEAST_SURE || isSameContent(s));
      lost.push({ shortcut, candidates: list.slice(0, MOST_SHOWN) });
    }
    return { lost, among: here.reduce((sum, p) => sum + p.entries, 0) };
  }

  /** Fingerprints of files whose size would allow the same content are of use, of others they say nothing. */
  private async read(found: readonly Found[]): Promise<void> {
    for (const f of found) {
      if (f.type !== 'file') continue;
      const place = this.places.get(f.placeId);
      if (!place || place.state !== 'here') continue;
      const path = absolute(place.entity.root, f.path);
      const [print] = await this.disk.fingerprints(f.placeId, [{ path, size: f.size }]).catch(() => [null]);
      if (print) f.fingerprint = print;
    }
  }

  /** What the find line finds by the words of a name, without its extension. */
  private async likeNamed(name: string): Promise<OriginalRecord[]> {
    const words = shown(name)
      .replace(/\.[^.]*$/, '')
      .replace(/[^\p{L}\p{N}]+/gu, ' ')
      .trim();
    if (words === '') return [];
    const answers = await this.index.find(words, LIKE_NAMED, { type: 'all', of: [] });
    const ids = new Map<number, number[]>();
    for (const { id, group } of answers) {
      if (group !== 'original') continue;
      const [place, original] = id.split('/').map(Number) as [number, number];
      ids.set(place, [...(ids.get(place) ?? []), original]);
    }
    const out: OriginalRecord[] = [];
    for (const [placeId, list] of ids) out.push(...(await this.originals.some(placeId, list)));
    return out;
  }

  private async pathsOf(rows: readonly OriginalRecord[]): Promise<Map<string, string>> {
    const out = new Map<string, string>();
    for (const placeId of new Set(rows.map((r) => r.placeId))) {
      const ids = [...new Set(rows.filter((r) => r.placeId === placeId).map((r) => r.id))];
      for (const [id, { path }] of await this.originals.located(placeId, ids)) out.set(`${placeId}/${id}`, path);
    }
    return out;
  }

  /**
   * How common kinds and folders' names are. An extension is taken to be as common as its kind, which it is at most.
   */
  private async commonness(folders: string[]): Promise<{ of(t: Traits): Omit<Commonness, 'sameName' | 'sameSize'> }> {
    const kinds = await this.rows.countByKind();
    const inFolder = await this.rows.countInFolders([...new Set(folders)]);
    return {
      of: (t) => {
        const ofType = kinds.filter((k) => k.type === t.type);
        const sameKind = ofType.find((k) => k.kind === t.kind)?.n ?? 0;
        return {
          among: ofType.reduce((sum, k) => sum + k.n, 0),
          sameKind,
          sameExtension: sameKind,
          sameFolder: inFolder.get(t.folder) ?? 0,
        };
      },
    };
  }
}

/** Worth showing however unlikely: one may have been copied and the other thrown away. */
const isSameContent = (s: Scored<Found>) => s.evidence.some((e) => e.words === 'same content');

function traitsOf({ type, path, size, mtime, fingerprint }: Identity, kind: Kind): Traits {
  return {
    type,
    kind,
    name: nameOf(path),
    folder: nameOf(parentOf(path)),
    size,
    mtime,
    ...(fingerprint !== undefined && { fingerprint }),
  };
}
