import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { DocumentCard } from '@filaxis/protocol';
import { loadSamples } from '../src/samples.js';
import { send, startServer, type TestServer } from './server.js';

let server: TestServer;
const documents = (): string => `${server.url}/api/documents`;
const document = (title: string, more: object = {}): object => ({ format: 'filaxis-graph', version: 1, edition: 3, title, nodes: [], wires: [], ...more });
const create = async (title: string): Promise<string> =>
  (await send(documents(), 'POST', { document: document(title) }).then(({ body }) => body as { id: string })).id;

beforeAll(async () => {
  server = await startServer('api');
});
afterAll(() => server.close());

describe('documents', () => {
  test('are created, read, saved as versions, and listed', async () => {
    const made = await send(documents(), 'POST', { document: document('Fender', { dials: [{ id: 'd', label: 'D', kind: 'number', value: 1 }] }) });
    expect(made.status).toBe(201);
    const { id } = made.body as { id: string };
    expect((await send(`${documents()}/${id}`)).body).toMatchObject({ id, version: 1, document: { title: 'Fender' } });
    expect((await send(`${documents()}/${id}`, 'PUT', { baseVersion: 1, document: document('Fender, blue') })).body).toEqual({ id, version: 2 });
    const cards = (await send(documents())).body as DocumentCard[];
    expect(cards.find((card) => card.id === id)).toMatchObject({ title: 'Fender, blue', version: 2, nodes: 0, dials: 0, pictureOf: null, sample: false });
    expect((await send(`${documents()}/${id}/versions`)).body).toMatchObject([{ version: 2 }, { version: 1, title: 'Fender' }]);
    expect((await send(`${documents()}/${id}/versions/1`)).body).toMatchObject({ document: { title: 'Fender' } });
  });

  test('with a text that no store can hold are refused with its place; one that is stored already is listed as damaged, hurts no other and can be deleted', async () => {
    for (const [title, more, place] of [
      ['a\u0000b', {}, '/document/title'],
      ['half \ud83d', {}, '/document/title'],
      ['Rope', { notes: [{ text: 'x\u0007' }] }, '/document/notes/0/text'],
      ['Rope', { view: { 'a\u0000': 1 } }, ''],
      ['Rope', { dials: [{ id: 'd', label: '\udc00', kind: 'number', value: 1 }] }, '/document/dials/0/label'],
    ] as const) {
      const refused = await send(documents(), 'POST', { document: document(title, more) });
      expect([refused.status, refused.type]).toEqual([400, 'application/problem+json']);
      expect(JSON.stringify(refused.body)).toContain(place);
    }
    const [bad, good] = [await create('Bad'), await create('Good')];
    expect((await send(`${documents()}/${good}/versions/1/note`, 'PUT', { note: 'x\u0000' })).status).toBe(400);
    await server.database.pool.query(
      `update document_versions set document = '{"format":"filaxis-graph","title":"\\u0000","nodes":[]}'::json where document_id = '${bad}'`,
    );
    const listed = await send(documents());
    expect(listed.status).toBe(200);
    const cards = listed.body as DocumentCard[];
    expect(cards.find(({ id }) => id === bad)).toMatchObject({ damaged: true });
    expect(cards.find(({ id }) => id === good)?.damaged).toBeUndefined();
    // Its text can be had all the same.
    const text = await fetch(`${documents()}/${bad}/text`);
    expect([text.status, await text.text()]).toEqual([200, '{"format":"filaxis-graph","title":"\\u0000","nodes":[]}']);
    expect((await send(`${documents()}/${bad}`, 'DELETE')).status).toBe(204);
    expect(((await send(documents())).body as DocumentCard[]).some(({ damaged }) => damaged)).toBe(false);
  });

  test('are given as text in their newest version', async () => {
    const id = await create('Old');
    await send(`${documents()}/${id}`, 'PUT', { baseVersion: 1, document: document('New') });
    expect((await send(`${documents()}/${id}/text`)).body).toEqual(document('New'));
  });

  test('a save from an older version is refused, and nothing is changed', async () => {
    const id = await create('Cleat');
    const save = (title: string): ReturnType<typeof send> => send(`${documents()}/${id}`, 'PUT', { baseVersion: 1, document: document(title) });
    expect((await save('one')).status).toBe(200);
    const refused = await save('two');
    expect(refused).toMatchObject({
      status: 409,
      type: 'application/problem+json',
      body: { title: 'Saved elsewhere', current: 2, detail: 'Version 2 is stored; this was made from version 1.' },
    });
    expect((await send(`${documents()}/${id}`)).body).toMatchObject({ version: 2, document: { title: 'one' } });
  });

  test('of twenty saves at once from one version exactly one is taken', async () => {
    const id = await create('Race');
    const answers = await Promise.all(
      Array.from({ length: 20 }, (_, i) => send(`${documents()}/${id}`, 'PUT', { baseVersion: 1, document: document(`try ${i}`) })),
    );
    expect(answers.filter(({ status }) => status === 200).length).toBe(1);
    expect(answers.filter(({ status }) => status === 409).length).toBe(19);
    expect((await send(`${documents()}/${id}/versions`)).body).toHaveLength(2);
  });

  test('are deleted and brought back with their versions', async () => {
    const id = await create('Oar');
    expect((await send(`${documents()}/${id}`, 'DELETE')).status).toBe(204);
    expect((await send(`${documents()}/${id}`)).status).toBe(404);
    expect((await send(`${documents()}/${id}`, 'DELETE')).status).toBe(404);
    expect((await send(`${documents()}/${id}`, 'PUT', { baseVersion: 1, document: document('x') })).status).toBe(404);
    expect((await send(`${documents()}/${id}/restore`, 'POST')).status).toBe(204);
    expect((await send(`${documents()}/${id}`)).body).toMatchObject({ document: { title: 'Oar' } });
  });

  test('keep the order of keys and wires, and 64-bit numbers', async () => {
    const odd = document('Odd', { view: { z: 0.1 + 0.2, a: 1e-300, m: { c: 1, b: 2 } } });
    const { id } = (await send(documents(), 'POST', { document: odd })).body as { id: string };
    const stored = ((await send(`${documents()}/${id}`)).body as { document: object }).document;
    expect(JSON.stringify(stored)).toBe(JSON.stringify(odd));
  });
});

describe('what cannot be used is refused with its place', () => {
  test('a body that is no JSON, or not of the form', async () => {
    const response = await fetch(documents(), { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{"document":' });
    expect(response.status).toBe(400);
    expect(await send(documents(), 'POST', { doc: 1 })).toMatchObject({
      status: 400,
      body: { errors: expect.arrayContaining([{ pointer: '', message: "must have required property 'document'" }]) },
    });
    expect((await send(`${documents()}?page=2`)).status).toBe(400);
  });

  test('a document that does not fit its schema', async () => {
    expect(await send(documents(), 'POST', { document: { ...document('x'), nodes: [{ id: 'a' }] } })).toMatchObject({
      status: 422,
      body: { title: 'Not a document', errors: [{ pointer: '/document/nodes/0', message: "The document here must have required property 'type'." }] },
    });
  });

  test('addresses that are none', async () => {
    expect((await send(`${documents()}/one`)).status).toBe(400);
    expect((await send(`${documents()}/00000000-0000-0000-0000-000000000000`)).status).toBe(404);
    expect(await send(`${server.url}/api/nothing`)).toMatchObject({ status: 404, type: 'application/problem+json' });
  });

  test('a document larger than the limit', async () => {
    const large = document('Large', { view: { text: 'x'.repeat(9 * 1024 * 1024) } });
    expect(await send(documents(), 'POST', { document: large })).toMatchObject({ status: 413, body: { title: 'Too large' } });
  });
});

describe('pictures and imported files', () => {
  const png = readFileSync(resolve(import.meta.dirname, 'pixel.png'));

  test('a picture is kept for the newest version that has one', async () => {
    const id = await create('Lamp');
    const put = (version: number, body: Buffer): Promise<Response> =>
      fetch(`${documents()}/${id}/versions/${version}/picture`, { method: 'PUT', headers: { 'content-type': 'image/png' }, body: new Uint8Array(body) });
    expect((await fetch(`${documents()}/${id}/picture`)).status).toBe(404);
    expect((await put(1, png)).status).toBe(204);
    expect((await put(2, png)).status).toBe(404);
    expect((await put(1, Buffer.from('no png'))).status).toBe(400);
    const back = await fetch(`${documents()}/${id}/picture`);
    // An address that names the version shows the same next time; one that does not is asked again.
    expect(back.headers.get('cache-control')).toBe('no-cache');
    expect((await fetch(`${documents()}/${id}/picture?v=1`)).headers.get('cache-control')).toContain('max-age=60');
    expect(back.headers.get('content-type')).toBe('image/png');
    expect(Buffer.from(await back.arrayBuffer()).equals(png)).toBe(true);
  });

  test('a file is stored under its hash, once, and only under its own', async () => {
    const bytes = Buffer.from('x,y,z\n0,0,0\n1,0,0\n');
    const hash = createHash('sha256').update(bytes).digest('hex');
    const put = (address: string): Promise<Response> =>
      fetch(`${server.url}/api/assets/${address}?name=rail.csv`, {
        method: 'PUT',
        headers: { 'content-type': 'application/octet-stream' },
        body: new Uint8Array(bytes),
      });
    expect((await put(hash)).status).toBe(204);
    expect((await put(hash)).status).toBe(204);
    expect((await put('0'.repeat(64))).status).toBe(400);
    expect(Buffer.from(await (await fetch(`${server.url}/api/assets/${hash}`)).arrayBuffer()).equals(bytes)).toBe(true);
    expect((await fetch(`${server.url}/api/assets/${'1'.repeat(64)}`)).status).toBe(404);
  });
});

test('the content policy forbids evaluated text and other hosts, and the page is isolated', async () => {
  const { headers } = await fetch(`${server.url}/api/health`);
  const policy = headers.get('content-security-policy') ?? '';
  expect(policy).toContain("script-src 'self' 'wasm-unsafe-eval'");
  expect(policy).not.toMatch(/'unsafe-eval'|https?:/);
  expect(headers.get('cross-origin-opener-policy')).toBe('same-origin');
  expect(headers.get('cross-origin-embedder-policy')).toBe('require-corp');
});

test('too many requests of a kind from one address are refused; having looked never stops a save', async () => {
  const strict = await startServer('strict', { limits: { changes: 3, looks: 5, files: 2, reports: 1 } });
  const answers = [];
  for (let i = 0; i < 7; i++) answers.push((await send(`${strict.url}/api/health`)).status);
  expect(answers).toEqual([200, 200, 200, 200, 200, 429, 429]);
  expect(await send(`${strict.url}/api/health`)).toMatchObject({ type: 'application/problem+json', body: { title: 'Too many requests' } });
  const saves = [];
  for (let i = 0; i < 4; i++) saves.push((await send(`${strict.url}/api/documents`, 'POST', { document: document(`d${i}`) })).status);
  expect(saves).toEqual([201, 201, 201, 429]);
  // Files and reports are counted by themselves, so they are let in still, and then told by their names.
  const tries = { files: [] as number[], reports: [] as number[] };
  for (let i = 0; i < 3; i++) tries.files.push((await send(`${strict.url}/api/assets/x`, 'PUT', {})).status);
  for (let i = 0; i < 2; i++) tries.reports.push((await send(`${strict.url}/api/reports/error`, 'POST', { message: 'x' })).status);
  expect([tries.files.map((status) => status === 429), tries.reports]).toEqual([[false, false, true], [204, 429]]); // prettier-ignore
  const detail = async (path: string, method: string): Promise<string> => ((await send(`${strict.url}${path}`, method, {})).body as { detail: string }).detail;
  expect(await detail('/api/assets/x', 'PUT')).toBe('More than 2 files in a minute came from this address.');
  expect(await detail('/sign-in', 'POST')).toBe('More than 2 files in a minute came from this address.');
  expect(await detail('/api/reports/error', 'POST')).toBe('More than 1 reports in a minute came from this address.');
  expect(await detail('/api/documents', 'POST')).toBe('More than 3 changes in a minute came from this address.');
  await strict.close();
});

test('demo documents are loaded once; deleted ones stay away', async () => {
  const own = await startServer('samples');
  const folder = resolve(import.meta.dirname, '../../../demo/documents');
  const files = readdirSync(folder).filter((name) => name.endsWith('.json')).length;
  expect(files).toBeGreaterThan(5);
  expect(await loadSamples(own.database.db, folder)).toBe(files);
  expect(await loadSamples(own.database.db, folder)).toBe(0);
  const cards = (await send(`${own.url}/api/documents`)).body as DocumentCard[];
  expect(cards.map(({ title, sample }) => ({ title, sample }))).toContainEqual({ title: 'Quay rail ropes', sample: true });
  expect(cards.every(({ pictureOf }) => pictureOf === 1)).toBe(true);
  await send(`${own.url}/api/documents/${cards[0].id}`, 'DELETE');
  expect(await loadSamples(own.database.db, folder)).toBe(0);
  await own.close();
});

describe('history and handouts', () => {
  const png = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 1, 2, 3]);
  const putPicture = (id: string, version: number, query = ''): Promise<Response> =>
    fetch(`${documents()}/${id}/versions/${version}/picture${query}`, { method: 'PUT', headers: { 'content-type': 'image/png' }, body: png });

  test('versions keep their pictures, counts and notes', async () => {
    const id = await create('Bollard');
    await send(`${documents()}/${id}`, 'PUT', { baseVersion: 1, document: document('Bollard, tall') });
    expect((await putPicture(id, 1, '?faces=42&points=7')).status).toBe(204);
    expect((await send(`${documents()}/${id}/versions/1/note`, 'PUT', { note: ' before the paint ' })).status).toBe(204);
    expect((await send(`${documents()}/${id}/versions`)).body).toMatchObject([
      { version: 2, note: null, pictured: false, faces: null },
      { version: 1, note: 'before the paint', pictured: true, faces: 42, points: 7 },
    ]);
    const picture = await fetch(`${documents()}/${id}/versions/1/picture`);
    expect(Buffer.from(await picture.arrayBuffer())).toEqual(png);
    expect((await fetch(`${documents()}/${id}/versions/2/picture`)).status).toBe(404);
    expect((await send(`${documents()}/${id}/versions/9/note`, 'PUT', { note: 'x' })).status).toBe(404);
    expect((await putPicture(id, 1, '?faces=many')).status).toBe(400);
  });

  test('of a long history the newest 200 pictures and those with a note are kept', async () => {
    const id = await create('Long');
    for (let version = 1; version <= 204; version++) await send(`${documents()}/${id}`, 'PUT', { baseVersion: version, document: document(`Long ${version}`) });
    for (const version of [1, 2, 3, 205]) {
      if (version === 2) await send(`${documents()}/${id}/versions/2/note`, 'PUT', { note: 'keep' });
      await putPicture(id, version);
    }
    const pictured = ((await send(`${documents()}/${id}/versions`)).body as { version: number; pictured: boolean }[]).filter((each) => each.pictured);
    expect(pictured.map(({ version }) => version)).toEqual([205, 2]);
  });

  test('a handout shows the newest version under a secret link, until it is closed', async () => {
    const id = await create('Lantern');
    const { token } = (await send(`${documents()}/${id}/handout`, 'POST')).body as { token: string };
    expect(token).toMatch(/^[A-Za-z0-9_-]{22}$/);
    expect((await send(`${documents()}/${id}/handout`, 'POST')).body).toEqual({ token });
    await send(`${documents()}/${id}`, 'PUT', { baseVersion: 1, document: document('Lantern, lit') });
    const shown = await send(`${server.url}/api/handouts/${token}`);
    expect(shown.body).toMatchObject({ version: 2, document: { title: 'Lantern, lit' } });
    expect(JSON.stringify(shown.body)).not.toContain(id);
    expect((await send(`${documents()}/${id}/handout`, 'DELETE')).status).toBe(204);
    expect((await send(`${server.url}/api/handouts/${token}`)).status).toBe(404);
    expect((await send(`${server.url}/api/handouts/short`)).status).toBe(400);
    expect((await send(`${documents()}/00000000-0000-4000-8000-000000000000/handout`, 'POST')).status).toBe(404);
  });

  test('a handout gives the files of its document, and no others that the server has', async () => {
    const stored = async (text: string): Promise<string> => {
      const bytes = new TextEncoder().encode(text);
      const hash = createHash('sha256').update(bytes).digest('hex');
      const put = await fetch(`${server.url}/api/assets/${hash}`, { method: 'PUT', headers: { 'content-type': 'application/octet-stream' }, body: bytes });
      expect(put.status).toBeLessThan(300);
      return hash;
    };
    const [own, other] = [await stored('v 0 0 0\n'), await stored('v 1 1 1\n')];
    const handed = { ...document('Handed'), assets: { [own]: { name: 'own.obj', bytes: 8 } } };
    const { id } = (await send(documents(), 'POST', { document: handed })).body as { id: string };
    const { token } = (await send(`${documents()}/${id}/handout`, 'POST')).body as { token: string };
    const given = await fetch(`${server.url}/api/handouts/${token}/assets/${own}`);
    expect([given.status, await given.text()]).toEqual([200, 'v 0 0 0\n']);
    const refused = await send(`${server.url}/api/handouts/${token}/assets/${other}`);
    expect([refused.status, (refused.body as { detail: string }).detail]).toEqual([404, 'This handout has no such file.']);
  });

  test('the handout of a deleted document leads nowhere', async () => {
    const id = await create('Gone');
    const { token } = (await send(`${documents()}/${id}/handout`, 'POST')).body as { token: string };
    await send(`${documents()}/${id}`, 'DELETE');
    expect((await send(`${server.url}/api/handouts/${token}`)).status).toBe(404);
  });
});
