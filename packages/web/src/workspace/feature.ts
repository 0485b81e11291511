/**
 * What a feature of the page puts into the whole: its dialogs, and its commands in the find line. Each room that has
 * any says so in its `feature.ts`; `features.ts` lists them, and the frame and the find line read that list.
 */
import { createContext, lazy, useContext, type ComponentType } from 'react';
import type { NavigateFunction } from 'react-router';
import type { DialogKind, DialogRequest } from './dialogRequest';
import type { Commands } from './useCommands';

/** Dialogs that come in one piece. */
export interface DialogGroup {
  kinds: readonly DialogKind[];
  load(): Promise<{ default: ComponentType }>;
  /** Fetched when the page has nothing else to do, so that the first key typed into one is not lost. */
  atIdle?: boolean;
}

/** A command that stands for itself, found by its words in the find line. */
export interface FindCommand {
  name: string;
  /** What it is called in one word. */
  called?: string;
  run(): void;
}

/** What commands are made from. */
export interface FindTools {
  d: Commands;
  openDialog(request: DialogRequest): void;
  navigate: NavigateFunction;
  quiet: boolean;
  setQuiet(quiet: boolean): void;
}

export interface Feature {
  dialogs?: readonly DialogGroup[];
  commands?(tools: FindTools): FindCommand[];
}

/** All features together, and by kind what shows a dialog. */
export interface Features {
  all: readonly Feature[];
  dialogs: Readonly<Partial<Record<DialogKind, ComponentType>>>;
}

export function assemble(all: readonly Feature[]): Features {
  const dialogs: Partial<Record<DialogKind, ComponentType>> = {};
  for (const { kinds, load } of all.flatMap((f) => f.dialogs ?? [])) {
    const Group = lazy(load);
    for (const kind of kinds) dialogs[kind] = Group;
  }
  return { all, dialogs };
}

export const FeaturesContext = createContext<Features>(assemble([]));
export const useFeatures = (): Features => useContext(FeaturesContext);
