/** `npm run chaos [-- --kills 50 --clients 8 --editors 200 --seconds 40 --seed 1]`: kills while clients save, then editors who save at once; prints the counts. */
import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { needPostgres } from '../../../scripts/debian.mjs';
import { freePort, needDatabase, startPostgres } from '../../../scripts/postgres.mjs';
import { chaos } from './chaos.js';
import { load } from './load.js';

const { values } = parseArgs({ options: { kills: { type: 'string', default: '50' }, clients: { type: 'string', default: '8' }, editors: { type: 'string', default: '200' }, seconds: { type: 'string', default: '40' }, seed: { type: 'string', default: '1' } } }); // prettier-ignore
const [kills, clients, editors, seconds, seed] = [values.kills, values.clients, values.editors, values.seconds, values.seed].map(Number);
needPostgres();

const killed = await chaos({ kills, clients, seed });
console.log(
  `${killed.kills.server} kills of the server, ${killed.kills.database} of the database, ${clients} clients: ${killed.acknowledged} saves acknowledged, ` +
    `${killed.askedAgain} asked again, ${killed.lost} lost, ${killed.doubled} saved twice, ${killed.odd.length} odd answers; away for ${(killed.longestAway / 1000).toFixed(1)} s at most`,
);
for (const line of killed.odd) console.log(`  ${line}`);

/** CPU seconds that a process has used (proc(5): fields 14 and 15, in hundredths of a second as Linux counts). */
const cpuOf = (pid: number): number => {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ');
  return (Number(fields[11]) + Number(fields[12])) / 100;
};

const cluster = await startPostgres('pg-chaos');
const port = await freePort();
const server = spawn(process.execPath, ['--import', 'tsx', 'apps/server/src/main.ts'], {
  cwd: resolve(import.meta.dirname, '../../..'),
  stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  env: { ...process.env, DATABASE_URL: await needDatabase(cluster, `load_${process.pid}`), PORT: String(port), FILAXIS_LOG: 'warn' },
});
await new Promise((done) => server.once('message', done));
const before = cpuOf(server.pid!);
const counts = await load(`http://127.0.0.1:${port}`, { editors, every: 4000, seconds });
console.log(
  `${editors} editors, each saving every 4 s for ${seconds} s: ${counts.saves} saves, ${counts.errors.length} errors; p50 ${counts.p50.toFixed(1)} ms, p99 ${counts.p99.toFixed(1)} ms, ` +
    `longest ${counts.longest.toFixed(1)} ms; ${(((cpuOf(server.pid!) - before) * 1000) / counts.saves).toFixed(2)} ms of the server's CPU a save`,
);
for (const line of counts.errors.slice(0, 5)) console.log(`  ${line}`);
server.kill('SIGTERM');
await new Promise((done) => server.once('exit', done));
cluster.stop();
process.exitCode = killed.odd.length || killed.lost || killed.doubled || counts.errors.length ? 1 : 0;
