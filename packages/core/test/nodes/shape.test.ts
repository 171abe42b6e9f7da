import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { curveCount, curveLengths, measure, type Curves, type Mesh } from '../../src/index.js';
import { points } from '../property/arbitrary.js';
import { drawn, runChain, runGraph, type Chain } from '../graph.js';
import { places } from '../reference/reference.js';

const made = async (...chain: Chain): Promise<Curves> => (await runChain(chain)).curves;
const meshOf = async (...chain: Chain): Promise<Mesh> => (await runChain(chain)).mesh;
const close = (actual: readonly number[], wanted: readonly number[]): void => wanted.forEach((value, k) => expect(actual[k]).toBeCloseTo(value, 5));
const unit = ['lay.line', { to: [1, 0, 0] }] as const;
const box: Chain = [['lay.rectangle'], ['skin.fill'], ['skin.extrude', { distance: 1 }]];

describe('Transform', () => {
  test('sizes, then turns about X, Y and Z, both about the pivot, then moves', async () => {
    const end = async (settings: object): Promise<number[]> => places((await made(unit, ['shape.transform', { ...settings }])).positions)[1];
    close(await end({ size: [3, 1, 1] }), [3, 0, 0]);
    close(await end({ turn: [0, 0, 90] }), [0, 1, 0]);
    close(await end({ turn: [0, 90, 0] }), [0, 0, -1]);
    close(await end({ turn: [90, 0, 90] }), [0, 1, 0]);
    close(await end({ turn: [0, 0, 90], size: [2, 1, 1], move: [0, 0, 5] }), [0, 2, 5]);
    close(await end({ turn: [0, 0, 180], pivot: [1, 1, 0] }), [1, 2, 0]);
  });
  test('undone by its opposite', () =>
    fc.assert(
      fc.asyncProperty(points(2, 6), fc.integer({ min: -180, max: 180 }), fc.double({ min: 0.1, max: 5, noNaN: true }), async (list, angle, size) => {
        const back = await made(
          drawn(list),
          ['shape.transform', { turn: [0, angle, 0], size: [size, size, size], pivot: [1, 2, 3] }],
          ['shape.transform', { turn: [0, -angle, 0], size: [1 / size, 1 / size, 1 / size], pivot: [1, 2, 3] }],
        );
        places(back.positions).forEach((p, i) => p.forEach((value, k) => expect(Math.abs(value - list[i][k])).toBeLessThan(2e-5)));
      }),
      { numRuns: 30 },
    ));
  test('a solid keeps its volume when turned, and gets the factors’ product when sized, mirrored or not', async () => {
    const volume = async (settings: object): Promise<number> => measure({ mesh: await meshOf(...box, ['shape.transform', { ...settings }]) }).volume;
    expect(await volume({ turn: [20, 30, 40] })).toBeCloseTo(1, 5);
    expect(await volume({ size: [2, 3, 0.5] })).toBeCloseTo(3, 5);
    expect(await volume({ size: [-2, 3, 0.5] })).toBeCloseTo(3, 5);
    expect(await volume({ size: [-2, -3, -0.5] })).toBeCloseTo(3, 5);
  });
});

describe('Mirror', () => {
  test('at a plane square to each axis, anywhere on it; with the original or without', async () => {
    const ends = async (settings: object): Promise<number[][]> => places((await made(drawn([[1, 2, 3], [4, 5, 6]]), ['shape.mirror', { keep: false, ...settings }])).positions); // prettier-ignore
    close((await ends({}))[0], [-1, 2, 3]);
    close((await ends({ axis: 'y', offset: 1 }))[0], [1, 0, 3]);
    close((await ends({ axis: 'z', offset: -1 }))[1], [4, 5, -8]);
    expect(curveCount(await made(unit, ['shape.mirror', { axis: 'y', offset: 1 }]))).toBe(2);
  });
  test('at any plane: a point and its image lie square to it, equally far', () =>
    fc.assert(
      fc.asyncProperty(points(2, 4), points(2, 2), async (list, [point, normal]) => {
        const size = Math.hypot(...normal);
        if (size < 0.1) return;
        const image = places((await made(drawn(list), ['shape.mirror', { keep: false, plane: { point, normal } }])).positions);
        image.forEach((p, i) => {
          const height = (q: readonly number[]): number => q.reduce((sum, value, k) => sum + ((value - point[k]) * normal[k]) / size, 0);
          expect(height(p) + height(list[i])).toBeCloseTo(0, 4);
          const away = p.map((value, k) => value - list[i][k]);
          expect(Math.hypot(...away)).toBeCloseTo(2 * Math.abs(height(list[i])), 4);
        });
      }),
      { numRuns: 30 },
    ));
  test('pipes mirrored do not come out inside-out; halves that meet are welded', async () => {
    const half: Chain = [['lay.line', { from: [0, 0, 0], to: [0, 2, 0], points: 3 }], ['skin.tube', { radius: 0.2, sides: 8, caps: 'flat' }]]; // prettier-ignore
    const both = measure({ mesh: await meshOf(...half, ['shape.mirror', { axis: 'y', offset: -1 }]) });
    const one = measure({ mesh: await meshOf(...half) });
    expect([both.volume / one.volume, both.parts]).toEqual([expect.closeTo(2, 5), 2]);
    const path = await made(drawn([[0, 0, 0], [1, 0, 0]]), ['shape.mirror', { weld: 0.001 }]); // prettier-ignore
    expect([curveCount(path), curveLengths(path)[0]]).toEqual([1, 2]);
  });
  test('a plane that is none is refused where it is wrong', async () => {
    const pointer = async (plane: unknown): Promise<string> => (await runChain([unit, ['shape.mirror', { plane }]])).report.problems[0].pointer;
    expect(await pointer({ point: [0, 0], normal: [0, 1, 0] })).toBe('/nodes/1/settings/plane/point');
    expect(await pointer({ point: [0, 0, 0], normal: [0, 0, 0] })).toBe('/nodes/1/settings/plane/normal');
    expect(await pointer({ point: [0, 0, 0], normal: [0, 1, 0], offset: 2 })).toBe('/nodes/1/settings/plane');
  });
});

test('Row of copies: each a step and a turn on; centred about the first', async () => {
  const starts = async (settings: object): Promise<number[][]> => places((await made(unit, ['shape.row', { ...settings }])).positions).filter((_, i) => i % 2 === 0); // prettier-ignore
  const row = await starts({ count: 4, step: [0, 2, 0] });
  row.forEach((p, i) => close(p, [0, 2 * i, 0]));
  (await starts({ count: 3, step: [0, 2, 0], centred: true })).map(([, y]) => y).sort((a, b) => a - b).forEach((y, i) => expect(y).toBeCloseTo(2 * i - 2, 6)); // prettier-ignore
  const fan = places((await made(unit, ['shape.row', { count: 4, step: [0, 0, 0], turn: [0, 0, 90] }])).positions).filter((_, i) => i % 2 === 1);
  [[1, 0, 0], [0, 1, 0], [-1, 0, 0], [0, -1, 0]].forEach((wanted, i) => close(fan[i], wanted)); // prettier-ignore
});

describe('Displace', () => {
  const flat = ['lay.line', { to: [10, 0, 0], points: 101 }] as const;
  const shifts = async (settings: object, ...before: Chain): Promise<number[][]> => {
    const [a, b] = [await made(flat, ...before), await made(flat, ...before, ['shape.displace', { amount: 0.2, ...settings }])];
    return places(b.positions).map((p, i) => p.map((value, k) => value - a.positions[i * 3 + k]));
  };
  test('noise is the same for a seed, another for another, and never farther than the amount along an axis', async () => {
    const [once, again, other] = [await shifts({ seed: 3 }), await shifts({ seed: 3 }), await shifts({ seed: 4 })];
    expect(again).toEqual(once);
    expect(other).not.toEqual(once);
    expect(Math.max(...once.flat().map(Math.abs))).toBeLessThanOrEqual(0.2 + 1e-6);
    expect(Math.max(...once.flat().map(Math.abs))).toBeGreaterThan(0.05);
  });
  test('a greater size makes longer waves: neighbours differ less', async () => {
    const roughness = async (size: number): Promise<number> => {
      const list = await shifts({ size });
      return list.slice(1).reduce((sum, p, i) => sum + Math.abs(p[1] - list[i][1]), 0);
    };
    expect(await roughness(4)).toBeLessThan(0.5 * (await roughness(1)));
  });
  test('along the normal only in and out; in the frame’s plane only across', async () => {
    for (const [x, y, z] of await shifts({ along: 'normal' }, ['aim.frames', { method: 'upright' }])) {
      expect([Math.abs(x), Math.abs(z)].every((value) => value < 1e-6)).toBe(true);
      expect(Math.abs(y)).toBeLessThanOrEqual(0.2 + 1e-6);
    }
    const across = await shifts({ along: 'framePlane' }, ['aim.frames']);
    expect(Math.max(...across.map(([x]) => Math.abs(x)))).toBeLessThan(1e-6);
    expect(Math.max(...across.map(([, y]) => Math.abs(y)))).toBeGreaterThan(0.01);
  });
  test('a closed mesh stays shut', async () => {
    const solid = measure({ mesh: await meshOf(['lay.circle', { radius: 1, points: 40 }], ['skin.tube', { radius: 0.3, sides: 12 }], ['shape.displace', { amount: 0.1, size: 0.5 }]) }); // prettier-ignore
    expect(solid).toMatchObject({ boundaryEdges: 0, euler: 0 });
  });
});

describe('Smooth', () => {
  const zigzag = drawn(Array.from({ length: 21 }, (_, i) => [i, i % 2, 0]));
  const heights = async (settings: object): Promise<number[]> => places((await made(zigzag, ['shape.smooth', { ...settings }])).positions).map(([, y]) => y);
  const spread = (list: readonly number[]): number => Math.max(...list.slice(5, -5)) - Math.min(...list.slice(5, -5));
  test('draws points toward their neighbours: more, the more often and the stronger', async () => {
    expect(spread(await heights({ times: 0 }))).toBe(1);
    expect(spread(await heights({ times: 1, strength: 0.5 }))).toBeLessThan(1e-6);
    expect(spread(await heights({ times: 1, strength: 0.25 }))).toBeCloseTo(0.5, 5);
    expect(spread(await heights({ times: 2, strength: 0.25 }))).toBeCloseTo(0.25, 5);
  });
  test('the ends stay where asked, and only there', async () => {
    const corner = drawn([[0, 0, 0], [1, 1, 0], [2, 0, 0]]); // prettier-ignore
    const first = async (keepEnds: boolean): Promise<number[]> => places((await made(corner, ['shape.smooth', { keepEnds }])).positions)[0];
    expect(await first(true)).toEqual([0, 0, 0]);
    expect(await first(false)).not.toEqual([0, 0, 0]);
  });
  test('keeping the size, a ring hardly shrinks; without, it does', async () => {
    const radius = async (keepSize: boolean): Promise<number> => {
      const ring = drawn(Array.from({ length: 12 }, (_, i) => [Math.cos((i * Math.PI) / 6), 0, Math.sin((i * Math.PI) / 6)]), true); // prettier-ignore
      const p = places((await made(ring, ['shape.smooth', { times: 5, keepSize }])).positions);
      return p.reduce((sum, place) => sum + Math.hypot(...place), 0) / p.length;
    };
    // A twelfth turn and half strength: cosine of 15° squared each time.
    expect(await radius(false)).toBeCloseTo(Math.cos(Math.PI / 12) ** 10, 4);
    expect(await radius(true)).toBeGreaterThan(0.97);
  });

  test('at the defaults a drawn path of 5.5 m, resampled every 50 mm, keeps 99 hundredths of its length', async () => {
    const path = drawn([[0, 0, 0], [1, 0.4, 0.6], [2.1, 0.1, 0.2], [3, 0.7, -0.5], [4.2, 0.2, 0]], false, 'through'); // prettier-ignore
    const [before] = curveLengths(await made(path, ['pace.resample', { by: 'spacing', spacing: 0.05 }]));
    const [after] = curveLengths(await made(path, ['pace.resample', { by: 'spacing', spacing: 0.05 }], ['shape.smooth']));
    expect(before).toBeGreaterThan(5);
    expect(after / before).toBeGreaterThan(0.99);
    expect(after).not.toBe(before);
  });
});

describe('Offset', () => {
  const square = ['lay.rectangle', { width: 4, height: 4 }] as const;
  const length = async (settings: object, shape: Chain[number] = square): Promise<number> => curveLengths(await made(shape, ['shape.offset', { ...settings }])).reduce((a, b) => a + b, 0); // prettier-ignore
  test('outward: mitred corners keep the shape, round ones go by arcs (perimeter + 2πd)', async () => {
    expect(await length({ distance: 0.5 })).toBeCloseTo(16 + 8 * 0.5, 5);
    // Arcs are laid as pieces, a little shorter.
    expect((await length({ distance: 0.5, joins: 'round' })) / (16 + 2 * Math.PI * 0.5)).toBeCloseTo(1, 3);
  });
  test('inward: smaller by eight distances, whichever way it was drawn; beyond its middle it vanishes with a warning', async () => {
    expect(await length({ distance: -0.5 })).toBeCloseTo(12, 5);
    const backwards = await made(square, ['pace.reverse'], ['shape.offset', { distance: -0.5 }]);
    expect(curveLengths(backwards)[0]).toBeCloseTo(12, 5);
    const { last } = await runChain([square, ['shape.offset', { distance: -2.5 }]]);
    expect([last.out['curves'] ?? 0, last.warnings.length]).toEqual([0, 1]);
  });
  test('a waist that is too narrow parts the outline in two', async () => {
    const waist = drawn([[0, 0, 0], [4, 0, 0], [4, 1.7, 0], [6, 1.7, 0], [6, 0, 0], [10, 0, 0], [10, 4, 0], [6, 4, 0], [6, 2.3, 0], [4, 2.3, 0], [4, 4, 0], [0, 4, 0]], true); // prettier-ignore
    const inner = await made(waist, ['shape.offset', { distance: -0.5 }]);
    expect(curveCount(inner)).toBe(2);
    for (const own of curveLengths(inner)) expect(own).toBeCloseTo(12, 4);
  });
});

describe('Hang', () => {
  test('between each two points, or only from end to end; down in any direction', async () => {
    const three = drawn([[0, 0, 0], [2, 0, 0], [4, 0, 0]]); // prettier-ignore
    const low = async (settings: object): Promise<number> => Math.min(...places((await made(three, ['shape.hang', { value: 0.5, points: 33, ...settings }])).positions).map(([, y]) => y)); // prettier-ignore
    expect(await low({ spans: 'each' })).toBeCloseTo(-0.5, 3);
    expect(await low({ spans: 'ends' })).toBeCloseTo(-0.5, 3);
    const each = places((await made(three, ['shape.hang', { value: 0.5, points: 33, spans: 'each' }])).positions);
    expect(each.some(([x, y]) => Math.abs(x - 2) < 1e-5 && Math.abs(y) < 1e-5)).toBe(true);
    const aside = places((await made(unit, ['shape.hang', { value: 0.2, down: [0, 0, 3] }])).positions);
    expect(Math.max(...aside.map(([, , z]) => z))).toBeCloseTo(0.2, 3);
    expect(Math.max(...aside.map(([, y]) => Math.abs(y)))).toBeLessThan(1e-6);
  });
  test('by slack: the length is the span and so much more', async () => {
    for (const slack of [0, 0.01, 0.3, 2]) expect(curveLengths(await made(unit, ['shape.hang', { by: 'slack', value: slack, points: 200 }]))[0]).toBeCloseTo(1 + slack, 3); // prettier-ignore
  });
});

describe('conditions on points', () => {
  test('only those move for which it holds', async () => {
    const line = ['lay.line', { to: [4, 0, 0], points: 5 }] as const;
    const y = places((await made(line, ['shape.transform', { move: [0, 1, 0], where: { formula: 'i % 2 == 1' } }])).positions).map((p) => p[1]);
    expect(y).toEqual([0, 1, 0, 1, 0]);
  });
  test('a node that is off, or whose condition never holds, passes everything on', async () => {
    const { results } = await runGraph(
      {
        a: unit,
        off: ['shape.transform', { move: [9, 9, 9], on: false }],
        never: ['shape.transform', { move: [9, 9, 9], where: false }],
      },
      ['a.curves > off.any', 'off.any > never.any'],
    );
    expect(results['never'].outputs['any']).toBe(results['a'].outputs['curves']);
  });
});
