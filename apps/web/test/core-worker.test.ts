/** The worker by itself: what it answers to what the page tells it, in which order. */
import { beforeEach, describe, expect, test, vi } from 'vitest';
import { readImport } from '@filaxis/formats';
import { requireDocument, type FilaxisDocument } from '@filaxis/core';
import { SharedWord, type FromWorker, type Shown, type ToWorker } from '@filaxis/protocol';

const said: FromWorker[] = [];
let tell: (message: ToWorker) => void;
let newest: Int32Array;

/** A worker that nobody has spoken to yet. */
beforeEach(async () => {
  said.length = 0;
  vi.resetModules();
  vi.stubGlobal('postMessage', (message: FromWorker) => void said.push(message));
  vi.stubGlobal('addEventListener', (_: string, hear: (event: { data: ToWorker }) => void) => (tell = (data) => hear({ data })));
  await import('../src/workers/core.worker');
  newest = new Int32Array(new SharedArrayBuffer(16));
  tell({ kind: 'start', newest });
});

const show: Shown = { shows: 'outputs', looked: null, peek: null, curve: 0, stripName: null, stripOthers: false, chosen: null, colour: null, ghost: null };
const document = (more: Partial<FilaxisDocument> = {}): FilaxisDocument =>
  requireDocument({
    format: 'filaxis-graph',
    version: 1,
    title: 'Hose',
    dials: [{ id: 'bore', label: 'Bore', kind: 'number', value: 0.05 }],
    nodes: [
      { id: 'line', type: 'lay.line', settings: { to: [2, 0, 0] } },
      { id: 'tube', type: 'skin.tube', settings: { radius: { dial: 'bore' }, sides: 8 } },
    ],
    wires: [{ from: ['line', 'curves'], to: ['tube', 'curves'] }],
    ...more,
  });
function run(number: number, more: Partial<Extract<ToWorker, { kind: 'run' }>> = {}): void {
  Atomics.store(newest, SharedWord.run, number);
  tell({ kind: 'run', run: number, dials: {}, time: 0, show, spare: [], ...more });
}
/** The first that it says of a kind, once it has said it. */
async function heard<K extends FromWorker['kind']>(kind: K, nth = 0): Promise<Extract<FromWorker, { kind: K }>> {
  await vi.waitFor(() => expect(said.filter((each) => each.kind === kind).length).toBeGreaterThan(nth), { timeout: 20_000, interval: 2 });
  return said.filter((each) => each.kind === kind)[nth] as Extract<FromWorker, { kind: K }>;
}

describe('a run', () => {
  test('gives a picture, figures of every node, and then the strip; the same again gives no new picture', async () => {
    tell({ kind: 'document', document: document() });
    const chosen = { show: { ...show, chosen: 'tube' } };
    run(1, chosen);
    const { picture, nodes, problems } = await heard('result');
    expect([problems, picture!.counts.faces, nodes['tube']!.out['faces'], nodes['tube']!.in['curves']]).toEqual([[], 8, 8, 1]);
    const { strip } = await heard('strip');
    expect([strip!.node, strip!.length, strip!.radius![0]]).toEqual(['line', 2, Math.fround(0.05)]);
    expect(said.map(({ kind }) => kind)).toEqual(['result', 'strip']);
    run(2, chosen);
    expect((await heard('result', 1)).picture).toBeNull();
    // A dial that is dragged is another result.
    run(3, { ...chosen, dials: { bore: 0.1 } });
    expect((await heard('result', 2)).picture!.bounds!.max[1]).toBeCloseTo(0.1, 6);
  });

  test('that a newer one has overtaken is given up, and the newer one told', async () => {
    tell({ kind: 'document', document: document() });
    run(1);
    run(2);
    await heard('result');
    expect(said.map((each) => ('run' in each ? [each.kind, each.run] : each.kind))).toEqual(expect.arrayContaining([['cancelled', 1], ['result', 2]])); // prettier-ignore
    expect(said.some((each) => each.kind === 'result' && each.run === 1)).toBe(false);
  });

  test('tells which node is at work', async () => {
    tell({ kind: 'document', document: document() });
    run(1);
    await heard('result');
    expect(newest[SharedWord.atWork]).toBe(2);
  });

  test('shows the peeked node, else the wired outputs, else the ends of the graph that have what they need', async () => {
    const faces = async (which: number): Promise<number> => (await heard('result', which)).picture!.counts.faces;
    const nodes = [...document().nodes, { id: 'box', type: 'lay.box' }, { id: 'idle', type: 'skin.rope' }, { id: 'out', type: 'flow.output' }];
    tell({ kind: 'document', document: document({ nodes }) });
    run(1);
    expect(await faces(0)).toBe(8 + 6);
    tell({ kind: 'document', document: document({ nodes, wires: [...document().wires, { from: ['box', 'mesh'], to: ['out', 'any'] }] }) });
    run(2);
    expect(await faces(1)).toBe(6);
    run(3, { show: { ...show, peek: 'tube' } });
    expect(await faces(2)).toBe(8);
    // Which nodes these are is told.
    expect(said.flatMap((each) => (each.kind === 'result' ? [each.shown] : []))).toEqual([['tube', 'box'], ['out'], ['tube']]);
  });

  test('of a document that cannot be planned fails by its number, and the next document is run', async () => {
    tell({ kind: 'document', document: { ...document(), nodes: null } as unknown as FilaxisDocument });
    run(1);
    expect(await heard('run-failed')).toMatchObject({ run: 1, message: 'The document could not be made ready to run.' });
    tell({ kind: 'document', document: document() });
    run(2);
    expect((await heard('result')).run).toBe(2);
  });

  test('keeps the last good picture while what is shown has no result', async () => {
    tell({ kind: 'document', document: document() });
    run(1);
    await heard('result');
    const [line, tube] = document().nodes;
    tell({ kind: 'document', document: document({ nodes: [line, { ...tube, settings: { radius: { formula: 'nothing' } } }] }) });
    run(2);
    const { picture, shown, nodes } = await heard('result', 1);
    expect([picture, shown, nodes['tube']!.error!.message]).toEqual([null, null, expect.stringContaining('nothing')]);
  });
});

describe('questions', () => {
  test('are answered from the newest run; before there is one it is said', async () => {
    tell({ kind: 'ask', request: 1, topic: 'writable', question: { nodes: ['tube'] } });
    expect(await heard('no-answer')).toMatchObject({ request: 1, message: 'Nothing has been computed yet.' });
    tell({ kind: 'document', document: document() });
    run(1);
    tell({ kind: 'ask', request: 2, topic: 'writable', question: { nodes: ['tube'] } });
    expect(await heard('answer')).toMatchObject({ request: 2, answer: { pieces: [{ name: 'Tube', counts: { faces: 8 } }] } });
  });

  test('checks look the run over; a newer run ends that', async () => {
    tell({ kind: 'document', document: document() });
    run(1);
    await heard('strip');
    tell({ kind: 'ask', request: 3, topic: 'checks', question: {} });
    expect((await heard('answer')).request).toBe(3);
    tell({ kind: 'ask', request: 4, topic: 'checks', question: {} });
    run(2);
    expect(await heard('no-answer')).toMatchObject({ request: 4, message: 'A newer run began.' });
  });
});

describe('files', () => {
  const hash = 'a'.repeat(64);
  const obj = new TextEncoder().encode('v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n');
  const withFile = document({ nodes: [{ id: 'mesh', type: 'lay.importMesh', settings: { asset: hash } }], wires: [] });

  test('that are missing are asked for; one that was read is there for the run that follows', async () => {
    tell({ kind: 'document', document: withFile });
    run(1);
    expect((await heard('missing-asset')).hash).toBe(hash);
    expect((await heard('result')).nodes['mesh']!.error!.message).toContain('is being fetched');
    tell({ kind: 'asset', hash, name: 'sail.obj', bytes: obj });
    run(2);
    expect((await heard('asset-read')).found).toEqual({ curves: 0, faces: 1, points: 0 });
    expect((await heard('result', 1)).nodes['mesh']!.out['faces']).toBe(1);
  });

  test('that cannot be fetched or read say why, at the node that wants them', async () => {
    tell({ kind: 'document', document: withFile });
    tell({ kind: 'asset-failed', hash, message: 'it is gone.' });
    run(1);
    expect((await heard('result')).nodes['mesh']!.error!.message).toContain('The imported file cannot be fetched: it is gone.');
    tell({ kind: 'asset', hash, name: 'sail.obj', bytes: new TextEncoder().encode('v 0 0 zero\n') });
    run(2);
    const { message } = await heard('asset-refused');
    expect((await heard('result', 1)).nodes['mesh']!.error!.message).toContain(message);
  });
});

describe('what goes out', () => {
  test('a file is written with the dials of the asking, named and measured; what cannot be written is told', async () => {
    tell({ kind: 'document', document: document() });
    const how = { up: 'y', unit: 'm' } as const;
    const wanted = { kind: 'export', dials: { bore: 0.5 }, time: 0, nodes: ['tube'], name: 'hose', how, frames: null } as const;
    tell({ ...wanted, request: 1, ending: '.obj' });
    const { file, companion, measures } = await heard('exported');
    const { mesh } = await readImport(new Uint8Array(await file.arrayBuffer()), 'hose.obj');
    expect(Math.max(...mesh!.positions.filter((_, i) => i % 3 === 1))).toBeCloseTo(0.5, 6);
    expect([measures.faces, companion === null || companion.ending === '.mtl']).toEqual([8, true]);
    tell({ ...wanted, request: 2, ending: '.svg' });
    expect(await heard('export-failed')).toMatchObject({ request: 2, obstacle: { cure: 'format' } });
  });

  test('a result is frozen with every number that it has', async () => {
    tell({ kind: 'document', document: document() });
    tell({ kind: 'freeze', request: 7, dials: {}, time: 0, from: ['tube', 'mesh'] });
    const { request, counts, bytes } = await heard('frozen');
    expect([request, counts['faces'], bytes.length > 500]).toEqual([7, 8, true]);
    tell({ kind: 'freeze', request: 8, dials: {}, time: 0, from: ['gone', 'mesh'] });
    expect((await heard('no-answer')).request).toBe(8);
  });
});
