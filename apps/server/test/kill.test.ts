import { spawn, type ChildProcess } from 'node:child_process';
import { connect } from 'node:net';
import { resolve } from 'node:path';
import { expect, test } from 'vitest';
import { newDatabase, send } from './server.js';

const root = resolve(import.meta.dirname, '../../..');

/** The server as a process of its own, as `npm start` runs it. */
async function launch(databaseUrl: string): Promise<{ process: ChildProcess; url: string }> {
  const child = spawn(process.execPath, ['--import', 'tsx', 'apps/server/src/main.ts'], {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    env: { ...process.env, DATABASE_URL: databaseUrl, PORT: '0', FILAXIS_LOG: 'silent' },
  });
  const url = await new Promise<string>((done, failed) => {
    child.once('message', (message) => done((message as { url: string }).url));
    child.once('exit', (code) => failed(new Error(`The server ended with ${code}.`)));
  });
  return { process: child, url };
}

const ended = (child: ChildProcess): Promise<number | null> => new Promise((done) => child.once('exit', done));

test('killing the server while it saves loses no version that was reported saved', async () => {
  const databaseUrl = await newDatabase('kill');
  const first = await launch(databaseUrl);
  const document = (title: string): object => ({ format: 'filaxis-graph', version: 1, title, nodes: [], wires: [] });
  const { id } = (await send(`${first.url}/api/documents`, 'POST', { document: document('v1') })).body as { id: string };
  let reported = 1;
  const dead = ended(first.process);
  setTimeout(() => first.process.kill('SIGKILL'), 400);
  try {
    for (;;) {
      const answer = await send(`${first.url}/api/documents/${id}`, 'PUT', { baseVersion: reported, document: document(`v${reported + 1}`) });
      expect(answer.status).toBe(200);
      reported = (answer.body as { version: number }).version;
    }
  } catch (error) {
    // The connection broke: that is the kill.
    expect((error as Error).message).toMatch(/fetch failed|terminated|other side closed/);
  }
  await dead;
  expect(reported).toBeGreaterThan(5);

  const second = await launch(databaseUrl);
  const stored = (await send(`${second.url}/api/documents/${id}`)).body as { version: number; document: { title: string } };
  expect(stored.version).toBeGreaterThanOrEqual(reported);
  expect(stored.document.title).toBe(`v${stored.version}`);
  const known = (await send(`${second.url}/api/documents/${id}/versions`)).body as { version: number }[];
  expect(known.map(({ version }) => version).slice(-Math.min(known.length, 1000))).toContain(reported);

  // A polite stop ends with 0.
  const stopped = ended(second.process);
  second.process.kill('SIGTERM');
  expect(await stopped).toBe(0);
});

test('a stop waits for the request that is at work; a second one does not', async () => {
  const { process: child, url } = await launch(await newDatabase('stops'));
  const { hostname, port } = new URL(url);
  // A save of which the rest never comes.
  const socket = connect(Number(port), hostname);
  socket.on('error', () => undefined);
  socket.write(`POST /api/documents HTTP/1.1\r\nHost: ${hostname}:${port}\r\nContent-Type: application/json\r\nContent-Length: 100\r\n\r\n{`);
  await send(`${url}/api/health`);
  let code: number | null = null;
  const over = ended(child).then((given) => (code = given));
  child.kill('SIGTERM');
  // It takes no new connections from when it has heard the first.
  while (await send(`${url}/api/health`).then(() => true, () => false)); // prettier-ignore
  expect(code).toBeNull();
  child.kill('SIGTERM');
  expect(await over).toBe(1);
  socket.destroy();
});
