/**
 * An SVG drawing, once it is known that the browser is not held up by it: as it was read then, whatever the file is
 * now.
 */
import { useMemo } from 'react';
import { PicturePreview } from './PicturePreview';
import { isHeavyDrawing } from './heavyDrawing';
import TextPreview from './TextPreview';
import type { TextProps } from './textProps';

export default function DrawingPreview({ text, name }: TextProps) {
  const address = useMemo(
    () => (isHeavyDrawing(text) ? undefined : `data:image/svg+xml,${encodeURIComponent(text)}`),
    [text],
  );
  if (address !== undefined) return <PicturePreview address={address} name={name} />;
  return (
    <>
      <p className="preview-note">
        Showing this drawing could hold up the page; it is shown as it is written.
      </p>
      <TextPreview text={text} name={name} />
    </>
  );
}
