import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Evaluator, Plan, requireDocument, boundsOf, type Mesh, type NodeResult } from '../../src/index.js';

/** A beam along z of 0.2 m width and height, 2 m long unless said otherwise, bent along a curve. */
async function bent(curve: object, settings: object = {}, beam: { size?: number[]; divisions?: number } = {}): Promise<NodeResult> {
  const document = requireDocument({
    format: 'filaxis-graph',
    version: 1,
    title: 'T',
    nodes: [
      { id: 'beam', type: 'lay.box', settings: { size: beam.size ?? [0.2, 0.2, 2], divisions: beam.divisions ?? 64 } },
      { id: 'curve', ...curve },
      { id: 'bend', type: 'shape.bend', settings },
      { id: 'out', type: 'flow.output' },
    ],
    wires: [
      { from: ['beam', 'mesh'], to: ['bend', 'mesh'] },
      { from: ['curve', 'curves'], to: ['bend', 'curves'] },
      { from: ['bend', 'mesh'], to: ['out', 'any'] },
    ],
  });
  const { nodes } = await new Evaluator().run(new Plan(document));
  return nodes.get('bend')!;
}
const meshOf = (result: NodeResult): Mesh => result.outputs['mesh'] as Mesh;

/** Volume of a closed mesh by the divergence theorem. */
function volumeOf({ positions: p, corners, uniform, faceStarts }: Mesh): number {
  let volume = 0;
  const faces = faceStarts ? faceStarts.length - 1 : corners.length / uniform;
  for (let f = 0; f < faces; f++) {
    const [from, to] = faceStarts ? [faceStarts[f], faceStarts[f + 1]] : [f * uniform, (f + 1) * uniform];
    for (let i = from + 1; i + 1 < to; i++) {
      const [a, b, c] = [corners[from] * 3, corners[i] * 3, corners[i + 1] * 3];
      volume +=
        p[a] * (p[b + 1] * p[c + 2] - p[b + 2] * p[c + 1]) + p[a + 1] * (p[b + 2] * p[c] - p[b] * p[c + 2]) + p[a + 2] * (p[b] * p[c + 1] - p[b + 1] * p[c]);
    }
  }
  return volume / 6;
}

describe('a mesh bent along a curve', () => {
  test('along a straight line of its own length it only moves there', async () => {
    const mesh = meshOf(await bent({ type: 'lay.line', settings: { from: [3, 1, 0], to: [3, 1, 2] } }));
    const bounds = boundsOf(mesh.positions)!;
    [2.9, 0.9, 0].forEach((value, k) => expect(bounds.min[k]).toBeCloseTo(value, 6));
    [3.1, 1.1, 2].forEach((value, k) => expect(bounds.max[k]).toBeCloseTo(value, 6));
    expect(volumeOf(mesh)).toBeCloseTo(0.08, 6);
  });

  test('round an arc its volume is the section times the way of its middle (Pappus), and every place keeps its distance', async () => {
    const [radius, span] = [1.5, 180];
    const mesh = meshOf(await bent({ type: 'lay.circle', settings: { radius, span, points: 65 } }));
    expect(volumeOf(mesh) / (0.2 * 0.2 * Math.PI * radius)).toBeCloseTo(1, 3);
    for (let i = 0; i < mesh.positions.length; i += 3) {
      const [x, y, z] = mesh.positions.subarray(i, i + 3);
      // The circle lies level: one distance is to its axis, the other along it.
      const [away, along] = [Math.hypot(x, z) - radius, y];
      expect(Math.hypot(away, along)).toBeLessThan(Math.SQRT2 * 0.1 + 2e-3);
    }
  });

  test('it faces outwards along each of its axes, in random places', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom('x', 'y', 'z'),
        fc.array(
          fc.integer({ min: -100, max: 100 }).map((value) => value / 100),
          { minLength: 3, maxLength: 3 },
        ),
        async (axis, to) => {
          const size = [0.2, 0.2, 0.2];
          size['xyz'.indexOf(axis)] = 2;
          const end = to.map((value, k) => value + (k === 0 ? 3 : 0));
          const mesh = meshOf(await bent({ type: 'lay.line', settings: { to: end } }, { axis }, { size, divisions: 4 }));
          expect(volumeOf(mesh)).toBeCloseTo(0.04 * Math.hypot(...end), 4);
        },
      ),
      { numRuns: 20 },
    );
  });

  test('it is repeated as often as comes nearest to its length, or kept as long as it is', async () => {
    const line = { type: 'lay.line', settings: { to: [9.2, 0, 0] } };
    const repeated = await bent(line, { fit: 'repeat' }, { divisions: 2 });
    const once = await bent(line, { fit: 'keep' }, { divisions: 2 });
    expect(repeated.out.faces).toBe(5 * once.out.faces!);
    expect(volumeOf(meshOf(repeated))).toBeCloseTo(0.04 * 9.2, 5);
    expect(boundsOf(meshOf(once).positions)!.max[0]).toBeCloseTo(2, 6);
    expect(once.warnings).toEqual([]);
  });

  test('what folds, lies beyond the end or has no length is said', async () => {
    const sharp = await bent({ type: 'lay.circle', settings: { radius: 0.05, points: 32 } });
    expect(sharp.warnings[0]).toMatchObject({ code: 'pinch', message: expect.stringMatching(/^Curve 1 bends more sharply/) });
    const wide = await bent({ type: 'lay.circle', settings: { radius: 0.5, points: 32 } });
    expect(wide.warnings).toEqual([]);
    const short = await bent({ type: 'lay.line', settings: { to: [1, 0, 0] } }, { fit: 'keep' });
    expect(short.warnings[0].message).toContain('is shorter than the mesh');
    const twice = {
      kind: 'straight',
      curves: [
        {
          points: [
            [1, 0, 0],
            [1, 0, 0],
          ],
        },
      ],
    };
    const nowhere = await bent({ type: 'lay.drawn', settings: twice });
    expect(nowhere.warnings[0].message).toContain('has no length');
    expect(nowhere.out.faces ?? 0).toBe(0);
  });
});
