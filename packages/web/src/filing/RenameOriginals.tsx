/** Renaming originals: one by its name, many by a pattern. Files on the disk change, and it says so. */
import { useCallback, useMemo, useState } from 'react';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import type { EntryView } from '@rellin/contract';
import { extensionOf, shown } from '@rellin/core/paths';
import { FormDialog } from '../parts/FormDialog';
import { PatternDialog } from '../parts/PatternDialog';
import { useCommands } from '../workspace/useCommands';

/** The part before the ending, and the ending with its dot; a folder has none. */
function partsOf(entry: EntryView): { stem: string; ending: string } {
  const extension = entry.type === 'folder' ? '' : extensionOf(entry.name);
  const ending = extension === '' ? '' : `.${extension}`;
  return { stem: entry.name.slice(0, entry.name.length - ending.length), ending };
}

export function RenameOriginals({ entries, onClose }: { entries: EntryView[]; onClose: () => void }) {
  return entries.length === 1 ? (
    <RenameOne entry={entries[0]!} onClose={onClose} />
  ) : (
    <RenameMany entries={entries} onClose={onClose} />
  );
}

function RenameOne({ entry, onClose }: { entry: EntryView; onClose: () => void }) {
  const d = useCommands();
  const [name, setName] = useState(shown(entry.name));
  const [wrong, setWrong] = useState<string>();
  const [busy, setBusy] = useState(false);
  const { stem } = partsOf(entry);
  const rename = async () => {
    if (name === shown(entry.name)) return onClose();
    setBusy(true);
    const ref = { placeId: entry.placeId, originalId: entry.id, name };
    const done = await d.renameOriginals([ref], (refused) => setWrong(refused.message));
    setBusy(false);
    if (done) onClose();
  };
  return (
    <FormDialog
      title={entry.type === 'folder' ? 'Rename the folder on disk' : 'Rename the original'}
      submit="Rename"
      busy={busy}
      onClose={onClose}
      onSubmit={(event) => {
        event.preventDefault();
        void rename();
      }}
    >
      <TextField
        label="Name"
        autoFocus
        value={name}
        // what comes before the ending is what mostly changes
        onFocus={(event) => event.target.setSelectionRange(0, shown(stem).length)}
        onChange={(event) => {
          setName(event.target.value);
          setWrong(undefined);
        }}
        error={wrong !== undefined}
        helperText={wrong ?? 'The file itself is renamed; its shortcuts keep their names and still lead to it.'}
      />
    </FormDialog>
  );
}

function RenameMany({ entries, onClose }: { entries: EntryView[]; onClose: () => void }) {
  const d = useCommands();
  const [keepsEndings, setKeepsEndings] = useState(true);
  const parts = useMemo(() => entries.map(partsOf), [entries]);
  const sources = useMemo(
    () => entries.map((e, i) => ({ name: keepsEndings ? parts[i]!.stem : e.name, original: e.name })),
    [entries, parts, keepsEndings],
  );
  const whole = useCallback(
    (name: string, i: number) => (keepsEndings ? name + parts[i]!.ending : name),
    [parts, keepsEndings],
  );
  return (
    <PatternDialog
      title={`Rename ${entries.length} originals`}
      sources={sources}
      now={entries.map((e) => e.name)}
      whole={whole}
      help="{name} the present name, {n} a running number, {nn} with two digits; s/from/to/ replaces. The files themselves are renamed; shortcuts keep their names."
      onNames={(names) =>
        d.renameOriginals(entries.map((e, i) => ({ placeId: e.placeId, originalId: e.id, name: names[i]! })))
      }
      onClose={onClose}
    >
      <FormControlLabel
        control={<Checkbox size="small" checked={keepsEndings} onChange={(e) => setKeepsEndings(e.target.checked)} />}
        label="Keep the endings (.csv, .jpg) as they are"
      />
    </PatternDialog>
  );
}
