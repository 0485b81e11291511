/** What is asked of a thread that moves files. All paths are absolute. */
import type { Bounds } from '../disk/inside.js';
import type { Bin } from '../trash/bins.js';
import type { BinEntry, Expunged } from '../trash/infoFiles.js';
import type { Reply } from '../threads/questions.js';
import type { FiledItem, SeenFile } from './diskMoves.js';

export type MoverTask =
  | { kind: 'forward' | 'backward'; item: FiledItem }
  | { kind: 'release'; item: FiledItem }
  | { kind: 'digest'; path: string }
  | { kind: 'probe'; paths: string[] }
  | { kind: 'names'; path: string }
  | { kind: 'make-folder'; path: string }
  | { kind: 'remove-empty'; path: string }
  | { kind: 'remove'; path: string }
  | { kind: 'begin-part'; path: string }
  | { kind: 'write'; file: number; bytes: Uint8Array }
  | { kind: 'end-part'; path: string; file: number }
  /** The bin that each goes to by renaming. */
  | { kind: 'bins-for'; paths: string[]; where: WhereBins }
  | { kind: 'bin-names'; bin: Bin }
  | { kind: 'bin-list'; where: WhereBins }
  | { kind: 'expunge'; bin: Bin; names: string[] }
  | { kind: 'clear-lone-infos'; bin: Bin };

/** Besides what the system has mounted. */
export interface WhereBins {
  /** `$XDG_DATA_HOME`. */
  dataHome: string;
  /** Top folders of stand-ins for volumes. */
  standIns: string[];
}

/** One that cannot be read has no entries, and says why. */
export interface ListedBin {
  bin: Bin;
  entries: BinEntry[];
  trouble: string;
}

export interface MoverAnswers {
  /** The item as it is now: how it went is needed to put it back. */
  forward: FiledItem;
  backward: null;
  release: null;
  digest: string;
  probe: (SeenFile | null)[];
  names: string[];
  'make-folder': null;
  'remove-empty': null;
  remove: null;
  'begin-part': number;
  write: null;
  'end-part': null;
  'bins-for': (Bin | null)[];
  'bin-names': string[];
  'bin-list': ListedBin[];
  expunge: Expunged[];
  'clear-lone-infos': null;
}

export type ToMover = MoverTask & { ask: number; bounds: Bounds };
export type FromMover = Reply | { kind: 'going' };
