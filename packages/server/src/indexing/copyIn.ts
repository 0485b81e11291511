/**
 * Originals into PostgreSQL by COPY … FROM STDIN in its binary form (PostgreSQL 15, "COPY", File Formats): no number is
 * written out and read again, which is most of the cost of the text form.
 */
import type { PlaceId } from '@rellin/contract';
import { Buffer } from 'node:buffer';
import { finished } from 'node:stream/promises';
import type { Client } from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import { ORIGINAL_COLUMNS } from '../database/partition.js';
import { foldedOf, type OriginalRow } from './originalRow.js';

const CHUNK = 1 << 17;
const HEADER = Buffer.from('PGCOPY\n\xff\r\n\0\0\0\0\0\0\0\0\0', 'latin1');
const COLUMNS = ORIGINAL_COLUMNS.split(',').length;
/** PostgreSQL counts microseconds from 2000-01-01. */
const EPOCH_MS = Date.UTC(2000, 0, 1);
const HIGH = 2 ** 32;
/** Lengths, numbers and what else a row takes beside its texts. */
const FIXED = 200;

export interface CopyIn {
  write(row: OriginalRow): void;
  end(): Promise<number>;
}

const viewOf = (chunk: Buffer) => new DataView(chunk.buffer, chunk.byteOffset, chunk.length);

/** Rows of one place, all first seen at one instant. Back-pressure is kept by PostgreSQL's own socket. */
export function copyInto(client: Client, table: string, placeId: PlaceId, firstSeen: string): CopyIn {
  const stream = client.query(copyFrom(`COPY ${table} (${ORIGINAL_COLUMNS}) FROM STDIN (FORMAT binary)`));
  const done = finished(stream);
  // an error is reported by end(); without this a failure in between would count as unhandled
  done.catch(() => undefined);
  stream.write(HEADER);
  const seen = (Date.parse(firstSeen) - EPOCH_MS) * 1000;
  let chunk = Buffer.allocUnsafe(CHUNK);
  let numbers = viewOf(chunk);
  let at = 0;
  let rows = 0;
  const fresh = (size: number) => {
    chunk = Buffer.allocUnsafe(size);
    numbers = viewOf(chunk);
    at = 0;
  };
  const flush = () => {
    if (at > 0) stream.write(chunk.subarray(0, at));
    fresh(CHUNK);
  };
  const room = (bytes: number) => {
    if (at + bytes <= chunk.length) return;
    flush();
    if (bytes > chunk.length) fresh(bytes);
  };
  const whole = (value: number) => {
    numbers.setInt32(at, 8);
    numbers.setInt32(at + 4, Math.floor(value / HIGH));
    numbers.setUint32(at + 8, value >>> 0);
    at += 12;
  };
  const float = (value: number) => {
    numbers.setInt32(at, 8);
    numbers.setFloat64(at + 4, value);
    at += 12;
  };
  const text = (value: string) => {
    // short and plain, as nearly all are: quicker by letter than by a call into the engine
    let length = 0;
    for (; length < value.length; length++) {
      const code = value.charCodeAt(length);
      if (code > 127) break;
      chunk[at + 4 + length] = code;
    }
    if (length < value.length) length = chunk.write(value, at + 4, 'utf8');
    numbers.setInt32(at, length);
    at += 4 + length;
  };
  const none = () => {
    numbers.setInt32(at, -1);
    at += 4;
  };
  return {
    write(row) {
      const folded = foldedOf(row.name);
      // no letter takes more than three bytes a code unit
      room(FIXED + 3 * (row.name.length + (folded?.length ?? 0) + row.type.length + row.kind.length + row.mime.length));
      numbers.setInt16(at, COLUMNS);
      numbers.setInt32(at + 2, 4);
      numbers.setInt32(at + 6, placeId);
      at += 10;
      whole(row.id);
      whole(row.parentId);
      text(row.name);
      if (folded === null) none();
      else text(folded);
      text(row.type);
      text(row.kind);
      text(row.mime);
      whole(row.size);
      float(row.mtime);
      float(row.birth);
      float(row.dev);
      float(row.inode);
      whole(seen);
      none();
      rows++;
    },
    async end() {
      room(2);
      numbers.setInt16(at, -1);
      at += 2;
      flush();
      stream.end();
      await done;
      return rows;
    },
  };
}
