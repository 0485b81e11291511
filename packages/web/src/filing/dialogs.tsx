/** Choosing where to file, and what to do about names that are taken. */
import type { RequestOf } from '../workspace/dialogRequest';
import { useState } from 'react';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import TextField from '@mui/material/TextField';
import { Finder } from '@rellin/core/match';
import type { BelongsView, OriginalId, OriginalRef, PlaceId, ShortcutView } from '@rellin/contract';
import { nameOf, shown } from '@rellin/core/paths';
import { formatBytes } from '@rellin/core/units';
import { post } from '../api/client';
import { useBelongs, useShortcuts } from '../api/queries';
import { useCommands } from '../workspace/useCommands';
import { Chooser } from '../parts/Chooser';
import { gatheredName } from '../acts/useGather';
import { useDialogs, useWorkspaceActions, type Gathered } from '../workspace/workspace';
import { ChoiceList } from '../parts/ChoiceList';
import { KeyCap } from '../parts/KeyCap';
import { Roving } from '../parts/Roving';
import { shortDate } from '../parts/dates';
import { Tether } from '../parts/Tether';
import { locationText } from '../parts/locationText';
import { NewFolderDialog } from './NewFolderDialog';
import { RenameOriginals } from './RenameOriginals';
import { useFiling } from './useFiling';
import { folderWords, percent, reasonWords } from '../sweeps/words';
import './dialogs.css';

const NOTHING: readonly OriginalRef[] = [];
/** More are not asked about: they are of many sorts, and belong nowhere together. */
const MOST_ASKED = 50;

/** What is to be moved or copied, as originals. */
function originalsOf(gathered: Gathered, shortcuts: readonly ShortcutView[]): readonly OriginalRef[] {
  const ids = new Set(gathered.shortcuts.map((s) => s.id));
  const all = [
    ...(gathered.originals ?? []).map(({ placeId, originalId }) => ({ placeId, originalId })),
    ...shortcuts.flatMap((s) =>
      ids.has(s.id) && s.placeId !== null && s.originalId !== null
        ? [{ placeId: s.placeId, originalId: s.originalId }]
        : [],
    ),
  ];
  return all.length > MOST_ASKED ? NOTHING : all;
}

/** Where the things belong, in a line of its own: what comes a moment later moves nothing under the pointer. */
function Likely(props: { originals: readonly OriginalRef[]; onChoose(folder: BelongsView): void }) {
  const belongs = useBelongs(props.originals);
  const likely = belongs.data ?? [];
  return (
    <div className="file-likely">
      <span className="small">Belongs in</span>
      <Roving label="Where it belongs">
        {likely.map((folder) => (
          <button
            key={`${folder.placeId}/${folder.originalId}`}
            type="button"
            className="chip"
            title={`${[...folder.trail, folder.name].map(shown).join(' › ')}: ${reasonWords(folder.reason)}`}
            onClick={() => props.onChoose(folder)}
          >
            {shown(folderWords(folder))} <b>{percent(folder.probability)}</b>
          </button>
        ))}
      </Roving>
      {likely.length === 0 && <span className="small">{belongs.isFetching ? '…' : 'not known'}</span>}
    </div>
  );
}

function FileIntoDialog({ gathered, onClose }: { gathered: Gathered; onClose: () => void }) {
  const shortcuts = useShortcuts().data ?? [];
  const folders = shortcuts.filter((s) => s.kind === 'folder');
  const { file } = useFiling();
  const [query, setQuery] = useState('');
  const [how, setHow] = useState<'move' | 'copy'>('move');
  const [newFolder, setNewFolder] = useState('');
  const finder = new Finder(
    folders.map((s) => ({ id: s.id, group: 'shortcut', name: s.name, trail: s.trail.join(' ') })),
  );
  const found =
    query.trim() === '' ? folders : finder.search(query, 50).map((a) => folders.find((s) => s.id === a.id)!);
  const asked = originalsOf(gathered, shortcuts);
  const [browsing, setBrowsing] = useState(false);
  const d = useCommands();
  const into = (target: { name: string } & ({ shortcutId: string } | { placeId: PlaceId; originalId: OriginalId })) =>
    void file({
      shortcutIds: gathered.shortcuts.map((x) => x.id),
      originals: gathered.originals,
      into: { ...target, ...(newFolder.trim() && { newFolder: newFolder.trim() }) },
      how,
    }).then((filed) => filed && onClose());
  /** One that has no shortcut; what stands against it is said, and another can be chosen. */
  const fileTo = (path: string) =>
    d.attempt(async () => {
      const { placeId, folderId } = await post('/originals/locate', { path });
      setBrowsing(false);
      into({ placeId, originalId: folderId, name: shown(nameOf(path)) });
    });
  const it = gathered.shortcuts.length + (gathered.originals?.length ?? 0) === 1 ? 'it' : 'them';
  return (
    <Dialog open onClose={onClose} aria-labelledby="file-title">
      <DialogTitle id="file-title">Move or copy {gatheredName(gathered)} to…</DialogTitle>
      <DialogContent>
        <RadioGroup row aria-label="How" value={how} onChange={(e) => setHow(e.target.value as typeof how)}>
          <FormControlLabel value="move" control={<Radio size="small" />} label="Move the originals" />
          <FormControlLabel value="copy" control={<Radio size="small" />} label="Copy them" />
        </RadioGroup>
        {asked.length > 0 && (
          <Likely
            originals={asked}
            onChoose={({ placeId, originalId, name }) => into({ placeId, originalId, name: shown(name) })}
          />
        )}
        <ChoiceList
          label="Folder"
          placeholder="Type to narrow the folders you have shortcuts to"
          query={query}
          onQuery={setQuery}
          empty={
            folders.length === 0
              ? 'No folder has a shortcut yet. Make one in Originals; it is a filing target from then on.'
              : 'No folder is called that.'
          }
          choices={found.map((s) => ({
            id: s.id,
            disabled: s.state === 'away' || s.state === 'lost' || s.state === 'unsure',
            content: (
              <>
                <Tether state={s.state} />
                <span className="name cut">{s.name}</span>
                <span className="small cut">{locationText(s)}</span>
              </>
            ),
            run: () => into({ shortcutId: s.id, name: s.name }),
          }))}
        />
        {browsing && (
          <Chooser
            title={`${how === 'move' ? 'Move' : 'Copy'} ${gatheredName(gathered)} to…`}
            want="folder"
            onClose={() => setBrowsing(false)}
            onChoose={(path) => void fileTo(path)}
          />
        )}
        <div className="file-more">
          <TextField
            label="In a new folder there"
            placeholder="none"
            value={newFolder}
            onChange={(e) => setNewFolder(e.target.value)}
          />
          <Button variant="outlined" onClick={() => setBrowsing(true)}>
            Another folder…
          </Button>
        </div>
        <p className="small file-foot">
          <KeyCap>↵</KeyCap> or a click {how === 'move' ? 'moves' : 'copies'} {it} into the folder at once; undo{' '}
          {how === 'move' ? `brings ${it} back` : 'takes the copies away'}. <KeyCap>Esc</KeyCap> leaves {it} where{' '}
          {it === 'it' ? 'it is' : 'they are'}.
        </p>
      </DialogContent>
    </Dialog>
  );
}

const facts = (side: { size: number | null; modified: number } | null) =>
  side ? `${side.size === null ? 'folder' : formatBytes(side.size)}, ${shortDate(side.modified)}` : '';

function ClashDialog({ request, onClose }: { request: RequestOf<'clashes'>; onClose: () => void }) {
  const { view, choose } = request;
  const pick = (choice: Parameters<typeof choose>[0]) => () => {
    onClose();
    choose(choice);
  };
  return (
    <Dialog open onClose={onClose} aria-labelledby="clash-title">
      <DialogTitle id="clash-title">
        {view.total === 1 ? 'A name is taken' : `${view.total} names are taken`} in “{view.into}”
      </DialogTitle>
      <DialogContent>
        <p>Nothing was moved or copied yet. What you choose holds for all of them, and can be undone.</p>
        <div className="rename-preview" role="region" aria-label="Names that are taken" tabIndex={0}>
          <table>
            <thead>
              <tr>
                <th scope="col">Name</th>
                <th scope="col">There</th>
                <th scope="col">Coming</th>
              </tr>
            </thead>
            <tbody>
              {view.clashes.map((c) => (
                <tr key={c.name}>
                  <td>{shown(c.name)}</td>
                  <td>{facts(c.there)}</td>
                  <td>{facts(c.coming)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </DialogContent>
      <DialogActions sx={{ px: 3, pb: 2 }}>
        <Button variant="outlined" onClick={onClose}>
          Cancel
        </Button>
        <Button variant="outlined" onClick={pick('skip')}>
          Skip {view.total === 1 ? 'it' : 'them'}
        </Button>
        <Button variant="outlined" className="grave-text" onClick={pick('replace')}>
          Replace what is there
        </Button>
        <Button variant="contained" autoFocus onClick={pick('keep-both')}>
          Keep both
        </Button>
      </DialogActions>
    </Dialog>
  );
}

export function FilingDialogs() {
  const { dialog } = useDialogs();
  const { closeDialog } = useWorkspaceActions();
  if (dialog?.kind === 'file-into') return <FileIntoDialog gathered={dialog.gathered} onClose={closeDialog} />;
  if (dialog?.kind === 'new-folder') return <NewFolderDialog request={dialog} onClose={closeDialog} />;
  if (dialog?.kind === 'rename-originals') return <RenameOriginals entries={dialog.entries} onClose={closeDialog} />;
  return dialog?.kind === 'clashes' ? <ClashDialog request={dialog} onClose={closeDialog} /> : null;
}
