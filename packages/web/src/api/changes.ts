/**
 * What the page's own requests changed: each answer names the topics, which are read again at once. The server's events
 * tell all other pages, and this one of what others did.
 */
import type { QueryKey } from '@tanstack/react-query';
import type { PinView, PlaneView, QuickFilterView, SettingsView, ShortcutDetail, Topic } from '@rellin/contract';

/** By which the server knows this page from the others; nothing hangs on its being secret. */
export const PAGE = Math.random().toString(36).slice(2);

/** What an answer holds of what the page shows: it need not be read again. */
export interface Held {
  key: QueryKey;
  data: unknown;
}

type Reader = (topics: Topic[], held: Held | undefined) => Promise<unknown>;
const readers = new Set<Reader>();
const reading = new Set<Promise<unknown>>();

/** Calls `reader` with what each answer says it changed; returns what ends that. */
export function onChanged(reader: Reader): () => void {
  readers.add(reader);
  return () => void readers.delete(reader);
}

/** An answer said this in its header. */
export function tellChanged(header: string | null | undefined, path: string, data: unknown): void {
  if (!header) return;
  const topics = header.split(' ') as Topic[];
  for (const reader of readers) {
    const read = reader(topics, heldIn(path, data));
    reading.add(read);
    const over = () => reading.delete(read);
    read.then(over, over);
  }
}

/** Resolves when all that the answers so far changed is read again. */
export const readAgain = (): Promise<unknown> => Promise.allSettled([...reading]);

function heldIn(path: string, data: unknown): Held | undefined {
  if (typeof data !== 'object' || data === null) return undefined;
  const [topic, id, what] = path.slice(1).split('/');
  switch (topic) {
    case 'settings':
      return { key: ['settings'], data: data as SettingsView };
    case 'pins':
      return { key: ['pins'], data: data as PinView[] };
    case 'quick-filters':
      return { key: ['quick-filters'], data: data as QuickFilterView[] };
    case 'shortcuts':
      return 'weekly' in data ? { key: ['shortcuts', 'detail', (data as ShortcutDetail).id], data } : undefined;
    case 'collections':
      return what === 'members' && 'members' in data ? { key: ['collections', 'members', id], data } : undefined;
    case 'boards': {
      const plane = ('plane' in data ? data.plane : data) as PlaneView;
      return { key: ['boards', 'plane', plane.board.id], data: plane };
    }
    default:
      return undefined;
  }
}
