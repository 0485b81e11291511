import { useQuery } from '@tanstack/react-query';
import type { AnswersView } from '@rellin/contract';
import type { SearchDraft } from '../workspace/workspace';
import { post } from '../api/client';

const PAGE = 500;

/** The answer to a draft as it stands, read again when originals change. What was there stays until the new one is. */
export function useAnswers({ query, places, sortBy, descending, most }: SearchDraft) {
  return useQuery({
    queryKey: ['searches', 'answers', query, places, sortBy, descending, most],
    queryFn: async ({ signal }): Promise<AnswersView> => {
      const ask = (offset: number) =>
        post(
          '/searches/ask',
          { query, places, sortBy, descending, offset, limit: Math.min(PAGE, most - offset), rows: offset === 0 },
          signal,
        );
      const first = await ask(0);
      const answers = [...first.answers];
      for (let offset = PAGE; offset < Math.min(first.count, most); offset += PAGE)
        answers.push(...(await ask(offset)).answers);
      return { ...first, answers };
    },
    enabled: query.trim() !== '',
    placeholderData: (before) => before,
  });
}
