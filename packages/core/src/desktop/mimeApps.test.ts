/** MIME Applications Associations 1.0.1: the order of files, defaults before added before an entry's own, removed ones out. */
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { defaultIn, mimeAppsFiles, parseMimeApps, programsFor, withDefault } from './mimeApps.js';

const PROGRAMS = [
  { id: 'quill.desktop', mimeTypes: ['text/plain', 'text/markdown'] },
  { id: 'sums.desktop', mimeTypes: ['text/csv'] },
  { id: 'tide.desktop', mimeTypes: ['text/csv'] },
  { id: 'maps.desktop', mimeTypes: [] },
];

describe('mimeapps.list', () => {
  it('lists the files in the order of the specification: configuration before data, the user’s before the system’s', () => {
    expect(mimeAppsFiles('/h/.config', ['/etc/xdg'], '/h/.local/share', ['/usr/share'])).toEqual([
      '/h/.config/mimeapps.list',
      '/etc/xdg/mimeapps.list',
      '/h/.local/share/applications/mimeapps.list',
      '/usr/share/applications/mimeapps.list',
    ]);
  });

  it('the first file’s default leads; added ones follow; an entry’s own come last', () => {
    const files = [
      '[Added Associations]\ntext/csv=maps.desktop;\n',
      '[Default Applications]\ntext/csv=gone.desktop;tide.desktop;\n',
    ].map(parseMimeApps);
    expect(programsFor('text/csv', files, PROGRAMS)).toEqual(['tide.desktop', 'maps.desktop', 'sums.desktop']);
  });

  it('removed associations take out what stands further down, not a default', () => {
    const files = [parseMimeApps('[Removed Associations]\ntext/csv=sums.desktop;tide.desktop;\n')];
    expect(programsFor('text/csv', files, PROGRAMS)).toEqual([]);
    const kept = [parseMimeApps('[Default Applications]\ntext/csv=sums.desktop\n'), ...files];
    expect(programsFor('text/csv', kept, PROGRAMS)).toEqual(['sums.desktop']);
  });

  it('MIME types are read whatever their case and signs', () => {
    const text = '[Default Applications]\nImage/SVG+xml=maps.desktop\napplication/vnd.x-y.z=quill.desktop;\n';
    expect(defaultIn(text, 'image/svg+xml')).toBe('maps.desktop');
    expect(defaultIn(text, 'application/vnd.x-y.z')).toBe('quill.desktop');
    expect(defaultIn(text, 'text/plain')).toBeUndefined();
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
