import { DocumentBuilder, type FilaxisDocument } from '@filaxis/core';

/** A bollard with turns of rope round it, each where a leaning plane cuts the wood. */
export function bollardLashing(): FilaxisDocument {
  const spine = [[0, 0.5, 0], [0.02, 0.62, 0.012], [0.01, 0.78, 0.024], [0, 0.94, 0.016]]; // prettier-ignore
  return new DocumentBuilder('Bollard lashing', [
    { id: 'turns', label: 'Turns', kind: 'integer', value: 6, min: 1, max: 12, step: 1 },
    { id: 'diameter', label: 'Rope diameter', kind: 'number', value: 0.052, min: 0.02, max: 0.09, step: 0.001, unit: 'm' },
    { id: 'waist', label: 'Bollard', kind: 'number', value: 0.19, min: 0.12, max: 0.3, step: 0.005, unit: 'm' },
    { id: 'lay', label: 'Lay length', kind: 'number', value: 0.17, min: 0.08, max: 0.4, step: 0.005, unit: 'm/turn' },
  ])
    .add('trunk', 'lay.cylinder', [0, 0], { radius: { dial: 'waist' }, radiusTop: 0.15, height: 1.1, sides: 40 })
    .add('raised', 'shape.transform', [1, 0], { move: [0, 0.71, 0] }, ['trunk', 'mesh', 'any'])
    .add('spine', 'lay.drawn', [0, 1.2], { kind: 'through', curves: [{ points: spine }] })
    .add('planes', 'pace.resample', [1, 1.2], { count: { dial: 'turns' } }, ['spine', 'curves', 'curves'])
    .add('off', 'gauge.formula', [1, 2.1], { formula: 'diameter/2' })
    .add('cut', 'mesh.section', [2, 0.6], { squareTo: 'tangent' }, ['raised', 'any', 'mesh'], ['planes', 'curves', 'planes'], ['off', 'number', 'offset'])
    .add('even', 'pace.resample', [3, 0.6], { count: 72 }, ['cut', 'curves', 'curves'])
    .add('eased', 'shape.smooth', [4, 0.6], { times: 4, keepSize: true }, ['even', 'curves', 'any'])
    .add('rope', 'skin.rope', [5, 0.6], { diameter: { dial: 'diameter' }, layLength: { dial: 'lay' }, sides: 8, ringsPerTurn: 12, uvScale: 0.12 }, [
      'eased',
      'any',
      'curves',
    ])
    .add('hemp', 'mesh.material', [6, 0.6], { name: 'hemp', colour: '#c9a468', roughness: 0.85 }, ['rope', 'mesh', 'any'])
    .add('oak', 'mesh.material', [3, -0.3], { name: 'oak', colour: '#6f5138', roughness: 0.9 }, ['raised', 'any', 'any'])
    .add('stone', 'lay.box', [3, 2], { size: [0.9, 0.16, 0.9], uvScale: 0.3 })
    .add('slab', 'shape.transform', [4, 2], { move: [0, 0.08, 0] }, ['stone', 'mesh', 'any'])
    .add('granite', 'mesh.material', [5, 2], { name: 'granite', colour: '#9a958c', roughness: 0.95 }, ['slab', 'any', 'any'])
    .add('out', 'flow.output', [7, 0.6], { name: 'bollard', budget: 60000 }, ['oak', 'any', 'any'], ['hemp', 'any', 'any'], ['granite', 'any', 'any'])
    .build();
}
