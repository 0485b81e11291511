/** What an act changed is told with its answer to the page that asked, and by an event to all others. */
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { CHANGED_HEADER, PAGE_HEADER } from '@rellin/contract';
import { Rellin, until } from './testing/harness.js';

let rellin: Rellin;
beforeAll(async () => {
  rellin = await Rellin.make();
  rellin.write('here.txt');
});
afterAll(() => rellin?.remove());

const ending = new AbortController();
afterAll(() => ending.abort());

/** All topics that a page is told by events, as they come. */
async function listen(page?: string): Promise<string[]> {
  const told: string[] = [];
  const events = await fetch(`${rellin.address}/api/events${page ? `?page=${page}` : ''}`, {
    headers: { authorization: `Bearer ${rellin.token}` },
    signal: ending.signal,
  });
  void (async () => {
    let text = '';
    for await (const part of events.body!.pipeThrough(new TextDecoderStream())) {
      text += part;
      for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
        const event = text.slice(0, end);
        text = text.slice(end + 2);
        const data = /^data: (.*)$/m.exec(event)?.[1];
        if (/^event: changed$/m.test(event) && data) told.push(...(JSON.parse(data) as string[]));
      }
    }
  })().catch(() => undefined);
  return told;
}

async function asPage(page: string, method: string, path: string, body?: object): Promise<string[]> {
  const answer = await fetch(`${rellin.address}/api${path}`, {
    method,
    headers: {
      authorization: `Bearer ${rellin.token}`,
      [PAGE_HEADER]: page,
      ...(body && { 'content-type': 'application/json' }),
    },
    body: body && JSON.stringify(body),
  });
  return answer.headers.get(CHANGED_HEADER)?.split(' ') ?? [];
}

describe('what changed', () => {
  it('stands in the answer, and is told to every other page, not to the one that asked', async () => {
    const made = await rellin.add(`${rellin.place}/here.txt`);
    const [own, other, nameless] = [await listen('one'), await listen('two'), await listen()];
    const changed = await asPage('one', 'PATCH', `/shortcuts/${made.id}`, { name: 'Renamed' });
    expect(changed.sort()).toEqual(
      ['boards', 'collections', 'journal', 'originals', 'pins', 'plan', 'programs', 'shortcuts', 'tags'].sort(),
    );
    for (const told of [other, nameless])
      await until(
        () => told,
        (topics) => changed.every((topic) => topics.includes(topic)),
      );
    // a change by another comes to all: whatever the first was told before it is what it would have been told of its
    // own
    await asPage('two', 'POST', '/tags', { name: 'after it' });
    await until(
      () => own,
      (topics) => topics.includes('tags'),
    );
    expect(own).not.toContain('boards');
  });

  it('is nothing where nothing was changed, by a question or by an act that is refused', async () => {
    expect(await asPage('one', 'POST', '/searches/ask', { query: 'here' })).toEqual([]);
    expect(await asPage('one', 'POST', '/tags', { name: '' })).toEqual([]);
    expect(await asPage('one', 'GET', '/shortcuts')).toEqual([]);
  });

  it('by the command is told to every page', async () => {
    const told = await listen('one');
    await rellin.post('/tags', { name: 'by the command' });
    await until(
      () => told,
      (topics) => topics.includes('tags') && topics.includes('journal'),
    );
  });
});
