/** The catalogue that a volunteer at Marrowick Head would have, with twelve weeks of openings. */
import { seeded } from '@rellin/core/random';

export interface SeedShortcut {
  name: string;
  /** Path below one of the demo's roots, a web address or a program's id. */
  target: { root: 'marrowick' | 'fieldDrive' | 'stationShare'; path: string } | { url: string } | { programId: string };
  description: string;
  pin: boolean;
  /** Openings a week, on average. */
  perWeek: number;
  /** Hours of the day at which it is opened. */
  hours: [number, number];
}

const m = (path: string) => ({ root: 'marrowick' as const, path });

export function catalogue(year: number, month: string): SeedShortcut[] {
  const rows: [string, SeedShortcut['target'], number, [number, number], boolean, string?][] = [
    [
      'Ringing log',
      m(`Ringing/${year}/Logs/ringing-log-${year}.csv`),
      9.3,
      [6, 11],
      true,
      'The season’s log. Enter each round before lunch.',
    ],
    [
      'Tide table',
      m(`Records/Tides/${year}/tides-${month}-${year}.csv`),
      6.1,
      [5, 9],
      true,
      'This month’s tides; the slipway wants 1.9 m.',
    ],
    ['Grant draft', m(`Office/Grants/Coastal fund ${year}/Grant draft 4.odt`), 4.2, [13, 18], true],
    [
      'Weather record',
      m(
        `Records/Weather/${year}/weather-${year}-${String(new Date(`${month} 1, ${year}`).getMonth() + 1).padStart(2, '0')}.csv`,
      ),
      5.4,
      [7, 10],
      true,
      'Filled in daily before ten.',
    ],
    ['Wavescope takes', { root: 'fieldDrive', path: 'Sound/Takes' }, 3.1, [14, 20], true],
    ['Tideplotter', { programId: 'tideplotter.desktop' }, 3.2, [5, 9], false],
    ['Net positions', m(`Ringing/${year}/Site/Maps/net-positions.png`), 2.6, [6, 10], false],
    ['Sightings board', m('Records/Sightings board.md'), 4.8, [18, 21], false],
    ['Volunteer rota', m(`Office/Rota/${year}/rota.csv`), 2.4, [8, 18], false],
    ['Slipway checklist', m('Boat/Safety/Slipway checklist.md'), 1.9, [5, 9], false],
    ['Engine hours', m('Boat/Engine/engine-hours.csv'), 1.6, [9, 17], false],
    ['Boat manual', m('Boat/Engine/Boat manual.pdf'), 0.4, [9, 17], false],
    ['Moth trap form', m('Moths/Forms/moth-form.odt'), 0.8, [7, 9], false],
    ['Chart of the headland', m('Survey/Maps/Chart of the headland.png'), 2.0, [8, 17], false],
    ['Recording manual', m(`Ringing/${year}/Recording manual.pdf`), 0.7, [8, 17], false],
    ['Season plan', m(`Ringing/${year}/season plan.odt`), 0.3, [8, 17], false],
    ['Ring stock', m(`Ringing/${year}/ring-stock-${year}.csv`), 1.2, [8, 12], false],
    ['Notes for trainees', m(`Ringing/${year}/notes for trainees.md`), 0.6, [8, 17], false],
    ['Logs, this year', m(`Ringing/${year}/Logs`), 1.4, [8, 17], false],
    ['Photographs', m(`Survey/Photographs/${year}`), 1.7, [12, 20], false],
    ['Moth records', m(`Moths/Records/${year}`), 1.0, [7, 10], false],
    ['Grant attachments', m(`Office/Grants/Coastal fund ${year}/Attachments`), 1.3, [13, 18], false],
    ['Grant budget', m(`Office/Grants/Coastal fund ${year}/budget.csv`), 0.9, [13, 18], false],
    ['Newsletter drafts', m(`Office/Newsletter/${year}`), 1.1, [15, 20], false],
    ['North cliff recordings', m('Sound/North cliff'), 1.5, [14, 20], false],
    ['Species codes', m('Records/Species codes.csv'), 0.5, [8, 17], false],
    ['Reserve by-laws', m('Office/Reserve by-laws.pdf'), 0.1, [8, 17], false],
    ['Flares', m('Boat/Safety/flares.csv'), 0.1, [8, 17], false],
    ['Boat papers', m('Boat/Papers'), 0.4, [8, 17], false],
    ['Tracks', m('Survey/Maps/Tracks'), 0.6, [8, 17], false],
    ['Photo archive', { root: 'stationShare', path: 'Photo archive' }, 1.7, [12, 20], false],
    ['Annual reports', { root: 'stationShare', path: 'Annual reports' }, 0.3, [12, 20], false],
    ['Shared rota', { root: 'stationShare', path: 'Shared rota.csv' }, 1.1, [8, 18], false],
    ['Walks', { root: 'fieldDrive', path: `Tracks/${year}` }, 0.5, [12, 20], false],
    ['Wavescope', { programId: 'wavescope.desktop' }, 2.2, [14, 20], false],
    ['Ringbook', { programId: 'ringbook.desktop' }, 2.9, [6, 11], false],
    ['Chartroom', { programId: 'chartroom.desktop' }, 0.8, [8, 17], false],
    ['Sheet Anchor', { programId: 'sheetanchor.desktop' }, 1.6, [8, 18], false],
    ['Galley Proof', { programId: 'galleyproof.desktop' }, 0.7, [15, 20], false],
    ['Shipping forecast', { url: 'https://forecast.marrowick.example/shipping' }, 3.4, [5, 9], false],
    ['Ring orders', { url: 'https://rings.example/orders' }, 0.3, [8, 17], false],
    ['Code list', { url: 'https://codes.example/species?list=coast' }, 0.6, [8, 17], false],
    ['Write to the warden', { url: 'mailto:warden@marrowick.example' }, 0.5, [8, 18], false],
  ];
  return rows.map(([name, target, perWeek, hours, pin, description = '']) => ({
    name,
    target,
    perWeek,
    hours,
    pin,
    description,
  }));
}

/** What is opened right after what, and how often of ten times: the habits of a volunteer. */
const FOLLOWS: Record<string, [string, number]> = {
  'Net positions': ['Tide table', 4],
  'Slipway checklist': ['Tide table', 3],
  'Ring stock': ['Ringing log', 1],
  Ringbook: ['Ringing log', 3],
  'Grant budget': ['Grant draft', 2],
  'North cliff recordings': ['Wavescope takes', 4],
};

/** Openings over twelve weeks as epoch milliseconds, a Poisson stream at the item's hours; oldest first. */
export function openingsOf(item: SeedShortcut, index: number, seed: number, today: Date): number[] {
  const habit = FOLLOWS[item.name];
  if (habit) return followersOf(habit, index, seed, today);
  const random = seeded(seed * 1000 + index);
  const out: number[] = [];
  const [from, to] = item.hours;
  for (let day = 84; day >= 1; day--) {
    const midnight = today.getTime() - day * 86_400_000;
    for (let p = random.next(), k = Math.exp(-item.perWeek / 7); p > k; p *= random.next())
      out.push(midnight + (from + (to - from) * random.next()) * 3_600_000);
  }
  return out.map(Math.round).sort((a, b) => a - b);
}

/** As file names have it: "nov". */
export const monthOf = (today: Date): string =>
  today.toLocaleString('en', { month: 'short', timeZone: 'UTC' }).toLowerCase();

/** A few minutes after each such opening of what it follows. */
function followersOf([first, often]: [string, number], index: number, seed: number, today: Date): number[] {
  const random = seeded(seed * 1000 + index);
  const all = catalogue(today.getUTCFullYear(), monthOf(today));
  const at = all.findIndex((row) => row.name === first);
  return openingsOf(all[at]!, at, seed, today)
    .filter(() => random.int(1, 10) <= often)
    .map((time) => time + random.int(30, 240) * 1000);
}

/** What has no shortcut yet and was opened all the same, over the last two weeks: last month's weather. */
export function openedWithoutShortcut(today: Date): { path: string; openings: number[] }[] {
  const last = new Date(Date.UTC(today.getUTCFullYear(), today.getUTCMonth() - 1, 1));
  const month = last.toISOString().slice(0, 7);
  const openings = [13, 12, 10, 9, 7, 5, 4, 3, 2].map((day) => today.getTime() - day * 86_400_000 + 8.5 * 3_600_000);
  return [{ path: `Records/Weather/${month.slice(0, 4)}/weather-${month}.csv`, openings }];
}

/** Tags, other names and what goes with what, by the names of the catalogue. */
export const MORE: Record<string, { tags?: string[]; alsoCalled?: string[]; goesWith?: string[]; picture?: string }> = {
  'Ringing log': { tags: ['field work', 'ringing'], goesWith: ['Recording manual', 'Code list'] },
  'Net positions': { tags: ['field work', 'ringing'] },
  'Ring stock': { tags: ['ringing'] },
  'Recording manual': { tags: ['ringing'] },
  'Tide table': { tags: ['field work', 'boat'], alsoCalled: ['high water'], picture: 'icon:waves' },
  'Slipway checklist': { picture: 'icon:checklist', tags: ['boat'], goesWith: ['Tide table', 'Flares'] },
  'Engine hours': { tags: ['boat'], alsoCalled: ['motor log'] },
  'Boat manual': { tags: ['boat'] },
  Flares: { tags: ['boat'] },
  'Boat papers': { tags: ['boat'] },
  'Weather record': { tags: ['field work'], picture: 'icon:thunderstorm' },
  'Chart of the headland': { picture: 'thumbnail' },
  'Write to the warden': { picture: 'icon:mail' },
  'Moth trap form': { tags: ['field work', 'moths'] },
  'Moth records': { tags: ['moths'] },
  'Grant draft': { tags: ['money'], goesWith: ['Grant budget', 'Grant attachments'] },
  'Grant budget': { tags: ['money'] },
};

export interface SeedCollection {
  name: string;
  type?: 'plain' | 'mirror' | 'working-set';
  description?: string;
  colour?: string;
  picture?: string;
  pin?: boolean;
  slot?: number;
  members?: string[];
  /** For a mirror: a folder below the observatory's own place. */
  folder?: string;
  untilTonight?: boolean;
}

export function collections(year: number): SeedCollection[] {
  return [
    {
      name: 'Ringing season',
      colour: 'spruce',
      description: 'Everything for the nets, from the first round to the ring orders.',
      members: [
        'Ringing log',
        'Net positions',
        'Ring stock',
        'Season plan',
        'Recording manual',
        'Notes for trainees',
        'Ringbook',
        'Ring orders',
        'Logs, this year',
      ],
    },
    {
      name: 'Slipway',
      colour: 'tide',
      members: ['Tide table', 'Slipway checklist', 'Flares', 'Shipping forecast'],
    },
    {
      name: 'Boat',
      colour: 'tide',
      picture: 'icon:sailing',
      members: ['Engine hours', 'Boat manual', 'Boat papers', 'Slipway'],
    },
    {
      name: 'Filing targets',
      colour: 'gorse',
      description: 'Folders that things are filed into.',
      pin: true,
      slot: 5,
      members: [
        'Logs, this year',
        'Photographs',
        'Newsletter drafts',
        'Grant attachments',
        'Boat papers',
        'Photo archive',
        'Moth records',
      ],
    },
    {
      name: 'Tools',
      colour: 'slate',
      pin: true,
      slot: 7,
      members: ['Tideplotter', 'Wavescope', 'Ringbook', 'Chartroom', 'Sheet Anchor', 'Galley Proof'],
    },
    {
      name: 'Coastal fund',
      colour: 'heather',
      members: ['Grant draft', 'Grant budget', 'Grant attachments', 'Annual reports'],
    },
    {
      name: 'Today',
      type: 'working-set',
      colour: 'saffron',
      untilTonight: true,
      pin: true,
      slot: 3,
      members: ['Net positions', 'Volunteer rota', 'Moth trap form', 'Slipway checklist', 'Sightings board'],
    },
    { name: 'Newsletter folder', type: 'mirror', colour: 'peat', folder: `Office/Newsletter/${year}` },
  ];
}

export interface SeedBoard {
  name: string;
  regions: {
    name: string;
    order: 'free' | 'own' | 'name';
    /** Names of shortcuts; in a free region with the cell each lies in. */
    items: (string | [string, number, number])[];
    bundle?: { name: string; items: string[]; x: number; y: number };
  }[];
}

/** Planes on which a volunteer laid things out; Boards opens with the first. */
export const BOARDS: SeedBoard[] = [
  {
    name: 'Net round',
    regions: [
      {
        name: 'Before dawn',
        order: 'own',
        items: [
          'Tide table',
          'Weather record',
          'Net positions',
          'Shipping forecast',
          'Slipway checklist',
          'Tideplotter',
          'Volunteer rota',
        ],
      },
      {
        name: 'At the nets',
        order: 'name',
        items: ['Ringing log', 'Ring stock', 'Recording manual', 'Code list', 'Ringbook'],
      },
      {
        name: 'Afterwards',
        order: 'free',
        items: [
          ['Sightings board', 0, 0],
          ['Wavescope takes', 2, 0],
          ['Moth trap form', 2, 1],
          ['Newsletter drafts', 1, 3],
        ],
        bundle: {
          name: 'Survey',
          items: ['Photographs', 'Photo archive', 'Chart of the headland', 'Tracks', 'Walks'],
          x: 0,
          y: 1,
        },
      },
    ],
  },
  {
    name: 'Moths',
    regions: [
      { name: 'Trap', order: 'own', items: ['Moth trap form', 'Moth records', 'Weather record'] },
      { name: 'Look it up', order: 'name', items: ['Species codes', 'Code list'] },
    ],
  },
  {
    name: 'Winter works',
    regions: [
      { name: 'Boat', order: 'own', items: ['Engine hours', 'Boat manual', 'Boat papers', 'Flares'] },
      {
        name: 'Grant',
        order: 'free',
        items: [
          ['Grant draft', 0, 0],
          ['Grant budget', 0, 1],
          ['Grant attachments', 1, 0],
          ['Annual reports', 2, 1],
        ],
      },
    ],
  },
];

export interface SeedSearch {
  name: string;
  query: string;
  description?: string;
  colour?: string;
  showAs?: string;
  sortBy?: string;
  descending?: boolean;
}

/** What the volunteers ask again and again. */
export const searches = (year: number): SeedSearch[] => [
  {
    name: 'North cliff since May',
    query: `kind:sound in:"North cliff" modified>=${year}-05`,
    description: 'Recordings of this season, to be gone through before the winter.',
    colour: 'tide',
    showAs: 'by-month',
    sortBy: 'modified',
    descending: true,
  },
  {
    name: 'Logs of the last four weeks',
    query: '*.csv in:Logs modified:28d',
    colour: 'spruce',
    sortBy: 'modified',
    descending: true,
  },
  { name: 'Speaks of the slipway', query: 'text:slipway', colour: 'heather' },
  {
    name: 'Drafts not touched for a year',
    query: '(draft OR plan OR *.odt) modified<365d -in:Archive',
    colour: 'peat',
    showAs: 'folders',
    sortBy: 'modified',
  },
  { name: 'Large and not pictures', query: 'size>50kB -kind:picture,sound is:file', sortBy: 'size', descending: true },
  {
    name: 'Changed this week',
    query: 'modified:this-week is:file',
    colour: 'saffron',
    sortBy: 'modified',
    descending: true,
  },
];

export const QUICK_FILTERS = [
  { name: 'Field work', keys: 'f f', filter: { tag: 'field work' } },
  { name: 'Not used lately', filter: { used: 'not-lately', sort: 'opened' } },
];

/** Kept sweeps; a rule leads to a folder shortcut by its name. `root` is the place Marrowick. */
export const sweeps = (root: string) => [
  {
    name: 'Inbox',
    folders: [`${root}/Inbox`],
    recentMinutes: 10,
    linkDays: 0,
    threshold: { things: 40, size: null, days: 60 },
    rules: [
      { name: 'Filed already', when: 'duplicate', query: '', to: 'bin' },
      { name: 'Left by programs', when: 'query', query: '*.tmp', to: 'bin' },
      { name: 'Not mine to file', when: 'query', query: 'letter from', to: 'leave' },
    ],
  },
];
