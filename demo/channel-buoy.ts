import { DocumentBuilder, type FilaxisDocument } from '@filaxis/core';

/** A channel buoy that the sea has eaten: where noise has taken its plates the skin is gone, and the edges of its mesh stand as a lattice of rods. A ring and a stub of chain hang at its foot. The noise drifts with time. */
export function channelBuoy(): FilaxisDocument {
  const balls = [[0, 0.35, 0], [0, 0.62, 0], [0, 0.95, 0], [0, 1.3, 0], [0, 1.62, 0], [0, 1.9, 0]]; // prettier-ignore
  return new DocumentBuilder('Channel buoy', [
    { id: 'eaten', label: 'Eaten away', kind: 'number', value: 0.08, min: -0.8, max: 0.8, step: 0.01 },
    { id: 'patch', label: 'Size of patches', kind: 'number', value: 0.55, min: 0.15, max: 2, step: 0.01, unit: 'm' },
    { id: 'drift', label: 'Drift', kind: 'number', value: 0.15, min: 0, max: 1, step: 0.01, unit: 'm/s' },
    { id: 'mesh', label: 'Mesh size', kind: 'number', value: 0.085, min: 0.05, max: 0.2, step: 0.005, unit: 'm' },
    { id: 'rod', label: 'Rods', kind: 'number', value: 0.011, min: 0.003, max: 0.03, step: 0.001, unit: 'm' },
  ])
    .add('spine', 'lay.drawn', [0, 0], { kind: 'straight', curves: [{ points: balls }] })
    .add('hull', 'lay.blob', [1, 0], { radius: { ramp: [[0, 0.42], [0.25, 0.56], [0.5, 0.46], [0.75, 0.26], [1, 0.15]], over: 't' }, blend: 0.24, cell: { dial: 'mesh' } }, ['spine', 'curves', 'points'])
    .add('plates', 'mesh.even', [2, 0], { edge: { dial: 'mesh' }, sharp: 180 }, ['hull', 'mesh', 'mesh'])
    .add('worn', 'mesh.mark', [3, 0], { by: 'noise', size: { dial: 'patch' }, level: { dial: 'eaten' }, seed: 7, shift: [{ formula: 'time * drift' }, 0, 0] }, ['plates', 'mesh', 'any'])
    .add('sides', 'mesh.keep', [4, 0], {}, ['worn', 'any', 'any'])
    .add('rods', 'mesh.edges', [5, 0], { which: 'all' }, ['sides', 'kept', 'mesh'])
    .add('round', 'skin.tube', [6, 0], { radius: { dial: 'rod' }, sides: 6, caps: 'domed' }, ['rods', 'curves', 'curves'])
    .add('rust', 'mesh.material', [7, 0], { name: 'rusted iron', colour: '#7a4a30', roughness: 0.75, metalness: 0.6 }, ['round', 'mesh', 'any'])
    .add('skin', 'mesh.refine', [5, 1], { scheme: 'triangles', times: 1 }, ['sides', 'rest', 'mesh'])
    .add('paint', 'mesh.material', [7, 1], { name: 'green paint', colour: '#3d6b52', roughness: 0.5, metalness: 0.1 }, ['skin', 'mesh', 'any'])
    .add('band', 'lay.circle', [4, 2], { radius: 0.6, points: 64, centre: [0, 0.62, 0] })
    .add('fender', 'skin.tube', [6, 2], { radius: 0.055, sides: 16 }, ['band', 'curves', 'curves'])
    .add('tar', 'mesh.material', [7, 2], { name: 'tarred rubber', colour: '#2f3338', roughness: 0.9 }, ['fender', 'mesh', 'any'])
    .add('eye', 'lay.circle', [4, 3], { radius: 0.11, points: 48, centre: [0, -0.17, 0], axis: [0, 0, 1] })
    .add('ring', 'skin.tube', [5, 3], { radius: 0.028, sides: 14 }, ['eye', 'curves', 'curves'])
    .add('way', 'lay.line', [2, 4], { from: [0, -0.31, 0], to: [0.05, -0.78, 0.03], points: 2 })
    .add('paced', 'pace.resample', [3, 4], { by: 'spacing', spacing: 0.118 }, ['way', 'curves', 'curves'])
    .add('rolled', 'aim.frames', [4, 4], { method: 'minimal', rollStep: 90 }, ['paced', 'curves', 'curves'])
    .add('stadium', 'lay.rectangle', [3, 5], { width: 0.1, height: 0.17, corner: 0.05, plane: 'YZ' })
    .add('link', 'skin.tube', [4, 5], { radius: 0.015, sides: 10 }, ['stadium', 'curves', 'curves'])
    .add('forged', 'mesh.material', [5, 5], { name: 'forged iron', colour: '#4a4f55', roughness: 0.45, metalness: 0.85 }, ['link', 'mesh', 'any'])
    .add('stub', 'place.copies', [6, 4], {}, ['rolled', 'curves', 'curves'], ['forged', 'any', 'objects'])
    .add('iron', 'mesh.material', [7, 3], { name: 'ring iron', colour: '#4a4f55', roughness: 0.45, metalness: 0.85 }, ['ring', 'mesh', 'any'])
    .add('out', 'flow.output', [8, 0.5], { name: 'buoy', budget: 120000 }, ['rust', 'any', 'any'], ['paint', 'any', 'any'], ['tar', 'any', 'any'], ['iron', 'any', 'any'], ['stub', 'copies', 'any'])
    .build();
} // prettier-ignore
