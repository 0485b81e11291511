import { useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { EntryView } from '@rellin/contract';
import { FormDialog } from '../parts/FormDialog';
import { useGather } from '../acts/useGather';

type Only = 'all' | 'files' | 'folders' | 'programs';
const ONLY: [Only, string][] = [
  ['all', 'everything in it'],
  ['files', 'the files in it'],
  ['folders', 'the folders in it'],
  ['programs', 'the programs in it'],
];

/** A collection of shortcuts to what lies in a folder, all of it or one sort only. */
export function CollectFolderDialog({ folder, onClose }: { folder: EntryView; onClose: () => void }) {
  const gather = useGather();
  const navigate = useNavigate();
  const form = useForm({ defaultValues: { name: folder.name, only: 'all' as Only } });
  const error = form.formState.errors.name?.message;
  const submit = form.handleSubmit(async ({ name, only }) => {
    const made = await gather.make({
      name,
      type: 'plain',
      fromFolder: { placeId: folder.placeId, originalId: folder.id, only },
    });
    if (!made) return;
    onClose();
    void navigate(`/collections/${made.id}`);
  });
  return (
    <FormDialog
      title={`A collection of what is in “${folder.name}”`}
      submit="Make it"
      onSubmit={submit}
      onClose={onClose}
      busy={form.formState.isSubmitting}
    >
      <TextField
        label="Name"
        autoFocus
        error={error !== undefined}
        helperText={error}
        {...form.register('name', { validate: (v) => v.trim() !== '' || 'A collection needs a name.' })}
      />
      <TextField
        select
        label="Shortcuts to"
        defaultValue="all"
        helperText="What has a shortcut already is taken as it is. The folder itself is not touched."
        {...form.register('only')}
      >
        {ONLY.map(([id, text]) => (
          <MenuItem key={id} value={id}>
            {text}
          </MenuItem>
        ))}
      </TextField>
    </FormDialog>
  );
}
