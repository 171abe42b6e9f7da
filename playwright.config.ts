import { defineConfig, devices } from '@playwright/test';
import { chromiumArguments, chromiumPath } from './scripts/debian.mjs';

const port = 4398;

/** The real interface: Debian's Chromium, a server of its own and a new PostgreSQL database. */
export default defineConfig({
  testDir: 'e2e',
  outputDir: 'test-results/e2e/files',
  // Each test has its own documents; two keep two cores busy.
  workers: 2,
  // What goes wrong once is wrong: the second try is there to tell which tests are not to be relied on.
  retries: 1,
  failOnFlakyTests: true,
  timeout: 120_000,
  expect: { timeout: 30_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e/report.json' }]],
  use: {
    ...devices['Desktop Chrome'],
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    permissions: ['clipboard-read', 'clipboard-write'],
    screenshot: 'only-on-failure',
    // Software draws here: a second picture of everything that has come to rest would double the time. The tests of light have it on.
    storageState: { cookies: [], origins: [{ origin: `http://127.0.0.1:${port}`, localStorage: [{ name: 'filaxis-still', value: 'off' }] }] },
    launchOptions: {
      executablePath: chromiumPath() ?? undefined,
      args: [...chromiumArguments],
    },
  },
  webServer: {
    command: `node scripts/test-server.mjs ${port} e2e`,
    url: `http://127.0.0.1:${port}/api/health`,
    timeout: 60_000,
    reuseExistingServer: false,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 15_000 },
  },
});
