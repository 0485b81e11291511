import { useState } from 'react';
import { expect, it } from '@jest/globals';
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderPage } from '../testing/page';
import { PathField } from './PathField';

function Field() {
  const [value, setValue] = useState('/home/wren/Ringing/');
  return <PathField label="Go to path" value={value} onChange={setValue} />;
}

it('has all of its text chosen when it gets the focus, so that what is pasted stands in its place', async () => {
  await renderPage(<Field />, { 'GET /originals/complete': [] });
  const field = screen.getByLabelText<HTMLInputElement>('Go to path');
  await userEvent.click(field);
  expect([field.selectionStart, field.selectionEnd]).toEqual([0, field.value.length]);
  await userEvent.paste('/home/wren/Moths');
  expect(field.value).toBe('/home/wren/Moths');
});
