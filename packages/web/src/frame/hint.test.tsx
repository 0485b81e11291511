/** The one tooltip: where the pointer rests and where the focus comes by key; hoverable, gone with Escape. */
import { describe, expect, it } from '@jest/globals';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { hint } from '../parts/hint';
import { HintLayer } from './HintLayer';

const show = () =>
  render(
    <>
      <div {...hint('This month’s tides.')} tabIndex={0}>
        <b>Tides</b>
      </div>
      <div {...hint('  ')} tabIndex={0}>
        Plain
      </div>
      <HintLayer />
    </>,
  );
const shown = () => screen.queryByRole('tooltip')?.textContent;

describe('a description', () => {
  it('shows where the pointer rests, stays under the pointer, and goes when it leaves', async () => {
    show();
    await userEvent.hover(screen.getByText('Tides'));
    expect(shown()).toBeUndefined();
    await waitFor(() => expect(shown()).toBe('This month’s tides.'));
    await userEvent.hover(screen.getByText('This month’s tides.'));
    await userEvent.hover(screen.getByText('This month’s tides.'));
    expect(shown()).toBe('This month’s tides.');
    await userEvent.hover(screen.getByText('Plain'));
    await waitFor(() => expect(shown()).toBeUndefined());
  });

  it('is told to readers, and only where there is one', () => {
    show();
    expect(screen.getByText('Tides').parentElement!.getAttribute('aria-description')).toBe('This month’s tides.');
    expect(screen.getByText('Plain').hasAttribute('data-hint')).toBe(false);
    expect(hint('x'.repeat(500))['data-hint']!.length).toBe(401);
  });

  it('goes with Escape and with a press', async () => {
    show();
    const thing = screen.getByText('Tides');
    for (const leave of [() => userEvent.keyboard('{Escape}'), () => userEvent.click(thing)]) {
      await userEvent.unhover(thing);
      await userEvent.hover(thing);
      await waitFor(() => expect(shown()).toBeTruthy());
      await leave();
      expect(shown()).toBeUndefined();
    }
  });
});
