import type { FilaxisDocument } from '@filaxis/core';
import { DocumentBuilder } from './builder.js';

/** The manifold of the pump house: a woven tree of pipes between three rings, mirrored at the middle of the tank. The waist stands at a share of the height. */
export function pumpHouseManifold(): FilaxisDocument {
  const ring = (radius: string): Record<string, unknown> => ({ radius: { dial: radius }, points: { dial: 'count' } });
  return new DocumentBuilder('Pump-house manifold', [
    { id: 'count', label: 'Pipes', kind: 'integer', value: 18, min: 6, max: 48, step: 1 },
    { id: 'foot', label: 'Foot radius', kind: 'number', value: 0.55, min: 0.2, max: 1.2, step: 0.01, unit: 'm' },
    { id: 'waist', label: 'Waist radius', kind: 'number', value: 0.95, min: 0.3, max: 1.6, step: 0.01, unit: 'm' },
    { id: 'head', label: 'Head radius', kind: 'number', value: 0.7, min: 0.2, max: 1.6, step: 0.01, unit: 'm' },
    { id: 'height', label: 'Height', kind: 'number', value: 1.5, min: 0.6, max: 3, step: 0.01, unit: 'm' },
    { id: 'middle', label: 'Waist at', kind: 'number', value: 0.5, min: 0.1, max: 0.9, step: 0.01 },
    { id: 'weave', label: 'Weave', kind: 'integer', value: 3, min: 0, max: 24, step: 1 },
    { id: 'bore', label: 'Pipe radius', kind: 'number', value: 0.028, min: 0.01, max: 0.05, step: 0.001, unit: 'm' },
  ])
    .add('share', 'gauge.formula', [-2, 1], { formula: 'height*middle' })
    .add('half', 'gauge.vector', [-1, 1], {}, ['share', 'number', 'y'])
    .add('full', 'gauge.vector', [-1, 2], { y: { dial: 'height' } })
    .add('bottom', 'lay.circle', [0, 0], ring('foot'))
    .add('belt', 'lay.circle', [0, 1], ring('waist'), ['half', 'vector', 'centre'])
    .add('top', 'lay.circle', [0, 2], ring('head'), ['full', 'vector', 'centre'])
    .add('shifted', 'pace.reorder', [1, 1], { shift: { dial: 'weave' } }, ['belt', 'curves', 'any'])
    .add('back', 'pace.reorder', [1, 2], { shift: 6 }, ['top', 'curves', 'any'])
    .add('arcs', 'lay.arc3', [2, 1], { points: 24 }, ['bottom', 'curves', 'a'], ['shifted', 'any', 'b'], ['back', 'any', 'c'])
    .add('both', 'shape.mirror', [3, 1], { axis: 'y', offset: { dial: 'height' }, weld: 0.001 }, ['arcs', 'curves', 'any'])
    .add('pipes', 'skin.tube', [4, 1], { radius: { dial: 'bore' }, sides: 14, caps: 'flat', uvScale: 0.1 }, ['both', 'any', 'curves'])
    .add('copper', 'mesh.material', [5, 1], { name: 'copper', colour: '#b0653f', roughness: 0.32, metalness: 0.9 }, ['pipes', 'mesh', 'any'])
    .add('rim', 'lay.circle', [2, 3], { radius: { dial: 'foot' }, points: 64 })
    .add('rims', 'shape.mirror', [3, 3], { axis: 'y', offset: { dial: 'height' } }, ['rim', 'curves', 'any'])
    .add('flange', 'skin.tube', [4, 3], { radius: 0.055, sides: 16, uvScale: 0.1 }, ['rims', 'any', 'curves'])
    .add('iron', 'mesh.material', [5, 3], { name: 'cast iron', colour: '#3f4a52', roughness: 0.6, metalness: 0.7 }, ['flange', 'mesh', 'any'])
    .add('out', 'flow.output', [6, 1.5], { name: 'manifold', budget: 80000 }, ['copper', 'any', 'any'], ['iron', 'any', 'any'])
    .build();
}
