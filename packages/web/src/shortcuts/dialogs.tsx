/** The small forms about one shortcut: add, rename, describe, change its target. */
import type { RequestOf } from '../workspace/dialogRequest';
import { useForm } from 'react-hook-form';
import Autocomplete from '@mui/material/Autocomplete';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { PathChooser } from '../parts/PathChooser';
import { useShortcuts } from '../api/queries';
import { useCommands } from '../workspace/useCommands';
import { useDialogs, useWorkspaceActions } from '../workspace/workspace';
import { useGather } from '../acts/useGather';
import { FormDialog } from '../parts/FormDialog';
import { QuickFilterDialog } from '../catalogue/QuickFilterDialog';
import { AddDialog } from './AddDialog';
import { OpenWithDialog } from './OpenWithDialog';
import { OwnKeyDialog } from './OwnKeyDialog';
import { PictureDialog } from './PictureDialog';
import { RenameManyDialog } from './RenameManyDialog';

function RenameDialog({ request, onClose }: { request: RequestOf<'rename'>; onClose: () => void }) {
  const d = useCommands();
  const form = useForm({ defaultValues: { name: request.shortcut.name } });
  const error = form.formState.errors.name?.message;
  const submit = form.handleSubmit(async ({ name }) => {
    if (await d.change(request.shortcut.id, { name }, ({ message }) => form.setError('name', { message }))) onClose();
  });
  return (
    <FormDialog
      title="Rename shortcut"
      submit="Rename"
      onSubmit={submit}
      onClose={onClose}
      busy={form.formState.isSubmitting}
    >
      <TextField
        label="Name"
        autoFocus
        onFocus={(e) => e.target.select()}
        error={error !== undefined}
        helperText={error ?? 'Only the shortcut is renamed; its original keeps its name.'}
        {...form.register('name', { validate: (v) => v.trim() !== '' || 'A shortcut needs a name.' })}
      />
    </FormDialog>
  );
}

function DescribeDialog({ request, onClose }: { request: RequestOf<'describe'>; onClose: () => void }) {
  const d = useCommands();
  const { shortcut } = request;
  const form = useForm({
    defaultValues: { description: shortcut.description, alsoCalled: shortcut.alsoCalled.join(', ') },
  });
  const submit = form.handleSubmit(async ({ description, alsoCalled }) => {
    const names = alsoCalled.split(',').flatMap((name) => name.trim() || []);
    const change = names.join() === shortcut.alsoCalled.join() ? { description } : { description, alsoCalled: names };
    if (await d.change(shortcut.id, change)) onClose();
  });
  return (
    <FormDialog
      title={`Describe “${request.shortcut.name}”`}
      submit="Save"
      onSubmit={submit}
      onClose={onClose}
      busy={form.formState.isSubmitting}
    >
      <TextField label="Description" multiline minRows={8} maxRows={18} autoFocus {...form.register('description')} />
      <TextField
        label="Also called"
        placeholder="other names to find it by, with commas between"
        {...form.register('alsoCalled')}
      />
    </FormDialog>
  );
}

function RepointDialog({ request, onClose }: { request: RequestOf<'repoint'>; onClose: () => void }) {
  const d = useCommands();
  const [typed, setTyped] = useState(request.shortcut.target === 'program' ? '' : request.shortcut.location);
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState<string>();
  return (
    <FormDialog
      title={`Change the target of “${request.shortcut.name}”`}
      submit="Change target"
      busy={busy}
      onClose={onClose}
      onSubmit={(event) => {
        event.preventDefault();
        setBusy(true);
        void d
          .repoint(request.shortcut.id, typed, (refused) => setWrong(refused.message))
          .then((now) => {
            setBusy(false);
            if (now) onClose();
          });
      }}
    >
      <PathChooser
        want="anything"
        title="Choose what it points to"
        label="Points to"
        autoFocus
        value={typed}
        error={wrong}
        onChange={(value) => {
          setTyped(value);
          setWrong(undefined);
        }}
      />
    </FormDialog>
  );
}

/** One of the few acts that cannot be undone: it asks, and says so. */
function EmptyBinDialog({ count, onClose }: { count: number; onClose: () => void }) {
  const d = useCommands();
  return (
    <FormDialog
      title={`Empty the bin of ${count} ${count === 1 ? 'thing' : 'things'}?`}
      submit="Empty the bin"
      onClose={onClose}
      onSubmit={(event) => {
        event.preventDefault();
        void d.emptyBin().then((done) => done && onClose());
      }}
    >
      <p>
        What is in it is gone from the catalogue for good, with its pins, its places in collections and the record of
        its openings. This cannot be undone. The originals are untouched.
      </p>
    </FormDialog>
  );
}

/** A further original for a shortcut to carry: one of the catalogue by name, or a path or address. */
function GoesWithDialog({ request, onClose }: { request: RequestOf<'goes-with'>; onClose: () => void }) {
  const gather = useGather();
  const shortcuts = useShortcuts().data ?? [];
  const [typed, setTyped] = useState('');
  const other = shortcuts.find((s) => s.name === typed && s.id !== request.shortcut.id);
  const isPath = /^(\/|~\/|file:|https?:|mailto:)/i.test(typed.trim());
  const error =
    typed !== '' && !other && !isPath ? 'No shortcut is called that; a path or an address will do too.' : undefined;
  return (
    <FormDialog
      title={`What goes with “${request.shortcut.name}”`}
      submit="Add"
      busy={!other && !isPath}
      onClose={onClose}
      onSubmit={(event) => {
        event.preventDefault();
        void gather
          .addGoesWith(request.shortcut, other ? { withId: other.id } : { typed })
          .then((done) => done && onClose());
      }}
    >
      <Autocomplete
        freeSolo
        fullWidth
        options={[...new Set(shortcuts.filter((s) => s.id !== request.shortcut.id).map((s) => s.name))]}
        inputValue={typed}
        onInputChange={(_, value) => setTyped(value)}
        renderInput={(params) => (
          <TextField
            {...params}
            label="Shortcut, path or address"
            autoFocus
            helperText={error ?? 'A manual, a code list, a folder: opened alone from the card, or together with it.'}
            error={error !== undefined}
          />
        )}
      />
    </FormDialog>
  );
}

export function ShortcutDialogs() {
  const { dialog } = useDialogs();
  const { closeDialog } = useWorkspaceActions();
  switch (dialog?.kind) {
    case 'add':
      return <AddDialog request={dialog} onClose={closeDialog} />;
    case 'rename':
      return <RenameDialog request={dialog} onClose={closeDialog} />;
    case 'describe':
      return <DescribeDialog request={dialog} onClose={closeDialog} />;
    case 'repoint':
      return <RepointDialog request={dialog} onClose={closeDialog} />;
    case 'own-key':
      return <OwnKeyDialog request={dialog} onClose={closeDialog} />;
    case 'empty-bin':
      return <EmptyBinDialog count={dialog.count} onClose={closeDialog} />;
    case 'rename-many':
      return <RenameManyDialog shortcuts={dialog.shortcuts} onClose={closeDialog} />;
    case 'quick-filter':
      return <QuickFilterDialog request={dialog} onClose={closeDialog} />;
    case 'picture':
      return <PictureDialog request={dialog} onClose={closeDialog} />;
    case 'open-with':
      return <OpenWithDialog request={dialog} onClose={closeDialog} />;
    case 'goes-with':
      return <GoesWithDialog request={dialog} onClose={closeDialog} />;
    default:
      return null;
  }
}
