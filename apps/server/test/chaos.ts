/** Kills the server and its database at random while clients save, as `npm start` keeps them, and counts what became of the saves. */
import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { keep } from '../../../scripts/keeper.mjs';
import { freePort, needDatabase, startPostgres } from '../../../scripts/postgres.mjs';

export interface ChaosCounts {
  readonly kills: { server: number; database: number };
  /** Saves that were answered with their version. */
  readonly acknowledged: number;
  /** Requests that had to be asked again. */
  readonly askedAgain: number;
  /** Answers that were neither a version nor one to ask again after, a line each. */
  readonly odd: string[];
  /** Acknowledged versions that are not stored as they were sent, and stored ones that nobody was told of. */
  readonly lost: number;
  readonly doubled: number;
  /** Most milliseconds from a kill to the next acknowledged save. */
  readonly longestAway: number;
}

const pause = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

/** A sequence of numbers from 0 to 1 by its seed (Park and Miller 1988, from memory). */
function randomOf(seed: number): () => number {
  let state = (seed % 2147483646) + 1;
  return () => (state = (state * 48271) % 2147483647) / 2147483647;
}

export async function chaos({
  kills,
  clients,
  seed,
  name = 'pg-chaos',
}: {
  kills: number;
  clients: number;
  seed: number;
  name?: string;
}): Promise<ChaosCounts> {
  const cluster = await startPostgres(name);
  try {
    const databaseUrl = await needDatabase(cluster, `chaos_${process.pid}`);
    const port = await freePort();
    let listened: () => void = () => undefined;
    const first = new Promise<void>((done) => (listened = done));
    const kept = keep({
      cluster,
      environment: { DATABASE_URL: databaseUrl, PORT: String(port), FILAXIS_LOG: 'silent', FILAXIS_CHANGES_PER_MINUTE: '1000000' },
      onListening: () => listened(),
      say: () => undefined,
    });
    await Promise.race([first, kept.ended]);
    const counts = await saveAndKill(`http://127.0.0.1:${port}`, { kills, clients, random: randomOf(seed) }, () => ({
      server: kept.server()?.pid ?? 0,
      database: cluster.process(),
    }));
    while (!cluster.process()) await pause(50);
    const checked = await check(databaseUrl, counts.saved);
    kept.stop();
    await kept.ended;
    return { ...counts, ...checked };
  } finally {
    cluster.stop();
  }
}

/** What each document's client was told: the title of each version. */
type Saved = ReadonlyMap<string, readonly string[]>;

async function saveAndKill(
  url: string,
  { kills, clients, random }: { kills: number; clients: number; random: () => number },
  processes: () => { server: number; database: number },
): Promise<Omit<ChaosCounts, 'lost' | 'doubled'> & { saved: Saved }> {
  const odd: string[] = [];
  const saved = new Map<string, string[]>();
  const done = { server: 0, database: 0 };
  let [acknowledged, askedAgain, killedAt, longestAway, stop] = [0, 0, 0, 0, false];

  /** Asks until there is an answer, always with the same key. */
  const ask = async (path: string, method: string, body: object): Promise<{ id: string; version: number }> => {
    const text = JSON.stringify({ ...body, key: randomUUID() });
    for (;;) {
      try {
        const response = await fetch(url + path, { method, headers: { 'content-type': 'application/json' }, body: text, signal: AbortSignal.timeout(20_000) });
        const answer = await response.text();
        if (response.ok) {
          acknowledged++;
          if (killedAt) longestAway = Math.max(longestAway, performance.now() - killedAt);
          killedAt = 0;
          return JSON.parse(answer) as { id: string; version: number };
        }
        if (response.status !== 503 || !response.headers.get('retry-after')) odd.push(`${method} ${path}: ${response.status} ${answer}`);
        if (odd.length > 20) throw new Error(odd.join('\n'));
      } catch (error) {
        if (odd.length > 20) throw error;
      }
      askedAgain++;
      await pause(100);
    }
  };
  const client = async (): Promise<void> => {
    const document = (title: string): object => ({ format: 'filaxis-graph', version: 1, title, nodes: [], wires: [] });
    const title = (n: number): string => `version ${n}`;
    const { id } = await ask('/api/documents', 'POST', { document: document(title(1)) });
    const told = [title(1)];
    saved.set(id, told);
    while (!stop) {
      const next = title(told.length + 1);
      const { version } = await ask(`/api/documents/${id}`, 'PUT', { baseVersion: told.length, document: document(next) });
      if (version !== told.length + 1) odd.push(`${id}: version ${version} after ${told.length}`);
      told.push(next);
    }
  };
  const killer = async (): Promise<void> => {
    for (let n = 0; n < kills;) {
      await pause(200 + random() * 1300);
      const which = random() < 0.5 ? 'server' : 'database';
      const pid = processes()[which];
      if (!pid) continue;
      try {
        process.kill(pid, 'SIGKILL');
      } catch {
        // It ended by itself just now.
        continue;
      }
      killedAt ||= performance.now();
      done[which]++;
      n++;
    }
    // What was killed last comes back, and saves go on, before the end.
    const before = acknowledged;
    for (const begun = performance.now(); acknowledged < before + clients * 2 && performance.now() - begun < 60_000;) await pause(50);
    stop = true;
  };
  await Promise.all([killer(), ...Array.from({ length: clients }, client)]);
  return { kills: done, acknowledged, askedAgain, odd, longestAway, saved };
}

/** Compares what is stored with what was told. */
async function check(databaseUrl: string, saved: Saved): Promise<{ lost: number; doubled: number }> {
  let [lost, doubled] = [0, 0];
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  for (const [id, told] of saved) {
    const { rows } = await client.query<{ version: number; title: string }>(
      "select version, document->>'title' as title from document_versions where document_id = $1",
      [id],
    );
    const stored = new Map(rows.map(({ version, title }) => [version, title]));
    told.forEach((title, i) => (lost += stored.get(i + 1) === title ? 0 : 1));
    doubled += Math.max(0, stored.size - told.length);
  }
  const { rows } = await client.query<{ count: string }>('select count(*) from documents');
  await client.end();
  return { lost, doubled: doubled + Number(rows[0].count) - saved.size };
}
