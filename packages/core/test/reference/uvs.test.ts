import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { curveLengths, measure, paced, skinParts, triangulate, tube, constantField, type Mesh } from '../../src/index.js';
import { points } from '../property/arbitrary.js';
import { drawn, measureChain, runChain, type Chain } from '../graph.js';
import { expectReference, fineBezier, places, reference, type FormulaCurve } from './reference.js';

const column = (mesh: Mesh, k: 0 | 1): number[] => Array.from(mesh.attributes.get('uv')!.data).filter((_, i) => i % 2 === k);

/** Lengths on the surface of one unit of u and one of v, for every face of a wall of quads in rows of `sides`. */
function lengthsOfUnits(mesh: Mesh, sides: number): { around: number[]; along: number[] } {
  const [p, uv] = [places(mesh.positions), mesh.attributes.get('uv')!.data];
  const apart = (a: number, b: number): number => Math.hypot(...p[a].map((value, k) => value - p[b][k]));
  const rows = mesh.positions.length / 3 / (sides + 1);
  const around: number[] = [];
  const along: number[] = [];
  for (let ring = 0; ring < rows; ring++)
    for (let k = 0; k < sides; k++) {
      const at = ring * (sides + 1) + k;
      around.push(apart(at, at + 1) / (uv[(at + 1) * 2] - uv[at * 2]));
      if (ring + 1 < rows) along.push(apart(at, at + sides + 1) / (uv[(at + sides + 1) * 2 + 1] - uv[at * 2 + 1]));
    }
  return { around, along };
}

describe('a tube’s wall', () => {
  const cylinder = reference<{ r: number; length: number; sides: number; tile: number }>('UV-O-02');
  test(cylinder.name, async () => {
    const { r, length, sides, tile } = cylinder.inputs;
    const made = async (uvScale: number): Promise<Mesh> =>
      (await runChain([['lay.line', { to: [length, 0, 0], points: 5 }], ['skin.tube', { radius: r, sides, uvScale }]])).mesh; // prettier-ignore
    const fitted = await made(0);
    expectReference(column(fitted, 0).slice(0, sides + 1), cylinder.expected['v'], 1e-6);
    const first = places(fitted.positions);
    expect(first[sides]).toEqual(first[0]);
    const scaled = await made(tile);
    expectReference(Math.max(...column(scaled, 0)), cylinder.expected['repeatsAround'], 1e-5);
    expectReference(Math.max(...column(scaled, 1)), cylinder.expected['repeatsAlong'], 1e-5);
    // The wall of flat faces is a little narrower than the circle that u counts.
    const { around, along } = lengthsOfUnits(scaled, sides);
    const polygon = (cylinder.expected['repeatsAround_polygonPerimeter'].value as number) / (cylinder.expected['repeatsAround'].value as number);
    for (const value of around) expect(value / tile).toBeCloseTo(polygon, 5);
    for (const value of along) expect(value / tile).toBeCloseTo(1, 5);
  });

  const torus = reference<{ R: number; r: number }>('UV-O-03');
  test(torus.name, async () => {
    const { R, r } = torus.inputs;
    const sides = 64;
    const { mesh } = await runChain([
      ['lay.circle', { radius: R, points: 512 }],
      ['skin.tube', { radius: r, sides, uvScale: 1 }],
    ]);
    const { along } = lengthsOfUnits(mesh, sides);
    expectReference([Math.min(...along), Math.max(...along)], { value: [torus.expected['stretchMin'].value, torus.expected['stretchMax'].value], rel: 2e-3 });
  });

  const spiral = reference<{ curve: FormulaCurve; ringParameters: number[] }>('UV-O-05');
  test(`${spiral.name}: v goes by length, not by number`, () => {
    const rings = 1601;
    const curves = paced(fineBezier(spiral.inputs.curve, rings));
    const { mesh } = tube(curves, { radius: constantField(0.001), sides: 3, caps: 'open', corners: 'asIs', uvScale: 0, ringStep: 1, capOffset: [0, 0], capTurn: 0, capScale: 1 }); // prettier-ignore
    const v = column(mesh, 1).filter((_, i) => i % 4 === 0);
    const stride = (v.length - 1) / (spiral.inputs.ringParameters.length - 1);
    expect(Number.isInteger(stride)).toBe(true);
    expectReference(
      spiral.inputs.ringParameters.map((_, k) => v[k * stride]),
      spiral.expected['u'],
    );
    expect(curveLengths(curves)[0]).toBeGreaterThan(39);
  });

  const cone = reference<{ r0: number; r1: number; height: number }>('UV-O-06');
  test(cone.name, async () => {
    const { r0, r1, height } = cone.inputs;
    const sides = 48;
    const { mesh } = await runChain([
      ['lay.line', { to: [0, height, 0] }],
      ['skin.tube', { radius: { ramp: [[0, r0], [1, r1]] }, sides }],
    ]); // prettier-ignore
    const { around, along } = lengthsOfUnits(mesh, sides);
    expect(around[0] / around[around.length - 1]).toBeCloseTo(cone.expected['aroundDensityRatio'].value as number, 4);
    for (const slant of along) expectReference(slant, cone.expected['slant'], 1e-4);
  });

  const seam = reference<{ rings: number; sides: number }>('UV-O-07');
  test(seam.name, async () => {
    const { rings, sides } = seam.inputs;
    const of = async (path: Chain, caps: string): Promise<Mesh> => (await runChain([...path, ['skin.tube', { radius: 0.1, sides, caps }]])).mesh;
    const open = await of([['lay.line', { points: rings }]], 'open');
    const closed = await of([['lay.circle', { points: rings }]], 'open');
    const capped = await of([['lay.line', { points: rings }]], 'flat');
    expectReference([open, closed].map((mesh) => mesh.positions.length / 3), { value: [seam.expected['openTubeUVVertices'].value, seam.expected['closedTubeUVVertices'].value], exactMatch: true }); // prettier-ignore
    expectReference(measure({ mesh: open }).vertices, seam.expected['distinctPositions']);
    expectReference((capped.positions.length - open.positions.length) / 3, seam.expected['withTwoSeparateCaps_extraVertices']);
    const [p, n, u] = [places(open.positions), places(open.attributes.get('normal')!.data), column(open, 0)];
    const pairs = Array.from({ length: rings }, (_, ring) => [ring * (sides + 1), ring * (sides + 1) + sides]);
    expectReference(pairs.length, seam.expected['seamPairsOpen']);
    for (const [a, b] of pairs) {
      expect(p[b]).toEqual(p[a]);
      expect(n[b]).toEqual(n[a]);
      expect(u[b] - u[a]).toBe(1);
    }
    const { indices } = triangulate(open);
    for (let i = 0; i < indices.length; i += 3) {
      const of = [0, 1, 2].map((k) => u[indices[i + k]]);
      expect(Math.max(...of) - Math.min(...of)).toBeLessThan(1 / sides + 1e-6);
    }
  });
});

describe(reference('UV-O-08').name, () => {
  test('everywhere finite, v never goes back, and no part is mirrored: any path, any skin', () =>
    fc.assert(
      fc.asyncProperty(points(3, 6), fc.constantFrom(0, 0.2), async (list, uvScale) => {
        for (const skin of [
          ['skin.tube', { radius: 0.0005, sides: 5, uvScale }],
          ['skin.ribbon', { width: 0.001, columns: 2, uvScale }],
        ] as Chain) {
          const { mesh } = await runChain([drawn(list), skin]);
          const uv = mesh.attributes.get('uv')!.data;
          expect(uv.every(Number.isFinite)).toBe(true);
          const { indices, faceOf } = triangulate(mesh);
          const part = mesh.attributes.get('part')!.data;
          for (let i = 0; i < indices.length; i += 3) {
            const [a, b, c] = [indices[i] * 2, indices[i + 1] * 2, indices[i + 2] * 2];
            if (part[faceOf[i / 3]] !== skinParts.wall) continue;
            expect((uv[b] - uv[a]) * (uv[c + 1] - uv[a + 1]) - (uv[c] - uv[a]) * (uv[b + 1] - uv[a + 1])).toBeGreaterThanOrEqual(0);
          }
        }
      }),
      { numRuns: 25 },
    ));

  test('in metres per tile every metre of a straight tube has as much of v, however its rings stand', async () => {
    for (const ringPlaces of [[0, 1, 2, 3, 4], [0, 0.1, 0.2, 3.5, 4]]) {
      const { mesh } = await runChain([drawn(ringPlaces.map((x) => [x, 0, 0])), ['skin.tube', { radius: 0.1, sides: 6, uvScale: 0.25 }]]); // prettier-ignore
      const v = column(mesh, 1).filter((_, i) => i % 7 === 0);
      ringPlaces.forEach((x, i) => expect(v[i]).toBeCloseTo(x / 0.25, 5));
    }
  }); // prettier-ignore

  test('more rings do not move v where it was', async () => {
    const at = async (count: number): Promise<number> => {
      const { mesh } = await runChain([['lay.circle', { radius: 2, span: 180, points: 64 }], ['pace.resample', { count }], ['skin.tube', { radius: 0.1, sides: 4 }]]); // prettier-ignore
      return column(mesh, 1)[((count - 1) / 4) * 5];
    };
    for (const count of [9, 33, 129]) expect(await at(count)).toBeCloseTo(0.25, 5);
  });
});

test('the stretch in the report is 1 on a cylinder, and tells a cone’s by its radii (derived)', async () => {
  const stretch = async (end: number): Promise<readonly number[]> =>
    (await measureChain([['lay.line', { points: 33 }], ['skin.tube', { radius: { ramp: [[0, 0.1], [1, end]] }, sides: 24 }]])).uv!.stretch; // prettier-ignore
  const [least, most] = await stretch(0.1);
  expect(most - least).toBeLessThan(1e-4);
  const cone = await stretch(0.2);
  expect(cone[1] - cone[0]).toBeGreaterThan(0.2);
});
