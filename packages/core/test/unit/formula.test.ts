import { describe, expect, test } from 'vitest';
import { compileFormula, elementsOf, FormulaError, makeCurves, curvesFromLists, parseFormula, resolveVarying, withAttributes } from '../../src/index.js';
import { runChain, runGraph } from '../graph.js';

/** The value of a formula without elements. */
const value = (formula: string): number => compileFormula(formula, { source: () => undefined, names: [], id: 0 }).constant!;

/** What a formula is refused with. */
function fault(formula: string, names: Readonly<Record<string, number>> = {}): string {
  try {
    compileFormula(formula, { source: (name) => (Object.hasOwn(names, name) ? names[name] : undefined), names: Object.keys(names), id: 0 });
  } catch (error) {
    if (error instanceof FormulaError) return error.message;
    throw error;
  }
  return 'fine';
}

describe('what binds tighter', () => {
  // By hand, after the rules of the handbook's page.
  const cases: readonly (readonly [string, number])[] = [
    ['1 + 2*3', 7],
    ['-2^2', -4],
    ['2^-1', 0.5],
    ['2^3^2', 512],
    ['8/4/2', 1],
    ['7 - 2 - 1', 4],
    ['-7 % 3', 2],
    ['(-7) % 3', 2],
    ['mod(-7, 3)', 2],
    ['1 < 2 and 3 < 2', 0],
    ['not 1 == 2', 1],
    ['not 0 and 0', 0],
    ['1 or 0 and 0', 1],
    ['1 ? 2 : 0 ? 3 : 4', 2],
    ['0 ? 2 : 0 ? 3 : 4', 4],
    ['.5 + 1. + 2e-1', 1.7],
    ['min(3, 1, 2) + max(4)', 5],
    ['clamp(5, 0, 2)', 2],
    ['mix(10, 20, 0.25)', 12.5],
    ['step(1, 0.5) + step(1, 1)', 1],
    ['smoothstep(0, 2, 0.5)', 0.15625],
    ['fract(-0.25)', 0.75],
    ['round(2.5) + round(-2.5)', 1],
    ['hypot(3, 4)', 5],
    ['pi > 3 and e < 3', 1],
    ['true + false', 1],
  ];
  for (const [formula, expected] of cases) test(`${formula} = ${expected}`, () => expect(value(formula)).toBeCloseTo(expected, 12));
});

describe('a mistake is told at its column, with what was expected', () => {
  const cases: readonly (readonly [string, string])[] = [
    ['', 'Column 1: the formula is empty; a value was expected'],
    ['1 +', 'Column 4: expected a number, a name or "(", found the end'],
    ['(1 + 2', 'Column 7: expected an operator or ")", found the end'],
    ['1 + 2)', 'Column 6: expected an operator or the end, since no bracket is open, found ")"'],
    ['2 t', 'Column 3: expected an operator or the end, found "t"'],
    ['sin t', 'Column 5: "sin" is a function; expected "(" after it'],
    ['sin()', 'Column 5: "sin" takes one argument, and has 0'],
    ['sin(1, 2)', 'Column 6: "sin" takes one argument; expected ")"'],
    ['mix(1, 2)', 'Column 9: "mix" takes 3 arguments, and has 2'],
    ['sine(1)', 'Column 1: there is no function "sine"; "sin" may be meant'],
    ['raduis * 2', 'Column 1: there is no "raduis" here; "radius" may be meant'],
    ['trwo', 'Column 1: there is no "trwo" here; there are t, radius'],
    ['0.02*(1-tt)', 'Column 9: there is no "tt" here; "t" may be meant'],
    ['1 < 2 < 3', 'Column 7: comparisons do not chain; join two of them with "and"'],
    ['1 = 2', 'Column 3: "=" is not known here; "==" may be meant'],
    ['1 && 2', 'Column 3: "&" is not known here; "and" may be meant'],
    ['1 ? 2', 'Column 6: expected an operator, or ":" and the value for when it is not so, found the end'],
    ['1 $ 2', 'Column 3: "$" means nothing in a formula'],
    ['and 1', 'Column 1: expected a number, a name or "(", found "and"'],
    ['window', 'Column 1: there is no "window" here; there are t, radius'],
    ['t.constructor', 'Column 2: "." means nothing in a formula'],
    ['1e999', 'Column 1: "1e999" is too large a number'],
    [`${'('.repeat(150)}1`, 'Column 101: the formula is nested more than 100 deep'],
    ['1'.repeat(2001), 'Column 2001: the formula has 2001 characters; it may have 2000'],
  ];
  for (const [formula, expected] of cases) test(formula.slice(0, 30) || 'nothing', () => expect(fault(formula, { t: 0, radius: 1 })).toBe(expected));

  test('names of JavaScript objects are no names here', () => {
    for (const name of ['constructor', 'toString', '__proto__', 'hasOwnProperty']) {
      expect(fault(name)).toContain(`there is no "${name}"`);
      expect(() => parseFormula(`${name}(1)`)).toThrow(`there is no function "${name}"`);
    }
  });
});

describe('names along curves', () => {
  const curves = curvesFromLists([[[0, 0, 0], [1, 0, 0], [4, 0, 0]], [[0, 5, 0], [0, 7, 0]]]); // prettier-ignore
  const at = (formula: string): number[] => {
    const { values, constant } = resolveVarying({ formula }, curves, 'point');
    return values ? [...values] : [constant];
  };

  test('place, length and number of each point', () => {
    expect(at('i')).toEqual([0, 1, 2, 0, 1]);
    expect(at('n')).toEqual([3, 3, 3, 2, 2]);
    expect(at('t')).toEqual([0, 0.25, 1, 0, 1]);
    expect(at('s')).toEqual([0, 1, 4, 0, 2]);
    expect(at('L')).toEqual([4, 4, 4, 2, 2]);
    expect(at('c + 10*curves')).toEqual([20, 20, 20, 21, 21]);
    expect(at('x + y')).toEqual([0, 1, 4, 5, 7]);
    expect(at('hypot(nx, ny, nz)').every((length) => Math.abs(length - 1) < 1e-6)).toBe(true);
  });

  test('values of curves are read at their points; vectors and strange names are refused in words', () => {
    const carrying = makeCurves({
      ...curves,
      attributes: withAttributes(curves.attributes, {
        width: { carrier: 'curve', size: 1, data: Float32Array.of(2, 3) },
        tint: { carrier: 'point', size: 3, data: new Float32Array(15) },
        L: { carrier: 'point', size: 1, data: Float32Array.of(1, 1, 1, 1, 1) },
      }),
    });
    expect([...resolveVarying({ formula: 'width*i + 0*L' }, carrying, 'point').values!]).toEqual([0, 2, 4, 0, 3]);
    expect(() => resolveVarying({ formula: 'tint' }, carrying, 'point')).toThrow('"tint" has 3 numbers an element; a formula takes values of one number');
    expect(() => resolveVarying({ attribute: 'widht' }, carrying, 'point')).toThrow('The attribute "widht" was not found on the points; "width" may be meant.');
    expect(() => resolveVarying({ formula: 'x' }, carrying, 'curve')).not.toThrow();
    expect(elementsOf(carrying, 'curve').scope.names).toContain('width');
  });

  test('random values stay with their element when others are added', () => {
    const more = curvesFromLists([[[0, 0, 0], [1, 0, 0], [4, 0, 0]], [[0, 5, 0], [0, 7, 0]], [[0, 9, 0], [1, 9, 0]]]); // prettier-ignore
    const few = at('random(3)');
    expect([...resolveVarying({ formula: 'random(3)' }, more, 'point').values!].slice(0, 5)).toEqual(few);
    expect(new Set(few).size).toBe(5);
    expect(at('random(4)')).not.toEqual(few);
    const perCurve = resolveVarying({ random: [1, 2], seed: 7, per: 'curve' }, curves, 'point').values!;
    expect(new Set(perCurve.subarray(0, 3)).size).toBe(1);
    expect(perCurve[3]).not.toBe(perCurve[0]);
  });

  test('a value that is not finite is told with its place, and never spread', () => {
    expect(() => resolveVarying({ formula: '1/(i - 1)' }, curves, 'point', { label: 'Radius' })).toThrow(
      'Radius is Infinity at point 2 of curve 1 (i 1, c 0); it accepts finite numbers.',
    );
    expect(() => resolveVarying({ formula: 'sqrt(0 - s)' }, curves, 'point')).toThrow('The value is NaN at point 2 of curve 1 (i 1, c 0)');
  });
});

describe('in documents', () => {
  const line = ['lay.line', { to: [4, 0, 0], points: 5 }] as const;

  test('a radius by formula over t, a dial and an attribute', async () => {
    const { results } = await runGraph(
      {
        a: line,
        b: ['skin.tube', { radius: { formula: '0.1*(1-t)+0.05' }, sides: 4 }],
        c: ['skin.tube', { radius: { attribute: 's', scale: 0.1, offset: 0.1 }, sides: 4 }],
        d: ['skin.tube', { radius: { ramp: [[0, 0.1], [4, 0.5]], over: 's' }, sides: 4 }],
      },
      ['a.curves > b.curves', 'a.curves > c.curves', 'a.curves > d.curves'],
    ); // prettier-ignore
    const radiusAt = (id: string, ring: number): number => {
      const mesh = results[id].outputs['mesh'] as { positions: Float32Array };
      return Math.hypot(mesh.positions[ring * 15 + 1], mesh.positions[ring * 15 + 2]);
    };
    [0, 1, 2, 3, 4].forEach((ring) => {
      expect(radiusAt('b', ring)).toBeCloseTo(0.1 * (1 - ring / 4) + 0.05, 6);
      expect(radiusAt('c', ring)).toBeCloseTo(0.1 * ring + 0.1, 6);
      expect(radiusAt('d', ring)).toBeCloseTo(0.1 * ring + 0.1, 6);
    });
  });

  test('a formula that is out of the setting’s range, or names what is not there, is told at the setting', async () => {
    const wrong = async (radius: unknown): Promise<string> => {
      const { report } = await runChain([line, ['skin.tube', { radius }]]);
      return `${report.problems[0].pointer}: ${report.problems[0].message}`;
    };
    expect(await wrong({ formula: '0.1 - 0.1*i' })).toBe(
      '/nodes/1/settings/radius: Radius is -0.1 at point 3 of curve 1 (i 2, c 0); it accepts numbers, 0 m or more.',
    );
    expect(await wrong({ formula: '0.1*widht' })).toContain(
      '/nodes/1/settings/radius: Radius: Column 5: there is no "widht" here; there are i, n, id, t, s, L',
    );
    expect(await wrong({ formula: '0.1*' })).toBe('/nodes/1/settings/radius: Radius: Column 5: expected a number, a name or "(", found the end.');
  });

  test('a condition leaves the other curves, points and faces as they were', async () => {
    const curves = ['lay.drawn', { curves: [[0, 0, 0], [0, 1, 0], [0, 2, 0]].map(([, y]) => ({ points: [[0, y, 0], [1, y, 0]] })) }] as const; // prettier-ignore
    const resampled = await runChain([curves, ['pace.resample', { count: 6, where: { formula: 'c == 1' } }]]);
    expect([...resampled.curves.starts]).toEqual([0, 2, 8, 10]);
    const moved = await runChain([curves, ['shape.transform', { move: [0, 0, 5], where: { formula: 'x > 0.5' } }]]);
    expect([...moved.curves.positions].filter((_, k) => k % 3 === 2)).toEqual([0, 5, 0, 5, 0, 5]);
    const painted = await runChain([['lay.line', { points: 3 }], ['skin.tube', { sides: 4, caps: 'open' }], ['mesh.material', { where: { formula: 'x > 0.5' } }]]); // prettier-ignore
    expect([...painted.mesh.attributes.get('material')!.data]).toEqual([-1, -1, -1, -1, 0, 0, 0, 0]);
  });
});
