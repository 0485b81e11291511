/** Users' files are shown inert: nothing in them runs, loads or leads anywhere that is not allowed. */
import { describe, expect, it } from '@jest/globals';
import { fireEvent, render, screen } from '@testing-library/react';
import { DrawingPreview } from './DrawingPreview';
import { MarkdownTree } from './MarkdownPreview';
import { markdownTree } from './markdownTree';
import TablePreview from './TablePreview';

describe('a table', () => {
  it('reads quotes, commas and line ends in cells (RFC 4180)', () => {
    render(<TablePreview name="nets.csv" text={'net,"where, exactly"\r\n1,"by the ""old"" wall\r\nnorth"\r\n'} />);
    expect(screen.getAllByRole('columnheader').map((h) => h.textContent)).toEqual(['net', 'where, exactly']);
    expect(screen.getAllByRole('cell').map((c) => c.textContent)).toEqual(['1', 'by the "old" wall\r\nnorth']);
  });
  it('takes tabs for .tsv, even where commas stand in the cells', () => {
    render(<TablePreview name="nets.tsv" text={'a,b\tc\n1,2\t3\n'} />);
    expect(screen.getAllByRole('columnheader').map((h) => h.textContent)).toEqual(['a,b', 'c']);
  });
  it('shows the first thousand rows of many and says so', () => {
    const text = `n\n${Array.from({ length: 1500 }, (_, i) => i).join('\n')}\n`;
    render(<TablePreview name="n.csv" text={text} />);
    expect(screen.getAllByRole('row')).toHaveLength(1001);
    expect(screen.getByText('The first 1000 of 1500 rows.')).toBeTruthy();
  });
  it('shows markup as the text it is', () => {
    const { container } = render(<TablePreview name="x.csv" text={'a\n<img src=x onerror=alert(1)>\n'} />);
    expect(container.querySelector('img')).toBeNull();
    expect(screen.getByRole('cell').textContent).toBe('<img src=x onerror=alert(1)>');
  });
});

describe('Markdown', () => {
  const show = (text: string) => render(<MarkdownTree tree={markdownTree(text)} />).container;
  it('is laid out', () => {
    const container = show('# Sightings\n\n- wheatear\n- *wren*\n');
    expect(container.querySelector('h1')!.textContent).toBe('Sightings');
    expect(container.querySelectorAll('li')).toHaveLength(2);
    expect(container.querySelector('em')!.textContent).toBe('wren');
  });
  it.each([
    ['a script', '<script>window.bad = 1</script>'],
    ['an event handler', '<img src="x" onerror="window.bad = 1">'],
    ['a frame', '<iframe src="https://elsewhere.example/"></iframe>'],
    ['a form', '<form action="https://elsewhere.example/"><input></form>'],
  ])('never brings in %s', (_, text) => {
    const container = show(text);
    expect(container.querySelector('script, iframe, form, input, [onerror]')).toBeNull();
    expect((window as unknown as { bad?: number }).bad).toBeUndefined();
  });
  it.each([
    ['quotations within quotations', '> '.repeat(400) + 'x'],
    ['more than anybody reads', 'a\n\n'.repeat(30_000)],
  ])('is not laid out where it holds %s', (_, text) => expect(() => markdownTree(text)).toThrow());
  it.each(['javascript:alert(1)', 'data:text/html,x', 'vbscript:x'])('drops a link to %s', (address) => {
    const link = show(`[here](${address})`).querySelector('a');
    expect(link?.getAttribute('href') ?? '').not.toContain(':');
  });
});

describe('a drawing', () => {
  it('that cannot be drawn is shown by what stands for it, and says so', () => {
    render(
      <DrawingPreview address="/drawn" name="plan.svg">
        its text
      </DrawingPreview>,
    );
    expect(screen.queryByText('its text')).toBeNull();
    fireEvent.error(screen.getByRole('img', { name: 'plan.svg' }));
    expect(screen.getByText(/takes too long to draw/)).toBeTruthy();
    expect(screen.getByText('its text')).toBeTruthy();
  });
});
