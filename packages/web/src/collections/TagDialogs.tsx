/** Tags put on and taken off many things at once; a tag's own name and colour. */
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import type { TagView } from '@rellin/contract';
import { useOriginals, useSearches, useShortcuts, useTags } from '../api/queries';
import type { Gathered } from '../workspace/workspace';
import { ChoiceList, type Choice } from '../parts/ChoiceList';
import { ColourField } from '../parts/ColourField';
import { TagLabel } from '../parts/TagLabel';
import { FormDialog } from '../parts/FormDialog';
import { gatheredName, useGather } from '../acts/useGather';

export function TagsDialog({ gathered, onClose }: { gathered: Gathered; onClose: () => void }) {
  const tags = useTags().data ?? [];
  const shortcuts = useShortcuts().data ?? [];
  const gather = useGather();
  const [query, setQuery] = useState('');
  const searches = useSearches().data ?? [];
  const ids = new Set([...gathered.shortcuts, ...(gathered.searches ?? [])].map((s) => s.id));
  const originals = useOriginals(gathered.originals ?? []);
  const chosen = [...[...shortcuts, ...searches].filter((s) => ids.has(s.id)), ...originals];
  const bear = (tag: TagView) => chosen.filter((s) => s.tags.includes(tag.id)).length;
  const name = query.trim();
  const choices: Choice[] = tags
    .filter((t) => t.name.toLowerCase().includes(name.toLowerCase()))
    .map((tag) => {
      const n = bear(tag);
      const all = chosen.length > 0 && n === chosen.length;
      return {
        id: tag.id,
        checked: all,
        content: (
          <>
            <span className={`tick${all ? ' on' : ''}`} />
            <TagLabel tag={tag} />
            <span className="small push">{n > 0 && !all ? `on ${n} of ${chosen.length}` : `${tag.count} in all`}</span>
          </>
        ),
        run: () => void (all ? gather.takeTag(tag, gathered) : gather.putTag(tag, gathered)),
      };
    });
  if (name !== '' && !tags.some((t) => t.name.toLowerCase() === name.toLowerCase()))
    choices.push({
      id: 'new',
      content: (
        <span className="cut">
          New tag <b>{name}</b> on {gatheredName(gathered)}
        </span>
      ),
      run: () => void gather.makeTag(name, gathered).then((tag) => tag && setQuery('')),
    });
  return (
    <Dialog open onClose={onClose} aria-labelledby="tags-title">
      <DialogTitle id="tags-title">Tags of {gatheredName(gathered)}</DialogTitle>
      <DialogContent>
        <ChoiceList
          label="Tag"
          placeholder="Type to narrow, or name a new one"
          query={query}
          onQuery={setQuery}
          choices={choices}
          empty="There is no tag yet. Type a name to make the first."
        />
      </DialogContent>
      <DialogActions sx={{ px: 3, pb: 2 }}>
        <Button variant="contained" onClick={onClose}>
          Done
        </Button>
      </DialogActions>
    </Dialog>
  );
}

export function ChangeTagDialog({ tag, onClose }: { tag: TagView; onClose: () => void }) {
  const gather = useGather();
  const [colour, setColour] = useState(tag.colour);
  const form = useForm({ defaultValues: { name: tag.name } });
  const error = form.formState.errors.name?.message;
  const submit = form.handleSubmit(async ({ name }) => {
    if (await gather.changeTag(tag, { name, colour })) onClose();
  });
  return (
    <FormDialog
      title={`The tag “${tag.name}”`}
      submit="Save"
      onSubmit={submit}
      onClose={onClose}
      busy={form.formState.isSubmitting}
    >
      <TextField
        label="Name"
        autoFocus
        error={error !== undefined}
        helperText={error}
        {...form.register('name', { validate: (v) => v.trim() !== '' || 'A tag needs a name.' })}
      />
      <ColourField value={colour} onChange={setColour} />
    </FormDialog>
  );
}
