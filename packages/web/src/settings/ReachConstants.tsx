/** How reach is calculated: how one comes to Rellin, and the seconds of each elementary act. */
import { lazy, Suspense, useState } from 'react';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { SettingsView as Settings } from '@rellin/contract';
import { REACH_CONSTANTS, REACH_SOURCES, REACH_WORDS, type ReachConstants as Constants } from '@rellin/core/reach';
import { patch } from '../api/client';
import { useCommands } from '../workspace/useCommands';
import { Section } from './Section';

const ExerciseDialog = lazy(() => import('../exercise/ExerciseDialog'));

const COMING: Record<Settings['coming'], string> = {
  here: 'it is in front already',
  window: 'from another window',
  key: 'by a system-wide key',
  entry: 'by an entry on a panel or desktop',
};

export function ReachConstants({ settings }: { settings: Settings }) {
  const d = useCommands();
  const [measuring, setMeasuring] = useState(false);
  const names = Object.keys(REACH_CONSTANTS) as (keyof Constants)[];
  const save = (reachConstants: Record<string, number>) => change({ reachConstants });
  const change = (to: Partial<Settings>) =>
    d.attempt(async () => {
      await patch('/settings', to);
    });
  const changed = names.some((n) => settings.reachConstants[n] !== REACH_CONSTANTS[n]);
  return (
    <Section id="reach">
      <div className="line">
        <TextField
          select
          label="How you come to Rellin"
          value={settings.coming}
          onChange={(event) => void change({ coming: event.target.value as Settings['coming'] })}
          helperText="This way is part of every route that leads through Rellin."
          sx={{ minWidth: 280 }}
        >
          {Object.entries(COMING).map(([how, words]) => (
            <MenuItem key={how} value={how}>
              {words}
            </MenuItem>
          ))}
        </TextField>
      </div>
      <p className="small">Seconds for each elementary act. Every figure on a ruler is added up from these.</p>
      <table className="constants">
        <thead>
          <tr>
            <th scope="col">Constant</th>
            <th scope="col">Value</th>
            <th scope="col">Source</th>
          </tr>
        </thead>
        <tbody>
          {names.map((name) => (
            <tr key={name}>
              <th scope="row">{REACH_WORDS[name]}</th>
              <td>
                <input
                  type="number"
                  step="0.01"
                  min="0"
                  max="60"
                  aria-label={REACH_WORDS[name]}
                  key={settings.reachConstants[name]}
                  defaultValue={settings.reachConstants[name]}
                  onBlur={(event) => {
                    const value = Number(event.target.value);
                    if (event.target.value !== '' && value !== settings.reachConstants[name])
                      void save({ ...settings.reachConstants, [name]: value });
                  }}
                />
              </td>
              <td className="small">{REACH_SOURCES[name]}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="line">
        <Button variant="outlined" onClick={() => setMeasuring(true)}>
          Measure your own times…
        </Button>
        {changed && (
          <Button variant="outlined" onClick={() => void save({ ...REACH_CONSTANTS })}>
            Back to the usual values
          </Button>
        )}
      </div>
      {measuring && (
        <Suspense fallback={null}>
          <ExerciseDialog
            constants={settings.reachConstants as unknown as Constants}
            onClose={() => setMeasuring(false)}
            onUse={(own) => {
              setMeasuring(false);
              void save({ ...settings.reachConstants, ...own });
            }}
          />
        </Suspense>
      )}
    </Section>
  );
}
