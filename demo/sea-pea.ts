import { DocumentBuilder, type FilaxisDocument } from '@filaxis/core';

/** The gable of the ice-house as it was scanned, cleaned, with sea pea that creeps up it from a line drawn along its foot: stems, leaves in pairs, and blossoms, all growing with time. */
export function seaPea(): FilaxisDocument {
  const foot = [[-1.0, 0.08, 0.2], [-0.7, 0.05, 0.2], [-0.35, 0.1, 0.2], [0.05, 0.06, 0.2], [0.4, 0.09, 0.2], [0.75, 0.05, 0.2], [1.0, 0.1, 0.2]]; // prettier-ignore
  const leaf = [[0, 0, 0], [0.35, 0, 0.12], [0.42, 0, 0.4], [0.25, 0, 0.75], [0, 0, 1], [-0.25, 0, 0.75], [-0.42, 0, 0.4], [-0.35, 0, 0.12]]; // prettier-ignore
  return new DocumentBuilder('Sea pea on the ice-house', [
    { id: 'vines', label: 'A vine every', kind: 'number', value: 0.12, min: 0.05, max: 0.5, step: 0.01, unit: 'm', group: 'Growth' },
    { id: 'long', label: 'Goes on', kind: 'number', value: 0.985, min: 0.9, max: 1, step: 0.001, group: 'Growth' },
    { id: 'forks', label: 'Forks', kind: 'number', value: 0.03, min: 0, max: 0.12, step: 0.002, group: 'Growth' },
    { id: 'turn', label: 'Turn', kind: 'number', value: 24, min: 0, max: 60, step: 1, unit: '°', group: 'Growth' },
    { id: 'seed', label: 'Another plant', kind: 'seed', value: 5, min: 0, max: 999, group: 'Growth' },
    { id: 'stem', label: 'Stems', kind: 'number', value: 0.005, min: 0.002, max: 0.012, step: 0.0005, unit: 'm', group: 'Looks' },
    { id: 'leafSize', label: 'Leaves', kind: 'number', value: 0.05, min: 0.02, max: 0.1, step: 0.002, unit: 'm', group: 'Looks' },
  ])
    .add('scan', 'lay.scan', [0, 0], { subject: 'gable', triangles: 60000, tilt: 3, seed: 4 })
    .add('largest', 'mesh.parts', [1, 0], { keep: 'largest', count: 1 }, ['scan', 'mesh', 'mesh'])
    .add('wall', 'mesh.ground', [2, 0], {}, ['largest', 'mesh', 'mesh'])
    .add('light', 'mesh.reduce', [3, 0], { ratio: 0.25 }, ['wall', 'mesh', 'mesh'])
    .add('stone', 'mesh.material', [4, 0], { name: 'stone', colour: '#a39a88', roughness: 0.95 }, ['light', 'mesh', 'any'])
    .add('guide', 'lay.surfaceStroke', [3, 1], { strokes: [foot] }, ['light', 'mesh', 'mesh'])
    .add('starts', 'pace.resample', [4, 1], { by: 'spacing', spacing: { dial: 'vines' } }, ['guide', 'curves', 'curves'])
    .add(
      'creep',
      'grow.creep',
      [5, 1],
      {
        steps: 130,
        chance: { dial: 'long' },
        step: 0.024,
        turn: { dial: 'turn' },
        lean: [0, 0.14, 0],
        branch: { dial: 'forks' },
        offset: 0.006,
        avoid: 0.016,
        seed: { dial: 'seed' },
        share: 0.3,
        spread: 1,
      },
      ['starts', 'curves', 'curves'],
      ['light', 'mesh', 'mesh'],
    )
    .add('soft', 'shape.smooth', [6, 1], { times: 2 }, ['creep', 'curves', 'any'])
    .add('grown', 'grow.reveal', [7, 1], { soft: 2.5 }, ['soft', 'any', 'any'])
    .add('stems', 'skin.tube', [8, 1], { radius: { formula: 'stem * grown * (1 - 0.6 * t)' }, sides: 6, caps: 'flat', relaxPinch: true }, [
      'grown',
      'any',
      'curves',
    ])
    .add('green', 'mesh.material', [8, 1], { name: 'stem', colour: '#6f7d3c', roughness: 0.8 }, ['stems', 'mesh', 'any'])
    .add('outline', 'lay.drawn', [5, 3], { kind: 'through', curves: [{ points: leaf, closed: true }] })
    .add('blade', 'skin.fill', [6, 3], {}, ['outline', 'curves', 'curves'])
    .add('leafGreen', 'mesh.material', [7, 3], { name: 'leaf', colour: '#5d8a4e', roughness: 0.7 }, ['blade', 'mesh', 'any'])
    .add('nodes', 'pace.resample', [6, 2], { by: 'spacing', spacing: 0.055 }, ['soft', 'any', 'curves'])
    .add('flat', 'aim.frames', [7, 2], { method: 'surface' }, ['nodes', 'curves', 'curves'], ['light', 'mesh', 'body'])
    .add(
      'leaves',
      'place.copies',
      [8, 2],
      {
        size: { formula: 'leafSize * (0.6 + 0.7 * random(1))' },
        turn: { formula: '(i % 2 == 0 ? -18 : 198) + 30 * (random(2) - 0.5)' },
        axes: 'chosen',
        tangentAxis: 'x',
        normalAxis: 'y',
      },
      ['flat', 'curves', 'curves'],
      ['leafGreen', 'any', 'objects'],
    )
    .add('unfolded', 'grow.reveal', [9, 2], { soft: 1.2, delay: 0.25 }, ['leaves', 'copies', 'any'])
    .add('out', 'flow.output', [10, 1], { name: 'icehouse', budget: 250000 }, ['stone', 'any', 'any'], ['green', 'any', 'any'], ['unfolded', 'any', 'any'])
    .build({ timeline: { from: 0, to: 168, at: 168, rate: 24, loop: true } });
}
