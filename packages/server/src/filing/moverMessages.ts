/** What is asked of a thread that moves files. All paths are absolute. */
import type { Bounds } from '../disk/inside.js';
import type { Bin } from '../trash/bins.js';
import type { InUse } from '../trash/filesInUse.js';
import type { BinContents, Expunged, Listed } from '../trash/infoFiles.js';
import type { Reply } from '../threads/questions.js';
import type { FiledItem, SeenFile } from './diskMoves.js';

export type MoverTask =
  | { kind: 'forward' | 'backward'; item: FiledItem }
  | { kind: 'release'; item: FiledItem }
  /** Of what lies in a bin, with the bin. */
  | { kind: 'digest'; path: string; bin?: Bin }
  | { kind: 'probe'; paths: string[] }
  | { kind: 'names' | 'entries'; path: string }
  | { kind: 'make-folder'; path: string }
  | { kind: 'remove-empty'; path: string }
  | { kind: 'remove'; path: string }
  /** A link goes where it leads there still. */
  | { kind: 'remove-link'; path: string; to: string }
  /** A digest of the first bytes of each file; null where it cannot be read. */
  | { kind: 'beginnings'; paths: string[] }
  /** Of others the first whose content is the same, by its position; -1 where none is. */
  | { kind: 'same-content'; path: string; others: string[] }
  /** Files in a folder that tell where they were fetched from: the address by the name. */
  | { kind: 'origins'; path: string; names: string[] }
  /** What programs have open: by `keyOfFile`, and by path. */
  | { kind: 'files-in-use' }
  | { kind: 'begin-part'; path: string }
  | { kind: 'write'; file: number; bytes: Uint8Array }
  | { kind: 'end-part'; path: string; file: number }
  /** The bin that each goes to by renaming. */
  | { kind: 'bins-for'; paths: string[]; where: WhereBins }
  | { kind: 'bin-names'; bin: Bin }
  | { kind: 'possible-bins'; where: WhereBins }
  | { kind: 'bin-list'; bin: Bin }
  | { kind: 'expunge'; bin: Bin; things: Listed[] }
  | { kind: 'clear-lone-infos'; bin: Bin };

/** Besides what the system has mounted. */
export interface WhereBins {
  /** `$XDG_DATA_HOME`. */
  dataHome: string;
  /** Top folders of stand-ins for volumes. */
  standIns: string[];
}

export interface MoverAnswers {
  /** The item as it is now: how it went is needed to put it back. */
  forward: FiledItem;
  backward: null;
  release: null;
  digest: string;
  probe: (SeenFile | null)[];
  names: string[];
  entries: [string, SeenFile][];
  'make-folder': null;
  'remove-empty': null;
  remove: null;
  'remove-link': null;
  beginnings: (string | null)[];
  'same-content': number;
  origins: [string, string][];
  'files-in-use': InUse;
  'begin-part': number;
  write: null;
  'end-part': null;
  'bins-for': (Bin | null)[];
  'bin-names': string[];
  'possible-bins': Bin[];
  'bin-list': BinContents | undefined;
  expunge: Expunged[];
  'clear-lone-infos': null;
}

export type ToMover = MoverTask & { ask: number; bounds: Bounds };
export type FromMover = Reply | { kind: 'going' };
