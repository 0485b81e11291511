/** A suggestion in words: what to do, and why in one sentence. */
import { shownKeys } from '@rellin/core/keys';
import type { Suggestion } from '@rellin/core/plan';

const times = (rate: number) => `Of late ${rate.toFixed(1)} openings a week`;

export function titleOf(s: Suggestion, nameOf: (id: string) => string): string {
  const name = `“${s.original ? s.original.name : nameOf(s.ids[0]!)}”`;
  switch (s.kind) {
    case 'pin':
      return `Pin ${name} as ${s.slot! + 1}`;
    case 'exchange':
      return `Pin ${name} in place of “${nameOf(s.ids[1]!)}”`;
    case 'unpin':
      return `Unpin ${name}`;
    case 'key':
      return `Give ${name} the key ${shownKeys(s.key!.keys)}`;
    case 'split':
      return `Split ${name} by ${s.grouping!.by}`;
    case 'merge':
      return `Make one of ${s.ids.map((id) => `“${nameOf(id)}”`).join(' and ')}`;
    case 'add':
      return `Add a shortcut to ${name}`;
    case 'drop':
      return `Take ${name} out of the catalogue`;
  }
}

export function reasonOf(s: Suggestion, idle: 'long-lost' | 'never-opened' | null): string {
  switch (s.kind) {
    case 'pin':
      return `${times(s.rate)}, and there is room on the strip.`;
    case 'exchange':
      return `${times(s.rate)}; its pin saves more than the other's.`;
    case 'unpin':
      return `Opened ${s.rate.toFixed(2)} times a week over the last four weeks.`;
    case 'key':
      return `${times(s.rate)}; the key is its letter, and nothing else uses it.`;
    case 'split': {
      const { groups, rest } = s.grouping!;
      const count = [...groups.values()].reduce((sum, ids) => sum + ids.length, 0) + rest.length;
      return `${count} in one list take longer than in ${groups.size} groups: ${[...groups.keys()].join(', ')}.`;
    }
    case 'merge':
      return 'They point to one original.';
    case 'add':
      return `Opened ${s.original!.times} times in two weeks through its folders, ${s.original!.steps} steps each.`;
    case 'drop':
      return idle === 'long-lost' ? 'Lost for over 30 days.' : 'Never opened since it was added, over 30 days ago.';
  }
}
