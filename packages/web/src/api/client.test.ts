import { describe, expect, it } from '@jest/globals';
import { PAGE_HEADER } from '@rellin/contract';
import { PAGE } from './changes';
import { get, patch, post, ProblemError, remove, settled } from './client';

const answers = (work: () => Promise<Partial<Response>>) => {
  globalThis.fetch = (async () => ({ headers: new Headers(), ...(await work()) })) as unknown as typeof fetch;
};
const failure = async (work: Promise<unknown>) => {
  const error = await work.then(
    () => undefined,
    (e: unknown) => e,
  );
  expect(error).toBeInstanceOf(ProblemError);
  return error as ProblemError;
};

describe('talking to the server', () => {
  it('sends JSON only where there is a body', async () => {
    const sent: unknown[] = [];
    globalThis.fetch = (async (address: string, init: RequestInit) => {
      sent.push([address, init.method, init.headers, init.body]);
      return { ok: true, status: 200, headers: new Headers(), json: async () => 1 };
    }) as unknown as typeof fetch;
    const page = { [PAGE_HEADER]: PAGE };
    await get('/shortcuts', { from: 'bin' });
    await post('/pins', { target: 'tag', targetId: 'a' });
    expect(sent).toEqual([
      ['/api/shortcuts?from=bin', 'GET', page, undefined],
      ['/api/pins', 'POST', { 'content-type': 'application/json', ...page }, '{"target":"tag","targetId":"a"}'],
    ]);
  });

  it('takes problem details as an error that says what happened and what to do', async () => {
    answers(async () => ({
      ok: false,
      status: 409,
      json: async () => ({
        type: 'urn:rellin:problem:original-away',
        status: 409,
        detail: 'It is away.',
        remedy: 'Connect it.',
      }),
    }));
    const error = await failure(post('/openings', { route: 'test' }));
    expect([error.kind, error.message, error.problem.status]).toEqual([
      'original-away',
      'It is away. Connect it.',
      409,
    ]);
  });

  it('says that the server does not answer, and that nothing confirmed is lost', async () => {
    answers(async () => {
      throw new TypeError('failed to fetch');
    });
    const error = await failure(get('/pins'));
    expect(error.kind).toBe('server-away');
    expect(error.message).toContain('Nothing that was confirmed is lost');
  });

  it('makes something of an answer that explains nothing', async () => {
    answers(async () => ({
      ok: false,
      status: 502,
      json: async () => {
        throw new SyntaxError('not JSON');
      },
    }));
    expect((await failure(get('/pins'))).message).toContain('502');
  });

  it('lets a cancelled request be cancelled', async () => {
    answers(async () => {
      throw new DOMException('cancelled', 'AbortError');
    });
    await expect(get('/pins')).rejects.toMatchObject({ name: 'AbortError' });
  });

  it('has nothing to read where nothing was sent', async () => {
    answers(async () => ({ ok: true, status: 204 }));
    expect(await remove('/pins/1')).toBeUndefined();
  });

  it('knows when the changes sent so far are answered; questions are not waited for', async () => {
    const answer: (() => void)[] = [];
    answers(() => new Promise((resolve) => answer.push(() => resolve({ ok: true, status: 200, json: async () => 1 }))));
    let over = false;
    void patch('/pins/1', { slot: 2 });
    void post('/searches/ask', { query: 'tide' });
    const waited = settled().then(() => (over = true));
    await Promise.resolve();
    expect(over).toBe(false);
    answer[0]!();
    await waited;
    await settled();
  });
});
