/** Puts what is selected into a collection: one found by typing, or a new one. */
import { useMemo, useState } from 'react';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { Finder } from '@rellin/core/match';
import { useCollections, useSearches, useShortcuts } from '../api/queries';
import { useWorkspaceActions, type Gathered } from '../workspace/workspace';
import { ChoiceList, type Choice } from '../parts/ChoiceList';
import { CollectionMark } from '../parts/CollectionMark';
import { gatheredCount, gatheredName, useGather } from '../acts/useGather';

export function AddToDialog({ gathered, onClose }: { gathered: Gathered; onClose: () => void }) {
  const collections = useCollections().data;
  const shortcuts = useShortcuts().data;
  const gather = useGather();
  const { openDialog } = useWorkspaceActions();
  const [query, setQuery] = useState('');
  const open = useMemo(() => (collections ?? []).filter((c) => c.type !== 'mirror'), [collections]);
  const finder = useMemo(
    () => new Finder(open.map((c) => ({ id: c.id, group: 'collection', name: c.name, description: c.description }))),
    [open],
  );
  const searches = useSearches().data;
  const alone = gatheredCount(gathered) === 1 ? (gathered.shortcuts[0] ?? gathered.searches?.[0])?.id : undefined;
  const inside = new Set([...(shortcuts ?? []), ...(searches ?? [])].find((s) => s.id === alone)?.collections);
  const found = query.trim() === '' ? open : finder.search(query, 50).map((a) => open.find((c) => c.id === a.id)!);
  const choices: Choice[] = found.map((c) => ({
    id: c.id,
    disabled: inside.has(c.id),
    content: (
      <>
        <CollectionMark colour={c.colour} type={c.type} />
        <span className="name cut">{c.name}</span>
        <span className="small">{inside.has(c.id) ? 'it is in there already' : `${c.count}`}</span>
      </>
    ),
    run: () => void gather.addTo(c, gathered).then((n) => n !== undefined && onClose()),
  }));
  const name = query.trim();
  if (name !== '' && !open.some((c) => c.name.toLowerCase() === name.toLowerCase()))
    choices.push({
      id: 'new',
      content: (
        <span className="cut">
          New collection <b>{name}</b> with {gatheredName(gathered)}
        </span>
      ),
      run: () =>
        void gather
          .make({
            name,
            type: 'plain',
            shortcutIds: gathered.shortcuts.map((s) => s.id),
            ...(gathered.collections && { collectionIds: gathered.collections.map((c) => c.id) }),
            targets: [
              ...(gathered.originals ?? []).map(({ placeId, originalId }) => ({ placeId, originalId })),
              ...(gathered.programs ?? []).map(({ programId }) => ({ programId })),
            ],
          })
          .then((made) => made && onClose()),
    });
  return (
    <Dialog open onClose={onClose} aria-labelledby="add-to-title">
      <DialogTitle id="add-to-title">Add {gatheredName(gathered)} to</DialogTitle>
      <DialogContent>
        <ChoiceList
          label="Collection"
          placeholder="Type to narrow, or name a new one"
          query={query}
          onQuery={setQuery}
          choices={choices}
          empty="There is no collection yet. Type a name to make the first."
        />
        <p className="dialog-foot">
          <Button
            variant="outlined"
            onClick={() => openDialog({ kind: 'new-collection', collectionType: 'working-set', gathered })}
          >
            New working set…
          </Button>
        </p>
      </DialogContent>
    </Dialog>
  );
}
