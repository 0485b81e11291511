/** Between path text and what Node's file functions take: a string where the name is UTF-8, the very bytes where not. */
import { Buffer } from 'node:buffer';
import { hasEscapes, toBytes } from '@rellin/core/paths';

export type DiskPath = string | Buffer;

export function diskPath(pathText: string): DiskPath {
  return hasEscapes(pathText) ? Buffer.from(toBytes(pathText)) : pathText;
}

export function absolute(root: string, relative: string): string {
  if (relative === '') return root;
  return root === '/' ? `/${relative}` : `${root}/${relative}`;
}
