import { resolve } from 'node:path';
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import * as schema from './schema.js';

export type Database = NodePgDatabase<typeof schema>;

export interface OpenDatabase {
  readonly db: Database;
  readonly pool: pg.Pool;
}

/** Connects and brings the tables up to date. @throws Error when the database cannot be reached. */
export async function openDatabase(url: string): Promise<OpenDatabase> {
  const pool = new pg.Pool({ connectionString: url, max: 10, connectionTimeoutMillis: 5000, statement_timeout: 15_000 });
  // An idle connection that breaks is replaced at the next query, which reports what is wrong.
  pool.on('error', () => undefined);
  const db = drizzle(pool, { schema });
  await migrate(db, { migrationsFolder: resolve(import.meta.dirname, 'migrations') });
  return { db, pool };
}
