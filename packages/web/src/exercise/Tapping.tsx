import { useMemo, useRef, useState } from 'react';
import { targetsIn, type Tap } from '@rellin/core/exercise';
import { seeded } from '@rellin/core/random';

/** As much as the dialog has room for. */
const fieldSize = () => ({ width: Math.max(240, Math.min(850, window.innerWidth - 112)), height: 360 });
/** The first is where one starts from. */
const COUNT = 25;

/** One target after the other; the time runs from tap to tap. A tap beside it does not count, and the time runs on. */
export function Tapping({ seed, onDone }: { seed: number; onDone(taps: Tap[]): void }) {
  const [size] = useState(fieldSize);
  const targets = useMemo(() => targetsIn(seeded(seed), size.width, size.height, COUNT), [seed, size]);
  const [at, setAt] = useState(0);
  const taps = useRef<Tap[]>([]);
  const last = useRef({ x: 0, y: 0, time: 0 });
  const target = targets[at]!;
  const hit = (event: React.PointerEvent) => {
    const time = performance.now();
    const field = event.currentTarget.parentElement!.getBoundingClientRect();
    const [x, y] = [event.clientX - field.left, event.clientY - field.top];
    if (at > 0) {
      const distance = Math.hypot(target.x - last.current.x, target.y - last.current.y);
      taps.current.push({ distance, width: target.size, seconds: (time - last.current.time) / 1000 });
    }
    // from where it was tapped, not from its middle
    last.current = { x, y, time };
    if (at + 1 < targets.length) setAt(at + 1);
    else onDone(taps.current);
  };
  return (
    <>
      <p className="small">
        {at === 0 ? 'Tap the target to begin; the time runs from then on.' : `${at} of ${COUNT - 1}`}
      </p>
      <div className="tap-field" style={size}>
        <button
          type="button"
          aria-label="Target"
          className="target"
          style={{
            left: target.x - target.size / 2,
            top: target.y - target.size / 2,
            width: target.size,
            height: target.size,
          }}
          onPointerDown={hit}
        />
      </div>
    </>
  );
}
