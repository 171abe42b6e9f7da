import { DocumentBuilder, type FilaxisDocument } from '@filaxis/core';

/** Half frames of the dinghy, taken off by hand: as many points as the builder felt like, one from the gunwale down. */
const frames = [
  { points: [[2.15, 0.78, 0.02], [2.12, 0.62, 0.02], [2.02, 0.42, 0.015], [1.86, 0.2, 0.01], [1.62, 0.06, 0]] },
  { points: [[1.45, 0.02, 0], [1.47, 0.06, 0.16], [1.5, 0.24, 0.34], [1.53, 0.48, 0.45], [1.55, 0.68, 0.49]] },
  { points: [[0.7, 0.6, 0.74], [0.7, 0.4, 0.71], [0.7, 0.2, 0.6], [0.7, 0.05, 0.36], [0.7, 0.01, 0.14], [0.7, 0, 0]] },
  { points: [[-0.3, 0, 0], [-0.3, 0.03, 0.34], [-0.3, 0.14, 0.64], [-0.3, 0.56, 0.8]] },
  { points: [[-1.2, 0.02, 0], [-1.2, 0.05, 0.24], [-1.2, 0.14, 0.47], [-1.21, 0.3, 0.61], [-1.22, 0.45, 0.67], [-1.23, 0.58, 0.69], [-1.23, 0.62, 0.69]] },
  { points: [[-1.85, 0.7, 0.5], [-1.83, 0.45, 0.45], [-1.8, 0.2, 0.26], [-1.78, 0.11, 0]] },
]; // prettier-ignore

/** The clinker dinghy on the slip: a hull lofted from uneven frames as an even patch, mirrored, with a rail and a keel. */
export function clinkerDinghy(): FilaxisDocument {
  return new DocumentBuilder('Clinker dinghy', [
    { id: 'columns', label: 'Strakes', kind: 'integer', value: 18, min: 6, max: 48, step: 1 },
    { id: 'rows', label: 'Stations', kind: 'integer', value: 26, min: 6, max: 60, step: 1 },
    { id: 'planking', label: 'Planking', kind: 'number', value: 0.018, min: 0.006, max: 0.05, step: 0.001, unit: 'm' },
    { id: 'rail', label: 'Rail', kind: 'number', value: 1, min: 0.5, max: 2, step: 0.01 },
  ])
    .add('frames', 'lay.drawn', [0, 0], { kind: 'through', curves: frames })
    .add('hull', 'skin.loft', [1, 0], { columns: { dial: 'columns' }, rows: { dial: 'rows' }, smooth: 'through', uvScale: 0.4 }, ['frames', 'curves', 'curves'])
    .add('whole', 'shape.mirror', [2, 0], { axis: 'z', weld: 0.004 }, ['hull', 'mesh', 'any'])
    .add('sound', 'mesh.normals', [3, 0], { style: 'split', angle: 50, consistent: true }, ['whole', 'any', 'mesh'])
    .add('planks', 'skin.extrude', [4, 0], { distance: { dial: 'planking' }, towards: 'bothWays', uvScale: 0.4 }, ['sound', 'mesh', 'mesh'])
    .add('spruce', 'mesh.material', [5, 0], { name: 'oiled spruce', colour: '#c58f53', roughness: 0.55 }, ['planks', 'mesh', 'any'])
    .add('gunwale', 'lay.drawn', [0, 1.6], {
      kind: 'through',
      curves: [
        {
          points: [
            [2.15, 0.79, 0.02],
            [1.55, 0.69, 0.5],
            [0.7, 0.61, 0.75],
            [-0.3, 0.57, 0.81],
            [-1.23, 0.63, 0.7],
            [-1.85, 0.71, 0.51],
          ],
        },
      ],
    }) // prettier-ignore
    .add('even', 'pace.resample', [1, 1.6], { by: 'spacing', spacing: 0.06 }, ['gunwale', 'curves', 'curves'])
    .add('upright', 'aim.frames', [2, 1.6], { method: 'upright' }, ['even', 'curves', 'curves'])
    .add('section', 'lay.rectangle', [2, 2.6], { width: 0.05, height: 0.035, corner: 0.008 })
    .add(
      'rail',
      'skin.sweep',
      [3, 1.6],
      { size: { dial: 'rail' }, caps: 'flat', uvScale: 0.2 },
      ['upright', 'curves', 'curves'],
      ['section', 'curves', 'profile'],
    )
    .add('rails', 'shape.mirror', [4, 1.6], { axis: 'z' }, ['rail', 'mesh', 'any'])
    .add('keelLine', 'lay.drawn', [0, 3.4], {
      kind: 'through',
      curves: [
        {
          points: [
            [2.17, 0.8, 0],
            [2.05, 0.42, 0],
            [1.64, 0.04, 0],
            [0.7, -0.03, 0],
            [-0.6, -0.03, 0],
            [-1.79, 0.07, 0],
          ],
        },
      ],
    }) // prettier-ignore
    .add('keelFrames', 'aim.frames', [2, 3.4], { method: 'minimal', start: [0, 1, 0] }, ['keelLine', 'curves', 'curves'])
    .add('keelSection', 'lay.rectangle', [2, 4.2], { width: 0.09, height: 0.04, corner: 0.006 })
    .add('keel', 'skin.sweep', [3, 3.4], { caps: 'flat', uvScale: 0.2 }, ['keelFrames', 'curves', 'curves'], ['keelSection', 'curves', 'profile'])
    .add('timber', 'flow.join', [5, 2.4], {}, ['rails', 'any', 'any'], ['keel', 'mesh', 'any'])
    .add('oak', 'mesh.material', [6, 2.4], { name: 'dark oak', colour: '#6b4a2f', roughness: 0.6 }, ['timber', 'any', 'any'])
    .add('out', 'flow.output', [7, 1], { name: 'dinghy', budget: 40000 }, ['spruce', 'any', 'any'], ['oak', 'any', 'any'])
    .build();
}
