import { describe, expect, it } from '@jest/globals';
import { render, screen } from '@testing-library/react';
import { SHORTCUT_STATES } from '@rellin/core/identity';
import { aReach } from '../testing/page';
import { ago, shortDate, untilWords } from './dates';
import { ErrorBoundary } from './ErrorBoundary';
import { ReachRuler } from './ReachRuler';
import { STATE_WORDS, Tether } from './Tether';
import { locationText } from './locationText';

describe('the reach ruler', () => {
  const ticks = (container: HTMLElement, of: string) => container.querySelectorAll(`path.${of}.tick`).length;

  it('has a tick a step for the best route and for the folder route, and says both in words', () => {
    const { container } = render(<ReachRuler reach={aReach()} />);
    expect(ticks(container, 'best')).toBe(3);
    expect(ticks(container, 'folders')).toBe(6);
    expect(screen.getByRole('img').getAttribute('aria-label')).toBe('3 steps, 2.9 s; by folders 6 steps, 11.5 s');
  });

  it('draws no folder route where that is the best there is', () => {
    const { folderRoute } = aReach();
    const { container } = render(<ReachRuler reach={{ best: folderRoute, folderRoute, routes: [folderRoute!] }} />);
    expect(ticks(container, 'folders')).toBe(0);
    expect(ticks(container, 'best')).toBe(6);
  });

  it('draws both on one scale, within its width however far it is', () => {
    const far = { ...aReach(), folderRoute: { ...aReach().folderRoute!, seconds: 60 } };
    const { container } = render(<ReachRuler reach={far} width={140} />);
    const ends = [...container.querySelectorAll('path')].map((p) =>
      Number(/[MH]([\d.]+)(?:[v ]|$)/.exec(p.getAttribute('d')!.replace(/^M1 6/, ''))![1]),
    );
    expect(Math.max(...ends)).toBeLessThanOrEqual(139.0001);
    expect(Math.max(...ends)).toBeGreaterThan(130);
  });

  it('says so where there is no way yet', () => {
    render(<ReachRuler reach={{ best: null, folderRoute: null, routes: [] }} />);
    expect(screen.getByText('no way yet')).toBeTruthy();
  });
});

describe('the tether', () => {
  it('is named in words of its own for each state', () => {
    const words = SHORTCUT_STATES.map((state) => {
      const { unmount } = render(<Tether state={state} />);
      const name = screen.getByRole('img').getAttribute('aria-label');
      unmount();
      return name;
    });
    expect(words).toEqual(SHORTCUT_STATES.map((s) => STATE_WORDS[s]));
    expect(new Set(words).size).toBe(SHORTCUT_STATES.length);
  });

  it('is silent beside words that say the same', () => {
    const { container } = render(<Tether state="away" title="" />);
    expect(screen.queryByRole('img')).toBeNull();
    expect(container.querySelector('svg')!.getAttribute('aria-hidden')).toBe('true');
  });
});

describe('dates in lists', () => {
  const now = new Date(2026, 10, 24, 12, 0);
  const at = (...parts: [number, number, number, number?, number?]) => new Date(...parts).toISOString();

  it('shorten with nearness', () => {
    expect(shortDate(at(2026, 10, 24, 7, 5), now)).toBe('today 07:05');
    expect(shortDate(at(2026, 1, 3), now)).toBe('3 Feb');
    expect(shortDate(at(2024, 1, 3), now)).toBe('3 Feb 2024');
  });

  it('tell how long ago by calendar days, not by hours', () => {
    expect(ago(at(2026, 10, 24, 0, 5), now)).toBe('00:05');
    expect(ago(at(2026, 10, 23, 23, 59), now)).toBe('yesterday');
    expect(ago(at(2026, 10, 22, 1), now)).toBe('Sunday');
    expect(ago(at(2026, 10, 17, 23), now)).toBe('17 Nov');
  });
});

describe('the end of a working set', () => {
  it('is tonight, or its last day', () => {
    const now = new Date(2026, 10, 24, 12, 0);
    expect(untilWords(new Date(2026, 10, 25).toISOString(), now)).toBe('until tonight');
    expect(untilWords(new Date(2026, 10, 28).toISOString(), now)).toBe('until 27 Nov');
  });
});

describe('whereabouts', () => {
  it('are folders, an address, or the list of programs', () => {
    expect(locationText({ target: 'original', trail: ['Marrowick', 'Boat'], location: '/x' })).toBe('Marrowick › Boat');
    expect(locationText({ target: 'web', trail: [], location: 'https://tides.example/' })).toBe(
      'https://tides.example/',
    );
    expect(locationText({ target: 'program', trail: [], location: 'ringbook.desktop' })).toBe('Programs');
  });
});

describe('a part that fails', () => {
  // expected here: React need not print it
  const onCaughtError = () => undefined;
  const Part = ({ fails }: { fails: boolean }) => {
    if (fails) throw new Error('no such thing');
    return <p>all is well</p>;
  };

  it('says so in its place, and is tried again with something else', () => {
    const shown = (id: string) => (
      <ErrorBoundary what="card" resetKey={id}>
        <Part fails={id === 'a'} />
      </ErrorBoundary>
    );
    const { rerender } = render(shown('a'), { onCaughtError });
    expect(screen.getByRole('heading', { name: 'This card has failed' })).toBeTruthy();
    expect(screen.getByText(/no such thing/)).toBeTruthy();
    rerender(shown('b'));
    expect(screen.getByText('all is well')).toBeTruthy();
  });

  it('is told where there is no room to show it', () => {
    const told: string[] = [];
    const { container } = render(
      <ErrorBoundary what="dialog" onFailed={(text) => told.push(text)}>
        <Part fails />
      </ErrorBoundary>,
      { onCaughtError },
    );
    expect(container.textContent).toBe('');
    expect(told).toEqual([
      'This dialog has failed. Your catalogue and your files are untouched. What the page says: no such thing',
    ]);
  });
});
