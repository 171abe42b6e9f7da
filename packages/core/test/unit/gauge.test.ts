import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  bendingOf,
  curvatureSides,
  makePoints,
  newHit,
  NearestTree,
  nodeDefinitions,
  piecesOf,
  type Geometry,
  type NodeResult,
  type Points,
} from '../../src/index.js';
import { drawn, runChain, runGraph } from '../graph.js';

const two = ['lay.drawn', { curves: [{ points: [[0, 0, 0], [1, 0, 0], [4, 0, 0]] }, { points: [[0, 5, 0], [0, 7, 0]] }] }] as const; // prettier-ignore

const valuesOf = (result: NodeResult, name: string): number[] => {
  const geometry = Object.values(result.outputs).find((value) => 'attributes' in value) as Geometry;
  return [...geometry.attributes.get(name)!.data];
};

describe('Set attribute', () => {
  test('on points, curves and the whole, by every mode', async () => {
    const set = async (settings: Readonly<Record<string, unknown>>): Promise<number[]> =>
      valuesOf((await runChain([two, ['gauge.set', { name: 'a', ...settings }]])).last, 'a');
    expect(await set({ value: 3 })).toEqual([3, 3, 3, 3, 3]);
    expect(await set({ value: { formula: 'c*10 + i' } })).toEqual([0, 1, 2, 10, 11]);
    expect(await set({ value: { ramp: [[0, 0], [1, 1]] } })).toEqual([0, 0.25, 1, 0, 1]); // prettier-ignore
    expect(await set({ carrier: 'curves', value: { attribute: 'L', scale: 2, offset: 1 } })).toEqual([9, 5]);
    expect(await set({ carrier: 'whole', value: 7 })).toEqual([7]);
    expect(await set({ numbers: 'three', value: 1, second: { formula: 'i' }, third: 2 })).toEqual([1, 0, 2, 1, 1, 2, 1, 2, 2, 1, 0, 2, 1, 1, 2]);
    const random = await set({ value: { random: [2, 4], seed: 5 } });
    expect(random.every((value) => value >= 2 && value < 4)).toBe(true);
  });

  test('with a condition the others keep what they had', async () => {
    const { last } = await runChain([two, ['gauge.set', { name: 'a', value: 1 }], ['gauge.set', { name: 'a', value: 9, where: { formula: 'i == 0' } }]]);
    expect(valuesOf(last, 'a')).toEqual([9, 1, 1, 9, 1]);
  });

  test('what cannot be written is refused in words', async () => {
    const refused = async (settings: Readonly<Record<string, unknown>>): Promise<string> =>
      (await runChain([two, ['gauge.set', settings]])).report.problems[0].message;
    expect(await refused({ carrier: 'faces' })).toBe('Curves have no faces to write to.');
    expect(await refused({ name: 'tangent' })).toContain('Frames');
    expect(await refused({ name: 'normal' })).toContain('Normals');
    expect(await refused({ name: 'My value' })).toContain('it accepts a name such as width');
    expect(await refused({ value: { formula: '1/i' } })).toBe('Value is Infinity at point 1 of curve 1 (i 0, c 0); it accepts finite numbers.');
  });
});

describe('Shape figures', () => {
  test('a circle has the curvature of its radius, no torsion, and the area it goes round', async () => {
    const { last } = await runChain([
      ['lay.circle', { radius: 2, points: 64 }],
      ['gauge.figures', { torsion: true, spacing: true }],
    ]);
    // Differential geometry: κ = 1/r. Handles approach the circle to 1e-6.
    for (const value of valuesOf(last, 'curvature')) expect(value).toBeCloseTo(0.5, 4);
    for (const value of valuesOf(last, 'torsion')) expect(Math.abs(value)).toBeLessThan(1e-4);
    for (const value of valuesOf(last, 'spacing')) expect(value).toBeCloseTo((Math.PI * 4) / 64, 5);
    // A polygon of 64 corners: n/2·r²·sin(2π/n).
    expect(valuesOf(last, 'area')[0]).toBeCloseTo(32 * 4 * Math.sin((2 * Math.PI) / 64), 4);
  });

  test('a helix has κ = r/(r² + h²) and τ = h/(r² + h²), with h its rise a radian (Struik 1950)', async () => {
    for (const [hand, sign] of [['right', 1], ['left', -1]] as const) {
      const { curves } = await runChain([['lay.helix', { radius: 1, height: 2 * Math.PI, turns: 2, pointsPerTurn: 96, hand }]]);
      const h = 0.5;
      const { curvature, torsion } = bendingOf(curves);
      expect(curvature[50]).toBeCloseTo(1 / (1 + h * h), 3);
      expect(torsion[50] * sign).toBeCloseTo(h / (1 + h * h), 2);
      // The same from its chords alone.
      const chords = bendingOf({ ...curves, kind: new Uint8Array(1), attributes: new Map() });
      expect(chords.curvature[50]).toBeCloseTo(1 / (1 + h * h), 2);
      expect(chords.torsion[50] * sign).toBeCloseTo(h / (1 + h * h), 2);
    }
  }); // prettier-ignore

  test('where a straight piece meets an arc, curvature is 0 before the point and 1/radius after it', async () => {
    const { curves } = await runChain([
      ['lay.drawn', { kind: 'straight', curves: [{ points: [[0, 0, 0], [4, 0, 0], [4, 0, 4]] }] }],
      ['shape.roundCorners', { radius: 0.5 }],
    ]); // prettier-ignore
    const { before, after } = curvatureSides(curves, 0);
    const last = before.length - 1;
    expect([before[1], after[last - 1], after[0], before[last]].map((value) => Number(value.toFixed(6)))).toEqual([0, 0, 0, 0]);
    for (const value of [after[1], before[last - 1]]) expect(value).toBeCloseTo(2, 1);
    expect(bendingOf(curves).curvature[1]).toBeCloseTo(after[1] / 2, 6);
  });

  test('faces have area and slope', async () => {
    const { last } = await runChain([
      ['lay.line', { to: [3, 0, 0] }],
      ['skin.tube', { sides: 4, radius: Math.SQRT1_2, caps: 'flat' }],
      ['gauge.figures', { slope: true }],
    ]);
    const areas = valuesOf(last, 'area');
    // A square prism of side 1 and length 3.
    expect(areas.slice(0, 4).every((area) => Math.abs(area - 3) < 1e-5)).toBe(true);
    expect(areas.slice(4).reduce((sum, area) => sum + area, 0)).toBeCloseTo(2, 5);
    expect(
      valuesOf(last, 'slope')
        .slice(0, 4)
        .every((slope) => Math.abs(slope - 45) < 1e-3),
    ).toBe(true);
  });
});

describe('Distance to and Take from nearest', () => {
  const points = fc.array(fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -2, max: 2, noNaN: true }))), { minLength: 2, maxLength: 40 });

  test('the tree finds what looking at every piece finds', () =>
    fc.assert(
      fc.property(points, fc.tuple(fc.double({ min: -3, max: 3, noNaN: true }), fc.double({ min: -3, max: 3, noNaN: true })), (list, [x, y]) => {
        const pieces = piecesOf(makePoints(Float32Array.from(list.flat())));
        const hit = new NearestTree(pieces).nearest(x, y, 0, newHit());
        const least = Math.min(...list.map((p) => Math.hypot(Math.fround(p[0]) - x, Math.fround(p[1]) - y, Math.fround(p[2]))));
        expect(hit.distance).toBeCloseTo(least, 9);
      }),
    ));

  test('curves count by their whole length, a mesh by its faces', async () => {
    const { results } = await runGraph(
      {
        at: ['lay.drawn', { curves: [{ points: [[5, 3, 0], [5, 0, 4], [-3, 0, 0]] }] }],
        line: ['lay.line', { to: [10, 0, 0] }],
        tube: ['skin.tube', { radius: 1, sides: 64, caps: 'flat' }],
        toLine: ['gauge.distance', { place: true }],
        toTube: ['gauge.distance', {}],
        near: ['gauge.distance', { reach: 3.5 }],
      },
      ['at.curves > toLine.any', 'line.curves > toLine.to', 'line.curves > tube.curves', 'at.curves > toTube.any', 'tube.mesh > toTube.to', 'at.curves > near.any', 'line.curves > near.to'],
    ); // prettier-ignore
    expect(valuesOf(results['toLine'], 'distance')).toEqual([3, 4, 3]);
    expect(valuesOf(results['toLine'], 'nearest')).toEqual([5, 0, 0, 5, 0, 0, 0, 0, 0]);
    // Of the 64-sided tube the faces lie at most 1 − cos(π/64) inside its radius.
    valuesOf(results['toTube'], 'distance').forEach((value, k) => expect(Math.abs(value - [2, 3, 3][k])).toBeLessThan(0.0013));
    expect(valuesOf(results['near'], 'distance')).toEqual([3, 3.5, 3]);
  });

  test('values come from the nearest place, interpolated', async () => {
    const run = (by: string, settings: object = {}): ReturnType<typeof runGraph> =>
      runGraph(
        {
          at: ['lay.drawn', { curves: [{ points: [[1, 1, 0], [2.5, -1, 0]] }] }],
          line: ['lay.line', { to: [4, 0, 0] }],
          set: ['gauge.set', { name: 'a', value: { formula: 'x*10' } }],
          take: ['gauge.transfer', { attribute: 'a', by, ...settings }],
        },
        ['at.curves > take.any', 'line.curves > set.any', 'set.any > take.to'],
      ); // prettier-ignore
    expect(valuesOf((await run('nearest')).results['take'], 'a')).toEqual([10, 25]);
    expect(valuesOf((await run('index')).results['take'], 'a')).toEqual([0, 40]);
    expect((await run('nearest', { attribute: 'b' })).report.problems[0].message).toBe('There is no attribute "b" in "to"; it has a.');
  });

  test('by id, those without a partner keep what they had, and are told', async () => {
    const { results } = await runGraph(
      {
        a: ['lay.line', { points: 4 }],
        aId: ['gauge.set', { name: 'id', value: { formula: 'i*10' } }],
        aOld: ['gauge.set', { name: 'v', value: -1 }],
        b: ['lay.line', { points: 3 }],
        bId: ['gauge.set', { name: 'id', value: { formula: '30 - i*10' } }],
        bNew: ['gauge.set', { name: 'v', value: { formula: 'i+5' } }],
        take: ['gauge.transfer', { attribute: 'v', by: 'id' }],
        none: ['gauge.transfer', { attribute: 'v', by: 'id' }],
      },
      ['a.curves > aId.any', 'aId.any > aOld.any', 'b.curves > bId.any', 'bId.any > bNew.any', 'aOld.any > take.any', 'bNew.any > take.to', 'b.curves > none.any', 'bNew.any > none.to'],
    ); // prettier-ignore
    expect(valuesOf(results['take'], 'v')).toEqual([-1, 7, 6, 5]);
    expect(results['take'].warnings).toMatchObject([{ code: 'unequal-lists', message: expect.stringContaining('1 elements') as string }]);
    expect(results['none'].error?.message).toContain('There is no id on the elements of what takes');
  });
});

describe('Carry over and Summary', () => {
  const set = ['gauge.set', { name: 'a', value: { formula: 'c*10 + i' } }] as const;

  test('from points to curves, by every rule, and back', async () => {
    for (const [rule, expected] of [['mean', [1, 10.5]], ['min', [0, 10]], ['max', [2, 11]], ['first', [0, 10]], ['sum', [3, 21]]] as const) {
      const { last } = await runChain([two, set, ['gauge.carry', { attribute: 'a', to: 'curves', rule }]]);
      expect(valuesOf(last, 'a')).toEqual(expected);
    }
    const { last } = await runChain([two, set, ['gauge.carry', { attribute: 'a', to: 'curves' }], ['gauge.carry', { attribute: 'a', to: 'points' }]]);
    expect(valuesOf(last, 'a')).toEqual([1, 1, 1, 10.5, 10.5]);
  }); // prettier-ignore

  test('between vertices and faces: seams stay one', async () => {
    const tube = [['lay.line', { points: 3 }], ['skin.tube', { sides: 4, caps: 'open' }], ['gauge.set', { name: 'a', carrier: 'faces', value: { formula: 'i' } }]] as const; // prettier-ignore
    const { mesh } = await runChain([...tube, ['gauge.carry', { attribute: 'a', to: 'points' }]]);
    const { data } = mesh.attributes.get('a')!;
    // The middle ring’s first point touches faces 0, 3, 4 and 7; it is told twice, once on each side of the seam.
    expect([data[5], data[9]]).toEqual([3.5, 3.5]);
    const back = await runChain([...tube, ['gauge.carry', { attribute: 'a', to: 'points' }], ['gauge.carry', { attribute: 'a', to: 'faces' }]]);
    expect(back.mesh.attributes.get('a')!.data.length).toBe(8);
  });

  test('a summary feeds a setting by wire, and writes groups back', async () => {
    const { results } = await runGraph(
      { a: two, s: set, m: ['gauge.summary', { attribute: 'a', figure: 'max' }], b: ['lay.line', {}], t: ['skin.tube', { sides: 4, radius: 3 }] },
      ['a.curves > s.any', 's.any > m.any', 'b.curves > t.curves', 'm.number > t.radius'],
    );
    expect(results['m'].outputs['number']).toEqual({ type: 'number', value: 11 });
    const { positions } = results['t'].outputs['mesh'] as { positions: Float32Array };
    expect(Math.hypot(positions[1], positions[2])).toBeCloseTo(11, 5);
    const grouped = await runChain([
      two,
      set,
      ['gauge.set', { name: 'g', value: { formula: 'i % 2' } }],
      ['gauge.summary', { attribute: 'a', figure: 'sum', group: 'g' }],
    ]);
    expect((grouped.last.outputs['any'] as Points).attributes.get('a_sum')!.data).toEqual(Float32Array.of(12, 12, 12, 12, 12));
  });

  test('what is missing is told', async () => {
    const told = async (type: string, settings: Readonly<Record<string, unknown>>): Promise<string> =>
      (await runChain([two, [type, settings]])).report.problems[0].message;
    expect(await told('gauge.summary', { attribute: 'b' })).toBe('There is no attribute "b"; there are none.');
    expect(await told('gauge.carry', { attribute: 'b' })).toBe('There is no attribute "b"; there are none.');
  });
});

describe('Number, Vector, Time, Formula', () => {
  test('numbers flow into settings; a wire of the wrong kind, or to no such setting, is refused', async () => {
    const { results, report } = await runGraph(
      { n: ['gauge.number', { value: 3 }], f: ['gauge.formula', { formula: 'a*2 + b', b: 1 }], v: ['gauge.vector', {}], l: ['lay.line', {}] },
      ['n.number > f.a', 'f.number > v.x', 'v.vector > l.to'],
    );
    expect(report.ok).toBe(true);
    expect(results['f'].outputs['number']).toEqual({ type: 'number', value: 7 });
    expect([...(results['l'].outputs['curves'] as Points).positions]).toEqual([0, 0, 0, 7, 0, 0]);
    const wrong = await runGraph({ n: ['gauge.number', {}], l: ['lay.line', {}] }, ['n.number > l.to']);
    expect(wrong.report.problems[0].message).toContain('Number gives number, which does not fit "to" of Line; that takes vector.');
    const none = await runGraph({ n: ['gauge.number', {}], l: ['lay.line', {}] }, ['n.number > l.colour']);
    expect(none.report.problems[0].message).toContain('Line has no input "colour"');
  });

  test('a formula knows dials by their ids, and its mistakes have a column', async () => {
    const wrong = await runGraph({ f: ['gauge.formula', { formula: 'a + sga' }] }, []);
    expect(wrong.report.problems[0].message).toContain('Column 5: there is no "sga" here');
    expect((await runGraph({ f: ['gauge.formula', { formula: '1/a' }] }, [])).report.problems[0].message).toBe(
      'The formula gives Infinity; it must give a finite number.',
    );
  });
});

test('every node of the family is there under its id', () => {
  const ids = ['set', 'figures', 'summary', 'distance', 'transfer', 'carry', 'number', 'vector', 'time', 'formula'];
  for (const id of ids) expect(nodeDefinitions.get(`gauge.${id}`)?.family.label).toBe('Attributes');
  expect(drawn([[0, 0, 0]])[0]).toBe('lay.drawn');
});
