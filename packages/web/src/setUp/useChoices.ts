/** What is chosen on the page of the first steps: what was proposed, until the person says otherwise. */
import { useState } from 'react';
import type { ChosenAddress, OfferedFolder, SetUpView, UsedThing } from '@rellin/contract';
import { isWithin } from '@rellin/core/paths';
import { readBookmarks, type Bookmarked } from './readBookmarks';

/** Something to choose: found on the machine, or an address from a file of bookmarks. */
export type Offer =
  | { from: 'machine'; key: string; name: string; thing: UsedThing }
  | { from: 'file'; key: string; name: string; url: string };

export interface Choices {
  offers: Offer[];
  isFolderChosen(folder: OfferedFolder): boolean;
  /** Why a folder cannot be chosen just now. */
  whyNot(folder: OfferedFolder): string | undefined;
  toggleFolder(folder: OfferedFolder): void;
  isChosen(offer: Offer): boolean;
  toggle(offer: Offer): void;
  chooseAll(chosen: boolean): void;
  /** False where there is no address in the text. */
  takeBookmarks(text: string): boolean;
  folders: string[];
  things: string[];
  addresses: ChosenAddress[];
}

export function useChoices({ folders, things }: SetUpView): Choices {
  const [ofFolders, setOfFolders] = useState<Readonly<Record<string, boolean>>>({});
  const [ofOffers, setOfOffers] = useState<Readonly<Record<string, boolean>>>({});
  const [bookmarked, setBookmarked] = useState<Bookmarked[]>([]);
  const isMarked = (folder: OfferedFolder) => folder.placeId === null && (ofFolders[folder.path] ?? folder.proposed);
  const marked = folders.filter(isMarked);
  const around = (folder: OfferedFolder) =>
    marked.find((other) => other !== folder && isWithin(other.path, folder.path));
  const chosen = marked.filter((folder) => !around(folder));
  const known = new Set(things.map((thing) => thing.location));
  const offers: Offer[] = [
    ...things.map((thing): Offer => ({ from: 'machine', key: thing.key, name: thing.name, thing })),
    ...bookmarked
      .filter(({ url }) => !known.has(url))
      .map(({ url, name }): Offer => ({ from: 'file', key: `address ${url}`, name, url })),
  ];
  const onBar = new Set(bookmarked.flatMap(({ url, isOnBar }) => (isOnBar ? [url] : [])));
  const isWanted = (offer: Offer) =>
    ofOffers[offer.key] ?? (offer.from === 'machine' ? offer.thing.proposed : onBar.has(offer.url));
  /** The folder that would have to be chosen for it, where it is not. */
  const missing = (offer: Offer) => {
    const folder = offer.from === 'machine' ? offer.thing.folder : null;
    return folder !== null && !chosen.some((c) => isWithin(c.path, folder)) ? folder : undefined;
  };
  const isChosen = (offer: Offer) => isWanted(offer) && missing(offer) === undefined;
  const choose = (some: readonly Offer[], yes: boolean) => {
    setOfOffers((before) => ({ ...before, ...Object.fromEntries(some.map(({ key }) => [key, yes])) }));
    if (!yes) return;
    const needed = some.flatMap((offer) => missing(offer) ?? []);
    setOfFolders((before) => ({ ...before, ...Object.fromEntries(needed.map((path) => [path, true])) }));
  };
  const all = offers.filter(isChosen);
  return {
    offers,
    isFolderChosen: (folder) => folder.placeId !== null || isMarked(folder) || around(folder) !== undefined,
    whyNot: (folder) => {
      if (folder.placeId !== null) return 'Rellin looks into it already.';
      const other = around(folder);
      return other && `It lies in ${other.name}, which is chosen.`;
    },
    toggleFolder: (folder) => setOfFolders((before) => ({ ...before, [folder.path]: !isMarked(folder) })),
    isChosen,
    toggle: (offer) => choose([offer], !isChosen(offer)),
    chooseAll: (yes) => choose(offers, yes),
    takeBookmarks: (text) => {
      const found = readBookmarks(text);
      if (found) setBookmarked(found);
      return found !== undefined;
    },
    folders: chosen.map((folder) => folder.path),
    things: all.flatMap((offer) => (offer.from === 'machine' ? [offer.key] : [])),
    addresses: all.flatMap((offer) => (offer.from === 'file' ? [{ url: offer.url, name: offer.name }] : [])),
  };
}
