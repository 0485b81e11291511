import type { Stop } from './plane';

/** What is done with what lies on a board; for its regions. */
export interface OnPlane {
  /** The stop that Tab comes to. */
  tabbable: string | undefined;
  isChosen(shortcutId: string): boolean;
  focus(stop: Stop): void;
  pick(stop: Stop, how: { ctrl: boolean }): void;
  open(stop: Stop): void;
  menu(stop: Stop, at: { x: number; y: number }): void;
}
