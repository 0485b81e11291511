/** Jest over the sources; the server is tested from outside, as built. */
const transform = {
  '^.+\\.tsx?$': [
    '@swc/jest',
    {
      jsc: {
        parser: { syntax: 'typescript', tsx: true, decorators: true },
        transform: {
          legacyDecorator: true,
          decoratorMetadata: true,
          useDefineForClassFields: false,
          react: { runtime: 'automatic' },
        },
        target: 'es2022',
      },
      module: { type: 'es6' },
    },
  ],
};
const common = {
  rootDir: import.meta.dirname ?? new URL('.', import.meta.url).pathname,
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform,
  moduleNameMapper: { '^(\\.{1,2}/.*)\\.js$': '$1', '\\.css$': '<rootDir>/scripts/lib/noStyle.cjs' },
  modulePathIgnorePatterns: ['/dist/', '/.data/'],
};

export default {
  projects: [
    {
      ...common,
      displayName: 'core',
      testEnvironment: 'node',
      testEnvironmentOptions: { customExportConditions: ['source', 'node', 'node-addons'] },
      testMatch: ['<rootDir>/packages/{core,demo}/src/**/*.test.ts'],
    },
    {
      ...common,
      displayName: 'server',
      testEnvironment: 'node',
      testEnvironmentOptions: { customExportConditions: ['source', 'node', 'node-addons'] },
      testMatch: ['<rootDir>/packages/server/{src,test}/**/*.test.ts'],
      testPathIgnorePatterns: ['/node_modules/', '/test/security/'],
    },
    {
      ...common,
      // the server run by an ordinary user also where the tests are the superuser's
      displayName: 'security',
      testEnvironment: 'node',
      testEnvironmentOptions: { customExportConditions: ['source', 'node', 'node-addons'] },
      testMatch: ['<rootDir>/packages/server/test/security/**/*.test.ts'],
      setupFiles: ['<rootDir>/packages/server/test/testing/runOrdinary.ts'],
    },
    {
      ...common,
      displayName: 'web',
      testEnvironment: 'jsdom',
      testEnvironmentOptions: { customExportConditions: ['source', 'browser'] },
      testMatch: ['<rootDir>/packages/web/src/**/*.test.{ts,tsx}'],
      setupFiles: ['<rootDir>/packages/web/src/testing/setup.ts'],
    },
  ],
  testTimeout: 120_000,
};
