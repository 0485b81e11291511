/**
 * A key or two of the person's own for a shortcut or collection: pressed, not typed; refused at once where it clashes.
 */
import type { RequestOf } from '../workspace/dialogRequest';
import { useState } from 'react';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { checkKeys, shownKeys, strokeOf } from '@rellin/core/keys';
import { useCollections, useQuickFilters, useSearches, useSettings, useShortcuts } from '../api/queries';
import { useCommands } from '../workspace/useCommands';

import { FormDialog } from '../parts/FormDialog';

export function OwnKeyDialog({ request, onClose }: { request: RequestOf<'own-key'>; onClose: () => void }) {
  const { target, id, name, revision } = request;
  const d = useCommands();
  const shortcuts = useShortcuts().data ?? [];
  const collections = useCollections().data ?? [];
  const quickFilters = useQuickFilters().data ?? [];
  const searches = useSearches().data ?? [];
  const [strokes, setStrokes] = useState<string[]>(request.keys?.split(' ') ?? []);
  const taken = new Map(
    [...shortcuts, ...collections, ...quickFilters, ...searches].flatMap((x) =>
      x.keys && x.id !== id ? [[x.keys, x.name]] : [],
    ),
  );
  const keys = strokes.join(' ');
  const checked = checkKeys(keys, taken, useSettings().data?.keyMap);
  const keep = (wanted: string | null) =>
    void d.setKeys(target, id, wanted, revision).then((done) => done && onClose());
  return (
    <FormDialog
      title={`A key for “${name}”`}
      submit="Save"
      busy={!checked.ok}
      onClose={onClose}
      onSubmit={(event) => {
        event.preventDefault();
        if (checked.ok) keep(checked.keys);
      }}
    >
      <TextField
        label="Press it"
        autoFocus
        value={strokes.length > 0 ? shownKeys(keys) : ''}
        placeholder="one key, two in a row, or one with Ctrl+Alt"
        error={strokes.length > 0 && !checked.ok}
        helperText={
          strokes.length > 0 && !checked.ok
            ? checked.reason
            : 'It works in every view, where no field has the focus. Backspace starts again.'
        }
        onChange={() => undefined}
        onKeyDown={(event) => {
          if (event.key === 'Tab' || event.key === 'Escape' || event.key === 'Enter') return;
          event.preventDefault();
          if (event.key === 'Backspace') return setStrokes([]);
          const stroke = strokeOf(event);
          if (stroke)
            setStrokes((now) =>
              now.length === 1 && !stroke.includes('+') && !now[0]!.includes('+') ? [...now, stroke] : [stroke],
            );
        }}
      />
      {request.keys && (
        <div>
          <Button variant="outlined" onClick={() => keep(null)}>
            Remove its key
          </Button>
        </div>
      )}
    </FormDialog>
  );
}
