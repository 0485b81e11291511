/** Users' files are shown inert: nothing in them runs, loads or leads anywhere that is not allowed. */
import { describe, expect, it } from '@jest/globals';
import { render, screen } from '@testing-library/react';
import { isHeavyDrawing } from './heavyDrawing';
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
  const svg = (inside: string) =>
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink">${inside}</svg>`;
  const nested = (levels: number, ask: (id: string) => string) =>
    svg(
      `<g id="a0"><rect width="1" height="1"/></g>` +
        Array.from({ length: levels }, (_, i) => `<g id="a${i + 1}">${ask(`a${i}`).repeat(10)}</g>`).join('') +
        ask(`a${levels}`),
    );
  it.each([
    ['uses parts of parts of parts', nested(9, (id) => `<use xlink:href="#${id}"/>`)],
    ['uses them by the newer name', nested(9, (id) => `<use href="#${id}"/>`)],
    ['masks by what is masked', nested(9, (id) => `<rect mask="url(#${id})"/>`)],
    ['fills by a style', nested(9, (id) => `<rect style="fill: url( '#${id}' )"/>`)],
    [
      'has a long chain of parts',
      svg(Array.from({ length: 5000 }, (_, i) => `<g id="a${i}"><use href="#a${i + 1}"/></g>`).join('')),
    ],
    ['is nested without end', svg('<g>'.repeat(2000) + '</g>'.repeat(2000))],
  ])('that %s is not drawn', (_, text) => expect(isHeavyDrawing(text)).toBe(true));
  it.each([
    ['uses a part a hundred times', svg('<g id="a"><rect/></g>' + '<use href="#a"/>'.repeat(100))],
    ['asks for itself', svg('<g id="a"><use href="#a"/></g>')],
    ['asks for what is not there', svg('<use href="#b"/><rect fill="url(#c)"/>')],
    ['is no XML', '<svg'],
  ])('that %s is', (_, text) => expect(isHeavyDrawing(text)).toBe(false));
});
