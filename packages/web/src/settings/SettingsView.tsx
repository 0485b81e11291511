/** The person's choices: places, strip, appearance, the constants of reach, passphrase. */
import { lazy, Suspense, useState } from 'react';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useForm } from 'react-hook-form';
import { useQueryClient } from '@tanstack/react-query';
import type { LocatedView, PlaceView, SettingsView as Settings } from '@rellin/contract';
import { REACH_CONSTANTS, REACH_SOURCES, REACH_WORDS, type ReachConstants } from '@rellin/core/reach';
import { KINDS, kindWord } from '@rellin/core/kinds';
import { shown } from '@rellin/core/paths';
import { formatBytes } from '@rellin/core/units';
import { patch, post, remove } from '../api/client';
import { useOriginal, usePlaces, usePrograms, useSettings } from '../api/queries';
import { useDo } from '../acts/useDo';
import { Tether } from '../parts/Tether';
import { PathField } from '../shortcuts/PathField';
import { SigningIn } from './SigningIn';
import './settings.css';

const ExerciseDialog = lazy(() => import('../exercise/ExerciseDialog'));

function Place({ place }: { place: PlaceView }) {
  const d = useDo();
  const client = useQueryClient();
  const [editing, setEditing] = useState(false);
  const [excludes, setExcludes] = useState(place.excludes.join('\n'));
  const read = () => client.invalidateQueries({ queryKey: ['places'] });
  const does = (work: () => Promise<unknown>) => void d.attempt(async () => (await work(), read()));
  const facts = [
    shown(place.root),
    `${place.entries.toLocaleString('en-GB')} entries`,
    ...(place.freeBytes === null ? [] : [`${formatBytes(place.freeBytes)} free`]),
    ...(place.state === 'away' ? [`away: ${place.awayReason}`] : []),
    ...(place.watching === 'limited'
      ? ['more folders than the system lets Rellin watch: those in use are looked at every two seconds']
      : []),
  ];
  return (
    <li>
      <div className="place-row">
        <Tether state={place.state === 'here' ? 'ready' : 'away'} />
        <div className="place-text">
          <b>{place.name}</b>
          <span className="small cut" title={facts.join(' · ')}>
            {facts.join(' · ')}
          </span>
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
          Look again
        </Button>
        <Button variant="outlined" onClick={() => setEditing(!editing)} aria-expanded={editing}>
          Leaves out…
        </Button>
        <Button variant="outlined" onClick={() => does(() => remove(`/places/${place.id}`))}>
          Leave the place
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
            label="Patterns left out, one a line (as in a .gitignore)"
            multiline
            minRows={3}
            value={excludes}
            onChange={(e) => setExcludes(e.target.value)}
          />
          <Button variant="contained" type="submit">
            Keep
          </Button>
        </form>
      )}
    </li>
  );
}

function Places() {
  const places = usePlaces();
  const d = useDo();
  const form = useForm({ defaultValues: { root: '' } });
  return (
    <section>
      <h2>Places</h2>
      <p className="small">The folders that Rellin may look into. Nothing outside of them is read.</p>
      <ul className="place-list sheet">
        {places.data?.map((p) => (
          <Place key={p.id} place={p} />
        ))}
      </ul>
      <form
        className="line"
        onSubmit={form.handleSubmit(({ root }) =>
          d.attempt(async () => {
            await post('/places', { root });
            form.reset();
            await places.refetch();
          }),
        )}
      >
        <TextField
          label="Folder"
          helperText="A path: ~/… or /…, or a file address"
          {...form.register('root', { required: true })}
        />
        <Button variant="contained" type="submit">
          Add place
        </Button>
      </form>
    </section>
  );
}

/** The folder that Originals opens in. */
function StartFolder({ settings }: { settings: Settings }) {
  const d = useDo();
  const folder = settings.startFolder;
  const original = useOriginal(folder?.placeId, folder ? String(folder.originalId) : undefined);
  const [typed, setTyped] = useState('');
  const path = original.data ? shown(original.data.path) : original.isError ? 'a folder that is not there now' : '…';
  const keep = () =>
    d.attempt(async () => {
      const at = await post<LocatedView>('/originals/locate', { path: typed });
      const name = shown(typed.replace(/\/+$/, '').split('/').pop() ?? typed);
      if (await d.startHere({ placeId: at.placeId, originalId: Number(at.folderId) }, name)) setTyped('');
    });
  return (
    <section>
      <h2>Originals opens in</h2>
      <p className="small">
        {folder ? <span className="mono">{path}</span> : 'The first place.'} Any folder’s menu sets it too.
      </p>
      <form
        className="line"
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <div className="path-line">
          <PathField label="Another folder" help="A path: /… or ~/…" value={typed} onChange={setTyped} />
        </div>
        <Button variant="contained" type="submit" disabled={typed.trim() === ''}>
          Keep
        </Button>
        {folder && (
          <Button variant="outlined" onClick={() => void d.startHere(null, '')}>
            The first place
          </Button>
        )}
      </form>
    </section>
  );
}

/** Kinds that a program can be chosen for; a program and an address start by themselves. */
const OPENED = KINDS.filter((k) => k !== 'program' && k !== 'web' && k !== 'link');

function ProgramsByKind({ settings }: { settings: Settings }) {
  const d = useDo();
  const programs = (usePrograms().data ?? []).filter((p) => p.takesFiles);
  if (programs.length === 0) return null;
  return (
    <section>
      <h2>Programs by kind</h2>
      <p className="small">
        What opens things of a kind in Rellin. A shortcut may have its own program, by its act “Open with…”; there the
        system’s list can be told too.
      </p>
      <div className="by-kind">
        {OPENED.map((kind) => {
          const own = settings.openWith[kind];
          return (
            <TextField
              key={kind}
              select
              size="small"
              label={kindWord(kind)}
              value={programs.some((p) => p.id === own) ? own : ''}
              onChange={(event) =>
                void d.setProgramFor(kind, programs.find((p) => p.id === event.target.value) ?? null)
              }
              slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
            >
              <MenuItem value="">the system’s choice</MenuItem>
              {programs.map((p) => (
                <MenuItem key={p.id} value={p.id}>
                  {p.name}
                </MenuItem>
              ))}
            </TextField>
          );
        })}
      </div>
    </section>
  );
}

const COMING: Record<Settings['coming'], string> = {
  here: 'it is in front already',
  window: 'from another window',
  key: 'by a system-wide key',
  entry: 'by an entry on a panel or desktop',
};

/** Openings a week that are offered as what a pin is worth. */
const WORTHS = [0.5, 1, 2, 5];
const WORTH_WORDS: Record<number, string> = { 0.5: 'every other week', 1: 'once a week', 2: 'twice a week' };
const worthWords = (perWeek: number) => `from ${WORTH_WORDS[perWeek] ?? `${perWeek} times a week`} on`;

function Constants({ settings }: { settings: Settings }) {
  const d = useDo();
  const client = useQueryClient();
  const [measuring, setMeasuring] = useState(false);
  const names = Object.keys(REACH_CONSTANTS) as (keyof ReachConstants)[];
  const save = (reachConstants: Record<string, number>) => change({ reachConstants });
  const change = (to: Partial<Settings>) =>
    d.attempt(async () => {
      client.setQueryData(['settings'], await patch<Settings>('/settings', to));
      await client.invalidateQueries({ queryKey: ['shortcuts'] });
    });
  const changed = names.some((n) => settings.reachConstants[n] !== REACH_CONSTANTS[n]);
  return (
    <section>
      <h2>Reach</h2>
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
            constants={settings.reachConstants as unknown as ReachConstants}
            onClose={() => setMeasuring(false)}
            onUse={(own) => {
              setMeasuring(false);
              void save({ ...settings.reachConstants, ...own });
            }}
          />
        </Suspense>
      )}
    </section>
  );
}

/** Kinds whose files may hold text. */
const CONTENT_KINDS = ['text', 'document', 'pdf', 'table', 'web', 'source', 'map'] as const;
const MEGABYTE = 1_000_000;

function Contents({ settings, onChange }: { settings: Settings; onChange(change: Partial<Settings>): void }) {
  const { contentKinds, contentLimit } = settings;
  return (
    <section>
      <h2>Contents of files</h2>
      <p className="small">
        Searches find what files hold (<span className="mono">text:"hand net"</span>). What is read stays in Rellin’s
        own database on this machine.
      </p>
      <div className="line" role="group" aria-label="Kinds whose content is read">
        {CONTENT_KINDS.map((kind) => {
          const on = contentKinds.includes(kind);
          return (
            <button
              key={kind}
              type="button"
              className={`chip${on ? ' on' : ''}`}
              aria-pressed={on}
              onClick={() =>
                onChange({ contentKinds: on ? contentKinds.filter((k) => k !== kind) : [...contentKinds, kind] })
              }
            >
              {kindWord(kind)}
            </button>
          );
        })}
      </div>
      <div className="line">
        <TextField
          type="number"
          label="Up to (MB)"
          key={contentLimit}
          defaultValue={contentLimit / MEGABYTE}
          slotProps={{ htmlInput: { min: 0, max: 1000, step: 1 } }}
          onBlur={(event) => {
            const limit = Math.round(Number(event.target.value) * MEGABYTE);
            if (event.target.value !== '' && limit !== contentLimit) onChange({ contentLimit: limit });
          }}
        />
      </div>
    </section>
  );
}

export default function SettingsView() {
  const settings = useSettings();
  const d = useDo();
  const client = useQueryClient();
  const change = (p: Partial<Settings>) =>
    void d.attempt(async () => {
      client.setQueryData(['settings'], await patch<Settings>('/settings', p));
      await client.invalidateQueries({ queryKey: ['journal'] });
    });
  const s = settings.data;
  if (!s) return <main className="view" id="view" />;
  return (
    <main className="view settings" id="view">
      <div className="view-head">
        <h1>Settings</h1>
      </div>
      <Places />
      <section>
        <h2>The page</h2>
        <div className="line">
          <TextField
            select
            label="Appearance"
            value={s.appearance}
            onChange={(e) => change({ appearance: e.target.value as Settings['appearance'] })}
          >
            <MenuItem value="system">as the system</MenuItem>
            <MenuItem value="light">light</MenuItem>
            <MenuItem value="dark">dark</MenuItem>
          </TextField>
          <TextField
            select
            label="Start view"
            value={s.startView}
            onChange={(e) => change({ startView: e.target.value as Settings['startView'] })}
          >
            <MenuItem value="reach">Reach</MenuItem>
            <MenuItem value="catalogue">Catalogue</MenuItem>
            <MenuItem value="originals">Originals</MenuItem>
          </TextField>
        </div>
      </section>
      <section>
        <h2>Pins and plan</h2>
        <div className="line">
          <TextField
            select
            label="Pins at most"
            value={s.pinLimit}
            onChange={(e) => change({ pinLimit: Number(e.target.value) })}
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
            onChange={(e) => change({ pinWorth: Number(e.target.value) })}
          >
            {[...new Set([...WORTHS, s.pinWorth])].map((n) => (
              <MenuItem key={n} value={n}>
                {worthWords(n)}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            select
            label="Openings fade by half in"
            value={s.halfLifeDays}
            onChange={(e) => change({ halfLifeDays: Number(e.target.value) })}
          >
            {[1, 3, 7, 14, 30, 60, 90].map((n) => (
              <MenuItem key={n} value={n}>
                {n} {n === 1 ? 'day' : 'days'}
              </MenuItem>
            ))}
          </TextField>
        </div>
      </section>
      <StartFolder settings={s} />
      <ProgramsByKind settings={s} />
      <Constants settings={s} />
      <Contents settings={s} onChange={change} />
      <SigningIn />
    </main>
  );
}
