import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { faceCount, type Curves, type Mesh, type NodeResult, type Points } from '../../src/index.js';
import { runChain, runGraph } from '../graph.js';

const ok = (result: NodeResult): NodeResult => {
  if (result.error) throw new Error(result.error.message);
  return result;
};
const values = (of: Mesh | Points | Curves, name: string): number[] => Array.from(of.attributes.get(name)!.data);
const rows = (list: readonly number[], size: number): number[][] => Array.from({ length: list.length / size }, (_, i) => list.slice(i * size, i * size + size));

const parts = async (
  settings: Record<string, unknown>,
  boxes: readonly Record<string, unknown>[],
  moves: readonly Record<string, unknown>[],
): Promise<{ mesh: Mesh; points: Points; warnings: readonly { message: string }[] }> => {
  const nodes: Record<string, [string, Record<string, unknown>]> = {};
  boxes.forEach((box, i) => {
    nodes[`b${i}`] = ['lay.box', box];
    nodes[`m${i}`] = ['shape.transform', moves[i] ?? {}];
  });
  nodes['join'] = ['flow.join', {}];
  nodes['parts'] = ['mesh.parts', settings];
  const wires = boxes.flatMap((_, i) => [`b${i}.mesh > m${i}.any`, `m${i}.any > join.any`]);
  const { results } = await runGraph(nodes, [...wires, 'join.any > parts.mesh']);
  const { outputs, warnings } = ok(results['parts']);
  return { mesh: outputs['mesh'] as Mesh, points: outputs['points'] as Points, warnings };
};

describe('Parts', () => {
  test('the long axis of a box is right at any angle, with its agreed sign, its centre and its size', () =>
    fc.assert(
      fc.asyncProperty(fc.integer({ min: -180, max: 180 }), fc.integer({ min: -90, max: 90 }), fc.integer({ min: -180, max: 180 }), async (x, y, z) => {
        const turn = [x, y, z];
        const move = [z / 10, x / 20, y / 5];
        const { points, mesh } = await parts({}, [{ size: [0.3, 2, 0.5], divisions: 3 }], [{ turn, move }]);
        const unturned = (await runChain([['lay.drawn', { kind: 'straight', curves: [{ points: [[0, 0, 0], [0, 1, 0]] }] }], ['shape.transform', { turn }]])).curves; // prettier-ignore
        const meant = [...unturned.positions.subarray(3, 6)];
        const deciding = [meant[1], meant[0], meant[2]].find((value) => Math.abs(value) > 2e-3)!;
        const axis = values(points, 'tangent');
        const sign = Math.abs(meant[1]) > 5e-4 && Math.abs(meant[1]) < 2e-3 ? Math.sign(axis[0] * meant[0] + axis[2] * meant[2]) : Math.sign(deciding);
        axis.forEach((value, k) => expect(value).toBeCloseTo(meant[k] * sign, 4));
        [...points.positions].forEach((value, k) => expect(value).toBeCloseTo(move[k], 4));
        [2, 0.5, 0.3].forEach((value, k) => expect(values(points, 'size')[k]).toBeCloseTo(value, 4));
        // Every face of the part says the same.
        for (const row of rows(values(mesh, 'axis'), 3)) expect(row).toEqual(axis);
        expect(values(points, 'area')[0]).toBeCloseTo(2 * (0.6 + 1 + 0.15), 3);
      }),
      { numRuns: 30 },
    ));

  test('at 45° both ways round the axis points up, whichever way the beam was made', async () => {
    for (const turn of [
      [0, 0, 45],
      [0, 0, -135],
      [45, 0, 0],
      [-135, 0, 0],
      [0, 45, 45],
    ]) {
      // prettier-ignore
      const { points } = await parts({}, [{ size: [0.2, 3, 0.2] }], [{ turn }]);
      expect(values(points, 'tangent')[1]).toBeGreaterThan(0.4);
    }
    for (const turn of [
      [0, 0, 0],
      [0, 180, 0],
      [0, 45, 0],
      [0, -45, 0],
    ]) {
      // prettier-ignore
      const { points } = await parts({}, [{ size: [3, 0.2, 0.2] }], [{ turn }]);
      expect(values(points, 'tangent')[0]).toBeGreaterThan(0.7);
    }
  });

  test('how finely a side is divided does not draw the axis or the centre to it', async () => {
    const { results } = await runGraph(
      { box: ['lay.box', { size: [1, 4, 1], divisions: 2 }], mark: ['mesh.mark', { direction: [1, 0, 0], angle: 10 }], kept: ['mesh.keep', {}], fine: ['lay.box', { size: [1, 4, 1], divisions: 40 }], finer: ['mesh.mark', { direction: [1, 0, 0], angle: 10 }], other: ['mesh.keep', {}], join: ['flow.join', {}], parts: ['mesh.parts', {}] }, // prettier-ignore
      ['box.mesh > mark.any', 'mark.any > kept.any', 'fine.mesh > finer.any', 'finer.any > other.any', 'kept.rest > join.any', 'other.kept > join.any', 'join.any > parts.mesh'], // prettier-ignore
    );
    const points = ok(results['parts']).outputs['points'] as Points;
    const two = rows(values(points, 'tangent'), 3);
    for (const axis of two) expect(axis.map((value) => Math.round(value * 1e4) / 1e4 + 0)).toEqual([0, 1, 0]);
  });

  test('parts partition the faces; the largest and those large enough are kept, and numbered anew', async () => {
    const boxes = [{ size: [1, 1, 1] }, { size: [3, 0.2, 0.2] }, { size: [0.1, 0.1, 0.1] }];
    const moves = [{}, { move: [0, 5, 0] }, { move: [0, -5, 0] }];
    const all = await parts({}, boxes, moves);
    expect(rows(values(all.mesh, 'body'), 6).map((row) => new Set(row).size)).toEqual([1, 1, 1]);
    const largest = await parts({ keep: 'largest', count: 2 }, boxes, moves);
    expect([faceCount(largest.mesh), new Set(values(largest.mesh, 'body'))]).toEqual([12, new Set([0, 1])]);
    const long = await parts({ keep: 'largerThan', by: 'length', least: 2 }, boxes, moves);
    expect([faceCount(long.mesh), [...long.points.positions].map(Math.round)]).toEqual([6, [0, 5, 0]]);
    const none = await parts({ keep: 'largerThan', least: 100 }, boxes, moves);
    expect([faceCount(none.mesh), none.warnings.map(({ message }) => message).join()]).toEqual([
      0,
      'None of the 3 parts is larger than 100; the largest has 6.',
    ]);
  });

  test('a mesh whose faces share no vertices hangs together by their places', async () => {
    const { results } = await runGraph({ box: ['lay.box', {}], flat: ['mesh.normals', { style: 'faceted' }], parts: ['mesh.parts', {}] }, [
      'box.mesh > flat.mesh',
      'flat.mesh > parts.mesh',
    ]);
    expect((ok(results['parts']).outputs['points'] as Points).positions.length).toBe(3);
  });

  test('a cube has no long axis: one is agreed, and that is said', async () => {
    const { points, warnings } = await parts({}, [{}], [{ move: [7, 0, 0] }]);
    expect(values(points, 'tangent').map((value) => Math.round(value * 1e6) / 1e6)).toEqual([0, 1, 0]);
    expect(warnings[0].message).toContain('Part 1 is as long one way as another');
  });

  test('axis and centre go along with what is done to the mesh behind it', async () => {
    const { results } = await runGraph(
      { box: ['lay.box', { size: [3, 0.2, 0.4] }], parts: ['mesh.parts', {}], moved: ['shape.transform', { move: [0, 0, 2], turn: [0, 90, 0] }] },
      ['box.mesh > parts.mesh', 'parts.mesh > moved.any'],
    );
    const mesh = ok(results['moved']).outputs['any'] as Mesh;
    expect([rows(values(mesh, 'axis'), 3)[0], rows(values(mesh, 'centre'), 3)[0]].map((row) => row.map((value) => Math.round(value * 1e5) / 1e5 + 0))).toEqual([[0, 0, -1], [0, 0, 2]]); // prettier-ignore
  });
});

describe('Mark, and Keep or drop', () => {
  const marked = async (settings: Record<string, unknown>, source: [string, Record<string, unknown>] = ['lay.box', { divisions: 2 }]): Promise<number[]> => {
    const { last } = await runChain([source, ['mesh.mark', settings]]);
    return values(ok(last).outputs['any'] as Mesh, (settings['name'] as string | undefined) ?? 'mark');
  };
  const sum = (list: readonly number[]): number => list.reduce((a, b) => a + b, 0);

  test.each([
    [{ by: 'direction', direction: [0, -1, 0], angle: 45 }, 4],
    [{ by: 'direction', direction: [0, -5, 0], angle: 90 }, 20],
    [{ by: 'direction', direction: [1, 1, 0], angle: 44.9 }, 0],
    [{ by: 'direction', direction: [1, 1, 0], angle: 45 }, 8],
    [{ by: 'every', every: 3 }, 8],
    [{ by: 'every', every: 3, first: 2 }, 8],
    [{ by: 'sides', sides: 4 }, 24],
    [{ by: 'sides', sides: 3 }, 0],
    [{ by: 'boundary' }, 0],
    [{ by: 'size', times: 0.99 }, 24],
    [{ by: 'size', times: 1 }, 0],
    [{ by: 'condition', condition: { formula: 'y > 0 and area > 0.2' } }, 12],
    [{ by: 'condition', condition: { formula: 'y > 0' }, invert: true }, 12],
    [{ by: 'chance', share: 100 }, 24],
    [{ by: 'chance', share: 0 }, 0],
    [{ by: 'noise', level: 1 }, 0],
  ])('%j marks %d of 24 faces of a box', async (settings, count) => {
    expect(sum(await marked(settings))).toBe(count);
  });

  test('bevels are left out by size: only large faces of a beam stay', async () => {
    const list = await marked({ by: 'size', times: 1 }, ['lay.cylinder', { sides: 12, radius: 0.5, height: 8 }]);
    expect([sum(list), list.length]).toEqual([12, 14]);
  });

  test('noise runs when it is shifted, and is another with another seed; chance takes its share', async () => {
    const grid: [string, Record<string, unknown>] = ['lay.grid', { size: [4, 4], divisions: 40 }];
    const [one, two, three] = await Promise.all([{}, { shift: [5, 0, 0] }, { seed: 9 }].map((more) => marked({ by: 'noise', ...more }, grid)));
    expect(sum(one)).toBeGreaterThan(400);
    expect(sum(one)).toBeLessThan(1200);
    expect([one, two]).not.toEqual([one, one]);
    expect(three).not.toEqual(one);
    // Five binomial deviations of 20.
    expect(Math.abs(sum(await marked({ by: 'chance', share: 50 }, grid)) - 800)).toBeLessThan(100);
  });

  test('marks are put together with those that are there', async () => {
    const { results } = await runGraph(
      { box: ['lay.box', { divisions: 2 }], low: ['mesh.mark', { by: 'condition', condition: { formula: 'y < 0' } }], and: ['mesh.mark', { by: 'condition', condition: { formula: 'x < 0' }, combine: 'and' }], or: ['mesh.mark', { by: 'condition', condition: { formula: 'x < 0' }, combine: 'or' }], not: ['mesh.mark', { by: 'condition', condition: { formula: 'x < 0' }, combine: 'not' }] }, // prettier-ignore
      ['box.mesh > low.any', 'low.any > and.any', 'low.any > or.any', 'low.any > not.any'],
    );
    const counts = ['low', 'and', 'or', 'not'].map((id) => sum(values(ok(results[id]).outputs['any'] as Mesh, 'mark')));
    expect(counts[1]).toBeLessThan(counts[0]);
    expect([counts[1] + counts[3], counts[0] + 12 - counts[1]]).toEqual([counts[0], counts[2]]);
  });

  test('near: by the distance to what is wired in; nothing wired in is said', async () => {
    const { results } = await runGraph(
      { grid: ['lay.grid', { size: [2, 2], divisions: 20 }], line: ['lay.line', { from: [-1, 0, 0], to: [1, 0, 0] }], mark: ['mesh.mark', { by: 'near', distance: 0.1 }], bare: ['mesh.mark', { by: 'near' }] }, // prettier-ignore
      ['grid.mesh > mark.any', 'line.curves > mark.near', 'grid.mesh > bare.any'],
    );
    expect(sum(values(ok(results['mark']).outputs['any'] as Mesh, 'mark'))).toBe(40);
    expect(results['bare'].error?.message).toContain('Nothing is wired into near');
  });

  test('kept and rest share the faces out; without the mark it says what is missing', async () => {
    const { results } = await runGraph(
      { box: ['lay.box', { divisions: 4 }], mark: ['mesh.mark', { by: 'every', every: 5 }], keep: ['mesh.keep', {}], bare: ['mesh.keep', {}] },
      ['box.mesh > mark.any', 'mark.any > keep.any', 'box.mesh > bare.any'],
    );
    const { kept, rest } = ok(results['keep']).outputs as { kept: Mesh; rest: Mesh };
    expect([faceCount(kept), faceCount(rest)]).toEqual([20, 76]);
    expect(new Set(values(kept, 'mark'))).toEqual(new Set([1]));
    for (const mesh of [kept, rest]) expect(Math.max(...mesh.corners)).toBe(mesh.positions.length / 3 - 1);
    expect(results['bare'].error?.message).toBe(
      'The mark "mark" is not there, so it cannot tell one face from another; mark them before, or change what it is of.',
    );
  });

  test('curves of which points go fall into runs; a closed one is not cut where it begins', async () => {
    const circle: [string, Record<string, unknown>] = ['lay.circle', { points: 12 }];
    const open = await runChain([circle, ['mesh.keep', { of: 'points', by: 'condition', condition: { formula: 'i != 3 and i != 8' } }]]);
    const curves = ok(open.last).outputs['kept'] as Curves;
    expect([[...curves.starts], [...curves.closed]]).toEqual([[0, 4, 10], [0, 0]]); // prettier-ignore
    const whole = await runChain([circle, ['mesh.keep', { of: 'points', by: 'condition', condition: true }]]);
    expect([...(ok(whole.last).outputs['kept'] as Curves).closed]).toEqual([1]);
    const curve = await runChain([['lay.line', {}], ['shape.row', { count: 6, step: [0, 0, 1] }], ['mesh.keep', { by: 'condition', condition: { formula: 'c % 2 == 0' } }]]); // prettier-ignore
    expect((ok(curve.last).outputs['kept'] as Curves).starts.length).toBe(4);
  });
});

describe('Centre and stand', () => {
  const bounds = (mesh: Mesh): number[][] => [0, 1, 2].map((k) => {
    const own = mesh.positions.filter((_, i) => i % 3 === k);
    return [Math.min(...own), Math.max(...own)].map((value) => Math.round(value * 1e4) / 1e4 + 0);
  }); // prettier-ignore
  const stood = async (settings: Record<string, unknown>, turn: number[], move = [3, -2, 8]): Promise<number[][]> => {
    const { last } = await runChain([
      ['lay.box', { size: [1, 3, 2] }],
      ['shape.transform', { turn, move }],
      ['mesh.ground', settings],
    ]);
    return bounds(ok(last).outputs['mesh'] as Mesh);
  };

  test('stands in the middle on the floor; what was up is up', async () => {
    expect(await stood({}, [0, 0, 0])).toEqual([[-0.5, 0.5], [0, 3], [-1, 1]]); // prettier-ignore
    expect(await stood({ turn: 'z' }, [90, 0, 0])).toEqual([[-0.5, 0.5], [0, 3], [-1, 1]]); // prettier-ignore
    expect(await stood({ turn: 'x' }, [0, 0, -90])).toEqual([[-0.5, 0.5], [0, 3], [-1, 1]]); // prettier-ignore
    expect((await stood({ stand: false, centre: false }, [0, 0, 0]))[1]).toEqual([-3.5, -0.5]);
  });

  test('a body that lies askew comes straight by its long axis', async () => {
    expect(await stood({ turn: 'longUp' }, [33, -20, 71])).toEqual([[-0.5, 0.5], [0, 3], [-1, 1]]); // prettier-ignore
    expect(await stood({ turn: 'longAlong' }, [33, -20, 71])).toEqual([[-1.5, 1.5], [0, 1], [-1, 1]]); // prettier-ignore
  });

  test('is not turned inside out', async () => {
    for (const turn of ['y', 'negativeY', 'z', 'negativeZ', 'x', 'negativeX', 'longUp', 'longAlong']) {
      const { results, report } = await runGraph({ box: ['lay.box', { size: [1, 3, 2] }], stand: ['mesh.ground', { turn }], out: ['flow.output', {}] }, ['box.mesh > stand.mesh', 'stand.mesh > out.any']); // prettier-ignore
      expect([results['stand'].error, report.outputs['main']?.volume]).toEqual([undefined, expect.closeTo(6, 4)]);
    }
  });
});
