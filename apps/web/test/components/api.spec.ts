/** The server's API as the page asks it, and what it makes of answers that are not as hoped. */
import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { emptyDocument } from '@filaxis/core';
import { ApiError, ApiService } from '../../src/app/shared/api.service';

let api: ApiService;
let http: HttpTestingController;
beforeEach(() => {
  TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting()] });
  api = TestBed.inject(ApiService);
  http = TestBed.inject(HttpTestingController);
});
afterEach(() => http.verify());

/** The one request that is open: `GET /api/…`, its body, and a way to answer it. */
function asked(): {
  what: string;
  body: unknown;
  answer: (given: object | string | null) => void;
  refuse: (status: number, given?: object | string | null) => void;
} {
  const request = http.expectOne(() => true);
  const { method, urlWithParams, body } = request.request;
  return {
    what: `${method} ${urlWithParams}`,
    body,
    answer: (given) => request.flush(given),
    refuse: (status, given = null) => (status ? request.flush(given as string, { status, statusText: 'No' }) : request.error(new ProgressEvent('error'))),
  };
}
const failure = (promise: Promise<unknown>): Promise<ApiError> => promise.then(() => Promise.reject(new Error('It went well.')), (error: ApiError) => error); // prettier-ignore

test('every question goes where the server hears it', async () => {
  const png = new Blob(['png']);
  const calls: [() => Promise<unknown>, string, unknown?][] = [
    [() => api.list({ from: 100, count: 50, search: 'a & b', sort: 'name' }), 'GET /api/documents?from=100&count=50&search=a+%26+b&sort=name'],
    [() => api.open('d'), 'GET /api/documents/d'],
    [() => api.save('d', 3, emptyDocument, 'key'), 'PUT /api/documents/d', { document: emptyDocument, baseVersion: 3, key: 'key' }],
    [() => api.remove('d'), 'DELETE /api/documents/d'],
    [() => api.restore('d'), 'POST /api/documents/d/restore'],
    [() => api.setPicture('d', 4, png), 'PUT /api/documents/d/versions/4/picture', png],
    [() => api.setPicture('d', 4, png, { faces: 12, points: 8 }), 'PUT /api/documents/d/versions/4/picture?faces=12&points=8', png],
    [() => api.openHandout('d'), 'POST /api/documents/d/handout'],
    [() => api.closeHandout('d'), 'DELETE /api/documents/d/handout'],
    [() => api.handout('a/b'), 'GET /api/handouts/a%2Fb'],
    [() => api.versions('d'), 'GET /api/documents/d/versions'],
    [() => api.version('d', 2), 'GET /api/documents/d/versions/2'],
    [() => api.setNote('d', 2, 'Before the storm'), 'PUT /api/documents/d/versions/2/note', { note: 'Before the storm' }],
    [() => api.report('x'.repeat(3000), 'y'.repeat(5000)), 'POST /api/reports/error', { message: 'x'.repeat(2000), where: 'y'.repeat(4000), page: location.pathname }],
  ]; // prettier-ignore
  for (const [call, what, body = null] of calls) {
    const answered = call();
    const request = asked();
    expect([request.what, request.body ?? null]).toEqual([what, body]);
    request.answer({ version: 9 });
    expect(await answered).toEqual({ version: 9 });
  }
  const long = api.list({ from: 0, count: 1, search: 's'.repeat(300), sort: 'changed' });
  const { what, answer } = asked();
  expect(what).toContain(`search=${'s'.repeat(200)}&`);
  answer([]);
  await long;
});

test('files go and come as bytes, a document’s text as it is', async () => {
  const put = api.putAsset('f00', 'a b.svg', Uint8Array.of(1, 2, 3));
  const sent = asked();
  expect([sent.what, (sent.body as Blob).size, (sent.body as Blob).type]).toEqual(['PUT /api/assets/f00?name=a%20b.svg', 3, 'application/octet-stream']);
  sent.answer(null);
  await put;
  api.assetFolder = '/api/handouts/t/assets';
  const got = api.asset('f00');
  const request = http.expectOne('/api/handouts/t/assets/f00');
  request.flush(Uint8Array.of(4, 5).buffer);
  expect(await got).toEqual(Uint8Array.of(4, 5));
  const text = api.text('d');
  http.expectOne('/api/documents/d/text').flush('{"title": 1.50}');
  expect(await text).toBe('{"title": 1.50}');
});

describe('a refusal', () => {
  test('is told in the server’s words where it has some, with its status', async () => {
    const problem = { type: 'about:blank', status: 409, title: 'Newer', detail: 'Somebody saved in between.' };
    const refused = failure(api.open('d'));
    asked().refuse(409, problem);
    const error = await refused;
    expect([error instanceof ApiError, error.status, error.message, error.problem]).toEqual([true, 409, 'Somebody saved in between.', problem]);
    // As text, where text was asked for.
    const asText = failure(api.text('d'));
    asked().refuse(404, JSON.stringify({ ...problem, detail: 'There is no such document.' }));
    expect((await asText).message).toBe('There is no such document.');
  });

  test('without words is told by its status; no answer at all as a server that cannot be reached', async () => {
    for (const [status, given, message] of [[500, 'Bad gateway <html>', 'The server answered 500.'], [418, {}, 'The server answered 418.'], [0, null, 'The server cannot be reached.']] as const) {
      const refused = failure(status === 500 ? api.text('d') : api.open('d'));
      asked().refuse(status, given);
      const error = await refused;
      expect([error.status, error.message, error.problem]).toEqual([status, message, null]);
    } // prettier-ignore
  });

  test('a picture that is not there is none; other refusals of it are told', async () => {
    const none = api.picture('d');
    http.expectOne('/api/documents/d/picture').flush(new Blob(), { status: 404, statusText: 'No' });
    expect(await none).toBeNull();
    const away = failure(api.picture('d'));
    http.expectOne('/api/documents/d/picture').flush(new Blob(), { status: 503, statusText: 'Away' });
    expect((await away).status).toBe(503);
    const there = api.picture('d');
    http.expectOne('/api/documents/d/picture').flush(new Blob(['png']));
    expect((await there)!.size).toBe(3);
  });
});

describe('a document that is made', () => {
  beforeEach(() => vi.useFakeTimers({ toFake: ['setTimeout'] }));
  afterEach(() => vi.useRealTimers());

  test.each([0, 502, 503, 504])('is asked for again with the same key when the answer is lost (%i)', async (status) => {
    const made = api.create(emptyDocument);
    const first = asked();
    first.refuse(status);
    await vi.advanceTimersByTimeAsync(1499);
    http.expectNone(() => true);
    await vi.advanceTimersByTimeAsync(1);
    const second = asked();
    expect([second.what, second.body]).toEqual(['POST /api/documents', first.body]);
    second.answer({ id: 'd', version: 1 });
    expect(await made).toEqual({ id: 'd', version: 1 });
  });

  test('is not asked for again when it was refused; another has another key', async () => {
    const refused = failure(api.create(emptyDocument));
    const first = asked();
    first.refuse(400, { detail: 'No title.' });
    expect((await refused).message).toBe('No title.');
    const other = api.create(emptyDocument);
    const second = asked();
    expect((second.body as { key: string }).key).not.toBe((first.body as { key: string }).key);
    second.answer({});
    await other;
  });
});
