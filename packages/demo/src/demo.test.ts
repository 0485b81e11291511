import { Buffer } from 'node:buffer';
import { describe, expect, it } from '@jest/globals';
import { catalogue, makeTree, openingsOf } from './index.js';

const TODAY = new Date('2026-11-24T00:00:00Z');

describe('the demo', () => {
  const tree = makeTree(7, TODAY);
  const all = [...tree.marrowick, ...tree.fieldDrive, ...tree.stationShare];

  it('is the same for the same seed and day, and another for another seed', () => {
    const again = makeTree(7, TODAY);
    expect(again.marrowick.length).toBe(tree.marrowick.length);
    expect(
      again.marrowick.every(
        (f, i) =>
          String(f.path) === String(tree.marrowick[i]!.path) &&
          f.bytes.equals(tree.marrowick[i]!.bytes) &&
          +f.modified === +tree.marrowick[i]!.modified,
      ),
    ).toBe(true);
    expect(makeTree(8, TODAY).marrowick.some((f, i) => !tree.marrowick[i]?.bytes.equals(f.bytes))).toBe(true);
  }, 120_000);

  it('holds some four thousand files with names of their own, awkward ones among them', () => {
    expect(all.length).toBeGreaterThan(3700);
    expect(all.length).toBeLessThan(4300);
    const paths = tree.marrowick.map((f) => Buffer.from(f.path as string).toString('latin1'));
    expect(new Set(paths).size).toBe(paths.length);
    const names = tree.marrowick.map((f) => String(f.path).split('/').pop()!);
    expect(names).toEqual(expect.arrayContaining(['new\nline.txt', '100% sure.txt', '海鳥.txt']));
    for (const name of names) expect(Buffer.byteLength(name)).toBeLessThanOrEqual(255);
    expect(tree.marrowick.some((f) => Buffer.isBuffer(f.path) && f.path.includes(0xe9))).toBe(true);
  });

  it('writes bytes that begin as their kind does', () => {
    const first = (ext: string) => tree.marrowick.find((f) => String(f.path).endsWith(ext))!.bytes;
    expect(first('.png').subarray(1, 4).toString()).toBe('PNG');
    expect(first('.wav').subarray(8, 12).toString()).toBe('WAVE');
    expect(first('.pdf').subarray(0, 5).toString()).toBe('%PDF-');
    expect(first('.odt').subarray(30, 38).toString()).toBe('mimetype');
    expect(first('.gpx').toString()).toContain('<gpx');
  });

  it('catalogues only what it writes', () => {
    const written = {
      marrowick: tree.marrowick.map((f) => String(f.path)),
      fieldDrive: tree.fieldDrive.map((f) => String(f.path)),
      stationShare: tree.stationShare.map((f) => String(f.path)),
    };
    for (const { name, target } of catalogue(2026, 'nov')) {
      if (!('path' in target)) continue;
      const there = written[target.root].some((p) => p === target.path || p.startsWith(`${target.path}/`));
      expect({ name, there }).toEqual({ name, there: true });
    }
  });

  it('opens things over twelve weeks about as often as it says, at their hours', () => {
    const item = catalogue(2026, 'nov')[0]!;
    const times = openingsOf(item, 0, 7, TODAY);
    expect(Math.abs(times.length / 12 - item.perWeek)).toBeLessThan(3);
    expect(times).toEqual([...times].sort((a, b) => a - b));
    for (const t of times) {
      const hour = new Date(t).getUTCHours();
      expect(hour).toBeGreaterThanOrEqual(item.hours[0]);
      expect(hour).toBeLessThan(item.hours[1]);
    }
  });
});
