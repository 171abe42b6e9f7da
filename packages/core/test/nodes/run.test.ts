import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { measure, type Copies, type Mesh, type NodeResult } from '../../src/index.js';
import { drawn, runGraph, type Chain } from '../graph.js';

type Step = Chain[number];

/** A piece 2 m long about the origin along an axis, and others that are told from it by their size. */
const rail = (axis = 'z'): Step => ['lay.box', { size: { x: [2, 0.2, 0.1], y: [0.1, 2, 0.2], z: [0.1, 0.2, 2] }[axis] }];
const post: Step = ['lay.box', { size: [0.3, 1.5, 0.3] }];

async function run(path: Step, settings: object, objects: readonly Step[] = [rail()]): Promise<{ copies: Copies; result: NodeResult }> {
  const named = Object.fromEntries(objects.map((object, i) => [`o${i}`, object]));
  const { results } = await runGraph({ path, ...named, it: ['place.run', { begin: 'edge', ...settings } as Record<string, unknown>] }, [
    'path.curves > it.curves',
    ...Object.keys(named).map((id) => `${id}.mesh > it.objects`),
  ]);
  const result = results['it'];
  if (result.error) throw new Error(result.error.message);
  return { copies: result.outputs['copies'] as Copies, result };
}

/** Where a place of copy `i`'s own space comes to lie. */
const placed = ({ matrices }: Copies, i: number, p: readonly number[]): number[] =>
  [0, 1, 2].map((row) => matrices[i * 16 + 12 + row] + p.reduce((sum, value, column) => sum + value * matrices[i * 16 + column * 4 + row], 0));
const column = ({ matrices }: Copies, i: number, k: number): number[] => Array.from(matrices.subarray(i * 16 + k * 4, i * 16 + k * 4 + 3));
const determinant = (copies: Copies, i: number): number => {
  const [a, b, c] = [0, 1, 2].map((k) => column(copies, i, k));
  return a[0] * (b[1] * c[2] - b[2] * c[1]) - a[1] * (b[0] * c[2] - b[2] * c[0]) + a[2] * (b[0] * c[1] - b[1] * c[0]);
};
const close = (a: readonly number[], b: readonly number[], digits = 4): void => a.forEach((value, k) => expect(value).toBeCloseTo(b[k], digits));
const ends = (copies: Copies, i: number, axis = 2, half = 1): [number[], number[]] => {
  const own = [0, 0, 0];
  own[axis] = half;
  return [placed(copies, i, own.map((value) => -value)), placed(copies, i, own)]; // prettier-ignore
};
const length = (a: readonly number[], b: readonly number[]): number => Math.hypot(...a.map((value, k) => value - b[k]));

/** A vertex of a mesh, and which of them is nearest to a place. */
const vertex = ({ positions }: Mesh, i: number): number[] => Array.from(positions.subarray(i * 3, i * 3 + 3));
function nearest(mesh: Mesh, place: readonly number[]): number {
  const away = Array.from({ length: mesh.positions.length / 3 }, (_, i) => length(vertex(mesh, i), place));
  return away.indexOf(Math.min(...away));
}

describe('Run of pieces', () => {
  const place = fc.double({ min: -6, max: 6, noNaN: true });
  test('stretched, each piece ends where the next begins, from the start of the curve to its end, along any own axis and never mirrored', () =>
    fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(place, fc.double({ min: -1, max: 1, noNaN: true }), place), { minLength: 2, maxLength: 6 }),
        fc.constantFrom('x', 'y', 'z'),
        fc.boolean(),
        fc.constantFrom('through', 'straight'),
        async (points, axis, upright, kind) => {
          if (points.slice(1).some((p, i) => Math.hypot(p[0] - points[i][0], p[2] - points[i][2]) < 0.5)) return;
          const { copies } = await run(drawn(points, false, kind), { axis, upright, cornerAngle: 180 }, [rail(axis)]);
          const count = copies.object.length;
          const own = 'xyz'.indexOf(axis);
          close(ends(copies, 0, own)[0], points[0]);
          close(ends(copies, count - 1, own)[1], points[points.length - 1]);
          for (let i = 0; i < count; i++) {
            if (i) close(ends(copies, i, own)[0], ends(copies, i - 1, own)[1]);
            expect(determinant(copies, i)).toBeGreaterThan(0);
            if (upright && axis !== 'y') close(column(copies, i, 1), [0, 1, 0]);
          }
        },
      ),
      { numRuns: 60 },
    ));

  test('as many as come nearest: stretched, or as they are', async () => {
    for (const [metres, count] of [[10, 5], [10.9, 5], [11.1, 6], [0.3, 1]]) {
      const line: Step = ['lay.line', { to: [metres, 0, 0] }];
      const stretched = (await run(line, {})).copies;
      expect(stretched.object).toHaveLength(count);
      expect(length(...ends(stretched, 0))).toBeCloseTo(metres / count, 5);
      const asTheyAre = (await run(line, { fit: 'nearestCount', size: 1.5 })).copies;
      expect(length(...ends(asTheyAre, 0))).toBeCloseTo(3, 5);
    }
  }); // prettier-ignore

  test('exact, each is one length from the last though the curve bends, and less than one is left over', async () => {
    const arc: Step = ['lay.circle', { radius: 4, span: 270, points: 60 }];
    const { copies } = await run(arc, { fit: 'exact' });
    const count = copies.object.length;
    for (let i = 0; i < count; i++) {
      const [from, to] = ends(copies, i);
      expect(length(from, to)).toBeCloseTo(2, 4);
      close([Math.hypot(...from), Math.hypot(...to)], [4, 4], 3);
      if (i) close(from, ends(copies, i - 1)[1]);
    }
    // A chord of 2 spans 2·asin(1/4) of the circle.
    expect(count).toBe(Math.floor((1.5 * Math.PI) / (2 * Math.asin(0.25))));
    const { copies: none, result } = await run(['lay.line', { to: [1.5, 0, 0] }], { fit: 'exact' });
    expect([none.object.length, result.warnings[0].message]).toEqual([0, 'Curve 1 is shorter than a piece, so there is none on it.']);
  });

  test('at a corner a piece ends and another begins; corner and end have objects of their own, which the run does not pick', async () => {
    const path = drawn([[0, 0, 0], [6, 0, 0], [6, 0, 4], [6, 0, 8]]); // prettier-ignore
    const { copies } = await run(path, { stands: [{}, { along: false, bends: true }, { along: false, ends: true }], pick: 'inTurn' }, [rail(), post, post]);
    const objects = Array.from(copies.object);
    expect([0, 1, 2].map((which) => objects.filter((each) => each === which).length)).toEqual([7, 1, 1]);
    const corner = objects.indexOf(1);
    close(column(copies, corner, 2), [Math.SQRT1_2, 0, Math.SQRT1_2], 3);
    expect(ends(copies, 2)[1][0]).toBeCloseTo(6, 5);
    const end = objects.indexOf(2);
    close(placed(copies, end, [0, 0, -0.15]), [6, 0, 8], 4);
    expect((await run(path, { cornerAngle: 100 })).copies.object).toHaveLength(7);
    // A bump is no corner for what stands upright: one piece over it, not one on either side.
    const bump = drawn([[0, 0, 0], [1.4, 1, 0], [2.8, 0, 0]]); // prettier-ignore
    const over = async (upright: boolean): Promise<number> => (await run(bump, { length: 4, upright })).copies.object.length;
    expect([await over(true), await over(false)]).toEqual([1, 2]);
  });

  test('one a span: every given point begins a piece, and a post stands on each, upright and level', () =>
    fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(place, fc.double({ min: -1, max: 1, noNaN: true }), place), { minLength: 3, maxLength: 7 }),
        fc.boolean(),
        fc.constantFrom('through', 'straight'),
        async (points, closed, kind) => {
          if (points.some((p, i) => points.slice(i + 1).some((q) => Math.hypot(p[0] - q[0], p[2] - q[2]) < 0.5))) return;
          const stands = [{}, { along: false, joints: true }];
          const { copies } = await run(drawn(points, closed, kind), { fit: 'spans', stands }, [rail(), post]);
          const of = (object: number): number[] => [...copies.object.keys()].filter((i) => copies.object[i] === object);
          const spans = points.length - (closed ? 0 : 1);
          expect([of(0).length, of(1).length]).toEqual([spans, points.length]);
          const inOrder = (list: readonly (readonly number[])[]): string[] =>
            list.map((p) => p.map((value) => (value + 0).toFixed(3).replace('-0.000', '0.000')).join(' ')).sort();
          expect(inOrder(of(0).map((i) => ends(copies, i)[0]))).toEqual(inOrder(points.slice(0, spans)));
          expect(inOrder(of(1).map((i) => placed(copies, i, [0, 0, 0])))).toEqual(inOrder(points));
          for (const i of of(1)) {
            const own = [0, 1, 2].map((k) => column(copies, i, k));
            close(own[1], [0, 1, 0]);
            for (const [a, b] of [
              [0, 1],
              [0, 2],
              [1, 2],
            ])
              expect(own[a].reduce((sum, value, k) => sum + value * own[b][k], 0)).toBeCloseTo(0, 5);
          }
        },
      ),
      { numRuns: 40 },
    ));

  const gate: Step = ['lay.box', { size: [0.1, 0.2, 3.5] }];
  test('each piece takes a place of its own length, stretched with the others; all may take the longest', async () => {
    const line: Step = ['lay.line', { to: [0, 0, 22] }];
    const { copies } = await run(line, { pick: 'inTurn' }, [rail(), gate]);
    const lengths = (of: Copies): number[] => [...of.object.keys()].map((i) => length(...ends(of, i, 2, of.object[i] ? 1.75 : 1)));
    // Four pairs of 2 + 3.5 m are 22 m.
    lengths(copies).forEach((metres, i) => expect(metres).toBeCloseTo(i % 2 ? 3.5 : 2, 4));
    expect(copies.object).toHaveLength(8);
    const longest = (await run(line, { pick: 'inTurn', lengths: 'longest' }, [rail(), gate])).copies;
    lengths(longest).forEach((metres) => expect(metres).toBeCloseTo(22 / 6, 4));
    // A length of its own counts in place of the measured one.
    expect((await run(line, { stands: [{ length: 4 }] })).copies.object).toHaveLength(6);
  });

  test('a first and a last piece have their own lengths, and the run fills what is between; after a bend too', async () => {
    const stands = [{}, { along: false, first: true }, { along: false, last: true }];
    const { copies } = await run(drawn([[0, 0, 0], [12, 0, 0], [12, 0, 10]]), { stands }, [rail(), gate, post]); // prettier-ignore
    const at = (object: number): number[] => [...copies.object.keys()].filter((i) => copies.object[i] === object);
    expect([at(1).length, at(2).length]).toEqual([1, 1]);
    close(ends(copies, at(1)[0], 2, 1.75)[1], [3.5, 0, 0]);
    close(ends(copies, at(2)[0], 2, 0.15)[1], [12, 0, 10]);
    const [first, last] = [at(0)[0], at(0).at(-1)!];
    close(ends(copies, first)[0], [3.5, 0, 0]);
    close(ends(copies, last)[1], [12, 0, 9.7]);
    // 8.5 m hold 4 pieces, 9.7 m hold 5.
    expect(at(0)).toHaveLength(9);
    const short = await run(['lay.line', { to: [3, 0, 0] }], { stands }, [rail(), gate, post]);
    expect([short.copies.object.length, short.result.warnings.map(({ code }) => code)]).toEqual([0, ['degenerate']]);
  });

  test('a value on the given points names the piece that begins there: a gate where it is told', async () => {
    const points = Array.from({ length: 6 }, (_, i) => [i * 3, 0, 0]);
    const graph = (formula: string): Promise<Awaited<ReturnType<typeof runGraph>>> =>
      runGraph(
        {
          path: drawn(points),
          which: ['gauge.set', { name: 'piece', carrier: 'points', value: { formula } }],
          panel: rail(),
          gate,
          it: ['place.run', { fit: 'spans', pick: 'byAttribute', begin: 'edge' }],
        },
        ['path.curves > which.any', 'which.any > it.curves', 'panel.mesh > it.objects', 'gate.mesh > it.objects'],
      );
    const { results } = await graph('i == 2 ? 1 : 0');
    expect(results['it'].error).toBeUndefined();
    expect(Array.from((results['it'].outputs['copies'] as Copies).object)).toEqual([0, 0, 1, 0, 0]);
    expect((await graph('i * 2')).results['it'].error?.message).toBe('"piece" of point 2 is 2; it must name one of the 2 objects, 0 to 1.');
    expect((await runGraph({ path: drawn(points), panel: rail(), it: ['place.run', { pick: 'byAttribute' }] }, ['path.curves > it.curves', 'panel.mesh > it.objects'])).results['it'].error?.message).toContain('have no number "piece"'); // prettier-ignore
  });

  test('round a closed curve the last piece meets the first', async () => {
    const { copies } = await run(['lay.circle', { radius: 3, points: 40 }], {});
    const count = copies.object.length;
    expect(count).toBe(Math.round((6 * Math.PI) / 2));
    close(ends(copies, count - 1)[1], ends(copies, 0)[0], 3);
    const square = await run(drawn([[0, 0, 0], [4, 0, 0], [4, 0, 4], [0, 0, 4]], true), { stands: [{}, { along: false, bends: true }] }, [rail(), post]); // prettier-ignore
    expect(square.copies.object.filter((which) => which === 1)).toHaveLength(4);
  });

  test('links of a chain turn with the frame, each rolled beyond the last; pieces that begin in their origin reach from there', async () => {
    const line: Step = ['lay.line', { to: [0, 0, 8] }];
    const { copies } = await run(line, { upright: false, alternateRoll: 90 });
    for (let i = 1; i < copies.object.length; i++)
      expect(column(copies, i, 1).reduce((sum, value, k) => sum + value * column(copies, i - 1, 1)[k], 0)).toBeCloseTo(0, 5);
    const fromPost = (await run(line, { begin: 'origin' })).copies;
    // Of a box about its origin one metre lies ahead of it.
    expect(fromPost.object).toHaveLength(8);
    close(placed(fromPost, 3, [0, 0, 0]), [0, 0, 3]);
  });

  test('variants are drawn by their weights, the same for the same seed; values of copies tell curve and place', async () => {
    const line: Step = ['lay.line', { to: [4000, 0, 0] }];
    const objects = [rail(), rail(), rail()];
    const picked = async (settings: object): Promise<number[]> => Array.from((await run(line, settings, objects)).copies.object);
    const drawnBy = await picked({ stands: [{ share: 3 }, { share: 1 }, { share: 0 }] });
    expect(drawnBy).toEqual(await picked({ stands: [{ share: 3 }, { share: 1 }, { share: 0 }] }));
    expect(drawnBy).not.toEqual(await picked({ stands: [{ share: 3 }, { share: 1 }, { share: 0 }], seed: 2 }));
    expect([drawnBy.includes(2), drawnBy.filter((each) => each === 0).length / 2000]).toEqual([false, expect.closeTo(0.75, 1)]);
    expect((await picked({ pick: 'inTurn' })).slice(0, 4)).toEqual([0, 1, 2, 0]);
    const { copies } = await run(line, {});
    expect(Array.from(copies.attributes.get('s')!.data).slice(0, 3)).toEqual([0, 2, 4]);
  });

  describe('pieces that bend', () => {
    const gutter: Step = ['lay.box', { size: [0.1, 0.2, 2], divisions: 32 }];
    const half: Step = ['lay.circle', { radius: 3, span: 180, points: 129 }];

    test('round an arc have the volume of their section times the way of its middle (Pappus), and end where the next begins', async () => {
      for (const upright of [true, false]) {
        const { copies, result } = await run(half, { bendPieces: true, upright }, [gutter]);
        expect(result.warnings).toEqual([]);
        const count = copies.object.length;
        expect([count, copies.objects.length]).toEqual([Math.round((3 * Math.PI) / 2), count]);
        const volume = copies.objects.reduce((sum, mesh) => sum + measure({ mesh }).volume!, 0);
        expect(volume / (0.1 * 0.2 * Math.PI * 3)).toBeCloseTo(1, 3);
        const own = (await run(['lay.line', { to: [2, 0, 0] }], {}, [gutter])).copies.objects[0];
        for (let i = 1; i < count; i++)
          for (const [x, y] of [[0.05, 0.1], [0.05, -0.1], [-0.05, 0.1], [-0.05, -0.1]] as const) {
            const at = (copy: number, z: number): number[] => placed(copies, copy, vertex(copies.objects[copies.object[copy]], nearest(own, [x, y, z])));
            close(at(i - 1, 1), at(i, -1));
          } // prettier-ignore
      }
    });

    test('on straight stretches are the object as it was given, and what reaches over the ends goes on straight', async () => {
      const path = drawn([[0, 0, 0], [8, 0, 0], [8, 0, 8]]); // prettier-ignore
      const straight = (await run(path, {}, [gutter])).copies;
      const bent = (await run(path, { bendPieces: true }, [gutter])).copies;
      expect([bent.objects.length, Array.from(bent.matrices)]).toEqual([1, Array.from(straight.matrices)]);
      // A post that stands a metre before its place, on an arc: straight before it.
      const { copies } = await run(half, { bendPieces: true, begin: 'origin', length: 2 }, [gutter]);
      const [first, own] = [copies.objects[copies.object[0]], straight.objects[0]];
      const before = placed(copies, 0, vertex(first, nearest(own, [0.05, 0.1, -1])));
      const stretch = (3 * Math.PI) / 2 / Math.round((3 * Math.PI) / 2);
      expect(length(before, placed(copies, 0, [0, 0, 0]))).toBeCloseTo(Math.hypot(stretch, 0.05, 0.1), 3);
    });

    test('exact, are as long as they were, along the curve; a bend sharper than they are wide is told', async () => {
      const { copies } = await run(half, { bendPieces: true, fit: 'exact' }, [gutter]);
      expect(copies.object).toHaveLength(Math.floor((3 * Math.PI) / 2));
      for (const mesh of copies.objects) expect(measure({ mesh }).volume! / (0.1 * 0.2 * 2)).toBeCloseTo(1, 3);
      const tight = await run(['lay.circle', { radius: 0.2, span: 300, points: 129 }], { bendPieces: true }, [['lay.box', { size: [0.6, 0.1, 1], divisions: 32 }]]); // prettier-ignore
      expect(tight.result.warnings.map(({ code }) => code)).toContain('pinch');
    });
  });

  test('turned into a mesh, an upright run on a slope has the volume of its pieces times their stretch', async () => {
    const { results } = await runGraph(
      { path: ['lay.line', { to: [6, 3, 0] }], rail: rail(), it: ['place.run', { begin: 'edge' }], mesh: ['place.expand', {}] },
      ['path.curves > it.curves', 'rail.mesh > it.objects', 'it.copies > mesh.copies'],
    );
    const { volume, parts } = measure({ mesh: results['mesh'].outputs['mesh'] as Mesh });
    // A shear keeps height and thickness across the level way, so only the level length counts.
    expect([parts, volume]).toEqual([3, expect.closeTo(6 * 0.2 * 0.1, 4)]);
  });

  test('what cannot be is told: an object number that is not there, no extent along the axis, an upright way', async () => {
    const line: Step = ['lay.line', { to: [4, 0, 0] }];
    await expect(run(line, { stands: [{}, {}] })).rejects.toThrow('Objects says where 2 stand; there are 1.');
    await expect(run(line, { stands: [{ along: false }] })).rejects.toThrow('there is none left for the run itself');
    await expect(run(line, { stands: [{ share: -1 }] })).rejects.toThrow('"share" is -1');
    await expect(run(line, { axis: 'y' }, [['lay.grid', {}]])).rejects.toThrow('Object 0 reaches 0 m along y from where it begins');
    const { result } = await run(['lay.line', { to: [0, 5, 0] }], {});
    expect(result.warnings.map(({ code }) => code)).toEqual(['parallel-up']);
    expect((await run(drawn([[1, 1, 1], [1, 1, 1]]), {})).result.warnings[0].message).toContain('has no length'); // prettier-ignore
  });

  test('several objects share bends; documents that numbered one corner and one end piece, or weights, give what they gave', async () => {
    const zigzag = drawn(Array.from({ length: 41 }, (_, i) => [i * 4, 0, (i % 2) * 4]));
    const shared = await run(zigzag, { stands: [{}, { along: false, bends: true, share: 3 }, { along: false, bends: true }] }, [rail(), post, post]);
    const at = [1, 2].map((which) => shared.copies.object.filter((each) => each === which).length);
    expect(at[0] + at[1]).toBe(39);
    expect(at[0]).toBeGreaterThan(at[1]);
    for (const [before, now] of [
      [{ cornerPiece: 1, endPiece: 2 }, { stands: [{}, { along: false, bends: true }, { along: false, ends: true }] }],
      [{ cornerPiece: 2 }, { stands: [{}, {}, { along: false, bends: true }] }],
      [{ weights: [1, 4] }, { stands: [{ share: 1 }, { share: 4 }] }],
    ])
      expect((await run(zigzag, before, [rail(), rail(), post])).copies).toEqual((await run(zigzag, now, [rail(), rail(), post])).copies);
  });
});
