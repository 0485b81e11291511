/** What a sweep says of things, destinations and reasons. */
import type { Reason } from '@rellin/core/belongs';
import { kindWord, type Kind } from '@rellin/core/kinds';
import { AGE_BANDS, plainName, SIZE_BANDS, type Grouping, type StayReason } from '@rellin/core/sweep';
import { formatBytes } from '@rellin/core/units';
import type { SweepFolder, SweepRule, SweepThing, SweepTo, SweepView } from '@rellin/contract';

const number = new Intl.NumberFormat('en-GB');

export const STAY_WORDS: Record<StayReason, string> = {
  'kept-by-rellin': 'kept there by Rellin',
  destination: 'a destination lies in it',
  hidden: 'hidden: a program keeps it there',
  'not-a-file': 'a link, or no file at all',
  download: 'not fetched completely yet',
  open: 'open in a program',
  recent: 'changed just now',
};

/** What a person may send away all the same. */
export const MAY_GO: ReadonlySet<StayReason> = new Set(['recent', 'hidden']);

export const percent = (probability: number) => `${Math.round(probability * 100)} %`;

/** Why a folder is suggested. */
export function reasonWords(reason: Reason): string {
  switch (reason.by) {
    case 'ending':
      return `${reason.count} of ${reason.of} files there end in .${reason.ending}`;
    case 'alike':
      return (
        (reason.count > 1
          ? `${reason.count} files there begin with “${reason.beginning}”`
          : `“${reason.name}” lies there`) + (reason.word === undefined ? '' : `, “${reason.word}” is in its path`)
      );
    case 'same-name':
      return `“${reason.name}” lies there`;
    case 'path':
      return `“${reason.word}” is in its path`;
    case 'lately':
      return 'something went there lately';
  }
}

export const folderWords = ({ name, trail }: Pick<SweepFolder, 'name' | 'trail'>): string => plainName(name, trail);

export function whyWords(
  { why, duplicateOf, suggestions }: SweepThing,
  rules: readonly SweepRule[],
  folders: readonly SweepFolder[],
  to: SweepTo,
): string {
  const [first] = suggestions;
  if (first && first.to === to) return `${percent(first.probability)} · ${reasonWords(first.reason)}`;
  const twin = duplicateOf && `the same as “${duplicateOf.name}” in ${duplicateOf.trail.at(-1) ?? 'its place'}`;
  switch (why.by) {
    case 'stay':
      return STAY_WORDS[why.reason];
    case 'rule': {
      const rule = rules[why.rule];
      return rule?.when === 'duplicate' && twin ? twin : `rule ${why.rule + 1}: ${rule?.name ?? ''}`;
    }
    case 'belongs':
    case 'unknown':
      return twin ?? (first ? `perhaps ${folderWords(folders[first.to]!)}, ${percent(first.probability)}` : '');
  }
}

export const GROUPING_WORDS: Record<Grouping, string> = {
  kind: 'Kind',
  age: 'Changed',
  size: 'Size',
  origin: 'From',
  opened: 'Opened',
};

export function groupWords(by: Grouping, key: string): string {
  switch (by) {
    case 'kind':
      return kindWord(key as Kind);
    case 'age':
      return AGE_BANDS[Number(key)]!.name;
    case 'size':
      return key === 'folder' ? 'folders' : SIZE_BANDS[Number(key)]!.name;
    case 'origin':
      return key === '' ? 'not known' : key;
    case 'opened':
      return key === 'never' ? 'never opened' : 'opened before';
  }
}

/** Where real files are about to change. */
export const originals = (n: number) => (n === 1 ? 'one original' : `${number.format(n)} originals`);
export const things = (n: number) => (n === 1 ? 'one thing' : `${number.format(n)} things`);

const KINDS_OF_MANY: Partial<Record<Kind, string>> = {
  pdf: 'PDFs',
  picture: 'pictures',
  sound: 'recordings',
  video: 'videos',
  document: 'documents',
  table: 'tables',
  archive: 'archives',
  folder: 'folders',
};

/** "3 months", "12 days". */
export function ageWords(oldest: number, now = Date.now()): string {
  const days = Math.floor((now - oldest) / 86_400_000);
  if (days >= 730) return `${Math.floor(days / 365)} years`;
  if (days >= 61) return `${Math.floor(days / 30.4)} months`;
  return days === 1 ? '1 day' : `${days} days`;
}

/** What has gathered: "47 things, 1.2 GB, oldest 3 months". */
export function backlogWords({ backlog }: SweepView): string {
  if (backlog.things === 0) return 'nothing';
  const oldest = backlog.oldest === null ? '' : `, oldest ${ageWords(backlog.oldest)}`;
  return `${things(backlog.things)}, ${formatBytes(backlog.size)}${oldest}`;
}

/** As the start view says it. One that is due as soon as anything comes tells what came. */
export function dueWords(sweep: SweepView): string {
  const { fresh, freshKind } = sweep.backlog;
  if (sweep.threshold.things === 1 && fresh > 0) {
    const what =
      freshKind && fresh > 1 ? `new ${KINDS_OF_MANY[freshKind] ?? 'things'}` : fresh === 1 ? 'new thing' : 'new things';
    return `${sweep.name}: ${fresh} ${what}, file ${fresh === 1 ? 'it' : 'them'}?`;
  }
  return `${sweep.name}: ${backlogWords(sweep)}`;
}

/** Where a rule sends things. */
export function targetWords(rule: SweepRule, nameOf: (shortcutId: string) => string | undefined): string {
  if (rule.to === 'bin') return 'to the bin';
  if (rule.to === 'leave') return 'left there';
  return `to “${(rule.shortcutId && nameOf(rule.shortcutId)) ?? 'a folder that is gone'}”`;
}
