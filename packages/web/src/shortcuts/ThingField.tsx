/**
 * One field for whatever a shortcut may point to: a path in any spelling, an address with or without its scheme, the
 * name of a program or of a file. It is completed from paths, programs, files and what was opened lately.
 */
import { useEffect, useState } from 'react';
import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import type { OriginalRef } from '@rellin/contract';
import type { Kind } from '@rellin/core/kinds';
import { kindWord } from '@rellin/core/kinds';
import { Finder } from '@rellin/core/match';
import { nameOf, shown } from '@rellin/core/paths';
import { get } from '../api/client';
import { useFind, usePrograms, useRecent, useShortcuts } from '../api/queries';
import { KindIcon } from '../parts/KindIcon';

/** Something offered. */
interface Offered {
  key: string;
  /** What the field holds once it is taken. */
  text: string;
  kind: Kind;
  detail: string;
  original?: OriginalRef;
}

const MOST_PROGRAMS = 4;
const MOST_FILES = 6;
const MOST_RECENT = 6;

export interface ThingFieldProps {
  value: string;
  onChange(value: string): void;
  /** Taken from what was offered: a file is meant by its place, whatever its name. */
  onOriginal(original: OriginalRef, text: string): void;
  /** Several lines were pasted. */
  onLines(lines: string[]): void;
  error: string | undefined;
  help: React.ReactNode;
}

const isPath = (text: string) => /^[/~]/.test(text);
const isAddress = (text: string) => /^[a-z]+:/i.test(text) || /^www\./i.test(text);

export function ThingField({ value, onChange, onOriginal, onLines, error, help }: ThingFieldProps) {
  const offered = useOffered(value);
  return (
    <Autocomplete
      freeSolo
      fullWidth
      options={offered}
      filterOptions={(all) => all}
      getOptionLabel={(option) => (typeof option === 'string' ? option : option.text)}
      isOptionEqualToValue={(a, b) => typeof b !== 'string' && a.key === b.key}
      inputValue={value}
      onInputChange={(_, text, why) => why !== 'selectOption' && onChange(text)}
      onChange={(_, taken) => {
        if (taken === null || typeof taken === 'string') return;
        onChange(taken.text);
        if (taken.original) onOriginal(taken.original, taken.text);
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
          helperText={error ?? help}
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
  const words = text === '' || isPath(text) || isAddress(text) ? '' : text;
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
    const known = new Set(shortcuts.map((s) => s.name));
    const names = [...new Set(recent.filter((r) => r.shortcutId === null).map((r) => r.name))];
    return names
      .filter((name) => !known.has(name))
      .slice(0, MOST_RECENT)
      .map((name) => ({ key: `recent ${name}`, text: shown(name), kind: 'file', detail: 'opened lately' }));
  }
  if (words === '') return [];
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
        detail: `${kindWord(a.kind)} · ${a.trail}`,
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

/** What is meant, asked for a moment after the last letter. */
export function useMeant(typed: string) {
  const [asked, setAsked] = useState(typed);
  useEffect(() => {
    const timer = setTimeout(() => setAsked(typed), 150);
    return () => clearTimeout(timer);
  }, [typed]);
  const text = asked.trim();
  const answer = useQuery({
    queryKey: ['shortcuts', 'meant', text],
    queryFn: () => get('/shortcuts/meant', { path: text }),
    enabled: text !== '',
    retry: false,
  });
  return typed.trim() === text ? answer.data : undefined;
}

/** What is meant, in one line. */
export function Meant({ typed }: { typed: string }) {
  const answer = useMeant(typed);
  if (typed.trim() === '')
    return <>A path (/… or ~/…), a web address, or the name of a program or a file; several lines make several</>;
  if (!answer) return <>…</>;
  if (!answer.meant) return <span className="meant-none">{answer.trouble?.text}</span>;
  const { kind, name, location, shortcut } = answer.meant;
  return (
    <span className="meant">
      {kindWord(kind)} <b>{shown(name || nameOf(location))}</b>
      {location && ` · ${shown(location)}`}
      {shortcut && <> · has the shortcut “{shortcut.name}” already</>}
    </span>
  );
}
