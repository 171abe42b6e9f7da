/** What is drawn by chance for the elements of everything that a node can make: evenly spread, independent, and the same when others come or go. */
import { describe, expect, test } from 'vitest';
import {
  drawKeys,
  elementCount,
  elementsOf,
  nodeDefinitions,
  resolveVarying,
  type Copies,
  type Curves,
  type Geometry,
  type PerElement,
  type Points,
} from '../../src/index.js';
import { drawn, runChain, runGraph, type Chain } from '../graph.js';
import { runNode, waysOf } from '../catalogue.js';

const draws = (geometry: Geometry, per: PerElement, seed = 1): Float64Array =>
  resolveVarying({ random: [0, 1], seed }, geometry, per).values ?? new Float64Array(elementCount(geometry, per));
const byFormula = (geometry: Geometry, per: PerElement): Float64Array => resolveVarying({ formula: 'random(1)' }, geometry, per).values!;

/** Greatest distance of the shares from those of even spreading, times √n: above 2.23 once in 20,000 (Kolmogorov 1933; Marsaglia, Tsang & Wang 2003). */
function kolmogorov(values: ArrayLike<number>): number {
  const sorted = Float64Array.from(values).sort();
  const n = sorted.length;
  return sorted.reduce((worst, value, i) => Math.max(worst, value - i / n, (i + 1) / n - value), 0) * Math.sqrt(n);
}

/** Pearson's correlation, times √n: a standard normal value where the two are independent. */
function correlation(a: ArrayLike<number>, b: ArrayLike<number>): number {
  const n = Math.min(a.length, b.length);
  let [sum, squares] = [0, [0, 0]];
  for (let i = 0; i < n; i++) {
    const [x, y] = [a[i] - 0.5, b[i] - 0.5];
    sum += x * y;
    squares = [squares[0] + x * x, squares[1] + y * y];
  }
  return (sum / Math.sqrt(squares[0] * squares[1])) * Math.sqrt(n);
}

const kinds: Readonly<Record<Geometry['type'], readonly PerElement[]>> = {
  curves: ['point', 'curve'],
  points: ['point'],
  mesh: ['point', 'face'],
  copies: ['copy'],
};

/** One draw for each key: vertices of one point share theirs. */
function distinct(geometry: Geometry, per: PerElement, values: Float64Array): Float64Array {
  if (geometry.type !== 'mesh' || per !== 'point' || !geometry.pointOf) return values;
  const first = new Map<number, number>();
  geometry.pointOf.forEach((point, v) => first.set(point, first.get(point) ?? v));
  return Float64Array.from(first.values(), (v) => values[v]);
}

describe('every element of what a node makes draws for itself', () => {
  for (const definition of nodeDefinitions.values())
    test(definition.type, async () => {
      for (const way of waysOf(definition)) {
        const result = await runNode({ type: definition.type, way, size: { curves: 8, points: 40, sheet: 16 } });
        for (const made of Object.values(result?.outputs ?? {}).filter((value): value is Geometry => value.type in kinds))
          for (const per of kinds[made.type])
            for (const all of [draws(made, per), byFormula(made, per)]) {
              const own = distinct(made, per, all);
              if (own.length < 8) continue;
              const told = { way, kind: made.type, per };
              // 24 bits of a seed meet now and then; no more than that.
              expect({ ...told, same: new Set(own).size >= own.length * 0.99 - 1 }).toEqual({ ...told, same: true });
              expect({ ...told, spread: kolmogorov(own) < 2.23 }).toEqual({ ...told, spread: true });
              for (const step of [1, 2])
                expect({ ...told, step, apart: Math.abs(correlation(own, own.subarray(step))) < 4.5 }).toEqual({ ...told, step, apart: true });
            }
      }
    });
});

/** Chains whose last node makes more elements with a greater number, those that it made before coming first. */
const growing: Readonly<Record<string, readonly [per: PerElement, chain: (n: number) => Chain]>> = {
  'points of a line': ['point', (n) => [['lay.line', { points: n }]]],
  'copies at the points of a line': ['copy', (n) => [['lay.line', { points: n }], ['place.copies', { spacing: 0 }]]],
  'points scattered on a curve': ['point', (n) => [['lay.line', {}], ['pace.scatter', { count: n }]]],
  'points scattered on faces': ['point', (n) => [['lay.grid', {}], ['place.scatter', { count: n }]]],
  'pieces of a run': ['copy', (n) => [['lay.line', { to: [n, 0, 0] }], ['place.run', { fit: 'exact', length: 1 }]]],
  'curves of a row': ['curve', (n) => [['lay.line', {}], ['shape.row', { count: n }]]],
  'every second point': ['point', (n) => [['lay.line', { points: 2 * n }], ['pace.points', { every: 2 }]]],
  'copies in a row': ['copy', (n) => [['lay.line', {}], ['place.copies', { spacing: 0 }], ['shape.row', { count: n }]]],
}; // prettier-ignore

/** The chain with a box wired in where objects are placed. */
async function made(chain: Chain): Promise<Geometry> {
  const nodes = Object.fromEntries(chain.map((node, i) => [`n${i}`, node]));
  const wires = chain.slice(1).map(([type], i) => {
    const { name, kind } = nodeDefinitions.get(chain[i][0])!.outputs[0];
    const into = nodeDefinitions
      .get(type)!
      .inputs.find(({ kinds: taken }) => taken.includes(kind === 'any' ? 'curves' : (kind as 'curves')) || taken.includes('any'))!.name;
    return `n${i}.${name} > n${i + 1}.${into}`;
  });
  const placing = chain.findIndex(([type]) => type.startsWith('place.') && type !== 'place.scatter');
  if (placing >= 0) wires.push(`box.mesh > n${placing}.objects`);
  const { results } = await runGraph({ ...nodes, ...(placing >= 0 && { box: ['lay.box', {}] as const }) }, wires);
  const last = results[`n${chain.length - 1}`];
  if (last.error) throw new Error(last.error.message);
  return Object.values(last.outputs)[0] as Geometry;
}

describe('what an element draws stays', () => {
  for (const [name, [per, chain]] of Object.entries(growing))
    test(`when there are more of them: ${name}`, async () => {
      const [few, many] = [draws(await made(chain(30)), per), draws(await made(chain(47)), per)];
      expect([few.length >= 29, many.length > few.length]).toEqual([true, true]);
      expect(many.subarray(0, few.length)).toEqual(few);
      expect(new Set(many).size).toBe(many.length);
    });

  test('when another curve of the bundle gets more points, on the curve and at points and copies of it', async () => {
    const lines = (first: number): Chain[number] => ['lay.drawn', { kind: 'straight', curves: [0, 1].map((c) => ({ points: Array.from({ length: c ? 25 : first }, (_, i) => [i, c, 0]) })) }]; // prettier-ignore
    for (const rest of [[], [['pace.points', {}]], [['place.copies', { spacing: 0 }]]] as Chain[]) {
      const last = async (first: number): Promise<Float64Array> => {
        const geometry = await made([lines(first), ...rest]);
        return draws(geometry, geometry.type === 'copies' ? 'copy' : 'point').slice(first);
      };
      expect(await last(60)).toEqual(await last(10));
    }
  });

  test('when others are taken away: points, copies, curves, and pieces of curves', async () => {
    const half = (of: string): Chain[number] => ['mesh.keep', { of, by: 'condition', condition: { formula: 'x > 0.4' } }];
    for (const [per, chain] of [
      ['point', [['lay.line', { points: 40 }], ['pace.points', {}]]],
      ['copy', [['lay.line', { points: 40 }], ['place.copies', { spacing: 0 }]]],
      ['point', [['lay.line', { points: 40 }]]],
      ['curve', [['lay.line', { to: [0, 0, 1] }], ['shape.row', { count: 40, step: [0.025, 0, 0] }]]],
    ] as const) {
      const [all, kept] = [await made(chain), await made([...chain, half(per === 'point' ? 'points' : 'own')])];
      const [before, after] = [draws(all, per), draws(kept, per)];
      expect(after.length).toBeGreaterThan(15);
      expect([...after]).toEqual([...before.subarray(before.length - after.length)]);
    }
  }); // prettier-ignore
});

describe('kinds of elements draw apart with the same seed', () => {
  test('points, curves, faces, copies, parts and the whole', async () => {
    const curves = (await runChain([['lay.line', { points: 3 }], ['shape.row', { count: 400, step: [0, 0, 1] }]])).curves; // prettier-ignore
    const mesh = (await runChain([['lay.grid', { divisions: 20 }]])).mesh;
    const copies = (await made([
      ['lay.line', { points: 400 }],
      ['place.copies', { spacing: 0 }],
    ])) as Copies;
    const boxes = (await runChain([['lay.box', {}], ['shape.row', { count: 400, step: [2, 0, 0] }]])).mesh; // prettier-ignore
    const points = (await made([
      ['lay.grid', {}],
      ['place.scatter', { count: 400 }],
    ])) as Points;
    const part = resolveVarying({ random: [0, 1], seed: 1, per: 'part' }, boxes, 'face').values!.filter((_, f) => f % 6 === 0);
    expect(part.length).toBe(400);
    const all = [draws(points, 'point'), draws(curves, 'curve'), draws(mesh, 'face'), draws(copies, 'copy'), part];
    all.forEach((a, i) => all.forEach((b, k) => i < k && expect(Math.abs(correlation(a, b))).toBeLessThan(4.5)));
    for (const each of all) expect(kolmogorov(each)).toBeLessThan(2.23);
    const whole = resolveVarying({ random: [0, 1], seed: 1, per: 'whole' }, points, 'point').values!;
    expect(new Set(whole).size).toBe(1);
    expect(all.every((list) => list[0] !== whole[0])).toBe(true);
  });

  test('per curve all points of a curve draw the same, at points and copies made of them too; per part those of a body', async () => {
    const curves = (await runChain([['lay.line', { points: 5 }], ['shape.row', { count: 7, step: [0, 0, 1] }]])).curves; // prettier-ignore
    const own = resolveVarying({ random: [0, 1] }, curves, 'curve').values!;
    const points = await made([
      ['lay.line', { points: 5 }],
      ['shape.row', { count: 7, step: [0, 0, 1] }],
      ['pace.points', {}],
    ]);
    const copies = await made([
      ['lay.line', { points: 5 }],
      ['shape.row', { count: 7, step: [0, 0, 1] }],
      ['place.copies', { spacing: 0 }],
    ]);
    for (const [geometry, per] of [[curves, 'point'], [points, 'point'], [copies, 'copy']] as const)
      expect([...resolveVarying({ random: [0, 1], per: 'curve' }, geometry, per).values!]).toEqual(Array.from({ length: 35 }, (_, i) => own[Math.floor(i / 5)])); // prettier-ignore
    const boxes = (await runChain([['lay.box', {}], ['shape.row', { count: 3, step: [2, 0, 0] }]])).mesh; // prettier-ignore
    const part = resolveVarying({ random: [0, 1], per: 'part' }, boxes, 'point').values!;
    expect(new Set(part).size).toBe(3);
    part.forEach((value, v) => expect(value).toBe(part[Math.floor(v / (part.length / 3)) * (part.length / 3)]));
    expect(() => resolveVarying({ random: [0, 1], per: 'part' }, points, 'point')).toThrow(RangeError);
  });
});

test('the same id twice draws twice; a new id takes the place of the seed that followed from the old one', async () => {
  const scattered = async (name: string, value: unknown): Promise<Points> =>
    (await made([
      ['lay.line', { points: 30 }],
      ['pace.points', {}],
      ['gauge.set', { name, value }],
    ])) as Points;
  expect(new Set(draws(await scattered('id', 3), 'point')).size).toBe(30);
  const [plain, moved] = [draws(await scattered('id', { formula: 'i' }), 'point'), draws(await scattered('id', { formula: 'i + 5' }), 'point')];
  expect(moved.subarray(0, 25)).toEqual(plain.subarray(5));
  const twice = (await runGraph({ a: ['lay.grid', {}], s: ['place.scatter', { count: 50 }], two: ['flow.join', {}] }, ['a.mesh > s.mesh', 's.points > two.any', 's.points > two.any'])).results['two'].outputs['any'] as Points; // prettier-ignore
  expect(new Set(drawKeys(twice, 'point')).size).toBe(100);
});

test('names of formulas go on saying the number of a curve’s points', async () => {
  const curves = (await runChain([drawn([[0, 0, 0], [1, 0, 0], [2, 0, 0]])])).curves as Curves; // prettier-ignore
  const { scope } = elementsOf(curves, 'point');
  const out = new Float64Array(3);
  const source = scope.source('id');
  if (typeof source !== 'object') throw new Error('no id');
  source.fill(out, 0, 3);
  expect([...out]).toEqual([0, 1, 2]);
});
