/** Steps that are skipped when nothing they depend on has changed. */
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { Stopped } from './stopped.mjs';

const root = resolve(import.meta.dirname, '..');
const stampFolder = resolve(root, '.local/stamps');

function* filesBelow(path) {
  if (!existsSync(path)) return;
  if (statSync(path).isFile()) {
    yield path;
    return;
  }
  for (const entry of readdirSync(path, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
    if (['node_modules', 'dist', '.angular', 'test'].includes(entry.name)) continue;
    yield* filesBelow(resolve(path, entry.name));
  }
}

function fingerprint(paths) {
  const hash = createHash('sha256').update(process.version);
  for (const path of paths) for (const file of filesBelow(resolve(root, path))) hash.update(file).update(readFileSync(file));
  return hash.digest('hex');
}

/** Does a step unless its inputs are as they were when it last went well and its result is there. */
export function unlessDone(name, { inputs, result }, step) {
  const stamp = resolve(stampFolder, name);
  const now = fingerprint(inputs);
  if (existsSync(resolve(root, result)) && existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return;
  step();
  mkdirSync(stampFolder, { recursive: true });
  writeFileSync(stamp, fingerprint(inputs));
}

/** Runs a command; its output is shown only when it fails, unless `show`. */
export function must(what, command, args, { show = false, env = {} } = {}) {
  const result = spawnSync(command, args, {
    cwd: root,
    encoding: 'utf8',
    stdio: show ? 'inherit' : 'pipe',
    env: { ...process.env, ...env },
    maxBuffer: 1 << 28,
  });
  if (result.status === 0) return;
  const text = `${result.stdout ?? ''}${result.stderr ?? ''}${result.error?.message ?? ''}`.trim();
  throw new Stopped(`${what} failed (${[command, ...args].join(' ')}).\n${text.split('\n').slice(-40).join('\n')}`);
}

/** Refuses a Node that is too old. */
export function needNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) throw new Stopped(`Filaxis needs Node 20.19 or newer; this is ${process.version}.`);
}

export function needPackages() {
  unlessDone('packages', { inputs: ['package.json', 'package-lock.json'], result: 'node_modules/.bin/filaxis' }, () => {
    console.log('Installing npm packages …');
    must('Installing npm packages', 'npm', ['ci']);
  });
}

export function needWeb() {
  const inputs = ['apps/web', 'packages', 'package-lock.json', 'tsconfig.base.json'];
  unlessDone('web', { inputs, result: 'apps/web/dist/index.html' }, () => {
    // A node that was added is in the list by its file.
    must('Listing the nodes', 'npx', ['tsx', 'scripts/generate-catalogue.ts']);
    console.log('Building the web application (about a minute the first time) …');
    must('Building the web application', 'npm', ['run', 'build', '-w', '@filaxis/web'], { env: { NG_CLI_ANALYTICS: 'false' } });
  });
}
