/** A name for a search, and what else is kept with it. */
import type { RequestOf } from '../workspace/dialogRequest';
import { type Control, Controller, useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { CollectionId, PinView, TagId, TagView } from '@rellin/contract';
import { useCollections, usePins, useSettings, useTags } from '../api/queries';
import { useDialogs, useWorkspaceActions } from '../workspace/workspace';
import { tagProps } from '../parts/TagLabel';
import { ColourField } from '../parts/ColourField';
import { FormDialog } from '../parts/FormDialog';
import { useSearchActs } from '../acts/useSearchActs';

type Request = RequestOf<'save-search' | 'change-search'>;

interface Values {
  name: string;
  description: string;
  colour: string;
  tagIds: TagId[];
  collectionId: CollectionId;
  slot: string;
}
interface Option {
  id: string;
  name: string;
}

/** The slots a new pin can take, each before the pin that has it now; the last is behind all. */
function slots(pins: readonly PinView[]): Option[] {
  return [
    ...pins.map((p) => ({ id: String(p.slot), name: `${p.slot}, before “${p.name}”` })),
    { id: String(pins.length + 1), name: `${pins.length + 1}, at the end` },
  ].reverse();
}

function One(props: {
  label: string;
  form: Control<Values>;
  name: 'collectionId' | 'slot';
  none: string;
  options: readonly Option[];
}) {
  return (
    <Controller
      control={props.form}
      name={props.name}
      render={({ field }) => (
        <TextField
          select
          label={props.label}
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
          {...field}
        >
          <MenuItem value="">{props.none}</MenuItem>
          {props.options.map((o) => (
            <MenuItem key={o.id} value={o.id}>
              {o.name}
            </MenuItem>
          ))}
        </TextField>
      )}
    />
  );
}

function Several(props: { label: string; form: Control<Values>; name: 'tagIds'; options: readonly TagView[] }) {
  return (
    <Controller
      control={props.form}
      name={props.name}
      render={({ field }) => (
        <fieldset className="tag-field">
          <legend className="small">{props.label}</legend>
          {props.options.map((tag) => {
            const on = field.value.includes(tag.id);
            return (
              <button
                key={tag.id}
                type="button"
                {...tagProps(tag)}
                aria-pressed={on}
                onClick={() =>
                  field.onChange(on ? field.value.filter((id) => id !== tag.id) : [...field.value, tag.id])
                }
              >
                {tag.name}
              </button>
            );
          })}
        </fieldset>
      )}
    />
  );
}

function SearchDialog({ request, onClose }: { request: Request; onClose(): void }) {
  const there = request.kind === 'change-search' ? request.search : undefined;
  const acts = useSearchActs();
  const tags = useTags().data ?? [];
  const collections = (useCollections().data ?? []).filter((c) => c.type !== 'mirror');
  const pins = usePins().data ?? [];
  const pinLimit = useSettings().data?.pinLimit ?? 0;
  const navigate = useNavigate();
  const form = useForm<Values>({
    defaultValues: {
      name: there?.name ?? '',
      description: there?.description ?? '',
      colour: there?.colour ?? '',
      tagIds: [],
      collectionId: '',
      slot: '',
    },
  });
  const error = form.formState.errors.name?.message;
  const colour = form.watch('colour');
  const submit = form.handleSubmit(async ({ name, description, colour, tagIds, collectionId, slot }) => {
    const kept = { name: name.trim(), description: description.trim(), colour };
    if (request.kind === 'change-search') {
      if (await acts.change(request.search, kept)) onClose();
      return;
    }
    const made = await acts.save({
      ...request.draft,
      ...kept,
      ...(tagIds.length > 0 && { tagIds }),
      ...(collectionId && { collectionId }),
      ...(slot && { slot: Number(slot) }),
    });
    if (!made) return;
    onClose();
    void navigate(`/searches/${made.id}`);
  });
  return (
    <FormDialog
      title={there ? `The saved search “${there.name}”` : 'Save search'}
      submit="Save"
      onSubmit={submit}
      onClose={onClose}
      busy={form.formState.isSubmitting}
    >
      <TextField
        label="Name"
        autoFocus
        error={error !== undefined}
        helperText={error ?? (there ? undefined : 'It keeps itself up to date under this name.')}
        {...form.register('name', { validate: (v) => v.trim() !== '' || 'A saved search needs a name.' })}
      />
      <TextField label="Description" multiline minRows={2} {...form.register('description')} />
      <ColourField none value={colour} onChange={(value) => form.setValue('colour', value)} />
      {!there && (
        <>
          {tags.length > 0 && <Several label="Tags" form={form.control} name="tagIds" options={tags} />}
          <One label="Collection" form={form.control} name="collectionId" none="in none" options={collections} />
          <One
            label="Place on the strip"
            form={form.control}
            name="slot"
            none={pins.length < pinLimit ? 'not pinned' : `not pinned; the strip is full (${pinLimit})`}
            options={pins.length < pinLimit ? slots(pins) : []}
          />
        </>
      )}
    </FormDialog>
  );
}

export function SearchDialogs() {
  const { dialog } = useDialogs();
  const { closeDialog } = useWorkspaceActions();
  return dialog?.kind === 'save-search' || dialog?.kind === 'change-search' ? (
    <SearchDialog request={dialog} onClose={closeDialog} />
  ) : null;
}
