/** Editors who save at once, each every few seconds: how long their saves take. */
import { performance } from 'node:perf_hooks';
import { randomUUID } from 'node:crypto';

export interface LoadCounts {
  readonly saves: number;
  readonly errors: string[];
  /** Milliseconds: the middle, the 99th of a hundred, the longest. */
  readonly p50: number;
  readonly p99: number;
  readonly longest: number;
}

const pause = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

/** A document as large as work makes them: a chain of nodes with settings. */
export const workDocument = (title: string, nodes = 60): object => ({
  format: 'filaxis-graph',
  version: 1,
  title,
  nodes: Array.from({ length: nodes }, (_, i) => ({
    id: `n${i}`,
    type: i ? 'mesh.material' : 'lay.line',
    settings: i ? { name: `part ${i}`, colour: '#a2323f', roughness: 0.5 } : { points: 20 },
    at: [i * 160, 0],
  })),
  wires: [],
});

export async function load(url: string, { editors, every, seconds }: { editors: number; every: number; seconds: number }): Promise<LoadCounts> {
  const times: number[] = [];
  const errors: string[] = [];
  const until = performance.now() + seconds * 1000;
  const ask = async (path: string, method: string, body: object): Promise<{ id: string; version: number } | null> => {
    const response = await fetch(url + path, { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify({ ...body, key: randomUUID() }) });
    const text = await response.text();
    if (response.ok) return JSON.parse(text) as { id: string; version: number };
    errors.push(`${response.status} ${text}`);
    return null;
  };
  const editor = async (n: number): Promise<void> => {
    const made = await ask('/api/documents', 'POST', { document: workDocument(`Editor ${n}`) });
    if (!made) return;
    await pause((every * n) / editors);
    for (let version = 1; performance.now() < until;) {
      const begun = performance.now();
      const saved = await ask(`/api/documents/${made.id}`, 'PUT', { baseVersion: version, document: workDocument(`Editor ${n}, ${version}`) });
      times.push(performance.now() - begun);
      if (saved) version = saved.version;
      await pause(Math.max(0, every - (performance.now() - begun)));
    }
  };
  await Promise.all(Array.from({ length: editors }, (_, n) => editor(n)));
  times.sort((a, b) => a - b);
  const at = (share: number): number => times[Math.min(times.length - 1, Math.floor(times.length * share))] ?? NaN;
  return { saves: times.length, errors, p50: at(0.5), p99: at(0.99), longest: at(1) };
}
