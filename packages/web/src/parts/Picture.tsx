/**
 * The picture of a shortcut or collection: one the person chose, a program's own icon, a thumbnail, or else the kind's
 * icon.
 */
import { useState } from 'react';
import type { ShortcutView } from '@rellin/contract';
import { parsePicture } from '@rellin/core/pictures';
import { KindIcon } from './KindIcon';
import './Picture.css';

export type Pictured = Pick<
  ShortcutView,
  'picture' | 'kind' | 'target' | 'location' | 'placeId' | 'originalId' | 'modified' | 'state'
>;

/** From which size on a picture shows itself small without being told to. */
const THUMBNAIL_FROM = 48;
/** An icon of a kind says nothing more by being larger. */
const MOST_KIND = 52;

/** Where the bytes are; undefined where there are none to fetch. */
export function pictureAddress(of: Pictured, size: number): string | undefined {
  const picture = parsePicture(of.picture);
  if (picture?.type === 'image') return `/api/pictures/${picture.id}`;
  const wanted =
    picture?.type === 'thumbnail' || (of.picture === '' && of.kind === 'picture' && size >= THUMBNAIL_FROM);
  if (wanted && of.placeId !== null && of.originalId !== null && of.state !== 'away' && of.state !== 'lost')
    return `/api/pictures/originals/${of.placeId}/${of.originalId}?side=${size > 128 ? 512 : 256}&v=${Math.round(of.modified ?? 0)}`;
  if (of.picture === '' && of.target === 'program') return `/api/pictures/programs/${encodeURIComponent(of.location)}`;
  return undefined;
}

/** One of the bundled set, in the colour of the text around. */
export function SetIcon({ name, size }: { name: string; size: number }) {
  const mask = `url("/icons/${name}.svg")`;
  return (
    <span
      className="set-icon"
      aria-hidden
      style={{ width: size, height: size, maskImage: mask, WebkitMaskImage: mask }}
    />
  );
}

export function Picture({ of, size }: { of: Pictured; size: number }) {
  const [failed, setFailed] = useState<string>();
  const picture = parsePicture(of.picture);
  if (picture?.type === 'icon') return <SetIcon name={picture.name} size={size} />;
  const address = pictureAddress(of, size);
  if (address === undefined || failed === address)
    return (
      <span className="picture-kind" style={{ height: size }}>
        <KindIcon kind={of.kind} size={Math.min(size, MOST_KIND)} />
      </span>
    );
  return (
    <img
      className="picture"
      src={address}
      alt=""
      width={size}
      height={size}
      loading="lazy"
      draggable={false}
      onError={() => setFailed(address)}
    />
  );
}

/** Small, beside a name: only what the person chose, and icons of programs; text leads. */
export function ChosenPicture({ of }: { of: Pictured }) {
  return of.picture === '' ? null : <Picture of={of} size={20} />;
}

/** The same for a collection, which has no kind. */
export function CollectionPicture({ picture, size }: { picture: string; size: number }) {
  const parsed = parsePicture(picture);
  if (parsed?.type === 'icon') return <SetIcon name={parsed.name} size={size} />;
  if (parsed?.type === 'image')
    return <img className="picture" src={`/api/pictures/${parsed.id}`} alt="" width={size} height={size} />;
  return null;
}
