/**
 * What a picture of a shortcut or collection is kept as: one short text, so that it travels in lists.
 *
 *     ""             none chosen: the program's own icon, or the kind's
 *     "icon:NAME"    one of the bundled icon set
 *     "image:ID"     bytes the person gave, by their SHA-256 in hexadecimal
 *     "thumbnail"    the original itself, made small
 */
export type Picture =
  { type: 'none' } | { type: 'icon'; name: string } | { type: 'image'; id: string } | { type: 'thumbnail' };

const ICON = /^icon:([a-z0-9]+(?:-[a-z0-9]+)*)$/;
const IMAGE = /^image:([0-9a-f]{64})$/;

/** Reads the text; `undefined` where it is none of these. */
export function parsePicture(text: string): Picture | undefined {
  if (text === '') return { type: 'none' };
  if (text === 'thumbnail') return { type: 'thumbnail' };
  const icon = text.length <= 80 ? ICON.exec(text)?.[1] : undefined;
  if (icon !== undefined) return { type: 'icon', name: icon };
  const id = IMAGE.exec(text)?.[1];
  return id === undefined ? undefined : { type: 'image', id };
}
