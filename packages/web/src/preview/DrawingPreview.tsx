/** An SVG drawing, drawn by the server; what it cannot draw in time is shown as its text. */
import { useStateFor } from '../parts/useStateFor';
import { PicturePreview } from './PicturePreview';

interface Props {
  address: string;
  name: string;
  children: React.ReactNode;
}

/** `children` stand in for what cannot be drawn. */
export function DrawingPreview({ address, name, children }: Props) {
  const [failed, setFailed] = useStateFor(address, false);
  if (!failed) return <PicturePreview address={address} name={name} onError={() => setFailed(true)} />;
  return (
    <>
      <p className="preview-note">This drawing is damaged or takes too long to draw; it is shown as it is written.</p>
      {children}
    </>
  );
}
