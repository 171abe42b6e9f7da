/** Copies that are turned, leaned and sized one by one. */
import { describe, expect, test } from 'vitest';
import { Evaluator, parseDocument, Plan, type Copies } from '../../src/index.js';
import { runGraph } from '../graph.js';

type Settings = Readonly<Record<string, unknown>>;
const post: [string, Settings] = ['lay.box', { size: [0.1, 1, 0.1] }];

async function copies(settings: Settings, transform: Settings | null = null): Promise<Copies> {
  const nodes: Record<string, readonly [string, Settings?]> = { line: ['lay.line', { points: 40, to: [39, 0, 0] }], post, place: ['place.copies', settings] };
  if (transform) nodes['change'] = ['shape.transform', transform];
  const wires = ['line.curves > place.curves', 'post.mesh > place.objects', ...(transform ? ['place.copies > change.any'] : [])];
  const { outputs, error } = (await runGraph(nodes, wires)).results[transform ? 'change' : 'place'];
  if (error) throw new Error(error.message);
  return Object.values(outputs)[0] as Copies;
}
const column = ({ matrices }: Copies, i: number, k: number): number[] => Array.from(matrices.subarray(i * 16 + k * 4, i * 16 + k * 4 + 3));
const near = (given: readonly number[], wanted: readonly number[]): void => expect(given).toEqual(wanted.map((value) => expect.closeTo(value, 5)));
const degrees = (a: readonly number[], b: readonly number[]): number =>
  (Math.acos(Math.min(1, a.reduce((sum, value, k) => sum + value * b[k], 0) / Math.hypot(...a) / Math.hypot(...b))) * 180) / Math.PI;

describe('Place copies', () => {
  test('leans away from the vertical by its degrees, toward its heading, whichever way it is turned', async () => {
    const half = Math.SQRT1_2;
    // Along the path, which runs along x; and to the side of it.
    near(column(await copies({ align: 'upright', lean: 45 }), 3, 1), [half, half, 0]);
    near(column(await copies({ align: 'upright', lean: 45, toward: 180 }), 3, 1), [-half, half, 0]);
    for (const turn of [0, 33, { random: [0, 360], seed: 4, per: 'point' }]) near(column(await copies({ align: 'none', lean: 90, turn }), 5, 1), [0, 0, 1]);
    const many = await copies({ align: 'upright', lean: { random: [0, 10], seed: 1, per: 'point' }, toward: { random: [0, 360], seed: 2, per: 'point' } });
    const leans = Array.from({ length: 40 }, (_, i) => degrees(column(many, i, 1), [0, 1, 0]));
    expect([Math.min(...leans) < 1.5, Math.max(...leans) > 8.5, Math.max(...leans) <= 10.001, new Set(leans.map((each) => each.toFixed(4))).size]).toEqual([true, true, true, 40]); // prettier-ignore
  });

  test('upright copies turn about the vertical; matrices stay rotations', async () => {
    const turned = await copies({ align: 'upright', turn: 90 });
    near(column(turned, 2, 1), [0, 1, 0]);
    near(column(turned, 2, 2), column(await copies({ align: 'upright' }), 2, 0));
    const any = await copies({ align: 'frame', turn: 20, lean: 30, toward: 70, size: 2 });
    for (let i = 0; i < 40; i++)
      for (let a = 0; a < 3; a++)
        for (let b = 0; b <= a; b++) expect(column(any, i, a).reduce((sum, value, k) => sum + value * column(any, i, b)[k], 0)).toBeCloseTo(a === b ? 4 : 0, 4);
    expect(degrees(column(any, 7, 2), [1, 0, 0])).toBeCloseTo(30, 3);
  });

  test('documents of an earlier edition, in which upright copies turned about the path, stay as they were', async () => {
    const document = parseDocument(JSON.stringify({
      format: 'filaxis-graph', version: 1, edition: 2, title: 'T',
      nodes: [{ id: 'line', type: 'lay.line' }, { id: 'post', type: 'lay.box' }, { id: 'place', type: 'place.copies', settings: { align: 'upright', turn: 30 } }],
      wires: [{ from: ['line', 'curves'], to: ['place', 'curves'] }, { from: ['post', 'mesh'], to: ['place', 'objects'] }],
    })); // prettier-ignore
    const { copies: made } = (await new Evaluator().run(new Plan(document))).nodes.get('place')!.outputs as unknown as { copies: Copies };
    // The up turned about the tangent x by 30 degrees, counter-clockwise seen against it.
    near(column(made, 0, 2), [1, 0, 0]);
    near(column(made, 0, 1), [0, Math.cos(Math.PI / 6), 0.5]);
  });
});

describe('Transform', () => {
  test('turns, leans and sizes each copy about its own place', async () => {
    const before = await copies({ align: 'upright' });
    const after = await copies(
      { align: 'upright' },
      { eachTurn: { random: [0, 360], seed: 1, per: 'copy' }, eachLean: 20, eachSize: { formula: '1 + i / 10' } },
    );
    for (let i = 0; i < 40; i++) {
      near(column(after, i, 3), column(before, i, 3));
      expect(degrees(column(after, i, 1), [0, 1, 0])).toBeCloseTo(20, 3);
      expect(Math.hypot(...column(after, i, 0))).toBeCloseTo(1 + i / 10, 4);
    }
    expect(new Set(Array.from({ length: 40 }, (_, i) => degrees(column(after, i, 2), column(before, i, 2)).toFixed(3))).size).toBe(40);
  });

  test('says that what has no copies has none to turn one by one', async () => {
    const { results } = await runGraph({ line: ['lay.line'], change: ['shape.transform', { eachTurn: 5 }] }, ['line.curves > change.any']);
    expect(results['change'].error!.message).toContain('Turn of each');
  });
});
