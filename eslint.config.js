import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', '.data/**', 'test-results/**'] },
  {
    files: ['packages/*/src/**/*.{ts,tsx}', 'packages/*/test/**/*.ts', 'e2e/**/*.ts', 'bench/**/*.ts'],
    extends: [...tseslint.configs.recommended],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'no-control-regex': 'off',
      eqeqeq: ['error', 'smart'],
      'no-console': 'error',
    },
  },
  {
    // the formatter keeps code; comments are kept by this. What is written for somebody to read stays in one piece
    files: ['**/*.{ts,tsx,mjs,cjs,js}'],
    languageOptions: { parser: tseslint.parser },
    rules: {
      'max-len': [
        'error',
        { code: 120, ignoreStrings: true, ignoreTemplateLiterals: true, ignoreRegExpLiterals: true, ignoreUrls: true },
      ],
    },
  },
  {
    // with types: what the compiler lets pass and a person regrets
    files: ['packages/{core,server,demo}/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    languageOptions: { parserOptions: { projectService: true } },
    plugins: { '@typescript-eslint': tseslint.plugin },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: false }],
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
    },
  },
  {
    // whatever lies below a place is reached by disk/inside.ts; these others touch only what they are named for
    files: ['packages/server/src/**/*.ts'],
    ignores: [
      '**/*.test.ts',
      'packages/server/src/disk/**',
      'packages/server/src/filing/{diskMoves,sameContent,attributes,mover.worker}.ts',
      'packages/server/src/trash/*.ts', // by handles that disk/inside.ts opened; the home bin, and /proc
      'packages/server/src/identity/digest.worker.ts', // reads by handles that disk/inside.ts opened
      'packages/server/src/indexing/watcher.ts', // sets the system's watches
      'packages/server/src/ownData/**',
      'packages/server/src/faults/**',
      'packages/server/src/{application/application,http/peer}.ts', // the built page; the system's table of connections
      'packages/server/src/main.ts', // the port of the last start
      'packages/server/src/places/fileSystems.ts', // the system's mounts
      'packages/server/src/places/standIn.ts', // the demo's drives
      'packages/server/src/programs/*.ts', // desktop entries, mimeapps.list
      'packages/server/src/pictures/pictures.service.ts', // icon themes
      'packages/server/src/pictures/drawing.process.ts', // its own place in line when memory runs out
      'packages/server/src/aliases/menus.service.ts', // the desktop's menus
      'packages/server/src/recentFiles/*.ts', // the desktop's list
      'packages/server/src/setUp/traces.worker.ts', // the desktop folder's links
      'packages/server/src/example/example.service.ts', // the example's own folder
      'packages/server/src/reach/reach.service.ts', // our own desktop entries
      'packages/server/src/seed/seed.service.ts', // the demo's seed
      'packages/server/src/application/openApi.ts', // the schema that is built with the server
    ],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          paths: ['fs', 'fs/promises', 'node:fs', 'node:fs/promises'].map((name) => ({
            name,
            message: 'What lies below a place is reached by disk/inside.ts, in a thread that can be given up.',
            allowTypeImports: true,
          })),
        },
      ],
    },
  },
  {
    files: ['packages/web/src/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: {
      ...Object.fromEntries(Object.keys(hooks.configs.flat['recommended-latest'].rules).map((rule) => [rule, 'error'])),
      // of libraries that React's compiler would pass over: it is not used here
      'react-hooks/incompatible-library': 'off',
    },
  },
);
