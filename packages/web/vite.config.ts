import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  resolve: { conditions: ['source', 'module', 'browser', 'default'] },
  build: { outDir: 'dist', emptyOutDir: true, chunkSizeWarningLimit: 1200, assetsInlineLimit: 0 },
});
