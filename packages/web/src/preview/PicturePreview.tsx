/** A picture in place: fitted at first, then closer by + and −, by the wheel with Ctrl, or a double press. */
import { useEffect, useRef, useState } from 'react';

const STEP = 1.25;
const MOST = 16;

export function PicturePreview({ address, name }: { address: string; name: string }) {
  const box = useRef<HTMLDivElement>(null);
  const picture = useRef<HTMLImageElement>(null);
  /** How high it stands when fitted. */
  const fitted = useRef(0);
  /** 1 is fitted; more is that many times as large. */
  const [zoom, setZoom] = useState(1);
  const change = (by: number) =>
    setZoom((now) => {
      if (now === 1) fitted.current = picture.current?.clientHeight ?? 0;
      return Math.max(1, Math.min(MOST, now * by));
    });
  useEffect(() => setZoom(1), [address]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === '+' || event.key === '=') change(STEP);
      else if (event.key === '-') change(1 / STEP);
      else if (event.key === '0') setZoom(1);
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
  }, []);
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
          style={zoom > 1 ? { maxWidth: 'none', maxHeight: 'none', height: fitted.current * zoom } : undefined}
          onDoubleClick={() => (zoom > 1 ? setZoom(1) : change(2.5))}
          draggable={false}
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
        <button type="button" className="chip" disabled={zoom === 1} onClick={() => setZoom(1)}>
          Fit
        </button>
      </div>
    </div>
  );
}
