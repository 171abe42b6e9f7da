import { DocumentBuilder, type FilaxisDocument } from '@filaxis/core';

/** A sheepfold above Marrow Sound: dry posts driven in round it, each another, and hurdles of split rails, close or open by chance, from one to the next on rising ground. */
export function sheepfold(): FilaxisDocument {
  const points = [[-7.5, 0, -3.5], [-2, 0, -6.5], [4.5, 0, -5.5], [8, 0, -0.5], [5.5, 0, 5], [-1, 0, 6.5], [-7, 0, 3.5]]; // prettier-ignore
  const builder = new DocumentBuilder('Sheepfold', [
    { id: 'height', label: 'Hills', kind: 'number', value: 3, min: 0, max: 8, step: 0.1, unit: 'm' },
    { id: 'piece', label: 'Post to post', kind: 'number', value: 2, min: 1, max: 4, step: 0.05, unit: 'm' },
    { id: 'seed', label: 'Which pieces', kind: 'seed', value: 4, min: 0, max: 999, step: 1 },
    { id: 'rails', label: 'Rail height', kind: 'number', value: 0.11, min: 0.05, max: 0.3, step: 0.005, unit: 'm' },
  ]);
  const oak = { name: 'oak', colour: '#7a5f43', roughness: 0.9 };
  builder
    .add('ground', 'lay.terrain', [0, 0], { size: [28, 24], divisions: [84, 72], height: { dial: 'height' }, seed: 21, roughness: 0.3 })
    .add('land', 'shape.transform', [1, 0], { move: [0, 2, 0] }, ['ground', 'mesh', 'any'])
    .add('turf', 'mesh.material', [2, -0.4], { name: 'turf', colour: '#93a169', roughness: 1 }, ['land', 'any', 'any'])
    .add('line', 'lay.drawn', [0, 1.2], { kind: 'through', curves: [{ points, closed: true }] })
    .add('lie', 'shape.drape', [2, 0.8], { method: 'alongDirection', follow: 'refine', tolerance: 0.03 }, ['line', 'curves', 'any'], ['land', 'any', 'body'])
    .add('post', 'lay.cylinder', [0, 2.4], { radius: 0.1, radiusTop: 0.07, height: 1.7, sides: 9, caps: 'domed' })
    .add('stand', 'shape.transform', [1, 2.4], { move: [0, 0.5, 0] }, ['post', 'mesh', 'any'])
    .add('dry', 'mesh.material', [2, 2.4], { name: 'dry wood', colour: '#8b8478', roughness: 1 }, ['stand', 'any', 'any'])
    .add(
      'standing',
      'place.copies',
      [7, 0.4],
      { spacing: { dial: 'piece' }, align: 'none', turn: { random: [0, 360], seed: 3 }, size: { random: [0.85, 1.15], seed: 12 } },
      ['lie', 'any', 'curves'],
      ['dry', 'any', 'objects'],
    )
    .add('beam', 'lay.line', [0, 3.4], { length: { dial: 'piece' }, direction: [0, 0, 1], points: 2 })
    .add('bar', 'lay.rectangle', [0, 5.2], { width: 0.05, height: { dial: 'rails' } })
    .add('board', 'skin.sweep', [1, 3.4], { caps: 'flat', uvScale: 0.5 }, ['beam', 'curves', 'curves'], ['bar', 'curves', 'profile']);
  return builder
    .add('pair', 'shape.row', [3, 3.4], { count: 2, step: [0, 0.45, 0] }, ['board', 'mesh', 'any'])
    .add('three', 'shape.row', [3, 4.4], { count: 3, step: [0, 0.3, 0] }, ['board', 'mesh', 'any'])
    .add('low', 'shape.transform', [4, 3.4], { move: [0, 0.4, 0] }, ['pair', 'any', 'any'])
    .add('close', 'shape.transform', [4, 4.4], { move: [0, 0.35, 0] }, ['three', 'any', 'any'])
    .add('oakPlain', 'mesh.material', [6, 2.8], oak, ['low', 'any', 'any'])
    .add('oakTight', 'mesh.material', [6, 4], oak, ['close', 'any', 'any'])
    .add(
      'fence',
      'place.run',
      [7, 1.6],
      { seed: { dial: 'seed' }, cornerAngle: 70, stands: [{ share: 3 }, { share: 2 }] },
      ['lie', 'any', 'curves'],
      ['oakPlain', 'any', 'objects'],
      ['oakTight', 'any', 'objects'],
    )
    .add('built', 'place.expand', [8, 1.6], {}, ['fence', 'copies', 'copies'])
    .add('out', 'flow.output', [9, 0.8], { name: 'fold', budget: 100000 }, ['turf', 'any', 'any'], ['built', 'mesh', 'any'], ['standing', 'copies', 'any'])
    .build();
}
