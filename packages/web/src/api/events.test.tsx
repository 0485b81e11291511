import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import { act, render, screen } from '@testing-library/react';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { useEvents } from './events';

/** The browser's own event source, played: jsdom has none. */
class Source extends EventTarget {
  static CLOSED = 2;
  static last: Source;
  readyState = 1;
  onopen?: () => void;
  onerror?: () => void;
  constructor(readonly url: string) {
    super();
    Source.last = this;
  }
  close() {
    this.readyState = 2;
  }
  changed(...topics: string[]) {
    this.dispatchEvent(new MessageEvent('changed', { data: JSON.stringify(topics) }));
  }
}

const before = globalThis.EventSource;
beforeEach(() => void (globalThis.EventSource = Source as unknown as typeof EventSource));
afterEach(() => void (globalThis.EventSource = before));

function show() {
  const client = new QueryClient();
  for (const key of [['shortcuts', 'list'], ['pins'], ['find', 'tide'], ['places']]) client.setQueryData(key, []);
  const Line = () => <p>{useEvents()}</p>;
  const view = render(
    <QueryClientProvider client={client}>
      <Line />
    </QueryClientProvider>,
  );
  const stale = () =>
    client
      .getQueryCache()
      .getAll()
      .filter((q) => q.state.isInvalidated)
      .map((q) => q.queryKey[0]);
  return { ...view, stale };
}

describe('what the server tells', () => {
  it('makes stale just what changed, and what is found by it', () => {
    const { stale } = show();
    act(() => Source.last.changed('pins'));
    expect(stale()).toEqual(['pins']);
    act(() => Source.last.changed('shortcuts'));
    expect(stale().sort()).toEqual(['find', 'pins', 'shortcuts']);
  });

  it('says when the line is lost; back again, everything is read anew', () => {
    const { stale } = show();
    act(() => Source.last.onerror?.());
    expect(screen.getByText('lost')).toBeTruthy();
    expect(stale()).toEqual([]);
    act(() => Source.last.onopen?.());
    expect(screen.getByText('open')).toBeTruthy();
    expect(stale()).toHaveLength(4);
  });

  it('closes the line when the page goes', () => {
    const { unmount } = show();
    const source = Source.last;
    unmount();
    expect(source.readyState).toBe(2);
  });
});
