/** The small forms about one shortcut: add, rename, describe, repoint. */
import { useForm } from 'react-hook-form';
import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import Stack from '@mui/material/Stack';
import TextField from '@mui/material/TextField';
import { useEffect, useState } from 'react';
import { get } from '../api/client';
import { useDo } from '../acts/useDo';
import { useDesk, type DialogRequest } from '../frame/desk';

interface FormDialogProps {
  title: string;
  submit: string;
  children: React.ReactNode;
  onSubmit: (event: React.FormEvent) => void;
  onClose: () => void;
  busy: boolean;
}

function FormDialog({ title, submit, children, onSubmit, onClose, busy }: FormDialogProps) {
  return (
    <Dialog open onClose={onClose} aria-labelledby="form-title">
      <form onSubmit={onSubmit} noValidate>
        <DialogTitle id="form-title">{title}</DialogTitle>
        <DialogContent>
          <Stack spacing={2} sx={{ pt: 1 }}>
            {children}
          </Stack>
        </DialogContent>
        <DialogActions sx={{ px: 3, pb: 2 }}>
          <Button variant="outlined" onClick={onClose}>
            Cancel
          </Button>
          <Button variant="contained" type="submit" disabled={busy}>
            {submit}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}

/** A path field that continues what is typed from the folders there are. */
export function PathField(props: {
  value: string;
  onChange(value: string): void;
  label: string;
  error?: string;
  autoFocus?: boolean;
}) {
  const [options, setOptions] = useState<string[]>([]);
  useEffect(() => {
    if (!/^[/~]/.test(props.value)) {
      setOptions([]);
      return;
    }
    const abort = new AbortController();
    get<string[]>(`/originals/complete?path=${encodeURIComponent(props.value)}`, abort.signal).then(
      setOptions,
      () => undefined,
    );
    return () => abort.abort();
  }, [props.value]);
  return (
    <Autocomplete
      freeSolo
      fullWidth
      options={options}
      filterOptions={(x) => x}
      inputValue={props.value}
      onInputChange={(_, value) => props.onChange(value)}
      renderInput={(params) => (
        <TextField
          {...params}
          label={props.label}
          autoFocus={props.autoFocus}
          error={props.error !== undefined}
          helperText={props.error ?? 'A path (/… or ~/…), a file address, or https://, http:// or mailto:'}
        />
      )}
    />
  );
}

function AddDialog({ request, onClose }: { request: Extract<DialogRequest, { kind: 'add' }>; onClose: () => void }) {
  const d = useDo();
  const form = useForm({
    defaultValues: { typed: request.typed ?? '', name: '', description: '', pin: request.slot !== undefined },
  });
  const typed = form.watch('typed');
  const error = form.formState.errors.typed?.message;
  const submit = form.handleSubmit(async (values) => {
    const made = await d.addShortcut({
      typed: values.typed,
      ...(values.name.trim() && { name: values.name }),
      ...(values.description && { description: values.description }),
      ...(values.pin && { pin: true, ...(request.slot !== undefined && { slot: request.slot }) }),
    });
    if (made) onClose();
  });
  useEffect(() => {
    form.register('typed', { validate: (v) => v.trim() !== '' || 'Say what the shortcut points to.' });
  }, [form]);
  return (
    <FormDialog
      title="Add shortcut"
      submit="Add shortcut"
      onSubmit={submit}
      onClose={onClose}
      busy={form.formState.isSubmitting}
    >
      <PathField
        label="Points to"
        autoFocus
        value={typed}
        onChange={(v) => form.setValue('typed', v, { shouldValidate: form.formState.isSubmitted })}
        error={error}
      />
      <TextField label="Name" placeholder="from the original, if left empty" {...form.register('name')} />
      <TextField label="Description" multiline minRows={2} {...form.register('description')} />
      <FormControlLabel
        control={<Checkbox {...form.register('pin')} defaultChecked={request.slot !== undefined} />}
        label="Pin it to the strip"
      />
    </FormDialog>
  );
}

function RenameDialog({
  request,
  onClose,
}: {
  request: Extract<DialogRequest, { kind: 'rename' }>;
  onClose: () => void;
}) {
  const d = useDo();
  const form = useForm({ defaultValues: { name: request.shortcut.name } });
  const error = form.formState.errors.name?.message;
  const submit = form.handleSubmit(async ({ name }) => {
    if (await d.change(request.shortcut.id, { name })) onClose();
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

function DescribeDialog({
  request,
  onClose,
}: {
  request: Extract<DialogRequest, { kind: 'describe' }>;
  onClose: () => void;
}) {
  const d = useDo();
  const form = useForm({ defaultValues: { description: request.shortcut.description } });
  const submit = form.handleSubmit(async ({ description }) => {
    if (await d.change(request.shortcut.id, { description })) onClose();
  });
  return (
    <FormDialog
      title={`Describe “${request.shortcut.name}”`}
      submit="Keep"
      onSubmit={submit}
      onClose={onClose}
      busy={form.formState.isSubmitting}
    >
      <TextField label="Description" multiline minRows={6} autoFocus {...form.register('description')} />
    </FormDialog>
  );
}

function RepointDialog({
  request,
  onClose,
}: {
  request: Extract<DialogRequest, { kind: 'repoint' }>;
  onClose: () => void;
}) {
  const d = useDo();
  const [typed, setTyped] = useState(request.shortcut.target === 'program' ? '' : request.shortcut.location);
  const [busy, setBusy] = useState(false);
  return (
    <FormDialog
      title={`Repoint “${request.shortcut.name}”`}
      submit="Repoint"
      busy={busy}
      onClose={onClose}
      onSubmit={(event) => {
        event.preventDefault();
        setBusy(true);
        void d.repoint(request.shortcut.id, typed).then((now) => {
          setBusy(false);
          if (now) onClose();
        });
      }}
    >
      <PathField label="Points to" autoFocus value={typed} onChange={setTyped} />
    </FormDialog>
  );
}

export function ShortcutDialogs() {
  const { dialog, closeDialog } = useDesk();
  switch (dialog?.kind) {
    case 'add':
      return <AddDialog request={dialog} onClose={closeDialog} />;
    case 'rename':
      return <RenameDialog request={dialog} onClose={closeDialog} />;
    case 'describe':
      return <DescribeDialog request={dialog} onClose={closeDialog} />;
    case 'repoint':
      return <RepointDialog request={dialog} onClose={closeDialog} />;
    default:
      return null;
  }
}
