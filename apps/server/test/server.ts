import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import pg from 'pg';
import { pino } from 'pino';
import { inject } from 'vitest';
import type { Config } from '../src/config.js';
import { openDatabase, type OpenDatabase } from '../src/db/database.js';
import { makeApp } from '../src/http/app.js';

/** A new, empty database on the test cluster; returns its address. */
export async function newDatabase(name: string): Promise<string> {
  const url = (database: string): string => inject('clusterUrl').replace('DATABASE', database);
  const client = new pg.Client({ connectionString: url('postgres') });
  await client.connect();
  await client.query(`drop database if exists "${name}" with (force)`);
  await client.query(`create database "${name}"`);
  await client.end();
  return url(name);
}

export interface TestServer {
  readonly url: string;
  readonly database: OpenDatabase;
  close(): Promise<void>;
}

/** The real application on a free port of loopback. */
export async function startServer(name: string, more: Partial<Config> = {}, log = pino({ level: 'silent' })): Promise<TestServer> {
  const databaseUrl = await newDatabase(name);
  const database = await openDatabase(databaseUrl);
  const limits = { changes: 100_000, looks: 100_000, files: 100_000, reports: 100_000 };
  const config: Config = {
    host: '127.0.0.1',
    port: 0,
    databaseUrl,
    webFolder: null,
    logLevel: 'silent',
    limits,
    hosts: [],
    token: null,
    undoHours: 24,
    ...more,
  };
  const server: Server = createServer(makeApp(database.db, config, log));
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  return {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    database,
    close: async () => {
      server.closeAllConnections();
      await new Promise((done) => server.close(done));
      await database.pool.end();
    },
  };
}

/** A request with JSON in and out. */
export async function send(url: string, method = 'GET', body?: unknown): Promise<{ status: number; type: string; body: never }> {
  const response = await fetch(url, {
    method,
    headers: body === undefined ? {} : { 'content-type': 'application/json' },
    body: body === undefined ? undefined : JSON.stringify(body),
  });
  const text = await response.text();
  return { status: response.status, type: response.headers.get('content-type')?.split(';')[0] ?? '', body: (text ? JSON.parse(text) : null) as never };
}
