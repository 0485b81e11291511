import { describe, expect, it } from '@jest/globals';
import { render, screen } from '@testing-library/react';
import type { ReachView, RouteView } from '@rellin/contract';
import { aReach } from '../testing/page';
import { reachSentence, RouteTable } from './RouteTable';

const pin: RouteView = {
  kind: 'pin-key',
  steps: 1,
  seconds: 1.63,
  operators: [
    { label: 'M', seconds: 1.35 },
    { label: 'K', seconds: 0.28 },
  ],
};

describe('the routes on the card', () => {
  it('stand quickest first, each open to what it is added up from', () => {
    const reach: ReachView = { ...aReach(), best: pin, routes: [...aReach().routes, pin] };
    render(<RouteTable reach={reach} />);
    expect(screen.getAllByRole('listitem').map((li) => li.querySelector('summary')!.textContent)).toEqual([
      'Pin, by key1 · 1.6 s',
      'Find line3 · 2.9 s',
      'Through the folders6 · 11.5 s',
    ]);
    expect(screen.getByText('M 1.35 + K 0.28')).toBeTruthy();
  });

  it('are summed up in a sentence: the best, the next best, what it saves in a week', () => {
    const reach: ReachView = { ...aReach(), best: pin, routes: [...aReach().routes, pin] };
    expect(reachSentence(reach, 9)).toBe(
      'By its key. Next best is the find line, 2.9 s. At 9.0 openings a week it saves 89 s against going through the folders.',
    );
  });

  it('claim no saving for what is hardly opened, nor where there is no way', () => {
    expect(reachSentence(aReach(), 0.01)).not.toContain('saves');
    expect(reachSentence({ best: null, folderRoute: null, routes: [] }, 3)).toBe('');
  });
});
