import { firstValueFrom } from 'rxjs';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { emptyDocument } from '@filaxis/core';
import {
  SharedWord,
  type FromWorker,
  type MeshParcel,
  type MeshPicture,
  type PathStripData,
  type Picture,
  type PictureParcel,
  type Shown,
} from '@filaxis/protocol';
import { DocumentService } from '../src/app/ropewalk/document/document.service';
import { EvaluationService } from '../src/app/ropewalk/evaluation.service';
import { FakeServer, FakeWorker, make, stubBrowser } from './services';

/** How long it is until typing is at rest, ms. */
const typing = vi.hoisted(() => ({ rests: 0 }));
vi.mock('../src/app/shared/typing', () => ({ typedFor: () => typing.rests }));

let server: FakeServer;
let documents: DocumentService;
let evaluation: EvaluationService;
let worker: FakeWorker;
const show: Shown = { shows: 'outputs', looked: null, peek: null, curve: 0, chosen: null, colour: null, stripName: null, stripOthers: false, ghost: null };
const result = (run: number): FromWorker => ({ kind: 'result', run, ms: 3, nodes: {}, picture: null, shown: null, problems: [] });
const runs = (): number[] => worker.heard('run').map(({ run }) => run);

beforeEach(() => {
  vi.useFakeTimers();
  stubBrowser();
  typing.rests = 0;
  server = new FakeServer();
  documents = make(DocumentService, server);
  documents.openLoose({ ...emptyDocument, title: 'Loose' });
  evaluation = make(EvaluationService, server, [[DocumentService, documents]]);
  worker = FakeWorker.newest;
});
afterEach(() => {
  evaluation.ngOnDestroy();
  documents.ngOnDestroy();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('runs', () => {
  test('one at a time, and of those asked for meanwhile only the newest', () => {
    for (const curve of [0, 1, 2, 3]) evaluation.evaluate({ ...show, curve });
    expect(runs()).toEqual([1]);
    worker.say(result(1));
    expect(worker.heard('run').map(({ show: { curve } }) => curve)).toEqual([0, 3]);
    worker.say(result(2));
    expect(runs()).toEqual([1, 2]);
  });

  test('while letters are typed they wait for a pause, and then the newest is run at once', () => {
    typing.rests = 150;
    for (const curve of [1, 2, 3]) {
      evaluation.evaluate({ ...show, curve });
      vi.advanceTimersByTime(100);
    }
    expect(runs()).toEqual([]);
    vi.advanceTimersByTime(50);
    expect(worker.heard('run').map(({ show: { curve } }) => curve)).toEqual([3]);
    worker.say(result(1));
    typing.rests = 0;
    evaluation.evaluate({ ...show, curve: 4 });
    expect(worker.heard('run').map(({ show: { curve } }) => curve)).toEqual([3, 4]);
  });

  test('the document is sent when it changed, and not again', () => {
    evaluation.evaluate(show);
    worker.say(result(1));
    evaluation.evaluate(show);
    worker.say(result(2));
    expect(worker.heard('document')).toHaveLength(1);
    documents.apply('Rename', { ...emptyDocument, title: 'Another' });
    evaluation.evaluate(show);
    expect(worker.heard('document').map(({ document }) => document.title)).toEqual(['Loose', 'Another']);
    expect(worker.told.slice(-2).map(({ kind }) => kind)).toEqual(['document', 'run']);
  });

  test('one that takes long tells where it is, from 300 ms on', () => {
    evaluation.evaluate(show);
    worker.say({ kind: 'progress', run: 1, node: 'a', fraction: 0.1 });
    expect(evaluation.busy()).toBeNull();
    vi.advanceTimersByTime(400);
    worker.say({ kind: 'progress', run: 1, node: 'a', fraction: 0.4 });
    expect(evaluation.busy()).toEqual({ node: 'a', fraction: 0.4 });
    worker.say(result(1));
    expect(evaluation.busy()).toBeNull();
  });

  test('a newer one stops an older only when that goes on', () => {
    vi.stubGlobal('crossOriginIsolated', true);
    const shared = make(EvaluationService, server, [[DocumentService, documents]]);
    const { newest } = FakeWorker.newest.heard('start')[0];
    shared.evaluate(show);
    expect(newest![0]).toBe(1);
    shared.evaluate(show);
    expect(newest![0]).toBe(1);
    vi.advanceTimersByTime(100);
    expect(newest![0]).toBe(2);
    shared.ngOnDestroy();
  });

  test('after one that was stopped the next begins, with a higher number', () => {
    evaluation.evaluate(show);
    evaluation.evaluate({ ...show, curve: 5 });
    worker.say({ kind: 'cancelled', run: 1 });
    expect(runs()).toEqual([1, 3]);
    expect(worker.heard('run')[1].show.curve).toBe(5);
  });

  test('one that broke off is told, and the next good one takes that back', () => {
    evaluation.evaluate(show);
    worker.say({ kind: 'run-failed', run: 1, message: 'Out of memory.' });
    expect(evaluation.crashed()).toBe('Out of memory.');
    evaluation.evaluate(show);
    worker.say(result(2));
    expect(evaluation.crashed()).toBeNull();
  });
});

describe('a worker that ended or does not listen', () => {
  test('is replaced: what was asked of it is told to have failed, and the next change is run by the new one', async () => {
    evaluation.evaluate(show);
    const exported = firstValueFrom(evaluation.export(['a'], '.glb', 'x', {}));
    worker.onerror?.({ message: 'out of memory' });
    await expect(exported).rejects.toThrow('The computation broke off (out of memory).');
    expect(evaluation.crashed()).toContain('broke off (out of memory). What is seen is the last result');
    expect(FakeWorker.newest).not.toBe(worker);
    // The same is not run again by itself.
    expect(FakeWorker.newest.heard('run')).toEqual([]);
    evaluation.evaluate(show);
    expect(FakeWorker.newest.told.map(({ kind }) => kind)).toEqual(['start', 'document', 'run']);
    worker.say(result(1));
    expect(evaluation.ms()).toBeNull();
    FakeWorker.newest.say(result(2));
    expect([evaluation.ms(), evaluation.crashed()]).toEqual([3, null]);
  });

  test('when it does not stop within a moment of being asked; which node was at work is said', () => {
    vi.stubGlobal('crossOriginIsolated', true);
    documents.openLoose({
      ...emptyDocument,
      nodes: [
        { id: 'rope', type: 'skin.rope' },
        { id: 'slow', type: 'lay.line' },
      ],
    } as never);
    const shared = make(EvaluationService, server, [[DocumentService, documents]]);
    const deaf = FakeWorker.newest;
    shared.evaluate(show);
    Atomics.store(deaf.heard('start')[0].newest!, SharedWord.atWork, 2);
    shared.cancel();
    vi.advanceTimersByTime(100);
    expect(FakeWorker.newest).toBe(deaf);
    vi.advanceTimersByTime(100);
    expect(FakeWorker.newest).not.toBe(deaf);
    expect(shared.crashed()).toBe('It was stopped while slow was at work. What is seen is the last result; the next change runs again.');
    // One that stops in time stays.
    shared.evaluate(show);
    const good = FakeWorker.newest;
    const [{ run }] = good.heard('run');
    shared.cancel();
    good.say({ kind: 'cancelled', run });
    vi.advanceTimersByTime(1000);
    expect(FakeWorker.newest).toBe(good);
    shared.ngOnDestroy();
  });
});

describe('pictures', () => {
  const counts = { faces: 1, triangles: 1, points: 3, curves: 0, length: 0, copies: 0 };
  const mesh = (): MeshPicture => ({ positions: new Float32Array(9), normals: null, uv: null, indices: new Uint32Array([0, 1, 2]), groups: [], edges: new Uint32Array(6), values: null }); // prettier-ignore
  const parcel = (sent: MeshParcel | null): PictureParcel => ({ mesh: sent, copies: [], curves: null, counts, bounds: null, budget: 0, ghost: null, names: [], colour: null }); // prettier-ignore
  const say = (run: number, picture: PictureParcel): void => worker.say({ kind: 'result', run, ms: 1, nodes: {}, picture, shown: null, problems: [] });

  test('are put together from what came before, and memory that is drawn no more goes back with the next run', () => {
    const seen: Picture[] = [];
    evaluation.pictures.subscribe((picture) => seen.push(picture));
    evaluation.evaluate(show);
    const first = mesh();
    say(1, parcel(first));
    evaluation.evaluate(show);
    expect(worker.heard('run')[1].spare).toEqual([]);
    const positions = new Float32Array(9).fill(1);
    say(2, parcel({ ...first, positions, indices: 'same', edges: 'same' }));
    expect(seen[1].mesh).toMatchObject({ positions, indices: first.indices, edges: first.edges });
    evaluation.evaluate(show);
    expect(worker.heard('run')[2].spare).toEqual([first.positions.buffer]);
    say(3, parcel(null));
    evaluation.evaluate(show);
    expect(worker.heard('run')[3].spare).toEqual([positions, first.indices, first.edges!].map(({ buffer }) => buffer));
    expect(evaluation.counts()).toEqual({ ...counts, budget: 0 });
  });

  test('do not wait for the Path strip, which comes after them', () => {
    evaluation.evaluate(show);
    evaluation.evaluate({ ...show, curve: 1 });
    worker.say(result(1));
    expect(runs()).toEqual([1, 2]);
    const strip = { curve: 0 } as PathStripData;
    worker.say({ kind: 'strip', run: 1, strip });
    expect(evaluation.strip()).toBe(strip);
  });
});

test('a run that breaks off after its result is told, and the next one goes on', () => {
  evaluation.evaluate(show);
  evaluation.evaluate({ ...show, curve: 1 });
  worker.say(result(1));
  evaluation.evaluate({ ...show, curve: 2 });
  worker.say({ kind: 'run-failed', run: 1, message: 'The strip broke.' });
  expect([evaluation.crashed(), runs()]).toEqual(['The strip broke.', [1, 2]]);
  worker.say(result(2));
  expect(runs()).toEqual([1, 2, 3]);
});

describe('questions and exports', () => {
  test('each gets its own answer, in any order', async () => {
    const first = firstValueFrom(evaluation.ask('checks', null as never));
    const second = firstValueFrom(evaluation.ask('checks', null as never));
    const [a, b] = worker.heard('ask').map(({ request }) => request);
    worker.say({ kind: 'answer', request: b, answer: ['second'] as never });
    worker.say({ kind: 'no-answer', request: a, message: 'Nothing has been computed yet.' });
    await expect(first).rejects.toThrow('Nothing has been computed yet.');
    expect(await second).toEqual(['second']);
  });

  test('an export goes out with the newest document and dials', async () => {
    documents.dragDial({ id: 'sag' } as never, 0.4);
    const exported = firstValueFrom(evaluation.export(['out'], 'glb', 'rail', { expanded: false, instances: false, up: 'y', unit: 'm' }));
    expect(worker.told.slice(-2).map(({ kind }) => kind)).toEqual(['document', 'export']);
    const [{ request, dials, ending }] = worker.heard('export');
    expect([dials, ending]).toEqual([{ sag: 0.4 }, 'glb']);
    const failed = { kind: 'export-failed', request, message: 'The result is empty.', obstacle: { node: 'out' } } as const;
    worker.say(failed);
    expect(await exported).toEqual(failed);
  });
});

describe('imported files', () => {
  test('one that the worker misses is fetched once, and run again', async () => {
    server.assets.set('h1', new Uint8Array([1, 2]));
    evaluation.evaluate(show);
    worker.say({ kind: 'missing-asset', hash: 'h1' });
    worker.say({ kind: 'missing-asset', hash: 'h1' });
    await vi.advanceTimersByTimeAsync(1);
    worker.say(result(1));
    expect(worker.heard('asset').map(({ hash, bytes }) => [hash, bytes.length])).toEqual([['h1', 2]]);
    expect(runs()).toEqual([1, 2]);
  });

  test('one that cannot be had is told to the worker, and asked for again next time', async () => {
    evaluation.evaluate(show);
    worker.say({ kind: 'missing-asset', hash: 'h2' });
    await vi.advanceTimersByTimeAsync(1);
    expect(worker.heard('asset-failed').map(({ message }) => message)).toEqual(['There is no such file.']);
    server.assets.set('h2', new Uint8Array(3));
    worker.say({ kind: 'missing-asset', hash: 'h2' });
    await vi.advanceTimersByTimeAsync(1);
    expect(worker.heard('asset').map(({ hash }) => hash)).toEqual(['h2']);
  });

  test('one that is chosen is read by the worker, which tells what is in it, or why it cannot be read', async () => {
    const read = firstValueFrom(evaluation.readAsset('h3', 'rail.csv', new Uint8Array(4)));
    expect(worker.heard('asset').map(({ name }) => name)).toEqual(['rail.csv']);
    worker.say({ kind: 'asset-read', hash: 'h3', found: { curves: 2, faces: 0, points: 0 } });
    expect(await read).toEqual({ curves: 2, faces: 0, points: 0 });
    const refused = firstValueFrom(evaluation.readAsset('h4', 'rail.csv', new Uint8Array(4)));
    worker.say({ kind: 'asset-refused', hash: 'h4', message: 'Line 3: no.' });
    await expect(refused).rejects.toThrow('Line 3: no.');
  });

  test('reading that takes longer than 300 ms is told with its name, and can be stopped', async () => {
    vi.stubGlobal('crossOriginIsolated', true);
    const shared = make(EvaluationService, server, [[DocumentService, documents]]);
    const [{ newest }] = FakeWorker.newest.heard('start');
    const read = firstValueFrom(shared.readAsset('h5', 'scan.ply', new Uint8Array(4)));
    FakeWorker.newest.say({ kind: 'reading', hash: 'h5', fraction: 0.1 });
    expect(shared.reading()).toBeNull();
    vi.advanceTimersByTime(400);
    FakeWorker.newest.say({ kind: 'reading', hash: 'h5', fraction: 0.5 });
    expect(shared.reading()).toEqual({ name: 'scan.ply', fraction: 0.5 });
    shared.stopReading();
    expect(newest![1]).toBe(1);
    FakeWorker.newest.say({ kind: 'asset-refused', hash: 'h5', message: 'Reading the file was stopped.' });
    await expect(read).rejects.toThrow('stopped');
    expect(shared.reading()).toBeNull();
    shared.ngOnDestroy();
  });
});
