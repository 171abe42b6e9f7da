import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { chordTransport, computeFrames, curveLengths, curvesFromLists, defaultFrames, doubleReflection, tangentsOf } from '../../src/index.js';
import { kind as anyKind, points, sharpestTurn } from '../property/arbitrary.js';
import { drawn, runChain, type Chain } from '../graph.js';
import { expectReference, fineBezier, places, reference, sampleFormula, type FormulaCurve } from './reference.js';

/** Signed angle from `u` to `v` about `t`. */
function angleAbout(t: readonly number[], u: readonly number[], v: readonly number[]): number {
  const cross = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
  return Math.atan2(t[0] * cross[0] + t[1] * cross[1] + t[2] * cross[2], u[0] * v[0] + u[1] * v[1] + u[2] * v[2]);
}

describe('rotation-minimising frames by double reflection', () => {
  for (const id of ['FR-O-02', 'FR-O-03']) {
    const { name, inputs, expected } = reference<{ curve: FormulaCurve; U0: number[]; steps: number[] }>(id);
    test(`${name}: fourth order`, () => {
      const exact = expected['U_end_exact'].value as number[];
      const errors = inputs.steps.map((steps) => {
        const { positions, tangents } = sampleFormula(inputs.curve, steps + 1);
        const normals = new Float64Array(positions.length);
        normals.set(inputs.U0);
        const end = doubleReflection(positions, tangents, normals, 0, steps + 1, false);
        return angleAbout([...tangents.subarray(steps * 3)], exact, end);
      });
      expectReference(errors, { ...expected['errDoubleReflection'], abs: 2e-10, rel: 1e-3 });
      for (let i = 1; i < errors.length; i++) {
        const ratio = errors[i - 1] / errors[i];
        expect(ratio).toBeGreaterThan(14);
        expect(ratio).toBeLessThan(18);
      }
    });
  }

  test(`${reference('FR-O-01b').name}, by the nodes Helix and Frames`, async () => {
    const { expected } = reference('FR-O-01b');
    const { curves } = await runChain([
      ['lay.helix', { radius: 1, height: 6, turns: 3, pointsPerTurn: 96 }],
      ['aim.frames', { method: 'minimal', start: [-1, 0, 0] }],
    ]);
    const normals = places(curves.attributes.get('normal')!.data);
    const tangents = places(curves.attributes.get('tangent')!.data);
    // At whole turns Frenet's normal is that of the start, toward the axis.
    const angle = angleAbout(tangents[tangents.length - 1], [-1, 0, 0], normals[normals.length - 1]);
    expectReference(angle, expected['angleFromFrenet_wrapped']);
  });
});

describe('closed curves', () => {
  for (const id of ['FR-O-04', 'FR-O-05', 'FR-O-07', 'FR-O-08', 'FR-O-09']) {
    const { name, inputs, expected } = reference<{ curve: FormulaCurve; U0: number[] }>(id);
    test(`${name}: closing angle`, () => {
      const count = 1200;
      const { positions, tangents } = sampleFormula(inputs.curve, count);
      const normals = new Float64Array(positions.length);
      normals.set(inputs.U0);
      const end = doubleReflection(positions, tangents, normals, 0, count, true);
      expectReference(angleAbout([...tangents.subarray(0, 3)], inputs.U0, end), expected['holonomy']);
    });

    test(`${id}: spread evenly, so that the last step meets the first frame`, () => {
      const count = 900;
      const curves = fineBezier(inputs.curve, count);
      const { normal, tangent } = computeFrames(curves, { ...defaultFrames, start: inputs.U0 as [number, number, number] });
      // The twist of each step: from the last normal, carried on, to the frame's own. All alike, the closing step too.
      const twists = Array.from({ length: count }, (_, i) => {
        const pair = [i, (i + 1) % count];
        const step = (list: Float32Array): Float64Array => Float64Array.from(pair.flatMap((p) => [...list.subarray(p * 3, p * 3 + 3)]));
        const carried = doubleReflection(step(curves.positions), step(tangent), step(normal), 0, 2, false);
        return angleAbout([...tangent.subarray(pair[1] * 3, pair[1] * 3 + 3)], carried, [...normal.subarray(pair[1] * 3, pair[1] * 3 + 3)]);
      });
      const wanted = -(expected['holonomy'].value as number);
      const total = twists.reduce((sum, twist) => sum + twist, 0);
      expect(Math.abs(Math.sin((total - wanted) / 2))).toBeLessThan(2e-3);
      expect(Math.abs(twists[count - 1] - twists[count - 2])).toBeLessThan(2e-4);
    });
  }
});

test(reference('FR-O-16').name, () => {
  const { inputs, expected } = reference<{ points: number[][] }>('FR-O-16');
  const curves = curvesFromLists([inputs.points], { closed: [true] });
  const tangents = tangentsOf(curves);
  const normals = new Float32Array(12);
  // Any unit vector across the first bisector.
  normals.set([0, 0, 1]);
  const t = [...tangents.subarray(0, 3)];
  const along = t[2];
  const start = [-along * t[0], -along * t[1], 1 - along * t[2]];
  const size = Math.hypot(...start);
  normals.set(start.map((value) => value / size));
  const end = chordTransport(curves.positions, tangents, normals, 0, 4, true);
  const angle = angleAbout(t, [...normals.subarray(0, 3)], end);
  const wanted = expected['holonomy_mod2pi'].value as number;
  expect(Math.abs(Math.sin((angle - wanted) / 2))).toBeLessThan(1e-6);
});

test(`${reference('FR-O-14').name}: normal is the up of the case`, async () => {
  const { inputs, expected } = reference<{ up: number[]; directions: number[][] }>('FR-O-14');
  const wanted = expected['frames_T_side_up'].value as number[][][];
  for (const [i, direction] of inputs.directions.entries()) {
    const { curves } = await runChain([
      ['lay.line', { from: [0, 0, 0], to: direction, points: 3 }],
      ['aim.frames', { method: 'upright', up: inputs.up }],
    ]);
    const [tangent] = places(curves.attributes.get('tangent')!.data);
    const [normal] = places(curves.attributes.get('normal')!.data);
    expectReference(tangent, { value: wanted[i][0], abs: 1e-6 });
    expectReference(normal, { value: wanted[i][2], abs: 1e-6 });
  }
});

test(`${reference('FR-O-15').name}: a warning, and finite frames that go on from their neighbour`, async () => {
  const { inputs } = reference<{ path: number[][]; up: number[] }>('FR-O-15');
  const { curves, last } = await runChain([
    ['lay.drawn', { kind: 'straight', curves: [{ points: inputs.path }] }],
    ['aim.frames', { method: 'upright', up: inputs.up }],
  ]);
  expect(last.warnings.map(({ code }) => code)).toContain('parallel-up');
  for (const [i, normal] of places(curves.attributes.get('normal')!.data).entries()) {
    const tangent = places(curves.attributes.get('tangent')!.data)[i];
    expect(Math.hypot(...normal)).toBeCloseTo(1, 6);
    expect(normal[0] * tangent[0] + normal[1] * tangent[1] + normal[2] * tangent[2]).toBeCloseTo(0, 6);
  }
});

test(`${reference('FR-O-11').name}: minimal frames do not flip at an inflection`, async () => {
  const points = Array.from({ length: 41 }, (_, i) => [-3 + i * 0.15, Math.sin(-3 + i * 0.15), 0]);
  const { curves } = await runChain([
    ['lay.drawn', { kind: 'through', curves: [{ points }] }],
    ['pace.resample', { count: 100 }],
    ['aim.frames', { start: [0, 0, 1] }],
  ]);
  for (const normal of places(curves.attributes.get('normal')!.data)) expectReference(normal, { value: [0, 0, 1], abs: 1e-6 });
});

describe('frames by curvature, to a target, and by other tangents', () => {
  const frenet = reference<{ t: number[] }>('FR-O-01a');
  test(`${frenet.name}: the normal by curvature points to the axis of the helix`, async () => {
    // The helix of the case about Y instead of Z, starting at x = 1.
    const { curves, last } = await runChain([
      ['lay.helix', { radius: 1, height: 6, turns: 3, pointsPerTurn: 96 }],
      ['aim.frames', { method: 'curvature' }],
    ]);
    expect(last.warnings).toEqual([]);
    const normals = places(curves.attributes.get('normal')!.data);
    places(curves.positions).forEach(([x, , z], i) => {
      expect(normals[i][0]).toBeCloseTo(-x, 2);
      expect(normals[i][2]).toBeCloseTo(-z, 2);
    });
    expectReference([normals[0][0], normals[0][1]], { value: (frenet.expected['N'].value as number[][])[0].slice(0, 2), abs: 5e-3 });
  });

  test('it flips at an inflection and says where; on a straight path it says that minimal frames serve', async () => {
    const wave = Array.from({ length: 61 }, (_, i) => [-3 + i * 0.1, Math.sin(-3 + i * 0.1), 0]);
    const s = await runChain([['lay.drawn', { kind: 'through', curves: [{ points: wave }] }], ['pace.resample', { count: 80 }], ['aim.frames', { method: 'curvature' }]]); // prettier-ignore
    const flips = s.last.warnings.filter(({ code }) => code === 'flip');
    expect(flips.length).toBe(1);
    // The inflection is half way by symmetry; the flip is told at the point behind it.
    const half = curveLengths(s.curves)[0] / 2;
    expect(Math.abs(flips[0].at! - half)).toBeLessThan(half / 30);
    const straight = await runChain([
      ['lay.line', { points: 5 }],
      ['aim.frames', { method: 'curvature' }],
    ]);
    expect(straight.last.warnings.map(({ code }) => code)).toEqual(['simpler-method-used']);
    expect(places(straight.curves.attributes.get('normal')!.data)[2]).toEqual([0, 1, 0]);
  });

  test('straight, bend, straight (FR-O-12): the frame of the bend goes on over the straight parts', async () => {
    const { expected } = reference('FR-O-12');
    expect(expected['curvature_line'].value).toBe(0);
    const { curves, last } = await runChain([
      ['lay.drawn', { kind: 'straight', curves: [{ points: [[0, 0, 0], [3, 0, 0], [3, 3, 0]] }] }], // prettier-ignore
      ['shape.roundCorners', { radius: 1, points: 9 }],
      ['aim.frames', { method: 'curvature' }],
    ]);
    expect(new Set(last.warnings.map(({ code }) => code))).toEqual(new Set(['simpler-method-used']));
    for (const [nx, ny, nz] of places(curves.attributes.get('normal')!.data)) {
      expect(Math.hypot(nx, ny, nz)).toBeCloseTo(1, 6);
      // Toward the centre of the bend, which is up and to the left.
      expect(ny - nx).toBeGreaterThan(0.9);
    }
  });

  test('to a target: every normal leans to the place, or to the middle of its own curve', async () => {
    for (const settings of [{ toward: 'point', target: [0, 5, 0] }, { toward: 'centre' }]) {
      const { curves } = await runChain([['lay.circle', { radius: 2, points: 16 }], ['aim.frames', { method: 'target', ...settings }]]); // prettier-ignore
      const aim = settings.target ?? [0, 0, 0];
      const normals = places(curves.attributes.get('normal')!.data);
      places(curves.positions).forEach((p, i) => {
        const way = aim.map((value, k) => value - p[k]);
        expect(normals[i].reduce((sum, value, k) => sum + (value * way[k]) / Math.hypot(...way), 0)).toBeGreaterThan(0.999);
      });
    }
    const at = await runChain([
      ['lay.line', { points: 3 }],
      ['aim.frames', { method: 'target', target: [5, 0, 0] }],
    ]);
    expect(at.last.warnings.map(({ code }) => code)).toEqual(['parallel-up']);
  });

  test('tangents: the mean of both pieces, or the next piece', async () => {
    const corner = ['lay.drawn', { kind: 'straight', curves: [{ points: [[0, 0, 0], [1, 0, 0], [1, 1, 0]] }] }] as const; // prettier-ignore
    const at = async (tangents: string): Promise<number[]> => places((await runChain([corner, ['aim.frames', { tangents }]])).curves.attributes.get('tangent')!.data)[1]; // prettier-ignore
    expect((await at('neighbours'))[0]).toBeCloseTo(Math.SQRT1_2, 6);
    expect(await at('forwardDifference')).toEqual([0, 1, 0]);
  });

  test('axes: an object’s own axes are turned to z along and y up, and two alike are refused', async () => {
    const bar = [['lay.line', { to: [1, 0, 0] }], ['skin.tube', { radius: 0.01, sides: 3 }]] as const; // prettier-ignore
    const { mesh } = await runChain([...bar, ['aim.axes', { tangent: 'x', normal: 'y' }]]);
    const far = places(mesh.positions).reduce((a, b) => (Math.abs(b[2]) > Math.abs(a[2]) ? b : a));
    expect(far[2]).toBeCloseTo(1, 6);
    const { last } = await runChain([...bar, ['aim.axes', { tangent: 'x', normal: '-x' }]]);
    expect(last.error?.message).toMatch(/two different axes/);
  });
});

describe('a curve on a sphere', () => {
  const { name, inputs, expected } = reference<{ curve: FormulaCurve }>('FR-O-06');
  test(`${name}`, () => {
    const count = 1200;
    const { positions, tangents } = sampleFormula(inputs.curve, count);
    const normals = new Float64Array(positions.length);
    normals.set(positions.subarray(0, 3));
    const end = doubleReflection(positions, tangents, normals, 0, count, true);
    expectReference(angleAbout([...tangents.subarray(0, 3)], [...positions.subarray(0, 3)], end), expected['rmfHolonomy']);
    // The outward normal of the unit sphere is the place itself.
    const stations = expected['rmfEqualsNormalAtStations'];
    const found = Array.from({ length: 33 }, (_, k) => Math.round((k * count) / 32) % count).map((i) => [...normals.subarray(i * 3, i * 3 + 3)]);
    const at = (stations.value as number[][]).map((value, k) => ({ value, k })).filter(({ k }) => Number.isInteger((k * count) / 32)); // prettier-ignore
    expect(at.length).toBeGreaterThan(8);
    for (const { value, k } of at) expectReference(found[k], { value, abs: stations.abs });
  });
});

test(`${reference('FR-O-13').name}: frames stay finite, unit and square; what stood upright stays so or is turned over`, async () => {
  const { expected } = reference('FR-O-13');
  const cusp = Array.from({ length: 401 }, (_, i) => [((i - 200) / 200) ** 2, ((i - 200) / 200) ** 3, 0]);
  const { curves } = await runChain([drawn(cusp), ['aim.frames', { start: [0, 0, 1] }]]);
  const [tangents, normals] = [places(curves.attributes.get('tangent')!.data), places(curves.attributes.get('normal')!.data)];
  expect(Math.abs(tangents[195][0] - (expected['tangentLeft'].value as number[])[0])).toBeLessThan(1e-2);
  expect(Math.abs(tangents[205][0] - (expected['tangentRight'].value as number[])[0])).toBeLessThan(1e-2);
  for (const [i, normal] of normals.entries()) {
    expect(Math.abs(normal[2])).toBeCloseTo(1, 6);
    expect(Math.hypot(...tangents[i])).toBeCloseTo(1, 6);
  }
});

describe(reference('FR-O-17').name, () => {
  const methods: Readonly<Record<string, Chain[number]>> = {
    minimal: ['aim.frames'],
    upright: ['aim.frames', { method: 'upright' }],
    curvature: ['aim.frames', { method: 'curvature' }],
    target: ['aim.frames', { method: 'target', target: [0.3, 20, 0.1] }],
  };
  const framesOn = async (list: number[][], closed: boolean, kind: string, node: Chain[number]): Promise<{ tangents: number[][]; normals: number[][] }> => {
    const { curves } = await runChain([drawn(list, closed, kind), ['pace.resample', { count: 24 }], node]);
    return { tangents: places(curves.attributes.get('tangent')!.data), normals: places(curves.attributes.get('normal')!.data) };
  };
  const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((sum, value, k) => sum + value * b[k], 0);

  for (const [method, node] of Object.entries(methods))
    test(`${method}: unit, square to each other, on any curve`, () =>
      fc.assert(
        fc.asyncProperty(points(3, 6), fc.boolean(), anyKind, async (list, closed, kind) => {
          const { tangents, normals } = await framesOn(list, closed, kind, node);
          for (const [i, normal] of normals.entries()) {
            expect(Math.abs(Math.hypot(...normal) - 1)).toBeLessThan(1e-6);
            expect(Math.abs(Math.hypot(...tangents[i]) - 1)).toBeLessThan(1e-6);
            expect(Math.abs(dot(normal, tangents[i]))).toBeLessThan(1e-6);
          }
        }),
        { numRuns: 25 },
      ));

  test('whole turns of twist end where none does', () =>
    fc.assert(
      fc.asyncProperty(points(3, 5), fc.constantFrom(-2, 1, 3), async (list, turns) => {
        const [plain, turned] = [await framesOn(list, false, 'through', ['aim.frames']), await framesOn(list, false, 'through', ['aim.frames', { twist: 360 * turns }])]; // prettier-ignore
        expect(dot(plain.normals[23], turned.normals[23])).toBeGreaterThan(1 - 1e-5);
      }),
      { numRuns: 20 },
    ));

  test('frames move with the curve when it is turned', () =>
    fc.assert(
      fc.asyncProperty(points(3, 5), async (list) => {
        // Gentle courses only: where a curve all but turns back, the least change of a point turns its tangent.
        if (sharpestTurn(list) > 120) return;
        const turned = list.map(([x, y, z]) => [z, x, y]);
        const [a, b] = [await framesOn(list, false, 'through', ['aim.frames', { start: [0, 1, 0] }]), await framesOn(turned, false, 'through', ['aim.frames', { start: [0, 0, 1] }])]; // prettier-ignore
        a.normals.forEach(([x, y, z], i) => expect(dot([z, x, y], b.normals[i])).toBeGreaterThan(1 - 1e-4));
      }),
      { numRuns: 30 },
    ));
});

describe('upright frames near the wanted direction', () => {
  const leaning = async (sine: number): ReturnType<typeof runChain> =>
    runChain([['lay.line', { to: [sine, 1, 0], points: 3 }], ['aim.frames', { method: 'upright' }]]); // prettier-ignore
  test('are as asked until numbers end: a path that leans by α has the normal (−cos α, sin α, 0)', async () => {
    for (const sine of [0.1, 1e-3, 1e-4, 1e-5, 2e-6]) {
      const { curves } = await leaning(sine);
      const [x, y, z] = curves.attributes.get('normal')!.data;
      expect(x).toBeCloseTo(-Math.cos(Math.atan(sine)), 6);
      expect(y).toBeCloseTo(Math.sin(Math.atan(sine)), 6);
      expect(z).toBeCloseTo(0, 6);
    }
  });
  test('are told where they turn quickly, and where there is none', async () => {
    expect((await leaning(0.01)).last.warnings).toEqual([]);
    expect((await leaning(5e-4)).last.warnings).toMatchObject([{ code: 'parallel-up', message: expect.stringContaining('almost parallel') as string }]);
    expect((await leaning(0)).last.warnings).toMatchObject([{ code: 'parallel-up', message: expect.stringContaining('continues its neighbour') as string }]);
  });
});
