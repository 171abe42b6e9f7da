import { DocumentBuilder, type FilaxisDocument } from '@filaxis/core';

/** A bed of eelgrass along a winding bank of the sound: every plant grown by rules from a point of its own and with a chance of its own, ribbons instead of tubes, leaning with the tide; over a budget the smallest blades go first. */
export function eelgrassBed(): FilaxisDocument {
  const rules = [
    '# Blades spring from a creeping shoot, each bending a little more than the one before.',
    'S(n) : n > 0 -> [ &(8 + 18 * random(1)) /(360 * random(2)) B(blade * (0.7 + 0.6 * random(3)), 1) ] f(0.012) /(137.5) S(n - 1)',
    'B(l, w) : w > 0.2 -> !(0.022 * w) F(l / 5) &(bow * (0.6 + 0.8 * random(1))) B(l, w - 0.16)',
  ].join('\n');
  const builder = new DocumentBuilder('Eelgrass bed', [
    { id: 'clumps', label: 'Plants', kind: 'integer', value: 34, min: 2, max: 120, step: 1, group: 'Bed' },
    { id: 'seed', label: 'Another bed', kind: 'seed', value: 4, min: 0, max: 999, group: 'Bed' },
    { id: 'most', label: 'Triangles at most', kind: 'integer', value: 3200, min: 200, max: 6000, step: 50, group: 'Bed' },
    { id: 'blades', label: 'Blades each', kind: 'integer', value: 9, min: 2, max: 20, step: 1, group: 'Plant' },
    { id: 'long', label: 'Length', kind: 'number', value: 0.75, min: 0.2, max: 1.6, step: 0.01, unit: 'm', group: 'Plant' },
    { id: 'bend', label: 'Bend', kind: 'number', value: 7, min: 0, max: 25, step: 0.5, unit: '°', group: 'Plant' },
    { id: 'tide', label: 'Tide', kind: 'number', value: 0.06, min: -0.2, max: 0.2, step: 0.005, group: 'Plant' },
  ]);
  return builder
    .add('bank', 'lay.drawn', [0, 0], { kind: 'through', curves: [{ points: [[-1.7, 0, 0.55], [-1.05, 0, -0.1], [-0.35, 0, -0.35], [0.4, 0, 0.05], [1.05, 0, 0.5], [1.75, 0, 0.3]] }] })
    .add('spots', 'pace.scatter', [1, 0], { count: { dial: 'clumps' }, seed: { dial: 'seed' } }, ['bank', 'curves', 'curves'])
    .add('aside', 'shape.displace', [2, 0], { pattern: 'vector', amount: 1, vector: [0, 0, { random: [-0.22, 0.22], seed: 8, per: 'point' }] }, ['spots', 'points', 'any'])
    .add(
      'plants',
      'grow.rules',
      [3, 0],
      {
        axiom: '/(360 * random(9)) S(count)',
        rules,
        times: 24,
        names: 'blade, bow, count',
        first: { formula: 'long * (0.55 + 0.6 * random(3))' },
        second: { dial: 'bend' },
        third: { formula: 'round(blades * (0.6 + 0.6 * random(4)))' },
        seed: { dial: 'seed' },
        tropism: [1, 0.15, 0.3],
        tropismStrength: { dial: 'tide' },
      },
      ['aside', 'any', 'roots'],
    )
    .add('blades', 'skin.ribbon', [4, 0], { width: { formula: 'width * (1 - 0.75 * t * t)' } }, ['plants', 'curves', 'curves'])
    .add('thinned', 'mesh.parts', [5, 0], { keep: 'budget', budget: { dial: 'most' } }, ['blades', 'mesh', 'mesh'])
    .add('green', 'mesh.material', [6, 0], { name: 'eelgrass', colour: '#5f8a4c', roughness: 0.6 }, ['thinned', 'mesh', 'any'])
    .add('sand', 'lay.terrain', [4, 1.4], { size: [4.4, 2.4], divisions: 52, height: 0.05, seed: 2 })
    .add('bottom', 'mesh.material', [5, 1.4], { name: 'sand', colour: '#c9b791', roughness: 0.95 }, ['sand', 'mesh', 'any'])
    .add('out', 'flow.output', [7, 0.6], { name: 'bed', budget: 60000 }, ['green', 'any', 'any'], ['bottom', 'any', 'any'])
    .build();
} // prettier-ignore
