import { describe, expect, test } from 'vitest';
import { curveCount, unbounded, type Curves, type Points } from '../../src/index.js';
import { asText, derive, type Derivation } from '../../src/grow/rules/derive.js';
import { rulesPresets } from '../../src/grow/rules/presets.js';
import { readRules, RulesError } from '../../src/grow/rules/read.js';
import { drawModules, type Drawn, type TurtleOptions } from '../../src/grow/rules/turtle.js';
import { runGraph } from '../graph.js';

const grown = (axiom: string, rules: string, times: number, seed = 1): Derivation =>
  derive(readRules(axiom, rules, []), { times, seed, given: [], most: 1_000_000 }, unbounded);
const flat: TurtleOptions = {
  angle: 90,
  step: 1,
  width: 0.1,
  taper: 0.5,
  tropism: [0, 1, 0],
  tropismStrength: 0,
  pace: 1,
  times: 0,
  heading: [1, 0, 0],
  left: [0, 1, 0],
};
const drawn = (axiom: string, rules: string, times: number, options: Partial<TurtleOptions> = {}): Drawn =>
  drawModules(grown(axiom, rules, times).modules, { ...flat, times, ...options }, unbounded);
const counted = (text: string): Record<string, number> =>
  [...text].reduce<Record<string, number>>((counts, symbol) => ({ ...counts, [symbol]: (counts[symbol] ?? 0) + 1 }), {});
const segments = ({ curves }: Drawn): number => curves.positions.length / 3 - curveCount(curves);
function box({ curves: { positions: p } }: Drawn): number[] {
  const axis = (k: number): number[] => Array.from(p).filter((_, i) => i % 3 === k);
  return [Math.min(...axis(0)), Math.min(...axis(1)), Math.max(...axis(0)), Math.max(...axis(1))];
}

describe('derivations (Prusinkiewicz & Lindenmayer 1990, rules from memory; counts by growth matrices)', () => {
  test('algae: strings and lengths are those of Fibonacci (Lindenmayer 1968)', () => {
    const rules = 'A -> A B\nB -> A';
    expect([0, 1, 2, 3, 4, 5].map((times) => asText(grown('A', rules, times).modules))).toEqual(['A', 'AB', 'ABA', 'ABAAB', 'ABAABABA', 'ABAABABAABAAB']);
    expect(grown('A', rules, 20).counts).toEqual([1, 2, 3, 5, 8, 13, 21, 34, 55, 89, 144, 233, 377, 610, 987, 1597, 2584, 4181, 6765, 10946, 17711]);
  });

  test('Koch: 4⁵ pieces end 3⁵ steps away', () => {
    const made = grown('F', 'F -> F+F--F+F', 5);
    expect([made.modules.count, counted(asText(made.modules))]).toEqual([2388, { F: 1024, '+': 682, '-': 682 }]);
    const koch = drawn('F', 'F -> F+F--F+F', 5, { angle: 60 });
    expect([segments(koch), koch.end[0][0], koch.end[0][1]]).toEqual([1024, expect.closeTo(243, 6), expect.closeTo(0, 6)]);
    [0, 0, 243, 70.1480577065].forEach((value, i) => expect(box(koch)[i]).toBeCloseTo(value, 3));
  });

  test('dragon, and three bracketed plants: counts, ends and bounds', () => {
    const dragon = drawn('FX', 'X -> X+YF+\nY -> -FX-Y', 10);
    expect([segments(dragon), dragon.end[0][0], dragon.end[0][1]]).toEqual([1024, expect.closeTo(0, 6), expect.closeTo(32, 6)]);
    expect(box(dragon).map(Math.round)).toEqual([-10, -10, 21, 37]);
    const up = { heading: [0, 1, 0], left: [-1, 0, 0] } as const;
    for (const [axiom, rules, times, angle, modules, pieces, branches, bounds] of [
      ['F', 'F -> F[+F]F[-F]F', 5, 25.7, 7811, 3125, 1562, [-35.1263858516, 0, 46.2589742993, 243]],
      ['X', 'X -> F[+X]F[-X]+X\nF -> FF', 7, 20, 13956, 4118, 2186, [-70.1022076855, 0, 70.1022076855, 248.934180146]],
      ['X', 'X -> F-[[X]+X]+F[+FX]-X\nF -> FF', 5, 22.5, 6263, 1488, 1023, [-35.8744941273, 0, 18.6864178545, 80.1662918576]],
    ] as const) {
      const { modules: made } = grown(axiom, rules, times);
      expect([made.count, counted(asText(made))['[']]).toEqual([modules, branches]);
      const plant = drawn(axiom, rules, times, { angle, ...up });
      expect(segments(plant)).toBe(pieces);
      bounds.forEach((value, i) => expect(box(plant)[i]).toBeCloseTo(value, 2));
    }
  });

  test('with parameters and conditions, as the book derives it', () => {
    const rules = 'A(x, y) : y <= 3 -> A(2*x, x + y)\nA(x, y) : y > 3 -> B(x) A(x/y, 0)\nB(x) : x < 1 -> C\nB(x) : x >= 1 -> B(x - 1)';
    const strings = [0, 1, 2, 3, 4, 5].map((times) => asText(grown('B(2) A(4, 4)', rules, times).modules));
    expect(strings).toEqual(['B(2)A(4,4)', 'B(1)B(4)A(1,0)', 'B(0)B(3)A(2,1)', 'CB(2)A(4,3)', 'CB(1)A(8,7)', 'CB(0)B(8)A(1.14286,0)']);
  });

  test('neighbours are seen through branches, and past what is ignored', () => {
    // A signal runs up a stem, past its branches (the book's example of acropetal signals).
    const up = 'ignore: + -\nB < A -> B';
    expect([0, 1, 2, 3].map((times) => asText(grown('B[+A]A[-A]A[+A]A', up, times).modules))).toEqual([
      'B[+A]A[-A]A[+A]A',
      'B[+B]B[-A]A[+A]A',
      'B[+B]B[-B]B[+A]A',
      'B[+B]B[-B]B[+B]B',
    ]);
    const down = 'ignore: + -\nA > B -> B';
    expect([0, 1, 2].map((times) => asText(grown('A[+A]A[-A]A[+A]B', down, times).modules))).toEqual([
      'A[+A]A[-A]A[+A]B',
      'A[+A]A[-A]B[+A]B',
      'A[+A]B[-A]B[+A]B',
    ]);
    // Values of neighbours, and a sequence of two on the left.
    expect(asText(grown('X(1) Y(2) A(0) Z(5)', 'X(p) Y(q) < A(n) > Z(r) -> A(100*p + 10*q + r)', 1).modules)).toBe('X(1)Y(2)A(125)Z(5)');
  });

  test('chance keeps its shares (chi-square), and the same seed gives the same plant', () => {
    const rules = 'A ->(0.5) B\nA ->(0.3) C\nA ->(0.2) D';
    const many = 'A'.repeat(150);
    const sums: Record<string, number> = { B: 0, C: 0, D: 0 };
    for (let seed = 0; seed < 60; seed++)
      for (const [symbol, count] of Object.entries(counted(asText(grown(many, rules, 1, seed).modules)))) sums[symbol] += count;
    const chi = Object.entries({ B: 4500, C: 2700, D: 1800 }).reduce((sum, [symbol, expected]) => sum + (sums[symbol] - expected) ** 2 / expected, 0);
    // Two degrees of freedom: 13.8 is passed once in a thousand times (table from memory).
    expect(chi).toBeLessThan(13.8);
    expect(asText(grown(many, rules, 1, 5).modules)).toBe(asText(grown(many, rules, 1, 5).modules));
    expect(asText(grown(many, rules, 1, 5).modules)).not.toBe(asText(grown(many, rules, 1, 6).modules));
  });
});

describe('the turtle', () => {
  test('turns, pitches and rolls in space as the book says', () => {
    const right = drawn('F+F&F\\F/+F|F', '', 0);
    const all = right.end.map((vector) => [...vector].map((value) => Math.round(value * 1e9) / 1e9 + 0));
    expect(all).toEqual([[1, 1, -2], [1, 0, 0], [0, 0, -1], [0, 1, 0]]); // prettier-ignore
    const slanted = drawn('F&F+F/F^F-F\\F', '', 0, { angle: 30, heading: [0, 0, 1], left: [1, 0, 0] });
    for (const [vector, wanted] of [[slanted.end[0], [0.841506350946, -2.1862976321, 6.15280398304]], [slanted.end[1], [-0.1875, -0.378886114156, 0.90625]], [slanted.end[2], [0.96875, 0.0811898816048, 0.234375]], [slanted.end[3], [-0.16237976321, 0.921875, 0.351822820287]]] as const)
      wanted.forEach((value, k) => expect(vector[k]).toBeCloseTo(value, 9)); // prettier-ignore
  });

  test('a turn and back is no turn, and a hundred thousand turns leave the frame square', () => {
    const back = drawn('+(33)-(33)&(12)^(12)/(71)\\(71)', '', 0).end;
    expect([...back[1], ...back[2]].every((value, i) => Math.abs(value - [1, 0, 0, 0, 1, 0][i]) < 1e-12)).toBe(true);
    const modules = grown('A', 'A -> A A', 15).modules;
    const many = { ...modules, symbols: modules.symbols.map((_, i) => '+&/'.charCodeAt(i % 3)) };
    const { end } = drawModules({ ...many, params: new Float64Array(0), starts: new Uint32Array(many.count + 1) }, { ...flat, angle: 17.3 }, unbounded);
    const dot = (a: Float64Array, b: Float64Array): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
    for (const [i, j, wanted] of [[1, 1, 1], [2, 2, 1], [3, 3, 1], [1, 2, 0], [2, 3, 0], [1, 3, 0]]) expect(dot(end[i], end[j])).toBeCloseTo(wanted, 9); // prettier-ignore
  });

  test('a stem is one curve through its branches, and each branch one that begins on it', () => {
    const { curves } = drawn('F[+F[-F]F]F[-F]F', '', 0, { angle: 45 });
    expect(curveCount(curves)).toBe(4);
    const [depth, parent] = ['depth', 'parent'].map((name) => [...curves.attributes.get(name)!.data]);
    expect([depth, parent]).toEqual([[0, 1, 2, 1], [-1, 0, 1, 0]]); // prettier-ignore
    expect([...curves.starts]).toEqual([0, 4, 7, 9, 11]);
    const distance = curves.attributes.get('distance')!.data;
    expect([...distance]).toEqual([0, 1, 2, 3, 1, 2, 3, 2, 3, 2, 3]);
  });

  test('rolls turn what grows from a stem, and do not wring the stem', () => {
    const { curves } = drawn('F[+F]/(137.5)F[+F]/(137.5)F[+F]/(137.5)F', '', 0, { angle: 45 });
    const normal = curves.attributes.get('normal')!.data;
    const of = (point: number): number[] => Array.from(normal.subarray(point * 3, point * 3 + 3));
    for (let i = 1; i < 5; i++) of(i).forEach((value, k) => expect(value).toBeCloseTo(of(0)[k], 6));
    // The branches stand a roll apart: by the angle of the golden section about the stem.
    const ways = [1, 2, 3].map((c) => {
      const last = curves.starts[c + 1] * 3 - 3;
      const [y, z] = [1, 2].map((k) => curves.positions[last + k] - curves.positions[curves.starts[c] * 3 + k]);
      return (Math.atan2(z, y) * 180) / Math.PI;
    });
    for (let c = 1; c < 3; c++) expect(Math.abs(((ways[c] - ways[c - 1] + 540) % 360) - 180)).toBeCloseTo(137.5, 3);
  });

  test('a stem that turns back sharply keeps its frame: no more is turned than the heading', () => {
    // Pitched by 120° in its own plane, what was up is pitched by 120° too.
    const { curves } = drawn('F^(120)F', '', 0);
    const [first, last] = [0, 2].map((point) => Array.from(curves.attributes.get('normal')!.data.subarray(point * 3, point * 3 + 3)));
    expect(first.reduce((sum, value, k) => sum + value * last[k], 0)).toBeCloseTo(Math.cos((120 * Math.PI) / 180), 6);
  });

  test('widths, leaves with frames, steps without drawing, cutting off', () => {
    const { curves, leaves } = drawn('!(0.4) F !F [ +~(2) ] f F %F F', '', 0);
    expect(Array.from(curves.attributes.get('width')!.data, (value) => Number(value.toFixed(6)))).toEqual([0.4, 0.2, 0.2, 0.2, 0.2]);
    expect([...leaves.positions, ...leaves.attributes.get('tangent')!.data].map((value) => Math.round(value * 1e6) / 1e6)).toEqual([2, 0, 0, 0, 1, 0]);
    expect([...leaves.attributes.get('size')!.data]).toEqual([2]);
    expect([...curves.positions].filter((_, i) => i % 3 === 0)).toEqual([0, 1, 2, 3, 4]);
    expect(asText(grown('F[F%F[F]F]F', '', 0).modules).length).toBe(11);
    expect(segments(drawn('F[F%F[F]F]F', '', 0))).toBe(3);
  });

  test('tropism bends steps towards its direction by the strength times the sine', () => {
    const { end } = drawn('F', '', 0, { tropism: [0, 1, 0], tropismStrength: 0.3 });
    expect(Math.atan2(end[1][1], end[1][0])).toBeCloseTo(0.3, 9);
    const long = drawn('F', 'F -> F F', 8, { tropism: [0, 1, 0], tropismStrength: 0.3 });
    expect(long.end[1][1]).toBeCloseTo(1, 4);
  });
});

describe('rules that are wrong are told by line and column', () => {
  const wrong = (axiom: string, rules: string): string => {
    try {
      readRules(axiom, rules, ['a']);
      return 'fine';
    } catch (error) {
      if (!(error instanceof RulesError)) throw error;
      return error.message;
    }
  };
  test('each with what is the matter', () => {
    expect(wrong('F', 'F -> F[+F')).toBe('line 1, column 7: this bracket is not closed');
    expect(wrong('F', 'A -> F\nF -> F]+F')).toBe('line 2, column 7: this bracket was not opened');
    expect(wrong('F[', '')).toBe('axiom, column 2: this bracket is not closed');
    expect(wrong(' ', '')).toBe('axiom, column 1: the axiom is empty; there is nothing to begin with');
    expect(wrong('F', 'F F+F')).toBe('line 1, column 6: expected "->" and what the symbol becomes');
    expect(wrong('A(1)', 'A(l) -> F(l) A(k*l)')).toBe('line 1, column 16: there is no "k" here; "a" may be meant');
    expect(wrong('A(1)', 'A(l, w) -> F(l)')).toBe('line 1, column 1: A has 2 parameters here and 1 in the axiom');
    expect(wrong('A(1)', 'A(l) -> F(l')).toBe('line 1, column 10: this round bracket is not closed');
    expect(wrong('A(1)', 'A(l) -> F(l +)')).toBe('line 1, column 14: expected a number, a name or "(", found the end');
    expect(wrong('A', 'A ->(0.5) B\nA ->(0.4) C')).toBe('line 2, column 1: the chances of A add up to 0.9, not to 1');
    expect(wrong('A', 'A B -> C')).toBe('line 1, column 1: a rule is for one symbol; to say what stands beside it write left < symbol > right');
    expect(wrong('A', 'A -> 2F')).toBe('line 1, column 6: "2" is no symbol; a symbol is one letter or sign');
    expect(wrong('A', 'r = 0.9\nr = 0.8')).toBe('line 2, column 1: "r" is there already');
    expect(wrong('A(1)', 'A(a) -> A(a)')).toBe('line 1, column 1: "a" is there already; parameters need names of their own');
    expect(wrong('A(r)', 'r = 0.9 # shorter\n\nA(l) -> F(l) A(l*r)   # and so on')).toBe('fine');
  });

  test('rules that never end are stopped before memory is spent', () => {
    expect(() => grown('F', 'F -> F F F', 40)).toThrow('after round 13 of 40 there are more than 1,000,000 modules');
  });
});

describe('Branching rules, the node', () => {
  test('every plant to begin with grows, has leaves where it should, and no idle symbol', async () => {
    for (const { settings, label } of Object.values(rulesPresets)) {
      const { results } = await runGraph({ it: ['grow.rules', settings] }, []);
      const { curves, leaves } = results['it'].outputs as unknown as { curves: Curves; leaves: Points };
      expect([label, results['it'].error, results['it'].warnings]).toEqual([label, undefined, []]);
      expect(curveCount(curves)).toBeGreaterThan(4);
      expect(leaves.positions.length > 0).toBe(label !== 'coral');
      expect(curves.positions.length / 3).toBeLessThan(20_000);
    }
  });

  test('numbers are known by their names; what is wrong stands at the rules; symbols that do nothing are told', async () => {
    const run = async (settings: object) => (await runGraph({ it: ['grow.rules', settings as Record<string, unknown>] }, [])).results['it'];
    const length = async (a: number): Promise<number> =>
      ((await run({ axiom: 'F(reach)', rules: '', names: 'bow, reach', second: a, times: 0 })).outputs['curves'] as Curves).positions[4];
    expect([await length(1), await length(2.5)]).toEqual([1, 2.5]);
    expect((await run({ axiom: 'F(reach)', rules: '', names: 'bow', times: 0 })).error).toMatchObject({ setting: 'rules' });
    expect((await run({ axiom: 'F', rules: '', names: 'bow, 2nd' })).error).toMatchObject({ setting: 'names' });
    expect((await run({ axiom: 'F', rules: 'F -> F[', times: 1 })).error).toMatchObject({
      setting: 'rules',
      message: 'Rules: line 1, column 7: this bracket is not closed.',
    });
    expect((await run({ axiom: 'F K', rules: '', times: 0 })).warnings[0].message).toBe(
      'K (axiom, column 3) does nothing: no rule is for it, and the turtle does not know it.',
    );
    expect((await run({ axiom: 'A', rules: 'A -> B\nB -> A', times: 3 })).warnings[0].message).toBe('The turtle drew nothing.');
  });
});
