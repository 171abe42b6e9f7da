import { DocumentBuilder, type FilaxisDocument } from '@filaxis/core';

/** A clump of eelgrass: three kinds of plant from rules, ribbons instead of tubes, copied along a line of two metres, each of another size and turn, leaning with the tide. */
export function eelgrassBed(): FilaxisDocument {
  const kinds = [1, 2, 3];
  const rules = [
    '# Blades spring from a creeping shoot, each bending a little more than the one before.',
    'S(n) : n > 0 -> [ &(8 + 18 * random(1)) /(360 * random(2)) B(a * (0.7 + 0.6 * random(3)), 1) ] f(0.012) /(137.5) S(n - 1)',
    'B(l, w) : w > 0.2 -> !(0.022 * w) F(l / 5) &(b * (0.6 + 0.8 * random(1))) B(l, w - 0.16)',
  ].join('\n');
  const builder = new DocumentBuilder('Eelgrass bed', [
    { id: 'clumps', label: 'Plants', kind: 'integer', value: 26, min: 2, max: 120, step: 1, group: 'Bed' },
    { id: 'blades', label: 'Blades each', kind: 'integer', value: 9, min: 2, max: 20, step: 1, group: 'Plant' },
    { id: 'long', label: 'Length', kind: 'number', value: 0.75, min: 0.2, max: 1.6, step: 0.01, unit: 'm', group: 'Plant' },
    { id: 'bend', label: 'Bend', kind: 'number', value: 7, min: 0, max: 25, step: 0.5, unit: '°', group: 'Plant' },
    { id: 'tide', label: 'Tide', kind: 'number', value: 0.06, min: -0.2, max: 0.2, step: 0.005, group: 'Plant' },
    { id: 'seed', label: 'Another bed', kind: 'seed', value: 4, min: 0, max: 999, group: 'Bed' },
  ]);
  for (const [row, kind] of kinds.entries())
    builder
      .add(`plant${kind}`, 'grow.rules', [0, row], { axiom: 'S(c)', rules, times: 24, a: { dial: 'long' }, b: { dial: 'bend' }, c: { dial: 'blades' }, seed: kind * 7, tropism: [1, 0.15, 0.3], tropismStrength: { dial: 'tide' } })
      .add(`blades${kind}`, 'skin.ribbon', [1, row], { width: { formula: 'width * (1 - 0.75 * t * t)' } }, [`plant${kind}`, 'curves', 'curves'])
      .add(`green${kind}`, 'mesh.material', [2, row], { name: `eelgrass ${kind}`, colour: ['#4f7a4a', '#5f8a4c', '#74923f'][row], roughness: 0.6 }, [`blades${kind}`, 'mesh', 'any']); // prettier-ignore
  return builder
    .add('line', 'lay.line', [0, 4], { from: [-1, 0, 0], to: [1, 0, 0], points: 2 })
    .add('spots', 'pace.scatter', [1, 4], { count: { dial: 'clumps' }, seed: { dial: 'seed' } }, ['line', 'curves', 'curves'])
    .add('aside', 'shape.displace', [2, 4], { pattern: 'vector', amount: 1, vector: [0, 0, { random: [-0.22, 0.22], seed: 8, per: 'point' }] }, ['spots', 'points', 'any'])
    .add(
      'bed',
      'place.copies',
      [3, 2],
      { align: 'none', pick: 'random', seed: { dial: 'seed' }, size: { random: [0.55, 1.15], seed: 3, per: 'point' }, turn: { random: [0, 360], seed: 9, per: 'point' } },
      ['aside', 'any', 'points'],
      ...kinds.map((kind) => [`green${kind}`, 'any', 'objects'] as const),
    )
    .add('sand', 'lay.terrain', [2, 5], { size: [3, 1.6], divisions: 40, height: 0.03, seed: 2 })
    .add('bottom', 'mesh.material', [3, 5], { name: 'sand', colour: '#c9b791', roughness: 0.95 }, ['sand', 'mesh', 'any'])
    .add('out', 'flow.output', [4, 3], { name: 'bed', budget: 60000 }, ['bed', 'copies', 'any'], ['bottom', 'any', 'any'])
    .build();
} // prettier-ignore
