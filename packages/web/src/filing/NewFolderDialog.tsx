/** A new, empty folder on the disk, in the folder that is shown. */
import { useState } from 'react';
import TextField from '@mui/material/TextField';
import { FormDialog } from '../parts/FormDialog';
import type { RequestOf } from '../workspace/dialogRequest';
import { useCommands } from '../workspace/useCommands';

export function NewFolderDialog({ request, onClose }: { request: RequestOf<'new-folder'>; onClose: () => void }) {
  const d = useCommands();
  const [name, setName] = useState('');
  const [wrong, setWrong] = useState<string>();
  const [busy, setBusy] = useState(false);
  const make = async () => {
    if (name.trim() === '') return setWrong('A folder needs a name.');
    setBusy(true);
    const made = await d.newFolder(request.into, name, (refused) => setWrong(refused.message));
    setBusy(false);
    if (made !== undefined) onClose();
  };
  return (
    <FormDialog
      title={`New folder in “${request.name}”`}
      submit="Make folder"
      busy={busy}
      onClose={onClose}
      onSubmit={(event) => {
        event.preventDefault();
        void make();
      }}
    >
      <TextField
        label="Name"
        autoFocus
        value={name}
        onChange={(event) => {
          setName(event.target.value);
          setWrong(undefined);
        }}
        error={wrong !== undefined}
        helperText={wrong ?? 'A real folder on the disk; undo removes it while it is empty.'}
      />
    </FormDialog>
  );
}
