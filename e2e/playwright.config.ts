import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  // shared machines stand still for seconds; what is waited for is waited for by itself
  timeout: 180_000,
  expect: { timeout: 15_000 },
  // one spec file a core: each has a demo, a database and a server of its own
  workers: 2,
  retries: 0,
  reporter: [['list'], ['json']],
  outputDir: '../.data/test/e2e',
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: process.env['RELLIN_TEST_CHROMIUM'] ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
    screenshot: 'only-on-failure',
  },
});
