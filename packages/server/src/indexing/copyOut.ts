/** Rows out of PostgreSQL by COPY … TO STDOUT in its binary form (PostgreSQL 15, "COPY", File Formats). */
import { Buffer } from 'node:buffer';
import type { Client } from 'pg';
import { to as copyTo } from 'pg-copy-streams';

/** The signature, the flags and the length of what may follow them. */
const HEADER_BYTES = 19;
const HIGH = 2 ** 32;

/** One row: its fields are taken in the order of the query, each by the method of its type. */
export class CopiedRow {
  bytes: Buffer = Buffer.alloc(0);
  at = 0;

  /** bigint, as far as a number holds it. */
  whole(): number {
    this.at += 4;
    const value = this.bytes.readInt32BE(this.at) * HIGH + this.bytes.readUInt32BE(this.at + 4);
    this.at += 8;
    return value;
  }

  /** double precision */
  float(): number {
    const value = this.bytes.readDoubleBE(this.at + 4);
    this.at += 12;
    return value;
  }

  /** text */
  text(): string {
    const from = this.at + 4;
    this.at = from + this.bytes.readInt32BE(this.at);
    return this.bytes.toString('utf8', from, this.at);
  }

  /** text that may be null */
  maybe(): string | undefined {
    if (this.bytes.readInt32BE(this.at) >= 0) return this.text();
    this.at += 4;
    return undefined;
  }
}

/** Where the row that begins at `at` ends; −1 where not all of it is here, −2 for the mark after the last. */
function endOf(bytes: Buffer, at: number): number {
  if (at + 2 > bytes.length) return -1;
  const fields = bytes.readInt16BE(at);
  if (fields < 0) return -2;
  let end = at + 2;
  for (let i = 0; i < fields; i++) {
    if (end + 4 > bytes.length) return -1;
    end += 4 + Math.max(0, bytes.readInt32BE(end));
  }
  return end <= bytes.length ? end : -1;
}

export async function copyOut(client: Client, query: string, onRow: (row: CopiedRow) => void): Promise<void> {
  const stream = client.query(copyTo(`COPY (${query}) TO STDOUT (FORMAT binary)`));
  const row = new CopiedRow();
  let rest: Buffer = Buffer.alloc(0);
  let skipped = false;
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    const bytes = rest.length > 0 ? Buffer.concat([rest, chunk]) : chunk;
    let at = 0;
    if (!skipped) {
      if (bytes.length < HEADER_BYTES) {
        rest = bytes;
        continue;
      }
      at = HEADER_BYTES;
      skipped = true;
    }
    row.bytes = bytes;
    for (let end = endOf(bytes, at); end >= 0; end = endOf(bytes, at)) {
      row.at = at + 2;
      onRow(row);
      at = end;
    }
    rest = bytes.subarray(at);
  }
}
