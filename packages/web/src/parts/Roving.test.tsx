/** Rows of buttons as one Tab stop: which it is, where arrows lead, and what becomes of it as buttons come and go. */
import { describe, expect, it } from '@jest/globals';
import { render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Roving, ViewHead } from './Roving';

function Row({ more = false, off = false }: { more?: boolean; off?: boolean }) {
  return (
    <>
      <ViewHead>
        <button disabled={off}>Kind</button>
        <button>Place</button>
        <input aria-label="Asked" />
        <span data-own-stops>
          <button>Own</button>
        </span>
        {more && <button>Late</button>}
        <a href="#there">There</a>
      </ViewHead>
      <Roving>
        <span role="separator" aria-valuenow={3} tabIndex={-1} aria-label="Edge" />
        <button>Name</button>
        <button>Size</button>
      </Roving>
    </>
  );
}
const button = (name: string) => screen.getByRole('button', { name });
const stops = () =>
  [...document.querySelectorAll<HTMLElement>('button, a, input, [role=separator]')]
    .filter((node) => node.tabIndex === 0 && !(node as HTMLButtonElement).disabled)
    .map((node) => node.textContent || node.getAttribute('aria-label'));

describe('a row of buttons', () => {
  it('is one stop beside its fields and what keeps its own; an edge is not where one begins', () => {
    render(<Row />);
    expect(stops()).toEqual(['Kind', 'Asked', 'Own', 'Name']);
  });

  it('goes on by arrows, Home and End, and Tab comes back to where they were', async () => {
    render(<Row />);
    await userEvent.tab();
    expect(document.activeElement).toBe(button('Kind'));
    await userEvent.keyboard('{ArrowRight}{ArrowRight}');
    expect(document.activeElement!.textContent).toBe('There');
    await userEvent.keyboard('{ArrowRight}{Home}{ArrowDown}');
    expect(document.activeElement).toBe(button('Place'));
    await userEvent.tab();
    await userEvent.tab();
    await userEvent.tab();
    expect(document.activeElement).toBe(button('Name'));
    await userEvent.keyboard('{ArrowLeft}');
    expect(document.activeElement!.getAttribute('aria-label')).toBe('Edge');
    await userEvent.tab({ shift: true });
    await userEvent.tab({ shift: true });
    await userEvent.tab({ shift: true });
    expect(document.activeElement).toBe(button('Place'));
  });

  it('keeps one stop while buttons come, go and are disabled; keys in a field stay the field’s', async () => {
    const page = render(<Row />);
    await userEvent.click(button('Kind'));
    page.rerender(<Row more off />);
    await waitFor(() => expect(stops()).toEqual(['Place', 'Asked', 'Own', 'Name']));
    await userEvent.click(button('Late'));
    page.rerender(<Row />);
    await waitFor(() => expect(stops()).toEqual(['Kind', 'Asked', 'Own', 'Name']));
    const field = screen.getByLabelText('Asked');
    await userEvent.type(field, 'ab{ArrowLeft}c');
    expect((field as HTMLInputElement).value).toBe('acb');
  });
});
