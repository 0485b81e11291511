/**
 * MIME Applications Associations 1.0.1: the order of files, defaults before added before an entry's own, removed ones
 * out.
 */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { defaultFor, defaultIn, mimeAppsFiles, parseMimeApps, programsFor, withDefault } from './mimeApps.js';
import { lineage, parseMimeTree } from './mimeTree.js';

const PROGRAMS = [
  { id: 'quill.desktop', mimeTypes: ['text/plain', 'text/markdown'] },
  { id: 'sums.desktop', mimeTypes: ['text/csv'] },
  { id: 'tide.desktop', mimeTypes: ['text/csv'] },
  { id: 'maps.desktop', mimeTypes: [] },
];

describe('mimeapps.list', () => {
  it('lists the files in the order of the specification: configuration before data, the user’s before the system’s', () => {
    const dirs = {
      configHome: '/h/.config',
      configDirs: ['/etc/xdg'],
      dataHome: '/h/.local/share',
      dataDirs: ['/usr/share'],
    };
    expect(mimeAppsFiles(dirs).map((f) => f.path)).toEqual([
      '/h/.config/mimeapps.list',
      '/etc/xdg/mimeapps.list',
      '/h/.local/share/applications/mimeapps.list',
      '/usr/share/applications/mimeapps.list',
    ]);
    // those of the session's desktops come before the one for all, in each folder
    expect(mimeAppsFiles(dirs, ['Shore', 'Cliff']).slice(0, 4)).toEqual([
      { path: '/h/.config/shore-mimeapps.list', isForDesktop: true },
      { path: '/h/.config/cliff-mimeapps.list', isForDesktop: true },
      { path: '/h/.config/mimeapps.list', isForDesktop: false },
      { path: '/etc/xdg/shore-mimeapps.list', isForDesktop: true },
    ]);
  });

  it('the first file’s default leads; added ones follow; an entry’s own come last', () => {
    const files = [
      '[Added Associations]\ntext/csv=maps.desktop;\n',
      '[Default Applications]\ntext/csv=gone.desktop;tide.desktop;\n',
    ].map((text) => parseMimeApps(text));
    expect(programsFor('text/csv', files, PROGRAMS)).toEqual([
      'tide.desktop',
      'maps.desktop',
      'sums.desktop',
      // a table in text is text as well
      'quill.desktop',
    ]);
  });

  it('removed associations take out what stands further down, not a default', () => {
    const files = [parseMimeApps('[Removed Associations]\ntext/csv=sums.desktop;tide.desktop;\n')];
    expect(programsFor('text/csv', files, PROGRAMS)).toEqual(['quill.desktop']);
    const kept = [parseMimeApps('[Default Applications]\ntext/csv=sums.desktop\n'), ...files];
    expect(programsFor('text/csv', kept, PROGRAMS)).toEqual(['sums.desktop', 'quill.desktop']);
  });

  it('MIME types are read whatever their case and signs', () => {
    const text = '[Default Applications]\nImage/SVG+xml=maps.desktop\napplication/vnd.x-y.z=quill.desktop;\n';
    expect(defaultIn(text, 'image/svg+xml')).toBe('maps.desktop');
    expect(defaultIn(text, 'application/vnd.x-y.z')).toBe('quill.desktop');
    expect(defaultIn(text, 'text/plain')).toBeUndefined();
  });
});

describe('what a type is a special case of', () => {
  const tree = parseMimeTree(
    'text/x-csv text/csv\napplication/x-json application/json\n# none\n',
    'text/x-c++src text/x-csrc\napplication/json application/javascript\napplication/javascript text/plain\nimage/x application/octet-stream\na/b a/c\na/c a/b\n',
  );

  it('follows it, the nearest first, each once; all text is plain, and nothing is merely bytes', () => {
    expect(lineage(tree, 'Text/X-C++src')).toEqual(['text/x-c++src', 'text/x-csrc', 'text/plain']);
    expect(lineage(tree, 'application/x-json')).toEqual(['application/json', 'application/javascript', 'text/plain']);
    expect(lineage(tree, 'image/x')).toEqual(['image/x']);
    expect(lineage(tree, 'a/b')).toEqual(['a/b', 'a/c']);
  });

  it('finds programs for it, after those for the type itself; what was removed for the type stays away', () => {
    const files = [parseMimeApps('[Default Applications]\ntext/plain=quill.desktop\n')];
    expect(programsFor('application/json', files, PROGRAMS, tree)).toEqual(['quill.desktop']);
    expect(programsFor('text/x-csv', files, PROGRAMS, tree)).toEqual(['sums.desktop', 'tide.desktop', 'quill.desktop']);
    expect(defaultFor('application/x-json', files, PROGRAMS, tree)).toBe('quill.desktop');
    const removed = [...files, parseMimeApps('[Removed Associations]\napplication/json=quill.desktop\n')];
    expect(programsFor('application/json', removed, PROGRAMS, tree)).toEqual([]);
  });

  it('one for a desktop alone says only defaults', () => {
    const text =
      '[Default Applications]\na/b=tide.desktop\n[Added Associations]\na/b=sums.desktop\n[Removed Associations]\na/b=tide.desktop\n';
    expect(programsFor('a/b', [parseMimeApps(text, true)], PROGRAMS)).toEqual(['tide.desktop']);
    expect(programsFor('a/b', [parseMimeApps(text)], PROGRAMS)).toEqual(['tide.desktop', 'sums.desktop']);
  });
});

// outside reference: GLib, through its command `gio mime`, on the same files
const hasGio = spawnSync('gio', ['version']).status === 0 && existsSync('/usr/share/mime/mime.cache');
describe('the default program', () => {
  (hasGio ? it : it.skip)('is the one that GLib says, for random lists of both desktops and all', () => {
    const base = mkdtempSync(join(tmpdir(), 'rellin-mime-'));
    try {
      const apps = join(base, 'data/applications');
      mkdirSync(apps, { recursive: true });
      mkdirSync(join(base, 'config'));
      mkdirSync(join(base, 'none'));
      symlinkSync('/usr/share/mime', join(base, 'data/mime'));
      const types = [
        'text/plain',
        'text/csv',
        'text/x-csrc',
        'text/x-c++src',
        'application/json',
        'image/png',
        'application/xml',
      ];
      const programs = ['a', 'b', 'c', 'd'].map((name, i) => ({ id: `${name}.desktop`, mimeTypes: [types[i]!] }));
      for (const { id, mimeTypes } of programs)
        writeFileSync(
          join(apps, id),
          `[Desktop Entry]\nType=Application\nName=${id}\nExec=true %F\nMimeType=${mimeTypes[0]};\n`,
        );
      const cache = programs.map((p) => `${p.mimeTypes[0]}=${p.id};\n`).join('');
      writeFileSync(join(apps, 'mimeinfo.cache'), `[MIME Cache]\n${cache}`);
      const tree = parseMimeTree(
        readFileSync('/usr/share/mime/aliases', 'utf8'),
        readFileSync('/usr/share/mime/subclasses', 'utf8'),
      );
      const dirs = {
        configHome: join(base, 'config'),
        configDirs: [join(base, 'none')],
        dataHome: join(base, 'data'),
        dataDirs: [join(base, 'none')],
      };
      const places = mimeAppsFiles(dirs, ['Shore']).filter(
        (f) => f.path.includes('/config/') || f.path.includes('/data/'),
      );
      const line = fc.tuple(fc.constantFrom(...types), fc.constantFrom('a', 'b', 'c', 'd', 'gone'));
      const text = fc
        .array(line, { maxLength: 4 })
        .map(
          (lines) => `[Default Applications]\n${[...new Map(lines)].map(([t, p]) => `${t}=${p}.desktop;\n`).join('')}`,
        );
      fc.assert(
        fc.property(
          fc.array(text, { minLength: places.length, maxLength: places.length }),
          fc.constantFrom(...types),
          (texts, type) => {
            places.forEach(({ path }, i) => writeFileSync(path, texts[i]!));
            const files = places.map(({ isForDesktop }, i) => parseMimeApps(texts[i]!, isForDesktop));
            const ours = defaultFor(type, files, programs, tree);
            const { stdout } = spawnSync('gio', ['mime', type], {
              encoding: 'utf8',
              env: {
                PATH: process.env['PATH'],
                HOME: base,
                LC_ALL: 'C.UTF-8',
                XDG_CONFIG_HOME: dirs.configHome,
                XDG_CONFIG_DIRS: dirs.configDirs[0],
                XDG_DATA_HOME: dirs.dataHome,
                XDG_DATA_DIRS: dirs.dataDirs[0],
                XDG_CURRENT_DESKTOP: 'Shore',
              },
            });
            const theirs = /^Default application for .*: (\S+)$/m.exec(stdout)?.[1];
            // without a default GLib takes any program that says of itself that it opens the type
            if (ours !== undefined) expect([type, theirs]).toEqual([type, ours]);
            else
              expect(programsFor(type, files, programs, tree)).toEqual(
                theirs === undefined ? [] : expect.arrayContaining([theirs]),
              );
          },
        ),
        { seed: 91, numRuns: 60 },
      );
    } finally {
      rmSync(base, { recursive: true });
    }
  });
});

describe('withDefault', () => {
  it('writes no line that a type or a name of a file brings along', () => {
    const text = '[Default Applications]\na/b=p.desktop;\n';
    for (const id of ['x\n[Default Applications]\nc/d=evil', 'x;evil.desktop', 'x=y', '[x]', 'a\r'])
      expect(withDefault(text, 'a/b', id)).toBe(text);
    for (const mime of ['c/d=evil\ne/f', 'c/d\n', 'c', 'c/d;e', '[c/d]'])
      expect(withDefault(text, mime, 'q.desktop')).toBe(text);
  });

  const TEXT =
    '# mine\n[Added Associations]\ntext/csv=tide.desktop;\n\n[Default Applications]\n# tables\ntext/csv=sums.desktop;\nx/y=z.desktop\n';

  it('changes one line and leaves every other as it was; the former default stays behind', () => {
    expect(withDefault(TEXT, 'text/csv', 'tide.desktop')).toBe(
      TEXT.replace('text/csv=sums.desktop;', 'text/csv=tide.desktop;sums.desktop;'),
    );
  });

  it('adds the group to a file without it, or to none', () => {
    expect(withDefault('', 'a/b', 'p.desktop')).toBe('[Default Applications]\na/b=p.desktop;\n');
    expect(withDefault('[Added Associations]\na/b=q.desktop\n', 'a/b', 'p.desktop')).toBe(
      '[Added Associations]\na/b=q.desktop\n\n[Default Applications]\na/b=p.desktop;\n',
    );
  });

  it('takes a default away again', () => {
    expect(withDefault(TEXT, 'text/csv', undefined)).toBe(TEXT.replace('text/csv=sums.desktop;\n', ''));
    expect(withDefault('', 'text/csv', undefined)).toBe('');
  });

  it('what is set is what is read, whatever was there, and other types keep theirs', () => {
    const mime = fc.constantFrom('a/b', 'text/csv', 'image/svg+xml', 'x/y.z');
    const id = fc.constantFrom('p.desktop', 'q.desktop', 'r.desktop');
    fc.assert(
      fc.property(fc.array(fc.tuple(mime, fc.option(id, { nil: undefined })), { maxLength: 12 }), (steps) => {
        let text = TEXT;
        const wanted = new Map<string, string | undefined>();
        for (const [type, program] of steps) {
          text = withDefault(text, type, program);
          wanted.set(type, program);
        }
        for (const [type, program] of wanted) expect(defaultIn(text, type)).toBe(program);
        expect(defaultIn(text, 'x/y')).toBe('z.desktop');
        expect(text).toContain('# mine');
        expect(text).toContain('[Added Associations]\ntext/csv=tide.desktop;');
      }),
      { seed: 11 },
    );
  });
});
