/** Adding one shortcut or several: what each points to, and where all of them go. */
import { lazy, Suspense, useState } from 'react';
import Button from '@mui/material/Button';
import Stack from '@mui/material/Stack';
import TextField from '@mui/material/TextField';
import type { OriginalRef } from '@rellin/contract';
import { parentOf } from '@rellin/core/paths';
import { post } from '../api/client';
import { useCollections, useTags } from '../api/queries';
import { FormDialog } from '../parts/FormDialog';
import { readOnce } from '../parts/readOnce';
import type { RequestOf } from '../workspace/dialogRequest';
import { useCommands } from '../workspace/useCommands';
import { AddLines } from './AddLines';
import { AddWhere } from './AddWhere';
import { linesOf, ThingField } from './ThingField';
import { rememberedWhere, rememberWhere } from './rememberedWhere';
import '../parts/PathChooser.css';
import './addDialog.css';

const Chooser = lazy(() => import('../parts/Chooser').then((m) => ({ default: m.Chooser })));

export function AddDialog({ request, onClose }: { request: RequestOf<'add'>; onClose: () => void }) {
  const d = useCommands();
  const given = linesOf(request.typed ?? '');
  const [lines, setLines] = useState<string[]>(given.length > 1 ? given : []);
  const [typed, setTyped] = useState(given.length > 1 ? '' : (request.typed ?? ''));
  const [original, setOriginal] = useState<{ ref: OriginalRef; text: string; detail: string }>();
  const [name, setName] = useState('');
  const [description, setDescription] = useState('');
  const [where, setWhere] = useState(() => {
    const last = rememberedWhere();
    return { ...last, pin: last.pin || request.slot !== undefined };
  });
  const [slot, setSlot] = useState(request.slot);
  const [wrong, setWrong] = useState<string>();
  const [outside, setOutside] = useState(request.outside ?? false);
  const [busy, setBusy] = useState(false);
  const [browsing, setBrowsing] = useState(false);
  const isMany = lines.length > 1;
  const collections = (useCollections().data ?? []).filter((c) => c.type !== 'mirror');
  const tags = useTags().data ?? [];
  const intoCollections = collections.filter((c) => where.collections.includes(c.id));
  const withTags = tags.filter((t) => where.tags.includes(t.id));
  const folder = parentOf(typed.trim().replace(/\/+$/, ''));
  const offersFolder = !isMany && outside && folder !== '';

  const isOriginal = original?.text === typed;
  const target = () => (isOriginal ? original.ref : { typed });
  const own = () => ({
    ...(name.trim() && { name }),
    ...(description && { description }),
  });
  const refused = (problem: { kind: string; message: string }) => {
    setWrong(problem.message);
    setOutside(problem.kind === 'outside-places');
  };
  const send = () => {
    const collectionIds = intoCollections.map((c) => c.id);
    const tagIds = withTags.map((t) => t.id);
    const pinned = where.pin ? { pin: true, ...(slot !== undefined && { slot }) } : {};
    if (!isMany && collectionIds.length + tagIds.length === 0)
      return d.addShortcut({ ...target(), ...own(), ...pinned }, refused);
    const items = isMany ? lines.map((line) => ({ typed: line })) : [{ ...target(), ...own() }];
    return d.addShortcuts({ items, collectionIds, tagIds, ...pinned }, refused);
  };
  const submit = async () => {
    if (!isMany && typed.trim() === '') return setWrong('Say what the shortcut points to.');
    setBusy(true);
    const made = await send();
    setBusy(false);
    if (!made) return;
    rememberWhere({ ...where, pin: request.slot === undefined && where.pin });
    onClose();
  };
  /** The folder becomes one of Rellin's; once it is read the shortcut is made. */
  const addFolder = () =>
    d.attempt(
      async () => {
        const place = await post('/places', { root: folder });
        setOutside(false);
        setWrong(undefined);
        await readOnce(place.id);
        await submit();
      },
      (problem) => setWrong(problem.message),
    );
  const change = (text: string) => {
    setOutside(false);
    setWrong(undefined);
    setTyped(text);
  };
  return (
    <FormDialog
      title={isMany ? `Add ${lines.length} shortcuts` : 'Add shortcut'}
      submit={isMany ? `Add ${lines.length} shortcuts` : 'Add shortcut'}
      onSubmit={(event) => {
        event.preventDefault();
        void submit();
      }}
      onClose={onClose}
      // it would be refused again: the way on is the button at the path
      busy={busy || offersFolder}
    >
      {isMany ? (
        <AddLines lines={lines} onLines={setLines} wrong={wrong} />
      ) : (
        <div className="path-chooser">
          <ThingField
            value={typed}
            onChange={change}
            onOriginal={(ref, text, detail) => setOriginal({ ref, text, detail })}
            onLines={setLines}
            error={wrong}
            original={isOriginal ? original.detail : undefined}
          />
          <Button variant="outlined" onClick={() => setBrowsing(true)}>
            Browse…
          </Button>
        </div>
      )}
      {browsing && (
        <Suspense fallback={null}>
          <Chooser
            title="Choose what it points to"
            want="anything"
            start={typed}
            onClose={() => setBrowsing(false)}
            onChoose={(chosen) => {
              change(chosen);
              setBrowsing(false);
            }}
          />
        </Suspense>
      )}
      {offersFolder && (
        <Stack spacing={1} role="status" sx={{ alignItems: 'flex-start' }}>
          <p className="small">
            Rellin does not look into <span className="mono">{folder}</span> yet.
          </p>
          <Button variant="contained" onClick={() => void addFolder()}>
            Add this folder, then the shortcut
          </Button>
        </Stack>
      )}
      {!isMany && (
        <>
          <TextField
            label="Name"
            placeholder="from the original, if left empty"
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
          <TextField
            label="Description"
            multiline
            minRows={2}
            value={description}
            onChange={(e) => setDescription(e.target.value)}
          />
        </>
      )}
      <AddWhere where={where} onWhere={setWhere} slot={slot} onSlot={setSlot} isMany={isMany} />
    </FormDialog>
  );
}
