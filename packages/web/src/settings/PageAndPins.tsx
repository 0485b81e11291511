/** How the page looks and begins, and how the strip and the plan are kept. */
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { SettingsView as Settings } from '@rellin/contract';
import { Section } from './Section';

interface Props {
  settings: Settings;
  onChange(change: Partial<Settings>): void;
}

export function Page({ settings: s, onChange }: Props) {
  return (
    <Section id="page">
      <div className="line">
        <TextField
          select
          label="Appearance"
          value={s.appearance}
          onChange={(e) => onChange({ appearance: e.target.value as Settings['appearance'] })}
        >
          <MenuItem value="system">as the system</MenuItem>
          <MenuItem value="light">light</MenuItem>
          <MenuItem value="dark">dark</MenuItem>
        </TextField>
        <TextField
          select
          label="Start view"
          value={s.startView}
          onChange={(e) => onChange({ startView: e.target.value as Settings['startView'] })}
        >
          <MenuItem value="reach">Reach</MenuItem>
          <MenuItem value="catalogue">Catalogue</MenuItem>
          <MenuItem value="originals">Originals</MenuItem>
          <MenuItem value="boards">Boards</MenuItem>
        </TextField>
      </div>
    </Section>
  );
}

/** Openings a week that are offered as what a pin is worth. */
const WORTHS = [0.5, 1, 2, 5];
const WORTH_WORDS: Record<number, string> = { 0.5: 'every other week', 1: 'once a week', 2: 'twice a week' };
const worthWords = (perWeek: number) => `from ${WORTH_WORDS[perWeek] ?? `${perWeek} times a week`} on`;

export function Pins({ settings: s, onChange }: Props) {
  return (
    <Section id="pins">
      <div className="line">
        <TextField
          select
          label="Pins at most"
          value={s.pinLimit}
          onChange={(e) => onChange({ pinLimit: Number(e.target.value) })}
        >
          {Array.from({ length: 20 }, (_, i) => (
            <MenuItem key={i} value={i + 1}>
              {i + 1}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="A pin is worth its place"
          value={s.pinWorth}
          onChange={(e) => onChange({ pinWorth: Number(e.target.value) })}
        >
          {[...new Set([...WORTHS, s.pinWorth])].map((n) => (
            <MenuItem key={n} value={n}>
              {worthWords(n)}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="Half-life of usage"
          value={s.halfLifeDays}
          onChange={(e) => onChange({ halfLifeDays: Number(e.target.value) })}
        >
          {[1, 3, 7, 14, 30, 60, 90].map((n) => (
            <MenuItem key={n} value={n}>
              {n} {n === 1 ? 'day' : 'days'}
            </MenuItem>
          ))}
        </TextField>
      </div>
    </Section>
  );
}
