import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { parsePicture } from './index.js';

describe('parsePicture', () => {
  it('reads each form', () => {
    expect(parsePicture('')).toEqual({ type: 'none' });
    expect(parsePicture('thumbnail')).toEqual({ type: 'thumbnail' });
    expect(parsePicture('icon:directions-boat')).toEqual({ type: 'icon', name: 'directions-boat' });
    expect(parsePicture(`image:${'0a'.repeat(32)}`)).toEqual({ type: 'image', id: '0a'.repeat(32) });
  });

  it.each([
    'icon:',
    'icon:../x',
    'icon:A',
    'icon:a--b',
    'icon:a/b',
    'image:12',
    `image:${'G'.repeat(64)}`,
    'http://x',
    'none',
  ])('knows nothing of “%s”', (text) => expect(parsePicture(text)).toBeUndefined());

  it('never takes a text that could leave the folder of icons', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        const picture = parsePicture(`icon:${text}`);
        if (picture?.type === 'icon') expect(picture.name).toMatch(/^[a-z0-9-]+$/);
      }),
      { seed: 31 },
    );
  });
});
