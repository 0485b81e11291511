/** When a letter is a command, and which letter runs which. */
import { useState } from 'react';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { SettingsView as Settings } from '@rellin/contract';
import { checkKeyMap, LETTER_KEYS, shownLetter, type KeyMap } from '@rellin/core/keys';
import { useCollections, useQuickFilters, useSearches, useShortcuts } from '../api/queries';
import { KeyCap } from '../parts/KeyCap';
import { Section } from './Section';

const MODES: Record<Settings['letterKeys'], string> = {
  'when-alone': 'A letter runs its command; letters typed quickly go to a name',
  'at-once': 'A letter always runs its command at once',
  never: 'Only keys with Ctrl or Alt run commands; letters go to a name',
};

function useTaken(): Map<string, string> {
  const lists = [useShortcuts().data, useCollections().data, useSearches().data, useQuickFilters().data];
  return new Map(lists.flatMap((list) => (list ?? []).flatMap((x) => (x.keys ? [[x.keys, x.name] as const] : []))));
}

/** One of Rellin's letters: pressed, another takes its place; Backspace leaves it without one. */
function LetterButton(props: { of: string; what: string; map: KeyMap; onChange(letter: string): string | undefined }) {
  const [asking, setAsking] = useState(false);
  const [wrong, setWrong] = useState<string>();
  const shown = shownLetter(props.of, props.map);
  const take = (letter: string) => {
    const reason = props.onChange(letter);
    setWrong(reason);
    if (reason === undefined) setAsking(false);
  };
  return (
    <li>
      <button
        type="button"
        className={asking ? 'letter asking' : 'letter'}
        aria-label={`${props.what}: ${shown === '' ? 'no key' : shown}`}
        aria-describedby={wrong === undefined ? undefined : `wrong-${props.of}`}
        onClick={() => setAsking(true)}
        onBlur={() => {
          setAsking(false);
          setWrong(undefined);
        }}
        onKeyDown={(event) => {
          if (!asking || event.key === 'Tab') return;
          event.preventDefault();
          event.stopPropagation();
          if (event.key === 'Escape') setAsking(false);
          else if (event.key === 'Backspace' || event.key === 'Delete') take('');
          else if (/^[a-z]$/i.test(event.key) && !event.ctrlKey && !event.altKey && !event.metaKey)
            take(event.key.toLowerCase());
        }}
        data-own-keys={asking ? true : undefined}
      >
        {asking ? <span className="small">press a letter</span> : shown === '' ? '—' : <KeyCap>{shown}</KeyCap>}
      </button>
      <span>
        {props.what}
        {wrong !== undefined && (
          <span id={`wrong-${props.of}`} role="alert" className="small wrong">
            {wrong}
          </span>
        )}
      </span>
    </li>
  );
}

export function Keys({ settings, onChange }: { settings: Settings; onChange(change: Partial<Settings>): void }) {
  const taken = useTaken();
  const { keyMap: map, letterKeys } = settings;
  const put = (key: string, letter: string): string | undefined => {
    const { [key]: _, ...others } = map;
    const next = letter === key ? others : { ...others, [key]: letter };
    const reason = checkKeyMap(next, taken);
    if (reason === undefined) onChange({ keyMap: next });
    return reason;
  };
  return (
    <Section id="keys">
      <div className="line">
        <TextField
          select
          label="Keys without Ctrl or Alt"
          value={letterKeys}
          onChange={(event) => onChange({ letterKeys: event.target.value as Settings['letterKeys'] })}
          sx={{ minWidth: 470 }}
        >
          {Object.entries(MODES).map(([mode, words]) => (
            <MenuItem key={mode} value={mode}>
              {words}
            </MenuItem>
          ))}
        </TextField>
        {Object.keys(map).length > 0 && (
          <Button variant="outlined" onClick={() => onChange({ keyMap: {} })}>
            Back to the usual letters
          </Button>
        )}
      </div>
      {letterKeys !== 'never' && (
        <>
          <p className="small">Choose a letter here and press another for it. Backspace leaves it without one.</p>
          <ul className="letters">
            {LETTER_KEYS.map(({ keys, what }) => (
              <LetterButton
                key={keys}
                of={keys}
                what={what}
                map={map}
                onChange={(letter) => put(keys.toLowerCase(), letter)}
              />
            ))}
          </ul>
        </>
      )}
    </Section>
  );
}
