import type { ShortcutId } from '@rellin/contract';
import type { BoardSlot } from './layoutBoard';

/** What is done with what lies on a board; for its regions. */
export interface BoardHandlers {
  /** The slot that Tab comes to. */
  tabbable: string | undefined;
  isChosen(shortcutId: ShortcutId): boolean;
  focus(slot: BoardSlot): void;
  pick(slot: BoardSlot, how: { ctrl: boolean }): void;
  open(slot: BoardSlot): void;
  menu(slot: BoardSlot, at: { x: number; y: number }): void;
}
