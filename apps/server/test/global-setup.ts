import type { TestProject } from 'vitest/node';
import { needPostgres } from '../../../scripts/debian.mjs';
import { startPostgres } from '../../../scripts/postgres.mjs';

declare module 'vitest' {
  export interface ProvidedContext {
    /** Address of the test cluster, with DATABASE in place of a database's name. */
    clusterUrl: string;
  }
}

/** One PostgreSQL cluster for all tests of the server, stopped at the end. */
export default async function setup(project: TestProject): Promise<() => void> {
  needPostgres();
  const cluster = await startPostgres('pg-unit');
  project.provide('clusterUrl', cluster.url('DATABASE'));
  return () => void cluster.stop();
}
