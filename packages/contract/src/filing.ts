/** What came of filing: done, or the names that are taken, with nothing done yet. */
export type FilingView =
  | {
      state: 'done';
      filed: number;
      skipped: number;
      into: string;
      /** What of it the file system there does not keep, in words. */
      notes: string[];
    }
  | { state: 'clashes'; into: string; total: number; clashes: Clash[] };

export interface Clash {
  name: string;
  /** What stands there; its size is null for a folder. */
  there: { size: number | null; modified: number } | null;
  coming: { size: number | null; modified: number } | null;
}
