/** Gathering into a collection from many: choose a source, tick many, see what is in already. */
import { useMemo, useState } from 'react';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { CollectionView, ShortcutView } from '@rellin/contract';
import { Finder } from '@rellin/core/match';
import { compareNatural } from '@rellin/core/units';
import { useCollections, useMembers, useShortcuts, useTags } from '../api/queries';
import { ChoiceList, type Choice } from '../parts/ChoiceList';
import { Tether } from '../parts/Tether';
import { locationText } from '../parts/locationText';
import { useGather } from '../acts/useGather';

/** "all", "lately", a collection's id, or "tag" with a tag's. */
type Source = string;

function from(source: Source, all: readonly ShortcutView[]): ShortcutView[] {
  if (source === 'lately')
    return all
      .filter((s) => s.lastOpenedAt !== null)
      .sort((a, b) => b.lastOpenedAt!.localeCompare(a.lastOpenedAt!))
      .slice(0, 40);
  const list =
    source === 'all'
      ? [...all]
      : source.startsWith('tag ')
        ? all.filter((s) => s.tags.includes(source.slice(4)))
        : all.filter((s) => s.collections.includes(source));
  return list.sort((a, b) => compareNatural(a.name, b.name));
}

export function GatherDialog({ collection, onClose }: { collection: CollectionView; onClose: () => void }) {
  const shortcuts = useShortcuts().data;
  const collections = useCollections().data ?? [];
  const tags = useTags().data ?? [];
  const members = useMembers(collection.id).data?.members;
  const gather = useGather();
  const [source, setSource] = useState<Source>('lately');
  const [query, setQuery] = useState('');
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const inside = new Set(members?.map((m) => m.itemId));
  const list = useMemo(() => from(source, shortcuts ?? []), [source, shortcuts]);
  const finder = useMemo(
    () => new Finder(list.map((s) => ({ id: s.id, group: 'shortcut', name: s.name, alsoCalled: s.alsoCalled }))),
    [list],
  );
  const found = query.trim() === '' ? list : finder.search(query, 100).map((a) => list.find((s) => s.id === a.id)!);
  const toggle = (id: string) =>
    setTicked((now) => {
      const next = new Set(now);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  const add = () => {
    const chosen = (shortcuts ?? []).filter((s) => ticked.has(s.id));
    void gather.addTo(collection, { shortcuts: chosen }).then((n) => n !== undefined && onClose());
  };
  const free = found.filter((s) => !inside.has(s.id));
  const choices: Choice[] = found.map((s) => ({
    id: s.id,
    disabled: inside.has(s.id),
    checked: ticked.has(s.id) || inside.has(s.id),
    content: (
      <>
        <span className={`tick${ticked.has(s.id) || inside.has(s.id) ? ' on' : ''}`} />
        <Tether state={s.state} />
        <span className="name cut">{s.name}</span>
        <span className="small cut">{inside.has(s.id) ? 'in it already' : locationText(s)}</span>
      </>
    ),
    run: () => toggle(s.id),
  }));
  if (found.length === 0 && source !== 'all')
    choices.push({
      id: 'all',
      content: <span className="name">Nothing there; look in the whole catalogue</span>,
      run: () => setSource('all'),
    });
  return (
    <Dialog open onClose={onClose} aria-labelledby="gather-title">
      <DialogTitle id="gather-title">Add several to “{collection.name}”</DialogTitle>
      <DialogContent>
        <TextField select label="From" value={source} onChange={(e) => setSource(e.target.value)} sx={{ mt: 1, mb: 1 }}>
          <MenuItem value="lately">what was opened lately</MenuItem>
          <MenuItem value="all">the whole catalogue</MenuItem>
          {collections
            .filter((c) => c.type !== 'mirror' && c.id !== collection.id)
            .map((c) => (
              <MenuItem key={c.id} value={c.id}>
                the collection “{c.name}”
              </MenuItem>
            ))}
          {tags.map((t) => (
            <MenuItem key={t.id} value={`tag ${t.id}`}>
              the tag “{t.name}”
            </MenuItem>
          ))}
        </TextField>
        <ChoiceList
          label="Shortcuts"
          placeholder="Type to narrow; Enter ticks"
          query={query}
          onQuery={setQuery}
          empty="Nothing there."
          beside={
            <button
              type="button"
              className="chip"
              disabled={free.length === 0}
              onClick={() => setTicked((now) => new Set([...now, ...free.map((s) => s.id)]))}
            >
              Tick all {free.length}
            </button>
          }
          choices={choices}
        />
      </DialogContent>
      <DialogActions sx={{ px: 3, pb: 2 }}>
        <Button variant="outlined" onClick={onClose}>
          Cancel
        </Button>
        <Button variant="contained" disabled={ticked.size === 0} onClick={add}>
          {ticked.size === 0 ? 'Add' : `Add ${ticked.size}`}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
