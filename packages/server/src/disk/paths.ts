/**
 * Between path text and what Node's file functions take: a string where the name is UTF-8, the very bytes where not.
 */
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

/** The path below a root of an absolute path in it; empty for the root itself. */
export function below(root: string, path: string): string {
  return path === root ? '' : path.slice(root === '/' ? 1 : root.length + 1);
}
