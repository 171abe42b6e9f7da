/** Pictures of documents for the Library: taken when all rests, of each saved version once. */
import { signal } from '@angular/core';
import { Subject } from 'rxjs';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { DocumentService } from '../src/app/ropewalk/document/document.service';
import { EvaluationService } from '../src/app/ropewalk/evaluation.service';
import { PictureKeeper } from '../src/app/ropewalk/picture-keeper';
import { FakeServer, make, stubBrowser } from './services';

const png = new Blob(['png']);
interface Kept {
  readonly keeper: PictureKeeper;
  readonly sent: unknown[];
  readonly documents: { version: ReturnType<typeof signal<number>>; isSaved: boolean };
  readonly counts: ReturnType<typeof signal<{ faces: number; points: number } | null>>;
  readonly pictures: Subject<null>;
  failing: boolean;
}

/** A keeper over a document of version 3 that is saved and drawn. */
function kept(): Kept {
  const documents = { id: signal('quay'), version: signal(3), isSaved: true };
  const counts = signal<{ faces: number; points: number } | null>({ faces: 12, points: 8 });
  const pictures = new Subject<null>();
  const made: Partial<Kept> & { sent: unknown[]; failing: boolean } = { documents, counts, pictures, sent: [], failing: false };
  const server = Object.assign(new FakeServer(), {
    setPicture: async (...given: unknown[]) => {
      made.sent.push(given);
      if (made.failing) throw new Error('away');
    },
  });
  const keeper = make(PictureKeeper, server, [
    [DocumentService, documents],
    [EvaluationService, { pictures, counts }],
  ]);
  keeper.snapshot = async () => png;
  return Object.assign(made, { keeper }) as Kept;
}

beforeEach(() => {
  stubBrowser();
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

test('is due once pictures have rested for a second and a half', async () => {
  const { keeper, pictures } = kept();
  let due = 0;
  keeper.due.subscribe(() => due++);
  pictures.next(null);
  await vi.advanceTimersByTimeAsync(1000);
  pictures.next(null);
  await vi.advanceTimersByTimeAsync(1499);
  expect(due).toBe(0);
  await vi.advanceTimersByTimeAsync(1);
  expect(due).toBe(1);
});

test('each version is kept once, with its counts; not what is not saved or not drawn', async () => {
  const made = kept();
  await made.keeper.keep();
  await made.keeper.keep();
  expect(made.sent).toEqual([['quay', 3, png, { faces: 12, points: 8 }]]);
  made.documents.version.set(4);
  made.documents.isSaved = false;
  await made.keeper.keep();
  made.documents.isSaved = true;
  made.counts.set(null);
  await made.keeper.keep();
  expect(made.sent).toHaveLength(1);
  made.counts.set({ faces: 1, points: 2 });
  await made.keeper.keep();
  expect(made.sent[1]).toEqual(['quay', 4, png, { faces: 1, points: 2 }]);
});

test('what the server has already is not sent again', async () => {
  const made = kept();
  made.keeper.begin(3);
  await made.keeper.keep();
  expect(made.sent).toEqual([]);
});

test('a picture that could not be taken or sent is tried again at the next chance', async () => {
  const made = kept();
  made.keeper.snapshot = async () => null;
  await made.keeper.keep();
  expect(made.sent).toEqual([]);
  made.keeper.snapshot = async () => png;
  made.failing = true;
  await made.keeper.keep();
  made.failing = false;
  await made.keeper.keep();
  await made.keeper.keep();
  expect(made.sent).toHaveLength(2);
});
