/**
 * Text out of files. The office documents are written by hand after their standards: ODF 1.3 part 3, ECMA-376 part 1,
 * EPUB 3.
 */
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { strToU8, zipSync } from 'fflate';
import { decoded, extractText, markupText, MOST_TEXT } from './extract.js';

const text = (name: string, bytes: Uint8Array | string, mime = '') =>
  extractText(typeof bytes === 'string' ? new TextEncoder().encode(bytes) : bytes, name, mime);
const packed = (files: Record<string, string>) =>
  zipSync(Object.fromEntries(Object.entries(files).map(([name, part]) => [name, strToU8(part)])));

/** One page with a line of text: the least that ISO 32000 asks. */
function pdf(line: string): string {
  const stream = `BT /F1 12 Tf 50 700 Td (${line}) Tj ET`;
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 600 800] /Contents 4 0 R /Resources << /Font << /F1 5 0 R >> >> >>',
    `<< /Length ${stream.length} >>\nstream\n${stream}\nendstream`,
    '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>',
  ];
  let out = '%PDF-1.4\n';
  const at = objects.map((object, i) => {
    const from = out.length;
    out += `${i + 1} 0 obj\n${object}\nendobj\n`;
    return from;
  });
  const xref = out.length;
  out += `xref\n0 6\n0000000000 65535 f \n${at.map((n) => `${String(n).padStart(10, '0')} 00000 n \n`).join('')}`;
  return `${out}trailer\n<< /Size 6 /Root 1 0 R >>\nstartxref\n${xref}\n%%EOF\n`;
}

describe('the text of a file', () => {
  it('is its own where it is plain', async () => {
    expect(await text('a.md', '# Tide\n\nhigh water')).toContain('high water');
    expect(await text('a.csv', 'date,ring\n2026,MH1')).toContain('MH1');
    expect(await text('a.txt', Buffer.from('Müller', 'latin1'))).toBe('Müller');
    expect(await text('b.txt', Buffer.from('\ufeffMüller', 'utf16le'))).toContain('Müller');
  });

  it('comes out of what is text by its type, under whatever name', async () => {
    expect(await text('README', 'read me', 'text/x-readme')).toBe('read me');
    expect(await text('dates.ics', 'BEGIN:VCALENDAR', 'text/calendar')).toContain('VCALENDAR');
    expect(await text('data.geo', '{}', 'application/vnd.example+json')).toBe('{}');
    expect(await text('notes.conf', Buffer.from([60, 0, 61]), 'text/plain')).toBe('');
    expect(await text('data.bin', 'text', 'application/octet-stream')).toBeUndefined();
  });

  it('is nothing where the bytes are none', async () => {
    expect(await text('c.txt', Buffer.from([1, 0, 2, 0, 3]))).toBe('');
    expect(await text('c.png', 'PNG')).toBeUndefined();
  });

  it('comes out of HTML without scripts and styles', async () => {
    const html =
      '<html><head><title>no</title></head><body><p>one &amp; two</p><script>evil()</script><div>three</div></body>';
    expect(await text('p.html', html)).toBe('one & two\nthree');
  });

  it.each([
    [
      'a.odt',
      {
        'content.xml':
          '<office:text><text:h>Plan</text:h><text:p>heli<text:span>goland</text:span></text:p></office:text>',
      },
      'Plan\nheligoland',
    ],
    [
      'a.ods',
      {
        'content.xml':
          '<table:table-row><table:table-cell><text:p>net</text:p></table:table-cell><table:table-cell><text:p>7</text:p></table:table-cell></table:table-row>',
      },
      'net\n7',
    ],
    [
      'a.docx',
      {
        'word/document.xml':
          '<w:p><w:r><w:t>North</w:t></w:r><w:r><w:t> cliff</w:t></w:r></w:p><w:p><w:r><w:t>ends</w:t></w:r></w:p>',
        'word/styles.xml': '<w:p>hidden</w:p>',
      },
      'North cliff\nends',
    ],
    ['a.xlsx', { 'xl/sharedStrings.xml': '<sst><si><t>wing</t></si><si><t>weight</t></si></sst>' }, 'wing\nweight'],
    ['a.pptx', { 'ppt/slides/slide1.xml': '<a:p><a:r><a:t>Moths</a:t></a:r></a:p>' }, 'Moths'],
    ['a.epub', { 'OEBPS/one.xhtml': '<html><body><p>Chapter one</p></body></html>' }, 'Chapter one'],
  ])('comes out of %s', async (name, files, expected) => {
    expect(await text(name, packed(files as Record<string, string>))).toBe(expected);
  });

  it('comes out of a PDF', async () => {
    expect(await text('a.pdf', pdf('Wing length to the millimetre'))).toContain('Wing length to the millimetre');
  });

  it('is refused by an error, not by hanging, where a file is broken', async () => {
    await expect(text('broken.docx', 'no zip')).rejects.toThrow();
    await expect(text('broken.pdf', '%PDF-1.4 and nothing')).rejects.toThrow();
    // a part that unpacks to far more than it is worth is cut
    const bomb = zipSync({ 'content.xml': new Uint8Array(40_000_000) });
    expect(bomb.length).toBeLessThan(100_000);
    expect((await text('bomb.odt', bomb))!.length).toBeLessThan(MOST_TEXT);
  });

  it('is cut where it is very long', async () => {
    expect((await text('long.txt', 'tide '.repeat(200_000)))!.length).toBeLessThanOrEqual(MOST_TEXT);
  });

  it('never throws on any markup, and can be kept as UTF-8', () => {
    const piece = fc.oneof(
      fc.string({ unit: 'binary', maxLength: 8 }),
      fc.constantFrom('<', '>', '</p>', '<p', '&#0;', '&', '<!--', ']]>', '<script>'),
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 20 }), (pieces) => {
        markupText(pieces.join(''), false);
        markupText(pieces.join(''), true);
      }),
      { seed: 81, numRuns: 500 },
    );
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 200 }), (bytes) => {
        expect(typeof decoded(bytes)).toBe('string');
      }),
      { seed: 82 },
    );
  });
});

describe('a packed document that unpacks to more than it may', () => {
  /** A part of so many megabytes of the same letter. */
  const part = (megabytes: number) => `<p>first words ${'x'.repeat(megabytes * 1_000_000)}</p>`;
  const unpackedBy = async (name: string, bytes: Uint8Array) => {
    const before = process.memoryUsage().arrayBuffers + process.memoryUsage().heapUsed;
    const found = await text(name, bytes);
    return { found, grew: process.memoryUsage().arrayBuffers + process.memoryUsage().heapUsed - before };
  };

  it('is read within one budget for all its parts together', async () => {
    // ten parts of 12 MB in a hundred kilobytes: twice what is read of a document
    const files = Object.fromEntries(Array.from({ length: 10 }, (_, i) => [`xl/worksheets/sheet${i}.xml`, part(12)]));
    const bytes = packed({ 'xl/sharedStrings.xml': '<si>rock pipit</si>', ...files });
    expect(bytes.length).toBeLessThan(2_000_000);
    const { found, grew } = await unpackedBy('bomb.xlsx', bytes);
    expect(found!.length).toBeLessThanOrEqual(MOST_TEXT);
    expect(found).toContain('rock pipit');
    expect(grew).toBeLessThan(250_000_000);
  });

  it('is cut where one part is too large, whatever it says of its size', async () => {
    const bytes = packed({ 'content.xml': part(40) });
    // what stands in the headers is the packer's word
    const view = new DataView(bytes.buffer);
    for (let i = 0; i < bytes.length - 30; i++) {
      if (view.getUint32(i, true) === 0x04034b50) view.setUint32(i + 22, 10, true);
      if (view.getUint32(i, true) === 0x02014b50) view.setUint32(i + 24, 10, true);
    }
    const { grew } = await unpackedBy('bomb.odt', bytes);
    expect(grew).toBeLessThan(300_000_000);
  });

  it('of a hundred thousand parts is left', async () => {
    const files = Object.fromEntries(Array.from({ length: 30_000 }, (_, i) => [`x${i}`, '']));
    const bytes = packed({ 'content.xml': '<text:p>kept</text:p>', ...files });
    expect(await text('many.odt', bytes)).toBe('kept');
  });
});
