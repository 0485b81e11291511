/**
 * Browsing for a file, a folder or a program instead of typing its path: where one may begin on the left, the way down
 * above, what lies there in the middle, and the path as a field below. Outside the places folders only; there a button
 * adds one.
 */
import { useEffect, useRef, useState, type KeyboardEvent } from 'react';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import type { ChooserEntry, ChooserStarts, OriginalRef, ProgramView } from '@rellin/contract';
import { nameOf, parentOf, shown } from '@rellin/core/paths';
import { formatBytes } from '@rellin/core/units';
import { get, post, ProblemError } from '../api/client';
import { usePrograms, useShortcuts } from '../api/queries';
import { useCommands } from '../workspace/useCommands';
import { shortDate } from './dates';
import { KindIcon } from './KindIcon';
import { PickList } from './PickList';
import { Picture } from './Picture';
import { asPictured } from './pictured';
import { PathField } from './PathField';
import { readOnce } from './readOnce';
import './Chooser.css';

export type Wanted = 'folder' | 'anything';

export interface ChooserProps {
  title: string;
  want: Wanted;
  /** Where it begins: what was typed so far; the home folder by default. */
  start?: string;
  /** A path, or the name of a program. */
  onChoose(chosen: string): void;
  onClose(): void;
}

/** Stands for the list of programs among the folders. */
const PROGRAMS = 'programs';

export function Chooser({ title, want, start = '', onChoose, onClose }: ChooserProps) {
  const starts = useQuery({ queryKey: ['choose', 'starts'], queryFn: () => get('/choose/starts') }).data;
  const [at, setAt] = useState(() => (/^[/~]/.test(start) ? start : '~/'));
  const [hidden, setHidden] = useState(false);
  const [marked, setMarked] = useState<ChooserEntry | undefined>();
  const [typed, setTyped] = useState<string | undefined>();
  const [naming, setNaming] = useState(false);
  const folder = useQuery({
    queryKey: ['choose', 'folder', at, hidden],
    queryFn: () => get('/choose/folder', { path: at, hidden }),
    enabled: at !== PROGRAMS,
    retry: false,
    placeholderData: (before) => before,
  });
  const view = at === PROGRAMS ? undefined : folder.data;
  const go = (path: string) => {
    setAt(path);
    setMarked(undefined);
    setTyped(undefined);
    // a name begun for one folder is not meant for the next
    setNaming(false);
  };
  const path = typed ?? marked?.path ?? view?.path ?? '';
  const canChoose = path !== '' && (want === 'anything' || marked === undefined || marked.type === 'folder');
  /** Enter in the path field goes into a folder (of files, one typed with a “/” behind), and chooses all else. */
  const enter = () => {
    const isFolder = want === 'folder' || path.endsWith('/') || (path === marked?.path && marked.type === 'folder');
    if (path === '') return;
    if (isFolder && path !== view?.path) go(path);
    else if (canChoose) onChoose(path);
  };
  const into =
    view?.placeId != null && view.folderId !== null ? { placeId: view.placeId, originalId: view.folderId } : undefined;
  return (
    <Dialog open onClose={onClose} aria-labelledby="chooser-title" maxWidth={false} className="chooser">
      <DialogTitle id="chooser-title">{title}</DialogTitle>
      <DialogContent className="chooser-body">
        <Starts starts={starts} at={view?.path ?? at} want={want} onGo={go} />
        <div className="chooser-main">
          {at === PROGRAMS ? (
            <Programs onChoose={onChoose} />
          ) : (
            <>
              <div className="chooser-head">
                <Trail trail={view?.trail ?? []} onGo={go} />
                {into && !naming && (
                  <Button size="small" onClick={() => setNaming(true)}>
                    New folder…
                  </Button>
                )}
              </div>
              {into && naming && (
                <NewFolder
                  into={into}
                  onMade={(made) => {
                    void folder.refetch();
                    go(made);
                  }}
                  onClose={() => setNaming(false)}
                />
              )}
              <Entries
                view={view}
                error={folder.error}
                want={want}
                onGo={go}
                onMark={(entry) => {
                  setMarked(entry);
                  setTyped(undefined);
                }}
                onChoose={onChoose}
                onAdded={() => void folder.refetch()}
              />
            </>
          )}
        </div>
      </DialogContent>
      <form
        className="chooser-path"
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          // the form that the chooser was opened from is not sent along
          event.stopPropagation();
          enter();
        }}
      >
        <PathField
          anyFolder={want === 'folder'}
          label="Path"
          help={want === 'folder' ? 'A folder: /… or ~/…' : 'A path: /… or ~/…'}
          value={path}
          onChange={(value) => value !== path && setTyped(value)}
        />
        <FormControlLabel
          control={<Checkbox size="small" checked={hidden} onChange={(e) => setHidden(e.target.checked)} />}
          label="Show hidden"
        />
      </form>
      <DialogActions sx={{ px: 3, pb: 2 }}>
        <Button variant="outlined" onClick={onClose}>
          Cancel
        </Button>
        <Button variant="contained" disabled={!canChoose} onClick={() => onChoose(path)}>
          {want === 'folder' ? `Choose ${folderName(path)}` : 'Choose'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

const folderName = (path: string) => `“${shown(nameOf(path.replace(/\/+$/, ''))) || '/'}”`;

function Starts({
  starts,
  at,
  want,
  onGo,
}: {
  starts: ChooserStarts | undefined;
  at: string;
  want: Wanted;
  onGo(path: string): void;
}) {
  const targets = (useShortcuts().data ?? []).filter((s) => s.kind === 'folder' && s.state === 'ready');
  const groups = [
    {
      title: 'This machine',
      items: (starts?.folders ?? []).map((f) => ({ path: f.path, name: f.origin === 'home' ? 'Home' : shown(f.name) })),
    },
    {
      title: 'Recent',
      items: namedApart(starts?.recent ?? []),
    },
    { title: 'Folder shortcuts', items: targets.map((s) => ({ path: s.location, name: s.name })) },
  ].filter((group) => group.items.length > 0);
  // of several that lead there the first is marked
  const here = groups.findIndex((group) => group.items.some((item) => item.path === at));
  return (
    <nav className="chooser-starts" aria-label="Where to begin">
      {want === 'anything' && (
        <button type="button" aria-current={at === PROGRAMS || undefined} onClick={() => onGo(PROGRAMS)}>
          Programs
        </button>
      )}
      {groups.map(({ title, items }, i) => (
        <div key={title} role="group" aria-label={title}>
          <h3>{title}</h3>
          {items.map(({ path, name }) => (
            <button
              key={path}
              type="button"
              title={shown(path)}
              aria-current={(i === here && path === at) || undefined}
              onClick={() => onGo(path)}
            >
              {name}
            </button>
          ))}
        </div>
      ))}
    </nav>
  );
}

/** Folders by their names; those of one name with the folder above as well. */
function namedApart(paths: readonly string[]) {
  const name = (path: string) => shown(nameOf(path)) || '/';
  const times = new Map<string, number>();
  for (const path of paths) times.set(name(path), (times.get(name(path)) ?? 0) + 1);
  return paths.map((path) => ({
    path,
    name: times.get(name(path))! > 1 ? `${name(path)} in ${name(parentOf(path))}` : name(path),
  }));
}

function Trail({ trail, onGo }: { trail: readonly { name: string; path: string }[]; onGo(path: string): void }) {
  const end = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    end.current?.scrollIntoView({ inline: 'end', block: 'nearest' });
  }, [trail]);
  return (
    <div className="chooser-trail" role="group" aria-label="The way down to it">
      {trail.map(({ name, path }, i) => (
        <button
          key={path}
          ref={i === trail.length - 1 ? end : undefined}
          type="button"
          aria-current={i === trail.length - 1 ? 'location' : undefined}
          onClick={() => onGo(path)}
        >
          {name}
        </button>
      ))}
    </div>
  );
}

interface EntriesProps {
  view: Awaited<ReturnType<typeof get<'/choose/folder'>>> | undefined;
  error: Error | null;
  want: Wanted;
  onGo(path: string): void;
  onMark(entry: ChooserEntry): void;
  onChoose(path: string): void;
  onAdded(): void;
}

function Entries({ view, error, want, onGo, onMark, onChoose, onAdded }: EntriesProps) {
  if (error) return <p className="chooser-none">{error.message}</p>;
  if (!view) return <p className="chooser-none small">Loading…</p>;
  const entries = want === 'folder' ? view.entries.filter((e) => e.type === 'folder') : view.entries;
  const enter = (entry: ChooserEntry) => (entry.type === 'folder' ? onGo(entry.path) : onChoose(entry.path));
  const up = (event: KeyboardEvent) => {
    if (event.key !== 'Backspace' && !(event.key === 'ArrowUp' && event.altKey)) return false;
    onGo(parentOf(view.path) || '/');
    return true;
  };
  return (
    <>
      {view.trouble !== null && <p className="small chooser-note">{view.trouble}</p>}
      <PickList
        // a folder begins at its top
        key={view.path}
        label={shown(view.path)}
        items={entries}
        keyOf={(entry) => entry.path}
        nameOf={(entry) => entry.name}
        onMark={onMark}
        onEnter={enter}
        onKey={up}
        empty={want === 'folder' ? 'No folder lies in it.' : 'It is empty.'}
      >
        {(entry) => (
          <>
            <KindIcon kind={entry.kind} />
            <span className="name cut">{shown(entry.name)}</span>
            <span className="small">
              {entry.type === 'file' && entry.size !== null && formatBytes(entry.size)}
              {entry.type === 'file' && entry.modified !== null && ` · ${shortDate(entry.modified)}`}
            </span>
          </>
        )}
      </PickList>
      {view.more > 0 && <p className="small chooser-note">{view.more.toLocaleString('en-GB')} more are not listed.</p>}
      {view.placeId === null && view.trouble === null && want === 'anything' && (
        <Outside path={view.path} onAdded={onAdded} />
      )}
    </>
  );
}

/** Why there are no files, and what helps. */
function Outside({ path, onAdded }: { path: string; onAdded(): void }) {
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState('');
  const add = async () => {
    setBusy(true);
    try {
      const place = await post('/places', { root: path });
      await readOnce(place.id);
      onAdded();
    } catch (failed) {
      if (!(failed instanceof ProblemError)) throw failed;
      setWrong(failed.message);
    } finally {
      setBusy(false);
    }
  };
  return (
    <p className="small chooser-note" role="status">
      Rellin does not look into this folder, so its files are not shown.{' '}
      <Button size="small" disabled={busy} onClick={() => void add()}>
        {busy ? 'Looking through it…' : 'Add this folder'}
      </Button>{' '}
      {wrong}
    </p>
  );
}

function Programs({ onChoose }: { onChoose(name: string): void }) {
  const programs = usePrograms().data ?? [];
  return (
    <PickList
      label="Programs"
      items={programs}
      keyOf={(program: ProgramView) => program.id}
      nameOf={(program) => program.name}
      onMark={() => undefined}
      onEnter={(program) => onChoose(program.name)}
      empty="No program is installed."
    >
      {(program) => (
        <>
          <Picture of={asPictured(program.id)} size={20} />
          <span className="name cut">{program.name}</span>
          <span className="small cut">{program.comment || program.genericName}</span>
        </>
      )}
    </PickList>
  );
}

/** A folder made where one is: an act with its undo, as every other. */
function NewFolder({ into, onMade, onClose }: { into: OriginalRef; onMade(path: string): void; onClose(): void }) {
  const [name, setName] = useState('');
  const [wrong, setWrong] = useState<string>();
  const d = useCommands();
  const make = async () => {
    const path = await d.newFolder(into, name, (refused) => setWrong(refused.message));
    if (path !== undefined) onMade(path);
  };
  return (
    <form
      className="chooser-new"
      onSubmit={(event) => {
        event.preventDefault();
        event.stopPropagation();
        void make();
      }}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        onClose();
      }}
    >
      <TextField
        label="Name of the new folder"
        size="small"
        fullWidth
        autoFocus
        value={name}
        onChange={(event) => {
          setName(event.target.value);
          setWrong(undefined);
        }}
        error={wrong !== undefined}
        helperText={wrong}
      />
      <Button type="submit" variant="outlined" disabled={name.trim() === ''}>
        Make folder
      </Button>
      <Button onClick={onClose}>Cancel</Button>
    </form>
  );
}
