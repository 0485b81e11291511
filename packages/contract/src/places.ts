import type { Bytes } from '@rellin/core/units';
import type { PlaceId } from './ids.js';
export type PlaceType = 'fixed' | 'removable' | 'network';

/** A root folder that Rellin may look into. */
export interface PlaceView {
  id: PlaceId;
  name: string;
  /** Absolute path text of the root. */
  root: string;
  type: PlaceType;
  state: 'here' | 'away';
  /** Why it is away, in words; empty while it is here. */
  awayReason: string;
  lastSeenAt: string | null;
  excludes: string[];
  /** What is left out of this place whatever `excludes` say, by gitignore patterns as well. */
  alwaysExcluded: string[];
  /** Folders below it that change without rest, and are looked at more rarely for that. */
  slowed: string[];
  /** Entries in the index, the root itself not counted. */
  entries: number;
  freeBytes: Bytes | null;
  totalBytes: Bytes | null;
  scan: 'never' | 'running' | 'done' | 'stopped' | 'failed';
  watching: 'all' | 'limited' | 'off';
  /** True for the demo's stand-ins, which carry a switch to connect and disconnect them. */
  standIn: boolean;
}

export interface ActivityView {
  id: string;
  /** What is done, e.g. "Looking through Marrowick". */
  title: string;
  done: number;
  /** Unknown until a place has been looked through once. */
  total: number | null;
  perSecond: number;
  canStop: boolean;
}

export interface NewPlace {
  root: string;
  name?: string;
  type?: PlaceType;
  excludes?: string[];
}

export interface PlacePatch {
  name?: string;
  excludes?: string[];
}
