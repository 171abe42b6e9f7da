import { DocumentBuilder, type FilaxisDocument } from '@filaxis/core';

/** A weathered tide-gate boss: where noise has eaten it the skin is gone, and the edges of its mesh stand as a lattice of rods. The noise drifts with time. */
export function tideGateLattice(): FilaxisDocument {
  const lumps = [[-0.75, 0.5, 0], [-0.35, 0.62, 0.08], [0, 0.55, -0.05], [0.4, 0.66, 0.06], [0.8, 0.5, -0.04], [0.02, 0.95, 0.02], [-0.5, 0.28, -0.1], [0.55, 0.3, 0.1]]; // prettier-ignore
  return new DocumentBuilder('Tide-gate lattice', [
    { id: 'eaten', label: 'Eaten away', kind: 'number', value: 0.05, min: -0.8, max: 0.8, step: 0.01 },
    { id: 'patch', label: 'Size of patches', kind: 'number', value: 0.6, min: 0.15, max: 2, step: 0.01, unit: 'm' },
    { id: 'drift', label: 'Drift', kind: 'number', value: 0.15, min: 0, max: 1, step: 0.01, unit: 'm/s' },
    { id: 'mesh', label: 'Mesh size', kind: 'number', value: 0.09, min: 0.05, max: 0.2, step: 0.005, unit: 'm' },
    { id: 'rod', label: 'Rods', kind: 'number', value: 0.011, min: 0.003, max: 0.03, step: 0.001, unit: 'm' },
  ])
    .add('lumps', 'lay.drawn', [0, 0], { kind: 'straight', curves: [{ points: lumps }] })
    .add('boss', 'lay.blob', [1, 0], { radius: { formula: '0.24 + 0.12 * random(1)' }, blend: 0.22, cell: { dial: 'mesh' } }, ['lumps', 'curves', 'points'])
    .add('worn', 'mesh.mark', [2, 0], { by: 'noise', size: { dial: 'patch' }, level: { dial: 'eaten' }, seed: 3, shift: [{ formula: 'time * drift' }, 0, 0] }, [
      'boss',
      'mesh',
      'any',
    ]) // prettier-ignore
    .add('part', 'mesh.keep', [3, 0], {}, ['worn', 'any', 'any'])
    .add('rods', 'mesh.edges', [4, 0], { which: 'all' }, ['part', 'kept', 'mesh'])
    .add('round', 'skin.tube', [5, 0], { radius: { dial: 'rod' }, sides: 6, caps: 'domed' }, ['rods', 'curves', 'curves'])
    .add('bronze', 'mesh.material', [6, 0], { name: 'bronze', colour: '#8a6a3c', roughness: 0.45, metalness: 0.8 }, ['round', 'mesh', 'any'])
    .add('skin', 'mesh.refine', [4, 1], { scheme: 'triangles', times: 1 }, ['part', 'rest', 'mesh'])
    .add('patina', 'mesh.material', [6, 1], { name: 'patina', colour: '#5f8f7f', roughness: 0.7, metalness: 0.2 }, ['skin', 'mesh', 'any'])
    .add('out', 'flow.output', [7, 0.5], { name: 'boss', budget: 120000 }, ['bronze', 'any', 'any'], ['patina', 'any', 'any'])
    .build();
}
