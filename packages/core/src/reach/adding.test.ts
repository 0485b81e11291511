import { describe, expect, it } from '@jest/globals';
import { addingRoutes, REACH_CONSTANTS } from './index.js';

describe('adding a shortcut', () => {
  const routes = addingRoutes(REACH_CONSTANTS);
  it('takes four steps at most, from wherever one begins', () => {
    expect(routes.map((r) => r.from)).toEqual(['row', 'clipboard', 'program', 'other window']);
    for (const { steps } of routes) expect(steps.length).toBeLessThanOrEqual(4);
  });
  it('takes as long as its operators together, and longer for whoever is slower', () => {
    const slower = addingRoutes({ ...REACH_CONSTANTS, K: REACH_CONSTANTS.K * 2, M: REACH_CONSTANTS.M + 0.5 });
    for (const [i, { operators, seconds }] of routes.entries()) {
      expect(seconds).toBeCloseTo(operators.reduce((sum, o) => sum + o.seconds, 0));
      expect(slower[i]!.seconds).toBeGreaterThan(seconds);
    }
  });
  it('is worked out by hand for the clipboard: M K K, M K', () => {
    const { M, K } = REACH_CONSTANTS;
    expect(routes[1]!.seconds).toBeCloseTo(2 * M + 3 * K);
  });
});
