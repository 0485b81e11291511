/**
 * Who asked for what is being done, for as long as the request lasts: what it changes is told with its answer, so that
 * the page that asked need not be told once more.
 */
import { AsyncLocalStorage } from 'node:async_hooks';
import type { Topic } from '@rellin/contract';

/** What a page may call itself. */
export const PAGE_NAME = /^[\w-]{1,40}$/;

export interface Asker {
  /** As the page names itself; undefined for the command. */
  page: string | undefined;
  changed: Set<Topic>;
  /** The answer is not sent yet. What was only set going by the request is nobody's in particular. */
  waits: boolean;
}

const askers = new AsyncLocalStorage<Asker>();

/** Runs what a request does as asked for by it. */
export const askedBy = <T>(asker: Asker, work: () => T): T => askers.run(asker, work);

/** Who waits for an answer to what is being done; undefined where nobody does. */
export function presentAsker(): Asker | undefined {
  const asker = askers.getStore();
  return asker?.waits ? asker : undefined;
}
