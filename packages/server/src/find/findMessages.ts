import type { FewestCharacters, FindItem } from '@rellin/core/match';

export interface FoundAnswer {
  id: string;
  group: FindItem['group'];
  name: string;
  trail: string;
  ranges: [number, number][];
}

export type ToFinder =
  | { kind: 'search'; ask: number; query: string; limit: number }
  | { kind: 'catalogue'; items: FindItem[] }
  | { kind: 'place'; placeId: number; name: string }
  | { kind: 'forget-place'; placeId: number }
  | { kind: 'changed'; placeId: number; touched: number[] }
  | { kind: 'fewest'; ids: string[] };

export type FromFinder =
  | { kind: 'answer'; ask: number; answers: FoundAnswer[] }
  | { kind: 'fewest'; found: [string, FewestCharacters | undefined][]; left: number }
  | { kind: 'trouble'; message: string };
