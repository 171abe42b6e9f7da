/** Who may ask, how often, and what becomes of requests that are at fault or come while the database is away. */
import { request as httpRequest } from 'node:http';
import { spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { resolve } from 'node:path';
import { pino } from 'pino';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { DeletedDocument, DocumentCard } from '@filaxis/protocol';
import { readConfig } from '../src/config.js';
import { DocumentStore } from '../src/store/documents.js';
import { load } from './load.js';
import { send, startServer, type TestServer } from './server.js';

let server: TestServer;
const documents = (): string => `${server.url}/api/documents`;
const document = (title: string, more: object = {}): object => ({ format: 'filaxis-graph', version: 1, title, nodes: [], wires: [], ...more });
const create = async (title: string, more: object = {}, to = server): Promise<string> =>
  (await send(`${to.url}/api/documents`, 'POST', { document: document(title, more) }).then(({ body }) => body as { id: string })).id;

/** A request with any headers, which fetch would not send. */
const raw = (
  url: string,
  method: string,
  headers: Record<string, string>,
  body = '',
): Promise<{ status: number; headers: NodeJS.Dict<string | string[]>; text: string }> =>
  new Promise((done, failed) => {
    const asked = httpRequest(url, { method, headers: { ...headers, ...(body && { 'content-length': String(Buffer.byteLength(body)) }) } }, (response) => {
      const parts: Buffer[] = [];
      response.on('data', (part: Buffer) => parts.push(part));
      response.on('end', () => done({ status: response.statusCode!, headers: response.headers, text: Buffer.concat(parts).toString() }));
    });
    asked.on('error', failed);
    asked.end(body);
  });

beforeAll(async () => {
  server = await startServer('trust');
});
afterAll(() => server.close());

describe('saves that are asked again', () => {
  test('with their key are done once: the same version, the same document', async () => {
    const key = randomUUID();
    const made = await send(documents(), 'POST', { document: document('Once'), key });
    const again = await send(documents(), 'POST', { document: document('Once'), key });
    expect([made.status, again.body]).toEqual([201, made.body]);
    const { id } = made.body as { id: string };
    const save = (saveKey: string, title: string): ReturnType<typeof send> => send(`${documents()}/${id}`, 'PUT', { baseVersion: 1, document: document(title), key: saveKey });
    const mine = randomUUID();
    expect([(await save(mine, 'Mine')).body, (await save(mine, 'Mine')).body]).toEqual([{ id, version: 2 }, { id, version: 2 }]);
    expect((await save(randomUUID(), 'Another')).status).toBe(409);
    expect((await send(`${documents()}/${id}`)).body).toMatchObject({ version: 2, key: mine });
    const race = randomUUID();
    const answers = await Promise.all(Array.from({ length: 12 }, () => send(`${documents()}/${id}`, 'PUT', { baseVersion: 2, document: document('Race'), key: race })));
    expect(new Set(answers.map(({ status, body }) => `${status} ${JSON.stringify(body)}`))).toEqual(new Set([`200 ${JSON.stringify({ id, version: 3 })}`]));
    expect((await send(`${documents()}/${id}/versions`)).body).toHaveLength(3);
  }); // prettier-ignore
});

describe('while the database is away', () => {
  test('requests are told to ask again, and are answered when it is back; nothing has to be started', async () => {
    const own = await startServer('away');
    const id = await create('Float', {}, own);
    // All of its connections end, as when PostgreSQL stops, also one that is in use.
    const slow = own.database.pool.query('select pg_sleep(20)').then(
      () => 'done',
      (error: { code?: string }) => error.code,
    );
    await new Promise((done) => setTimeout(done, 100));
    const killer = await own.database.pool.connect();
    killer.on('error', () => undefined);
    await killer.query('select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()');
    killer.release();
    expect(await slow).toBe('57P01');
    expect((await send(`${own.url}/api/documents/${id}`)).status).toBe(200);
    // Not reached at all.
    const { options } = own.database.pool;
    const port = options.port;
    Object.assign(options, { port: 1, connectionString: undefined, host: '127.0.0.1' });
    const idle = await own.database.pool.connect();
    idle.release(true);
    for (let i = 0; i < 12; i++) await own.database.pool.connect().then((client) => client.release(true), () => undefined); // prettier-ignore
    const response = await fetch(`${own.url}/api/documents/${id}`);
    expect([response.status, response.headers.get('retry-after'), response.headers.get('content-type')]).toEqual([503, '1', 'application/problem+json; charset=utf-8']);
    expect(await response.json()).toMatchObject({ status: 503, title: 'Database away' });
    Object.assign(options, { port });
    await own.close();
  }); // prettier-ignore
});

describe('who may ask', () => {
  test('requests by another name are refused, so that a name bound to this address reads and deletes nothing', async () => {
    const id = await create('Kept');
    const { port } = new URL(server.url);
    for (const host of ['evil.example', `evil.example:${port}`, '127.0.0.1.evil.example'])
      for (const [method, path] of [['GET', '/api/documents'], ['DELETE', `/api/documents/${id}`], ['GET', '/']] as const)
        expect([host, (await raw(`${server.url}${path}`, method, { host })).status]).toEqual([host, 421]);
    for (const host of [`localhost:${port}`, `127.0.0.1:${port}`, 'LOCALHOST', `[::1]:${port}`]) expect((await raw(`${server.url}/api/documents/${id}`, 'GET', { host })).status).toBe(200);
    const named = await startServer('named', { hosts: ['rope.example'] });
    expect((await raw(`${named.url}/api/documents`, 'GET', { host: 'rope.example' })).status).toBe(200);
    await named.close();
  }); // prettier-ignore
  test('changes that a page of another origin asks for are refused; those of its own, and of programs, are taken', async () => {
    const { host } = new URL(server.url);
    const body = JSON.stringify({ document: document('From elsewhere') });
    const change = async (headers: Record<string, string>): Promise<number> => (await raw(documents(), 'POST', { host, 'content-type': 'application/json', ...headers }, body)).status;
    expect(await change({ origin: 'http://evil.example' })).toBe(403);
    expect(await change({ origin: 'null' })).toBe(403);
    expect(await change({ origin: `http://${host}.evil.example` })).toBe(403);
    expect(await change({ 'sec-fetch-site': 'cross-site' })).toBe(403);
    expect(await change({ origin: `http://${host}`, 'sec-fetch-site': 'same-origin' })).toBe(201);
    expect(await change({})).toBe(201);
  }); // prettier-ignore
  test('beyond loopback there has to be a token, long enough, from the environment or a file', () => {
    const base = { DATABASE_URL: 'postgres://x', FILAXIS_HOST: '0.0.0.0' };
    expect(() => readConfig(base)).toThrow('FILAXIS_HOST is 0.0.0.0, which others can reach. Give a token in FILAXIS_TOKEN');
    expect(() => readConfig({ ...base, FILAXIS_TOKEN: 'short' })).toThrow('fewer than 16 characters');
    const file = resolve(mkdtempSync(resolve(tmpdir(), 'filaxis-token-')), 'token');
    writeFileSync(file, 'a token of the file\n');
    expect(readConfig({ ...base, FILAXIS_TOKEN_FILE: file }).token).toBe('a token of the file');
    expect(readConfig({ DATABASE_URL: 'postgres://x' }).token).toBeNull();
  });
  test('without the token nothing is told but handouts; a sign-in page gives a cookie that pages cannot read', async () => {
    const own = await startServer('token', { token: 'a token for the tests' });
    const bearer = { authorization: 'Bearer a token for the tests', 'content-type': 'application/json' };
    const bytes = Buffer.from('post');
    const hash = 'c8ad1f40'.padEnd(64, '0');
    const real = (await import('node:crypto')).createHash('sha256').update(bytes).digest('hex');
    expect(hash).not.toBe(real);
    expect((await raw(`${own.url}/api/assets/${real}`, 'PUT', { ...bearer, 'content-type': 'application/octet-stream' }, bytes.toString())).status).toBe(204);
    const made = await raw(`${own.url}/api/documents`, 'POST', bearer, JSON.stringify({ document: document('Secret', { assets: { [real]: { name: 'post.obj', bytes: 4 } } }) }));
    const { id } = JSON.parse(made.text) as { id: string };
    for (const path of ['/api/documents', `/api/documents/${id}`, `/api/documents/${id}/versions/1`, `/api/documents/${id}/picture`, `/api/assets/${real}`])
      expect([path, (await raw(own.url + path, 'GET', {})).status]).toEqual([path, 401]);
    expect((await raw(`${own.url}/api/documents/${id}`, 'DELETE', { authorization: 'Bearer a token for the testz' })).status).toBe(401);
    expect((await raw(`${own.url}/d/${id}`, 'GET', {})).headers['location']).toBe('/sign-in');
    // Whoever looks at a handout is not sent away when something goes wrong there.
    expect((await raw(`${own.url}/api/reports/error`, 'POST', { 'content-type': 'application/json' }, '{"message":"x"}')).status).toBe(204);
    // With the policy of no referrer a browser sends its form with the origin null.
    expect((await raw(`${own.url}/sign-in`, 'GET', {})).headers['referrer-policy']).toBe('same-origin');
    const form = { 'content-type': 'application/x-www-form-urlencoded' };
    expect((await raw(`${own.url}/sign-in`, 'POST', form, 'token=wrong')).status).toBe(401);
    const signedIn = await raw(`${own.url}/sign-in`, 'POST', form, 'token=a+token+for+the+tests');
    const [cookie] = signedIn.headers['set-cookie'] as string[];
    expect([signedIn.status, cookie]).toEqual([303, expect.stringMatching(/^filaxis=[\w-]{43}; .*HttpOnly; SameSite=Strict$/)]);
    expect(cookie).not.toContain('a token');
    expect((await raw(`${own.url}/api/documents`, 'GET', { cookie: `other=1; ${cookie.split(';')[0]}` })).status).toBe(200);
    // A handout gives its document and the files of it, and nothing else.
    const { token } = JSON.parse((await raw(`${own.url}/api/documents/${id}/handout`, 'POST', bearer)).text) as { token: string };
    expect((await raw(`${own.url}/api/handouts/${token}`, 'GET', {})).text).toContain('Secret');
    expect((await raw(`${own.url}/api/handouts/${token}/assets/${real}`, 'GET', {})).text).toBe('post');
    expect((await raw(`${own.url}/api/handouts/${token}/assets/${hash}`, 'GET', {})).status).toBe(404);
    expect((await raw(`${own.url}/api/handouts/${token}`, 'DELETE', {})).status).toBe(404);
    await own.close();
  }); // prettier-ignore
});

describe('deleted documents', () => {
  test('are gone with their versions, pictures and links after the time to undo; samples do not come again', async () => {
    const own = await startServer('purge');
    const store = new DocumentStore(own.database.db);
    const [kept, old] = [await create('Kept', {}, own), await create('Old', {}, own)];
    await send(`${own.url}/api/documents/${old}/handout`, 'POST');
    await store.create(document('Sample') as never, { sample: 'sample-one' });
    const sample = ((await send(`${own.url}/api/documents`)).body as DocumentCard[]).find(({ title }) => title === 'Sample')!.id;
    for (const id of [old, sample]) await send(`${own.url}/api/documents/${id}`, 'DELETE');
    expect(await store.purge(new Date(Date.now() - 60_000))).toBe(0);
    expect((await send(`${own.url}/api/documents/${old}/restore`, 'POST')).status).toBe(204);
    await send(`${own.url}/api/documents/${old}`, 'DELETE');
    // They are listed until they go, and one or all are let go by hand.
    const listed = async (): Promise<DeletedDocument[]> => (await send(`${own.url}/api/documents/deleted`)).body as DeletedDocument[];
    const third = await create('Third', {}, own);
    await send(`${own.url}/api/documents/${third}`, 'DELETE');
    const before = await listed();
    expect(before.map(({ title }) => title)).toEqual(['Third', 'Old', 'Sample']);
    expect(Date.parse(before[0].goesAt) - Date.parse(before[0].deletedAt)).toBe(24 * 3_600_000);
    expect((await send(`${own.url}/api/documents/deleted/${kept}`, 'DELETE')).status).toBe(404);
    expect((await send(`${own.url}/api/documents/deleted/${third}`, 'DELETE')).status).toBe(204);
    expect((await listed()).map(({ id }) => id)).toEqual([old, sample]);
    expect((await send(`${own.url}/api/documents/deleted`, 'DELETE')).status).toBe(204);
    expect(await listed()).toEqual([]);
    expect((await send(`${own.url}/api/documents/${old}/versions/1`)).status).toBe(404);
    for (const id of [old, sample]) expect((await send(`${own.url}/api/documents/${id}/restore`, 'POST')).status).toBe(404);
    expect(await store.purge(new Date(Date.now() + 1000))).toBe(0);
    const { rows } = await own.database.pool.query('select document_id from document_versions union select document_id from handouts');
    expect(rows).toEqual([{ document_id: kept }]);
    expect([...(await store.samples())]).toEqual(['sample-one']);
    await own.close();
  });
  test('versions of deleted documents are not given out', async () => {
    const id = await create('Gone');
    await send(`${documents()}/${id}`, 'DELETE');
    for (const path of ['', '/versions', '/versions/1', '/picture', '/versions/1/picture', '/text']) expect([path, (await send(`${documents()}/${id}${path}`)).status]).toEqual([path, 404]); // prettier-ignore
  });
});

describe('the list', () => {
  test('comes in pages, by words of the title, by change or by name; ten thousand documents within 300 ms a page', async () => {
    const own = await startServer('many');
    await own.database.pool.query(`
      with made as (insert into documents (title, version) select 'Rope number ' || n, 1 from generate_series(1, 10000) n returning id, title)
      insert into document_versions (document_id, version, title, document)
      select id, 1, title, json_build_object('format', 'filaxis-graph', 'version', 1, 'title', title, 'nodes', '[]'::json, 'wires', '[]'::json) from made`);
    const list = async (query: string): Promise<DocumentCard[]> => (await send(`${own.url}/api/documents?${query}`)).body;
    expect(await list('')).toHaveLength(100);
    expect((await list('search=NUMBER+777&count=200')).every(({ title }) => title.includes('777'))).toBe(true);
    const names = [...(await list('sort=name&count=200')), ...(await list('sort=name&from=200&count=200'))].map(({ title }) => title);
    expect(new Set(names).size).toBe(400);
    expect(names).toEqual([...names].sort());
    expect((await send(`${own.url}/api/documents?count=5000`)).status).toBe(400);
    // Asked as fast as it goes: the quickest of ten says what it takes, whatever else the machine does.
    const times = [];
    for (let i = 0; i < 10; i++) {
      const begun = performance.now();
      await list(`from=${i * 1000}&count=60`);
      times.push(performance.now() - begun);
    }
    expect(Math.min(...times)).toBeLessThan(300);
    await own.close();
  }, 60_000);
});

describe('requests at fault', () => {
  test('versions beyond what there can be, bodies that are nested too deep, half characters: refused, never a server error', async () => {
    const id = await create('Plain');
    for (const version of ['0', '-1', '1e3', '999999999', '99999999999999999999', 'NaN'])
      for (const path of [`versions/${version}`, `versions/${version}/picture`]) {
        const { status } = await send(`${documents()}/${id}/${path}`);
        expect([path, status >= 400 && status < 500]).toEqual([path, true]);
      }
    for (const baseVersion of [0, -1, 1.5, 2 ** 31, 2 ** 53, 1e300, '1', null]) expect([baseVersion, (await send(`${documents()}/${id}`, 'PUT', { baseVersion, document: document('x') })).status]).toEqual([baseVersion, 400]);
    const deep = `{"document":${'['.repeat(100_000)}${']'.repeat(100_000)}}`;
    const refused = await raw(documents(), 'POST', { 'content-type': 'application/json' }, deep);
    expect([refused.status, JSON.parse(refused.text).detail]).toEqual([400, expect.stringContaining('nested deeper than 100 levels (byte ')]);
    expect((await raw(documents(), 'POST', { 'content-type': 'application/json' }, `{"document":"${'['.repeat(5000)}"}`)).status).toBe(400);
  }); // prettier-ignore
  test('whatever is sent anywhere is answered with less than 500, without a stack or a raw error', async () => {
    const id = await create('Fuzzed');
    const paths = ['', '/deleted', `/deleted/${id}`, `/${id}`, `/${id}/restore`, `/${id}/handout`, `/${id}/versions/1/note`, `/${id}/versions/1/picture`, '/../reports/error', '/../reports/policy', '/%00', '/%ff', `/${id}/versions/%00`];
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...paths), fc.constantFrom('GET', 'POST', 'PUT', 'DELETE', 'PATCH'), fc.oneof(fc.json({ maxDepth: 4 }), fc.string()), fc.string({ maxLength: 20 }), async (path, method, body, query) => {
        const type = body.length % 3 ? 'application/json' : 'text/plain';
        const { status, text } = await raw(`${server.url}/api/documents${path}?${encodeURI(query.replace(/[\uD800-\uDFFF]/g, ''))}`, method, { 'content-type': type }, method === 'GET' ? '' : body);
        expect([path, method, status < 500, /TypeError|is not a function|at .*\(.*:\d+:\d+\)|node_modules/.test(text)]).toEqual([path, method, true, false]);
      }),
      { numRuns: 300 },
    );
  }); // prettier-ignore
});

test('reports of the page go to the log without more than they say', async () => {
  const lines: Record<string, unknown>[] = [];
  const own = await startServer(
    'reports',
    {},
    pino({ level: 'warn' }, { write: (line: string) => void lines.push(JSON.parse(line) as Record<string, unknown>) }),
  );
  const report = async (type: string, body: unknown): Promise<number> =>
    (await raw(`${own.url}/api/reports/policy`, 'POST', { 'content-type': type }, JSON.stringify(body))).status;
  const page = { message: 'x is undefined', where: 'main.js:1', page: '/d/1' };
  expect((await send(`${own.url}/api/reports/error`, 'POST', page)).status).toBe(204);
  expect((await send(`${own.url}/api/reports/error`, 'POST', { message: 'x', document: {} })).status).toBe(400);
  // As browsers send it by `report-uri` and by the Reporting API (W3C, Content Security Policy Level 3).
  const address = 'http://evil.example/x.js';
  expect(await report('application/csp-report', { 'csp-report': { 'violated-directive': 'script-src', 'blocked-uri': address } })).toBe(204);
  expect(await report('application/reports+json', [{ type: 'csp-violation', body: { effectiveDirective: 'img-src', blockedURL: 'data' } }])).toBe(204);
  expect(await report('application/csp-report', { 'csp-report': { 'violated-directive': 7, 'blocked-uri': 'u'.repeat(999) } })).toBe(204);
  expect(await report('application/csp-report', { 'csp-report': null })).toBe(204);
  // A report is small: 20,000 bytes with what is around it.
  const long = async (kind: string, before: string, after: string, bytes: number): Promise<number> => {
    const body = before + 'p'.repeat(bytes - before.length - after.length) + after;
    return (await raw(`${own.url}/api/reports/${kind}`, 'POST', { 'content-type': 'application/json' }, body)).status;
  };
  for (const [bytes, policy, error] of [
    [20_000, 204, 400],
    [20_001, 413, 413],
  ]) {
    expect(await long('policy', '{"csp-report":{"original-policy":"', '"}}', bytes)).toBe(policy);
    expect(await long('error', '{"message":"', '"}', bytes)).toBe(error);
  }
  await own.close();
  expect(lines.map(({ report: said, directive, blocked }) => said ?? [directive, blocked])).toEqual([
    page,
    ['script-src', address],
    ['img-src', 'data'],
    ['', 'u'.repeat(200)],
    ['', ''],
    ['', ''],
  ]);
});

test('many editors at once: every save is answered, none refused', async () => {
  const counts = await load(server.url, { editors: 60, every: 400, seconds: 4 });
  expect(counts.errors).toEqual([]);
  // Each editor was answered, however slow the machine is.
  expect(counts.saves).toBeGreaterThanOrEqual(60);
}, 60_000);

test('another start leaves a database alone that is in use, and says by whom', () => {
  const other = spawnSync(process.execPath, ['-e', "import('./scripts/postgres.mjs').then(({ startPostgres }) => startPostgres('pg-unit')).catch(({ message }) => console.log(message))"], { cwd: resolve(import.meta.dirname, '../../..'), encoding: 'utf8' }); // prettier-ignore
  expect(other.stdout).toMatch(/^The database in .*pg-unit is in use by process \d+, another start of Filaxis\. Stop that one first\.$/m);
});
