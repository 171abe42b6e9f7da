import { describe, expect, test } from 'vitest';
import { faceCount, faceStart, measure, meshFaults, type Mesh, type NodeResult } from '../../src/index.js';
import { drawn, runChain, runGraph, type Chain } from '../graph.js';

/** A square of 0.2 m, moved in its plane, swept along a path with frames. */
async function swept(path: Chain[number], frames: object, move: readonly number[], settings: object = {}): Promise<{ mesh: Mesh; result: NodeResult }> {
  const { results } = await runGraph(
    {
      path,
      frames: ['aim.frames', { ...frames }],
      square: ['lay.rectangle', { width: 0.2, height: 0.2 }],
      moved: ['shape.transform', { move }],
      it: ['skin.sweep', { ...settings }],
    },
    ['path.curves > frames.curves', 'frames.curves > it.curves', 'square.curves > moved.any', 'moved.any > it.profile'],
  );
  return { mesh: results['it'].outputs['mesh'] as Mesh, result: results['it'] };
}

const circle = (radius: number, points: number): Chain[number] => ['lay.circle', { radius, points }];
const codes = ({ warnings }: NodeResult): string[] => warnings.map(({ code }) => code);

/** A square of side a, its middle at radius R from the axis, on n straight pieces: n·R²·sin(2π/n)/2 takes the place of πR² in Pappus's 2πR·a². */
const pappus = (R: number, a: number, n: number): number =>
  (a * (R + a / 2) ** 2 * n * Math.sin((2 * Math.PI) / n)) / 2 - (a * (R - a / 2) ** 2 * n * Math.sin((2 * Math.PI) / n)) / 2;

describe('a section beside its path', () => {
  test('on the outer side of the bend nothing pinches, and relaxing leaves it alone (Pappus of Alexandria, on 128 straight pieces)', async () => {
    for (const relaxPinch of [false, true]) {
      const { mesh, result } = await swept(circle(1, 128), { method: 'curvature' }, [-1.2, 0, 0], { relaxPinch });
      expect(codes(result)).toEqual([]);
      expect(measure({ mesh }).volume).toBeCloseTo(pappus(2.2, 0.2, 128), 5);
    }
  });
  test('inside the bend it fits as long as it does not reach the centre', async () => {
    const fits = await swept(circle(1, 128), { method: 'curvature' }, [0.8, 0, 0]);
    expect(codes(fits.result)).toEqual([]);
    expect(measure({ mesh: fits.mesh }).volume).toBeCloseTo(pappus(0.2, 0.2, 128), 5);
    expect(codes((await swept(circle(1, 128), { method: 'curvature' }, [0.95, 0, 0])).result)).toContain('pinch');
  });
  test('beyond the centre it pinches, and relaxing thins it until it does not', async () => {
    expect(codes((await swept(circle(1, 128), { method: 'curvature' }, [1.2, 0, 0])).result)).toContain('pinch');
    expect(codes((await swept(circle(1, 128), { method: 'curvature' }, [1.2, 0, 0], { relaxPinch: true })).result)).not.toContain('pinch');
  });
  test('a flat ribbon across the axis of the bend folds nowhere, however wide', async () => {
    const ribbon = (face: string): Chain => [circle(1, 64), ['aim.frames', { method: 'curvature' }], ['skin.ribbon', { width: 4, face }]];
    expect(codes((await runChain(ribbon('normal'))).last)).toEqual([]);
    expect(codes((await runChain(ribbon('side'))).last)).toContain('pinch');
  });
  test('legs further apart than its own size do not meet, though the path is further from it than that', async () => {
    const legs = drawn([[0, 0, 0], [10, 0, 0], [10, 0, 2], [0, 0, 2]]); // prettier-ignore
    expect(codes((await swept(legs, { method: 'upright' }, [1.5, 0, 0])).result)).toEqual([]);
  });
});

const wrapped = (degrees: number, turn: number): number => Math.abs(degrees - turn * Math.round(degrees / turn));

describe('twist on a closed path', () => {
  /** Longest edge over shortest of those that run along the path. */
  const unevenness = (mesh: Mesh): number => {
    const p = mesh.positions;
    const lengths = Array.from({ length: faceCount(mesh) }, (_, f) => {
      const [a, d] = [mesh.corners[faceStart(mesh, f)] * 3, mesh.corners[faceStart(mesh, f) + 3] * 3];
      return Math.hypot(p[a] - p[d], p[a + 1] - p[d + 1], p[a + 2] - p[d + 2]);
    });
    return Math.max(...lengths) / Math.min(...lengths);
  };
  for (const twist of [0, 90, -90, 180, 270, 360, 450])
    test(`of a square by ${twist}° goes on over the seam: columns are shifted`, async () => {
      const { mesh, result } = await swept(circle(2, 64), { twist }, [0, 0, 0]);
      expect(codes(result)).toEqual([]);
      expect(measure({ mesh })).toMatchObject({ faces: 256, euler: 0, boundaryEdges: 0 });
      expect(unevenness(mesh)).toBeLessThan(1.2);
    });
  for (const twist of [45, 10, 100])
    test(`of a square by ${twist}° is told with the angle that is left, and what helps`, async () => {
      const { warnings } = (await swept(circle(2, 64), { twist }, [0, 0, 0])).result;
      expect(warnings).toHaveLength(1);
      expect(warnings[0].message).toContain(`turned by ${wrapped(twist, 90).toPrecision(3)}°`);
      expect(warnings[0].remedy).toContain('multiple of 90°');
    });
  test('a profile that looks the same only after a whole turn needs one', async () => {
    expect((await swept(circle(2, 64), { twist: 90 }, [0.05, 0, 0])).result.warnings[0].remedy).toContain('whole turns.');
    expect(codes((await swept(circle(2, 64), { twist: 360 }, [0.05, 0, 0])).result)).toEqual([]);
  });
  test('tubes shift by their sides; a ribbon has none to shift by', async () => {
    const closed = (twist: number, skin: Chain[number]): Chain => [circle(2, 64), ['aim.frames', { twist }], skin];
    const tube = await runChain(closed(120, ['skin.tube', { sides: 12 }]));
    expect(codes(tube.last)).toEqual([]);
    expect(unevenness(tube.mesh)).toBeLessThan(1.1);
    expect(measure({ mesh: tube.mesh })).toMatchObject({ euler: 0, boundaryEdges: 0 });
    expect(codes((await runChain(closed(45, ['skin.tube', { sides: 12 }]))).last)).toEqual(['flip']);
    expect(codes((await runChain(closed(180, ['skin.ribbon']))).last)).toEqual(['flip']);
    expect(codes((await runChain(closed(-360, ['skin.ribbon']))).last)).toEqual([]);
  });
  test('strands of a rope take up what frames jump, and meet themselves', async () => {
    let none: number | undefined;
    for (const twist of [0, 45, 170]) {
      const rope = await runChain([circle(2, 64), ['aim.frames', { twist }], ['skin.rope', { diameter: 0.2, layLength: 1 }]]);
      expect(codes(rope.last)).toEqual([]);
      expect(measure({ mesh: rope.mesh })).toMatchObject({ parts: 3, boundaryEdges: 0 });
      none ??= unevenness(rope.mesh);
      expect(unevenness(rope.mesh)).toBeLessThan(none * 1.2);
    }
  });
});

describe('skins keep the frames of the curves', () => {
  const bent = drawn([[0, 0, 0], [1, 0.2, 0], [2, 0, 0.4], [3, 0, 0]]); // prettier-ignore
  const smooth = drawn([[0, 0, 0], [1, 0.2, 0], [2, 0, 0.4], [3, 0, 0]], false, 'through'); // prettier-ignore
  const skins: readonly (readonly [name: string, skin: Chain[number]])[] = [
    ['a tube', ['skin.tube', { sides: 5 }]],
    ['a tube with round corners', ['skin.tube', { sides: 5, corners: 'round' }]],
    ['a ribbon', ['skin.ribbon']],
    ['a ribbon with round corners', ['skin.ribbon', { corners: 'round' }]],
    ['a rope', ['skin.rope', { strands: 3 }]],
    ['a plaited rope', ['skin.rope', { braid: '8', layLength: 0.5 }]],
    ['a sheet along the normals', ['skin.extrude', { distance: 0.2 }]],
  ];
  for (const [name, skin] of skins)
    for (const [kind, path] of [
      ['straight', bent],
      ['smooth', smooth],
    ] as const)
      // prettier-ignore
      test(`${name} on a ${kind} path: roll 0, 90 and a ramp differ, 360 is as 0`, async () => {
        const positions = async (roll: unknown): Promise<Float32Array> => (await runChain([path, ['aim.frames', { roll }], skin])).mesh.positions;
        const [none, quarter, whole, ramp] = [await positions(0), await positions(90), await positions(360), await positions({ ramp: [[0, 0], [1, 50]] })]; // prettier-ignore
        const furthest = (a: Float32Array, b: Float32Array): number => a.reduce((most, value, i) => Math.max(most, Math.abs(value - b[i])), 0);
        expect(furthest(none, quarter)).toBeGreaterThan(5e-3);
        expect(furthest(none, ramp)).toBeGreaterThan(2e-3);
        expect(furthest(none, whole)).toBeLessThan(1e-5);
      });

  test('a strand stands where the frame says: three strands rolled by 120° take each other’s places', async () => {
    const bounds = async (roll: number): Promise<number[]> => {
      const { mesh } = await runChain([
        ['lay.line', { to: [0.001, 0, 0] }],
        ['aim.frames', { roll }],
        ['skin.rope', { diameter: 1, layLength: 1000, sides: 24 }],
      ]);
      const { min, max } = measure({ mesh }).bounds!;
      return [...min, ...max].slice(1);
    };
    const none = await bounds(0);
    (await bounds(120)).forEach((value, i) => expect(value).toBeCloseTo(none[i], 3));
    expect(Math.abs((await bounds(60))[0] - none[0])).toBeGreaterThan(0.02);
  });

  test('a twist of the frames on a line of two points is laid out along the rope: after half a turn a strand stands where the other began', async () => {
    const rope = async (twist: number): Promise<Float32Array> => {
      const chain: Chain = [
        ['lay.line', { to: [1, 0, 0] }],
        ['aim.frames', { twist }],
        ['skin.rope', { strands: 2, diameter: 0.1, layLength: 1e6, ringsPerTurn: 16 }],
      ];
      return (await runChain(chain)).mesh.positions;
    };
    /** Middle of the places of the first strand at one end; each ring of 8 sides repeats its first vertex at the seam. */
    const middle = (p: Float32Array, end: 0 | 1): number[] => {
      const places = Array.from({ length: p.length / 6 }, (_, v) => Array.from(p.subarray(v * 3, v * 3 + 3))).filter(
        ([x], v) => v % 9 < 8 && Math.abs(x - end) < 0.02,
      );
      return [1, 2].map((k) => places.reduce((sum, place) => sum + place[k], 0) / places.length);
    };
    for (const [twist, sign] of [[0, 1], [180, -1], [360, 1], [540, -1]]) {
      const p = await rope(twist);
      const [from, to] = [middle(p, 0), middle(p, 1)];
      expect(Math.hypot(...from)).toBeGreaterThan(0.02);
      from.forEach((value, k) => expect(to[k]).toBeCloseTo(sign * value, 3));
    } // prettier-ignore
  });
});

test('a smooth path with a corner is mitred there: both legs keep their thickness', async () => {
  const vee = {
    points: [[-1, 1, 0], [0, 0, 0], [1, 1, 0]],
    handles: [[[-1, 1, 0], [-0.7, 0.7, 0]], [[-0.3, 0.3, 0], [0.3, 0.3, 0]], [[0.7, 0.7, 0], [1, 1, 0]]],
    closed: false,
  }; // prettier-ignore
  const { mesh } = await runChain([
    ['lay.drawn', { kind: 'bezier', curves: [vee] }],
    ['skin.tube', { radius: 0.1, sides: 16 }],
  ]);
  const p = mesh.positions;
  expect(p.length / 3).toBeGreaterThan(3 * 17);
  // Away from the corner each place lies a radius from the nearer leg; on the mitre, from both.
  for (let v = 0; v < p.length / 3; v++) expect(Math.hypot((Math.abs(p[v * 3]) - p[v * 3 + 1]) / Math.SQRT2, p[v * 3 + 2])).toBeCloseTo(0.1, 5);
  expect(meshFaults(mesh).map(({ kind }) => kind)).not.toContain('shading');
});
