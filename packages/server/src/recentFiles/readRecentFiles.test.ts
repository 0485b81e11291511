import fc from 'fast-check';
import { describe, expect, it } from '@jest/globals';
import { toFileUri } from '@rellin/core/paths';
import { openedSince, readRecentFiles, type OpenedElsewhere } from './readRecentFiles.js';

const HEAD = `<?xml version="1.0" encoding="UTF-8"?>
<xbel version="1.0" xmlns:bookmark="http://www.freedesktop.org/standards/desktop-bookmarks" xmlns:mime="http://www.freedesktop.org/standards/shared-mime-info">`;
const list = (body: string) => readRecentFiles(`${HEAD}${body}</xbel>`);
const escaped = (text: string) => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);
const bookmark = (opened: OpenedElsewhere[]) => `
  <bookmark href="${escaped(toFileUri(opened[0]!.path))}" added="2026-11-01T09:00:00.000000Z" modified="2026-11-01T09:00:00.000000Z" visited="2026-11-01T09:00:00.000000Z">
    <info>
      <metadata owner="http://freedesktop.org">
        <mime:mime-type type="text/csv"/>
        <bookmark:groups><bookmark:group>tables</bookmark:group></bookmark:groups>
        <bookmark:applications>
          ${opened.map((o) => `<bookmark:application name="${escaped(o.program)}" exec="&apos;sheet %u&apos;" modified="${new Date(o.at).toISOString().replace('Z', '000Z')}" count="2"/>`).join('')}
        </bookmark:applications>
      </metadata>
    </info>
  </bookmark>`;

describe('the recent-files list', () => {
  it('tells which program opened which file when, whatever their names', () => {
    const one = fc.record({
      path: fc
        .array(
          fc.string({ minLength: 1, maxLength: 12 }).filter((s) => !/[/\0]|^\.\.?$/.test(s)),
          { minLength: 1, maxLength: 4 },
        )
        .map((parts) => `/${parts.join('/')}`),
      programs: fc.array(
        fc.record({
          program: fc.string({ minLength: 1, maxLength: 10 }).filter((s) => /^[\x20-\x7e]*$/.test(s) && s.trim() === s),
          at: fc.integer({ min: Date.UTC(2020, 0), max: Date.UTC(2030, 0) }),
        }),
        { minLength: 1, maxLength: 3 },
      ),
    });
    fc.assert(
      fc.property(fc.array(one, { maxLength: 6 }), (files) => {
        const told = { exec: "'sheet %u'", since: Date.UTC(2026, 10, 1, 9), times: 2 };
        const all = files.map(({ path, programs }) => programs.map((p) => ({ path, ...p, ...told })));
        expect(list(all.map(bookmark).join(''))).toEqual({ ok: true, opened: all.flat() });
      }),
      { seed: 71, numRuns: 200 },
    );
  });
  it('takes the time of the file where no program is named, and seconds as older programs write them', () => {
    const told = list(`
      <bookmark href="file:///a.txt" added="2026-11-01T09:00:00Z" visited="2026-11-02T10:00:00Z"><title>A</title></bookmark>
      <bookmark href="file:///b.txt"><info><metadata owner="http://freedesktop.org"><bookmark:applications>
        <bookmark:application name="Old" exec="old" timestamp="1793000000" count="1"/></bookmark:applications></metadata></info></bookmark>`);
    expect(told).toEqual({
      ok: true,
      opened: [
        { path: '/a.txt', program: '', at: Date.UTC(2026, 10, 2, 10) },
        { path: '/b.txt', program: 'Old', at: 1793000000000, exec: 'old', times: 1 },
      ],
    });
  });
  it('passes over what is no file of this machine or has no time, and keeps the rest', () => {
    const told = list(`
      <bookmark href="https://example.org/x" visited="2026-11-02T10:00:00Z"/>
      <bookmark href="file://elsewhere/x" visited="2026-11-02T10:00:00Z"/>
      <bookmark href="file:///c.txt"/><bookmark/><folder><title>F</title></folder>
      <bookmark href="file:///d.txt" visited="yesterday"/>
      <bookmark href="file:///e%20f.txt" visited="2026-11-02T10:00:00+01:00"/>`);
    expect(told).toEqual({ ok: true, opened: [{ path: '/e f.txt', program: '', at: Date.UTC(2026, 10, 2, 9) }] });
  });
  it('says so where it is no such list, or cut off; an empty one has nothing', () => {
    expect(readRecentFiles('')).toEqual({ ok: false, reason: 'not-xml' });
    expect(readRecentFiles(`${HEAD}<bookmark href="file:///a`)).toEqual({ ok: false, reason: 'not-xml' });
    expect(readRecentFiles('<html></html>')).toEqual({ ok: false, reason: 'no-recent-files' });
    expect(list('')).toEqual({ ok: true, opened: [] });
  });
  it('fetches and expands nothing', () => {
    const bomb = `<!DOCTYPE xbel [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;"><!ENTITY f SYSTEM "file:///etc/passwd">]>
      <xbel><bookmark href="file:///&f;&b;" visited="2026-11-02T10:00:00Z"/></xbel>`;
    let text: string;
    try {
      text = JSON.stringify(readRecentFiles(bomb));
    } catch (error) {
      text = (error as Error).message;
    }
    expect(text).not.toContain('root:');
    expect(text.length).toBeLessThan(2000);
  });
  it('leaves out what was told before and what lies in the future, the oldest first', () => {
    const at = (n: number) => ({ path: `/${n}`, program: '', at: n });
    expect(openedSince([at(5), at(1), at(3), at(9)], 1, 8).map((o) => o.at)).toEqual([3, 5]);
  });
});
