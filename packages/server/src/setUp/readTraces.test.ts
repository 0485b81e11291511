import fc from 'fast-check';
import { describe, expect, it } from '@jest/globals';
import { toFileUri } from '@rellin/core/paths';
import { applicationEntry, webEntry } from '@rellin/core/aliases';
import { readFolderBookmarks, readLinkFile } from './readTraces.js';

const name = fc.string({ minLength: 1, maxLength: 12 }).filter((s) => !/[/\0\n\r]|^\.\.?$/.test(s));
const path = fc.array(name, { minLength: 1, maxLength: 4 }).map((parts) => `/${parts.join('/')}`);

describe('folders bookmarked in file dialogs', () => {
  it('are read whatever their names, each once, with or without a label', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(path, fc.constantFrom('', ' Label', ' two words'))), (list) => {
        const text = list.map(([p, label]) => toFileUri(p) + label).join('\n');
        expect(readFolderBookmarks(text)).toEqual([...new Set(list.map(([p]) => p))]);
      }),
      { seed: 165, numRuns: 200 },
    );
  });
  it('leave out what is no folder of this machine', () => {
    expect(readFolderBookmarks('sftp://gannet/home\n\nfile://elsewhere/x\nnonsense\nfile:///a%20b\n')).toEqual([
      '/a b',
    ]);
  });
});

describe('link files on the desktop', () => {
  it('lead where entries lead as the specification writes them', () => {
    expect(readLinkFile('w.desktop', webEntry('Tides; today', 'https://tides.example/a?b=1'))).toEqual({
      to: 'web',
      url: 'https://tides.example/a?b=1',
      name: 'Tides; today',
    });
    const entry = applicationEntry({ name: 'Chart', exec: 'chart %f' });
    expect(readLinkFile('chart.desktop', entry)).toMatchObject({ to: 'program', id: 'chart.desktop' });
    const link = '[Desktop Entry]\nType=Link\nName=Map\nURL=file:///home/wren/map.png\n';
    expect(readLinkFile('map.desktop', link)).toEqual({ to: 'path', path: '/home/wren/map.png' });
  });
  it('are read as other systems write them', () => {
    const text = '\uFEFF[InternetShortcut]\r\nURL=https://tides.example/\r\n';
    expect(readLinkFile('Tides.url', text)).toEqual({ to: 'web', url: 'https://tides.example/', name: 'Tides' });
  });
  it('lead nowhere by another scheme, hidden, or where they are none', () => {
    for (const text of [
      '[InternetShortcut]\nURL=javascript:alert(1)\n',
      '[Desktop Entry]\nType=Link\nURL=smb://share/x\n',
      '[Desktop Entry]\nType=Application\nHidden=true\nExec=x\nName=X\n',
      '[Desktop Entry]\nType=Application\nName=X\n',
      '',
      'no entry at all',
    ])
      expect(readLinkFile('x.desktop', text)).toBeUndefined();
  });
  it('never throw, whatever stands in them', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200 }), fc.string({ maxLength: 20 }), (text, file) => {
        readLinkFile(file, text);
        readLinkFile(file, `[Desktop Entry]\n${text}`);
        readFolderBookmarks(text);
      }),
      { seed: 166, numRuns: 500 },
    );
  });
});
