import { DocumentBuilder, type FilaxisDocument } from '@filaxis/core';

/** The chain of the lamp buoy: links along a hanging path, each rolled a quarter from the last, with a marker of three axes on every link. */
export function mooringChain(): FilaxisDocument {
  return new DocumentBuilder('Mooring chain', [
    { id: 'slack', label: 'Slack', kind: 'number', value: 0.16, min: 0.01, max: 0.6, step: 0.005 },
    { id: 'pitch', label: 'Pitch', kind: 'number', value: 0.118, min: 0.08, max: 0.2, step: 0.001, unit: 'm' },
    { id: 'roll', label: 'Roll a link', kind: 'number', value: 90, min: 0, max: 180, step: 1, unit: '°' },
    { id: 'wire', label: 'Iron', kind: 'number', value: 0.014, min: 0.006, max: 0.022, step: 0.0005, unit: 'm' },
  ])
    .add('from', 'lay.line', [0, 0], { from: [-1.4, 1.5, 0], to: [1.4, 0.9, 0.3] })
    .add('hang', 'shape.hang', [1, 0], { by: 'slack', value: { dial: 'slack' }, points: 60 }, ['from', 'curves', 'curves'])
    .add('links', 'pace.resample', [2, 0], { by: 'spacing', spacing: { dial: 'pitch' } }, ['hang', 'curves', 'curves'])
    .add('roll', 'aim.frames', [3, 0], { method: 'upright', rollStep: { dial: 'roll' } }, ['links', 'curves', 'curves'])
    .add('stadium', 'lay.rectangle', [1, 1.4], { width: 0.1, height: 0.17, corner: 0.05, plane: 'YZ' })
    .add('link', 'skin.tube', [2, 1.4], { radius: { dial: 'wire' }, sides: 12, uvScale: 0.05 }, ['stadium', 'curves', 'curves'])
    .add('iron', 'mesh.material', [3, 1.4], { name: 'forged iron', colour: '#4a4f55', roughness: 0.45, metalness: 0.85 }, ['link', 'mesh', 'any'])
    .add('chain', 'place.copies', [4, 0], {}, ['roll', 'curves', 'curves'], ['iron', 'any', 'objects'])
    .add('side', 'lay.line', [1, 2.6], { to: [0.11, 0, 0] })
    .add('up', 'lay.line', [1, 3.4], { to: [0, 0.11, 0] })
    .add('ahead', 'lay.line', [1, 4.2], { to: [0, 0, 0.11] })
    .add('sideArm', 'skin.tube', [2, 2.6], { radius: 0.0035, sides: 8, caps: 'flat' }, ['side', 'curves', 'curves'])
    .add('upArm', 'skin.tube', [2, 3.4], { radius: 0.0035, sides: 8, caps: 'flat' }, ['up', 'curves', 'curves'])
    .add('aheadArm', 'skin.tube', [2, 4.2], { radius: 0.0035, sides: 8, caps: 'flat' }, ['ahead', 'curves', 'curves'])
    .add('red', 'mesh.material', [3, 2.6], { name: 'side', colour: '#a2323f' }, ['sideArm', 'mesh', 'any'])
    .add('green', 'mesh.material', [3, 3.4], { name: 'normal', colour: '#3f7d5c' }, ['upArm', 'mesh', 'any'])
    .add('blue', 'mesh.material', [3, 4.2], { name: 'tangent', colour: '#33518f' }, ['aheadArm', 'mesh', 'any'])
    .add('marker', 'flow.join', [4, 3.4], {}, ['red', 'any', 'any'], ['green', 'any', 'any'], ['blue', 'any', 'any'])
    .add('markers', 'place.copies', [5, 2.4], {}, ['roll', 'curves', 'curves'], ['marker', 'any', 'objects'])
    .add('out', 'flow.output', [6, 0.8], { name: 'chain', budget: 60000 }, ['chain', 'copies', 'any'], ['markers', 'copies', 'any'])
    .build();
}
