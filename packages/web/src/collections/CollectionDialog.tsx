/** Name, description, colour and, for a working set, its end: of a new collection or of one there is. */
import type { RequestOf } from '../workspace/dialogRequest';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';

import { ColourField } from '../parts/ColourField';
import { FormDialog } from '../parts/FormDialog';
import { additionsOf, useGather } from '../acts/useGather';

type Request = RequestOf<'new-collection' | 'change-collection'>;
type End = 'never' | 'today' | 'date';

/** The end of a day in the person's own time, as an instant. */
export function endOfDay(day: Date): string {
  return new Date(day.getFullYear(), day.getMonth(), day.getDate() + 1).toISOString();
}

const inputDate = (iso: string) => {
  const last = new Date(Date.parse(iso) - 1);
  const two = (n: number) => String(n).padStart(2, '0');
  return `${last.getFullYear()}-${two(last.getMonth() + 1)}-${two(last.getDate())}`;
};

export function CollectionDialog({ request, onClose }: { request: Request; onClose: () => void }) {
  const gather = useGather();
  const navigate = useNavigate();
  const there = request.kind === 'change-collection' ? request.collection : undefined;
  const [type, setType] = useState(
    there?.type ?? (request.kind === 'new-collection' ? request.collectionType : 'plain'),
  );
  const [colour, setColour] = useState(there?.colour ?? '');
  const [end, setEnd] = useState<End>(there ? (there.until ? 'date' : 'never') : 'today');
  const form = useForm({
    defaultValues: {
      name: there?.name ?? (request.kind === 'new-collection' ? request.name : undefined) ?? '',
      description: there?.description ?? '',
      date: inputDate(there?.until ?? endOfDay(new Date())),
    },
  });
  const error = form.formState.errors.name?.message;
  const submit = form.handleSubmit(async ({ name, description, date }) => {
    const [year, month, day] = date.split('-').map(Number) as [number, number, number];
    const until =
      type !== 'working-set' || end === 'never'
        ? null
        : endOfDay(end === 'today' ? new Date() : new Date(year, month - 1, day));
    const values = { name, description, colour, ...(type === 'working-set' || there?.until ? { until } : {}) };
    if (there) {
      if (await gather.change(there, values)) onClose();
      return;
    }
    if (request.kind !== 'new-collection') return;
    const made = await gather.make({
      ...values,
      type,
      ...(request.parentId && { parentId: request.parentId }),
      ...(request.gathered && additionsOf(request.gathered)),
    });
    if (!made) return;
    onClose();
    if (!request.gathered || request.name !== undefined) void navigate(`/collections/${made.id}`);
  });
  return (
    <FormDialog
      title={there ? `The collection “${there.name}”` : type === 'working-set' ? 'New working set' : 'New collection'}
      submit={there ? 'Save' : 'Make it'}
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
      {!there && (
        <TextField select label="What kind" value={type} onChange={(e) => setType(e.target.value as typeof type)}>
          <MenuItem value="plain">a collection, kept until you change it</MenuItem>
          <MenuItem value="working-set">a working set, emptied in one act or on its end date</MenuItem>
        </TextField>
      )}
      {type === 'working-set' && (
        <TextField select label="Empties itself" value={end} onChange={(e) => setEnd(e.target.value as End)}>
          <MenuItem value="today">at the end of today</MenuItem>
          <MenuItem value="date">at the end of a day</MenuItem>
          <MenuItem value="never">never; by hand</MenuItem>
        </TextField>
      )}
      {type === 'working-set' && end === 'date' && (
        <TextField
          type="date"
          label="Last day"
          slotProps={{ inputLabel: { shrink: true } }}
          {...form.register('date')}
        />
      )}
      <TextField label="Description" multiline minRows={2} {...form.register('description')} />
      <ColourField none value={colour} onChange={setColour} />
    </FormDialog>
  );
}
