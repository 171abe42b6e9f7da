/** What an error means to the caller (RFC 9457), and what of it is logged; what of a body is refused before it is parsed. */
import type { NextFunction, Request, Response } from 'express';
import { describe, expect, test } from 'vitest';
import { DocumentError } from '@filaxis/core';
import type { Logger } from 'pino';
import { isAway } from '../src/db/away.js';
import { problemHandler, problemOf } from '../src/http/problems.js';
import { requireShallow } from '../src/http/validate.js';
import { BadRequest, Conflict, NotFound, Refused } from '../src/store/errors.js';

const coded = (code: string, cause?: Error): Error => Object.assign(new Error('x', { cause }), { code });
const withStatus = (status: unknown, type?: string): Error => Object.assign(new Error('a header is wrong'), { status, type });

describe('an error is', () => {
  test.each([
    ['a bad request, with the places', new BadRequest('no', [{ pointer: '/a', message: 'b' }]), { status: 400, title: 'Bad request', detail: 'no', errors: [{ pointer: '/a', message: 'b' }] }],
    ['not a document, with places in it', new DocumentError([{ pointer: '/nodes', message: 'are missing' }]), { status: 422, title: 'Not a document', detail: 'are missing', errors: [{ pointer: '/document/nodes', message: 'are missing' }] }],
    ['not there', new NotFound('gone'), { status: 404, title: 'Not found', detail: 'gone' }],
    ['saved elsewhere, with the version that is there', new Conflict('later', 7), { status: 409, title: 'Saved elsewhere', detail: 'later', current: 7 }],
    ['refused as it says', new Refused(421, 'Elsewhere', 'not here'), { status: 421, title: 'Elsewhere', detail: 'not here' }],
    ['too large', withStatus(413, 'entity.too.large'), { status: 413, title: 'Too large' }],
    ['not JSON', withStatus(400, 'entity.parse.failed'), { status: 400, title: 'Not JSON', detail: 'The body is not JSON: a header is wrong.' }],
    ['what a part of the server says of the request', withStatus(400), { status: 400, title: 'Bad request', detail: 'a header is wrong' }],
    ['the same up to 499', withStatus(499), { status: 499 }],
    ['our fault from 500 on', withStatus(500), { status: 500, detail: 'Something went wrong on the server; nothing was saved by this request.' }],
    ['our fault below 400', withStatus(399), { status: 500 }],
    ['our fault without a number', withStatus('404'), { status: 500 }],
    ['our fault, of which nothing is told', new Error('password of the database'), { status: 500, title: 'Server error' }],
  ])('%s', (_, error, wanted) => expect(problemOf(error)).toMatchObject(wanted)); // prettier-ignore

  test.each(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', '08006', '57P01', '57P02', '57P03', '53300'])('%s: the database is away', (code) => {
    expect([isAway(coded(code)), isAway(coded('23505', coded(code))), problemOf(coded(code)).status]).toEqual([true, true, 503]);
  });
  test.each(['23505', '57P04', '57014', 'ENOENT', '22P02'])('%s: it is not', (code) =>
    expect([isAway(coded(code)), problemOf(coded(code)).status]).toEqual([false, 500]),
  );
  test('away by its words, where the driver has no code', () => {
    expect(['Connection terminated unexpectedly', 'timeout exceeded when trying to connect', 'Cannot use a pool after calling end on the pool', 'syntax error'].map((text) => isAway(new Error(text)))).toEqual([true, true, true, false]); // prettier-ignore
    expect(isAway('Connection terminated')).toBe(false);
  });
});

describe('answering', () => {
  function answered(error: unknown, headersSent = false): { sent: unknown; status: number; type: string; headers: Record<string, unknown>; logged: unknown[]; passedOn: unknown[] } {
    const seen = { sent: null as unknown, status: 0, type: '', headers: {} as Record<string, unknown>, logged: [] as unknown[], passedOn: [] as unknown[] };
    const response = {
      headersSent,
      setHeader: (name: string, value: unknown) => (seen.headers[name] = value),
      status: (status: number) => ((seen.status = status), response),
      type: (type: string) => ((seen.type = type), response),
      send: (text: string) => (seen.sent = JSON.parse(text)),
    };
    const log = { error: (each: unknown) => void seen.logged.push(each) };
    problemHandler(log as unknown as Logger)(error, {} as Request, response as unknown as Response, ((each: unknown) => void seen.passedOn.push(each)) as NextFunction);
    return seen;
  } // prettier-ignore

  test('errors of the asking are told and not logged; those of the server are', () => {
    const gone = answered(new NotFound('gone'));
    expect([gone.status, gone.type, gone.sent, gone.logged, gone.headers]).toEqual([
      404,
      'application/problem+json',
      { type: 'about:blank', status: 404, title: 'Not found', detail: 'gone' },
      [],
      {},
    ]);
    const broken = new Error('x');
    expect(answered(broken)).toMatchObject({ status: 500, logged: [broken], headers: {} });
    const away = coded('57P01');
    expect(answered(away)).toMatchObject({ status: 503, logged: [away], headers: { 'Retry-After': 1 } });
  });

  test('what was begun to be answered is left to the server itself', () => {
    const error = new Error('in the middle');
    expect(answered(error, true)).toMatchObject({ sent: null, passedOn: [error] });
  });
});

describe('a body is refused', () => {
  const refusal = (text: string): string | null => {
    try {
      requireShallow(null, null, Buffer.from(text));
      return null;
    } catch (error) {
      return (error as Error).message;
    }
  };

  test('from 101 levels on, at the place where the last begins', () => {
    expect([refusal('['.repeat(100) + ']'.repeat(100)), refusal('['.repeat(101))]).toEqual([null, 'The body is nested deeper than 100 levels (byte 100).']);
    expect(refusal('{"a":'.repeat(101))).toBe('The body is nested deeper than 100 levels (byte 500).');
    // One beside the other is not deep.
    expect(refusal(`[${'[],'.repeat(500)}{}]`)).toBeNull();
  });

  test('but not for brackets in texts, also after quotes in them', () => {
    expect(refusal(`["${'['.repeat(300)}"]`)).toBeNull();
    expect(refusal(String.raw`["\"${'['.repeat(300)}"]`)).toBeNull();
    expect(refusal(String.raw`["\\",${'['.repeat(100)}`)).not.toBeNull();
  });
});

test('nothing of a stack goes out', () => {
  expect(JSON.stringify(problemOf(new TypeError('x is undefined')))).not.toMatch(/undefined|at /);
});
