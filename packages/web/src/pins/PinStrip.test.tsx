import { describe, expect, it } from '@jest/globals';
import { act, fireEvent, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { OPENED, aPin, aShortcut, Refusal, renderPage } from '../testing/page';
import { PinStrip } from './PinStrip';

const shortcuts = ['Ringing log', 'Tide table', 'Rota'].map((name, i) => aShortcut({ id: `s${i + 1}`, name }));
const pins = shortcuts.map((s, i) => aPin(i + 1, s));
const ANSWERS = { 'GET /shortcuts': shortcuts, 'GET /pins': pins };
const names = () => screen.getAllByRole('button').map((b) => b.textContent);
const tab = (name: string) => screen.getByRole('button', { name: new RegExp(name) });

describe('the pin strip', () => {
  it('shows each pin with its key, and a click opens it', async () => {
    const page = await renderPage(<PinStrip />, {
      ...ANSWERS,
      'POST /openings': { ...OPENED, name: 'Tide table' },
    });
    expect(names()).toEqual(['1ReadyRinging log', '2ReadyTide table', '3ReadyRota']);
    expect(tab('Tide table').getAttribute('aria-keyshortcuts')).toBe('2');
    await userEvent.click(tab('Tide table'));
    expect(page.sent('POST')[0]!.body).toEqual({ shortcutId: 's2', route: 'pin-click' });
  });

  it('moves a pin by Alt and the arrows, at once and back where it is refused', async () => {
    let refuse = false;
    const page = await renderPage(<PinStrip />, {
      ...ANSWERS,
      'PATCH /pins/pin-1': () =>
        refuse
          ? new Refusal('conflict', 'Somebody else moved it.')
          : [pins[1], pins[0], pins[2]].map((p, i) => ({ ...p, slot: i + 1, key: String(i + 1) })),
    });
    act(() => tab('Ringing log').focus());
    await userEvent.keyboard('{Alt>}{ArrowRight}{/Alt}');
    expect(page.sent('PATCH')[0]!.body).toEqual({ slot: 2 });
    await waitFor(() => expect(names()[1]).toContain('Ringing log'));
    expect(await screen.findByText('Moved the pin “Ringing log” to 2')).toBeTruthy();
    refuse = true;
    act(() => tab('Ringing log').focus());
    await userEvent.keyboard('{Alt>}{ArrowRight}{/Alt}');
    expect(await screen.findByText('Somebody else moved it.')).toBeTruthy();
    expect(names()[1]).toContain('Ringing log');
  });

  it('unpins by Delete and offers to undo it', async () => {
    const page = await renderPage(<PinStrip />, {
      ...ANSWERS,
      'POST /journal/undo': { id: 1, summary: 'Unpinned “Rota”' },
    });
    act(() => tab('Rota').focus());
    await userEvent.keyboard('{Delete}');
    expect(page.sent('DELETE')[0]!.path).toBe('/pins/pin-3');
    await userEvent.click(await screen.findByRole('button', { name: 'Undo' }));
    expect(await screen.findByText('Undone: Unpinned “Rota”')).toBeTruthy();
  });

  it('takes an address dropped from elsewhere into the form for adding', async () => {
    await renderPage(<PinStrip />, ANSWERS);
    fireEvent.drop(screen.getByRole('navigation', { name: 'Pin strip' }), {
      dataTransfer: { types: ['text/uri-list'], getData: () => '# from a browser\r\nhttps://tides.example/\r\n' },
    });
    expect(screen.getByTestId('dialog').textContent).toBe('add');
  });

  it('teaches what it is for while it is empty', async () => {
    await renderPage(<PinStrip />);
    expect(screen.getByText(/Drag a row up here/)).toBeTruthy();
  });
});
