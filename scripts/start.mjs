/** `npm start`: installs what is missing, starts the database, builds, serves, prints the address. Ctrl C stops everything; what ends by itself is started again. */
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { needNode, needPackages, needWeb } from './build.mjs';
import { needPostgres } from './debian.mjs';
import { keep } from './keeper.mjs';
import { freePort, isAlive, needDatabase, startPostgres } from './postgres.mjs';
import { Stopped } from './stopped.mjs';

const root = resolve(import.meta.dirname, '..');
const preferredPort = 4310;
const runningFile = resolve(root, '.local/running.json');

async function isFree(port) {
  const { createServer } = await import('node:net');
  return new Promise((done) => {
    const server = createServer();
    server.once('error', () => done(false));
    server.listen(port, '127.0.0.1', () => server.close(() => done(true)));
  });
}

/** Whether a process is a start and no other that was given the number since; where it cannot be looked at, it is believed. */
function isStart(pid) {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('start.mjs');
  } catch {
    return true;
  }
}

/** The start of this checkout that is there already: its process, and its address once it listens. */
function running() {
  if (!existsSync(runningFile)) return null;
  try {
    const known = JSON.parse(readFileSync(runningFile, 'utf8'));
    return isAlive(known.process) && isStart(known.process) ? known : null;
  } catch {
    return null;
  }
}

const tellRunning = (url) => writeFileSync(runningFile, JSON.stringify({ process: process.pid, url }));

async function start() {
  const other = running();
  if (other) {
    console.log(
      `Filaxis runs already from this folder (process ${other.process})${other.url ? `, at ${other.url}` : ', and is starting'}. It is left as it is.`,
    );
    return;
  }
  mkdirSync(resolve(root, '.local'), { recursive: true });
  tellRunning(null);
  try {
    await serve();
  } finally {
    rmSync(runningFile, { force: true });
  }
}

async function serve() {
  needNode();
  needPackages();
  needPostgres();
  needWeb();
  const cluster = await startPostgres();
  try {
    const databaseUrl = await needDatabase(cluster, 'filaxis');
    const port = process.env.PORT ?? String((await isFree(preferredPort)) ? preferredPort : await freePort());
    const kept = keep({
      cluster,
      environment: {
        DATABASE_URL: databaseUrl,
        PORT: port,
        FILAXIS_WEB: resolve(root, 'apps/web/dist'),
        FILAXIS_SAMPLES: resolve(root, 'demo/documents'),
        FILAXIS_LOG: process.env.FILAXIS_LOG ?? 'warn',
      },
      onListening: ({ url, asksToken }) => {
        tellRunning(url);
        console.log(`\nFilaxis is at ${url}${asksToken ? '; it asks for the token of this server' : ''}\nCtrl C stops it.`);
      },
    });
    process.on('SIGINT', kept.stop);
    process.on('SIGTERM', kept.stop);
    const code = await kept.ended;
    if (code !== 0) throw new Stopped(`The server ended with ${code}.`);
  } finally {
    cluster.stop();
    console.log('The database has stopped.');
  }
}

try {
  await start();
  process.exit(0);
} catch (error) {
  console.error(error instanceof Stopped ? error.message : error);
  process.exit(1);
}
