import { useState } from 'react';
import { expect, it } from '@jest/globals';
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderPage } from '../testing/page';
import { PathField } from './PathField';

function Field({ autoFocus }: { autoFocus: boolean }) {
  const [value, setValue] = useState('/home/wren/Ringing/');
  return <PathField label="Go to path" value={value} onChange={setValue} autoFocus={autoFocus} />;
}

it.each([true, false])(
  'has all of its text chosen, so that what is pasted stands in its place (focus by itself: %s)',
  async (autoFocus) => {
    await renderPage(<Field autoFocus={autoFocus} />, { 'GET /originals/complete': [] });
    const field = screen.getByLabelText<HTMLInputElement>('Go to path');
    if (!autoFocus) await userEvent.tab();
    expect(document.activeElement).toBe(field);
    expect([field.selectionStart, field.selectionEnd]).toEqual([0, field.value.length]);
    await userEvent.paste('/home/wren/Moths');
    expect(field.value).toBe('/home/wren/Moths');
  },
);
