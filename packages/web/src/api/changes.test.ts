import { afterEach, describe, expect, it } from '@jest/globals';
import { QueryClient } from '@tanstack/react-query';
import { CHANGED_HEADER } from '@rellin/contract';
import { onChanged, readAgain } from './changes';
import { get, patch, post } from './client';
import { refresh } from './refresh';

/** A client that knows these, and what is stale in it. */
function page(...keys: string[][]) {
  const client = new QueryClient();
  for (const key of keys) client.setQueryData(key, 'as it was');
  const stop = onChanged((topics, held) => refresh(client, topics, held));
  const stale = () =>
    client
      .getQueryCache()
      .getAll()
      .flatMap((q) => (q.state.isInvalidated ? [q.queryKey.join(' ')] : []));
  return { client, stop, stale };
}
const answer = (data: unknown, ...topics: string[]) => {
  const headers = new Headers(topics.length > 0 ? { [CHANGED_HEADER]: topics.join(' ') } : {});
  globalThis.fetch = (async () => ({
    ok: true,
    status: 200,
    headers,
    json: async () => data,
  })) as unknown as typeof fetch;
};

let shown: ReturnType<typeof page>;
afterEach(() => shown.stop());

describe('what an answer says it changed', () => {
  it('is read again, but for what the answer holds, which is shown as it stands there', async () => {
    shown = page(['settings'], ['journal', '30'], ['pins'], ['places']);
    answer({ pinLimit: 8 }, 'settings', 'journal', 'pins');
    await patch('/settings', { pinLimit: 8 });
    await readAgain();
    expect(shown.stale().sort()).toEqual(['journal 30', 'pins']);
    expect(shown.client.getQueryData(['settings'])).toEqual({ pinLimit: 8 });
  });

  it('takes a board from beside the count of what was done, and one card without the list', async () => {
    shown = page(['boards', 'layout', 'b1'], ['boards', 'list'], ['shortcuts', 'detail', 's1'], ['shortcuts', 'list']);
    const layout = { board: { id: 'b1' }, regions: [] };
    answer({ moved: 1, layout }, 'boards');
    await post('/boards/b1/tidy');
    answer({ id: 's1', weekly: [] }, 'shortcuts');
    await patch('/shortcuts/s1', { name: 'x' });
    await readAgain();
    expect(shown.stale().sort()).toEqual(['boards list', 'shortcuts list']);
    expect(shown.client.getQueryData(['boards', 'layout', 'b1'])).toEqual(layout);
    expect(shown.client.getQueryData(['shortcuts', 'detail', 's1'])).toMatchObject({ id: 's1' });
  });

  it('is nothing where it says nothing, and a list is not taken for what it lists', async () => {
    shown = page(['boards', 'list'], ['tags']);
    answer([{ id: 'b1' }]);
    await get('/boards');
    expect(shown.stale()).toEqual([]);
    answer([{ id: 'b1' }], 'tags');
    expect(await get('/boards')).toEqual([{ id: 'b1' }]);
    await readAgain();
    expect(shown.stale()).toEqual(['tags']);
  });
});
