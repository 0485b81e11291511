/**
 * What an act touches: of each table that acts change, the topics whose lists may look otherwise then. The one place
 * where that stands: an answer names these topics to the page that asked, and an event to all others.
 */
import type { Topic } from '@rellin/contract';

export const TOPICS_OF = {
  // counts of collections and tags, what lies on boards, rows of originals and programs
  shortcut: ['shortcuts', 'boards', 'pins', 'originals', 'programs', 'plan', 'collections', 'tags'],
  pin: ['pins', 'shortcuts', 'collections', 'tags', 'searches', 'plan'],
  place: ['places'],
  setting: ['settings', 'shortcuts', 'plan'],
  opening: ['openings', 'shortcuts'],
  // what a collection holds says so
  collection: ['collections', 'pins', 'shortcuts', 'searches'],
  member: ['collections', 'pins', 'shortcuts', 'searches', 'plan'],
  tag: ['tags', 'pins', 'shortcuts', 'originals', 'searches'],
  tagging: ['tags', 'pins', 'shortcuts', 'originals', 'searches'],
  companion: ['shortcuts'],
  filing: ['originals', 'shortcuts', 'deleted', 'sweeps'],
  quick_filter: ['quick-filters'],
  system_default: ['programs'],
  alias: ['aliases', 'shortcuts'],
  publication: ['aliases', 'collections'],
  plan_forecast: ['plan'],
  board: ['boards', 'shortcuts', 'plan'],
  region: ['boards', 'shortcuts', 'plan'],
  bundle: ['boards', 'shortcuts', 'plan'],
  board_item: ['boards', 'shortcuts', 'plan'],
  sweep: ['sweeps'],
  saved_search: ['searches', 'collections', 'pins', 'tags'],
} as const satisfies Record<string, readonly Topic[]>;

/** A table whose rows acts change: it has its line above, or the act does not compile. */
export type JournaledTable = keyof typeof TOPICS_OF;

/** Of an act that changed rows of these tables. */
export function topicsOf(tables: Iterable<string>): Set<Topic> {
  const topics = new Set<Topic>(['journal']);
  for (const table of tables)
    if (Object.hasOwn(TOPICS_OF, table)) for (const topic of TOPICS_OF[table as JournaledTable]) topics.add(topic);
  return topics;
}
