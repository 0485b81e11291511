/** The arrows of the house: web → core, server → core, never back, no cycles, nobody past another computation's face. */
module.exports = {
  forbidden: [
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
