/** Icon Theme Specification 0.13, section "Icon Lookup": its pseudo-code's cases, and what its prose adds. */
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { iconLookup, type IconDisk } from './iconTheme.js';

function disk(files: Record<string, string>): IconDisk {
  return { isFile: (path) => path in files, read: (path) => files[path] };
}

const folder = (path: string, lines: string) => `\n[${path}]\n${lines}\n`;
const theme = (directories: string, inherits: string, ...folders: string[]) =>
  `[Icon Theme]\nName=T\nComment=c\n${inherits}Directories=${directories}\n${folders.join('')}`;

const HICOLOR = theme(
  '16x16/apps,48x48/apps,scalable/apps',
  '',
  folder('16x16/apps', 'Size=16\nType=Fixed'),
  folder('48x48/apps', 'Size=48'),
  folder('scalable/apps', 'Size=64\nMinSize=8\nMaxSize=512\nType=Scalable'),
);

describe('iconLookup', () => {
  it('takes the folder that matches the size: fixed, threshold of 2, scalable within its bounds', () => {
    const find = iconLookup(
      disk({
        '/d/icons/hicolor/index.theme': HICOLOR,
        '/d/icons/hicolor/16x16/apps/quill.png': '',
        '/d/icons/hicolor/48x48/apps/quill.png': '',
        '/d/icons/hicolor/scalable/apps/quill.svg': '',
      }),
      ['/d/icons'],
    );
    expect(find({ name: 'quill', size: 16 })).toBe('/d/icons/hicolor/16x16/apps/quill.png');
    expect(find({ name: 'quill', size: 47 })).toBe('/d/icons/hicolor/48x48/apps/quill.png');
    expect(find({ name: 'quill', size: 50 })).toBe('/d/icons/hicolor/48x48/apps/quill.png');
    expect(find({ name: 'quill', size: 51 })).toBe('/d/icons/hicolor/scalable/apps/quill.svg');
  });

  it('takes the nearest size where none matches', () => {
    const find = iconLookup(
      disk({
        '/d/icons/hicolor/index.theme': HICOLOR,
        '/d/icons/hicolor/16x16/apps/tide.png': '',
        '/d/icons/hicolor/48x48/apps/tide.png': '',
      }),
      ['/d/icons'],
    );
    expect(find({ name: 'tide', size: 24 })).toBe('/d/icons/hicolor/16x16/apps/tide.png');
    expect(find({ name: 'tide', size: 40 })).toBe('/d/icons/hicolor/48x48/apps/tide.png');
    expect(find({ name: 'tide', size: 600 })).toBe('/d/icons/hicolor/48x48/apps/tide.png');
  });

  it('scales count: a folder of scale 2 is not one of scale 1', () => {
    const find = iconLookup(
      disk({
        '/d/icons/hicolor/index.theme':
          theme('32', '', folder('32', 'Size=32\nType=Fixed')).replace(
            'Directories=32\n',
            'Directories=32\nScaledDirectories=32@2\n',
          ) + folder('32@2', 'Size=32\nScale=2\nType=Fixed'),
        '/d/icons/hicolor/32/net.png': '',
        '/d/icons/hicolor/32@2/net.png': '',
      }),
      ['/d/icons'],
    );
    expect(find({ name: 'net', size: 32 })).toBe('/d/icons/hicolor/32/net.png');
    expect(find({ name: 'net', size: 32, scale: 2 })).toBe('/d/icons/hicolor/32@2/net.png');
  });

  it('goes through what a theme inherits, then hicolor, then icons of no theme; a circle ends', () => {
    const find = iconLookup(
      disk({
        '/d/icons/shore/index.theme': theme('a', 'Inherits=cliff\n', folder('a', 'Size=48')),
        '/d/icons/cliff/index.theme': theme('a', 'Inherits=shore\n', folder('a', 'Size=48')),
        '/d/icons/hicolor/index.theme': HICOLOR,
        '/d/icons/shore/a/one.png': '',
        '/d/icons/cliff/a/two.png': '',
        '/d/icons/hicolor/48x48/apps/three.png': '',
        '/d/pixmaps/four.xpm': '',
      }),
      ['/d/icons'],
      ['/d/pixmaps'],
    );
    const of = (name: string) => find({ name, size: 48 }, 'shore');
    expect([of('one'), of('two'), of('three'), of('four'), of('five')]).toEqual([
      '/d/icons/shore/a/one.png',
      '/d/icons/cliff/a/two.png',
      '/d/icons/hicolor/48x48/apps/three.png',
      '/d/pixmaps/four.xpm',
      undefined,
    ]);
  });

  it('a theme is spread over base folders; earlier ones count first, the first index is the theme’s', () => {
    const find = iconLookup(
      disk({
        '/system/icons/hicolor/index.theme': HICOLOR,
        '/system/icons/hicolor/48x48/apps/boat.png': '',
        '/home/icons/hicolor/48x48/apps/boat.png': '',
      }),
      ['/home/icons', '/system/icons'],
    );
    expect(find({ name: 'boat', size: 48 })).toBe('/home/icons/hicolor/48x48/apps/boat.png');
  });

  it('png before svg before xpm; an absolute path stands for itself; names do not lead out', () => {
    const find = iconLookup(
      disk({
        '/d/icons/hicolor/index.theme': HICOLOR,
        '/d/icons/hicolor/48x48/apps/x.svg': '',
        '/d/icons/hicolor/48x48/apps/x.png': '',
        '/opt/own.png': '',
        '/d/secret.png': '',
      }),
      ['/d/icons'],
    );
    expect(find({ name: 'x', size: 48 })).toBe('/d/icons/hicolor/48x48/apps/x.png');
    expect(find({ name: 'x.png', size: 48 })).toBe('/d/icons/hicolor/48x48/apps/x.png');
    expect(find({ name: '/opt/own.png', size: 48 })).toBe('/opt/own.png');
    expect(find({ name: '../secret', size: 48 })).toBeUndefined();
    expect(find({ name: '', size: 48 })).toBeUndefined();
  });

  it('whatever the sizes, it finds an icon that is there, and never one further off than another', () => {
    const sizes = fc.uniqueArray(fc.integer({ min: 8, max: 256 }), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(sizes, fc.integer({ min: 1, max: 512 }), (there, size) => {
        const find = iconLookup(
          disk({
            '/i/hicolor/index.theme': theme(
              there.join(','),
              '',
              ...there.map((s) => folder(String(s), `Size=${s}\nType=Fixed`)),
            ),
            ...Object.fromEntries(there.map((s) => [`/i/hicolor/${s}/n.png`, ''])),
          }),
          ['/i'],
        );
        const found = Number(/hicolor\/(\d+)\//.exec(find({ name: 'n', size })!)![1]);
        expect(Math.abs(found - size)).toBe(Math.min(...there.map((s) => Math.abs(s - size))));
      }),
      { seed: 7 },
    );
  });
});
