import { describe, expect, it, jest } from '@jest/globals';
import { fireEvent, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { CHOICE_LENGTHS, LINES } from '@rellin/core/exercise';
import { REACH_CONSTANTS } from '@rellin/core/reach';
import { renderPage } from '../testing/page';
import ExerciseDialog from './ExerciseDialog';

// nothing is drawn here
jest.spyOn(HTMLCanvasElement.prototype, 'getContext').mockReturnValue(null);

async function show() {
  const used: object[] = [];
  const closed: true[] = [];
  await renderPage(
    <ExerciseDialog
      constants={REACH_CONSTANTS}
      onUse={(constants) => used.push(constants)}
      onClose={() => closed.push(true)}
    />,
  );
  return { used, closed };
}
const press = (name: string) => userEvent.click(screen.getByRole('button', { name }));
const title = () => screen.getByRole('dialog').querySelector('h2')!.textContent;

describe('measuring one’s own times', () => {
  it('says what it is about before it begins, and can be left', async () => {
    const { closed, used } = await show();
    expect(title()).toBe('Measure your own times');
    await press('Cancel');
    expect(closed).toHaveLength(1);
    expect(used).toEqual([]);
  });

  it('changes nothing where every part is skipped', async () => {
    const { used } = await show();
    await press('Begin');
    for (const part of ['Tap each target', 'Choose the word', 'Type the line']) {
      expect(title()).toContain(part);
      await press('Skip this part');
    }
    expect(screen.getByText('Nothing was measured that would change a constant.')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Use yours' }).hasAttribute('disabled')).toBe(true);
    await press('Leave them as they are');
    expect(used).toEqual([]);
  });

  it('asks for the next word only when the right one is pressed', async () => {
    await show();
    await press('Begin');
    await press('Skip this part');
    const asked = screen.getByText(/^Press “Show the list”/).querySelector('b')!.textContent!;
    await press('Show the list');
    const words = screen.getAllByRole('listitem').map((li) => li.textContent!);
    expect(words).toContain(asked);
    await press(words.find((word) => word !== asked)!);
    expect(screen.getByText(`0 of ${CHOICE_LENGTHS.length}`)).toBeTruthy();
    await press(asked);
    expect(screen.getByText(`1 of ${CHOICE_LENGTHS.length}`)).toBeTruthy();
  });

  it('times a line that is typed as it stands, and gives its constant', async () => {
    const { used } = await show();
    await press('Begin');
    await press('Skip this part');
    await press('Skip this part');
    const field = screen.getByLabelText('The line above');
    const line = document.querySelector('.line-to-type')!.textContent!;
    expect(LINES).toContain(line);
    fireEvent.change(field, { target: { value: 'x' } });
    expect(screen.getByText(/^Not as it stands above/)).toBeTruthy();
    // four letters a second, on the dot
    const now = jest.spyOn(performance, 'now');
    for (let n = 1; n <= line.length; n++) {
      now.mockReturnValue(n * 250);
      fireEvent.change(field, { target: { value: line.slice(0, n) } });
    }
    now.mockRestore();
    expect(title()).toBe('Your own times');
    await press('Use yours');
    expect(used).toEqual([{ K: expect.closeTo(0.25, 3) }]);
  });
});
