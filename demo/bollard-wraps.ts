import { DocumentBuilder, type FilaxisDocument } from '@filaxis/core';

/** A mooring bollard wrapped by four planes: later ropes lie on earlier ones, three drawn tight, the last slack. */
export function bollardWraps(): FilaxisDocument {
  const planes: readonly (readonly [id: string, turn: readonly number[], height: number])[] = [
    ['first', [14, 0, 0], 0.5],
    ['second', [-16, 0, 6], 0.5],
    ['third', [4, 0, 20], 0.52],
    ['slack', [12, 0, 0], 0.69],
  ];
  const builder = new DocumentBuilder('Bollard wraps', [
    { id: 'diameter', label: 'Rope diameter', kind: 'number', value: 0.036, min: 0.02, max: 0.06, step: 0.001, unit: 'm' },
    { id: 'tight', label: 'Drawn tight', kind: 'number', value: -0.03, min: -0.15, max: 0, step: 0.005 },
    { id: 'loose', label: 'Slack of the last', kind: 'number', value: 0.12, min: 0, max: 0.4, step: 0.005 },
    { id: 'stiff', label: 'Stiffness', kind: 'number', value: 0.3, min: 0, max: 1, step: 0.01 },
  ])
    .add('trunk', 'lay.cylinder', [0, 0], { radius: 0.22, radiusTop: 0.19, height: 0.9, sides: 64 })
    .add('raised', 'shape.transform', [1, 0], { move: [0, 0.45, 0] }, ['trunk', 'mesh', 'any'])
    .add('cap', 'lay.cylinder', [0, 1], { radius: 0.27, height: 0.09, sides: 64 })
    .add('topped', 'shape.transform', [1, 1], { move: [0, 0.94, 0] }, ['cap', 'mesh', 'any'])
    .add('stone', 'lay.box', [0, -1], { size: [1, 0.14, 1], uvScale: 0.3 })
    .add('slab', 'shape.transform', [1, -1], { move: [0, -0.07, 0] }, ['stone', 'mesh', 'any'])
    .add('body', 'flow.join', [2, 0.5], {}, ['raised', 'any', 'any'], ['topped', 'any', 'any'])
    .add('solid', 'flow.join', [3, 0], {}, ['body', 'any', 'any'], ['slab', 'any', 'any']);
  planes.forEach(([id, turn, height], i) =>
    builder
      .add(`${id}Sheet`, 'lay.grid', [0, 2 + i], { size: [1, 1], divisions: 1 })
      .add(id, 'shape.transform', [1, 2 + i], { move: [0, height, 0], turn }, [`${id}Sheet`, 'mesh', 'any']),
  );
  return builder
    .add('off', 'gauge.formula', [2, 5], { formula: 'diameter / 2' })
    .add('cut', 'mesh.section', [3, 2], {}, ['raised', 'any', 'mesh'], ...planes.map(([id]) => [id, 'any', 'planes'] as const), ['off', 'number', 'offset'])
    .add('lean', 'pace.simplify', [4, 2], { tolerance: 0.0005 }, ['cut', 'curves', 'curves'])
    .add('even', 'pace.resample', [5, 2], { by: 'spacing', spacing: 0.018 }, ['lean', 'curves', 'curves'])
    .add(
      'rest',
      'shape.relax',
      [6, 2],
      {
        slack: { formula: 'c == 3 ? loose : tight' },
        ropes: 'stack',
        settle: 'steps',
        steps: 150,
        stiffness: { dial: 'stiff' },
        friction: 0.4,
        hold: { formula: 'c == 3 and z < -0.12' },
      },
      ['even', 'curves', 'curves'],
      ['solid', 'any', 'body'],
      ['off', 'number', 'radius'],
    ) // prettier-ignore
    .add('eased', 'shape.smooth', [7, 3], { times: 24, keepSize: true }, ['rest', 'curves', 'any'])
    .add('rope', 'skin.rope', [7, 2], { diameter: { dial: 'diameter' }, layLength: 0.17, sides: 8, ringsPerTurn: 12, uvScale: 0.12 }, [
      'eased',
      'any',
      'curves',
    ])
    .add('hemp', 'mesh.material', [8, 2], { name: 'hemp', colour: '#c9a468', roughness: 0.85 }, ['rope', 'mesh', 'any'])
    .add('iron', 'mesh.material', [8, 1], { name: 'painted iron', colour: '#3c4a50', roughness: 0.55, metalness: 0.3 }, ['body', 'any', 'any'])
    .add('granite', 'mesh.material', [8, 4], { name: 'granite', colour: '#9a958c', roughness: 0.95 }, ['slab', 'any', 'any'])
    .add('out', 'flow.output', [9, 2], { name: 'bollard', budget: 80000 }, ['iron', 'any', 'any'], ['hemp', 'any', 'any'], ['granite', 'any', 'any'])
    .build();
}
