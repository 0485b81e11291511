/**
 * The text of a file, for finding: plain text, Markdown, CSV, source, HTML, PDF, office documents (open and OOXML) and
 * EPUB. Nothing in a file is executed, fetched or followed. Undefined where a file's form is not one of these.
 */
import { Unzip, UnzipInflate } from 'fflate';
import { Parser } from 'htmlparser2';
import { extensionOf } from '@rellin/core/paths';

/** Characters kept of one file; what lies beyond is not found. */
export const MOST_TEXT = 400_000;
/** Unpacked bytes of one part of a packed document, and of all its parts together. */
const MOST_PART = 32_000_000;
const MOST_UNPACKED = 64_000_000;
const MOST_ENTRIES = 20_000;
/** Packed bytes taken at a time: one piece unpacks to a thousandfold at most (RFC 1951). */
const PIECE = 1 << 14;
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

/** Types whose files are plain text, by whatever name. */
const isTextType = (mime: string) => /^text\/|[+/](json|xml|yaml|toml|x-sh(ellscript)?|javascript|sql)$/.test(mime);

export function isReadable(name: string, mime: string): boolean {
  const extension = extensionOf(name).toLowerCase();
  return (
    PLAIN.has(extension) || MARKUP.has(extension) || extension in PACKED || extension === 'pdf' || isTextType(mime)
  );
}

/** What is text by its name and holds what no text does is none: common practice of version control and editors. */
const looksLikeText = (bytes: Uint8Array) =>
  (bytes[0] === 0xff && bytes[1] === 0xfe) ||
  (bytes[0] === 0xfe && bytes[1] === 0xff) ||
  !bytes.subarray(0, 8000).includes(0);

/** `bytes` are the whole file. Cost: at most what the budgets above allow, whatever the file claims of itself. */
export async function extractText(bytes: Uint8Array, name: string, mime: string): Promise<string | undefined> {
  if (!isReadable(name, mime)) return undefined;
  const extension = extensionOf(name).toLowerCase();
  const text =
    extension === 'pdf'
      ? await pdfText(bytes)
      : extension in PACKED
        ? packedText(bytes, PACKED[extension]!)
        : MARKUP.has(extension)
          ? markupText(decoded(bytes), false)
          : looksLikeText(bytes)
            ? decoded(bytes)
            : '';
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

/**
 * The parts of a packed document that hold its text, unpacked piece by piece within one budget: a few kilobytes can
 * unpack to gigabytes, in one part or in thousands. What a part says of its own size is not believed.
 */
function packedText(bytes: Uint8Array, wanted: RegExp): string {
  const parts = new Map<string, Uint8Array[]>();
  let left = MOST_UNPACKED;
  let entries = 0;
  const unzip = new Unzip((file) => {
    if (++entries > MOST_ENTRIES) throw new TooMuch();
    if (!wanted.test(file.name) || parts.has(file.name)) return;
    const pieces: Uint8Array[] = [];
    let size = 0;
    file.ondata = (error, piece) => {
      if (error) throw error;
      left -= piece.length;
      size += piece.length;
      if (left < 0 || size > MOST_PART) throw new TooMuch();
      pieces.push(piece);
    };
    file.start();
    parts.set(file.name, pieces);
  });
  unzip.register(UnzipInflate);
  try {
    for (let i = 0; i < bytes.length; i += PIECE) unzip.push(bytes.subarray(i, i + PIECE), i + PIECE >= bytes.length);
  } catch (error) {
    // what was read until then is text all the same
    if (!(error instanceof TooMuch)) throw error;
  }
  if (entries === 0) throw new Error('it is no packed document');
  const texts: string[] = [];
  let length = 0;
  for (const [name, pieces] of [...parts].sort(([a], [b]) => (a < b ? -1 : 1))) {
    if (length > MOST_TEXT) break;
    const text = markupText(Buffer.concat(pieces).toString('utf8'), /\.xml$/.test(name));
    texts.push(text);
    length += text.length;
  }
  return texts.join('\n');
}

class TooMuch extends Error {}

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
