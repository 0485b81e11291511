/** A search as the page edits it: text and rows of one question, compared with what is saved; pure. */
import type { SearchShape, SearchView } from '@rellin/contract';
import { formatQuery, parseQuery, rowsOf, treeOf, type Group, type QueryRow } from '@rellin/core/query';
import type { SearchDraft } from '../workspace/workspace';
import { SHAPE_WORDS as LIST_SHAPE_WORDS } from '../parts/listShapes';
import type { FieldName } from './conditions';

export const SHAPE_WORDS: Record<SearchShape, string> = {
  ...LIST_SHAPE_WORDS,
  folders: 'By folder',
  'by-kind': 'By kind',
  'by-month': 'By month',
  'by-place': 'By place',
};

export const EMPTY: SearchDraft = {
  query: '',
  places: null,
  showAs: 'table',
  sortBy: 'name',
  descending: false,
  most: 500,
};

export const draftOf = ({ query, places, showAs, sortBy, descending, most }: SearchView): SearchDraft => ({
  query,
  places,
  showAs,
  sortBy,
  descending,
  most,
});

/** Whether the draft says the same as what is saved; another writing of the same question is the same. */
export function isSame(a: SearchDraft, b: SearchDraft): boolean {
  return (
    canonical(a.query) === canonical(b.query) &&
    String(a.places ?? '') === String(b.places ?? '') &&
    a.showAs === b.showAs &&
    a.sortBy === b.sortBy &&
    a.descending === b.descending &&
    a.most === b.most
  );
}

export function canonical(text: string): string {
  const parsed = parseQuery(text);
  return parsed.ok ? formatQuery(parsed.tree) : text;
}

/** Places with one taken in or left out; all of them are null, and the last one stays. */
export function placesWith(
  places: readonly number[] | null,
  all: readonly { id: number }[],
  id: number,
): number[] | null {
  const now = places ?? all.map((p) => p.id);
  const next = now.includes(id) ? now.filter((p) => p !== id) : [...now, id];
  if (next.length === 0) return [...now];
  return all.every((p) => next.includes(p.id)) ? null : next.sort((a, b) => a - b);
}

export function placesLabel(places: readonly number[] | null, all: readonly { id: number; name: string }[]): string {
  if (places === null) return 'All places';
  const names = all.filter((p) => places.includes(p.id)).map((p) => p.name);
  return names.length === 0
    ? 'A place that was left'
    : names.length > 2
      ? `${names.length} places`
      : names.join(' and ');
}

/** The rows a text says; undefined where it cannot be read. */
export function groupOf(text: string): Group | undefined {
  const parsed = parseQuery(text);
  return parsed.ok ? rowsOf(parsed.tree) : undefined;
}

/** A row in which nothing is written yet: it is on the page, and asks nothing. */
export interface BlankRow extends QueryRow {
  blank: FieldName;
}

export const blankRow = (field: FieldName, not = false): BlankRow => ({
  type: 'row',
  not,
  blank: field,
  condition: { type: 'word', text: '' },
});

export const isBlank = (part: Group | QueryRow): part is BlankRow => 'blank' in part;

/** Without what is still blank. */
function written(group: Group): Group {
  const parts = group.parts.flatMap((part): (Group | QueryRow)[] => {
    if (part.type !== 'group') return isBlank(part) ? [] : [part];
    const inner = written(part);
    return inner.parts.length > 0 ? [inner] : [];
  });
  return { ...group, parts };
}

export const textOf = (group: Group): string => {
  const { of, parts } = written(group);
  return parts.length === 0 ? '' : formatQuery(treeOf({ type: 'group', of, parts }));
};

/** A path of positions from the outermost group to one part of it. */
export type Path = readonly number[];

function changed(group: Group, path: Path, change: (parts: Group['parts'], at: number) => Group['parts']): Group {
  const [first, ...rest] = path;
  if (rest.length === 0) return { ...group, parts: change(group.parts, first!) };
  return {
    ...group,
    parts: group.parts.map((part, i) => (i === first && part.type === 'group' ? changed(part, rest, change) : part)),
  };
}

export const withPart = (group: Group, path: Path, part: Group | QueryRow): Group =>
  path.length === 0 ? (part as Group) : changed(group, path, (parts, at) => parts.map((p, i) => (i === at ? part : p)));

export const withoutPart = (group: Group, path: Path): Group =>
  changed(group, path, (parts, at) => parts.filter((_, i) => i !== at));

/** Puts a part at the end of the group at a path. */
export function withMore(group: Group, path: Path, part: Group | QueryRow): Group {
  if (path.length === 0) return { ...group, parts: [...group.parts, part] };
  return changed(group, path, (parts, at) =>
    parts.map((p, i) => (i === at && p.type === 'group' ? { ...p, parts: [...p.parts, part] } : p)),
  );
}
