/** A million names from a seed, made of real ones: the machine's own /usr and its packages' file lists. */
import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { seeded } from '../packages/core/dist/random/index.js';
import { kindOf } from '../packages/core/dist/kinds/index.js';
import { PlaceIndex } from '../packages/core/dist/memoryIndex/index.js';

const LISTS = '/var/lib/dpkg/info';
export const NOW = Date.UTC(2026, 10, 25, 12);

/** Every name there is on the machine once, in a fixed order. */
export function realNames() {
  const names = new Set(
    execFileSync('find', ['/usr', '-mindepth', '1', '-printf', '%f\n'], { maxBuffer: 1 << 28, encoding: 'utf8' }).split(
      '\n',
    ),
  );
  for (const list of readdirSync(LISTS))
    if (list.endsWith('.list'))
      for (const line of readFileSync(join(LISTS, list), 'utf8').split('\n'))
        names.add(line.slice(line.lastIndexOf('/') + 1));
  names.delete('');
  names.delete('.');
  return [...names].sort();
}

/** As many names as asked: the real ones, then these with a piece of another put in. */
export function manyNames(count, seed = 1) {
  const random = seeded(seed);
  const real = realNames();
  if (real.length > count) {
    const chosen = new Set();
    while (chosen.size < count) chosen.add(random.pick(real));
    return [...chosen];
  }
  // each name once: no two in one folder are alike
  const names = new Set(real);
  while (names.size < count) {
    const [a, b] = [random.pick(real), random.pick(real)];
    const dot = a.lastIndexOf('.');
    const stem = dot > 0 ? a.slice(0, dot) : a;
    names.add(`${stem}-${b.slice(0, random.int(3, 8))}${dot > 0 ? a.slice(dot) : ''}`);
  }
  return [...names];
}

/**
 * Rows of a tree with these names: one folder in twelve, eight levels at most, sizes and times as files have them.
 * @returns {Generator<import('../packages/core/dist/memoryIndex/index.js').IndexRow>}
 */
export function* rowsOf(names, seed = 2) {
  const random = seeded(seed);
  yield { id: 1, parentId: 0, name: '', type: 'folder', kind: 'folder', size: 0, modified: NOW, created: NOW };
  const folders = [[1, 0]];
  for (const [i, name] of names.entries()) {
    const isFolder = i % 12 === 0;
    const [parentId, depth] = random.pick(folders);
    if (isFolder && depth < 7) folders.push([i + 2, depth + 1]);
    const type = isFolder ? 'folder' : 'file';
    yield {
      id: i + 2,
      parentId,
      name,
      type,
      kind: kindOf(type, name),
      size: isFolder ? 0 : Math.floor(Math.exp(random.next() * 16)),
      modified: NOW - Math.floor(random.next() * 3 * 365 * 86_400_000),
      created: NOW - Math.floor(random.next() * 3 * 365 * 86_400_000),
    };
  }
}

export function indexOf(names) {
  const index = new PlaceIndex(1, 'Machine');
  for (const row of rowsOf(names)) index.put(row);
  index.layOut();
  return index;
}
