import { resolve } from 'node:path';
import { defineConfig } from 'vitest/config';

const setupFiles = [resolve(import.meta.dirname, 'vitest.setup.ts')];

// Time limits only end what hangs: speed is measured elsewhere, and machines differ by a factor of three.
const project = (name: string, root: string, more: Record<string, unknown> = {}) => ({
  test: { name, root, environment: 'node', include: ['test/**/*.test.ts'], setupFiles, testTimeout: 60_000, ...more },
});

export default defineConfig({
  test: {
    projects: [
      project('core', 'packages/core'),
      project('formats', 'packages/formats'),
      project('cli', 'apps/cli'),
      project('web', 'apps/web', { setupFiles: [...setupFiles, resolve(import.meta.dirname, 'apps/web/test/setup.ts')] }),
      project('server', 'apps/server', { globalSetup: ['test/global-setup.ts'], hookTimeout: 60_000 }),
    ],
  },
});
