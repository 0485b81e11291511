/** Adding one shortcut or several: what each points to, and where all of them go. */
import { lazy, Suspense, useState } from 'react';
import Autocomplete from '@mui/material/Autocomplete';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Stack from '@mui/material/Stack';
import TextField from '@mui/material/TextField';
import type { OriginalRef } from '@rellin/contract';
import { parentOf, shown } from '@rellin/core/paths';
import { post } from '../api/client';
import { useCollections, useTags } from '../api/queries';
import { FormDialog } from '../parts/FormDialog';
import { readOnce } from '../parts/readOnce';
import type { RequestOf } from '../workspace/dialogRequest';
import { useCommands } from '../workspace/useCommands';
import { linesOf, Meant, ThingField } from './ThingField';
import { rememberedWhere, rememberWhere } from './rememberedWhere';
import '../parts/PathChooser.css';
import './addDialog.css';

const Chooser = lazy(() => import('../parts/Chooser').then((m) => ({ default: m.Chooser })));

export function AddDialog({ request, onClose }: { request: RequestOf<'add'>; onClose: () => void }) {
  const d = useCommands();
  const given = linesOf(request.typed ?? '');
  const [lines, setLines] = useState<string[]>(given.length > 1 ? given : []);
  const [typed, setTyped] = useState(given.length > 1 ? '' : (request.typed ?? ''));
  const [original, setOriginal] = useState<OriginalRef & { text: string }>();
  const [name, setName] = useState('');
  const [description, setDescription] = useState('');
  const [where, setWhere] = useState(rememberedWhere);
  const [pin, setPin] = useState(request.slot !== undefined || where.pin);
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

  const target = () =>
    original?.text === typed ? { placeId: original.placeId, originalId: original.originalId } : { typed };
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
    if (!isMany && collectionIds.length + tagIds.length === 0)
      return d.addShortcut(
        {
          ...target(),
          ...own(),
          ...(pin && { pin: true, ...(request.slot !== undefined && { slot: request.slot }) }),
        },
        refused,
      );
    const items = isMany ? lines.map((line) => ({ typed: line })) : [{ ...target(), ...own() }];
    return d.addShortcuts({ items, collectionIds, tagIds, pin }, refused);
  };
  const submit = async () => {
    if (!isMany && typed.trim() === '') return setWrong('Say what the shortcut points to.');
    setBusy(true);
    const made = await send();
    setBusy(false);
    if (!made) return;
    rememberWhere({ ...where, pin: request.slot === undefined && pin });
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
        <Lines lines={lines} onLines={setLines} wrong={wrong} />
      ) : (
        <div className="path-chooser">
          <ThingField
            value={typed}
            onChange={change}
            onOriginal={(ref, text) => setOriginal({ ...ref, text })}
            onLines={setLines}
            error={wrong}
            help={original?.text === typed ? 'A file of yours' : <Meant typed={typed} />}
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
      <div className="add-where">
        <Autocomplete
          multiple
          size="small"
          options={collections}
          getOptionLabel={(c) => c.name}
          getOptionKey={(c) => c.id}
          value={intoCollections}
          onChange={(_, chosen) => setWhere({ ...where, collections: chosen.map((c) => c.id) })}
          renderInput={(params) => <TextField {...params} label="Into collections" />}
        />
        <Autocomplete
          multiple
          size="small"
          options={tags}
          getOptionLabel={(t) => t.name}
          getOptionKey={(t) => t.id}
          value={withTags}
          onChange={(_, chosen) => setWhere({ ...where, tags: chosen.map((t) => t.id) })}
          renderInput={(params) => <TextField {...params} label="With tags" />}
        />
      </div>
      <FormControlLabel
        control={<Checkbox checked={pin} onChange={(e) => setPin(e.target.checked)} />}
        label={isMany ? 'Pin them to the strip, as far as there is room' : 'Pin it to the strip'}
      />
    </FormDialog>
  );
}

/** Several lines, each with what it means; one that leads nowhere is said before it is sent. */
function Lines({
  lines,
  onLines,
  wrong,
}: {
  lines: readonly string[];
  onLines(lines: string[]): void;
  wrong: string | undefined;
}) {
  return (
    <div>
      <ul className="add-lines sheet" aria-label="What they point to">
        {lines.map((line) => (
          <li key={line}>
            <span className="two-lines">
              <span className="mono cut">{shown(line)}</span>
              <span className="small cut">
                <Meant typed={line} />
              </span>
            </span>
            <Button size="small" onClick={() => onLines(lines.filter((other) => other !== line))}>
              Leave out
            </Button>
          </li>
        ))}
      </ul>
      {wrong && (
        <p className="small meant-none" role="alert">
          {wrong}
        </p>
      )}
    </div>
  );
}
