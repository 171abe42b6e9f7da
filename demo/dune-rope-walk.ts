import { DocumentBuilder, type FilaxisDocument } from '@filaxis/core';

/** A boarded walk over the dunes behind Marrow Sound: planks across it, on one side a handrail of rope through leaning stakes, and grass that is shorter the nearer it is to the boards. */
export function duneRopeWalk(): FilaxisDocument {
  const points = [[-10.5, 0, 7], [-6, 0, 1.5], [-1, 0, 3.5], [3, 0, -1.5], [6.5, 0, -1.5], [11, 0, -7]]; // prettier-ignore
  const blades = [0, 72, 144, 216, 288].map((degrees) => {
    const [x, z] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
    return { points: [[0, 0, 0], [x * 0.06, 0.26, z * 0.06], [x * 0.2, 0.42, z * 0.2]] }; // prettier-ignore
  });
  return new DocumentBuilder('Dune rope walk', [
    { id: 'height', label: 'Dunes', kind: 'number', value: 3.4, min: 0, max: 6, step: 0.1, unit: 'm' },
    { id: 'seed', label: 'Lie of the land', kind: 'seed', value: 11, min: 0, max: 999, step: 1 },
    { id: 'spacing', label: 'Stake to stake', kind: 'number', value: 1.6, min: 0.8, max: 5, step: 0.05, unit: 'm' },
    { id: 'board', label: 'Board to board', kind: 'number', value: 0.34, min: 0.2, max: 1, step: 0.01, unit: 'm' },
    { id: 'grass', label: 'Grass', kind: 'integer', value: 700, min: 0, max: 4000, step: 10 },
    { id: 'bare', label: 'Bare beside the walk', kind: 'number', value: 2.2, min: 0, max: 6, step: 0.1, unit: 'm' },
    { id: 'sag', label: 'Sag', kind: 'number', value: 0.09, min: 0, max: 0.6, step: 0.01, unit: 'm' },
  ])
    .add('dunes', 'lay.terrain', [0, 0], {
      size: [26, 20],
      divisions: [72, 56],
      height: { dial: 'height' },
      seed: { dial: 'seed' },
      roughness: 0.35,
    })
    .add('land', 'shape.transform', [1, 0], { move: [0, 2.2, 0] }, ['dunes', 'mesh', 'any'])
    .add('path', 'lay.drawn', [0, 1.4], { kind: 'through', curves: [{ points }] })
    .add('lie', 'shape.drape', [1, 1], { method: 'alongDirection', follow: 'refine', tolerance: 0.01, offset: 0.12 }, ['path', 'curves', 'any'], ['land', 'any', 'body'])
    .add('plank', 'lay.box', [2, 1.6], { size: [1.5, 0.05, 0.26] })
    .add('larch', 'mesh.material', [3, 1.4], { name: 'weathered larch', colour: '#a08a68', roughness: 0.95 }, ['plank', 'mesh', 'any'])
    .add('boards', 'place.copies', [5, 1.4], { spacing: { dial: 'board' }, turn: 0, align: 'upright', size: { random: [0.93, 1.05], seed: 9 } }, ['lie', 'any', 'curves'], ['larch', 'any', 'objects'])
    .add('aside', 'shape.offset', [1, 2], { distance: 0.85 }, ['path', 'curves', 'curves'])
    .add('verge', 'shape.drape', [2, 0.9], { method: 'alongDirection', follow: 'refine', tolerance: 0.01 }, ['aside', 'curves', 'any'], ['land', 'any', 'body'])
    .add('stands', 'pace.resample', [3, 0.9], { by: 'spacing', spacing: { dial: 'spacing' } }, ['verge', 'any', 'curves'])
    .add('stake', 'lay.cylinder', [1, 2.4], { radius: 0.07, radiusTop: 0.045, height: 1.7, sides: 10, caps: 'domed' })
    .add('foot', 'shape.transform', [2, 2.4], { move: [0, 0.35, 0] }, ['stake', 'mesh', 'any'])
    .add('oak', 'mesh.material', [3, 2.4], { name: 'oak', colour: '#6f5138', roughness: 0.9 }, ['foot', 'any', 'any'])
    .add('posts', 'place.copies', [4, 1.9], { align: 'none', turn: { random: [0, 360], seed: 4 }, size: { random: [0.92, 1.1], seed: 7 } }, ['stands', 'curves', 'curves'], ['oak', 'any', 'objects'])
    .add('tops', 'shape.transform', [3, 0.6], { move: [0, 0.98, 0] }, ['stands', 'curves', 'any'])
    .add('hung', 'shape.hang', [4, 0.6], { value: { dial: 'sag' }, points: 16, spans: 'each' }, ['tops', 'any', 'curves'])
    .add('rope', 'skin.rope', [5, 0.6], { diameter: 0.05, layLength: 0.3, sides: 6, ringsPerTurn: 8, caps: 'domed', uvScale: 0.2 }, [
      'hung',
      'curves',
      'curves',
    ])
    .add('hemp', 'mesh.material', [6, 0.6], { name: 'hemp', colour: '#c9a468', roughness: 0.85 }, ['rope', 'mesh', 'any'])
    .add('sand', 'mesh.material', [3, -0.4], { name: 'sand', colour: '#cdbb92', roughness: 1 }, ['land', 'any', 'any'])
    .add('spots', 'place.scatter', [2, 3.8], { count: { dial: 'grass' }, seed: 3 }, ['land', 'any', 'mesh'])
    .add('away', 'gauge.distance', [3, 3.8], {}, ['spots', 'points', 'any'], ['lie', 'any', 'to'])
    .add('blades', 'lay.drawn', [2, 4.8], { kind: 'straight', curves: blades })
    .add(
      'leaf',
      'skin.ribbon',
      [3, 4.8],
      {
        width: {
          ramp: [
            [0, 0.035],
            [1, 0.002],
          ],
        },
        doubleSided: false,
      },
      ['blades', 'curves', 'curves'],
    )
    .add('green', 'mesh.material', [4, 4.8], { name: 'marram', colour: '#8a9a5b', roughness: 0.9 }, ['leaf', 'mesh', 'any'])
    .add(
      'tufts',
      'place.copies',
      [5, 4.2],
      { align: 'none', size: { formula: 'clamp(distance / max(bare, 0.01), 0, 1) ^ 1.5 * (0.5 + random(1))' }, turn: { random: [0, 360], seed: 5 } },
      ['away', 'any', 'points'],
      ['green', 'any', 'objects'],
    )
    .add(
      'out',
      'flow.output',
      [7, 0.8],
      { name: 'walk', budget: 250000 },
      ['sand', 'any', 'any'],
      ['boards', 'copies', 'any'],
      ['posts', 'copies', 'any'],
      ['hemp', 'any', 'any'],
      ['tufts', 'copies', 'any'],
    )
    .build();
} // prettier-ignore
