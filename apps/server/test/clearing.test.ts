import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { clearDeleted } from '../src/store/clearing.js';

beforeEach(() => void vi.useFakeTimers({ now: new Date('2026-11-28T12:00:00Z') }));
afterEach(() => void vi.useRealTimers());

const minutes = (count: number): Promise<unknown> => vi.advanceTimersByTimeAsync(count * 60_000);

test('deleted documents are looked for at once and every ten minutes, those of so many hours ago', async () => {
  const asked: string[] = [];
  const log = { info: vi.fn(), warn: vi.fn() };
  const gone = [2, 0];
  const purge = async (before: Date): Promise<number> => {
    asked.push(before.toISOString().slice(0, 16));
    return gone.shift() ?? 0;
  };
  clearDeleted({ purge }, 24, log);
  await minutes(0);
  expect([asked, log.info.mock.calls]).toEqual([['2026-11-27T12:00'], [[{ gone: 2 }, 'deleted documents are gone for good']]]);
  await minutes(9.9);
  expect(asked).toHaveLength(1);
  await minutes(10.1);
  expect([asked.slice(1), log.info.mock.calls.length, log.warn.mock.calls.length]).toEqual([['2026-11-27T12:10', '2026-11-27T12:20'], 1, 0]); // prettier-ignore
});

test('what goes wrong is logged, and tried again', async () => {
  const log = { info: vi.fn(), warn: vi.fn() };
  const away = new Error('the database is away');
  let tries = 0;
  clearDeleted({ purge: async () => (tries++ ? 0 : Promise.reject(away)) }, 1, log);
  await minutes(10);
  expect([tries, log.warn.mock.calls]).toEqual([2, [[away, 'deleted documents were not cleared away']]]);
});
