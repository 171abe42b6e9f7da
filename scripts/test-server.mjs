/**
 * A server with a database of its own for tests and pictures: `node scripts/test-server.mjs PORT DATABASE`. Ends with its parent, or at a
 * signal. The database is made new.
 */
import { spawn } from 'node:child_process';
import { resolve } from 'node:path';
import { needPostgres } from './debian.mjs';
import { needDatabase, startPostgres } from './postgres.mjs';

const [port = '4399', database = 'e2e'] = process.argv.slice(2);
const root = resolve(import.meta.dirname, '..');
needPostgres();
const cluster = await startPostgres(`pg-${database}`);
const { default: pg } = await import('pg');
const client = new pg.Client({ connectionString: cluster.url('postgres') });
await client.connect();
await client.query(`drop database if exists "${database}" with (force)`);
await client.end();
const url = await needDatabase(cluster, database);
const server = spawn(process.execPath, ['--import', 'tsx', 'apps/server/src/main.ts'], {
  cwd: root,
  stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  env: {
    ...process.env,
    DATABASE_URL: url,
    PORT: port,
    FILAXIS_WEB: resolve(root, 'apps/web/dist'),
    FILAXIS_SAMPLES: resolve(root, 'demo/documents'),
    FILAXIS_LOG: 'warn',
    FILAXIS_CHANGES_PER_MINUTE: '100000',
    FILAXIS_LOOKS_PER_MINUTE: '1000000',
  },
});
server.on('message', ({ url: address }) => console.log(`test server at ${address}`));
const stop = () => server.kill('SIGTERM');
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
server.once('exit', (code) => {
  cluster.stop();
  process.exit(code ?? 1);
});
