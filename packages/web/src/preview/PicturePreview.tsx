/** A picture in place: fitted at first, then closer by + and −, by the wheel with Ctrl, or a double press. */
import { useCallback, useEffect, useRef } from 'react';
import { useStateFor } from '../parts/useStateFor';

const STEP = 1.25;
const MOST = 16;
/** `zoom` 1 is fitted, more is that many times as large; `fitted` is how high it stands then. */
const FITTED = { zoom: 1, fitted: 0 };

interface Props {
  address: string;
  name: string;
  /** It cannot be shown. */
  onError?(): void;
}

export function PicturePreview({ address, name, onError }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const picture = useRef<HTMLImageElement>(null);
  const [{ zoom, fitted }, setShown] = useStateFor(address, FITTED);
  const change = useCallback(
    (by: number) =>
      setShown((now) => ({
        fitted: now.zoom === 1 ? (picture.current?.clientHeight ?? 0) : now.fitted,
        zoom: Math.max(1, Math.min(MOST, now.zoom * by)),
      })),
    [setShown],
  );
  const fit = useCallback(() => setShown(FITTED), [setShown]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === '+' || event.key === '=') change(STEP);
      else if (event.key === '-') change(1 / STEP);
      else if (event.key === '0') fit();
      else return;
      event.preventDefault();
      event.stopPropagation();
    };
    // the page zooms by the wheel unless it is kept from it, which React's listeners cannot
    const onWheel = (event: WheelEvent) => {
      if (!event.ctrlKey) return;
      event.preventDefault();
      change(event.deltaY < 0 ? STEP : 1 / STEP);
    };
    const node = box.current;
    document.addEventListener('keydown', onKey, true);
    node?.addEventListener('wheel', onWheel, { passive: false });
    return () => {
      document.removeEventListener('keydown', onKey, true);
      node?.removeEventListener('wheel', onWheel);
    };
  }, [change, fit]);
  return (
    <div className="preview-zoom">
      <div
        ref={box}
        className="preview-pane"
        tabIndex={0}
        role="group"
        aria-label={`Picture, ${Math.round(zoom * 100)} %`}
      >
        <img
          ref={picture}
          className="preview-picture"
          src={address}
          alt={name}
          style={zoom > 1 ? { maxWidth: 'none', maxHeight: 'none', height: fitted * zoom } : undefined}
          onDoubleClick={() => (zoom > 1 ? fit() : change(2.5))}
          draggable={false}
          onError={onError}
        />
      </div>
      <div className="preview-tools" role="toolbar" aria-label="Zoom">
        <button
          type="button"
          className="chip"
          disabled={zoom <= 1}
          onClick={() => change(1 / STEP)}
          aria-label="Smaller"
        >
          −
        </button>
        <span className="small">{zoom === 1 ? 'fitted' : `${Math.round(zoom * 100)} %`}</span>
        <button type="button" className="chip" disabled={zoom >= MOST} onClick={() => change(STEP)} aria-label="Larger">
          +
        </button>
        <button type="button" className="chip" disabled={zoom === 1} onClick={() => fit()}>
          Fit
        </button>
      </div>
    </div>
  );
}
