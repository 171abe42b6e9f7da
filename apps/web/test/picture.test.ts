import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { describe, expect, test } from 'vitest';
import {
  Evaluator,
  makeMesh,
  namedResults,
  parseDocument,
  Plan,
  requireDocument,
  resultOf,
  type FilaxisDocument,
  type GeometrySet,
  type RunResult,
} from '@filaxis/core';
import type { PathStripData, Picture, Shown } from '@filaxis/protocol';
import { edgesOf } from '../src/app/ropewalk/view3d/lines';
import { buffersOf, unpack } from '../src/workers/parcel';
import { makePicture } from '../src/workers/picture';
import { pathSources, unroll } from '../src/workers/strip';

const demo = (name: string): FilaxisDocument => parseDocument(readFileSync(resolve(import.meta.dirname, `../../../demo/documents/${name}.json`), 'utf8'));

async function evaluated(document: FilaxisDocument): Promise<{ plan: Plan; run: RunResult }> {
  const plan = new Plan(document);
  return { plan, run: await new Evaluator().run(plan) };
}

const pictureOf = (sets: readonly GeometrySet[], budget = 0): Picture => unpack(makePicture({ sets, paths: [], budget, colour: null, ghost: [] }).parcel, null);

describe('the picture for the 3D view', () => {
  test('has the counts of the result, triangles grouped by material, and buffers of its own', async () => {
    const { plan, run } = await evaluated(demo('pump-house-pipes'));
    const [set] = namedResults(plan, run).values();
    const picture = pictureOf([set], 60_000);
    expect(picture.counts.faces).toBe(2236);
    expect(picture.mesh!.groups.map(({ material }) => material!.name)).toEqual(['copper', 'bronze', 'madder paint']);
    expect(picture.mesh!.groups.reduce((sum, { count }) => sum + count, 0)).toBe(picture.counts.triangles * 3);
    expect(picture.mesh!.positions).toEqual(set.mesh!.positions);
    // What is handed over is not what is kept.
    expect(picture.mesh!.positions.buffer).not.toBe(set.mesh!.positions.buffer);
    expect(new Set(buffersOf(picture)).size).toBe(buffersOf(picture).length);
  });

  test('says whose backs are seen in files: those of open surfaces, else as the material says', async () => {
    const backs = async (caps: string, how: string | null): Promise<boolean[]> => {
      const nodes = [
        { id: 'a', type: 'lay.line', settings: {} },
        { id: 'b', type: 'skin.tube', settings: { caps } },
        ...(how ? [{ id: 'c', type: 'mesh.material', settings: { backs: how } }] : []),
      ];
      const wires = [{ from: ['a', 'curves'], to: ['b', 'curves'] }, ...(how ? [{ from: ['b', 'mesh'], to: ['c', 'any'] }] : [])];
      const { run } = await evaluated(requireDocument({ format: 'filaxis-graph', version: 1, title: 'x', nodes, wires }));
      return pictureOf([resultOf(run.nodes.get(how ? 'c' : 'b'))]).mesh!.groups.map((group) => group.backs);
    };
    expect([await backs('open', null), await backs('flat', null)]).toEqual([[true], [false]]);
    expect([await backs('open', 'unseen'), await backs('flat', 'seen'), await backs('open', 'open')]).toEqual([[false], [true], [true]]);
  });

  test('edges of the wire view join vertices of the mesh', async () => {
    const { plan, run } = await evaluated(demo('lamp-cable'));
    const mesh = pictureOf([...namedResults(plan, run).values()]).mesh!;
    const edges = edgesOf(mesh);
    expect(edges.length % 2).toBe(0);
    expect(Math.max(...edges)).toBeLessThan(mesh.positions.length / 3);
  });

  test('edges of quads are found again in their triangles: the first and the last side of each', () => {
    const quads = makeMesh({ positions: new Float32Array(18), corners: Uint32Array.from([0, 1, 4, 3, 1, 2, 5, 4]), uniform: 4 });
    const mesh = pictureOf([{ mesh: quads }]).mesh!;
    expect([mesh.edges, [...edgesOf(mesh)]]).toEqual([null, [0, 1, 3, 0, 1, 2, 4, 1]]);
  });

  test('of nothing is empty', () => {
    expect(pictureOf([])).toMatchObject({ mesh: null, curves: null, bounds: null, counts: { faces: 0, points: 0, curves: 0 } });
  });
});

const show: Shown = { shows: 'outputs', looked: null, peek: null, curve: 0, chosen: null, colour: null, ghost: null, stripName: null, stripOthers: false };

describe('the Path strip', () => {
  const chain = (nodes: [string, string, object][], wires: [string, string, string, string][]): FilaxisDocument =>
    requireDocument({ format: 'filaxis-graph', version: 1, title: 'Strip', nodes: nodes.map(([id, type, settings]) => ({ id, type, settings })), wires: wires.map(([a, b, c, d]) => ({ from: [a, b], to: [c, d] })) }); // prettier-ignore
  const stripOf = async (document: FilaxisDocument, chosen: string | null, curve = 0): Promise<PathStripData | null> => {
    const { plan, run } = await evaluated(document);
    const wanted = { ...show, chosen, curve };
    return unroll(plan, run, pathSources(plan, run, wanted), wanted);
  };

  test('a circle of radius 2 has curvature ½ everywhere, length 4π, and the tube’s radius', async () => {
    const strip = (await stripOf(chain([['c', 'lay.circle', { radius: 2, points: 200 }], ['t', 'skin.tube', { radius: 0.3 }]], [['c', 'curves', 't', 'curves']]), 't'))!; // prettier-ignore
    expect(strip).toMatchObject({ curve: 0, curves: 1, node: 'c', closed: true });
    expect(strip.length).toBeCloseTo(4 * Math.PI, 4);
    for (const value of strip.curvature) expect(value).toBeCloseTo(0.5, 3);
    expect([...strip.radius!].every((value) => Math.abs(value - 0.3) < 1e-6)).toBe(true);
  });

  test('a straight run up to a bend is drawn without curvature, though the point between has half of it', async () => {
    const path = {
      kind: 'straight',
      curves: [
        {
          points: [
            [0, 0, 0],
            [4, 0, 0],
            [4, 0, 4],
          ],
        },
      ],
    };
    const strip = (await stripOf(chain([['d', 'lay.drawn', path], ['r', 'shape.roundCorners', { radius: 0.5 }]], [['d', 'curves', 'r', 'curves']]), 'r'))!; // prettier-ignore
    const { s, values } = strip.bends;
    // Two values at the place where the bend begins, and at the one where it ends.
    const doubled = [...s.keys()].filter((i) => i && s[i] === s[i - 1]);
    expect(doubled.map((i) => Number(s[i].toFixed(3)))).toEqual([3.5, Number((3.5 + Math.PI / 4).toFixed(3))]);
    for (let i = 0; i < doubled[0]; i++) expect(values[i]).toBeLessThan(1e-6);
    expect([values[doubled[0]], values[doubled[1] - 1]].every((value) => Math.abs(value - 2) < 0.05)).toBe(true);
    expect(strip.curvature[1]).toBeCloseTo(1, 1);
  });

  test('a twist shows as roll; a ramp as radius; places rise', async () => {
    const document = chain(
      [['l', 'lay.line', { to: [4, 0, 0], points: 5 }], ['f', 'aim.frames', { twist: 80 }], ['t', 'skin.tube', { radius: { ramp: [[0, 0.2], [1, 0.1]] } }]],
      [['l', 'curves', 'f', 'curves'], ['f', 'curves', 't', 'curves']],
    ); // prettier-ignore
    const strip = (await stripOf(document, 't'))!;
    expect([...strip.s]).toEqual([0, 1, 2, 3, 4]);
    expect([...strip.roll].map((value) => Math.round(value * 100) / 100)).toEqual([0, 20, 40, 60, 80]);
    expect([...strip.radius!].map((value) => Math.round(value * 1000) / 1000)).toEqual([0.2, 0.175, 0.15, 0.125, 0.1]);
  });

  test('curves are counted over all skins; a dial gives the rope’s radius; the choice is kept in range', async () => {
    const strip = (await stripOf(demo('quay-rail-ropes'), null, 500))!;
    expect(strip.curves).toBe(14);
    expect(strip.curve).toBe(13);
    const rope = (await stripOf(demo('quay-rail-ropes'), 'rope'))!;
    expect(rope.curves).toBe(10);
    expect(rope.radius![0]).toBeCloseTo(0.023, 6);
  });

  test('a pinch is told with its place; a document without curves has no strip', async () => {
    const strip = (await stripOf(chain([['c', 'lay.circle', { radius: 0.2 }], ['t', 'skin.tube', { radius: 0.3 }]], [['c', 'curves', 't', 'curves']]), 't'))!; // prettier-ignore
    expect(strip.warnings.map(({ code }) => code)).toContain('pinch');
    expect(await stripOf(chain([['t', 'skin.tube', {}]], []), 't')).toBeNull();
  });
});

test('the strip of a swept path has the pinches of its Sweep; copies are drawn by their matrices', async () => {
  const graph = requireDocument({
    format: 'filaxis-graph',
    version: 1,
    title: 'Bend',
    nodes: [
      { id: 'path', type: 'lay.circle', settings: { radius: 0.2, points: 48 } },
      { id: 'star', type: 'lay.polygon', settings: { radius: 0.3 } },
      { id: 'sweep', type: 'skin.sweep' },
      { id: 'out', type: 'flow.output' },
    ],
    wires: [
      { from: ['path', 'curves'], to: ['sweep', 'curves'] },
      { from: ['star', 'curves'], to: ['sweep', 'profile'] },
      { from: ['sweep', 'mesh'], to: ['out', 'any'] },
    ],
  });
  const { plan, run } = await evaluated(graph);
  const strip = unroll(plan, run, pathSources(plan, run, { ...show, chosen: 'path' }), { ...show, chosen: 'path' })!;
  expect(strip.warnings.map(({ code }) => code)).toContain('pinch');
  expect(strip.radius).toBeNull();
  // A closed curve is unrolled to its end, where it is at its start again.
  expect(strip.s[strip.s.length - 1]).toBeCloseTo(strip.length, 6);
  expect(strip.positions.slice(-3)).toEqual(strip.positions.slice(0, 3));

  const chain = await evaluated(demo('mooring-chain'));
  const picture = pictureOf([...namedResults(chain.plan, chain.run).values()]);
  expect(picture.mesh).toBeNull();
  expect(picture.copies.map(({ matrices }) => matrices.length / 16)).toEqual([29, 8]);
  expect(picture.counts.copies).toBe(37);
  expect(picture.bounds!.max[1] - picture.bounds!.min[1]).toBeGreaterThan(0.5);
  expect(new Set(buffersOf(picture)).size).toBe(buffersOf(picture).length);
});

test('what is only there to make something of does not count in the size of the picture, unless nothing else is there', async () => {
  const document = requireDocument({
    format: 'filaxis-graph',
    version: 1,
    title: 'Construction',
    nodes: [
      { id: 'far', type: 'lay.line', settings: { to: [50, 0, 0] } },
      { id: 'ball', type: 'lay.sphere', settings: { radius: 1, kind: 'rings' } },
    ],
    wires: [],
  });
  const { run } = await evaluated(document);
  const [curves, mesh] = ['far', 'ball'].map((id) => resultOf(run.nodes.get(id)));
  const of = (sets: readonly GeometrySet[]): Picture => unpack(makePicture({ sets, paths: [curves.curves!], budget: 0, colour: null, ghost: [] }).parcel, null);
  expect(of([mesh]).bounds!.max[0]).toBeCloseTo(1, 5);
  expect(of([mesh, curves]).bounds!.max[0]).toBe(50);
  expect(of([]).bounds!.max[0]).toBe(50);
});
