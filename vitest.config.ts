import { resolve } from 'node:path';
import { defineConfig } from 'vitest/config';

const setupFiles = [resolve(import.meta.dirname, 'vitest.setup.ts')];

const project = (name: string, root: string, more: Record<string, unknown> = {}) => ({
  test: { name, root, environment: 'node', include: ['test/**/*.test.ts'], setupFiles, ...more },
});

export default defineConfig({
  test: {
    projects: [
      project('core', 'packages/core'),
      project('formats', 'packages/formats'),
      project('cli', 'apps/cli', { testTimeout: 60_000 }),
      project('web', 'apps/web'),
      project('server', 'apps/server', { globalSetup: ['test/global-setup.ts'], testTimeout: 30_000, hookTimeout: 60_000 }),
    ],
  },
});
