/**
 * One field for whatever a shortcut may point to: a path in any spelling, an address with or without its scheme, the
 * name of a program or of a file. It is completed from paths, programs, files and what was opened lately.
 */
import { useEffect, useState } from 'react';
import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import type { OriginalId, OriginalRef, PlaceId } from '@rellin/contract';
import type { Kind } from '@rellin/core/kinds';
import { kindOf, kindWord } from '@rellin/core/kinds';
import { Finder } from '@rellin/core/match';
import { shown } from '@rellin/core/paths';
import { get } from '../api/client';
import { useFind, usePrograms, useRecent, useShortcuts } from '../api/queries';
import { KindIcon } from '../parts/KindIcon';
import { MeantText, useMeant } from './meant';

/** Something offered. */
interface Offered {
  key: string;
  /** What the field holds once it is taken. */
  text: string;
  kind: Kind;
  detail: string;
  original?: OriginalRef;
  /** Its text is still to be read. */
  isClipboard?: boolean;
}

const CLIPBOARD: Offered = {
  key: 'clipboard',
  text: 'What the clipboard holds',
  kind: 'file',
  detail: 'paths or addresses',
  isClipboard: true,
};
const MOST_PROGRAMS = 4;
const MOST_FILES = 6;
const MOST_RECENT = 6;

export interface ThingFieldProps {
  value: string;
  onChange(value: string): void;
  /** Taken from what was offered: a file is meant by its place, whatever its name. */
  onOriginal(original: OriginalRef, text: string, detail: string): void;
  /** Several lines were pasted. */
  onLines(lines: string[]): void;
  error: string | undefined;
  /** What is known of the file that the text stands for, where it was taken from what was offered. */
  original: string | undefined;
}

const isPath = (text: string) => /^[/~]/.test(text);
const isAddress = (text: string) => /^[a-z]+:/i.test(text) || /^www\./i.test(text);
const isWords = (text: string) => text !== '' && !isPath(text) && !isAddress(text);

export function ThingField({ value, onChange, onOriginal, onLines, error, original }: ThingFieldProps) {
  const offered = useOffered(value);
  const answer = useMeant(original === undefined ? value : '');
  const [unread, setUnread] = useState('');
  const take = (text: string) => {
    const lines = linesOf(text);
    if (lines.length > 1) onLines(lines);
    else onChange(lines[0] ?? '');
    setUnread(lines.length === 0 ? 'The clipboard holds no text.' : '');
  };
  const paste = () =>
    void navigator.clipboard
      .readText()
      .then(take, () => setUnread('The browser does not let Rellin read the clipboard; paste with Ctrl V instead.'));
  const help = () => {
    if (unread !== '' && value === '') return unread;
    if (original !== undefined) return original;
    if (value.trim() === '')
      return 'A path (/… or ~/…), a web address, the name of a program or file; ↓ offers recent ones';
    if (!answer) return '…';
    if (!answer.meant && isWords(value.trim()) && offered.length > 0) return 'Choose one of these, or type on';
    return <MeantText answer={answer} />;
  };
  // by Enter, unless what is typed means something by itself
  const takesFirst = isWords(value.trim()) && !answer?.meant;
  return (
    <Autocomplete
      freeSolo
      fullWidth
      autoHighlight={takesFirst}
      options={offered}
      filterOptions={(all) => all}
      getOptionLabel={(option) => (typeof option === 'string' ? option : option.text)}
      // what is chosen is only a text from then on
      value={null}
      inputValue={value}
      onInputChange={(_, text, why) => (why === 'input' || why === 'clear') && onChange(text)}
      onChange={(_, chosen) => {
        const taken = typeof chosen === 'string' ? (takesFirst ? offered[0] : undefined) : chosen;
        if (!taken) return;
        if (taken.isClipboard) return paste();
        onChange(taken.text);
        if (taken.original) onOriginal(taken.original, taken.text, taken.detail);
      }}
      renderOption={({ key: _, ...props }, option) => (
        <li {...props} key={option.key} className={`${props.className ?? ''} thing-offered`}>
          <KindIcon kind={option.kind} />
          <span className="name cut">{option.text}</span>
          <span className="small cut">{option.detail}</span>
        </li>
      )}
      renderInput={(params) => (
        <TextField
          {...params}
          label="Points to"
          autoFocus
          // what is pasted stands in the place of what was there, whichever way the focus came
          onFocus={(event) => event.target.select()}
          onPaste={(event) => {
            const lines = linesOf(event.clipboardData.getData('text/plain'));
            if (lines.length < 2) return;
            event.preventDefault();
            onLines(lines);
          }}
          error={error !== undefined}
          helperText={error ?? help()}
        />
      )}
    />
  );
}

/** What stands on lines of its own; several paths are copied like that. */
export const linesOf = (text: string): string[] => [
  ...new Set(
    text
      .split('\n')
      .map((line) => line.trim())
      .filter((line) => line !== '' && !line.startsWith('#')),
  ),
];

function useOffered(typed: string): Offered[] {
  const text = typed.trim();
  const paths = useCompletedPaths(text);
  const words = isWords(text) ? text : '';
  const programs = usePrograms().data ?? [];
  const found = useFind(words).data?.answers ?? [];
  const shortcuts = useShortcuts().data ?? [];
  const recent = useRecent().data ?? [];
  if (isPath(text))
    return paths.map((path) => ({
      key: path,
      text: path,
      kind: path.endsWith('/') ? 'folder' : 'file',
      detail: '',
    }));
  if (text === '') {
    const has = new Set(shortcuts.map((s) => `${s.placeId}/${s.originalId}`));
    const opened = new Map<string, Offered>();
    for (const { name, placeId, originalId } of recent) {
      const key = `${placeId}/${originalId}`;
      if (placeId === null || originalId === null || has.has(key) || opened.has(key)) continue;
      const kind = kindOf('file', name);
      const detail = `${kindWord(kind)} · opened lately`;
      opened.set(key, { key, text: shown(name), kind, detail, original: { placeId, originalId } });
    }
    return [...('clipboard' in navigator ? [CLIPBOARD] : []), ...[...opened.values()].slice(0, MOST_RECENT)];
  }
  if (words === '') return [];
  const thereAlready = (placeId: PlaceId, originalId: OriginalId) => {
    const there = shortcuts.find((s) => s.placeId === placeId && s.originalId === originalId);
    return there ? ` · has the shortcut “${there.name}” already` : '';
  };
  const finder = new Finder(programs.map((p) => ({ id: p.id, group: 'original', name: p.name })));
  const byId = new Map(programs.map((p) => [p.id, p]));
  return [
    ...finder.search(words, MOST_PROGRAMS).map(({ id }): Offered => {
      const { name, comment, genericName } = byId.get(id)!;
      return { key: `program ${id}`, text: name, kind: 'program', detail: comment || genericName || 'a program' };
    }),
    ...found
      .filter((a) => a.group === 'original' && a.placeId !== null && a.originalId !== null)
      .slice(0, MOST_FILES)
      .map((a): Offered => ({
        key: `original ${a.id}`,
        text: a.name,
        kind: a.kind,
        detail: `${kindWord(a.kind)} · ${a.trail}${thereAlready(a.placeId!, a.originalId!)}`,
        original: { placeId: a.placeId!, originalId: a.originalId! },
      })),
  ];
}

function useCompletedPaths(text: string): string[] {
  const [found, setFound] = useState<string[]>([]);
  const wanted = isPath(text);
  useEffect(() => {
    if (!wanted) return;
    const abort = new AbortController();
    get('/originals/complete', { path: text }, abort.signal).then(setFound, () => undefined);
    return () => abort.abort();
  }, [text, wanted]);
  return wanted ? found : [];
}
