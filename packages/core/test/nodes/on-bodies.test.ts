import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { curveLengths, Surface, type Curves, type Geometry, type Mesh, type NodeResult } from '../../src/index.js';
import { drawn, runGraph, type Chain } from '../graph.js';
import { hardCurves } from '../property/arbitrary.js';
import { places } from '../reference/reference.js';

type Step = Chain[number];

/** A subject and a body through a node. */
async function on(type: string, subject: Step, body: Step, settings: object): Promise<{ result: NodeResult; made: Geometry; body: Mesh }> {
  const into = type === 'shape.drape' ? 'any' : 'curves';
  const from = subject[0].startsWith('lay.grid') || subject[0].startsWith('lay.sphere') ? 'mesh' : subject[0] === 'pace.points' ? 'points' : 'curves';
  const nodes = { subject, body, it: [type, settings] as unknown as Step };
  const { results } = await runGraph(nodes, [`subject.${from} > it.${into}`, 'body.mesh > it.body']);
  const { outputs, error } = results['it'];
  if (error) throw new Error(error.message);
  return { result: results['it'], made: Object.values(outputs)[0] as Geometry, body: results['body'].outputs['mesh'] as Mesh };
}

const positionsOf = (made: Geometry): number[][] => places((made as Curves).positions);
const ground: Step = ['lay.terrain', { size: [40, 40], divisions: 80, height: 5, seed: 4 }];
const path: Step = drawn([[-18, 20, -15], [-4, -9, 2], [6, 3, -8], [17, 8, 16]], false, 'through'); // prettier-ignore
const down = { method: 'alongDirection' };

/** Greatest distance from the surface of places all along the straight pieces of curves. */
function furthest(curves: Curves, body: Mesh, lift = 0): number {
  const surface = new Surface(body);
  const p = positionsOf(curves);
  let most = 0;
  for (let i = 0; i + 1 < p.length; i++)
    for (let f = 0; f <= 1; f += 1 / 16) {
      const [x, y, z] = p[i].map((value, k) => value + f * (p[i + 1][k] - value));
      most = Math.max(most, Math.abs(surface.signedDistance(x, y - lift, z)));
    }
  return most;
}

describe('Drape', () => {
  test('along a direction moves points that way alone, up or down, and the offset lifts them', async () => {
    for (const offset of [0, 0.4]) {
      const { made, body } = await on('shape.drape', path, ground, { ...down, offset });
      const surface = new Surface(body);
      const given = [[-18, -15], [-4, 2], [6, -8], [17, 16]]; // prettier-ignore
      positionsOf(made).forEach(([x, y, z], i) => {
        expect([x, z]).toEqual([expect.closeTo(given[i][0], 5), expect.closeTo(given[i][1], 5)]);
        expect(Math.abs(surface.signedDistance(x, y - offset, z))).toBeLessThan(1e-5);
      });
    }
  });

  test('refined it follows the ground within the tolerance, with more points the less that is', async () => {
    const counts: number[] = [];
    for (const tolerance of [0.2, 0.02, 0.005]) {
      const { made, body } = await on('shape.drape', path, ground, { ...down, follow: 'refine', tolerance });
      expect(furthest(made as Curves, body)).toBeLessThan(tolerance);
      counts.push((made as Curves).positions.length / 3);
    }
    expect(counts[1]).toBeGreaterThan(counts[0] * 2);
    expect(counts[2]).toBeGreaterThan(counts[1] * 1.5);
    // With its four points it runs through the hills.
    const { made, body } = await on('shape.drape', path, ground, down);
    expect(furthest(made as Curves, body)).toBeGreaterThan(0.3);
    const lifted = await on('shape.drape', path, ground, { ...down, follow: 'refine', tolerance: 0.02, offset: 0.3 });
    expect(furthest(lifted.made as Curves, lifted.body, 0.3)).toBeLessThan(0.02);
  });

  test('on level ground a straight line needs no more points', async () => {
    const line: Step = ['lay.line', { from: [-3, 4, 0], to: [3, 2, 1] }];
    const { made } = await on('shape.drape', line, ['lay.grid', { size: [10, 10], divisions: 50 }], { ...down, follow: 'refine', tolerance: 0.001 });
    expect(positionsOf(made)).toEqual([[-3, 0, 0], [3, 0, 1]]); // prettier-ignore
  });

  test('to the nearest place, off it by the offset, from inside and from outside', async () => {
    const ring: Step = ['lay.circle', { radius: 3, points: 40, axis: [1, 2, 0.5] }];
    for (const radius of [2, 4]) {
      const { made, body } = await on('shape.drape', ring, ['lay.sphere', { radius, divisions: 24 }], { offset: 0.1 });
      const surface = new Surface(body);
      for (const [x, y, z] of positionsOf(made)) {
        expect(surface.signedDistance(x, y, z)).toBeCloseTo(0.1, 3);
        expect(Math.hypot(x, y, z) / (radius + 0.1)).toBeCloseTo(1, 2);
      }
      expect((made as Curves).closed[0]).toBe(1);
    }
  });

  test('a mesh is draped as curves are, and gets new normals', async () => {
    const { made, body } = await on('shape.drape', ['lay.grid', { size: [20, 20], divisions: 30 }], ground, down);
    const surface = new Surface(body);
    for (const [x, y, z] of positionsOf(made)) expect(Math.abs(surface.signedDistance(x, y, z))).toBeLessThan(1e-4);
    const normals = places(made.attributes.get('normal')!.data);
    expect(normals.some(([, y]) => y < 0.99)).toBe(true);
    for (const n of normals) expect(Math.hypot(...n)).toBeCloseTo(1, 5);
  });

  test('points beside the body stay, and are told', async () => {
    const { made, result } = await on('shape.drape', ['lay.line', { from: [0, 3, 0], to: [9, 3, 0], points: 4 }], ['lay.grid', { size: [8, 8] }], down);
    expect(positionsOf(made)).toEqual([[0, 0, 0], [3, 0, 0], [6, 3, 0], [9, 3, 0]]); // prettier-ignore
    expect(result.warnings.map(({ code, message }) => [code, message])).toEqual([['degenerate', '2 points have nothing of the body in the way, and stayed.']]);
  });

  test('without a body it waits for one', async () => {
    const { results } = await runGraph({ subject: path, it: ['shape.drape', {}] }, ['subject.curves > it.any']);
    expect(results['it'].warnings[0]).toMatchObject({ code: 'empty', message: 'Waiting for mesh at "body".' });
  });
});

describe('Keep outside', () => {
  const near = fc.double({ min: -1.6, max: 1.6, noNaN: true });
  const strand = fc.array(fc.tuple(near, near, near), { minLength: 2, maxLength: 12 });
  const bodies: Readonly<Record<string, Step>> = {
    ball: ['lay.sphere', { radius: 1, divisions: 8 }],
    box: ['lay.box', { size: [1.6, 1.2, 2] }],
    cone: ['lay.cylinder', { radius: 1, radiusTop: 0, height: 2, sides: 7 }],
  };
  for (const [name, body] of Object.entries(bodies))
    test(`${name}: nothing is nearer than the padding afterwards, what was far enough has not moved, and roots and tips stay`, () =>
      fc.assert(
        fc.asyncProperty(strand, fc.constantFrom(0.002, 0.1), fc.boolean(), fc.boolean(), async (points, padding, keepRoots, keepTips) => {
          const { made, body: mesh, result } = await on('shape.keepOutside', drawn(points), body, { padding, keepRoots, keepTips });
          const surface = new Surface(mesh);
          expect(result.warnings).toEqual([]);
          positionsOf(made).forEach(([x, y, z], i) => {
            const given = points[i].map(Math.fround);
            const before = surface.signedDistance(given[0], given[1], given[2]);
            if (before >= padding || (keepRoots && i === 0) || (keepTips && i === points.length - 1)) expect([x, y, z]).toEqual(given);
            else expect(surface.signedDistance(x, y, z)).toBeGreaterThan(padding - 1e-4);
          });
        }),
        { numRuns: 60 },
      ));

  test('what is outside goes straight away from the body, what is inside along its normal', async () => {
    const { made } = await on('shape.keepOutside', drawn([[0, 5, 0], [0.2, 0.9, 0.1], [0, 1.05, 0]]), ['lay.box', { size: [2, 2, 2] }], { padding: 0.1 }); // prettier-ignore
    expect(positionsOf(made).flat()).toEqual([0, 5, 0, 0.2, 1.1, 0.1, 0, 1.1, 0].map((value) => expect.closeTo(value, 5)));
  });

  test('lengths of pieces stay, where the body lets them, when they are kept', async () => {
    const hair = drawn([0, 1, 2, 3, 4, 5, 6, 7, 8].map((i) => [0.9 - 0.15 * i, 1.2 - 0.1 * i, 0.05]));
    const ball: Step = ['lay.sphere', { radius: 1, divisions: 16 }];
    const length = async (keepLength: boolean): Promise<number> => curveLengths((await on('shape.keepOutside', hair, ball, { padding: 0.02, keepLength })).made as Curves)[0]; // prettier-ignore
    const given = 8 * Math.hypot(0.15, 0.1);
    const [free, kept] = [await length(false), await length(true)];
    expect(Math.abs(kept / given - 1)).toBeLessThan(0.02);
    expect(Math.abs(free / given - 1)).toBeGreaterThan(0.03);
  });

  test('done twice it is as done once', async () => {
    const { results } = await runGraph(
      { hair: drawn([[0, 2, 0], [0.1, 0.5, 0.2], [0.3, -0.2, 0.4], [2, 0, 0]]), ball: bodies['ball'], once: ['shape.keepOutside', {}], twice: ['shape.keepOutside', {}] },
      ['hair.curves > once.curves', 'ball.mesh > once.body', 'once.curves > twice.curves', 'ball.mesh > twice.body'],
    ); // prettier-ignore
    const [once, twice] = ['once', 'twice'].map((id) => Array.from((results[id].outputs['curves'] as Curves).positions));
    expect(twice).toEqual(once);
  });
});

describe('Frames by surface', () => {
  test('on a ball their normals point away from its middle, square to the path; without a body they say what is missing', async () => {
    const nodes = { path: ['lay.helix', { radius: 1, height: 1.6, turns: 2 }] as Step, ball: ['lay.sphere', { radius: 1.2, divisions: 16 }] as Step, it: ['aim.frames', { method: 'surface' }] as Step }; // prettier-ignore
    const { results } = await runGraph(nodes, ['path.curves > it.curves', 'ball.mesh > it.body']);
    const made = results['it'].outputs['curves'] as Curves;
    const [p, n, t] = [made.positions, made.attributes.get('normal')!.data, made.attributes.get('tangent')!.data].map((data) => places(data));
    p.forEach((place, i) => {
      const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((sum, value, k) => sum + value * b[k], 0);
      expect([Math.hypot(...n[i]), dot(n[i], t[i])]).toEqual([expect.closeTo(1, 5), expect.closeTo(0, 5)]);
      // As far out as the tangent allows: nothing of the way out is left beside tangent and normal.
      const out = place.map((value) => value / Math.hypot(...place));
      expect(dot(out, t[i]) ** 2 + dot(out, n[i]) ** 2).toBeCloseTo(1, 2);
      expect(dot(out, n[i])).toBeGreaterThan(0);
    });
    const alone = await runGraph({ path: nodes.path, it: nodes.it }, ['path.curves > it.curves']);
    expect(alone.results['it'].error?.message).toContain('Frames by surface need a body: wire a mesh to it.');
  });
});

describe('hard curves on a ball', () => {
  const ball: Step = ['lay.sphere', { radius: 0.7, divisions: 6 }];
  for (const [name, points] of Object.entries(hardCurves).filter(([name]) => !name.startsWith('helix')))
    test(name, async () => {
      for (const [type, settings] of [
        ['shape.drape', { follow: 'refine', tolerance: 0.02, offset: 0.01 }],
        ['shape.drape', { method: 'alongDirection', follow: 'refine', tolerance: 0.02 }],
        ['shape.keepOutside', { keepLength: true, padding: 0.01 }],
        ['aim.frames', { method: 'surface' }],
      ] as const)
        for (const kind of ['straight', 'through']) {
          const into = type === 'shape.drape' ? 'any' : 'curves';
          const { results } = await runGraph(
            { path: ['lay.drawn', { kind, curves: [{ points }] }], ball, it: [type, settings] },
            [`path.curves > it.${into}`, 'ball.mesh > it.body'],
          ); // prettier-ignore
          const { outputs, error, warnings } = results['it'];
          const made = Object.values(outputs)[0] as Curves | undefined;
          if (!made) expect(error?.message ?? warnings[0]?.message).toMatch(/\S{3}/);
          else expect(made.positions.every(Number.isFinite) && [...made.attributes.values()].every(({ data }) => data.every(Number.isFinite))).toBe(true);
        }
    });
});
