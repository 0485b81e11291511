/**
 * Renders a part of the page inside its providers, with a server that answers from a table and remembers what it was
 * asked.
 */
import { act, render } from '@testing-library/react';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { ThemeProvider } from '@mui/material/styles';
import { MemoryRouter, useLocation } from 'react-router';
import {
  CHANGED_HEADER,
  type CollectionView,
  type EntryView,
  type OpeningResult,
  type PinView,
  type ReachView,
  type SettingsView,
  type ShortcutView,
  type Topic,
} from '@rellin/contract';
import { FEATURES } from '../features';
import { FeaturesContext } from '../workspace/feature';
import { WorkspaceProvider, useDialogs, useSelection } from '../workspace/workspace';
import { DragLayer } from '../frame/DragLayer';
import { Notices } from '../frame/Notices';
import { themeFor } from '../theme/theme';

export interface Asked {
  method: string;
  path: string;
  body: unknown;
}

/** An answer by "METHOD /path"; a function is given what was asked. `Refusal` makes it a problem. */
export type Answers = Record<string, unknown>;

export class Refusal {
  constructor(
    readonly kind: string,
    readonly detail: string,
    readonly status = 409,
  ) {}
}

/** Letters run at once here: what waits is tested by itself. */
export const SETTINGS: SettingsView = {
  pinLimit: 9,
  pinWorth: 1,
  showHidden: false,
  letterKeys: 'at-once',
  keyMap: {},
  appearance: 'light',
  halfLifeDays: 14,
  startView: 'reach',
  startFolder: null,
  openWith: {},
  catalogueColumns: [],
  catalogueShape: 'table',
  listShapes: {},
  reachConstants: {},
  coming: 'here',
  recording: true,
  recentFiles: true,
  contentKinds: ['text'],
  contentLimit: 8_000_000,
  setUp: 'done',
};

const BASE: Answers = {
  'GET /shortcuts': [],
  'GET /shortcuts?from=bin': [],
  'GET /pins': [],
  'GET /collections': [],
  'GET /collections?from=bin': [],
  'GET /boards': [],
  'GET /boards?from=bin': [],
  'GET /tags': [],
  'GET /searches': [],
  'GET /searches?from=bin': [],
  'GET /places': [],
  'GET /sweeps': [],
  'GET /sweeps/log': [],
  'POST /belongs': [],
  'GET /check-up': {
    checkedAt: null,
    nextAt: '2026-05-03T12:00:00Z',
    among: 0,
    folderMoves: [],
    needs: [],
    leftAlone: [],
  },
  'GET /check-up/review': [],
  'GET /activity': [],
  'GET /programs': [],
  'GET /quick-filters': [],
  'GET /settings': SETTINGS,

  'GET /openings?limit=30': [],
  'GET /reach/likely': {
    at: '2026-11-24T08:00:00',
    part: 1,
    after: null,
    use: 'model',
    hit5: { model: 0.6, recent: 0.4, frequent: 0.5 },
    tested: 100,
    mixture: { rate: 0.4, part: 0.3, after: 0.3 },
    items: [],
  },
};

function Where() {
  const { pathname, search } = useLocation();
  return <output data-testid="where">{pathname + search}</output>;
}

function Chosen() {
  const { selected } = useSelection();
  const { dialog } = useDialogs();
  return (
    <>
      <output data-testid="selected">{selected ? `${selected.type} ${selected.id}` : ''}</output>
      <output data-testid="dialog">{dialog?.kind ?? ''}</output>
    </>
  );
}

export async function renderPage(ui: React.ReactNode, answers: Answers = {}, at = '/') {
  const table = { ...BASE, ...answers };
  const asked: Asked[] = [];
  globalThis.fetch = (async (address: string, init: RequestInit = {}) => {
    const path = String(address).replace(/^\/api/, '');
    const method = init.method ?? 'GET';
    const body =
      init.body instanceof Blob ? init.body : init.body ? (JSON.parse(String(init.body)) as unknown) : undefined;
    const request = { method, path, body };
    asked.push(request);
    const entry = table[`${method} ${path}`] ?? table[`${method} ${path.split('?')[0]}`];
    // a promise is an answer that takes its time
    const answer = await (typeof entry === 'function' ? (entry as (a: Asked) => unknown)(request) : entry);
    if (answer instanceof Refusal)
      return reply(answer.status, { type: `urn:rellin:problem:${answer.kind}`, detail: answer.detail });
    if (answer === undefined && method === 'GET')
      return reply(404, { type: 'urn:rellin:problem:not-found', detail: path });
    // a question by POST changes nothing
    const isChange = method !== 'GET' && !/^\/(searches\/ask|originals\/locate)/.test(path);
    return reply(answer === undefined ? 204 : 200, answer, isChange);
  }) as typeof fetch;
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const screen = render(
    <QueryClientProvider client={client}>
      <ThemeProvider theme={themeFor('light')}>
        <MemoryRouter initialEntries={[at]}>
          <FeaturesContext value={FEATURES}>
            <WorkspaceProvider>
              <DragLayer>{ui}</DragLayer>
              <Notices />
              <Chosen />
            </WorkspaceProvider>
          </FeaturesContext>
          <Where />
        </MemoryRouter>
      </ThemeProvider>
    </QueryClientProvider>,
  );
  // the first answers arrive, and are told to the page a moment later, before anything is asked of it
  const moment = () => new Promise((resolve) => setTimeout(resolve, 0));
  await act(async () => {
    do {
      await moment();
      await moment();
    } while (client.isFetching() > 0);
    await moment();
  });
  return { ...screen, asked, client, sent: (method: string) => asked.filter((a) => a.method === method) };
}

const ALL_TOPICS: Topic[] = [
  ...(['shortcuts', 'pins', 'places', 'originals', 'journal', 'activity', 'settings', 'programs', 'openings'] as const),
  ...([
    'collections',
    'boards',
    'tags',
    'quick-filters',
    'searches',
    'check-up',
    'aliases',
    'plan',
    'find',
    'deleted',
  ] as const),
];

/** A change is said to have touched everything: which lists hang on what is the server's to say. */
function reply(status: number, data: unknown, isChange = false) {
  return {
    headers: new Headers(isChange ? { [CHANGED_HEADER]: ALL_TOPICS.join(' ') } : {}),
    ok: status < 400,
    status,
    json: async () => data,
    text: async () => String(data),
  } as Response;
}

const route = (kind: 'pin-key' | 'find' | 'folders', steps: number, seconds: number) => ({
  kind,
  steps,
  seconds,
  operators: [
    { label: 'M', seconds: 1.35 },
    { label: 'K', seconds: seconds - 1.35 },
  ],
});

export const aReach = (): ReachView => ({
  best: route('find', 3, 2.9),
  folderRoute: route('folders', 6, 11.5),
  routes: [route('find', 3, 2.9), route('folders', 6, 11.5)],
});

export function aShortcut(more: Partial<ShortcutView> & { id: string; name: string }): ShortcutView {
  return {
    description: '',
    alsoCalled: [],
    keys: null,
    picture: '',
    openWith: null,
    collections: [],
    tags: [],
    target: 'original',
    kind: 'table',
    state: 'ready',
    stateReason: '',
    followedFrom: null,
    leftAlone: false,
    stateSince: '2026-11-01T08:00:00Z',
    placeId: 1,
    originalId: 7,
    location: `/home/wren/${more.name}.csv`,
    trail: ['Marrowick', 'Records'],
    size: 1200,
    modified: Date.UTC(2026, 10, 20),
    addedAt: '2026-10-01T08:00:00Z',
    removedAt: null,
    weight: 1,
    perWeek: 0.5,
    lastOpenedAt: null,
    pinSlot: null,
    reach: aReach(),
    ...more,
  };
}

/** An original as a folder lists it: a table of 1,200 bytes. */
export const anEntry = (id: number, name: string, more: Partial<EntryView> = {}): EntryView => ({
  id,
  placeId: 1,
  name,
  type: 'file',
  kind: 'table',
  mime: 'text/csv',
  size: 1200,
  modified: Date.UTC(2026, 10, 3),
  children: null,
  shortcut: null,
  tags: [],
  ...more,
});

export const aPin = (slot: number, shortcut: ShortcutView): PinView => ({
  id: `pin-${slot}`,
  target: 'shortcut',
  targetId: shortcut.id,
  slot,
  key: slot <= 9 ? String(slot) : null,
  name: shortcut.name,
  kind: shortcut.kind,
  state: shortcut.state,
  count: null,
  fresh: 0,
  colour: '',
  aside: false,
  kept: false,
});

export function aCollection(more: Partial<CollectionView> & { id: string; name: string }): CollectionView {
  return {
    description: '',
    type: 'plain',
    colour: '',
    picture: '',
    sortBy: 'own',
    showAs: 'auto',
    mirror: null,
    until: null,
    lastMembers: 0,
    keys: null,
    count: 0,
    parents: [],
    pinned: false,
    revision: 1,
    addedAt: '2026-10-01T08:00:00Z',
    removedAt: null,
    ...more,
  };
}

/** What an opening is answered with, by the system's opener. */
export const OPENED: OpeningResult = {
  openingId: 'o',
  name: 'x',
  how: 'system',
  argv: [],
  pending: false,
  preview: null,
  notice: null,
};
