import type { RequestOf } from '../workspace/dialogRequest';
import { useForm } from 'react-hook-form';
import TextField from '@mui/material/TextField';
import { useCommands } from '../workspace/useCommands';

import { FormDialog } from '../parts/FormDialog';

type Request = RequestOf<'quick-filter'>;

/** A name for what the catalogue is narrowed to, or another one for a quick filter there is. */
export function QuickFilterDialog({ request, onClose }: { request: Request; onClose: () => void }) {
  const d = useCommands();
  const there = 'filter' in request ? request.filter : undefined;
  const form = useForm({ defaultValues: { name: there?.name ?? '' } });
  const error = form.formState.errors.name?.message;
  const submit = form.handleSubmit(async ({ name }) => {
    const done =
      'now' in request ? d.keepQuickFilter(name.trim(), request.now) : d.renameQuickFilter(request.filter, name.trim());
    if (await done) onClose();
  });
  return (
    <FormDialog
      title={there ? `The quick filter “${there.name}”` : 'Keep as quick filter'}
      submit="Save"
      onSubmit={submit}
      onClose={onClose}
      busy={form.formState.isSubmitting}
    >
      <TextField
        label="Name"
        autoFocus
        error={error !== undefined}
        helperText={error ?? (there ? undefined : 'It stands above the list; its menu gives it a key.')}
        {...form.register('name', { validate: (v) => v.trim() !== '' || 'A quick filter needs a name.' })}
      />
    </FormDialog>
  );
}
