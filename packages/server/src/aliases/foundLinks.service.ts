/** Links that lie in the places and that Rellin did not write: taken into the catalogue, and repaired where broken. */
import { posix } from 'node:path';
import { Injectable } from '@nestjs/common';
import { isWithin, nameOf, parentOf } from '@rellin/core/paths';
import type { AliasView, FoundLinkView, FoundLinksView, OriginalId, PlaceId } from '@rellin/contract';
import { DiskService } from '../disk/disk.service.js';
import { absolute } from '../disk/paths.js';
import { OriginalsRepository } from '../originals/originals.repository.js';
import { OriginalsService } from '../originals/originals.service.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { Refusal } from '../problems/refusal.js';
import { ShortcutsService } from '../shortcuts/shortcuts.service.js';
import { AliasesService } from './aliases.service.js';
import { WrittenLinksRepository } from './writtenLinks.repository.js';

/** So many are looked at; what leads nowhere comes first. */
const MOST_LOOKED_AT = 1000;
const MOST_SHOWN = 200;
const MOST_CANDIDATES = 5;

const ORDER = { nowhere: 0, inside: 1, outside: 2 };

@Injectable()
export class FoundLinksService {
  constructor(
    private readonly disk: DiskService,
    private readonly places: PlaceRegistry,
    private readonly index: OriginalsRepository,
    private readonly originals: OriginalsService,
    private readonly shortcuts: ShortcutsService,
    private readonly aliases: AliasesService,
    private readonly written: WrittenLinksRepository,
  ) {}

  async list(): Promise<FoundLinksView> {
    const here = this.places.all().filter((p) => p.state === 'here');
    const roots: string[] = [];
    for (const { entity } of here)
      roots.push(...(await this.disk.reals(entity.id, [entity.root])).flatMap((r) => r ?? []));
    const found: FoundLinkView[] = [];
    let total = 0;
    for (const { entity } of here) {
      const { ids, total: there } = await this.index.links(entity.id, MOST_LOOKED_AT);
      const ours = await this.written.paths(entity.id);
      total += Math.max(0, there - ours.size);
      const at = await this.index.located(entity.id, ids);
      const paths = [...at].flatMap(([id, { path }]) =>
        ours.has(path) ? [] : [{ id, path: absolute(entity.root, path) }],
      );
      const folders = [...new Set(paths.map(({ path }) => parentOf(path)))];
      const seen = await this.disk.links(entity.id, folders);
      const entries = new Map(folders.map((f, i) => [f, new Map(seen[i]?.entries.map((e) => [e.name, e]))]));
      // in the place's own thread: a link may lead to a share that hangs
      const reals = await this.disk.reals(
        entity.id,
        paths.map(({ path }) => path),
      );
      paths.forEach(({ id, path }, i) => {
        const entry = entries.get(parentOf(path))?.get(nameOf(path));
        if (entry?.form !== 'link') return;
        const real = reals[i];
        const leads = real == null ? 'nowhere' : roots.some((root) => isWithin(root, real)) ? 'inside' : 'outside';
        found.push({
          placeId: entity.id,
          originalId: id,
          path,
          target: entry.content,
          leads,
          candidates: [],
        });
      });
    }
    found.sort((a, b) => ORDER[a.leads] - ORDER[b.leads]);
    const links = found.slice(0, MOST_SHOWN);
    for (const link of links) if (link.leads === 'nowhere') link.candidates = await this.candidates(link.target);
    return { links, total };
  }

  /** What has the name of what is missing. */
  private async candidates(target: string): Promise<FoundLinkView['candidates']> {
    const rows = await this.index.named(nameOf(target), MOST_CANDIDATES);
    const out: FoundLinkView['candidates'] = [];
    for (const { placeId, id } of rows) {
      const place = this.places.get(placeId);
      const path = place && (await this.index.pathOf(placeId, id));
      if (path !== undefined) out.push({ placeId, originalId: id, path: absolute(place!.entity.root, path) });
    }
    return out;
  }

  /** A shortcut to where the link leads, or to what is chosen instead; the link is its alias from now on. */
  async take(
    link: { placeId: PlaceId; originalId: OriginalId },
    to?: { placeId: PlaceId; originalId: OriginalId },
  ): Promise<AliasView> {
    const place = this.places.need(link.placeId);
    const path = await this.index.pathOf(link.placeId, link.originalId);
    const at = path === undefined ? undefined : absolute(place.entity.root, path);
    const [listing] = at === undefined ? [null] : await this.disk.links(link.placeId, [parentOf(at)]);
    const entry = listing?.entries.find((e) => e.name === nameOf(at!));
    if (entry?.form !== 'link') throw new Refusal('not-found', 'That link is there no more.');
    const target = to ?? (await this.targetOf(link.placeId, at!, entry.content));
    const shortcutId = (await this.shortcuts.existing(target)) ?? (await this.shortcuts.add(target));
    return this.aliases.take(shortcutId, { ...link, content: entry.content });
  }

  private async targetOf(
    at: number,
    path: string,
    content: string,
  ): Promise<{ placeId: PlaceId; originalId: OriginalId }> {
    const roots = this.places.all().map((p) => p.entity.root);
    const straight = posix.resolve(parentOf(path), content);
    const real = await this.disk.real(at, path);
    // where a link leads to another link, that is what it is to lead to
    const { placeId, originalId } = await this.originals.locate(
      roots.some((root) => isWithin(root, straight)) ? straight : real,
    );
    return { placeId, originalId };
  }
}
