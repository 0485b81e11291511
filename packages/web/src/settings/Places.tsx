/** The folders that Rellin may look into. */
import { useState } from 'react';
import { Link } from 'react-router';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import type { PlaceView } from '@rellin/contract';
import { shown } from '@rellin/core/paths';
import { formatBytes } from '@rellin/core/units';
import { patch, post, remove } from '../api/client';
import { usePlaces } from '../api/queries';
import { useCommands } from '../workspace/useCommands';
import { AddFolder } from '../parts/AddFolder';
import { Tether } from '../parts/Tether';
import { Section } from './Section';

function Place({ place }: { place: PlaceView }) {
  const d = useCommands();
  const [editing, setEditing] = useState(false);
  const [excludes, setExcludes] = useState(place.excludes.join('\n'));
  const does = (work: () => Promise<unknown>) => void d.attempt(work);
  const facts = [
    `${place.entries.toLocaleString('en-GB')} entries`,
    ...(place.freeBytes === null ? [] : [`${formatBytes(place.freeBytes)} free`]),
    ...(place.state === 'away' ? [`away: ${place.awayReason}`] : []),
    ...(place.slowed.length > 0
      ? [
          `checked less often, since ${place.slowed.length === 1 ? 'it changes' : 'they change'} without rest: ${place.slowed.map(shown).join(', ')}`,
        ]
      : []),
    ...(place.watching === 'limited'
      ? ['more folders than the system lets Rellin watch: those in use are checked every two seconds']
      : []),
  ];
  return (
    <li>
      <div className="place-row">
        <Tether state={place.state === 'here' ? 'ready' : 'away'} />
        <div className="place-text">
          <b>{place.name}</b>
          <span className="small cut" title={shown(place.root)}>
            {shown(place.root)}
          </span>
          <span className="small">{facts.join(' · ')}</span>
          {place.standIn && <span className="small">a stand-in: the switch plays the plug</span>}
        </div>
        {place.standIn && (
          <Button
            variant="outlined"
            onClick={() => does(() => post(`/places/${place.id}/${place.state === 'here' ? 'disconnect' : 'connect'}`))}
          >
            {place.state === 'here' ? 'Disconnect' : 'Connect'}
          </Button>
        )}
        <Button
          variant="outlined"
          disabled={place.state === 'away'}
          onClick={() => does(() => post(`/places/${place.id}/scan`))}
        >
          Rescan
        </Button>
        <Button variant="outlined" onClick={() => setEditing(!editing)} aria-expanded={editing}>
          Exclude…
        </Button>
        <Button variant="outlined" onClick={() => does(() => remove(`/places/${place.id}`))}>
          Stop using this folder
        </Button>
      </div>
      {editing && (
        <form
          className="excludes"
          onSubmit={(event) => {
            event.preventDefault();
            does(() =>
              patch(`/places/${place.id}`, {
                excludes: excludes
                  .split('\n')
                  .map((l) => l.trim())
                  .filter(Boolean),
              }),
            );
            setEditing(false);
          }}
        >
          <TextField
            label="Patterns to exclude, one per line (as in a .gitignore)"
            multiline
            minRows={3}
            value={excludes}
            onChange={(e) => setExcludes(e.target.value)}
          />
          <Button variant="contained" type="submit">
            Save
          </Button>
        </form>
      )}
    </li>
  );
}

export function Places() {
  const places = usePlaces();
  return (
    <Section id="places">
      <p className="small">
        The folders that Rellin may look into. Outside them it reads only the names of folders, and only while you type
        one here to add it. Always excluded: caches, version control, modules and what programs write for a moment (
        <span className="mono">.git</span>, <span className="mono">node_modules</span>, <span className="mono">*~</span>
        , <span className="mono">*.part</span> …), and Rellin’s own data.
      </p>
      <ul className="place-list sheet">
        {places.data?.map((p) => (
          <Place key={p.id} place={p} />
        ))}
      </ul>
      <AddFolder />
      <p className="small">
        <Link to="/set-up">Set up again</Link> offers folders of this machine and what you use in them.
      </p>
    </Section>
  );
}
