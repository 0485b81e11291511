/** Letters typed in a list go to the name that begins with them; each list says here how it does that. */
import { useEffect, type RefObject } from 'react';

const lists = new WeakMap<Element, (typed: string) => void>();

/** Where letters may be the beginning of a name. */
const LISTS = '[role="grid"], [role="tree"], [role="listbox"]';

export const listOf = (target: EventTarget | null): Element | null =>
  target instanceof Element ? target.closest(LISTS) : null;

/**
 * Goes to the first name in a list that begins with what was typed; a list that did not say how is looked through as it
 * stands.
 */
export function goToName(list: Element, typed: string): void {
  const own = lists.get(list);
  if (own) return own(typed);
  const items = [...list.querySelectorAll<HTMLElement>('[role="treeitem"], [role="option"], [role="row"]')];
  items.find((item) => startsWith((item.textContent ?? '').trim(), typed))?.focus();
}

export const startsWith = (name: string, typed: string): boolean =>
  name.toLocaleLowerCase().startsWith(typed.toLocaleLowerCase());

/** The first item whose name begins with what was typed; -1 where none does. Items on their way are left out. */
export function indexOfName<T>(
  count: number,
  item: (index: number) => T | undefined,
  nameOf: (item: T) => string,
  typed: string,
): number {
  for (let i = 0; i < count; i++) {
    const it = item(i);
    if (it !== undefined && startsWith(nameOf(it), typed)) return i;
  }
  return -1;
}

/** Says how a list goes to a name: where its items are not all on the page. */
export function useTypeAhead(list: RefObject<Element | null>, goTo: ((typed: string) => void) | undefined): void {
  useEffect(() => {
    const node = list.current;
    if (!node || !goTo) return;
    lists.set(node, goTo);
    return () => void lists.delete(node);
  });
}
