import { describe, expect, test } from 'vitest';
import {
  allFindings,
  differences,
  Evaluator,
  flipFaces,
  makeMesh,
  meshFaults,
  Plan,
  requireDocument,
  unbounded,
  type FilaxisDocument,
  type Finding,
  type Mesh,
} from '../../src/index.js';
import { chainDocument, runChain, type Chain } from '../graph.js';

async function look(document: FilaxisDocument): Promise<Finding[]> {
  const plan = new Plan(document);
  return allFindings(plan, await new Evaluator().run(plan));
}
const found = (chain: Chain): Promise<Finding[]> => look(chainDocument(chain));
const kinds = (list: readonly Finding[]): string[] => list.map(({ kind }) => kind);

const square = [[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 1, 0]]; // prettier-ignore
const line = ['lay.line', { to: [2, 0, 0], points: 5 }] as const;

describe('what is found, where, and what mends it', () => {
  test('a sound tube has nothing to be told', async () => expect(await found([line, ['skin.tube', { caps: 'flat' }]])).toEqual([]));

  test('a pinch: its place on the curve, and thinning as the remedy, which mends it', async () => {
    const chain = (relaxPinch: boolean): Chain => [
      ['lay.circle', { radius: 0.2, points: 48 }],
      ['skin.tube', { radius: 0.3, relaxPinch }],
    ];
    const [pinch] = (await found(chain(false))).filter(({ kind }) => kind === 'pinch');
    expect(pinch).toMatchObject({ level: 'wrong', node: 'n1', curve: 0, remedies: [{ do: 'set', node: 'n1', setting: 'relaxPinch', value: true }] });
    expect(Math.hypot(...pinch.place!)).toBeCloseTo(0.2, 5);
    expect(kinds(await found(chain(true)))).not.toContain('pinch');
  });

  test('faces turned over: a flip, where they were turned', async () => {
    const list = await found([line, ['skin.tube', { caps: 'flat' }], ['mesh.normals', { flip: true }], ['shape.transform', {}]]);
    expect(list).toMatchObject([{ kind: 'inside-out', level: 'wrong', node: 'n2', remedies: [{ do: 'set', setting: 'flip', value: false }] }]);
  });

  test('open ends of a skin that could be closed', async () => {
    expect(await found([line, ['skin.tube', { caps: 'open' }]])).toMatchObject([
      { kind: 'hole', level: 'look', node: 'n1', remedies: [{ setting: 'caps', value: 'flat' }] },
    ]);
    expect(await found([line, ['skin.ribbon', {}]])).toEqual([]);
  });

  test('a budget that is passed: the heaviest skin gets half its sides', async () => {
    const [over] = await found([line, ['skin.tube', { sides: 16, caps: 'flat' }], ['flow.output', { budget: 20 }]]);
    expect(over).toMatchObject({ kind: 'budget', level: 'wrong', node: 'n2', remedies: [{ node: 'n1', setting: 'sides', value: 8 }] });
  });

  test('unequal lists: both counts are named, and the remedy begins the shorter again', async () => {
    const document = requireDocument({
      format: 'filaxis-graph',
      version: 1,
      title: 'x',
      nodes: [
        { id: 'a', type: 'lay.circle', settings: { points: 4 } },
        { id: 'b', type: 'lay.circle', settings: { points: 5, radius: 2 } },
        { id: 'arcs', type: 'lay.arc3' },
      ],
      wires: [['a', 'a'], ['b', 'b'], ['b', 'c']].map(([from, port]) => ({ from: [from, 'curves'], to: ['arcs', port] })), // prettier-ignore
    });
    const [unequal] = await look(document);
    expect(unequal).toMatchObject({ kind: 'unequal', node: 'arcs', remedies: [{ setting: 'unequal', value: 'cycle' }] });
    expect(unequal.message).toContain('a 4, b 5');
  });

  test('an error at a setting can be put back to its default', async () => {
    const [error] = await found([line, ['skin.tube', { radius: { formula: '1/(i-1)' } }]]);
    expect(error).toMatchObject({ kind: 'error', node: 'n1', remedies: [{ do: 'set', setting: 'radius', value: undefined }] });
  });

  test('frames that met their up direction offer least-turning ones', async () => {
    const list = await found([
      ['lay.line', { to: [0, 2, 0], points: 4 }],
      ['aim.frames', { method: 'upright' }],
    ]);
    expect(list).toMatchObject([{ kind: 'flip', remedies: [{ setting: 'method', value: 'minimal' }] }]);
  });
});

describe('faults of meshes', () => {
  const tube = async (settings = {}): Promise<Mesh> => (await runChain([line, ['skin.tube', { caps: 'flat', sides: 6, ...settings }]])).mesh;

  test('a face turned against its neighbours', async () => {
    const mesh = await tube();
    const one = new Uint8Array(mesh.faceStarts ? mesh.faceStarts.length - 1 : mesh.corners.length / mesh.uniform);
    one[3] = 1;
    const fault = meshFaults(flipFaces(mesh, one)).find(({ kind }) => kind === 'winding');
    expect(fault).toMatchObject({ count: 4 });
  });

  test('normals that look into their faces, but not those of smooth thin edges', async () => {
    const mesh = await tube({ sides: 4 });
    expect(meshFaults(mesh).map(({ kind }) => kind)).not.toContain('shading');
    const normal = mesh.attributes.get('normal')!;
    const turned = { ...normal, data: normal.data.map((value, i) => (i < 12 ? -value : value)) };
    const fault = meshFaults({ ...mesh, attributes: new Map([...mesh.attributes, ['normal', turned]]) }).find(({ kind }) => kind === 'shading');
    expect(fault?.count).toBeGreaterThan(0);
    expect(fault?.place.every(Number.isFinite)).toBe(true);
  });

  test('points on points, and faces of no area', () => {
    const positions = Float32Array.from([...square, ...square].flat());
    const two = makeMesh({ positions, corners: Uint32Array.of(0, 1, 2, 3, 4, 5, 6, 7, 0, 0, 1, 1), uniform: 4 });
    const faults = meshFaults(two);
    expect(faults.find(({ kind }) => kind === 'double')).toMatchObject({ count: 4 });
    expect(faults.find(({ kind }) => kind === 'degenerate')).toMatchObject({ count: 1 });
    expect(meshFaults(two)).toBe(faults);
  });

  test('looking stops within some thousand faces when it is told to, and begins anew the next time', async () => {
    const mesh = (
      await runChain([
        ['lay.circle', { points: 3000 }],
        ['skin.tube', { sides: 12, radius: 0.1 }],
        ['mesh.normals', { flip: true }],
      ])
    ).mesh;
    let asked = 0;
    const stopping = { ...unbounded, progress: () => void (++asked === 3 && stop()) };
    const stop = (): never => {
      throw new Error('stop');
    };
    expect(() => meshFaults(mesh, stopping)).toThrow('stop');
    expect(asked).toBe(3);
    expect(meshFaults(mesh).map(({ kind }) => kind)).toContain('inside-out');
  });

  test('a texture that is stretched on some faces', () => {
    // Nine squares in a row with even UVs, and one four times as long.
    const xs = [0, 1, 2, 3, 4, 5, 6, 7, 8, 12];
    const positions = Float32Array.from(xs.flatMap((x) => [x, 0, 0, x, 1, 0]));
    const corners = Uint32Array.from(xs.slice(1).flatMap((_, i) => [i * 2, i * 2 + 1, i * 2 + 3, i * 2 + 2]));
    const uv = Float32Array.from(xs.flatMap((_, i) => [0, i, 1, i]));
    const mesh = makeMesh({ positions, corners, uniform: 4, attributes: new Map([['uv', { carrier: 'corner', size: 2, data: uv }]]) });
    expect(meshFaults(mesh).find(({ kind }) => kind === 'stretch')).toMatchObject({
      count: 1,
      message: 'A texture is up to 4.0 times as long as elsewhere on 1 face.',
    });
  });
});

describe('differences in plain words', () => {
  const base = requireDocument({
    format: 'filaxis-graph',
    version: 1,
    title: 'Rope',
    dials: [{ id: 'sag', label: 'Sag', kind: 'number', value: 0.2, unit: 'm' }],
    nodes: [
      { id: 'a', type: 'lay.line' },
      { id: 'tube', type: 'skin.tube', settings: { sides: 8 } },
    ],
    wires: [{ from: ['a', 'curves'], to: ['tube', 'curves'] }],
  });
  const change = (part: Partial<FilaxisDocument>): string[] => differences(base, { ...base, ...part });

  test('settings by their names, from what to what', () => {
    const nodes = [base.nodes[0], { ...base.nodes[1], settings: { sides: 12, radius: { ramp: [[0, 1], [1, 2]] } } }]; // prettier-ignore
    expect(change({ nodes })).toEqual(['Tube, sides: 8 → 12.', 'Tube, radius: the default → a ramp of 2 keys.']);
  });

  test('nodes, wires, dials and the title', () => {
    expect(change({ nodes: [...base.nodes, { id: 'm', type: 'mesh.material' }] })).toEqual(['Added Material (m).']);
    expect(change({ nodes: [base.nodes[0]], wires: [] })).toEqual(['Removed Tube.', '1 wire taken away.']);
    expect(change({ dials: [{ ...base.dials![0], value: 0.5 }] })).toEqual(['Dial Sag: 0.2 → 0.5 m.']);
    expect(change({ dials: [] })).toEqual(['Dial Sag removed.']);
    expect(change({ title: 'Cable' })).toEqual(['Renamed from “Rope” to “Cable”.']);
    expect(change({ notes: [{ id: 'n', text: 'x', at: [0, 0] }] })).toEqual(['Only places in the graph, areas or notes.']);
    expect(change({})).toEqual([]);
  });
});
