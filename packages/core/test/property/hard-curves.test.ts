import { describe, expect, test } from 'vitest';
import { curveLengths, measure, type Curves, type Mesh } from '../../src/index.js';
import { runChain, runGraph, type Chain } from '../graph.js';
import { hardCurves } from './arbitrary.js';

const nodes: Readonly<Record<string, Chain[number]>> = {
  'resample by count': ['pace.resample', { count: 30 }],
  'resample by spacing': ['pace.resample', { by: 'spacing', spacing: 0.25 }],
  'resample exact': ['pace.resample', { by: 'spacing', spacing: 0.25, fit: 'exact' }],
  'resample by deviation': ['pace.resample', { by: 'deviation', deviation: 0.01 }],
  'resample keeping corners': ['pace.resample', { by: 'spacing', spacing: 0.3, keepCorners: 30 }],
  'resample by curvature': ['pace.resample', { count: 20, spread: 'curvature' }],
  simplify: ['pace.simplify', { tolerance: 0.01 }],
  halve: ['pace.subdivide', { times: 1 }],
  'cut corners': ['pace.subdivide', { times: 1, smooth: true }],
  cut: ['pace.cut', { start: 0.2, end: 0.7 }],
  reverse: ['pace.reverse'],
  reorder: ['pace.reorder', { shift: 3 }],
  close: ['pace.closeOpen'],
  'join ends': ['pace.joinEnds'],
  split: ['pace.split', { at: 'corners' }],
  mirror: ['shape.mirror', { weld: 0.001 }],
  displace: ['shape.displace', { along: 'framePlane' }],
  offset: ['shape.offset', { distance: 0.01 }],
  smooth: ['shape.smooth', { times: 3, keepSize: true }],
  'round corners': ['shape.roundCorners', { radius: 0.1 }],
  transform: ['shape.transform', { turn: [30, 40, 50], size: [1, -2, 0.5] }],
  hang: ['shape.hang', { value: 0.2 }],
  'minimal frames': ['aim.frames', { twist: 90 }],
  'upright frames': ['aim.frames', { method: 'upright' }],
  'curvature frames': ['aim.frames', { method: 'curvature' }],
  'frames to a target': ['aim.frames', { method: 'target', toward: 'centre', tangents: 'forwardDifference' }],
  'neighbouring tangents': ['aim.frames', { tangents: 'neighbours' }],
  'open ribbon': ['skin.ribbon', { width: 0.05, columns: 3, curl: 60 }],
  'relaxed tube': ['skin.tube', { radius: 0.05, sides: 6, caps: 'flat', relaxPinch: true }],
  'rounded tube': ['skin.tube', { radius: 0.02, sides: 6, caps: 'flat', corners: 'round' }],
  'plaited rope': ['skin.rope', { diameter: 0.03, layLength: 0.6, ringsPerTurn: 4, sides: 3, braid: 8, caps: 'flat' }],
  'open sheet': ['skin.extrude', { distance: 0.1 }],
  'open tube': ['skin.tube', { radius: 0.02, sides: 6 }],
  'capped tube': ['skin.tube', { radius: 0.02, sides: 6, caps: 'flat' }],
  'domed tube': ['skin.tube', { radius: 0.02, sides: 6, caps: 'domed' }],
  'tapered tube': ['skin.tube', { radius: { ramp: [[0, 0.02], [1, 0]] }, sides: 6, caps: 'flat' }], // prettier-ignore
  rope: ['skin.rope', { diameter: 0.03, layLength: 0.3, ringsPerTurn: 6, sides: 4, caps: 'flat' }],
};

const isFinite = (value: Curves | Mesh): boolean =>
  value.positions.every(Number.isFinite) && [...value.attributes.values()].every(({ data }) => data.every(Number.isFinite));

/** A thousand turns take their time: straight and through them is enough. */
const kindsOf = (shape: string): string[] => (shape.startsWith('helix') ? ['straight', 'through'] : ['straight', 'through', 'bspline']);

for (const [shape, points] of Object.entries(hardCurves))
  for (const kind of kindsOf(shape))
    describe(`${shape}, ${kind}`, () => {
      for (const closed of [false, true])
        test(
          closed ? 'closed' : 'open',
          async () => {
            for (const [name, node] of Object.entries(nodes)) {
              const { last } = await runChain([['lay.drawn', { kind, curves: [{ points, closed }] }], node]);
              const value = Object.values(last.outputs)[0] as Curves | Mesh | undefined;
              // A result that is finite, or a refusal or warning with a reason.
              if (!value) {
                expect(last.error?.message ?? last.warnings[0]?.message, name).toMatch(/\S{3}/);
                continue;
              }
              expect(isFinite(value), `${name} is finite`).toBe(true);
              if (value.type === 'curves') expect(curveLengths(value).every(Number.isFinite), name).toBe(true);
              else if (!value.corners.length) expect(last.warnings.length, `${name} says why it is empty`).toBeGreaterThan(0);
              else if (!name.startsWith('open')) expect(measure({ mesh: value }).boundaryEdges, `${name} is watertight`).toBe(0);
            }
          },
          60_000,
        );
    });

describe('profiles along hard curves', () => {
  for (const [shape, points] of Object.entries(hardCurves))
    test(shape, async () => {
      for (const kind of ['straight', 'through'])
        for (const closed of [false, true]) {
          const { results } = await runGraph(
            { path: ['lay.drawn', { kind, curves: [{ points, closed }] }], star: ['lay.polygon', { sides: 5, inner: 0.5, radius: 0.02 }], sweep: ['skin.sweep', { caps: 'flat' }] }, // prettier-ignore
            ['path.curves > sweep.curves', 'star.curves > sweep.profile'],
          );
          const mesh = results['sweep'].outputs['mesh'] as Mesh | undefined;
          if (!mesh?.corners.length) expect(results['sweep'].error?.message ?? results['sweep'].warnings[0]?.message).toMatch(/\S{3}/);
          else {
            expect(isFinite(mesh)).toBe(true);
            expect(measure({ mesh }).boundaryEdges).toBe(0);
          }
        }
    });
});

describe('curves that are refused or told', () => {
  const tubeOn = (points: readonly (readonly unknown[])[]) => runChain([['lay.drawn', { kind: 'straight', curves: [{ points }] }], ['skin.tube', { radius: 0.02 }]]); // prettier-ignore
  test('no point at all', async () => {
    const { last } = await tubeOn([]);
    expect(last.error).toBeUndefined();
    expect(last.warnings.map(({ code }) => code)).toEqual(['empty']);
  });
  test('values that are not finite, by their number', async () => {
    for (const bad of [NaN, Infinity, null, 'x']) {
      const { report } = await tubeOn([[0, 0, 0], [1, 0, bad], [2, 0, 0]]); // prettier-ignore
      expect(report.problems[0].pointer).toBe('/nodes/0/settings/curves/0/points/1');
      expect(report.problems[0].message).toContain('point 1 of curve 0');
    }
  });
  test('100 km from the origin, where 32-bit positions are 8 mm apart; not 100 m from it', async () => {
    const at = async (x: number): Promise<string[]> => (await tubeOn([[x, 0, x], [x + 1, 0.5, x], [x + 2, 0, x + 1]])).last.warnings.map(({ message }) => message); // prettier-ignore
    expect(await at(100)).toEqual([]);
    expect(await at(100_000)).toEqual([expect.stringContaining('positions are stored 12 mm apart')]);
  });
  test('1,000 km with detail of 1 mm: the point that is lost is named', async () => {
    const { results } = await runGraph({ a: ['lay.drawn', { kind: 'straight', curves: [{ points: [[0, 0, 0], [1e6, 0, 0], [1e6 + 0.001, 0, 0]] }] }] }, []); // prettier-ignore
    expect(results['a'].warnings.map(({ code, message }) => [code, message.slice(0, 17)])).toEqual([['degenerate', 'Point 3 of curve ']]);
  });
});

test('100,000 curves of two points, and one curve of 2,000,000 points', async () => {
  const many = Array.from({ length: 100_000 }, (_, i) => ({ points: [[i, 0, 0], [i, 1, 0]] })); // prettier-ignore
  const strands = await runChain([['lay.drawn', { kind: 'straight', curves: many }], ['skin.tube', { radius: 0.01, sides: 3 }]]); // prettier-ignore
  expect(strands.last.out).toEqual({ vertices: 600_000, faces: 300_000 });
  const long = await runChain([['lay.line', { points: 2_000_000, to: [5000, 0, 0] }], ['skin.tube', { radius: 0.01, sides: 3 }]]); // prettier-ignore
  expect(long.last.out).toEqual({ vertices: 6_000_000, faces: 5_999_997 });
}, 60_000);
