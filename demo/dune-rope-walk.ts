import type { FilaxisDocument } from '@filaxis/core';
import { DocumentBuilder } from './builder.js';

/** A path over the dunes behind Marrow Sound, with posts that stand upright and ropes hung from one to the next. */
export function duneRopeWalk(): FilaxisDocument {
  const points = [[-10.5, 0, 7], [-6, 0, 1.5], [-1, 0, 3.5], [3, 0, -1.5], [6.5, 0, -1.5], [11, 0, -7]]; // prettier-ignore
  return new DocumentBuilder('Dune rope walk', [
    { id: 'height', label: 'Dunes', kind: 'number', value: 3.4, min: 0, max: 6, step: 0.1, unit: 'm' },
    { id: 'seed', label: 'Lie of the land', kind: 'seed', value: 11, min: 0, max: 999, step: 1 },
    { id: 'spacing', label: 'Post to post', kind: 'number', value: 1.9, min: 0.8, max: 5, step: 0.05, unit: 'm' },
    { id: 'sag', label: 'Sag', kind: 'number', value: 0.2, min: 0, max: 0.6, step: 0.01, unit: 'm' },
  ])
    .add('dunes', 'lay.terrain', [0, 0], {
      size: [26, 20],
      divisions: [90, 70],
      height: { dial: 'height' },
      seed: { dial: 'seed' },
      roughness: 0.35,
    })
    .add('land', 'shape.transform', [1, 0], { move: [0, 2.2, 0] }, ['dunes', 'mesh', 'any'])
    .add('path', 'lay.drawn', [0, 1.4], { kind: 'through', curves: [{ points }] })
    .add('lie', 'shape.drape', [1, 1], { method: 'alongDirection', follow: 'refine', tolerance: 0.01 }, ['path', 'curves', 'any'], ['land', 'any', 'body'])
    .add('stands', 'pace.resample', [2, 1], { by: 'spacing', spacing: { dial: 'spacing' } }, ['lie', 'any', 'curves'])
    .add('stake', 'lay.cylinder', [1, 2.4], { radius: 0.09, radiusTop: 0.075, height: 1.8, sides: 14, caps: 'domed' })
    .add('foot', 'shape.transform', [2, 2.4], { move: [0, 0.35, 0] }, ['stake', 'mesh', 'any'])
    .add('oak', 'mesh.material', [3, 2.4], { name: 'oak', colour: '#6f5138', roughness: 0.9 }, ['foot', 'any', 'any'])
    .add('posts', 'place.copies', [4, 1.9], { align: 'upright' }, ['stands', 'curves', 'curves'], ['oak', 'any', 'objects'])
    .add('tops', 'shape.transform', [3, 0.6], { move: [0, 1.05, 0] }, ['stands', 'curves', 'any'])
    .add('hung', 'shape.hang', [4, 0.6], { value: { dial: 'sag' }, points: 16, spans: 'each' }, ['tops', 'any', 'curves'])
    .add('rope', 'skin.rope', [5, 0.6], { diameter: 0.07, layLength: 0.26, sides: 6, ringsPerTurn: 8, caps: 'domed', uvScale: 0.2 }, [
      'hung',
      'curves',
      'curves',
    ])
    .add('hemp', 'mesh.material', [6, 0.6], { name: 'hemp', colour: '#c9a468', roughness: 0.85 }, ['rope', 'mesh', 'any'])
    .add('sand', 'mesh.material', [3, -0.4], { name: 'sand', colour: '#cdbb92', roughness: 1 }, ['land', 'any', 'any'])
    .add('out', 'flow.output', [7, 0.8], { name: 'walk', budget: 250000 }, ['sand', 'any', 'any'], ['posts', 'copies', 'any'], ['hemp', 'any', 'any'])
    .build();
}
