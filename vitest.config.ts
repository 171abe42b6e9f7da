import { resolve } from 'node:path';
import { defineConfig } from 'vitest/config';

const setupFiles = [resolve(import.meta.dirname, 'vitest.setup.ts')];

// Time limits only end what hangs: speed is measured elsewhere, and machines differ by a factor of three.
const project = (name: string, root: string, more: Record<string, unknown> = {}) => ({
  test: { name, root, environment: 'node', include: ['test/**/*.test.ts'], setupFiles, testTimeout: 60_000, ...more },
});

/** The core keeps nothing that a test could leave behind, and loading it anew for every file would take as long as half of the tests. */
const together = { isolate: false };

export default defineConfig({
  test: {
    // One for each core: the process that hands out the files has little to do.
    maxWorkers: '100%',
    projects: [
      project('core', 'packages/core', together),
      project('formats', 'packages/formats', together),
      project('cli', 'apps/cli', together),
      project('web', 'apps/web', { setupFiles: [...setupFiles, resolve(import.meta.dirname, 'apps/web/test/setup.ts')] }),
      project('server', 'apps/server', { globalSetup: ['test/global-setup.ts'], hookTimeout: 60_000 }),
    ],
  },
});
