import { DocumentBuilder, type FilaxisDocument } from '@filaxis/core';

/** The deck hose on the quay: a tapered tube in a flat coil, with caps of their own UVs, to be looked at with the checker. */
export function deckHose(): FilaxisDocument {
  return new DocumentBuilder('Deck hose', [
    { id: 'tile', label: 'UV tile', kind: 'number', value: 0.12, min: 0.02, max: 0.5, step: 0.005, unit: 'm' },
    { id: 'capTurn', label: 'Cap turn', kind: 'number', value: 30, min: -180, max: 180, step: 1, unit: '°' },
    { id: 'capScale', label: 'Cap scale', kind: 'number', value: 1, min: 0.1, max: 4, step: 0.01 },
    { id: 'sides', label: 'Sides', kind: 'integer', value: 24, min: 6, max: 64, step: 1 },
  ])
    .add('course', 'lay.drawn', [0, 0], {
      kind: 'through',
      curves: [
        {
          points: [
            [0.05, 0.06, 0.5],
            [0.5, 0.06, 0.1],
            [0.1, 0.06, -0.4],
            [-0.45, 0.06, -0.1],
            [-0.3, 0.06, 0.55],
            [0.35, 0.06, 0.75],
            [0.85, 0.06, 0.15],
            [0.5, 0.06, -0.7],
            [-0.35, 0.06, -0.75],
            [-0.9, 0.06, -0.2],
            [-0.95, 0.1, 0.5],
            [-0.7, 0.35, 1.0],
          ],
        },
      ],
    }) // prettier-ignore
    .add('even', 'pace.resample', [1, 0], { by: 'spacing', spacing: 0.025 }, ['course', 'curves', 'curves'])
    .add(
      'hose',
      'skin.tube',
      [2, 0],
      {
        radius: {
          ramp: [
            [0, 0.062],
            [0.9, 0.05],
            [0.93, 0.068],
            [0.96, 0.068],
            [0.965, 0.04],
            [1, 0.03],
          ],
        },
        sides: { dial: 'sides' },
        caps: 'flat',
        uvScale: { dial: 'tile' },
        capTurn: { dial: 'capTurn' },
        capScale: { dial: 'capScale' },
        capOffset: [0.5, 0.5],
      },
      ['even', 'curves', 'curves'],
    ) // prettier-ignore
    .add('canvas', 'mesh.material', [3, 0], { name: 'weld canvas', colour: '#c39a1b', roughness: 0.8, checker: true }, ['hose', 'mesh', 'any'])
    .add('out', 'flow.output', [4, 0], { name: 'hose', budget: 30000 }, ['canvas', 'any', 'any'])
    .build();
}
