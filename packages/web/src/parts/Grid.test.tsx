import { describe, expect, it, jest } from '@jest/globals';
import { act, fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Grid, type Column, type GridProps } from './Grid';

interface Bird {
  id: string;
  name: string;
}
const birds = (n: number): Bird[] => Array.from({ length: n }, (_, i) => ({ id: `b${i}`, name: `bird ${i}` }));
const COLUMNS: Column<Bird>[] = [
  { id: 'name', title: 'Name', width: '1fr', sortable: true, cell: (b: Bird) => b.name },
  { id: 'id', title: '', width: '40px', cell: (b: Bird) => b.id },
];

function show(n: number, more: Partial<GridProps<Bird>> = {}) {
  const rows = birds(n);
  const calls = { select: jest.fn(), open: jest.fn(), menu: jest.fn(), sort: jest.fn(), key: jest.fn(() => true) };
  const view = render(
    <Grid
      label="Birds"
      columns={COLUMNS}
      count={n}
      item={(i) => rows[i]}
      keyOf={(b: Bird) => b.id}
      onSelect={calls.select}
      onOpen={calls.open}
      onMenu={calls.menu}
      onSort={calls.sort}
      onKey={calls.key}
      {...more}
    />,
  );
  return { ...view, calls, rows };
}
const row = (i: number) =>
  screen.getAllByRole('row').find((r) => r.getAttribute('data-index') === String(i)) as HTMLElement;

describe('the grid', () => {
  it('says how many rows and columns there are and shows only those in sight', () => {
    show(5000);
    const grid = screen.getByRole('grid', { name: 'Birds' });
    expect(grid.getAttribute('aria-rowcount')).toBe('5001');
    expect(grid.getAttribute('aria-colcount')).toBe('2');
    const shown = screen.getAllByRole('row').length;
    expect(shown).toBeGreaterThan(10);
    expect(shown).toBeLessThan(60);
    expect(row(3).getAttribute('aria-rowindex')).toBe('5');
  });

  it('has one row in the tab order, and arrows, Home and End move it', async () => {
    const { calls, rows } = show(12);
    const inOrder = () => screen.getAllByRole('row').filter((r) => r.tabIndex === 0 && r.hasAttribute('data-index'));
    expect(inOrder()).toEqual([row(0)]);
    act(() => row(0).focus());
    await userEvent.keyboard('{ArrowDown}{ArrowDown}');
    expect(calls.select).toHaveBeenLastCalledWith(rows[2]);
    expect(inOrder()).toEqual([row(2)]);
    await userEvent.keyboard('{End}');
    expect(calls.select).toHaveBeenLastCalledWith(rows[11]);
    await userEvent.keyboard('{ArrowDown}');
    expect(calls.select).toHaveBeenLastCalledWith(rows[11]);
    await userEvent.keyboard('{Home}');
    expect(calls.select).toHaveBeenLastCalledWith(rows[0]);
  });

  it('opens with Enter or a double click, selects with Space or a click, hands other keys on', async () => {
    const { calls, rows } = show(5);
    act(() => row(0).focus());
    await userEvent.keyboard('{Enter}');
    expect(calls.open).toHaveBeenLastCalledWith(rows[0]);
    await userEvent.keyboard(' ');
    expect(calls.select).toHaveBeenLastCalledWith(rows[0]);
    await userEvent.click(row(3));
    expect(calls.select).toHaveBeenLastCalledWith(rows[3]);
    await userEvent.dblClick(row(4));
    expect(calls.open).toHaveBeenLastCalledWith(rows[4]);
    await userEvent.keyboard('v');
    expect(calls.key).toHaveBeenCalledTimes(1);
  });

  it('leaves chords to whoever else wants them', async () => {
    const { calls } = show(5);
    act(() => row(0).focus());
    await userEvent.keyboard('{Control>}z{/Control}{Alt>}{ArrowDown}{/Alt}');
    expect(calls.key).not.toHaveBeenCalled();
    expect(calls.select).not.toHaveBeenCalled();
  });

  it('opens the acts by a right click and by the menu key', async () => {
    const { calls, rows } = show(5);
    fireEvent.contextMenu(row(2), { clientX: 40, clientY: 90 });
    expect(calls.menu).toHaveBeenLastCalledWith(rows[2], { x: 40, y: 90 });
    act(() => row(2).focus());
    await userEvent.keyboard('{Shift>}{F10}{/Shift}');
    expect(calls.menu).toHaveBeenCalledTimes(2);
  });

  it('marks the selected row and the sorted column, and sorts by a press on the title', async () => {
    const { calls } = show(5, { selectedKey: 'b1', sort: { by: 'name', descending: true } });
    expect(row(1).getAttribute('aria-selected')).toBe('true');
    expect(row(0).getAttribute('aria-selected')).toBe('false');
    const head = screen.getByRole('columnheader', { name: /Name/ });
    expect(head.getAttribute('aria-sort')).toBe('descending');
    await userEvent.click(within(head).getByRole('button'));
    expect(calls.sort).toHaveBeenCalledWith('name');
  });

  it('shows what to do where there is nothing', () => {
    show(0, { empty: <p>Nothing yet</p> });
    expect(screen.getByText('Nothing yet')).toBeTruthy();
  });

  it('keeps a row for what is still on its way, and does nothing with it', async () => {
    const { calls } = show(3, { item: () => undefined });
    act(() => row(0).focus());
    await userEvent.keyboard('{Enter}');
    await userEvent.click(row(1));
    expect(calls.open).not.toHaveBeenCalled();
    expect(calls.select).not.toHaveBeenCalled();
  });
});
