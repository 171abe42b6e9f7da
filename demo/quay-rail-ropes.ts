import { DocumentBuilder, type FilaxisDocument } from '@filaxis/core';

/** Posts of the quay's rail: feet on the stones, the line bent at the steps. */
const posts: readonly (readonly [number, number])[] = [
  [-2.6, 0.35],
  [-0.7, 0],
  [1.3, -0.1],
  [2.7, 1.1],
];
const postHeight = 1.15;

/** Hung three-strand ropes between posts, with turns round each post. */
export function quayRailRopes(): FilaxisDocument {
  const builder = new DocumentBuilder('Quay rail ropes', [
    { id: 'sag', label: 'Sag', kind: 'number', value: 0.22, min: 0, max: 0.7, step: 0.005, unit: 'm' },
    { id: 'diameter', label: 'Rope diameter', kind: 'number', value: 0.046, min: 0.015, max: 0.09, step: 0.001, unit: 'm' },
    { id: 'lay', label: 'Lay length', kind: 'number', value: 0.15, min: 0.06, max: 0.4, step: 0.005, unit: 'm/turn' },
    { id: 'strands', label: 'Strands', kind: 'integer', value: 3, min: 2, max: 6, step: 1 },
  ]);
  const at = (height: number): number[][] => posts.map(([x, z]) => [x, height, z + 0.115]);
  builder
    .add('rails', 'lay.drawn', [0, 0], { kind: 'straight', curves: [{ points: at(0.96) }, { points: at(0.52) }] })
    .add('hang', 'shape.hang', [1, 0], { by: 'sag', value: { dial: 'sag' }, points: 40, spans: 'each' }, ['rails', 'curves', 'curves'])
    .add('turn', 'lay.helix', [0, 1.4], { radius: 0.118, height: 0.14, turns: 3, pointsPerTurn: 28 });
  posts.forEach(([x, z], i) =>
    builder.add(`wind${i + 1}`, 'shape.transform', [1, 1 + i * 0.8], { move: [x, 0.88, z], turn: [0, 90 - i * 12, 0] }, ['turn', 'curves', 'any']),
  );
  builder
    .add('lines', 'flow.join', [2, 0.6], {}, ['hang', 'curves', 'any'], ...posts.map((_, i) => [`wind${i + 1}`, 'any', 'any'] as const))
    .add(
      'rope',
      'skin.rope',
      [3, 0.6],
      { diameter: { dial: 'diameter' }, strands: { dial: 'strands' }, layLength: { dial: 'lay' }, sides: 8, ringsPerTurn: 12, caps: 'domed', uvScale: 0.12 },
      ['lines', 'any', 'curves'],
    )
    .add('hemp', 'mesh.material', [4, 0.6], { name: 'hemp', colour: '#c9a468', roughness: 0.85 }, ['rope', 'mesh', 'mesh'])
    .add('uprights', 'lay.drawn', [2, 3.1], {
      kind: 'straight',
      curves: posts.map(([x, z]) => ({
        points: [
          [x, 0, z],
          [x, 1.02, z],
          [x, postHeight, z],
        ],
      })),
    }) // prettier-ignore
    .add(
      'post',
      'skin.tube',
      [3, 3.1],
      {
        radius: {
          ramp: [
            [0, 0.105],
            [0.86, 0.095],
            [1, 0.085],
          ],
        },
        sides: 20,
        caps: 'domed',
        uvScale: 0.3,
      },
      ['uprights', 'curves', 'curves'],
    ) // prettier-ignore
    .add('oak', 'mesh.material', [4, 3.1], { name: 'oak', colour: '#6f5138', roughness: 0.9 }, ['post', 'mesh', 'mesh'])
    .add('out', 'flow.output', [5, 1.6], { name: 'rail', budget: 150000 }, ['hemp', 'mesh', 'any'], ['oak', 'mesh', 'any']);
  return builder.build();
}
