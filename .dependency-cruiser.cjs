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
  ],
  // acts, and the disk as it is known
  ...['journal', 'indexing', 'places', 'settings', 'originals', 'programs', 'keys', 'pictures', 'identity'],
  // what a person makes
  ...['pins', 'shortcuts', 'collections', 'memoryIndex', 'tags', 'searches', 'boards', 'quickFilters'],
  // what is done with it
  ...['aliases', 'filing', 'bin', 'finder', 'reach', 'openings', 'recentFiles', 'catalogue', 'find', 'contents'],
  // what looks at all of it
  ...['checkUp', 'plan', 'seed', 'health', 'application'],
];

/** The rooms of the page, likewise. */
const WEB = [
  // talking to the server; what is chosen, dragged and told; marks and lists; all that can be done
  ...['api', 'theme', 'workspace', 'parts', 'acts'],
  // parts of views, and views
  ...['bin', 'filing', 'boards', 'aliases', 'catalogue', 'checkUp', 'originals', 'collections', 'searches', 'preview'],
  ...['card', 'pins', 'shortcuts', 'exercise', 'settings', 'find', 'journal', 'plan', 'reach', 'session', 'usage'],
  // the frame round every view knows them all
  'frame',
];

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
      name: 'no-test-helpers-in-code',
      severity: 'error',
      from: { pathNot: '(\\.test\\.tsx?$|/testing/)' },
      to: { path: '(\\.test\\.tsx?$|/testing/)' },
    },
    {
      name: 'web-features-apart',
      comment: 'a view does not reach into another view',
      severity: 'error',
      from: { path: '^packages/web/src/(reach|catalogue|originals|journal|bin|settings)/' },
      to: {
        path: '^packages/web/src/(reach|catalogue|originals|journal|bin|settings)/',
        pathNot: '^packages/web/src/$1/',
      },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: { conditionNames: ['source', 'import', 'default'], exportsFields: ['exports'] },
  },
};
