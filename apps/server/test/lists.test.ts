/** Lists, handouts, pictures and limits: what the API says beside storing documents. */
import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { pino } from 'pino';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { DocumentCard } from '@filaxis/protocol';
import { send, startServer, type TestServer } from './server.js';

let server: TestServer;
const lines: { req?: { url: string } }[] = [];
const address = (): string => `${server.url}/api/documents`;
const document = (title: string, more: object = {}): object => ({ format: 'filaxis-graph', version: 1, title, nodes: [], wires: [], ...more });
const create = async (title: string, more: object = {}): Promise<string> =>
  ((await send(address(), 'POST', { document: document(title, more) })).body as { id: string }).id;
const titles = async (query = ''): Promise<string[]> => ((await send(`${address()}${query}`)).body as DocumentCard[]).map(({ title }) => title);

beforeAll(async () => {
  const log = pino({ level: 'info' }, { write: (line) => void lines.push(JSON.parse(line)) });
  server = await startServer('lists', {}, log);
});
afterAll(() => server.close());

describe('the list', () => {
  test('has the newest change first, or names in their order; deleted ones are left out and come back', async () => {
    const ids: Record<string, string> = {};
    for (const title of ['Bight', 'anchor', 'Cleat']) ids[title] = await create(title);
    expect(await titles()).toEqual(['Cleat', 'anchor', 'Bight']);
    expect(await titles('?sort=name')).toEqual(['anchor', 'Bight', 'Cleat']);
    expect((await send(`${address()}/${ids['Bight']}`, 'PUT', { baseVersion: 1, document: document('Bight, long') })).status).toBe(200);
    expect(await titles()).toEqual(['Bight, long', 'Cleat', 'anchor']);
    await send(`${address()}/${ids['Cleat']}`, 'DELETE');
    expect(await titles()).toEqual(['Bight, long', 'anchor']);
    expect(await titles('?search=cleat')).toEqual([]);
    expect((await send(`${address()}/${ids['Cleat']}`)).status).toBe(404);
  });

  test('counts nodes and dials of the newest version, and says when it was changed', async () => {
    const before = Date.now();
    const id = await create('Counted', { nodes: [{ id: 'a', type: 'lay.line' }] });
    const dial = { id: 'd', label: 'D', kind: 'number', value: 1 };
    const more = { nodes: ['a', 'b', 'c'].map((node) => ({ id: node, type: 'lay.line' })), dials: [dial, { ...dial, id: 'e' }] };
    await send(`${address()}/${id}`, 'PUT', { baseVersion: 1, document: document('Counted', more) });
    const card = ((await send(address())).body as DocumentCard[]).find((each) => each.id === id)!;
    expect(card).toMatchObject({ version: 2, nodes: 3, dials: 2, sample: false });
    const changed = new Date(card.updatedAt).getTime();
    expect(changed).toBeGreaterThanOrEqual(before - 1000);
    expect(changed).toBeLessThanOrEqual(Date.now() + 1000);
  });

  test('pages follow each other without gaps or doubles', async () => {
    const all = await titles('?sort=name');
    const paged: string[] = [];
    for (let from = 0; from < all.length; from += 2) paged.push(...(await titles(`?sort=name&from=${from}&count=2`)));
    expect(paged).toEqual(all);
  });
});

test('closing the handout of one document leaves those of others', async () => {
  const [first, second] = [await create('First'), await create('Second')];
  const open = async (id: string): Promise<string> => ((await send(`${address()}/${id}/handout`, 'POST')).body as { token: string }).token;
  const [a, b] = [await open(first), await open(second)];
  expect(a).not.toBe(b);
  // Opened again it is the same link.
  expect(await open(first)).toBe(a);
  await send(`${address()}/${first}/handout`, 'DELETE');
  expect((await send(`${server.url}/api/handouts/${a}`)).status).toBe(404);
  expect((await send(`${server.url}/api/handouts/${b}`)).body).toMatchObject({ document: { title: 'Second' } });
});

test('pictures are PNG, of a size that a card can have, and of versions that there are', async () => {
  const id = await create('Pictured');
  const put = async (version: number, body: Buffer, type = 'image/png'): Promise<number> =>
    (await fetch(`${address()}/${id}/versions/${version}/picture`, { method: 'PUT', headers: { 'content-type': type }, body: new Uint8Array(body) })).status;
  const png = readFileSync(resolve(import.meta.dirname, 'pixel.png'));
  expect(await put(1, png)).toBe(204);
  expect(await put(1, Buffer.from('GIF89a'))).toBe(400);
  expect(await put(1, Buffer.concat([png, Buffer.alloc(20_000_000)]))).toBe(413);
  expect(await put(9, png)).toBe(404);
});

test('brackets in texts are no depth, and depth is counted where it is', async () => {
  const made = await send(address(), 'POST', { document: document(`A "quoted\\" ${'[{'.repeat(90)}`) });
  expect(made.status).toBe(201);
  // As many side by side as one likes.
  expect((await send(address(), 'POST', { document: document('Wide', { notes: Array.from({ length: 300 }, () => ({ at: [0, 0] })) }) })).status).toBe(201);
});

test('limits are told by the headers of the draft, and by no older ones', async () => {
  const { headers } = await fetch(`${server.url}/api/health`);
  expect(headers.get('ratelimit-policy')).toContain('w=60');
  expect(headers.get('x-ratelimit-limit')).toBeNull();
});

test('requests of the API are in the log, pages and their files are not', async () => {
  lines.length = 0;
  await fetch(`${server.url}/api/health`);
  await fetch(`${server.url}/nowhere.js`);
  await expect.poll(() => lines.map(({ req }) => req?.url)).toEqual(['/api/health']);
});
