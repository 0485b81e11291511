/** The first steps: which folders, what is used already, how somebody works; one press makes all of it. */
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import Button from '@mui/material/Button';
import { useQueries, useQuery } from '@tanstack/react-query';
import type {
  FolderCount,
  OfferedFolder,
  SetUpDone,
  SetUpView as View,
  UsedThing,
  WayOfWorking,
} from '@rellin/contract';
import { isWithin, shown } from '@rellin/core/paths';
import { kindWord } from '@rellin/core/kinds';
import { get, patch, post } from '../api/client';
import { useShortcuts } from '../api/queries';
import { CheckList } from '../parts/CheckList';
import { KindIcon } from '../parts/KindIcon';
import { Loaded } from '../parts/Loaded';
import { ViewHead } from '../parts/Roving';
import { useCommands } from '../workspace/useCommands';
import { ExampleLine } from './ExampleLine';
import { useChoices, type Choices, type Offer } from './useChoices';
import { WayPicture } from './WayPicture';
import './setUp.css';

export default function SetUpView() {
  const found = useQuery({
    queryKey: ['set-up'],
    queryFn: () => get('/set-up'),
    // what was found stays while somebody chooses among it
    staleTime: Infinity,
    gcTime: 0,
    refetchOnWindowFocus: false,
  });
  return (
    <main className="view set-up fills" id="view">
      <ViewHead>
        <h1>Begin with what is there</h1>
        <span className="small">Your files stay where they are; Rellin keeps the way to them.</span>
      </ViewHead>
      <Loaded of={found} what="What is on this machine">
        {(view) => <Chooser view={view} />}
      </Loaded>
    </main>
  );
}

function Chooser({ view }: { view: View }) {
  const choices = useChoices(view);
  const [way, setWay] = useState<WayOfWorking>('rows');
  const [busy, setBusy] = useState(false);
  const d = useCommands();
  const navigate = useNavigate();
  const { folders, things, addresses } = choices;
  const count = things.length + addresses.length;
  const begin = async () => {
    setBusy(true);
    await d.attempt(async () => {
      const done = await post('/set-up', { folders, things, addresses, way });
      await d.done(doneWords(done));
      void navigate(done.boardId ? `/boards/${done.boardId}` : '/reach');
    });
    setBusy(false);
  };
  const skip = () =>
    d.attempt(async () => {
      await patch('/settings', { setUp: 'skipped' });
      void navigate('/reach');
    });
  return (
    <>
      {view.trouble.length > 0 && (
        <p className="small trouble" role="status">
          {view.trouble.join(' ')}
        </p>
      )}
      <div className="set-up-columns">
        <div className="set-up-column">
          <Folders view={view} choices={choices} />
          <Way way={way} onWay={setWay} />
        </div>
        <Used home={view.home} choices={choices} />
      </div>
      <div className="set-up-foot">
        <ExampleLine />
        <span className="push small" role="status">
          {folders.length === 1 ? '1 folder' : `${folders.length} folders`}, {count} {count === 1 ? 'thing' : 'things'}
        </span>
        <Button variant="outlined" onClick={() => void skip()}>
          Skip
        </Button>
        <Button variant="contained" onClick={() => void begin()} disabled={busy || folders.length + count === 0}>
          Set up
        </Button>
      </div>
    </>
  );
}

const ORIGIN_WORDS: Record<OfferedFolder['origin'], string> = {
  standard: '',
  home: 'your whole home folder · ',
  drive: 'a drive · ',
  share: 'a share · ',
  used: 'you use what lies in it · ',
};

function countWords(count: FolderCount | undefined): string {
  if (!count) return '…';
  if (count.trouble !== null) return count.trouble;
  const n = count.entries.toLocaleString('en-GB');
  return count.isAll ? `${n} ${count.entries === 1 ? 'entry' : 'entries'}` : `more than ${n} entries`;
}

function Folders({ view, choices }: { view: View; choices: Choices }) {
  const counts = useQueries({
    queries: view.folders.map(({ path }) => ({
      queryKey: ['set-up', 'count', path],
      queryFn: () => get('/set-up/count', { path }),
      staleTime: Infinity,
      retry: false,
    })),
  });
  const indexOf = new Map(view.folders.map((folder, i) => [folder, i]));
  return (
    <section aria-labelledby="set-up-folders">
      <h2 id="set-up-folders">Which folders?</h2>
      <CheckList
        label="Folders that Rellin may look into"
        items={view.folders}
        keyOf={(folder) => folder.path}
        nameOf={(folder) => folder.name}
        isChecked={choices.isFolderChosen}
        onToggle={choices.toggleFolder}
        disabled={choices.whyNot}
      >
        {(folder) => (
          <>
            <span className="set-up-text">
              <b className="cut">{shown(folder.name)}</b>
              <span className="small cut" title={shown(folder.path)}>
                {folder.placeId !== null && 'added already · '}
                {ORIGIN_WORDS[folder.origin]}
                {fromHome(folder.path, view.home)}
              </span>
            </span>
            <span className="small set-up-count">{countWords(counts[indexOf.get(folder)!]?.data)}</span>
          </>
        )}
      </CheckList>
    </section>
  );
}

const SOURCE_WORDS: Record<Exclude<UsedThing['sources'][number], 'recent'>, string> = {
  desktop: 'on your desktop',
  bookmark: 'bookmarked in file dialogs',
  program: 'opens files of yours',
};

const rateWords = (perWeek: number) =>
  perWeek >= 1.5
    ? `opened about ${Math.round(perWeek)} times a week`
    : `opened ${perWeek >= 0.7 ? 'about once a week' : 'now and then'}`;

function sourceWords(offer: Offer): string {
  if (offer.from === 'file') return 'in the file of bookmarks';
  const { sources, perWeek } = offer.thing;
  return sources.map((source) => (source === 'recent' ? rateWords(perWeek) : SOURCE_WORDS[source])).join(', ');
}

const placeOf = (offer: Offer, home: string) =>
  offer.from === 'file' ? offer.url : fromHome(offer.thing.location, home) || 'an installed program';

/** As one says it: from the home folder. */
const fromHome = (path: string, home: string) =>
  shown(isWithin(home, path) && path !== home ? `~${path.slice(home.length)}` : path);

function Used({ home, choices }: { home: string; choices: Choices }) {
  const file = useRef<HTMLInputElement>(null);
  const [said, setSaid] = useState('');
  const hasShortcuts = (useShortcuts().data ?? []).length > 0;
  const read = async (chosen: File | undefined) => {
    if (!chosen) return;
    const found = choices.takeBookmarks(await chosen.text());
    setSaid(found ? '' : `There is no web address in ${chosen.name}.`);
  };
  return (
    <section className="set-up-column" aria-labelledby="set-up-used">
      <div className="set-up-head">
        <h2 id="set-up-used">What do you use already?</h2>
        <span className="push" />
        {choices.offers.length > 0 && (
          <>
            <Button size="small" onClick={() => choices.chooseAll(true)}>
              All
            </Button>
            <Button size="small" onClick={() => choices.chooseAll(false)}>
              None
            </Button>
          </>
        )}
        <Button size="small" onClick={() => file.current?.click()}>
          Add a bookmarks file…
        </Button>
        <input
          ref={file}
          type="file"
          accept=".html,.htm,text/html"
          hidden
          aria-label="A file of bookmarks"
          onChange={(event) => {
            void read(event.target.files?.[0]);
            event.target.value = '';
          }}
        />
      </div>
      {said && (
        <p className="small trouble" role="status">
          {said}
        </p>
      )}
      {choices.offers.length === 0 ? (
        <p className="set-up-none sheet">
          {hasShortcuts
            ? 'Nothing more was found: what you use has its shortcuts already. '
            : 'No traces of use were found on this machine. Choose folders on the left. '}
          More shortcuts are made by hand in Originals, each with one key (<b>N</b>).
        </p>
      ) : (
        <CheckList
          label="Things that you use"
          items={choices.offers}
          keyOf={(offer) => offer.key}
          nameOf={(offer) => offer.name}
          isChecked={choices.isChosen}
          onToggle={choices.toggle}
        >
          {(offer) => (
            <>
              <KindIcon kind={offer.from === 'file' ? 'web' : offer.thing.kind} />
              <span className="set-up-text">
                <b className="cut">{shown(offer.name)}</b>
                <span className="small cut" title={placeOf(offer, home)}>
                  {offer.from === 'machine' && offer.thing.kind !== 'program' && `${kindWord(offer.thing.kind)} · `}
                  {placeOf(offer, home)}
                </span>
              </span>
              <span className="small cut set-up-source" title={sourceWords(offer)}>
                {sourceWords(offer)}
              </span>
            </>
          )}
        </CheckList>
      )}
    </section>
  );
}

const WAYS: { way: WayOfWorking; title: string; text: string }[] = [
  { way: 'rows', title: 'In rows', text: 'A strip of pins in strict order, and lists' },
  { way: 'board', title: 'On a board', text: 'Things laid out by task, where you put them' },
];

function Way({ way, onWay }: { way: WayOfWorking; onWay(way: WayOfWorking): void }) {
  return (
    <fieldset className="set-up-ways">
      <legend>
        <h2>How do you work?</h2>
      </legend>
      {WAYS.map((one) => (
        <label key={one.way} className={`set-up-way sheet ${one.way === way ? 'chosen' : ''}`}>
          <input type="radio" name="way" checked={one.way === way} onChange={() => onWay(one.way)} />
          <WayPicture way={one.way} />
          <b>{one.title}</b>
          <span className="small">{one.text}</span>
        </label>
      ))}
    </fieldset>
  );
}

const counted = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`;

/** What was made, and what was not and why. */
function doneWords({ places, shortcuts, pins, notMade }: SetUpDone): string {
  const made = `Set up: ${counted(places, 'folder')}, ${counted(shortcuts, 'shortcut')}, ${counted(pins, 'pin')}`;
  const left = notMade.map(({ name, reason }) => `${shown(name)} (${reason})`);
  return left.length === 0 ? made : `${made}. Left out: ${left.join('; ')}`;
}
