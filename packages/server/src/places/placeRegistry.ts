/** The places Rellin looks into now, and how each stands. */
import { Injectable } from '@nestjs/common';
import { isWithin } from '@rellin/core/paths';
import type { PlaceId, PlaceView } from '@rellin/contract';
import type { PlaceEntity } from '../database/entities/place.entity.js';
import { Refusal } from '../problems/refusal.js';

export interface LivePlace {
  entity: PlaceEntity;
  state: 'here' | 'away';
  awayReason: string;
  scan: PlaceView['scan'];
  watching: PlaceView['watching'];
  slowed: readonly string[];
  entries: number;
  lastSeenAt: Date | null;
  /** Until when the index was known to agree with the disk, epoch milliseconds. */
  verifiedAt: number;
  /** When it was last looked for elsewhere. */
  searchedAt: number;
}

@Injectable()
export class PlaceRegistry {
  private readonly live = new Map<PlaceId, LivePlace>();

  set(place: LivePlace): void {
    this.live.set(place.entity.id, place);
  }

  delete(placeId: PlaceId): void {
    this.live.delete(placeId);
  }

  get(placeId: PlaceId): LivePlace | undefined {
    return this.live.get(placeId);
  }

  /** Refused where there is no such place. */
  need(placeId: PlaceId): LivePlace {
    const place = this.live.get(placeId);
    if (!place) throw new Refusal('not-found', 'Rellin does not look into that place any more.');
    return place;
  }

  isHere(placeId: PlaceId): boolean {
    return this.live.get(placeId)?.state === 'here';
  }

  all(): LivePlace[] {
    return [...this.live.values()];
  }

  /** The place an absolute path lies in: the deepest, where places are nested. */
  placeOf(path: string): LivePlace | undefined {
    return this.all()
      .filter((p) => isWithin(p.entity.root, path))
      .sort((a, b) => b.entity.root.length - a.entity.root.length)[0];
  }
}
