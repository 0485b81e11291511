/**
 * Tags go along with the originals that a filing moves. On the same disk the index knows them again by itself; on
 * another one, or when they come back from a bin days later, they have other rows there.
 */
import { Injectable } from '@nestjs/common';
import type { OriginalRef } from '@rellin/contract';
import { parentOf } from '@rellin/core/paths';
import { absolute, below } from '../disk/paths.js';
import { MemoryIndexService } from '../memoryIndex/memoryIndex.service.js';
import { OriginalsService } from '../originals/originals.service.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { TagsRepository } from '../tags/tags.repository.js';
import type { FiledItem } from './diskMoves.js';
import { FilingRepository } from './filing.repository.js';

const isMoved = ({ way }: FiledItem) => way === 'rename' || way === 'carry';

@Injectable()
export class TagsAlongService {
  constructor(
    private readonly tags: TagsRepository,
    private readonly filings: FilingRepository,
    private readonly originals: OriginalsService,
    private readonly places: PlaceRegistry,
    private readonly index: MemoryIndexService,
  ) {}

  /** Before it is moved: notes in each item which originals of it have tags. */
  async note(items: readonly FiledItem[]): Promise<void> {
    const moved = new Map(items.filter(isMoved).map((item) => [item.from!, item]));
    const fromBins = [...moved.values()].flatMap((item) => (item.bin?.end === 'from' ? item.from! : []));
    if (fromBins.length > 0)
      for (const [path, tagged] of await this.filings.taggedAt(fromBins)) moved.get(path)!.tagged = tagged;
    const places = new Set([...moved.keys()].flatMap((path) => this.places.placeOf(path) ?? []));
    for (const { entity } of places)
      for (const { originalId, path } of await this.tags.taggedIn(entity.id)) {
        const full = absolute(entity.root, path);
        for (let at = full; at !== '' && at !== '/'; at = parentOf(at)) {
          const item = moved.get(at);
          if (!item || item.bin?.end === 'from') continue;
          (item.tagged ??= []).push({ below: below(at, full), placeId: entity.id, originalId });
        }
      }
  }

  /** Once the index knows where they are: each tag goes to the row that its original has now. Whether any did. */
  async follow(items: readonly FiledItem[], state: 'intent' | 'done'): Promise<boolean> {
    let isOther = false;
    for (const item of items) {
      if (!item.tagged || item.isLeftOut) continue;
      const base = state === 'done' ? item.to : item.from!;
      for (const one of item.tagged) {
        const now = await this.rowAt(one.below === '' ? base : absolute(base, one.below));
        // in a bin no row knows it; it is followed when it is back
        if (!now || (now.placeId === one.placeId && now.originalId === one.originalId)) continue;
        await this.tags.moveTags(one, now);
        Object.assign(one, now);
        isOther = true;
      }
    }
    // searches ask the index in memory for tags
    if (isOther) this.index.factsSoon();
    return isOther;
  }

  private async rowAt(path: string): Promise<OriginalRef | undefined> {
    if (!this.places.placeOf(path)) return undefined;
    const found = await this.originals.locate(path).catch(() => undefined);
    return found && { placeId: found.placeId, originalId: found.originalId };
  }
}
