/** The core as others get it: packed, installed into an empty project without a network, and used as its README says. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';

const core = resolve(import.meta.dirname, '../..');
let project: string;
const inside = (command: string, ...given: string[]): string => execFileSync(command, given, { cwd: project, encoding: 'utf8' });

beforeAll(() => {
  project = mkdtempSync(resolve(tmpdir(), 'filaxis-package-'));
  execFileSync('node', ['build.mjs'], { cwd: core });
  const [packed] = JSON.parse(execFileSync('npm', ['pack', './dist', '--json', '--pack-destination', project], { cwd: core, encoding: 'utf8' })) as {
    filename: string;
  }[];
  writeFileSync(resolve(project, 'package.json'), JSON.stringify({ name: 'empty', private: true, type: 'module' }));
  inside('npm', 'install', '--offline', '--no-audit', '--no-fund', `./${packed.filename.replace('@', '').replace('/', '-')}`);
}, 180_000);
afterAll(() => rmSync(project, { recursive: true, force: true }));

/** What the examples of the README print, in their order. */
const printed = [
  ['true 578 0'],
  [/^\/nodes\/0\/type There is no node "skin\.tubes"\.$/, /^The document must have required property 'version'\.$/],
  [/^0\.00[34]\d\d 0 \d\.\d\d$/],
];

describe('the package', () => {
  const examples = [...readFileSync(resolve(core, 'README.md'), 'utf8').matchAll(/```ts\n(.*?)```/gs)].map(([, code]) => code);

  test('has as many examples in its README as are tried here', () => expect(examples.length).toBe(printed.length));

  examples.forEach((code, i) =>
    test(`example ${i + 1} runs and prints what it should`, () => {
      writeFileSync(resolve(project, `example${i}.mjs`), code);
      const lines = inside('node', `example${i}.mjs`).trim().split('\n');
      expect(lines.length).toBe(printed[i].length);
      printed[i].forEach((expected, k) => expect(lines[k]).toMatch(expected));
    }),
  );

  test('has types: an example is checked with them, and a wrong name in it is told', () => {
    const tsc = resolve(core, '../../node_modules/typescript/bin/tsc');
    const check = (code: string): string => {
      writeFileSync(resolve(project, 'typed.ts'), code);
      try {
        return inside('node', tsc, '--noEmit', '--strict', '--module', 'nodenext', '--target', 'es2023', '--lib', 'es2023,dom', 'typed.ts');
      } catch (error) {
        return (error as { stdout: string }).stdout;
      }
    };
    expect(check(examples[2])).toBe('');
    expect(check(examples[2].replace('defaultHang, value:', 'defaultHang, valeu:'))).toContain("'valeu' does not exist");
  });
});
