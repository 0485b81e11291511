import { useMemo, useRef, useState } from 'react';
import Button from '@mui/material/Button';
import { CHOICE_LENGTHS, choicesOf, type Chosen } from '@rellin/core/exercise';
import { seeded } from '@rellin/core/random';

/** A word is shown first; the list comes when one says so, and the time runs until the word is pressed in it. */
export function Choosing({ seed, onDone }: { seed: number; onDone(choices: Chosen[]): void }) {
  const all = useMemo(() => choicesOf(seeded(seed + 1), CHOICE_LENGTHS), [seed]);
  const [at, setAt] = useState(0);
  const [shown, setShown] = useState(false);
  const done = useRef<Chosen[]>([]);
  const from = useRef({ x: 0, y: 0, time: 0 });
  const { words, asked } = all[at]!;
  const show = (event: React.MouseEvent) => {
    from.current = { x: event.clientX, y: event.clientY, time: event.timeStamp };
    setShown(true);
  };
  const choose = (event: React.MouseEvent, i: number) => {
    if (i !== asked) return;
    const seconds = (event.timeStamp - from.current.time) / 1000;
    const place = event.currentTarget.getBoundingClientRect();
    const distance = Math.hypot(
      place.left + place.width / 2 - from.current.x,
      place.top + place.height / 2 - from.current.y,
    );
    done.current.push({ length: words.length, distance, width: Math.min(place.width, place.height), seconds });
    setShown(false);
    if (at + 1 < all.length) setAt(at + 1);
    else onDone(done.current);
  };
  return (
    <div className="choose-field">
      <p>
        Press “Show the list”, then the word <b>{words[asked]}</b>.
      </p>
      <div className="choose-head">
        <Button variant="contained" disabled={shown} onClick={show}>
          Show the list
        </Button>
        <span className="small">
          {at} of {all.length}
        </span>
      </div>
      {shown && (
        <ul className="choose-list sheet">
          {words.map((word, i) => (
            <li key={word}>
              <button type="button" onClick={(event) => choose(event, i)}>
                {word}
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
