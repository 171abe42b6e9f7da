import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { curvesFromLists, makeMesh, placesOfMesh, surfaceOf, unbounded, type Curves, type Mesh } from '../../src/index.js';
import { branching } from '../../src/gauge/branching.js';
import { Creep } from '../../src/grow/creep.js';
import { routes } from '../../src/grow/routes.js';
import { solid, NotSolid } from '../../src/mesh/cut/solid.js';
import { runChain } from '../graph.js';

const none = { constant: 0, values: null };

/** Triangles that nobody would model: crossing, doubled, flipped, without area, over few points. */
const soup: fc.Arbitrary<Mesh> = fc
  .tuple(
    fc.array(fc.tuple(fc.integer({ min: -3, max: 3 }), fc.integer({ min: -3, max: 3 }), fc.integer({ min: -2, max: 2 })), { minLength: 3, maxLength: 14 }),
    fc.array(fc.tuple(fc.nat(13), fc.nat(13), fc.nat(13)), { minLength: 1, maxLength: 30 }),
  )
  .map(([points, faces]) =>
    makeMesh({ positions: Float32Array.from(points.flat()), corners: Uint32Array.from(faces.flat().map((i) => i % points.length)), uniform: 3 }),
  );
const guide = curvesFromLists([[[-2, 0, 0], [-1, 1, 0], [0, 0, 1], [1, -1, 0], [2, 0, 0]]]); // prettier-ignore

test('vines over bodies that are none end somewhere: finite, and the same each time', () => {
  fc.assert(
    fc.property(soup, fc.nat(50), fc.boolean(), fc.boolean(), (mesh, seed, apart, hang) => {
      const options = { startEvery: 1, heading: 'any', chance: 0.97, steps: 40, step: { constant: 0.3, values: null }, uneven: 0.5, turn: 0.6, lean: [none, { constant: -0.2, values: null }, none], offset: 0.02, branch: 0.05, avoid: apart ? 0.1 : 0, gap: hang ? 1 : 0, seed, pace: 24, spread: 1 } as const; // prettier-ignore
      const grow = () => new Creep(surfaceOf(mesh), options, unbounded).grow(guide).curves;
      const made = grow();
      expect(made.positions.every(Number.isFinite)).toBe(true);
      for (const { data } of made.attributes.values()) expect(data.every(Number.isFinite)).toBe(true);
      expect(grow().positions).toEqual(made.positions);
    }),
    { numRuns: 300 },
  );
});

test('routes over them are along their edges, each reached once', () => {
  fc.assert(
    fc.property(soup, fc.nat(13), (mesh, start) => {
      const vertices = mesh.positions.length / 3;
      const ends = Array.from({ length: vertices }, (_, v) => v);
      const { curves, unreachable } = routes(mesh, [start % vertices], ends, { from: 'nearest', merge: true, harder: none, pace: 1 }, unbounded);
      expect(unreachable).toBeLessThan(vertices);
      // Every place but the start has one way into it.
      const reached = placesOfMesh(mesh).count - unreachable;
      expect(curves.positions.length / 3 - (curves.starts.length - 1)).toBe(reached - 1);
      expect(curves.attributes.get('distance')!.data.every((metres) => Number.isFinite(metres) && metres >= 0)).toBe(true);
    }),
    { numRuns: 300 },
  );
});

test('solids of them are made or refused by their number, never anything else', async () => {
  await fc.assert(
    fc.asyncProperty(soup, soup, async (a, b) => {
      try {
        const { mesh } = await solid([a, b], 'union');
        expect(mesh.positions.every(Number.isFinite)).toBe(true);
      } catch (error) {
        expect(error, String(error)).toBeInstanceOf(NotSolid);
      }
    }),
    { numRuns: 200 },
  );
});

describe('branching, against trees that are counted by recursion', () => {
  interface Limb {
    readonly limbs: readonly Limb[];
  }
  const limbOf: (depth: number) => fc.Arbitrary<Limb> = fc.memo((depth) =>
    depth > 1 ? fc.record<Limb>({ limbs: fc.array(limbOf(depth - 1), { maxLength: 3 }) }) : fc.constant<Limb>({ limbs: [] }),
  );
  const limb = limbOf(5);
  const tipsOf = ({ limbs }: Limb): number => (limbs.length ? limbs.reduce((sum, each) => sum + tipsOf(each), 0) : 1);
  /** Strahler (1957): two or more of the highest order make the next. */
  const orderOf = ({ limbs }: Limb): number => {
    const orders = limbs.map(orderOf);
    const highest = Math.max(1, ...orders);
    return limbs.length && orders.filter((order) => order === highest).length > 1 ? highest + 1 : highest;
  };

  /** Limbs as curves of two or three points, each from the end of its parent; in `joined` the first goes on in the parent's own curve. */
  function curvesOf(root: Limb, joined: boolean): { lists: number[][][]; tips: number[]; orders: number[] } {
    const made = { lists: [] as number[][][], tips: [] as number[], orders: [] as number[] };
    const grow = (at: readonly number[], own: Limb, into: number[][] | null, way: number, depth: number): void => {
      const end = [at[0] + Math.cos(way) / (depth + 1), at[1] + 1, at[2] + Math.sin(way) / (depth + 1)];
      if (into) into.push(end);
      else {
        made.lists.push((into = [[...at], [...end]]));
        made.tips.push(tipsOf(own));
        made.orders.push(orderOf(own));
      }
      own.limbs.forEach((each, i) => grow(end, each, joined && i === 0 ? into : null, way * 3.7 + i * 2.1 + 1, depth + 1));
    };
    grow([0, 0, 0], root, null, 0.4, 0);
    return made;
  }

  for (const joined of [false, true])
    test(joined ? 'limbs that go on in one curve' : 'a curve for each limb', () => {
      fc.assert(
        fc.property(limb, (root) => {
          const { lists, tips, orders } = curvesOf(root, joined);
          const { curves, roots } = branching(curvesFromLists(lists), { within: 1e-4, exponent: 2 }, unbounded);
          expect(roots).toBe(1);
          const [found, rank] = ['tips', 'order'].map((name) => curves.attributes.get(name)!.data);
          lists.forEach((_, c) => expect([found[curves.starts[c]], rank[curves.starts[c]]]).toEqual([tips[c], orders[c]]));
        }),
        { numRuns: 400 },
      );
    });

  test('rules: an end that a branch goes on from is no tip; six rounds of forks have 32 tips', async () => {
    const first = async (axiom: string, rules: string, times: number): Promise<number[]> => {
      const { last } = await runChain([['grow.rules', { axiom, rules, times }], ['gauge.branching', {}]]); // prettier-ignore
      const { attributes, starts } = last.outputs['curves'] as Curves;
      return ['tips', 'order'].map((name) => attributes.get(name)!.data[starts[0]]);
    };
    expect(await first('F [ + F ]', '', 0)).toEqual([1, 1]);
    expect(await first('A', 'A -> F [ + A ] [ - A ]', 6)).toEqual([32, 6]);
  });
});
