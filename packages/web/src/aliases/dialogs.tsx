/** Where an alias or a published folder is to lie. */
import type { DialogRequest } from '../workspace/dialogRequest';
import { useState } from 'react';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import TextField from '@mui/material/TextField';
import { useShortcuts } from '../api/queries';
import { useDialogs, useWorkspaceActions } from '../workspace/workspace';
import { FormDialog } from '../parts/FormDialog';
import { PathChooser } from '../parts/PathChooser';
import { useAliasActs } from './useAliases';
import './aliases.css';

type Of<K extends DialogRequest['kind']> = Extract<DialogRequest, { kind: K }>;
/** Folders offered beside the field: those the person uses most. */
const OFFERED = 5;

function FolderField({ value, onChange, help }: { value: string; onChange(value: string): void; help: string }) {
  const folders = (useShortcuts().data ?? [])
    .filter((s) => s.kind === 'folder' && s.target === 'original' && s.state !== 'away' && s.state !== 'lost')
    .sort((a, b) => b.perWeek - a.perWeek)
    .slice(0, OFFERED);
  return (
    <div>
      <PathChooser
        want="folder"
        title="Choose the folder to put it in"
        label="In the folder"
        value={value}
        onChange={onChange}
        help={help}
        autoFocus
      />
      {folders.length > 0 && (
        <div className="chips offered" role="group" aria-label="Folders you use most">
          {folders.map((s) => (
            <button key={s.id} type="button" className="chip" onClick={() => onChange(s.location)}>
              {s.name}
            </button>
          ))}
        </div>
      )}
    </div>
  );
}

function AliasDialog({ request, onClose }: { request: Of<'alias'>; onClose(): void }) {
  const { place } = useAliasActs();
  const [folder, setFolder] = useState('');
  const [name, setName] = useState('');
  const [busy, setBusy] = useState(false);
  return (
    <FormDialog
      title={`Put an alias of “${request.shortcut.name}”`}
      submit="Place it"
      busy={busy || folder.trim() === ''}
      onClose={onClose}
      onSubmit={(event) => {
        event.preventDefault();
        setBusy(true);
        void place(request.shortcut, folder, name.trim()).then((made) => {
          setBusy(false);
          if (made) onClose();
        });
      }}
    >
      <p className="small">
        An alias is a link file in a real folder: every program sees it there. Rellin keeps it leading to the original,
        wherever that moves.
      </p>
      <FolderField value={folder} onChange={setFolder} help="A folder in one of your places: /… or ~/…" />
      <TextField
        label="Name of the file"
        placeholder={request.shortcut.name}
        value={name}
        onChange={(e) => setName(e.target.value)}
      />
    </FormDialog>
  );
}

function PublishDialog({ request, onClose }: { request: Of<'publish'>; onClose(): void }) {
  const { publish } = useAliasActs();
  const { source, id, name: own } = request;
  const [as, setAs] = useState<'folder' | 'menu'>('folder');
  const [folder, setFolder] = useState('');
  const [name, setName] = useState('');
  const [ordered, setOrdered] = useState(false);
  const [busy, setBusy] = useState(false);
  return (
    <FormDialog
      title={`Publish “${own}”`}
      submit="Publish"
      busy={busy || (as === 'folder' && folder.trim() === '')}
      onClose={onClose}
      onSubmit={(event) => {
        event.preventDefault();
        setBusy(true);
        void publish({
          source,
          sourceId: id,
          ...(name.trim() && { name: name.trim() }),
          ...(as === 'menu' ? { asMenu: true } : { folder, ordered }),
        }).then((made) => {
          setBusy(false);
          if (made) onClose();
        });
      }}
    >
      <RadioGroup aria-label="As" value={as} onChange={(e) => setAs(e.target.value as typeof as)}>
        <FormControlLabel
          value="folder"
          control={<Radio size="small" />}
          label="As a folder of links, for the open and save dialogs of every program"
        />
        <FormControlLabel value="menu" control={<Radio size="small" />} label="As a menu of the desktop" />
      </RadioGroup>
      {as === 'folder' && (
        <>
          <FolderField value={folder} onChange={setFolder} help="The folder of links is made in this one: /… or ~/…" />
          <div>
            <FormControlLabel
              control={<Checkbox size="small" checked={ordered} onChange={(e) => setOrdered(e.target.checked)} />}
              label="Numbered, so that it keeps its order everywhere"
            />
          </div>
        </>
      )}
      <TextField label="Its name there" placeholder={own} value={name} onChange={(e) => setName(e.target.value)} />
      {as === 'folder' && source !== 'search' && (
        <p className="small">
          Kept up to date both ways: a link that is put there joins “{own}”, one that is deleted there leaves it. Rellin
          never writes over or removes what it did not write.
        </p>
      )}
    </FormDialog>
  );
}

export function AliasDialogs() {
  const { dialog } = useDialogs();
  const { closeDialog } = useWorkspaceActions();
  switch (dialog?.kind) {
    case 'alias':
      return <AliasDialog request={dialog} onClose={closeDialog} />;
    case 'publish':
      return <PublishDialog request={dialog} onClose={closeDialog} />;
    default:
      return null;
  }
}
