/**
 * Web addresses from a file of bookmarks as browsers write them (the Netscape bookmark file format; common practice).
 */
import type { ChosenAddress } from '@rellin/contract';

export interface Bookmarked extends ChosenAddress {
  /** It stands on the browser's bar, where one puts what one opens often. */
  isOnBar: boolean;
}

/** Nobody looks through more. */
const MOST = 500;
const LONGEST = 4000;

/**
 * In their order, each address once. The text becomes a document that runs and fetches nothing. Undefined where there
 * is no address in it.
 */
export function readBookmarks(text: string): Bookmarked[] | undefined {
  const page = new DOMParser().parseFromString(text, 'text/html');
  const seen = new Set<string>();
  const found = [...page.querySelectorAll('a[href]')].flatMap((link): Bookmarked[] => {
    const url = link.getAttribute('href')!.trim();
    if (!/^(https?|mailto):/i.test(url) || url.length > LONGEST || seen.has(url)) return [];
    seen.add(url);
    const name = (link.textContent ?? '').trim().slice(0, 200);
    return [{ url, name: name || url, isOnBar: isOnBar(link) }];
  });
  return found.length > 0 ? found.slice(0, MOST) : undefined;
}

/** A folder's heading stands before the list that it is the heading of. */
function isOnBar(link: Element): boolean {
  const lists = [];
  for (let at = link.closest('dl'); at; at = at.parentElement?.closest('dl') ?? null) lists.push(at);
  return lists.some((list) => {
    const head = list.parentElement?.querySelector(':scope > h3') ?? list.previousElementSibling;
    return head?.getAttribute('personal_toolbar_folder') === 'true';
  });
}
