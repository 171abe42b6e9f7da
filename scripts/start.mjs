/** `npm start`: installs what is missing, starts the database, builds, serves, prints the address. Ctrl C stops everything. */
import { spawn } from 'node:child_process';
import { resolve } from 'node:path';
import { needNode, needPackages, needWeb } from './build.mjs';
import { needPostgres } from './debian.mjs';
import { freePort, needDatabase, startPostgres } from './postgres.mjs';
import { Stopped } from './stopped.mjs';

const root = resolve(import.meta.dirname, '..');
const preferredPort = 4310;

async function isFree(port) {
  const { createServer } = await import('node:net');
  return new Promise((done) => {
    const server = createServer();
    server.once('error', () => done(false));
    server.listen(port, '127.0.0.1', () => server.close(() => done(true)));
  });
}

async function start() {
  needNode();
  needPackages();
  needPostgres();
  needWeb();
  const cluster = await startPostgres();
  try {
    const databaseUrl = await needDatabase(cluster, 'filaxis');
    const port = process.env.PORT ?? String((await isFree(preferredPort)) ? preferredPort : await freePort());
    const server = spawn(process.execPath, ['--import', 'tsx', 'apps/server/src/main.ts'], {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      env: {
        ...process.env,
        DATABASE_URL: databaseUrl,
        PORT: port,
        FILAXIS_WEB: resolve(root, 'apps/web/dist'),
        FILAXIS_SAMPLES: resolve(root, 'demo/documents'),
        FILAXIS_LOG: process.env.FILAXIS_LOG ?? 'warn',
      },
      detached: true,
    });
    server.on('message', ({ url }) => console.log(`\nFilaxis is at ${url}\nCtrl C stops it.`));
    const stop = () => server.kill('SIGTERM');
    process.on('SIGINT', stop);
    process.on('SIGTERM', stop);
    const code = await new Promise((done) => server.once('exit', (status) => done(status ?? 1)));
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
