import { DocumentBuilder, type FilaxisDocument } from '@filaxis/core';

/** A mitred pipe run along the pump-house wall, with a tapered outlet over the sluice. */
export function pumpHousePipes(): FilaxisDocument {
  return new DocumentBuilder('Pump house pipes', [
    { id: 'bore', label: 'Pipe radius', kind: 'number', value: 0.09, min: 0.03, max: 0.16, step: 0.001, unit: 'm' },
    { id: 'sides', label: 'Sides', kind: 'integer', value: 24, min: 6, max: 64, step: 1 },
    { id: 'wheel', label: 'Wheel radius', kind: 'number', value: 0.2, min: 0.12, max: 0.3, step: 0.005, unit: 'm' },
  ])
    .add('run', 'lay.drawn', [0, 0], {
      kind: 'straight',
      curves: [
        {
          points: [
            [-2.4, 0, 0],
            [-2.4, 1.5, 0],
            [-0.6, 1.5, 0],
            [-0.6, 1.5, 0.9],
            [0.9, 1.5, 0.9],
            [0.9, 0.7, 0.9],
            [1.6, 0.7, 0.9],
          ],
        },
        {
          points: [
            [-1.9, 0, 0.1],
            [-1.9, 1.05, 0.1],
            [-0.15, 1.05, 0.1],
            [-0.15, 1.05, 0.55],
            [-0.15, 2.3, 0.55],
          ],
        },
      ],
    }) // prettier-ignore
    .add('pipe', 'skin.tube', [1, 0], { radius: { dial: 'bore' }, sides: { dial: 'sides' }, caps: 'flat', corners: 'mitre', uvScale: 0.25 }, [
      'run',
      'curves',
      'curves',
    ])
    .add('copper', 'mesh.material', [2, 0], { name: 'copper', colour: '#b0653f', roughness: 0.35, metalness: 0.85 }, ['pipe', 'mesh', 'mesh'])
    .add('spout', 'lay.drawn', [0, 1.2], {
      kind: 'through',
      curves: [
        {
          points: [
            [0, 0, 0],
            [0.35, 0, 0],
            [0.75, -0.08, 0],
            [1.0, -0.42, 0],
          ],
        },
      ],
    }) // prettier-ignore
    .add('even', 'pace.resample', [1, 1.2], { by: 'spacing', spacing: 0.02 }, ['spout', 'curves', 'curves'])
    .add('place', 'shape.transform', [2, 1.2], { move: [1.6, 0.7, 0.9] }, ['even', 'curves', 'any'])
    .add(
      'outlet',
      'skin.tube',
      [3, 1.2],
      {
        radius: {
          ramp: [
            [0, 0.125],
            [0.06, 0.125],
            [0.08, 0.09],
            [0.5, 0.1],
            [0.92, 0.17],
            [0.94, 0.19],
            [1, 0.19],
          ],
        },
        sides: { dial: 'sides' },
        uvScale: 0.25,
      },
      ['place', 'any', 'curves'],
    ) // prettier-ignore
    .add('bronze', 'mesh.material', [4, 1.2], { name: 'bronze', colour: '#3f6b63', roughness: 0.5, metalness: 0.6 }, ['outlet', 'mesh', 'mesh'])
    .add('ring', 'lay.circle', [0, 2.4], { radius: { dial: 'wheel' }, points: 48, centre: [-2.4, 0.75, 0], axis: [0, 1, 0] })
    .add('wheel', 'skin.tube', [2, 2.4], { radius: 0.022, sides: 12 }, ['ring', 'curves', 'curves'])
    .add('red', 'mesh.material', [4, 2.4], { name: 'madder paint', colour: '#a2323f', roughness: 0.45 }, ['wheel', 'mesh', 'mesh'])
    .add('out', 'flow.output', [5, 1.2], { name: 'pipes', budget: 60000 }, ['copper', 'mesh', 'any'], ['bronze', 'mesh', 'any'], ['red', 'mesh', 'any'])
    .build();
}
