/** The pages of the application, as the server gives them: from wherever they have been put. */
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { resolve } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { startServer, type TestServer } from './server.js';

const above = mkdtempSync(resolve(tmpdir(), 'pages-'));
// People put programs below folders that are hidden.
const folder = resolve(above, '.apps/web');
const page = '<!doctype html><title>Pages</title>';
let server: TestServer;

beforeAll(async () => {
  mkdirSync(folder, { recursive: true });
  writeFileSync(resolve(above, 'secret.txt'), 'not for others');
  writeFileSync(resolve(folder, 'index.html'), page);
  writeFileSync(resolve(folder, 'main-5DE55L55.js'), 'export {};');
  writeFileSync(resolve(folder, 'favicon.svg'), '<svg xmlns="http://www.w3.org/2000/svg"/>');
  server = await startServer('pages', { webFolder: folder });
});
afterAll(async () => {
  await server.close();
  rmSync(above, { recursive: true });
});

const get = async (path: string): Promise<{ status: number; type: string; kept: string | null; text: string }> => {
  const response = await fetch(`${server.url}${path}`);
  const { status, headers } = response;
  return { status, type: headers.get('content-type')!.split(';')[0], kept: headers.get('cache-control'), text: await response.text() };
};

test('every place of the application is the one page, which is asked for anew each time', async () => {
  const given = { status: 200, type: 'text/html', kept: 'no-cache', text: page };
  for (const path of ['/', '/index.html', '/d/0b6f0c3e-5f0e-4c57-8f43-0c8f3a0d6c55', '/h/token', '/formulas', '/d/with.dot/history'])
    expect(await get(path), path).toEqual(given);
});

test('parts named by what is in them are kept for good, others are asked for anew', async () => {
  expect(await get('/main-5DE55L55.js')).toMatchObject({ status: 200, type: 'text/javascript', kept: 'public, max-age=31536000, immutable' });
  expect(await get('/favicon.svg')).toMatchObject({ status: 200, type: 'image/svg+xml', kept: 'no-cache' });
});

test('a part of an older page is gone, not a page; nothing beside the folder is given', async () => {
  for (const path of ['/main-AAAAAAAA.js', '/assets/lost.wasm', '/api/nothing']) {
    const { status, type, text } = await get(path);
    expect([status, type, text.includes('<title>')], path).toEqual([404, 'application/problem+json', false]);
  }
  for (const path of ['/..%2f..%2fsecret.txt', '/%2e%2e/%2e%2e/secret.txt', '/x/..%2f..%2f..%2fsecret.txt']) {
    const { status, text } = await get(path);
    expect([status, text.includes('not for others')], path).toEqual([404, false]);
  }
});
