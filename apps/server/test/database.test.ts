import { createServer, type AddressInfo, type Server } from 'node:net';
import { afterEach, expect, test } from 'vitest';
import { openDatabase, usualPatience } from '../src/db/database.js';
import { newDatabase } from './server.js';

let away: Server | null = null;
afterEach(() => away?.close());

/** A place where a database was: takes connections and drops them. Tells how many came. */
async function droppingPlace(): Promise<{ url: string; came: () => number }> {
  let count = 0;
  away = createServer((socket) => {
    count++;
    socket.destroy();
  });
  await new Promise<void>((done) => away!.listen(0, '127.0.0.1', done));
  return { url: `postgres://artist@127.0.0.1:${(away.address() as AddressInfo).port}/quay`, came: () => count };
}

test('a database that is away is tried for again, so often and no oftener, and then told', async () => {
  const { url, came } = await droppingPlace();
  await expect(openDatabase(url, { again: 2, wait: 1 })).rejects.toThrow();
  expect(came()).toBe(3);
});

test('the usual patience is half a minute', () => expect(usualPatience.again * usualPatience.wait).toBe(30_000));

test('one that refuses is not asked twice', async () => {
  const missing = (await newDatabase('there')).replace(/\/there$/, '/not-there');
  const begun = performance.now();
  await expect(openDatabase(missing, { again: 1, wait: 1_000_000_000 })).rejects.toThrow();
  // Waiting for another try would have outlasted the test.
  expect(performance.now() - begun).toBeLessThan(60_000);
});

test('a connection that breaks while nobody uses it ends nothing: the next query has another', async () => {
  const { pool } = await openDatabase(await newDatabase('idle'));
  const { rows } = await pool.query<{ pid: number }>('select pg_backend_pid() as pid');
  const other = await pool.connect();
  await other.query(`select pg_terminate_backend(pid) from pg_stat_activity where datname = 'idle' and pid <> pg_backend_pid()`);
  other.release();
  await new Promise((done) => setTimeout(done, 50));
  expect((await pool.query<{ one: number }>('select 1 as one')).rows).toEqual([{ one: 1 }]);
  expect(rows[0].pid).toBeGreaterThan(0);
  await pool.end();
});

test('a statement ends by itself after 15 seconds, and a connection that does not come after 5', async () => {
  const { pool } = await openDatabase(await newDatabase('bounds'));
  expect((await pool.query<{ statement_timeout: string }>('show statement_timeout')).rows).toEqual([{ statement_timeout: '15s' }]);
  expect(pool.options).toMatchObject({ max: 10, connectionTimeoutMillis: 5000 });
  await pool.end();
});
