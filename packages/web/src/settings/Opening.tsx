/** Where Originals opens, and which programs open what. */
import { useState } from 'react';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { SettingsView as Settings } from '@rellin/contract';
import { KINDS, kindWord } from '@rellin/core/kinds';
import { shown } from '@rellin/core/paths';
import { post } from '../api/client';
import { useOriginal, usePrograms } from '../api/queries';
import { useCommands } from '../workspace/useCommands';
import { PathChooser } from '../parts/PathChooser';
import { Section } from './Section';

/** The folder that Originals opens in. */
export function StartFolder({ settings }: { settings: Settings }) {
  const d = useCommands();
  const folder = settings.startFolder;
  const original = useOriginal(folder?.placeId, folder?.originalId);
  const [typed, setTyped] = useState('');
  const path = original.data ? shown(original.data.path) : original.isError ? 'a folder that is not there now' : '…';
  const keep = () =>
    d.attempt(async () => {
      const at = await post('/originals/locate', { path: typed });
      const name = shown(typed.replace(/\/+$/, '').split('/').pop() ?? typed);
      if (await d.startHere({ placeId: at.placeId, originalId: at.folderId }, name)) setTyped('');
    });
  return (
    <Section id="start-folder">
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
          <PathChooser
            want="folder"
            title="Choose where Originals opens"
            label="Another folder"
            help="A path: /… or ~/…"
            value={typed}
            onChange={setTyped}
          />
        </div>
        <Button variant="contained" type="submit" disabled={typed.trim() === ''}>
          Save
        </Button>
        {folder && (
          <Button variant="outlined" onClick={() => void d.startHere(null, '')}>
            The first place
          </Button>
        )}
      </form>
    </Section>
  );
}

/** Kinds that a program can be chosen for; a program and an address start by themselves. */
const OPENED = KINDS.filter((k) => k !== 'program' && k !== 'web' && k !== 'link');

export function ProgramsByKind({ settings }: { settings: Settings }) {
  const d = useCommands();
  const programs = (usePrograms().data ?? []).filter((p) => p.takesFiles);
  if (programs.length === 0) return null;
  return (
    <Section id="programs">
      <p className="small">
        What opens things of a kind in Rellin. A shortcut may have its own program, by “Open with…” in its menu; there
        you can change the system’s list too.
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
    </Section>
  );
}
