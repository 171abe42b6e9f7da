import fc from 'fast-check';
import { expect, test } from 'vitest';
import { curvesFromLists, makeMesh, placesOfMesh, surfaceOf, unbounded, type Mesh } from '../../src/index.js';
import { Creep } from '../../src/grow/creep.js';
import { routes } from '../../src/grow/routes.js';
import { solid, NotSolid } from '../../src/mesh/cut/solid.js';

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
