/** Debian packages that Filaxis needs and npm cannot bring. */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import { Stopped } from './stopped.mjs';

const isRoot = () => process.getuid?.() === 0;

/** Folder of PostgreSQL's programs, newest first; null: not installed. */
export function postgresFolder() {
  const root = '/usr/lib/postgresql';
  if (!existsSync(root)) return null;
  const versions = readdirSync(root).filter((name) => existsSync(`${root}/${name}/bin/initdb`));
  versions.sort((a, b) => Number(b) - Number(a));
  return versions.length ? `${root}/${versions[0]}/bin` : null;
}

/** The Chromium to test with; null: not installed. */
export function chromiumPath() {
  return [process.env.CHROMIUM, '/usr/bin/chromium'].find((path) => path && existsSync(path)) ?? null;
}

/** How Chromium runs here: as root too, without a graphics card, and without asking the network for anything. */
export const chromiumArguments = [
  '--no-sandbox',
  '--disable-dev-shm-usage',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--no-first-run',
  '--use-gl=angle',
  '--use-angle=swiftshader',
  '--enable-unsafe-swiftshader',
  // As browsers do it where there is no graphics card: the page is put together by the processor, WebGL alone is drawn by software.
  '--disable-gpu-compositing',
];

function apt(args) {
  const command = isRoot() ? ['apt-get', ...args] : ['sudo', '-n', 'apt-get', ...args];
  const result = spawnSync(command[0], command.slice(1), { stdio: ['ignore', 'ignore', 'pipe'], env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } });
  return { ok: result.status === 0, message: (result.stderr?.toString() ?? result.error?.message ?? '').trim() };
}

function install(packages, why) {
  console.log(`Installing ${packages.join(', ')} from Debian (${why}) …`);
  apt(['update', '-q']);
  const { ok, message } = apt(['install', '-y', '-q', '--no-install-recommends', ...packages]);
  if (ok) return;
  throw new Stopped(
    `${packages.join(', ')} could not be installed. Install it by hand (as root: apt-get install ${packages.join(' ')}) and start again.\n${message.split('\n').slice(-3).join('\n')}`,
  );
}

/** Makes sure that PostgreSQL's programs are there, without starting a cluster of the system's. */
export function needPostgres() {
  if (postgresFolder()) return;
  if (isRoot()) {
    mkdirSync('/etc/postgresql-common', { recursive: true });
    const settings = '/etc/postgresql-common/createcluster.conf';
    if (!existsSync(settings)) writeFileSync(settings, 'create_main_cluster = false\n');
  }
  install(['postgresql'], 'the database');
  if (!postgresFolder()) throw new Stopped('PostgreSQL was installed, but its programs are not in /usr/lib/postgresql.');
}

/** Makes sure that Chromium is there, for the tests of the interface. */
export function needChromium() {
  if (!chromiumPath()) install(['chromium'], 'to test the interface');
}

/** Makes sure that assimp is there: a reader of many formats that is not ours. */
export function needAssimp() {
  if (existsSync('/usr/bin/assimp')) return;
  install(['assimp-utils'], 'to read what Filaxis writes');
}
