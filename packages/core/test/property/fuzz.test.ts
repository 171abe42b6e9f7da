import { spawnSync } from 'node:child_process';
import { resolve } from 'node:path';
import { expect, test } from 'vitest';

test('a short run of the fuzzers of all kinds finds no fault', () => {
  const { status, stdout, stderr } = spawnSync(
    process.execPath,
    ['--import', 'tsx', resolve(import.meta.dirname, '../fuzz.ts'), '--minutes', '0.2', '--seed', '20261126'],
    { encoding: 'utf8' },
  );
  expect([stdout.trim().split('\n').at(-1), status], `${stdout}${stderr}`).toEqual(['no fault', 0]);
  expect(stdout).toMatch(/^files: \d.* tried/m);
}, 120_000);
