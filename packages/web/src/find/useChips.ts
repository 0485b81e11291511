/** Conditions offered for words typed. What reads them comes with the first word, not with the page. */
import { useEffect, useMemo, useState } from 'react';
import type { Chip, chipsOf } from '@rellin/core/chips';
import { usePlaces, useTags } from '../api/queries';

const NONE: Chip[] = [];

export function useChips(query: string): Chip[] {
  const places = usePlaces().data;
  const tags = useTags().data;
  const [read, setRead] = useState<{ chipsOf: typeof chipsOf }>();
  const needed = query !== '' && read === undefined;
  useEffect(() => {
    if (needed) void import('@rellin/core/chips').then(setRead);
  }, [needed]);
  return useMemo(
    () =>
      read?.chipsOf(query, {
        places: (places ?? []).map((p) => p.name),
        tags: (tags ?? []).map((t) => t.name),
      }) ?? NONE,
    [read, query, places, tags],
  );
}
