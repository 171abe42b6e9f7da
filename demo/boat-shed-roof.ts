import type { FilaxisDocument } from '@filaxis/core';
import { DocumentBuilder } from './builder.js';

/** The boat shed's ribbed roof: arcs over a bent ground line, a loft with hexagonal panels as pipes, and a floor. */
export function boatShedRoof(): FilaxisDocument {
  return new DocumentBuilder('Boat-shed roof', [
    { id: 'ribs', label: 'Ribs', kind: 'integer', value: 11, min: 3, max: 24, step: 1 },
    { id: 'width', label: 'Width', kind: 'vector', value: [0, 0, 4.4], unit: 'm' },
    { id: 'height', label: 'Ridge', kind: 'vector', value: [0, 2.6, 2.2], unit: 'm' },
    { id: 'around', label: 'Panels across', kind: 'integer', value: 9, min: 3, max: 24, step: 1 },
    { id: 'along', label: 'Panels along', kind: 'integer', value: 14, min: 3, max: 40, step: 1 },
  ])
    .add('ground', 'lay.drawn', [0, 0], {
      kind: 'through',
      curves: [
        {
          points: [
            [-4.5, 0, -2.2],
            [-1.4, 0, -2.75],
            [1.6, 0, -1.75],
            [4.5, 0, -2.3],
          ],
        },
      ],
    }) // prettier-ignore
    .add('left', 'pace.resample', [1, 0], { count: { dial: 'ribs' } }, ['ground', 'curves', 'curves'])
    .add('right', 'shape.transform', [2, 1.6], { move: { dial: 'width' } }, ['left', 'curves', 'any'])
    .add('ridge', 'shape.transform', [2, 0.8], { move: { dial: 'height' } }, ['left', 'curves', 'any'])
    .add('arcs', 'lay.arc3', [3, 0.4], { points: 21 }, ['left', 'curves', 'a'], ['ridge', 'any', 'b'], ['right', 'any', 'c'])
    .add('shell', 'skin.loft', [4, 0], { columns: 25, across: 2, smooth: 'through' }, ['arcs', 'curves', 'curves'])
    .add('panels', 'skin.tiles', [5, 0], { shape: 'hexagon', around: { dial: 'around' }, along: { dial: 'along' }, border: 'cut' }, ['shell', 'mesh', 'mesh'])
    .add('frames', 'skin.tube', [6, 0], { radius: 0.022, sides: 6 }, ['panels', 'curves', 'curves'])
    .add('larch', 'mesh.material', [7, 0], { name: 'larch', colour: '#a8764a', roughness: 0.75 }, ['frames', 'mesh', 'any'])
    .add('glazing', 'skin.tiles', [5, 1], { shape: 'hexagon', around: { dial: 'around' }, along: { dial: 'along' }, border: 'cut', gap: 0.05 }, [
      'shell',
      'mesh',
      'mesh',
    ])
    .add('glass', 'mesh.material', [7, 1], { name: 'salt glass', colour: '#8fb3ad', roughness: 0.15, opacity: 0.42 }, ['glazing', 'mesh', 'any'])
    .add('bows', 'skin.tube', [6, 2], { radius: 0.06, sides: 12, caps: 'flat' }, ['arcs', 'curves', 'curves'])
    .add('steel', 'mesh.material', [7, 2], { name: 'tarred steel', colour: '#2f3640', roughness: 0.5, metalness: 0.8 }, ['bows', 'mesh', 'any'])
    .add('sides', 'flow.join', [3, 2.6], {}, ['left', 'curves', 'any'], ['right', 'any', 'any'])
    .add('floor', 'skin.loft', [4, 2.6], { columns: 40, across: 7 }, ['sides', 'any', 'curves'])
    .add('slab', 'skin.extrude', [5, 2.6], { distance: 0.12, direction: 'axis', axis: [0, -1, 0], uvScale: 0.5 }, ['floor', 'mesh', 'mesh'])
    .add('face', 'mesh.normals', [6, 2.8], { consistent: true }, ['slab', 'mesh', 'mesh'])
    .add('plank', 'mesh.material', [7, 3], { name: 'wet concrete', colour: '#b5ab98', roughness: 0.85 }, ['face', 'mesh', 'any'])
    .add(
      'out',
      'flow.output',
      [8, 1.4],
      { name: 'shed', budget: 120000 },
      ['larch', 'any', 'any'],
      ['glass', 'any', 'any'],
      ['steel', 'any', 'any'],
      ['plank', 'any', 'any'],
    )
    .build();
}
