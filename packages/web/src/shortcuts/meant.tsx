/** What something typed would point to, in words. */
import { useEffect, useState } from 'react';
import { useQuery } from '@tanstack/react-query';
import type { MeantView } from '@rellin/contract';
import { kindWord } from '@rellin/core/kinds';
import { nameOf, shown } from '@rellin/core/paths';
import { get } from '../api/client';

/** Asked for a moment after the last letter; undefined until it is known. */
export function useMeant(typed: string): MeantView | undefined {
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

/** In one line: what it is, or why it leads nowhere. */
export function MeantText({ answer: { meant, trouble } }: { answer: MeantView }) {
  if (!meant) return <>{trouble?.text}</>;
  const { kind, name, location, shortcut } = meant;
  return (
    <>
      {kindWord(kind)} <b>{shown(name || nameOf(location))}</b>
      {location && ` · ${shown(location)}`}
      {shortcut && <> · has the shortcut “{shortcut.name}” already</>}
    </>
  );
}
