import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { fontsFirst } from './fontsFirst.ts';
import { iconSet } from './iconSet.ts';

export default defineConfig({
  plugins: [react(), iconSet(), fontsFirst()],
  resolve: { conditions: ['source', 'module', 'browser', 'default'] },
  build: { outDir: 'dist', emptyOutDir: true, chunkSizeWarningLimit: 1200, assetsInlineLimit: 0 },
});
