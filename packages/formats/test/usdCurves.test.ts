/** Curves as USD: BasisCurves as the schema asks for them (OpenUSD, UsdGeomBasisCurves: counts and sizes of each kind of curve). */
import { expect, test } from 'vitest';
import { curvesFromLists, type Curves } from '@filaxis/core';
import { writers } from '../src/index.js';
import { usdMeshes } from './foreign.js';

interface Block {
  readonly name: string;
  readonly text: string;
  readonly token: (name: string) => string;
  readonly numbers: (name: string) => number[];
}
/** The blocks of curves in a file, by their names. */
async function blocks(curves: Curves, how = {}): Promise<Block[]> {
  const bytes = await writers['.usda']({ curves }, 'rope', how);
  // A reader that is not ours takes the file; meshes there are none.
  expect(await usdMeshes(bytes)).toEqual([]);
  const text = new TextDecoder().decode(bytes);
  return text.split('def BasisCurves ').slice(1).map((block) => {
    const line = (name: string): string => new RegExp(`(?:uniform token|\\w+\\[\\]) ${name} = (.*)`).exec(block)![1];
    return { name: /"(\w+)"/.exec(block)![1], text: block, token: (name) => line(name).replaceAll('"', ''), numbers: (name) => (line(name).match(/-?[\d.]+(e-?\d+)?/g) ?? []).map(Number) };
  }); // prettier-ignore
}

test('straight ones are linear, closed ones periodic, each kind in a block of its own', async () => {
  const curves = curvesFromLists([[[0, 0, 0], [1, 0, 0], [1, 0, 1]], [[0, 0, 2], [3, 0, 2], [3, 0, 3]], [[5, 0, 0], [6, 0, 0]]], { closed: [false, true, false] }); // prettier-ignore
  const found = await blocks(curves);
  expect(found.map(({ name, token }) => [name, token('type'), token('wrap')])).toEqual([
    ['straight', 'linear', 'nonperiodic'],
    ['straightClosed', 'linear', 'periodic'],
  ]);
  const [open, closed] = found;
  expect([open.numbers('curveVertexCounts'), closed.numbers('curveVertexCounts')]).toEqual([[3, 2], [3]]);
  expect(open.numbers('points')).toEqual([0, 0, 0, 1, 0, 0, 1, 0, 1, 5, 0, 0, 6, 0, 0]);
  expect(closed.numbers('points')).toEqual([0, 0, 2, 3, 0, 2, 3, 0, 3]);
});

test('smooth ones are Bézier: 3 n + 1 places, closed ones 3 n, on the same way', async () => {
  const plain = curvesFromLists([[[0, 0, 0], [4, 0, 0], [8, 0, 0]], [[0, 5, 0], [4, 5, 0]]], { closed: [false, true], kind: 'bezier' }); // prettier-ignore
  // Handles from each point, of pieces that wave up and down.
  const leaving = [[1, 2, 0], [1, -2, 0], [0, 0, 0], [1, 2, 0], [-1, -2, 0]]; // prettier-ignore
  const into = leaving.map(([x, y, z]) => [-x, y, z]);
  const handles = (list: number[][]) => ({ carrier: 'point', size: 3, data: Float32Array.from(list.flat()) }) as const;
  const curves: Curves = { ...plain, attributes: new Map([...plain.attributes, ['handleOut', handles(leaving)], ['handleIn', handles(into)]]) }; // prettier-ignore
  const found = await blocks(curves);
  expect(found.map(({ name, token }) => [name, token('type'), token('basis'), token('wrap')])).toEqual([
    ['smooth', 'cubic', 'bezier', 'nonperiodic'],
    ['smoothClosed', 'cubic', 'bezier', 'periodic'],
  ]);
  const [open, closed] = found.map(({ numbers }) => ({ counts: numbers('curveVertexCounts'), points: numbers('points') }));
  expect([open.counts.length, open.counts[0] % 3, closed.counts.length, closed.counts[0] % 3]).toEqual([1, 1, 1, 0]);
  expect([open.points.length, closed.points.length]).toEqual([open.counts[0] * 3, closed.counts[0] * 3]);
  expect([open.points.slice(0, 3), open.points.slice(-3)]).toEqual([[0, 0, 0], [8, 0, 0]]); // prettier-ignore
  // Where pieces meet, and in the middle of each (weights 1, 3, 3, 1 over 8), they are on the curve that was given (Bernstein's form).
  const at = (o: number, t: number, k: number): number => {
    const [a, b] = [plain.positions[o * 3 + k], plain.positions[(o + 1) * 3 + k]];
    return a * (1 - t) ** 3 + 3 * (a + leaving[o][k]) * t * (1 - t) ** 2 + 3 * (b + into[o + 1][k]) * t * t * (1 - t) + b * t ** 3;
  };
  const given = [0, 1].flatMap((o) => Array.from({ length: 2001 }, (_, i) => [at(o, i / 2000, 0), at(o, i / 2000, 1)]));
  for (let i = 0; i + 12 <= open.points.length; i += 9) {
    const [p, middle] = [open.points.slice(i, i + 12), [0, 1].map((k) => (open.points[i + k] + 3 * open.points[i + 3 + k] + 3 * open.points[i + 6 + k] + open.points[i + 9 + k]) / 8)]; // prettier-ignore
    for (const [x, y] of [p, middle]) expect(Math.min(...given.map(([gx, gy]) => Math.hypot(gx - x, gy - y)))).toBeLessThan(2e-3);
  }
});

test('a radius goes out as widths, values by point and by curve with what they are of; Z up and centimetres turn all of it', async () => {
  const plain = curvesFromLists([[[0, 1, 0], [1, 1, 0]], [[0, 0, 2], [3, 0, 2]]]); // prettier-ignore
  const curves: Curves = { ...plain, attributes: new Map([...plain.attributes,
    ['radius', { carrier: 'point', size: 1, data: Float32Array.of(0.5, 1, 0.25, 0.125) }],
    ['order', { carrier: 'curve', size: 1, data: Float32Array.of(7, 9) }],
  ]) }; // prettier-ignore
  const [block] = await blocks(curves);
  expect(block.numbers('widths')).toEqual([1, 2, 0.5, 0.25]);
  expect(block.text).toMatch(/widths = .* \(\n\s+interpolation = "varying"/);
  expect([block.numbers('primvars:order'), /primvars:order = .* \(\n\s+interpolation = "(\w+)"/.exec(block.text)![1]]).toEqual([[7, 9], 'uniform']);
  const [turned] = await blocks(curves, { up: 'z', unit: 'cm' });
  expect(turned.numbers('points').slice(0, 6).map((value) => value + 0)).toEqual([0, 0, 100, 100, 0, 100]); // prettier-ignore
  expect(turned.numbers('widths')).toEqual([100, 200, 50, 25]);
});
