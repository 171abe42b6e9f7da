import { describe, expect, test } from 'vitest';
import { faceCount, faceStart, measure, type Copies, type Measures, type Mesh, type NodeResult } from '../../src/index.js';
import { drawn, measureChain, runChain, runGraph, type Chain } from '../graph.js';
import { places } from '../reference/reference.js';

const line = (length = 1, points = 2): Chain[number] => ['lay.line', { to: [length, 0, 0], points }];
const near = (value: number, wanted: number, relative = 1e-4): void => expect(Math.abs(value / wanted - 1)).toBeLessThan(relative);

/** A sweep of a profile along a path. */
async function swept(path: Chain[number], profiles: Chain, settings: object = {}): Promise<{ mesh: Mesh; figures: Measures; result: NodeResult }> {
  const { results } = await runGraph(
    { path, ...Object.fromEntries(profiles.map((profile, i) => [`p${i}`, profile])), it: ['skin.sweep', { caps: 'flat', ...settings }] },
    ['path.curves > it.curves', ...profiles.map((_, i) => `p${i}.curves > it.profile`)],
  );
  const mesh = results['it'].outputs['mesh'] as Mesh;
  if (!mesh) throw new Error(results['it'].error?.message);
  return { mesh, figures: measure({ mesh }), result: results['it'] };
}
const rectangle = (width: number, height: number): Chain[number] => ['lay.rectangle', { width, height }];

describe('two lists joined one after the other are told, not paired in silence', () => {
  const ring = (x: number, radius: number): readonly [string, object] => ['lay.circle', { centre: [x, 0, 0], radius }];
  const joined = async (order: readonly string[], type: string, settings: object): Promise<string[]> => {
    const nodes = {
      a: ring(0, 1),
      b: ring(3, 1),
      c: ring(6, 1),
      d: ring(0, 0.8),
      e: ring(3, 0.8),
      f: ring(6, 0.8),
      all: ['flow.join', {}],
      it: [type, settings],
    };
    const { results } = await runGraph(nodes as never, [...order.map((id) => `${id}.curves > all.any`), 'all.any > it.curves']);
    return results['it'].warnings.map(({ code }) => code);
  };
  test('strips', async () => {
    expect(await joined(['a', 'b', 'c', 'd', 'e', 'f'], 'skin.fill', { as: 'strip' })).toEqual(['unequal-lists']);
    expect(await joined(['a', 'd', 'b', 'e', 'c', 'f'], 'skin.fill', { as: 'strip' })).toEqual([]);
  });
  test('lofts', async () => {
    expect(await joined(['a', 'b', 'c', 'd', 'e', 'f'], 'skin.loft', {})).toContain('unequal-lists');
    expect(await joined(['a', 'd', 'b', 'e', 'c', 'f'], 'skin.loft', {})).toEqual([]);
  });
});

describe('Sweep', () => {
  test('size: one factor, two factors, or a ramp (a frustum’s volume: L(A + √(AB) + B)/3; common practice)', async () => {
    near((await swept(line(3), [rectangle(1, 2)], { size: 0.5 })).figures.volume, 3 * 0.5);
    near((await swept(line(3), [rectangle(1, 2)], { size: [2, 0.5] })).figures.volume, 3 * 2);
    near((await swept(line(3, 40), [rectangle(1, 1)], { size: { ramp: [[0, 2], [1, 1]] } })).figures.volume, (3 * (4 + 2 + 1)) / 3, 1e-3); // prettier-ignore
  });
  test('roll turns the profile about the path; by 90° its box changes sides', async () => {
    const box = async (roll: unknown): Promise<number[]> => {
      const { min, max } = (await swept(line(), [rectangle(1, 3)], { roll })).figures.bounds!;
      return [max[1] - min[1], max[2] - min[2]].map((value) => Number(value.toFixed(4)));
    };
    expect(await box(0)).toEqual([1, 3]);
    expect(await box(90)).toEqual([3, 1]);
  });
  test('a profile away from the origin stays away, unless it is centred', async () => {
    const { results } = await runGraph(
      {
        path: line(),
        own: rectangle(1, 1),
        away: ['shape.transform', { move: [5, 0, 0] }],
        as: ['skin.sweep', { caps: 'flat' }],
        centred: ['skin.sweep', { caps: 'flat', centre: true }],
      },
      ['path.curves > as.curves', 'path.curves > centred.curves', 'own.curves > away.any', 'away.any > as.profile', 'away.any > centred.profile'],
    );
    const height = (id: string): number => measure({ mesh: results[id].outputs['mesh'] as Mesh }).bounds!.max[1];
    expect([height('as'), height('centred')]).toEqual([expect.closeTo(5.5, 5), expect.closeTo(0.5, 5)]);
  });
  test('edge angle: corners of the profile above it are edges with normals of their own, below it they shade smoothly', async () => {
    const octagon = ['lay.polygon', { sides: 8 }] as const;
    const vertices = async (hard: number): Promise<number> => (await swept(line(), [octagon], { hard, caps: 'open' })).mesh.positions.length / 3;
    // Smooth: eight and the seam's one more a ring; hard: two at every corner.
    expect([await vertices(60), await vertices(30)]).toEqual([18, 32]);
  });
  test('which profile stands where: the second all along, or each at its place', async () => {
    near((await swept(line(2), [rectangle(1, 1), rectangle(2, 2)], { profileAt: 1 })).figures.volume, 8);
    near((await swept(line(2), [rectangle(1, 1), rectangle(2, 2)], { profileAt: 0 })).figures.volume, 2);
    const half = await swept(line(2, 3), [rectangle(1, 1), rectangle(2, 2)], { profileAt: { ramp: [[0, 0], [0.5, 1], [1, 1]] } }); // prettier-ignore
    near(half.figures.volume, 4 + (1 * (1 + 2 + 4)) / 3);
  });
  test('profiles one for each curve; fewer, and it begins again where allowed', async () => {
    const three = ['lay.drawn', { kind: 'straight', curves: [0, 10, 20].map((z) => ({ points: [[0, 0, z], [1, 0, z]] })) }] as const; // prettier-ignore
    const two: Chain = [rectangle(1, 1), rectangle(2, 2)];
    await expect(swept(three, two, { profiles: 'perCurve' })).rejects.toThrow(/curves 3 and profiles 2/);
    near((await swept(three, two, { profiles: 'perCurve', unequal: 'cycle' })).figures.volume, 1 + 4 + 1);
    near((await swept(three, two, { profiles: 'perCurve', unequal: 'shortest' })).figures.volume, 1 + 4);
  });
  test('corners: mitred they keep the section, as they are they pinch it, rounded they follow the arc', async () => {
    const elbow = drawn([[0, 0, 0], [4, 0, 0], [4, 4, 0]]); // prettier-ignore
    const volume = async (corners: string, more = {}): Promise<number> => (await swept(elbow, [rectangle(1, 1)], { corners, ...more })).figures.volume;
    near(await volume('mitre'), 8);
    expect(await volume('asIs')).toBeLessThan(8);
    near(await volume('round', { bendRadius: 2, bendPoints: 65 }), 2 + 2 + (Math.PI / 2) * 2, 1e-3);
  });
  test('every k-th point gets a ring; the pinch is thinned where asked', async () => {
    expect((await swept(line(1, 9), [rectangle(1, 1)], { ringStep: 4 })).figures.vertices).toBe(3 * 4);
    const ring = ['lay.circle', { radius: 0.4, points: 64 }] as const;
    const codes = async (relaxPinch: boolean): Promise<string[]> =>
      (await swept(ring, [rectangle(1, 1)], { relaxPinch })).result.warnings.map(({ code }) => code);
    expect(await codes(false)).toContain('pinch');
    expect(await codes(true)).not.toContain('pinch');
  });
});

describe('Ribbon', () => {
  test('as wide as asked, in so many columns; double-sided it has its back as well', async () => {
    const ribbon = (settings: object): Promise<Measures> => measureChain([line(2, 5), ['skin.ribbon', { width: 0.5, ...settings }]]);
    const [one, three, both] = [await ribbon({}), await ribbon({ columns: 3 }), await ribbon({ doubleSided: true })];
    near(one.area, 1);
    expect([one.faces, three.faces, both.faces]).toEqual([4, 12, 8]);
    near(both.area, 2);
    // A band of few faces in place of a tube of many: a stem of 35 pieces, ten sides.
    expect((await measureChain([line(2, 36), ['skin.ribbon']])).faces).toBe(35);
    expect((await measureChain([line(2, 36), ['skin.tube', { sides: 10 }]])).faces).toBe(350);
  });
  test('tapers by a ramp: the area of a triangle', async () => {
    near((await measureChain([line(2, 33), ['skin.ribbon', { width: { ramp: [[0, 1], [1, 0]] } }]])).area, 1, 1e-3); // prettier-ignore
  });
});

describe('Rope', () => {
  const rope = async (settings: object, path: Chain[number] = line(0.5)): Promise<Measures> => measureChain([path, ['skin.rope', { caps: 'flat', sides: 6, ...settings }]]); // prettier-ignore
  test('turns per metre go before the lay length, and are the same thing turned over', async () => {
    const [byLength, byTurns] = [await rope({ layLength: 0.125 }), await rope({ layLength: 9, turnsPerMetre: 8 })];
    expect(byTurns).toEqual(byLength);
  });
  test('by itself it is laid at seven diameters, of several at the largest', async () => {
    expect(await rope({ diameter: 0.06 })).toEqual(await rope({ diameter: 0.06, layLength: 0.42 }));
    const tapered = { ramp: [[0, 0.05], [1, 0.01]] }; // prettier-ignore
    expect(await rope({ diameter: tapered })).toEqual(await rope({ diameter: tapered, layLength: 0.35 }));
  });
  test('hand: a left lay is the mirror image of a right one', async () => {
    const [right, left] = [await rope({ hand: 'right' }), await rope({ hand: 'left' })];
    near(left.volume, right.volume);
    expect(left.vertices).toBe(right.vertices);
    const at = async (hand: string): Promise<number[][]> => places((await runChain([line(0.5), ['skin.rope', { hand, sides: 6 }]])).mesh.positions);
    expect(await at('left')).not.toEqual(await at('right'));
  });
  test('is as thick as asked: 16 plaited strands, or three laid, with domes or without', async () => {
    for (const settings of [{ braid: '16' }, { strands: 3 }, { strands: 5, core: true }, { strands: 3, yarns: 4, layLength: 0.14 }]) {
      const { min, max } = (await rope({ diameter: 0.04, sides: 12, ...settings })).bounds!;
      expect(max[1] - min[1]).toBeLessThan(0.0405);
      expect(max[1] - min[1]).toBeGreaterThan(0.034);
    }
    expect((await rope({ caps: 'domed' })).bounds!.max[0]).toBeGreaterThan((await rope({})).bounds!.max[0]);
  });
  test('UVs in metres per tile: as many tiles along as a strand is long', async () => {
    const { uv } = await rope({ uvScale: 0.05, caps: 'open', ringsPerTurn: 64 });
    // A strand of length L·√(1 + (2πa/lay)²), a the strand's distance from the middle: between half and a quarter of the diameter.
    const turned = (a: number): number => (0.5 * Math.hypot(1, (2 * Math.PI * a) / 0.28)) / 0.05;
    expect(uv!.max[1]).toBeGreaterThan(turned(0.01));
    expect(uv!.max[1]).toBeLessThan(turned(0.02));
  });
  test('on a closed path the strands meet', async () => {
    expect(await rope({ caps: 'open' }, ['lay.circle', { radius: 0.3, points: 48 }])).toMatchObject({ boundaryEdges: 0, parts: 3 });
  });
});

describe('Loft', () => {
  const rows = (curves: readonly (readonly (readonly number[])[])[]): Chain[number] => ['lay.drawn', { kind: 'straight', curves: curves.map((points) => ({ points })) }]; // prettier-ignore
  const three = rows([[[0, 0, 0], [1, 0, 0]], [[0, 1, 1], [1, 1, 1]], [[0, 0, 2], [1, 0, 2]]]); // prettier-ignore
  test('straight from curve to curve, or smooth through them: the smooth one bulges and touches all three', async () => {
    const lofted = async (smooth: string): Promise<Mesh> => (await runChain([three, ['skin.loft', { across: 7, smooth }]])).mesh;
    const [straight, smooth] = [await lofted('linear'), await lofted('through')];
    near(measure({ mesh: straight }).area, 2 * Math.SQRT2);
    const heights = places(smooth.positions).map(([, y]) => y);
    expect(Math.max(...heights)).toBeCloseTo(1, 5);
    for (const end of [0, 2]) expect(places(smooth.positions).some(([, y, z]) => y === 0 && z === end)).toBe(true);
    expect(measure({ mesh: smooth }).area).toBeGreaterThan(2 * Math.SQRT2);
  });
  test('smooth curves are sampled as their bends need, as many points on each; straight ones and those of a count are not', async () => {
    const bent = (kind: string): Chain[number] => ['lay.drawn', { kind, curves: [0, 1].map((z) => ({ points: [[0, 0, z], [1, 1 - z, z], [2, 0, z]] })) }]; // prettier-ignore
    const columns = async (kind: string, settings: Record<string, unknown> = {}): Promise<number> =>
      (await runChain([bent(kind), ['skin.loft', settings]])).mesh.positions.length / 6;
    expect([await columns('straight'), await columns('through', { columns: 6 }), await columns('through', { sampled: false })]).toEqual([3, 6, 3]);
    const sampled = await columns('through');
    expect(sampled).toBeGreaterThan(12);
    // At even parameters pieces turn by 7.5° on the mean.
    const p = places((await runChain([bent('through'), ['skin.loft']])).mesh.positions).slice(0, sampled);
    for (let i = 1; i < sampled - 1; i++) {
      const [a, b] = [[p[i][0] - p[i - 1][0], p[i][1] - p[i - 1][1]], [p[i + 1][0] - p[i][0], p[i + 1][1] - p[i][1]]]; // prettier-ignore
      expect(Math.abs(Math.atan2(a[0] * b[1] - a[1] * b[0], a[0] * b[0] + a[1] * b[1])) * (180 / Math.PI)).toBeLessThan(20);
    }
  });
  test('rows and columns spaced anew: even, closer to the ends', async () => {
    const widths = async (spread: string): Promise<number[]> => {
      const p = places((await runChain([three, ['skin.loft', { columns: 9, rows: 9, spread }]])).mesh.positions);
      return p.slice(1, 9).map((b, i) => b[0] - p[i][0]);
    };
    for (const width of await widths('even')) expect(width).toBeCloseTo(1 / 8, 5);
    const ends = await widths('ends');
    expect(ends[0]).toBeLessThan(ends[3]);
    expect(ends[0]).toBeCloseTo(ends[7], 5);
  });
  test('a curve that runs against the others is turned, or twists the surface where that is not wanted', async () => {
    const against = rows([[[0, 0, 0], [1, 0, 0]], [[1, 0, 1], [0, 0, 1]]]); // prettier-ignore
    near((await measureChain([against, ['skin.loft']])).area, 1);
    expect((await measureChain([against, ['skin.loft', { matchDirection: false, across: 15 }]])).area).toBeLessThan(0.9);
  });
  test('flip turns it over; caps close the first and the last ring', async () => {
    const rings: Chain = [['lay.circle', { points: 24 }], ['shape.row', { count: 3, step: [0, 1, 0] }]]; // prettier-ignore
    const closed = await measureChain([...rings, ['skin.loft', { caps: 'flat' }]]);
    expect(closed).toMatchObject({ boundaryEdges: 0, euler: 2 });
    near(closed.volume, 2 * 12 * Math.sin(Math.PI / 12));
    near((await measureChain([...rings, ['skin.loft', { caps: 'flat', flip: true }]])).volume, -closed.volume);
  });
  test('different numbers of points are refused with both, unless columns even them out', async () => {
    const uneven = rows([[[0, 0, 0], [1, 0, 0]], [[0, 0, 1], [0.5, 0, 1], [1, 0, 1]]]); // prettier-ignore
    expect((await runChain([uneven, ['skin.loft', { unequal: 'error' }]])).report.problems[0].message).toMatch(/2.*3/);
    near((await measureChain([uneven, ['skin.loft', { columns: 5 }]])).area, 1);
  });
});

describe('Fill and Extrude', () => {
  test('flip looks down instead of up; metres per tile scale the UVs', async () => {
    const facing = async (flip: boolean): Promise<number> => places((await runChain([['lay.rectangle', { plane: 'XZ' }], ['skin.fill', { flip }]])).mesh.attributes.get('normal')!.data)[0][1]; // prettier-ignore
    expect([await facing(false), await facing(true)]).toEqual([1, -1]);
    const uv = (await measureChain([['lay.rectangle', { width: 2, height: 3 }], ['skin.fill', { uvScale: 0.5 }]])).uv!; // prettier-ignore
    expect([uv.max[0] - uv.min[0], uv.max[1] - uv.min[1]].sort()).toEqual([4, 6]);
  });
  test('start, end and wall can each be left out', async () => {
    const plate: Chain = [['lay.rectangle', { width: 2, height: 2 }], ['skin.fill']];
    const area = async (settings: object): Promise<number> => (await measureChain([...plate, ['skin.extrude', { distance: 0.5, ...settings }]])).area;
    near(await area({}), 4 + 4 + 8 * 0.5);
    near(await area({ capStart: false }), 4 + 4);
    near(await area({ capEnd: false }), 4 + 4);
    near(await area({ wall: false }), 8);
    near(await area({ wallRows: 5 }), 12);
  });
  test('a distance that varies over filled outlines: a wedge by the place along x', async () => {
    const wedge = await measureChain([
      ['lay.rectangle', { plane: 'XZ' }],
      ['skin.extrude', { distance: { formula: '0.5 + x' }, direction: 'axis' }],
    ]);
    near(wedge.volume, 0.5);
    expect(wedge).toMatchObject({ boundaryEdges: 0 });
    const { last } = await runChain([['lay.rectangle'], ['skin.extrude', { distance: { ramp: [[0, 1], [1, 2]] } }]]); // prettier-ignore
    expect(last.error?.message).toContain('A ramp over "t" was not found on the points');
  });
  test('along an axis, and both ways: as thick, about where the faces were', async () => {
    const plate: Chain = [['lay.rectangle', { plane: 'XZ' }], ['skin.fill']];
    const heights = async (settings: object): Promise<number[]> => {
      const { min, max } = (await measureChain([...plate, ['skin.extrude', { distance: 1, ...settings }]])).bounds!;
      return [min[1] + 0, max[1] + 0];
    };
    expect(await heights({})).toEqual([0, 1]);
    expect(await heights({ towards: 'bothWays' })).toEqual([-0.5, 0.5]);
    expect(await heights({ direction: 'axis', axis: [0, -2, 0] })).toEqual([-1, 0]);
  });
});

describe('Place copies', () => {
  const marker: Chain = [line(1), ['skin.tube', { radius: 0.1, sides: 4, caps: 'flat' }]]; // prettier-ignore
  const placed = async (settings: object): Promise<{ copies: Copies; columns: number[][] }> => {
    const { results } = await runGraph(
      { bar: marker[0], object: marker[1], path: ['lay.drawn', { kind: 'straight', curves: [{ points: [[0, 0, 0], [0, 0, 4], [0, 0, 8]] }] }], it: ['place.copies', { ...settings }] },
      ['bar.curves > object.curves', 'object.mesh > it.objects', 'path.curves > it.curves'],
    ); // prettier-ignore
    const copies = results['it'].outputs['copies'] as Copies;
    const m = copies.matrices;
    return { copies, columns: [0, 4, 8, 12].map((at) => Array.from(m.subarray(at, at + 3), (value) => Math.round(value * 1e5) / 1e5 + 0)) };
  };
  test('own z along the tangent and y along the normal, unless other axes are chosen', async () => {
    // The path runs along z with its normal up: as it is, nothing turns.
    expect((await placed({})).columns).toEqual([[1, 0, 0], [0, 1, 0], [0, 0, 1], [0, 0, 0]]); // prettier-ignore
    // Own x along the path: the bar lies along it.
    const { columns } = await placed({ axes: 'chosen', tangentAxis: 'x', normalAxis: 'y' });
    expect(columns[0]).toEqual([0, 0, 1]);
    expect(columns[1]).toEqual([0, 1, 0]);
    const back = await placed({ axes: 'chosen', tangentAxis: 'minusX', normalAxis: 'z' });
    expect([back.columns[0], back.columns[2]]).toEqual([[0, 0, -1], [0, 1, 0]]); // prettier-ignore
  });
  test('size and turn for each: a turn is about the tangent', async () => {
    const { copies } = await placed({ size: { formula: '1 + i' }, turn: { formula: '90*i' } });
    const size = (i: number): number => Math.hypot(...copies.matrices.subarray(i * 16, i * 16 + 3));
    expect([size(0), size(1), size(2)]).toEqual([1, 2, 3].map((value) => expect.closeTo(value, 5)));
    // Turned by a quarter, what looked up looks to the side; the way stays.
    expect(Math.abs(copies.matrices[16 + 5])).toBeLessThan(1e-6);
    expect(copies.matrices[16 + 10]).toBeCloseTo(2, 5);
  });
  test('a spacing takes places of its own along the curve', async () => {
    const { copies } = await placed({ spacing: 2 });
    expect(Array.from({ length: copies.object.length }, (_, i) => copies.matrices[i * 16 + 14])).toEqual([0, 2, 4, 6, 8].map((z) => expect.closeTo(z, 5)));
  });
});

describe('Meshes', () => {
  const box: Chain = [['lay.rectangle', { plane: 'XZ' }], ['skin.fill'], ['skin.extrude', { distance: 1 }]];
  test('planar UVs along an axis in metres per tile; scale, turn and move about the middle of the square', async () => {
    const uvs = async (settings: object): Promise<Measures['uv']> => (await measureChain([['lay.rectangle', { width: 2, height: 1, plane: 'XZ' }], ['skin.fill'], ['mesh.uv', { layout: 'planar', axis: 'y', ...settings }]])).uv; // prettier-ignore
    const span = (uv: Measures['uv']): number[] => [uv!.max[0] - uv!.min[0], uv!.max[1] - uv!.min[1]].map((value) => Math.round(value * 1e4) / 1e4);
    expect(span(await uvs({}))).toEqual([2, 1]);
    expect(span(await uvs({ tile: 0.5 }))).toEqual([4, 2]);
    expect(span(await uvs({ scale: [1, 3] }))).toEqual([2, 3]);
    expect(span(await uvs({ turn: 90 }))).toEqual([1, 2]);
    expect((await uvs({ move: [5, 7] }))!.max[1] - (await uvs({}))!.max[1]).toBeCloseTo(7, 5);
  });
  test('of marked faces only: the others keep theirs', async () => {
    const { mesh } = await runChain([...box, ['gauge.set', { name: 'mark', carrier: 'faces', value: { formula: 'ny > 0.5' } }], ['mesh.uv', { of: 'marked', move: [10, 0] }]]); // prettier-ignore
    const uv = mesh.attributes.get('uv')!.data;
    const moved = Array.from({ length: faceCount(mesh) }, (_, f) => Array.from(mesh.corners.subarray(faceStart(mesh, f), faceStart(mesh, f + 1))).every((v) => uv[v * 2] > 5)); // prettier-ignore
    expect(moved.filter(Boolean).length).toBe(1);
    expect((await runChain([...box, ['mesh.uv', { of: 'marked' }]])).report.problems[0].message).toBe('The mesh has no marked faces.');
  });
  test('Normals: as they are, one for each face, one for each point, or edges kept beyond the angle', async () => {
    const vertices = async (settings: object): Promise<number> => (await runChain([...box, ['mesh.normals', { ...settings }]])).mesh.positions.length / 3;
    expect(await vertices({ style: 'faceted' })).toBe(24);
    expect(await vertices({ style: 'split', angle: 30 })).toBe(24);
    const { mesh } = await runChain([...box, ['mesh.normals', { style: 'continuous' }]]);
    // At a corner of a box the mean of three sides: all three parts alike.
    for (const n of places(mesh.attributes.get('normal')!.data)) for (const value of n) expect(Math.abs(value)).toBeCloseTo(1 / Math.sqrt(3), 4);
    const kept = await runChain([...box, ['mesh.normals', { style: 'keep', flip: true }]]);
    expect(measure({ mesh: kept.mesh }).volume).toBeCloseTo(-1, 5);
  });
  test('Weld: points within the distance, chains of them too, and faces that fold up go', async () => {
    const tiles: Chain = [['lay.rectangle'], ['skin.fill'], ['shape.row', { count: 4, step: [1.0005, 0, 0] }]];
    const welded = async (distance: number): Promise<Measures> => measureChain([...tiles, ['mesh.weld', { distance }]]);
    expect(await welded(0.0001)).toMatchObject({ parts: 4, vertices: 16 });
    expect(await welded(0.001)).toMatchObject({ parts: 1, vertices: 10, faces: 4 });
    // All of a small tube within the distance of itself: nothing is left.
    expect((await measureChain([line(0.01), ['skin.tube', { radius: 0.001, sides: 4, caps: 'flat' }], ['mesh.weld', { distance: 1 }]])).faces).toBe(0); // prettier-ignore
  });
  test('Material: by a condition on faces, kept beside what was there; the checker is for the 3D view', async () => {
    const { mesh } = await runChain([...box, ['mesh.material', { name: 'base', colour: '#112233' }], ['mesh.material', { name: 'top', colour: '#AABBCC', checker: true, where: { formula: 'ny > 0.5' } }]]); // prettier-ignore
    expect(mesh.materials.map(({ name, colour, checker }) => [name, colour, checker])).toEqual([['base', '#112233', false], ['top', '#aabbcc', true]]); // prettier-ignore
    const used = Array.from(mesh.attributes.get('material')!.data);
    expect([used.filter((which) => which === 0).length, used.filter((which) => which === 1).length]).toEqual([5, 1]);
  });
});

describe('Loft of curves with different numbers of points', () => {
  const lofted = async (settings: Record<string, unknown>): Promise<NodeResult> =>
    (
      await runGraph(
        { a: ['lay.circle', { points: 12 }], b: ['lay.circle', { points: 20, centre: [0, 1, 0] }], both: ['flow.join'], it: ['skin.loft', settings] },
        ['a.curves > both.any', 'b.curves > both.any', 'both.any > it.curves'],
      )
    ).results['it'];
  test('evens them out by itself, to the richest, and says so', async () => {
    const { outputs, warnings } = await lofted({});
    expect(faceCount(outputs['mesh'] as Mesh)).toBe(20);
    expect(warnings).toMatchObject([{ code: 'unequal-lists', remedy: expect.stringContaining('Columns') as string }]);
    expect(warnings[0].message).toContain('each was given 20');
  });
  test('says nothing when Columns tells how many; refuses where that was chosen, naming what helps', async () => {
    expect((await lofted({ columns: 16 })).warnings).toEqual([]);
    const { error } = await lofted({ unequal: 'error' });
    expect(error?.message).toContain('Set Columns');
    expect(error?.message).toContain('curve 1: 12');
  });
});

test('normals of a tube that tapers through sharp corners have the length of one', async () => {
  const zigzag = Array.from({ length: 9 }, (_, i) => [i * 0.3, i % 2 ? 0.35 : 0, i % 3 ? 0.1 : 0]);
  for (const radius of [
    {
      ramp: [
        [0, 0.08],
        [1, 0.005],
      ],
    },
    { formula: '0.03 + 0.02 * (i % 2)' },
  ]) {
    const { mesh } = await runChain([['lay.drawn', { kind: 'straight', curves: [{ points: zigzag }] }], ['skin.tube', { radius, sides: 7, caps: 'flat' }]]); // prettier-ignore
    const normals = mesh.attributes.get('normal')!.data;
    for (let i = 0; i < normals.length; i += 3) expect(Math.hypot(normals[i], normals[i + 1], normals[i + 2])).toBeCloseTo(1, 5);
  }
});
