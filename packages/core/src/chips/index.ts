/**
 * Words of the find line that are meant as conditions: "opened last week", "pdf", "from the field drive". Each is
 * offered as a chip that narrows; nothing is narrowed unasked, since "pdf" may as well be a name. Common practice.
 */
import { KINDS, kindWord, type Kind } from '../kinds/index.js';
import { fold } from '../match/index.js';
import { formatQuery, type Condition, type QueryNode, type TimeField, type TimeWord } from '../query/index.js';

export interface Chip {
  /** What stands on the chip. */
  label: string;
  /** The condition in the language of saved searches. */
  where: string;
  /** Half-open range of the words in the text, code units: they go when the chip is taken. */
  from: number;
  to: number;
}

export interface ChipContext {
  /** Names of the places. */
  places: readonly string[];
  /** Names of the tags. */
  tags: readonly string[];
}

const TIMES: Record<string, TimeWord> = {
  today: { type: 'named', name: 'today' },
  yesterday: { type: 'named', name: 'yesterday' },
  'this week': { type: 'named', name: 'this-week' },
  'last week': { type: 'named', name: 'last-week' },
  'this month': { type: 'named', name: 'this-month' },
  'last month': { type: 'named', name: 'last-month' },
  'this year': { type: 'named', name: 'this-year' },
  'last year': { type: 'named', name: 'last-year' },
};
const FIELDS: Record<string, TimeField> = {
  opened: 'opened',
  modified: 'modified',
  changed: 'modified',
  created: 'created',
  new: 'created',
};
/** Other words for kinds, singular; a plural "s" is taken off. */
const KIND_WORDS: Record<string, Kind> = {
  image: 'picture',
  photo: 'picture',
  photograph: 'picture',
  spreadsheet: 'table',
  audio: 'sound',
  recording: 'sound',
  film: 'video',
  zip: 'archive',
  code: 'source',
  page: 'web',
  directory: 'folder',
  app: 'program',
  application: 'program',
};
for (const kind of KINDS) KIND_WORDS[fold(kindWord(kind))] ??= kind;
for (const kind of KINDS) KIND_WORDS[kind] ??= kind;
/** Too general to be meant as a kind. */
delete KIND_WORDS['file'];
delete KIND_WORDS['link'];

interface Word {
  text: string;
  from: number;
  to: number;
}

/** The chips that a text offers, in its order; of overlapping ones the longer. Cost: words × places and tags. */
export function chipsOf(text: string, { places, tags }: ChipContext): Chip[] {
  const words: Word[] = [...text.matchAll(/\S+/g)].map((m) => ({
    text: fold(m[0]),
    from: m.index,
    to: m.index + m[0].length,
  }));
  const chips: Chip[] = [];
  for (let i = 0; i < words.length;) {
    const chip = chipAt(words, i, places, tags);
    if (!chip) {
      i++;
      continue;
    }
    chips.push(chip.chip);
    i += chip.count;
  }
  return chips;
}

function chipAt(
  words: readonly Word[],
  at: number,
  places: readonly string[],
  tags: readonly string[],
): { chip: Chip; count: number } | undefined {
  const text = (count: number) =>
    words
      .slice(at, at + count)
      .map((w) => w.text)
      .join(' ');
  const made = (count: number, label: string, condition: Condition) => ({
    count,
    chip: {
      label,
      where: formatQuery(condition as QueryNode),
      from: words[at]!.from,
      to: words[at + count - 1]!.to,
    },
  });
  for (let count = Math.min(6, words.length - at); count >= 1; count--) {
    const phrase = text(count);
    const time = timeIn(phrase);
    if (time) return made(count, time.label, time.condition);
    const from = /^(?:from|on|in)(?: the)? (.+)$/.exec(phrase)?.[1];
    const place = from !== undefined && places.find((p) => fold(p) === from);
    if (place) return made(count, `in ${place}`, { type: 'in', folders: [place] });
    const tagged = /^(?:tagged|tag) (.+)$/.exec(phrase)?.[1];
    const tag = tagged !== undefined && tags.find((t) => fold(t) === tagged);
    if (tag) return made(count, `tagged ${tag}`, { type: 'tag', name: tag });
    if (phrase === 'never opened') return made(count, phrase, { type: 'never-opened' });
    if (count === 1) {
      const kind = KIND_WORDS[phrase] ?? KIND_WORDS[phrase.replace(/s$/, '')];
      if (kind) return made(1, kindWord(kind), { type: 'kind', values: [kind] });
    }
  }
  return undefined;
}

function timeIn(phrase: string): { label: string; condition: Condition } | undefined {
  const space = phrase.indexOf(' ');
  const field = FIELDS[phrase.slice(0, space)];
  const time = TIMES[phrase.slice(space + 1)];
  if (space < 0 || !field || !time) return undefined;
  return { label: phrase, condition: { type: 'time', field, op: ':', word: time } };
}
