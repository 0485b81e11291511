/** Two minutes of tapping, choosing and typing that fit the constants of reach to the person (docs/models.md 2). */
import { useState } from 'react';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import type { Done, Part } from '@rellin/core/exercise';
import type { ReachConstants } from '@rellin/core/reach';
import { Choosing } from './Choosing';
import { ExerciseResult } from './ExerciseResult';
import { Tapping } from './Tapping';
import { Typing } from './Typing';
import './exercise.css';

interface Props {
  constants: ReachConstants;
  onUse(constants: Partial<ReachConstants>): void;
  onClose(): void;
}

const PARTS: readonly Part[] = ['taps', 'choices', 'typed'];
const TITLES: Record<Part, string> = {
  taps: 'Tap each target',
  choices: 'Choose the word',
  typed: 'Type the line',
};

export default function ExerciseDialog({ constants, onUse, onClose }: Props) {
  const [step, setStep] = useState(-1);
  const [done, setDone] = useState<Done>({ taps: [], choices: [], typed: [] });
  // a new one each time: who knows where the next target comes is quicker
  const [seed] = useState(() => Math.floor(Math.random() * 2 ** 31));
  const part = PARTS[step];
  const next = (what: Partial<Done>) => {
    setDone((before) => ({ ...before, ...what }));
    setStep(step + 1);
  };
  return (
    // held at the top: what one aims at must not move when a list grows
    <Dialog
      open
      onClose={onClose}
      aria-labelledby="exercise-title"
      maxWidth="md"
      sx={{ '& .MuiDialog-container': { alignItems: 'flex-start' } }}
    >
      <DialogTitle id="exercise-title">
        {step < 0 ? 'Measure your own times' : part ? TITLES[part] : 'Your own times'}
        {part && (
          <span className="small step-of">
            {' '}
            part {step + 1} of {PARTS.length}
          </span>
        )}
      </DialogTitle>
      <DialogContent className="exercise">
        {step < 0 && (
          <>
            <p>
              Rellin calculates with the times of an average person. In about two minutes it can find yours: you tap
              targets, choose words from lists, and type a line. Work as you always do, neither in haste nor at leisure.
            </p>
            <p>
              What is measured stays on this machine and is not kept; only the constants are, if you say so, and one
              undo takes them back. Each part can be skipped.
            </p>
          </>
        )}
        {part === 'taps' && <Tapping seed={seed} onDone={(taps) => next({ taps })} />}
        {part === 'choices' && <Choosing seed={seed} onDone={(choices) => next({ choices })} />}
        {part === 'typed' && <Typing seed={seed} onDone={(typed) => next({ typed })} />}
        {step === PARTS.length && <ExerciseResult done={done} constants={constants} onUse={onUse} onClose={onClose} />}
      </DialogContent>
      {step < PARTS.length && (
        <DialogActions>
          <Button variant="outlined" onClick={onClose}>
            Cancel
          </Button>
          {part ? (
            <Button variant="outlined" onClick={() => next({})}>
              Skip this part
            </Button>
          ) : (
            <Button variant="contained" onClick={() => setStep(0)}>
              Begin
            </Button>
          )}
        </DialogActions>
      )}
    </Dialog>
  );
}
