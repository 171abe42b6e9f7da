import { DocumentBuilder, type FilaxisDocument } from '@filaxis/core';

/** The cage of the harbour beacon: bars bent through three rings that lean and stand off one another's middles, round a lamp on its post. */
export function beaconCage(): FilaxisDocument {
  const ring = (radius: string): Record<string, unknown> => ({ radius: { dial: radius }, points: { dial: 'bars' } });
  const hoop = { radius: { dial: 'hoop' }, sides: 12, uvScale: 0.1 };
  return new DocumentBuilder('Beacon cage', [
    { id: 'bars', label: 'Bars', kind: 'integer', value: 17, min: 5, max: 40, step: 1 },
    { id: 'skew', label: 'Skew at the belly', kind: 'integer', value: 5, min: -16, max: 16, step: 1 },
    { id: 'headSkew', label: 'Skew at the head', kind: 'integer', value: 3, min: -16, max: 16, step: 1 },
    { id: 'foot', label: 'Foot ring', kind: 'number', value: 0.62, min: 0.2, max: 1.2, step: 0.01, unit: 'm' },
    { id: 'belly', label: 'Belly ring', kind: 'number', value: 0.84, min: 0.3, max: 1.6, step: 0.01, unit: 'm' },
    { id: 'head', label: 'Head ring', kind: 'number', value: 0.3, min: 0.1, max: 1, step: 0.01, unit: 'm' },
    { id: 'bellyLean', label: 'Belly leans', kind: 'vector', value: [9, 0, -16], unit: '°' },
    { id: 'headLean', label: 'Head leans', kind: 'vector', value: [-14, 0, 24], unit: '°' },
    { id: 'bar', label: 'Bar radius', kind: 'number', value: 0.016, min: 0.006, max: 0.04, step: 0.001, unit: 'm' },
    { id: 'hoop', label: 'Ring radius', kind: 'number', value: 0.034, min: 0.01, max: 0.08, step: 0.001, unit: 'm' },
  ])
    .add('low', 'lay.circle', [0, 0], { ...ring('foot'), centre: [0, 1.3, 0] })
    .add('round', 'lay.circle', [0, 1], ring('belly'))
    .add('small', 'lay.circle', [0, 2], ring('head'))
    .add('middle', 'shape.transform', [1, 1], { turn: { dial: 'bellyLean' }, move: [0.2, 2.05, -0.06] }, ['round', 'curves', 'any'])
    .add('top', 'shape.transform', [1, 2], { turn: { dial: 'headLean' }, move: [-0.16, 2.95, 0.1] }, ['small', 'curves', 'any'])
    .add('further', 'pace.reorder', [2, 1], { shift: { dial: 'skew' } }, ['middle', 'any', 'any'])
    .add('furthest', 'pace.reorder', [2, 2], { shift: { dial: 'headSkew' } }, ['top', 'any', 'any'])
    .add('bent', 'lay.arc3', [3, 0.6], { points: 28 }, ['low', 'curves', 'a'], ['further', 'any', 'b'], ['furthest', 'any', 'c'])
    .add('rods', 'skin.tube', [4, 0.6], { radius: { dial: 'bar' }, sides: 10, caps: 'flat', uvScale: 0.1 }, ['bent', 'curves', 'curves'])
    .add('three', 'flow.join', [2, 3], {}, ['low', 'curves', 'any'], ['middle', 'any', 'any'], ['top', 'any', 'any'])
    .add('smooth', 'pace.resample', [3, 2], { by: 'count', count: 72 }, ['three', 'any', 'curves'])
    .add('hoops', 'skin.tube', [4, 2], hoop, ['smooth', 'curves', 'curves'])
    .add('iron', 'flow.join', [5, 1.2], {}, ['rods', 'mesh', 'any'], ['hoops', 'mesh', 'any'])
    .add('tarred', 'mesh.material', [6, 1.2], { name: 'tarred iron', colour: '#3b4147', roughness: 0.55, metalness: 0.8 }, ['iron', 'any', 'any'])
    .add('ball', 'lay.sphere', [3, 3.2], { radius: 0.24, kind: 'rings', divisions: 12 })
    .add('lit', 'shape.transform', [4, 3.2], { move: [0.06, 2.02, 0], size: [1, 1.25, 1] }, ['ball', 'mesh', 'any'])
    .add('lamp', 'mesh.material', [6, 3.2], { name: 'lamp glass', colour: '#d9b44a', roughness: 0.2 }, ['lit', 'any', 'any'])
    .add('pole', 'lay.line', [3, 4.2], { from: [0, -0.6, 0], to: [0.04, 1.76, 0], points: 2 })
    .add(
      'post',
      'skin.tube',
      [4, 4.2],
      {
        radius: {
          ramp: [
            [0, 0.16],
            [1, 0.1],
          ],
        },
        sides: 16,
        caps: 'flat',
        uvScale: 0.4,
      },
      ['pole', 'curves', 'curves'],
    ) // prettier-ignore
    .add('greenheart', 'mesh.material', [6, 4.2], { name: 'greenheart', colour: '#5d5a44', roughness: 0.9 }, ['post', 'mesh', 'any'])
    .add('out', 'flow.output', [7, 2.2], { name: 'beacon', budget: 60000 }, ['tarred', 'any', 'any'], ['lamp', 'any', 'any'], ['greenheart', 'any', 'any'])
    .build();
}
