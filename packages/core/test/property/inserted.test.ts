/** Points that a node inserts have values between those of their neighbours, by length: what grows along a path grows there without jumps. */
import { describe, expect, test } from 'vitest';
import { nodeDefinitions, type Curves } from '../../src/index.js';
import { drawn, measureChain, runGraph, type Chain } from '../graph.js';

/** A path with corners of many angles and pieces of many lengths. */
const path = drawn([[0, 0, 0], [2, 0, 0], [2, 1, 0.4], [3.5, 1, 1], [3, 2.2, 1.5], [4.1, 2.6, 1.1], [4.2, 4, 2]]); // prettier-ignore

/** What settings have to be for a node to insert something. */
const settings: Readonly<Record<string, Readonly<Record<string, unknown>>>> = {
  'shape.roundCorners': { radius: 0.3, points: 9 },
  'pace.subdivide': { times: 2 },
  'shape.drape': { follow: 'refine', method: 'alongDirection' },
};

describe('values of inserted points rise with the length', () => {
  for (const definition of nodeDefinitions.values()) {
    const [input] = definition.inputs;
    const [output] = definition.outputs;
    if (!input?.kinds.some((kind) => kind === 'curves' || kind === 'any') || !['curves', 'any'].includes(output?.kind ?? '')) continue;
    if (['gauge', 'flow'].some((family) => definition.type.startsWith(family)) || !definition.attributes.keeps.includes('point')) continue;
    test(definition.type, async () => {
      const body = definition.inputs.find(({ name, kinds }) => name === 'body' && kinds.includes('mesh'));
      const { results } = await runGraph(
        {
          path,
          value: ['gauge.set', { name: 'when', value: { formula: 's' } }],
          node: [definition.type, settings[definition.type] ?? {}],
          ...(body && { ground: ['lay.terrain', { size: [12, 12], divisions: 40, height: 1 }] as const }),
        },
        ['path.curves > value.any', `value.any > node.${input.name}`, ...(body ? [`ground.mesh > node.${body.name}`] : [])],
      );
      const made = results['node'].outputs[output.name] as Curves | undefined;
      const when = made?.attributes.get('when');
      if (made?.type !== 'curves' || when?.carrier !== 'point') return;
      for (let c = 0; c + 1 < made.starts.length; c++)
        for (let i = made.starts[c] + 1; i < made.starts[c + 1]; i++) {
          const step = Math.hypot(...[0, 1, 2].map((k) => made.positions[i * 3 + k] - made.positions[i * 3 - 3 + k]));
          const rise = Math.abs(when.data[i] - when.data[i - 1]);
          // A cut corner is shorter than the path by it, a draped or hung one longer.
          expect({ i, rise, step, fair: step < 1e-4 || (rise > step * 0.2 && rise < step * 5) }).toEqual({ i, rise, step, fair: true });
        }
    });
  }
});

test('a vine with rounded corners grows evenly: no more in a moment than the moment is long', async () => {
  const chain = (share: number): Chain => [
    path,
    ['gauge.set', { name: 'birth', value: { formula: 's' } }],
    ['shape.roundCorners', { radius: 0.35, points: 8 }],
    ['grow.reveal', { front: 'share', share, soft: 0 }],
  ];
  const all = (await measureChain([path])).length;
  let before = 0;
  for (let k = 1; k <= 200; k++) {
    const { length } = await measureChain(chain(k / 200));
    expect(length - before).toBeLessThan((all / 200) * 1.05);
    before = length;
  }
  expect(before).toBeGreaterThan(all * 0.9);
});
