import { DocumentBuilder, type FilaxisDocument } from '@filaxis/core';

/** The power cable slung from the mast to the lamp room, thick at its shackles. */
export function lampCable(): FilaxisDocument {
  return new DocumentBuilder('Lamp cable', [
    { id: 'slack', label: 'Slack', kind: 'number', value: 0.045, min: 0, max: 0.3, step: 0.001 },
    { id: 'points', label: 'Points', kind: 'integer', value: 96, min: 8, max: 400, step: 1 },
    { id: 'coil', label: 'Turns of the coil', kind: 'number', value: 5, min: 1, max: 12, step: 0.1 },
  ])
    .add('span', 'lay.line', [0, 0], { from: [-3.4, 4.1, 0], to: [2.55, 3.0, 0] })
    .add('hang', 'shape.hang', [1, 0], { by: 'slack', value: { dial: 'slack' }, points: { dial: 'points' } }, ['span', 'curves', 'curves'])
    .add('frames', 'aim.frames', [2, 0], { method: 'upright' }, ['hang', 'curves', 'curves'])
    .add(
      'cable',
      'skin.tube',
      [3, 0],
      {
        radius: {
          ramp: [
            [0, 0.07],
            [0.05, 0.066],
            [0.09, 0.028],
            [0.9, 0.028],
            [0.95, 0.066],
            [1, 0.07],
          ],
          ease: 'smooth',
        },
        sides: 16,
        caps: 'domed',
        uvScale: 0.2,
      },
      ['frames', 'curves', 'curves'],
    ) // prettier-ignore
    .add('rubber', 'mesh.material', [4, 0], { name: 'tarred cable', colour: '#2b2f3a', roughness: 0.6 }, ['cable', 'mesh', 'mesh'])
    .add('coil', 'lay.helix', [0, 1.1], {
      radius: {
        ramp: [
          [0, 0.2],
          [1, 0.12],
        ],
      },
      height: 0.6,
      turns: { dial: 'coil' },
      pointsPerTurn: 32,
    })
    .add('lift', 'shape.transform', [1, 1.1], { move: [-3.4, 3.3, 0] }, ['coil', 'curves', 'any'])
    .add('wire', 'skin.tube', [3, 1.1], { radius: 0.02, sides: 8, caps: 'domed' }, ['lift', 'any', 'curves'])
    .add('copper', 'mesh.material', [4, 1.1], { name: 'copper', colour: '#b0653f', roughness: 0.35, metalness: 0.85 }, ['wire', 'mesh', 'mesh'])
    .add('mastline', 'lay.line', [0, 2.2], { from: [-3.4, 0, 0], to: [-3.4, 4.5, 0], points: 12 })
    .add(
      'mast',
      'skin.tube',
      [3, 2.2],
      {
        radius: {
          ramp: [
            [0, 0.15],
            [1, 0.07],
          ],
        },
        sides: 20,
        caps: 'domed',
      },
      ['mastline', 'curves', 'curves'],
    ) // prettier-ignore
    .add('pine', 'mesh.material', [4, 2.2], { name: 'pine', colour: '#8a6a48', roughness: 0.9 }, ['mast', 'mesh', 'mesh'])
    .add('towerline', 'lay.line', [0, 3.3], { from: [3.4, 0, 0], to: [3.4, 3.9, 0], points: 60 })
    .add(
      'tower',
      'skin.tube',
      [3, 3.3],
      {
        radius: {
          ramp: [
            [0, 0.95],
            [0.66, 0.72],
            [0.67, 0.86],
            [0.7, 0.86],
            [0.71, 0.6],
            [0.88, 0.6],
            [0.89, 0.74],
            [1, 0.05],
          ],
        },
        sides: 32,
        caps: 'flat',
      },
      ['towerline', 'curves', 'curves'],
    ) // prettier-ignore
    .add('lime', 'mesh.material', [4, 3.3], { name: 'limewash', colour: '#e9e2d2', roughness: 0.95 }, ['tower', 'mesh', 'mesh'])
    .add(
      'out',
      'flow.output',
      [5, 1.6],
      { name: 'cable', budget: 40000 },
      ['rubber', 'mesh', 'any'],
      ['copper', 'mesh', 'any'],
      ['pine', 'mesh', 'any'],
      ['lime', 'mesh', 'any'],
    )
    .build();
}
