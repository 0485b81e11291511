/** Rows in PostgreSQL's COPY text format, out and in. */

const NEEDS_ESCAPE = /[\\\n\r\t]/;

export function copyField(text: string): string {
  if (!NEEDS_ESCAPE.test(text)) return text;
  return text.replace(/\\/g, '\\\\').replace(/\n/g, '\\n').replace(/\r/g, '\\r').replace(/\t/g, '\\t');
}

export function readCopyField(field: string): string {
  if (!field.includes('\\')) return field;
  return field.replace(/\\([\\nrtbfv])/g, (_, c: string) =>
    c === 'n' ? '\n' : c === 'r' ? '\r' : c === 't' ? '\t' : c === 'b' ? '\b' : c === 'f' ? '\f' : c === 'v' ? '\v' : c,
  );
}

export interface OriginalRow {
  id: number;
  parentId: number;
  name: string;
  type: string;
  kind: string;
  mime: string;
  size: number;
  mtime: number;
  birth: number;
  dev: number;
  inode: number;
}

/** One line in the order of ORIGINAL_COLUMNS. */
export function copyLine(placeId: number, row: OriginalRow, firstSeen: string): string {
  return `${placeId}\t${row.id}\t${row.parentId}\t${copyField(row.name)}\t${row.type}\t${row.kind}\t${row.mime}\t${row.size}\t${row.mtime}\t${row.birth}\t${row.dev}\t${row.inode}\t${firstSeen}\t\\N\n`;
}
