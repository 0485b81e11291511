import { fileURLToPath } from 'node:url';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { fontsFirst } from './fontsFirst.ts';
import { iconSet } from './iconSet.ts';

const ENTITIES = 'decode-named-character-reference';

export default defineConfig({
  plugins: [react(), iconSet(), fontsFirst()],
  resolve: {
    conditions: ['source', 'module', 'browser', 'default'],
    // the form for browsers asks the document, which the worker that reads Markdown has not
    alias: { [ENTITIES]: fileURLToPath(import.meta.resolve(ENTITIES)) },
  },
  build: { outDir: 'dist', emptyOutDir: true, chunkSizeWarningLimit: 1200, assetsInlineLimit: 0 },
});
