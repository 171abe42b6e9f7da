import fc from 'fast-check';
import { expect, test } from 'vitest';
import { curvesFromLists, Evaluator, GeometryError, makePoints, Plan, requireDocument, type Geometry } from '@filaxis/core';
import { FormatError, readImport, writeFrozen } from '../src/index.js';
import { colouredTube } from './shapes.js';

/** Something of each kind, with values on every carrier that it has. */
async function ofEachKind(): Promise<Geometry[]> {
  const { mesh } = await colouredTube();
  const document = requireDocument({
    format: 'filaxis-graph',
    version: 1,
    title: 'Posts',
    nodes: [
      { id: 'line', type: 'lay.line', settings: { to: [4, 0, 0], points: 5 } },
      { id: 'post', type: 'lay.box', settings: { size: [0.1, 1, 0.1] } },
      { id: 'copies', type: 'place.copies', settings: { size: { random: [0.5, 1], seed: 3 } } },
    ],
    wires: [
      { from: ['line', 'curves'], to: ['copies', 'points'] },
      { from: ['post', 'mesh'], to: ['copies', 'objects'] },
    ],
  });
  const run = await new Evaluator().run(new Plan(document));
  const copies = run.nodes.get('copies')!.outputs['copies'] as Geometry;
  const curves = curvesFromLists([[[0, 0, 0], [1, 1e-7, 3]], [[5, 5, 5], [6, 5, -0], [6, 6, 6]]], { closed: [false, true], kind: 'through' }); // prettier-ignore
  const valued = { ...curves, attributes: new Map([['h', { carrier: 'curve', size: 2, data: Float32Array.of(1, 2, 3, 1 / 3) }]] as const) };
  return [mesh!, copies, valued, makePoints(Float32Array.of(1, 2, 3), new Map([['w', { carrier: 'point', size: 1, data: Float32Array.of(0.1) }]]))];
}

test('what was frozen comes back number for number, and gives the same bytes again', async () => {
  for (const geometry of await ofEachKind()) {
    const bytes = writeFrozen(geometry);
    const back = await readImport(bytes, 'whatever.obj');
    expect(back).toEqual({ [geometry.type]: geometry });
    expect(writeFrozen(back[geometry.type]!)).toEqual(bytes);
  }
});

test('damaged bytes are refused in words, or give something sound', async () => {
  const all = (await ofEachKind()).map(writeFrozen);
  await fc.assert(
    fc.asyncProperty(
      fc.constantFrom(...all),
      fc.array(fc.tuple(fc.double({ min: 0, max: 0.9999, noNaN: true }), fc.nat(255)), { minLength: 1, maxLength: 4 }),
      fc.boolean(),
      async (bytes, changes, cut) => {
        const damaged = bytes.slice(0, cut ? Math.floor(bytes.length * changes[0][0]) : bytes.length);
        // Mostly in the header, where it does most harm.
        for (const [at, value] of changes) if (damaged.length) damaged[Math.floor(4 + (at * Math.min(damaged.length, 1500)) / 1.01) % damaged.length] = value;
        if (String.fromCharCode(...damaged.subarray(0, 4)) !== 'FLXF') return;
        try {
          await readImport(damaged);
        } catch (error) {
          expect(error instanceof FormatError || error instanceof GeometryError, String(error)).toBe(true);
        }
      },
    ),
    { numRuns: 2000 },
  );
});
