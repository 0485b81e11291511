/**
 * What the page's own requests changed: each answer names the topics, which are read again at once. The server's events
 * tell all other pages, and this one of what others did.
 */
import type { QueryKey } from '@tanstack/react-query';
import type { BoardLayout, ShortcutDetail, Topic } from '@rellin/contract';

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
  const [topic, id] = path.slice(1).split('/');
  switch (topic) {
    case 'settings':
    case 'pins':
    case 'quick-filters':
      return { key: [topic], data };
    case 'shortcuts':
      // a card's own, which the list's rows lack
      return 'weekly' in data ? { key: ['shortcuts', 'detail', id ?? (data as ShortcutDetail).id], data } : undefined;
    case 'collections':
      return 'members' in data ? { key: ['collections', 'members', id], data } : undefined;
    case 'boards': {
      const layout = 'layout' in data ? data.layout : data;
      return isBoardLayout(layout) ? { key: ['boards', 'layout', layout.board.id], data: layout } : undefined;
    }
    default:
      return undefined;
  }
}

const isBoardLayout = (data: unknown): data is BoardLayout =>
  typeof data === 'object' && data !== null && 'regions' in data;
