/**
 * The recent-files list that desktops keep (XBEL 1.0 with the desktop bookmark profile of freedesktop.org): which
 * program opened which file when. Reads only, and reads tolerantly: an entry that is not understood is passed over.
 */
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { parseFileUri } from '@rellin/core/paths';

/** Its name in the folder of the user's data. */
export const RECENT_FILES = 'recently-used.xbel';

export interface OpenedElsewhere {
  /** Absolute path. */
  path: string;
  /** Name of the program; empty where none is told. */
  program: string;
  /** Epoch milliseconds of the last time. */
  at: number;
  /** How the program is started; left out where it is not told. */
  exec?: string;
  /** Epoch milliseconds of when the file came into the list; left out where it is not told. */
  since?: number;
  /** How often that program has opened it since; left out where it is not told. */
  times?: number;
}

export type RecentFilesResult =
  { ok: true; opened: OpenedElsewhere[] } | { ok: false; reason: 'not-xml' | 'no-recent-files' | 'too-large' };

type Attributes = Record<`@${string}`, string | undefined>;
type Bookmark = Attributes & { info?: unknown };

/** What may stand once or often is a list always. */
const LISTS = new Set(['bookmark', 'bookmark:application', 'metadata']);

const parser = new XMLParser({
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  parseAttributeValue: false,
  parseTagValue: false,
  // references by number come with it
  htmlEntities: true,
  isArray: (name) => LISTS.has(name),
});

/** One entry for each file and program, with the last time; earlier ones are not in the list. Cost: linear. */
export function readRecentFiles(xml: string): RecentFilesResult {
  if (XMLValidator.validate(xml) !== true) return { ok: false, reason: 'not-xml' };
  const root = (parser.parse(xml) as { xbel?: unknown }).xbel;
  if (root === undefined) return { ok: false, reason: 'no-recent-files' };
  const bookmarks = children<Bookmark>(root, 'bookmark');
  return { ok: true, opened: bookmarks.flatMap(openedOf) };
}

function openedOf(bookmark: Bookmark): OpenedElsewhere[] {
  const uri = parseFileUri(bookmark['@href'] ?? '');
  if (!uri.ok) return [];
  const programs = children<unknown>(bookmark.info, 'metadata').flatMap((metadata) =>
    children<Attributes>(child(metadata, 'bookmark:applications'), 'bookmark:application'),
  );
  const since = timeOf(bookmark['@added']);
  const known = programs.flatMap((program): OpenedElsewhere[] => {
    const at = timeOf(program['@modified']) ?? secondsOf(program['@timestamp']);
    if (at === undefined) return [];
    const times = Number(program['@count']);
    return [
      {
        path: uri.path,
        program: program['@name'] ?? '',
        at,
        ...(program['@exec'] !== undefined && { exec: program['@exec'] }),
        ...(since !== undefined && { since }),
        ...(Number.isInteger(times) && times > 0 && { times }),
      },
    ];
  });
  if (known.length > 0) return known;
  const at = timeOf(bookmark['@visited']) ?? timeOf(bookmark['@modified']) ?? timeOf(bookmark['@added']);
  return at === undefined ? [] : [{ path: uri.path, program: '', at }];
}

function child(of: unknown, name: string): unknown {
  return typeof of === 'object' && of !== null ? (of as Record<string, unknown>)[name] : undefined;
}

function children<T>(of: unknown, name: string): T[] {
  const found = child(of, name);
  return Array.isArray(found) ? (found as T[]).filter((one) => typeof one === 'object' && one !== null) : [];
}

/** ISO 8601 with its zone, as the profile wants it. */
function timeOf(text: string | undefined): number | undefined {
  if (text === undefined || !/^\d{4}-\d\d-\d\dT/.test(text)) return undefined;
  const at = Date.parse(text);
  return Number.isNaN(at) ? undefined : at;
}

/** Seconds, as older programs write them. */
function secondsOf(text: string | undefined): number | undefined {
  const seconds = Number(text ?? '');
  return seconds > 0 ? seconds * 1000 : undefined;
}

/** What was opened after `since` and not in the future (a clock that was set), oldest first. */
export function openedSince(opened: readonly OpenedElsewhere[], since: number, now: number): OpenedElsewhere[] {
  return opened.filter(({ at }) => at > since && at <= now).sort((a, b) => a.at - b.at);
}
