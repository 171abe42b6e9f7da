import { resolve } from 'node:path';
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import { isAway } from './away.js';
import * as schema from './schema.js';

export type Database = NodePgDatabase<typeof schema>;

export interface OpenDatabase {
  readonly db: Database;
  readonly pool: pg.Pool;
}

/** How often it is tried again to reach the database, and how long is waited before, ms. */
export interface Patience {
  readonly again: number;
  readonly wait: number;
}

/** Half a minute. */
export const usualPatience: Patience = { again: 60, wait: 500 };

/** Connects and brings the tables up to date. @throws Error when the database cannot be reached for half a minute, or refuses. */
export async function openDatabase(url: string, { again, wait }: Patience = usualPatience): Promise<OpenDatabase> {
  const pool = new pg.Pool({ connectionString: url, max: 10, connectionTimeoutMillis: 5000, statement_timeout: 15_000 });
  // An idle connection that breaks is replaced at the next query, which reports what is wrong.
  pool.on('error', () => undefined);
  // One that breaks while it is used fails its query, which is told; the event alone would end the process.
  pool.on('connect', (client) => void client.on('error', () => undefined));
  const db = drizzle(pool, { schema });
  // Both may have been started at once, or the database be coming back.
  for (let tries = 0; ; tries++)
    try {
      await migrate(db, { migrationsFolder: resolve(import.meta.dirname, 'migrations') });
      break;
    } catch (error) {
      if (isAway(error) && tries < again) await new Promise((done) => setTimeout(done, wait));
      else {
        await pool.end();
        throw error;
      }
    }
  return { db, pool };
}
