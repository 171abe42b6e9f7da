import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import { readConfig } from './config.js';
import { openDatabase } from './db/database.js';
import { makeApp } from './http/app.js';
import { loadSamples } from './samples.js';
import { clearDeleted } from './store/clearing.js';
import { DocumentStore } from './store/documents.js';

const config = readConfig(process.env);
const log = pino({ level: config.logLevel });
const { db, pool } = await openDatabase(config.databaseUrl);
const sampleFolder = process.env['FILAXIS_SAMPLES'];
if (sampleFolder) await loadSamples(db, sampleFolder);

const server = createServer(makeApp(db, config, log));
server.requestTimeout = 30_000;
server.headersTimeout = 15_000;
server.listen(config.port, config.host, () => {
  const { address, port } = server.address() as AddressInfo;
  const url = `http://${address}:${port}`;
  log.info({ url }, 'listening');
  process.send?.({ kind: 'listening', url, asksToken: config.token !== null });
});

clearDeleted(new DocumentStore(db), config.undoHours, log);

/** Requests at work are finished, then connections are closed (idle ones at once: Node 19 and on); a second signal ends at once. */
let stopping = false;
function stop(): void {
  if (stopping) process.exit(1);
  stopping = true;
  setTimeout(() => process.exit(1), 10_000).unref();
  server.close(() => void pool.end().then(() => process.exit(0)));
}
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
// The start script is gone: stop too, so that nothing is left running.
process.on('disconnect', stop);
