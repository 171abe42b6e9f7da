/** What outlines enclose, against a brute force that knows no nesting: in slabs between all heights at which anything changes, widths are counted by parity. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { curvesFromLists, faceAreas, type Mesh } from '../../src/index.js';
import { fill } from '../../src/skin/solid/fill.js';
import { measureChain, runChain, type Chain } from '../graph.js';

type Outline = readonly (readonly [number, number])[];

/** Square metres inside an odd number of outlines: in a slab without corners or crossings edges keep their order, so its middle tells its mean width. */
function oddArea(outlines: readonly Outline[]): number {
  const edges = outlines.flatMap((list) => list.map((a, i) => [a, list[(i + 1) % list.length]] as const)).filter(([a, b]) => a[1] !== b[1]);
  const heights = new Set(outlines.flatMap((list) => list.map(([, y]) => y)));
  for (const [a, b] of edges)
    for (const [c, d] of edges) {
      const cross = (b[0] - a[0]) * (d[1] - c[1]) - (b[1] - a[1]) * (d[0] - c[0]);
      if (Math.abs(cross) < 1e-12) continue;
      const t = ((c[0] - a[0]) * (d[1] - c[1]) - (c[1] - a[1]) * (d[0] - c[0])) / cross;
      if (t > 0 && t < 1) heights.add(a[1] + t * (b[1] - a[1]));
    }
  const levels = [...heights].sort((p, q) => p - q);
  let area = 0;
  for (let k = 0; k + 1 < levels.length; k++) {
    const y = (levels[k] + levels[k + 1]) / 2;
    const at = edges.flatMap(([a, b]) => ((a[1] - y) * (b[1] - y) < 0 ? [a[0] + ((y - a[1]) / (b[1] - a[1])) * (b[0] - a[0])] : [])).sort((p, q) => p - q);
    for (let i = 0; i + 1 < at.length; i += 2) area += (at[i + 1] - at[i]) * (levels[k + 1] - levels[k]);
  }
  return area;
}

/** Area of faces and what of it looks up: less where faces are turned over or lie on each other. */
function areaOf(mesh: Mesh): { area: number; up: number } {
  const all = faceAreas(mesh);
  const result = { area: 0, up: 0 };
  for (let f = 0; f < all.length; f += 3) {
    result.area += Math.hypot(all[f], all[f + 1], all[f + 2]) / 2;
    result.up += all[f + 1] / 2;
  }
  return result;
}

const filled = (outlines: readonly Outline[]): Mesh =>
  fill(curvesFromLists(outlines.map((list) => list.map(([x, y]) => [x, 0, -y])), { closed: outlines.map(() => true) }), { uvScale: 0, flip: false, facing: 'own' }).mesh; // prettier-ignore

function expectArea(outlines: readonly Outline[]): void {
  const wanted = oddArea(outlines);
  const { area, up } = areaOf(filled(outlines));
  expect([area, up]).toEqual([expect.closeTo(wanted, 4), expect.closeTo(wanted, 4)]);
}

/** A rectangle with its corner at whole numbers, so that many share corners and edges. */
const box = fc
  .tuple(fc.integer({ min: 0, max: 8 }), fc.integer({ min: 0, max: 8 }), fc.integer({ min: 1, max: 6 }), fc.integer({ min: 1, max: 6 }))
  .map(([x, y, w, h]): Outline => [[x, y], [x + w, y], [x + w, y + h], [x, y + h]]); // prettier-ignore
const ell = fc
  .tuple(fc.integer({ min: 0, max: 8 }), fc.integer({ min: 0, max: 8 }), fc.integer({ min: 2, max: 6 }), fc.integer({ min: 2, max: 6 }))
  .map(([x, y, w, h]): Outline => [[x, y], [x + w, y], [x + w, y + 1], [x + 1, y + 1], [x + 1, y + h], [x, y + h]]); // prettier-ignore
const diamond = fc
  .tuple(fc.integer({ min: 2, max: 9 }), fc.integer({ min: 2, max: 9 }), fc.integer({ min: 1, max: 4 }))
  .map(([x, y, r]): Outline => [[x + r, y], [x, y + r], [x - r, y], [x, y - r]]); // prettier-ignore
const hexagon = fc
  .tuple(fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 }), fc.constantFrom(1, 2))
  .map(([i, j, r]): Outline => Array.from({ length: 6 }, (_, k) => [i * 1.5 + r * Math.cos((k * Math.PI) / 3), (j + (i % 2) / 2) * Math.sqrt(3) + r * Math.sin((k * Math.PI) / 3)])); // prettier-ignore
const wildAt = fc.integer({ min: 0, max: 10_000 }).map((value) => value / 1000);
const wild = fc
  .array(fc.tuple(wildAt, wildAt), { minLength: 3, maxLength: 7 })
  .filter((list) => list.every((a, i) => list.every((b, k) => i === k || Math.hypot(a[0] - b[0], a[1] - b[1]) > 0.05)));
const turned = (outline: fc.Arbitrary<Outline>): fc.Arbitrary<Outline> =>
  fc.tuple(outline, fc.boolean(), fc.nat(5)).map(([list, back, shift]) => {
    const round = [...list.slice(shift % list.length), ...list.slice(0, shift % list.length)];
    return back ? round.reverse() : round;
  });

describe('10,000 arrangements fill to what parity says', () => {
  for (const [name, outline, runs] of [
    ['rectangles on whole numbers', box, 3000],
    ['rectangles, angles and diamonds', fc.oneof(box, ell, diamond), 4000],
    ['hexagons of a tiling, some larger', hexagon, 1500],
    ['wild polygons, crossing themselves too', wild, 1500],
  ] as const)
    test(name, () => {
      fc.assert(fc.property(fc.array(turned(outline), { minLength: 1, maxLength: 6 }), expectArea), { numRuns: runs, seed: 31 });
    });
});

describe('outlines that meet', () => {
  test('two that share an edge are two faces, and hexagons side by side one each, in any order', () => {
    const two: Outline[] = [[[0, 0], [5, 0], [5, 3], [0, 3]], [[5, 0], [7, 0], [7, 3], [5, 3]]]; // prettier-ignore
    for (const list of [two, [...two].reverse()]) {
      expect(areaOf(filled(list)).area).toBeCloseTo(21, 5);
      expect(filled(list).corners).toHaveLength(8);
    }
  });

  test('a hole that touches its outline at a corner is open, wherever it begins', () => {
    const outer: Outline = [[0, 0], [6, 0], [6, 3], [0, 3]]; // prettier-ignore
    const hole: Outline = [[0, 0], [2, 1], [1, 2]]; // prettier-ignore
    for (let k = 0; k < 3; k++) expect(areaOf(filled([outer, [...hole.slice(k), ...hole.slice(0, k)]])).area).toBeCloseTo(16.5, 5);
  });

  test('tiles over a plate fill all of it', async () => {
    const plate: Chain = [['lay.grid', { size: [4, 4], divisions: 4 }], ['skin.tiles', { shape: 'hexagon', around: 5, along: 5 }]]; // prettier-ignore
    const { last } = await runChain(plate);
    expect(last.error).toBeUndefined();
    const area = await measureChain([...plate, ['skin.fill', {}]]);
    expect(area.area).toBeCloseTo(16, 3);
  });
});

describe('upright curves are seen from the same side whichever way they face', () => {
  const headings = Array.from({ length: 16 }, (_, k) => k * 22.5 + 3);
  /** A flat shape in x and y, turned about the vertical. */
  const turnedBy = (list: Outline, degrees: number): number[][] => {
    const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
    return list.map(([x, y]) => [x * c, y, -x * s]);
  };
  const arc: Outline = Array.from({ length: 33 }, (_, i) => [Math.cos((i * Math.PI) / 32), Math.sin((i * Math.PI) / 32)]);
  const hook: Outline = [[0, 0], [0.3, 1], [0, 2]]; // prettier-ignore

  for (const [name, shape] of [
    ['arcs', arc],
    ['arcs the other way', [...arc].reverse()],
    ['bows that stand straight', hook],
  ] as const)
    // prettier-ignore
    test(`${name}: the offset is as long at every heading`, async () => {
      const lengths: number[] = [];
      for (const degrees of headings)
        lengths.push((await measureChain([['lay.drawn', { curves: [{ points: turnedBy(shape, degrees) }] }], ['shape.offset', { distance: 0.2 }]])).length); // prettier-ignore
      for (const length of lengths) expect(length).toBeCloseTo(lengths[0], 4);
    });

  test('an arch grows upwards, a half turn of radius 1.2; by a direction the side changes with it', async () => {
    const length = async (settings: object): Promise<number> => (await measureChain([['lay.drawn', { curves: [{ points: turnedBy(arc, 40) }] }], ['shape.offset', { distance: 0.2, ...settings }]])).length; // prettier-ignore
    expect(await length({})).toBeCloseTo(3.7495, 3);
    const [one, other] = [await length({ facing: 'direction', facingTo: [1, 0, 2] }), await length({ facing: 'direction', facingTo: [-1, 0, -2] })];
    expect([one, other].sort()).toEqual([expect.closeTo(2.531, 1), expect.closeTo(3.7495, 3)]);
  });

  test('filled outlines look outwards of a ring of walls at every heading, and turn over with their direction', async () => {
    const panel: Outline = [[-1, 0], [1, 0], [1, 1], [-1, 1]]; // prettier-ignore
    for (const degrees of headings) {
      const facing = async (list: Outline): Promise<number> => {
        const { mesh } = await runChain([
          ['lay.drawn', { curves: [{ points: turnedBy(list, degrees), closed: true }] }],
          ['skin.fill', {}],
        ]);
        const [x, , z] = mesh.attributes.get('normal')!.data;
        return x * Math.sin((degrees * Math.PI) / 180) + z * Math.cos((degrees * Math.PI) / 180);
      };
      expect([await facing(panel), await facing([...panel].reverse())]).toEqual([expect.closeTo(1, 5), expect.closeTo(-1, 5)]);
    }
  });
});
