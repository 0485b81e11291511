import { useRef, useState } from 'react';
import TextField from '@mui/material/TextField';
import { LINES } from '@rellin/core/exercise';

/** The line is typed as it stands; only letters that carry it on are timed. */
export function Typing({ seed, onDone }: { seed: number; onDone(typed: number[]): void }) {
  const line = LINES[seed % LINES.length]!;
  const [text, setText] = useState('');
  const typed = useRef<number[]>([]);
  const isRight = line.startsWith(text);
  const take = (value: string) => {
    const now = performance.now() / 1000;
    if (line.startsWith(value) && value.length === typed.current.length + 1) typed.current.push(now);
    setText(value);
    if (value !== line) return;
    const [first] = typed.current;
    onDone(typed.current.map((at) => at - first!));
  };
  return (
    <>
      <p className="line-to-type mono">
        <span className="is-typed">{line.slice(0, isRight ? text.length : 0)}</span>
        {line.slice(isRight ? text.length : 0)}
      </p>
      <TextField
        label="The line above"
        autoFocus
        value={text}
        onChange={(event) => take(event.target.value)}
        error={!isRight}
        helperText={
          isRight ? 'The time runs from the first letter.' : 'Not as it stands above: delete the last letters.'
        }
        slotProps={{ htmlInput: { autoComplete: 'off', autoCorrect: 'off', spellCheck: false } }}
      />
    </>
  );
}
