/**
 * The arrows of the house: web → core, server → core, never back, no cycles, nobody past another computation's face.
 */
const { readdirSync } = require('node:fs');
const { join } = require('node:path');

/**
 * The features of the server, lowest first: each may know those above it in this list, and none below. A new feature
 * gets its line here.
 */
const SERVER = [
  // what everything stands on: configuration, schema, errors, requests
  ...[
    'ownData',
    'config',
    'database',
    'problems',
    'http',
    'session',
    'events',
    'activity',
    'threads',
    'faults',
    'disk',
    'trash',
  ],
  // acts, and the disk as it is known
  ...['journal', 'indexing', 'places', 'settings', 'originals', 'programs', 'keys', 'pictures', 'identity'],
  // what a person makes
  ...['pins', 'shortcuts', 'collections', 'memoryIndex', 'publications', 'tags', 'searches', 'boards', 'quickFilters'],
  // what is done with it
  ...[
    'aliases',
    'filing',
    'belongs',
    'sweeps',
    'bin',
    'finder',
    'reach',
    'openings',
    'recentFiles',
    'catalogue',
    'find',
    'contents',
    'choose',
  ],
  // what looks at all of it
  ...['checkUp', 'plan', 'seed', 'setUp', 'example', 'health', 'application'],
];

/** The rooms of the page, likewise. */
const WEB = [
  // talking to the server; what is chosen, dragged and told; marks and lists; all that can be done
  ...['api', 'theme', 'workspace', 'parts', 'acts'],
  // parts of views, and views
  ...[
    'preview',
    'sweeps',
    'bin',
    'filing',
    'boards',
    'aliases',
    'catalogue',
    'checkUp',
    'originals',
    'collections',
    'searches',
  ],
  ...[
    'card',
    'pins',
    'shortcuts',
    'exercise',
    'settings',
    'find',
    'journal',
    'plan',
    'reach',
    'session',
    'usage',
    'setUp',
  ],
  // the frame round every view knows them all
  'frame',
];

/**
 * What other rooms may reach in a room: its face. Rooms that everything stands on are open as a whole. A face is a list
 * and no index file, since that would bring all of a room, and Nest with it, into each thread that needs one function.
 */
const SERVER_FACES = {
  aliases: ['aliases.module.ts', 'aliases.service.ts', 'links.service.ts'],
  belongs: ['belongs.module.ts', 'belongs.service.ts', 'messages.ts'],
  bin: ['bin.service.ts'],
  boards: ['boardItems.service.ts', 'boards.module.ts', 'boards.repository.ts', 'boards.service.ts'],
  catalogue: ['catalogue.module.ts', 'shortcutViews.service.ts'],
  checkUp: ['checkUp.module.ts', 'checkUp.service.ts'],
  collections: ['collections.module.ts', 'collections.repository.ts', 'collections.service.ts', 'room.ts'],
  contents: ['contents.service.ts'],
  example: ['example.service.ts'],
  filing: [
    'bins.service.ts',
    'deleted.service.ts',
    'diskMoves.ts',
    'filing.module.ts',
    'filing.service.ts',
    'mover.service.ts',
    'sameContent.ts',
  ],
  finder: ['finder.module.ts', 'finder.service.ts'],
  identity: ['digests.service.ts', 'identity.module.ts', 'identity.service.ts'],
  indexing: [
    'copyOut.ts',
    'differences.ts',
    'excludes.ts',
    'indexer.service.ts',
    'indexing.module.ts',
    'mimeTypes.ts',
    'originalRow.ts',
  ],
  journal: ['actTx.ts', 'journal.service.ts', 'rowChange.ts', 'topics.ts'],
  keys: ['keys.module.ts', 'keys.service.ts'],
  memoryIndex: ['memoryIndex.module.ts', 'memoryIndex.service.ts', 'messages.ts'],
  openings: ['openings.module.ts', 'openings.repository.ts', 'openings.service.ts', 'usagePublisher.service.ts'],
  originals: ['originals.module.ts', 'originals.repository.ts', 'originals.service.ts', 'previewKind.ts'],
  pictures: ['checkedPicture.ts', 'pictures.module.ts', 'pictures.service.ts'],
  pins: ['pins.module.ts', 'pins.service.ts'],
  places: [
    'placeMonitor.service.ts',
    'placeNews.ts',
    'placeRegistry.ts',
    'alwaysExcluded.ts',
    'looking.service.ts',
    'offeredFolders.service.ts',
    'places.module.ts',
    'places.repository.ts',
    'places.service.ts',
    'scanScheduler.service.ts',
  ],
  plan: ['plan.service.ts'],
  programs: ['associations.service.ts', 'programs.module.ts', 'programs.service.ts'],
  publications: ['publications.module.ts', 'publications.repository.ts'],
  quickFilters: ['quickFilters.module.ts', 'quickFilters.service.ts'],
  reach: ['likely.service.ts', 'reach.module.ts', 'reach.service.ts'],
  recentFiles: ['readRecentFiles.ts', 'recentFiles.service.ts'],
  searches: [
    'searchAnswers.service.ts',
    'searchNews.service.ts',
    'searches.module.ts',
    'searches.repository.ts',
    'searches.service.ts',
  ],
  seed: ['seed.service.ts'],
  session: ['session.module.ts', 'session.service.ts'],
  settings: ['settings.module.ts', 'settings.service.ts'],
  shortcuts: ['goesWith.service.ts', 'shortcuts.module.ts', 'shortcuts.repository.ts', 'shortcuts.service.ts'],
  sweeps: ['sweepRun.service.ts', 'sweeps.module.ts', 'sweeps.service.ts'],
  tags: ['tags.module.ts', 'tags.repository.ts', 'tags.service.ts'],
  trash: ['bins.ts', 'filesInUse.ts', 'infoFiles.ts'],
};

/** Likewise; an index file would bring a whole view along where a part of it is shown. */
const WEB_FACES = {
  acts: [
    'ActMenu.tsx',
    'BulkBar.tsx',
    'MoreButton.tsx',
    'acts.ts',
    'useActs.ts',
    'useBoardActs.ts',
    'useGather.ts',
    'useSearchActs.ts',
  ],
  aliases: ['CardParts.tsx', 'LinksPart.tsx', 'PublishedLine.tsx', 'useAliases.ts'],
  bin: ['InBin.tsx'],
  card: ['Card.tsx'],
  catalogue: ['QuickFilterDialog.tsx'],
  collections: ['taggedRows.tsx', 'useMemberRows.ts'],
  exercise: ['ExerciseDialog.tsx'],
  filing: ['folderOf.ts', 'useFiling.ts'],
  find: ['FindLine.tsx'],
  originals: ['FolderList.tsx'],
  pins: ['PinMenu.tsx', 'PinStrip.tsx'],
  preview: ['PreviewDialog.tsx'],
  searches: ['SearchCard.tsx'],
  sweeps: ['useSweptByItself.ts', 'words.ts'],
  workspace: [
    'dialogRequest.ts',
    'dropAct.ts',
    'dropSlot.ts',
    'feature.ts',
    'inField.ts',
    'spotUnder.ts',
    'useCommands.ts',
    'views.ts',
    'workspace.tsx',
  ],
};

/** Rooms without a face of their own: what everything stands on. */
const OPEN = [
  ...['ownData', 'config', 'database', 'problems', 'http', 'events', 'activity', 'threads', 'faults', 'disk'],
  ...['api', 'theme', 'parts'],
];

/** One rule a room: from other rooms only its face is reached. Tests may look closer. */
function facesOf(root, order, faces) {
  const closed = order.filter((name) => !OPEN.includes(name)).map((name) => [name, faces[name] ?? []]);
  return closed.map(([name, files]) => ({
    name: `face-of-${name}`,
    comment: `${root}/${name} is reached by its face; the list of faces says what that is`,
    severity: 'error',
    from: { path: `^${root}/[^/]+/`, pathNot: [`^${root}/${name}/`, '\\.test\\.tsx?$', '/testing/'] },
    to: {
      path: `^${root}/${name}/`,
      pathNot: `^${root}/${name}/(${files.map((f) => f.replace('.', '\\.')).join('|')})$`,
    },
  }));
}

/** One rule a folder: what is below it in the list is not its business. */
function layers(root, order) {
  const there = readdirSync(join(__dirname, root), { withFileTypes: true }).filter((e) => e.isDirectory());
  const unlisted = there.map((e) => e.name).filter((name) => name !== 'testing' && !order.includes(name));
  if (unlisted.length > 0) throw new Error(`not in the list of features: ${unlisted.join(', ')}`);
  return order.slice(0, -1).map((name, i) => ({
    name: `below-${name}`,
    comment: `${root}/${name} knows only what stands before it in the list of features`,
    severity: 'error',
    from: { path: `^${root}/${name}/`, pathNot: '\\.test\\.tsx?$' },
    to: { path: `^${root}/(${order.slice(i + 1).join('|')})/` },
  }));
}

module.exports = {
  forbidden: [
    ...layers('packages/server/src', SERVER),
    ...layers('packages/web/src', WEB),
    ...facesOf('packages/server/src', SERVER, SERVER_FACES),
    ...facesOf('packages/web/src', WEB, WEB_FACES),
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true, dependencyTypesNot: ['type-only'] } },
    {
      name: 'core-knows-nothing',
      comment: 'core imports no other package and no Node built-in',
      severity: 'error',
      from: { path: '^packages/core/src', pathNot: '\\.test\\.ts$' },
      to: { pathNot: '^packages/core/src' },
    },
    {
      name: 'core-by-its-faces',
      comment: 'one computation reaches another by its index only',
      severity: 'error',
      from: { path: '^packages/core/src/([^/]+)/' },
      to: { path: '^packages/core/src/', pathNot: ['^packages/core/src/$1/', '/index\\.ts$'] },
    },
    {
      name: 'contract-types-only',
      severity: 'error',
      from: { path: '^packages/contract/src' },
      to: { path: '^packages/(server|web|demo)' },
    },
    {
      name: 'web-not-server',
      severity: 'error',
      from: { path: '^packages/web' },
      to: { path: '^packages/(server|demo)' },
    },
    {
      name: 'server-not-web',
      severity: 'error',
      from: { path: '^packages/server' },
      to: { path: '^packages/(web|demo)' },
    },
    {
      name: 'oracles-only-in-tests',
      comment: 'what tests hold answers against is no way to answer',
      severity: 'error',
      from: { path: '^packages/[^/]+/src/', pathNot: ['\\.test\\.tsx?$', '^packages/core/src/oracles/'] },
      to: { path: '^packages/core/src/oracles/' },
    },
    {
      name: 'no-test-helpers-in-code',
      severity: 'error',
      from: { pathNot: '(\\.test\\.tsx?$|/testing/)' },
      to: { path: '(\\.test\\.tsx?$|/testing/)' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: { conditionNames: ['source', 'import', 'default'], exportsFields: ['exports'] },
  },
};
