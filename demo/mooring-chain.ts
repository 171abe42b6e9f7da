import { DocumentBuilder, type FilaxisDocument } from '@filaxis/core';

/** The chain of the lamp buoy: forged links along a hanging path, each rolled a quarter from the last, with a pennant tied to every few links so that boats see it. */
export function mooringChain(): FilaxisDocument {
  const pennant = [[0, 0, 0], [0, -0.12, 0.012], [0.02, -0.3, 0.03], [-0.015, -0.46, 0.012]]; // prettier-ignore
  return new DocumentBuilder('Mooring chain', [
    { id: 'slack', label: 'Slack', kind: 'number', value: 0.16, min: 0.01, max: 0.6, step: 0.005 },
    { id: 'pitch', label: 'Pitch', kind: 'number', value: 0.118, min: 0.08, max: 0.2, step: 0.001, unit: 'm' },
    { id: 'roll', label: 'Roll a link', kind: 'number', value: 90, min: 0, max: 180, step: 1, unit: '°' },
    { id: 'wire', label: 'Iron', kind: 'number', value: 0.014, min: 0.006, max: 0.022, step: 0.0005, unit: 'm' },
    { id: 'every', label: 'A pennant every', kind: 'integer', value: 4, min: 1, max: 20, step: 1 },
  ])
    .add('from', 'lay.line', [0, 0], { from: [-1.4, 1.5, 0], to: [1.4, 0.9, 0.3] })
    .add('hang', 'shape.hang', [1, 0], { by: 'slack', value: { dial: 'slack' }, points: 60 }, ['from', 'curves', 'curves'])
    .add('links', 'pace.resample', [2, 0], { by: 'spacing', spacing: { dial: 'pitch' } }, ['hang', 'curves', 'curves'])
    .add('roll', 'aim.frames', [3, 0], { method: 'upright', rollStep: { dial: 'roll' } }, ['links', 'curves', 'curves'])
    .add('stadium', 'lay.rectangle', [1, 1.4], { width: 0.1, height: 0.17, corner: 0.05, plane: 'YZ' })
    .add('link', 'skin.tube', [2, 1.4], { radius: { dial: 'wire' }, sides: 12, uvScale: 0.05 }, ['stadium', 'curves', 'curves'])
    .add('iron', 'mesh.material', [3, 1.4], { name: 'forged iron', colour: '#4a4f55', roughness: 0.45, metalness: 0.85 }, ['link', 'mesh', 'any'])
    .add('chain', 'place.copies', [4, 0], {}, ['roll', 'curves', 'curves'], ['iron', 'any', 'objects'])
    .add('tied', 'pace.points', [3, 2.6], { every: { dial: 'every' } }, ['links', 'curves', 'curves'])
    .add('fall', 'lay.drawn', [1, 3.4], { kind: 'through', curves: [{ points: pennant }] })
    .add('faced', 'aim.frames', [2, 3.4], { method: 'upright', up: [0, 0, 1] }, ['fall', 'curves', 'curves'])
    .add('cloth', 'skin.ribbon', [3, 3.4], { width: { formula: '0.11 * (1 - 0.85 * t)' }, columns: 3 }, ['faced', 'curves', 'curves'])
    .add('madder', 'mesh.material', [4, 3.4], { name: 'madder cloth', colour: '#a2323f', roughness: 0.85 }, ['cloth', 'mesh', 'any'])
    .add('pennants', 'place.copies', [5, 2.6], { align: 'upright', lean: { random: [-35, 35], seed: 6 }, toward: -90, size: { random: [0.8, 1.15], seed: 2 } }, ['tied', 'points', 'points'], ['madder', 'any', 'objects'])
    .add('out', 'flow.output', [6, 0.8], { name: 'chain', budget: 60000 }, ['chain', 'copies', 'any'], ['pennants', 'copies', 'any'])
    .build();
} // prettier-ignore
