/** A COPY … FROM STDIN that takes text as it is made, with back-pressure kept by PostgreSQL's own socket. */
import type { Client } from 'pg';
import { from as copyFrom, to as copyTo } from 'pg-copy-streams';
import { finished } from 'node:stream/promises';
import { ORIGINAL_COLUMNS } from '../database/partition.js';

const CHUNK = 1 << 16;

export interface CopyIn {
  write(line: string): void;
  end(): Promise<number>;
}

export function copyInto(client: Client, table: string): CopyIn {
  const stream = client.query(copyFrom(`COPY ${table} (${ORIGINAL_COLUMNS}) FROM STDIN`));
  const done = finished(stream);
  // an error is reported by end(); without this a failure in between would count as unhandled
  done.catch(() => undefined);
  let chunk: string[] = [];
  let length = 0;
  let rows = 0;
  const flush = () => {
    if (length > 0) stream.write(chunk.join(''));
    chunk = [];
    length = 0;
  };
  return {
    write(line) {
      chunk.push(line);
      length += line.length;
      rows++;
      if (length >= CHUNK) flush();
    },
    async end() {
      flush();
      stream.end();
      await done;
      return rows;
    },
  };
}

/** Reads rows as arrays of raw fields. */
export async function copyOut(client: Client, query: string, onRow: (fields: string[]) => void): Promise<void> {
  const stream = client.query(copyTo(`COPY (${query}) TO STDOUT`));
  let rest = '';
  const decoder = new TextDecoder();
  for await (const chunk of stream as AsyncIterable<Uint8Array>) {
    const lines = (rest + decoder.decode(chunk, { stream: true })).split('\n');
    rest = lines.pop()!;
    for (const line of lines) onRow(line.split('\t'));
  }
}
