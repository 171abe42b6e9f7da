/** Numbers that are the same for all elements: given by a formula of dials and time, wherever a node takes a number. */
import { describe, expect, test } from 'vitest';
import { settle } from '../../src/evaluate/settle.js';
import { Evaluator, nodeDefinitions, Plan, requireDocument, type FilaxisDocument, type NodeDefinition, type Setting } from '../../src/index.js';
import { measureChain } from '../graph.js';

/** A setting that takes one number for all elements, or a vector or colour of such. */
const isSingle = (setting: Setting): boolean =>
  ['number', 'integer', 'vector', 'colour'].includes(setting.kind) && !('varies' in setting && setting.varies) && (setting.kind === 'vector' || typeof setting.default !== 'object'); // prettier-ignore

const settledWith = (definition: NodeDefinition, settings: Readonly<Record<string, unknown>>): ReturnType<typeof settle> => {
  const planned = { node: { id: 'it', type: definition.type, settings }, index: 0, definition, fault: undefined, wires: [] };
  return settle(planned, definition, { dials: { reach: 2 }, time: 1.5, rate: 24 }, null, {});
};

describe('a formula', () => {
  const singles = [...nodeDefinitions.values()].flatMap((definition) =>
    Object.entries(definition.settings).flatMap(([key, setting]) => (isSingle(setting) ? [[definition, key, setting] as const] : [])),
  );

  test('is taken by every setting of one number, component by component, as the number that it gives', () => {
    expect(singles.length).toBeGreaterThan(200);
    for (const [definition, key, setting] of singles) {
      const usual = setting.kind === 'colour' ? [0.25, 0.5, 0.75] : setting.default;
      const by = (value: unknown): unknown => ({ formula: `reach - 2 + ${Number(value)}` });
      const plain = settledWith(definition, { [key]: usual });
      const worked = settledWith(definition, { [key]: Array.isArray(usual) ? usual.map(by) : by(usual) });
      expect([definition.type, key, worked.fault, worked.values[key]]).toEqual([definition.type, key, plain.fault, plain.values[key]]);
    }
  });

  test('out of range, of elements, or with a mistake is a fault at its place; one of time makes the node move', () => {
    const tube = nodeDefinitions.get('skin.tube')!;
    expect(settledWith(tube, { sides: { formula: 'reach' } }).fault).toMatchObject({ pointer: '/nodes/0/settings/sides', setting: 'sides' });
    expect(settledWith(tube, { sides: { formula: 'reach * 2.3' } }).fault!.message).toContain('whole numbers');
    expect(settledWith(tube, { sides: { formula: 't * 8' } }).fault).toMatchObject({ pointer: '/nodes/0/settings/sides/formula' });
    expect(settledWith(tube, { sides: { formula: '4 +' } }).fault).toMatchObject({ pointer: '/nodes/0/settings/sides/formula' });
    const box = nodeDefinitions.get('lay.box')!;
    expect(settledWith(box, { size: [1, { formula: 'gone' }, 1] }).fault).toMatchObject({ pointer: '/nodes/0/settings/size/1/formula' });
    const moving = settledWith(box, { size: [1, { formula: 'time * reach' }, 1] });
    expect([moving.values['size'], moving.moves]).toEqual([[1, 3, 1], true]);
  });

  test('follows the dial from run to run', async () => {
    const document = requireDocument({
      format: 'filaxis-graph',
      version: 1,
      title: 'Post',
      dials: [{ id: 'high', label: 'High', kind: 'number', value: 2 }],
      nodes: [{ id: 'post', type: 'lay.box', settings: { size: [1, { formula: 'high / 2' }, 1] } }],
      wires: [],
    } satisfies Partial<FilaxisDocument>);
    const evaluator = new Evaluator();
    const height = async (high?: number): Promise<number> => {
      const run = await evaluator.run(new Plan(document), { ...(high !== undefined && { dials: { high } }) });
      const { mesh } = run.nodes.get('post')!.outputs as unknown as { mesh: { positions: Float32Array } };
      const ys = mesh.positions.filter((_, i) => i % 3 === 1);
      return Math.max(...ys) - Math.min(...ys);
    };
    expect([await height(), await height(5), await height(2)]).toEqual([1, 2.5, 1]);
    expect((await measureChain([['lay.box', { size: [{ formula: '1 + 1' }, 1, 1] }]])).volume).toBeCloseTo(2, 5);
  });
});
