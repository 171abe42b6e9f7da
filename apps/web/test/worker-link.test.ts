import { map, mergeMap, of, tap, type Observable } from 'rxjs';
import { TestScheduler } from 'rxjs/testing';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import type { FromWorker } from '@filaxis/protocol';
import { WorkerLink, type Answered } from '../src/app/ropewalk/worker-link';
import { FakeWorker, stubBrowser } from './services';

let link: WorkerLink;
beforeEach(() => {
  stubBrowser();
  link = new WorkerLink(() => new FakeWorker() as unknown as Worker);
});
afterEach(() => {
  link.dispose();
  vi.unstubAllGlobals();
});

/** Time drawn as text: see rxjs/testing. */
const marbles = (run: (helpers: Parameters<Parameters<TestScheduler['run']>[0]>[0]) => void): void =>
  new TestScheduler((actual, expected) => expect(actual).toEqual(expected)).run(run);

const ask = (): Observable<unknown> =>
  link.request<unknown>(
    (request) => ({ kind: 'ask', request, topic: 'checks', question: {} }),
    (message, request): Answered<unknown> => {
      if (message.kind === 'answer' && message.request === request) return { answer: message.answer };
      return message.kind === 'no-answer' && message.request === request ? { refused: message.message } : null;
    },
  );
const answer = (request: number, text: string): FromWorker => ({ kind: 'answer', request, answer: text as never });
const refusal = (request: number): FromWorker => ({ kind: 'no-answer', request, message: 'Nothing yet.' });

describe('what is asked of the worker', () => {
  test('each gets its own answer once, whatever else is said in between', () => {
    marbles(({ cold, expectObservable }) => {
      const said = { x: answer(2, 'of two'), y: answer(1, 'of one'), z: answer(1, 'again') };
      cold('--x-y-z', said).subscribe((message) => FakeWorker.newest.say(message));
      expectObservable(ask()).toBe('----(a|)', { a: 'of one' });
      expectObservable(ask()).toBe('--(b|)', { b: 'of two' });
    });
  });

  test('nothing is asked before somebody listens, and who goes away hears no more', () => {
    const asked = ask();
    expect(FakeWorker.newest.heard('ask')).toEqual([]);
    marbles(({ cold, expectObservable }) => {
      cold('-----x', { x: answer(1, 'late') }).subscribe((message) => FakeWorker.newest.say(message));
      expectObservable(asked, '^--!').toBe('');
    });
    expect(FakeWorker.newest.heard('ask')).toHaveLength(1);
  });

  test('a refusal is an error with its words', () => {
    marbles(({ cold, expectObservable }) => {
      cold('--x', { x: refusal(1) }).subscribe((message) => FakeWorker.newest.say(message));
      expectObservable(ask()).toBe('--#', undefined, new Error('Nothing yet.'));
    });
  });

  test('a worker that is replaced fails what waits for it, and the new one is asked next', () => {
    marbles(({ cold, expectObservable }) => {
      const old = FakeWorker.newest;
      cold('--r--x', { r: 'replace', x: 'say' }).subscribe((what) => {
        if (what === 'replace') link.replace('It was stopped');
        else {
          // The old one speaks too late; the new one answers.
          old.say(answer(2, 'of the old'));
          FakeWorker.newest.say(answer(2, 'of the new'));
        }
      });
      expectObservable(ask()).toBe('--#', undefined, new Error('It was stopped.'));
      const next = cold('---n').pipe(
        tap(() => expect(FakeWorker.newest).not.toBe(old)),
        mergeMap(() => ask()),
      );
      expectObservable(next).toBe('-----a', { a: 'of the new' });
      expectObservable(link.replaced.pipe(map(({ message }) => message))).toBe('--m', { m: 'It was stopped.' });
    });
  });

  test('messages of one kind are a stream of their own', () => {
    marbles(({ cold, expectObservable }) => {
      cold('-s-a-s', { s: { kind: 'strip', run: 1, strip: null } as FromWorker, a: answer(1, 'no') }).subscribe((message) => FakeWorker.newest.say(message));
      expectObservable(link.of('strip').pipe(mergeMap(({ run }) => of(run)))).toBe('-1---1', { 1: 1 });
    });
  });
});
