/**
 * The text of a file, for finding: plain text, Markdown, CSV, source, HTML, PDF, office documents (open and OOXML) and
 * EPUB. Nothing in a file is executed, fetched or followed. Undefined where a file's form is not one of these.
 */
import { readFile } from 'node:fs/promises';
import { strFromU8, unzipSync } from 'fflate';
import { Parser } from 'htmlparser2';
import { extensionOf } from '@rellin/core/paths';
import { diskPath } from '../disk/paths.js';

/** Characters kept of one file; what lies beyond is not found. */
export const MOST_TEXT = 400_000;
/** Unpacked bytes of one part of a packed document. */
const MOST_PART = 32_000_000;
const MOST_PAGES = 500;

const PLAIN = new Set(
  (
    'txt text md markdown log rst csv tsv gpx kml json geojson yaml yml toml ini xml sql ' +
    'ts tsx js mjs cjs jsx py c h cc cpp rs go java sh css rb pl lua tex srt'
  ).split(' '),
);
const MARKUP = new Set(['html', 'htm', 'xhtml', 'svg']);
/** Which parts of a packed document hold its text. */
const PACKED: Record<string, RegExp> = {
  odt: /^content\.xml$/,
  ods: /^content\.xml$/,
  odp: /^content\.xml$/,
  docx: /^word\/(document|footnotes|endnotes|header\d*|footer\d*)\.xml$/,
  xlsx: /^xl\/(sharedStrings|worksheets\/sheet\d+)\.xml$/,
  pptx: /^ppt\/(slides\/slide\d+|notesSlides\/notesSlide\d+)\.xml$/,
  epub: /\.(xhtml|html|htm)$/,
};

export function isReadable(name: string): boolean {
  const extension = extensionOf(name).toLowerCase();
  return PLAIN.has(extension) || MARKUP.has(extension) || extension in PACKED || extension === 'pdf';
}

export async function extractText(path: string, name: string): Promise<string | undefined> {
  if (!isReadable(name)) return undefined;
  const extension = extensionOf(name).toLowerCase();
  const bytes = await readFile(diskPath(path));
  const text =
    extension === 'pdf'
      ? await pdfText(bytes)
      : extension in PACKED
        ? packedText(bytes, PACKED[extension]!)
        : MARKUP.has(extension)
          ? markupText(decoded(bytes), false)
          : decoded(bytes);
  return tidy(text);
}

/** Without what PostgreSQL cannot keep, and no longer than is kept. */
function tidy(text: string): string {
  return text
    .slice(0, MOST_TEXT)
    .replaceAll('\0', ' ')
    .replace(/[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g, ' ')
    .trim();
}

/** UTF-8, UTF-16 with its mark, or else Latin-1; nothing where the bytes are no text. */
export function decoded(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  if (bytes.subarray(0, 4096).includes(0)) return '';
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('latin1').decode(bytes);
  }
}

const SILENT = new Set(['script', 'style', 'head', 'template']);
/** Elements that end a line, of HTML and of the office forms. */
const BLOCK = /^(p|div|li|h[1-6]|tr|td|th|br|section|article|text:p|text:h|table:table-cell|w:p|w:tab|a:p|si|c)$/;

export function markupText(text: string, xml: boolean): string {
  const parts: string[] = [];
  let silent = 0;
  let length = 0;
  const parser = new Parser(
    {
      onopentag(name) {
        if (!xml && SILENT.has(name)) silent++;
      },
      ontext(piece) {
        if (silent > 0 || length > MOST_TEXT) return;
        parts.push(piece);
        length += piece.length;
      },
      onclosetag(name) {
        if (!xml && SILENT.has(name)) silent--;
        if (BLOCK.test(name)) parts.push('\n');
      },
    },
    { xmlMode: xml, decodeEntities: true },
  );
  parser.write(text);
  parser.end();
  return parts
    .join('')
    .replace(/[ \t]+/g, ' ')
    .replace(/\s*\n\s*/g, '\n');
}

function packedText(bytes: Uint8Array, wanted: RegExp): string {
  const files = unzipSync(bytes, { filter: (f) => wanted.test(f.name) && f.originalSize <= MOST_PART });
  const parts: string[] = [];
  let length = 0;
  for (const name of Object.keys(files).sort()) {
    if (length > MOST_TEXT) break;
    const part = markupText(strFromU8(files[name]!), /\.xml$/.test(name));
    parts.push(part);
    length += part.length;
  }
  return parts.join('\n');
}

async function pdfText(bytes: Uint8Array): Promise<string> {
  const pdf = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const task = pdf.getDocument({
    data: new Uint8Array(bytes),
    isEvalSupported: false,
    disableFontFace: true,
    useSystemFonts: false,
    verbosity: 0,
  });
  try {
    const document = await task.promise;
    const parts: string[] = [];
    let length = 0;
    for (let n = 1; n <= Math.min(document.numPages, MOST_PAGES) && length <= MOST_TEXT; n++) {
      const page = await document.getPage(n);
      const { items } = await page.getTextContent();
      const text = items.map((item) => ('str' in item ? item.str + (item.hasEOL ? '\n' : ' ') : '')).join('');
      parts.push(text);
      length += text.length;
      page.cleanup();
    }
    return parts.join('\n');
  } finally {
    await task.destroy();
  }
}
