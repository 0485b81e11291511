/** The folders of a sweep, and what lies in them as the index and the disk have it just now. */
import { Injectable } from '@nestjs/common';
import { isUnderWay, stayReason, type StayReason } from '@rellin/core/sweep';
import { isWithin, shown } from '@rellin/core/paths';
import type { OriginalRef } from '@rellin/contract';
import { DiskService } from '../disk/disk.service.js';
import { absolute } from '../disk/paths.js';
import type { SeenFile } from '../filing/diskMoves.js';
import { MoverService } from '../filing/mover.service.js';
import { IndexerService } from '../indexing/indexer.service.js';
import { OriginalsRepository, type OriginalRecord } from '../originals/originals.repository.js';
import { OriginalsService } from '../originals/originals.service.js';
import { PlaceRegistry } from '../places/placeRegistry.js';
import { Refusal } from '../problems/refusal.js';
import { keyOfFile } from '../trash/filesInUse.js';
import { SweepsRepository } from './sweeps.repository.js';

/** A folder that is swept. */
export interface Swept extends OriginalRef {
  name: string;
  /** From its place down to the folder above it. */
  trail: string[];
  /** Where it lies, no link on the way. */
  path: string;
}

/** A thing in one of them. */
export interface Candidate {
  folder: number;
  row: OriginalRecord;
  path: string;
  seen: SeenFile;
  stays: StayReason | undefined;
}

@Injectable()
export class SweptFolders {
  constructor(
    private readonly originals: OriginalsService,
    private readonly index: OriginalsRepository,
    private readonly indexer: IndexerService,
    private readonly disk: DiskService,
    private readonly mover: MoverService,
    private readonly places: PlaceRegistry,
    private readonly rows: SweepsRepository,
  ) {}

  async folders(refs: readonly OriginalRef[]): Promise<Swept[]> {
    if (refs.length === 0) throw new Refusal('not-valid', 'There is no folder named to sweep.');
    const out = new Map<string, Swept>();
    for (const { placeId, originalId } of refs) {
      const { row, path } = await this.originals.whereabouts(placeId, originalId);
      if (row.type !== 'folder') throw new Refusal('not-a-folder', `${shown(row.name)} is not a folder.`);
      const trail = (await this.originals.trail(placeId, originalId)).map((step) => shown(step.name));
      const real = await this.disk.real(placeId, path);
      out.set(real, { placeId, originalId, name: trail.at(-1)!, trail: trail.slice(0, -1), path: real });
    }
    return [...out.values()];
  }

  /**
   * All that lies in them, each with why it stays, where it does. What only the disk knows yet is left for next time.
   *
   * @param destinations Paths of folders that things go to.
   */
  async candidates(swept: readonly Swept[], destinations: readonly string[], recentMs: number): Promise<Candidate[]> {
    const inUse = await this.mover.run({ kind: 'files-in-use' });
    const left = await this.rows.leftLinks();
    const stays = [...destinations, ...swept.map((s) => s.path)];
    const out: Candidate[] = [];
    for (const [folder, { placeId, originalId, path }] of swept.entries()) {
      await this.indexer.settle(placeId, originalId).catch(() => undefined);
      const entries = new Map(await this.mover.run({ kind: 'entries', path }));
      const names = new Set(entries.keys());
      const { root } = this.places.need(placeId).entity;
      const kept = new Set(
        (await this.rows.keptIn(placeId, originalId)).flatMap((one) => [absolute(root, one), absolute(path, one)]),
      );
      const now = Date.now();
      for (const row of await this.index.childrenOf(placeId, originalId)) {
        const seen = entries.get(row.name);
        if (!seen) continue;
        const own = absolute(path, row.name);
        out.push({
          folder,
          row,
          path: own,
          seen,
          stays: stayReason(
            {
              name: row.name,
              type: row.type,
              modified: seen.modified,
              isKeptByRellin: kept.has(own) || left.has(own),
              holdsDestination: seen.isFolder && stays.some((at) => isWithin(own, at)),
              isOpen:
                inUse.keys.has(keyOfFile({ dev: seen.dev, ino: seen.inode })) ||
                (seen.isFolder && [...inUse.paths].some((at) => isWithin(own, at))),
              isUnderWay: isUnderWay(row.name, names),
            },
            now,
            recentMs,
          ),
        });
      }
    }
    return out;
  }
}
