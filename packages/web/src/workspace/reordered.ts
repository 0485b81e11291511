import type { PinView } from '@rellin/contract';

/** The pins with one moved to a slot (from 1), renumbered; shown at once, before the server answers. */
export function reordered(pins: readonly PinView[], id: string, slot: number): PinView[] {
  const own = pins.find((p) => p.id === id);
  if (!own) return [...pins];
  const rest = pins.filter((p) => p !== own);
  rest.splice(Math.max(0, Math.min(rest.length, slot - 1)), 0, own);
  return rest.map((p, i) => ({ ...p, slot: i + 1, key: i < 9 ? String(i + 1) : null }));
}
