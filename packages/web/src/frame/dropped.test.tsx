/** Links dropped from another window. */
import { expect, it } from '@jest/globals';
import { createEvent, fireEvent, screen } from '@testing-library/react';
import { renderPage } from '../testing/page';
import { DroppedLinks } from './DroppedLinks';

/** The test's page has no drags of its own. */
function drag(kind: 'dragOver' | 'drop', data: Record<string, string>) {
  const event = createEvent[kind](document.body);
  Object.defineProperty(event, 'dataTransfer', {
    value: { types: Object.keys(data), getData: (type: string) => data[type] ?? '', dropEffect: 'none' },
  });
  fireEvent(document.body, event);
  return event;
}

it('are said before they are dropped, and open the form with what they lead to', async () => {
  await renderPage(<DroppedLinks />);
  const link = { 'text/uri-list': 'https://tides.example/' };
  expect(drag('dragOver', link).defaultPrevented).toBe(true);
  expect(await screen.findByText('Add shortcut')).toBeTruthy();
  drag('drop', link);
  expect(screen.getByTestId('dialog').textContent).toBe('add');
  expect(screen.queryByText('Add shortcut')).toBeNull();
});

it('are left to whoever takes them, and what is no link is nobody’s', async () => {
  await renderPage(<DroppedLinks />);
  expect(drag('dragOver', { 'text/plain': 'words' }).defaultPrevented).toBe(false);
  drag('drop', { 'text/plain': 'words' });
  expect(screen.getByTestId('dialog').textContent).toBe('');
});
