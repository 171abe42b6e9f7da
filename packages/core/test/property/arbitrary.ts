import fc from 'fast-check';

/** Points in a box of a few metres, no two neighbours nearer than a millimetre. */
export const points = (least: number, most: number): fc.Arbitrary<number[][]> =>
  fc
    .array(fc.tuple(coordinate, coordinate, coordinate), { minLength: least, maxLength: most })
    .filter(
      (list) =>
        list.every((p, i) => i === 0 || Math.hypot(...p.map((value, k) => value - list[i - 1][k])) > 1e-3) &&
        Math.hypot(...list[0].map((value, k) => value - list[list.length - 1][k])) > 1e-3,
    );

const coordinate = fc.double({ min: -5, max: 5, noNaN: true });

export const kind = fc.constantFrom('straight', 'through', 'bspline');

/** Shapes of curves that go wrong elsewhere: through every node that moves, paces, aims or skins. */
export const hardCurves: Readonly<Record<string, readonly (readonly number[])[]>> = {
  'one point': [[1, 2, 3]],
  'two equal points': [[1, 2, 3], [1, 2, 3]],
  'all points equal': [[1, 1, 1], [1, 1, 1], [1, 1, 1], [1, 1, 1]],
  'runs of repeated points': [[0, 0, 0], [0, 0, 0], [1, 0, 0], [1, 0, 0], [1, 0, 0], [1, 1, 0], [1, 1, 0]],
  collinear: [[0, 0, 0], [1, 1, 1], [2, 2, 2], [5, 5, 5]],
  'exactly vertical': [[0, 0, 0], [0, 1, 0], [0, 3, 0]],
  'turns back by 180°': [[0, 0, 0], [2, 0, 0], [0.5, 0, 0]],
  staircase: [[0, 0, 0], [1, 0, 0], [1, 1, 0], [2, 1, 0], [2, 2, 0], [3, 2, 0]],
  'needle, legs 0.1 mm apart': [[0, 0, 0], [1, 0, 0], [1, 0.0001, 0], [0, 0.0001, 0]],
  '1 µm long': [[0, 0, 0], [0.000001, 0, 0]],
  '100 km from the origin': [[100000, 0, 100000], [100001, 0.5, 100000], [100002, 0, 100001]],
  'comes back to its first point': [[0, 0, 0], [1, 0, 0], [1, 1, 0], [0, 0, 0]],
  'torus knot (2,3)': Array.from({ length: 90 }, (_, i) => {
    const t = (i * 2 * Math.PI) / 90;
    return [(2 + 0.5 * Math.cos(3 * t)) * Math.cos(2 * t), (2 + 0.5 * Math.cos(3 * t)) * Math.sin(2 * t), -0.5 * Math.sin(3 * t)];
  }),
  'figure eight': Array.from({ length: 40 }, (_, i) => [Math.sin(i / 6.2), Math.sin(i / 3.1), 0]),
  'inflection (S)': [[0, 0, 0], [1, 1, 0], [2, 0, 0], [3, -1, 0], [4, 0, 0]],
  'straight, curve, straight': [[0, 0, 0], [1, 0, 0], [2, 0, 0], [2.7, 0.3, 0], [3, 1, 0], [3, 2, 0], [3, 3, 0]],
  cusp: Array.from({ length: 21 }, (_, i) => [((i - 10) / 10) ** 2, ((i - 10) / 10) ** 3, 0]),
  'spiral into a point': Array.from({ length: 120 }, (_, i) => [(1 - i / 119) * Math.cos(i / 3), 0, (1 - i / 119) * Math.sin(i / 3)]),
  'helix with 1,000 turns': Array.from({ length: 12_000 }, (_, i) => [0.1 * Math.cos((i * Math.PI) / 6), i / 12_000, 0.1 * Math.sin((i * Math.PI) / 6)]),
}; // prettier-ignore

/** Degrees by which a path turns at `b`. */
function turn(a: readonly number[], b: readonly number[], c: readonly number[]): number {
  const [u, v] = [b.map((value, k) => value - a[k]), c.map((value, k) => value - b[k])];
  const cosine = u.reduce((sum, value, k) => sum + value * v[k], 0) / (Math.hypot(...u) * Math.hypot(...v));
  return (Math.acos(Math.min(1, Math.max(-1, cosine))) * 180) / Math.PI;
}

/** The sharpest turn of an open path, degrees. */
export const sharpestTurn = (list: readonly (readonly number[])[]): number => Math.max(0, ...list.slice(2).map((c, i) => turn(list[i], list[i + 1], c)));
