import { describe, expect, test } from 'vitest';
import { curveCount, type Curves, type Points } from '../../src/index.js';
import { runGraph } from '../graph.js';

const rules = 'A(n) : n > 0 -> F(0.1 + 0.1 * random(1)) [ +(20 + 50 * random(2)) F(0.1) ~ ] A(n - 1)';
const plant = { axiom: 'A(count)', rules, times: 12, names: 'count', first: 3 };

type Nodes = Parameters<typeof runGraph>[0];

/** Plants at points that are given as a list of places. */
async function plants(places: readonly (readonly number[])[], settings: object = {}, before: Nodes = {}, from = 'spots.points'): Promise<{ curves: Curves; leaves: Points; warnings: readonly { message: string }[] }> {
  const run = await runGraph(
    { line: ['lay.drawn', { kind: 'straight', curves: [{ points: places }] }], spots: ['pace.points', {}], ...before, plants: ['grow.rules', { ...plant, ...settings }] },
    ['line.curves > spots.curves', ...Object.keys(before).map((id) => `spots.points > ${id}.any`), `${from} > plants.roots`],
  );
  const { outputs, warnings, error } = run.results['plants'];
  if (error) throw new Error(error.message);
  return { curves: outputs['curves'] as Curves, leaves: outputs['leaves'] as Points, warnings };
} // prettier-ignore

const values = (of: Curves | Points, name: string): number[] => [...of.attributes.get(name)!.data];
/** Places of a plant, from its root. */
function shape({ positions, starts, attributes }: Curves, which: number, root: readonly number[]): number[] {
  const own = attributes.get('plant')!.data;
  const points = Array.from({ length: starts.length - 1 }, (_, c) => c).filter((c) => own[c] === which).flatMap((c) => Array.from({ length: starts[c + 1] - starts[c] }, (_, i) => starts[c] + i)); // prettier-ignore
  return points.flatMap((i) => [0, 1, 2].map((k) => Number((positions[i * 3 + k] - root[k]).toFixed(5))));
}

describe('plants at points', () => {
  const places = [[0, 0, 0], [2, 1, 0], [4, 0, -1]]; // prettier-ignore

  test('each begins at its point and is another; curves and leaves say which', async () => {
    const { curves, leaves } = await plants(places);
    expect(new Set(values(curves, 'plant'))).toEqual(new Set([0, 1, 2]));
    expect(values(leaves, 'plant')).toEqual([0, 0, 0, 1, 1, 1, 2, 2, 2]);
    const shapes = places.map((place, i) => shape(curves, i, place));
    for (const each of shapes) expect(each.slice(0, 3)).toEqual([0, 0, 0]);
    expect(new Set(shapes.map(String)).size).toBe(3);
    // Parents are of the same plant.
    const [plant, parent] = ['plant', 'parent'].map((name) => values(curves, name));
    parent.forEach((from, c) => expect(from < 0 ? plant[c] : plant[from]).toBe(plant[c]));
    expect(parent.filter((from) => from < 0)).toHaveLength(3);
  });

  test('a plant stays as it is when others go, where its point has an id; without points nothing has changed', async () => {
    const ids = { named: ['gauge.set', { name: 'id', value: { formula: 'x' } }] } as const;
    const all = (await plants(places, {}, ids, 'named.any')).curves;
    const fewer = (await plants([places[0], places[2]], {}, ids, 'named.any')).curves;
    expect(shape(fewer, 1, places[2])).toEqual(shape(all, 2, places[2]));
    const alone = await runGraph({ plants: ['grow.rules', plant] }, []);
    expect((alone.results['plants'].outputs['curves'] as Curves).attributes.has('plant')).toBe(false);
  });

  test('numbers of the rules may differ from plant to plant', async () => {
    const { curves } = await plants(places, { first: { formula: 'i + 1' } });
    const stems = values(curves, 'plant');
    // A stem, and a twig for each of its pieces.
    expect([0, 1, 2].map((which) => stems.filter((each) => each === which).length)).toEqual([2, 3, 4]);
  });

  test('stand along the normals of their points where that is asked for, and are upright where there are none', async () => {
    const run = await runGraph(
      { wall: ['lay.box', {}], spots: ['place.scatter', { count: 40, seed: 3 }], plants: ['grow.rules', { axiom: 'F(1)', rules: '', times: 0, stand: 'normal' }] },
      ['wall.mesh > spots.mesh', 'spots.points > plants.roots'],
    ); // prettier-ignore
    const [spots, curves] = [run.results['spots'].outputs['points'] as Points, run.results['plants'].outputs['curves'] as Curves];
    const normal = spots.attributes.get('normal')!.data;
    expect(curveCount(curves)).toBe(40);
    for (let c = 0; c < 40; c++)
      for (let k = 0; k < 3; k++) expect(curves.positions[c * 6 + 3 + k] - curves.positions[c * 6 + k]).toBeCloseTo(normal[c * 3 + k], 5);
    const bare = await runGraph({ at: ['lay.drawn', { curves: [] }], plants: ['grow.rules', plant] }, ['at.curves > plants.roots']);
    expect(bare.results['plants'].error).toBeUndefined();
  });

  test('begin to grow when their points are born', async () => {
    const { curves } = await plants(places, { pace: 1 }, { born: ['gauge.set', { name: 'birth', value: { formula: '10 * i' } }] }, 'born.any');
    const [birth, distance] = ['birth', 'distance'].map((name) => values(curves, name));
    const own = values(curves, 'plant');
    for (let c = 0; c < own.length; c++)
      for (let i = curves.starts[c]; i < curves.starts[c + 1]; i++) expect(birth[i]).toBeCloseTo(10 * own[c] + distance[i], 4);
  });
});

describe('a budget of parts', () => {
  const bed: Nodes = {
    row: ['lay.drawn', { kind: 'straight', curves: [1, 2, 3, 4, 5].map((n) => ({ points: [[n, 0, 0], [n, n * 0.5, 0]] })) }],
    skin: ['skin.tube', { radius: 0.05, sides: 6, caps: 'open' }],
  }; // prettier-ignore

  test('leaves the smallest out first, as many as it takes, and says so', async () => {
    for (const [budget, left] of [[1000, 5], [60, 5], [59, 4], [36, 3], [12, 1]] as const) {
      const run = await runGraph({ ...bed, parts: ['mesh.parts', { keep: 'budget', budget }] }, ['row.curves > skin.curves', 'skin.mesh > parts.mesh']);
      const { outputs, warnings } = run.results['parts'];
      const { positions } = outputs['points'] as Points;
      // Twelve triangles each; the tallest stand at the greatest x.
      expect(Array.from({ length: positions.length / 3 }, (_, i) => Math.round(positions[i * 3])).sort((a, b) => a - b)).toEqual([1, 2, 3, 4, 5].slice(5 - left));
      expect(warnings.map(({ code }) => code)).toEqual(left < 5 ? ['budget'] : []);
    }
  }); // prettier-ignore

  test('of less than the largest part leaves nothing, and says why', async () => {
    const run = await runGraph({ ...bed, parts: ['mesh.parts', { keep: 'budget', budget: 11 }] }, ['row.curves > skin.curves', 'skin.mesh > parts.mesh']);
    expect(run.results['parts'].warnings.map(({ code }) => code)).toContain('empty');
  });
});
