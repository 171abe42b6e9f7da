/**
 * `npm run build -w @filaxis/core`: the package as others use it, in `dist`: ES modules with types, one entry for documents and one a subject. What it needs is bundled
 * with it, so that it installs without a network.
 */
import { cpSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';

const here = import.meta.dirname;
const dist = resolve(here, 'dist');
const { name, version, license, dependencies } = JSON.parse(readFileSync(resolve(here, 'package.json'), 'utf8'));
/** Ajv made the validator and is not needed any more. */
const needed = Object.fromEntries(Object.entries(dependencies).filter(([dependency]) => dependency !== 'ajv'));

rmSync(dist, { recursive: true, force: true });
const compiled = spawnSync('npx', ['tsc', '-p', 'tsconfig.build.json'], { cwd: here, encoding: 'utf8' });
if (compiled.status !== 0) {
  console.error(compiled.stdout + compiled.stderr);
  process.exit(1);
}
const entry = (file) => ({ types: `./entries/${file}.d.ts`, default: `./entries/${file}.js` });
const subjects = ['curves', 'skin', 'mesh', 'space'];
const manifest = {
  name,
  version,
  license,
  type: 'module',
  exports: { '.': entry('documents'), ...Object.fromEntries(subjects.map((subject) => [`./${subject}`, entry(subject)])) },
  dependencies: needed,
  bundleDependencies: Object.keys(needed),
};
writeFileSync(resolve(dist, 'package.json'), `${JSON.stringify(manifest, null, 2)}\n`);
cpSync(resolve(here, 'README.md'), resolve(dist, 'README.md'));
for (const dependency of Object.keys(needed)) {
  const folder = resolve(dist, 'node_modules', dependency);
  mkdirSync(folder, { recursive: true });
  // The package's own folder, wherever it was installed.
  let from = dirname(fileURLToPath(import.meta.resolve(dependency)));
  while (!from.endsWith(`node_modules/${dependency}`)) from = dirname(from);
  cpSync(from, folder, { recursive: true });
}
console.log(`Built ${name} ${version} in ${dist}.`);
