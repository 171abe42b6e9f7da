import { anyIn, anyOut } from '../../definition/ports.js';
import { affineFrom, transformGeometry } from '../../geometry/transform.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { boxOf } from '../../definition/sample.js';

export default defineNode({
  type: 'shape.transform',
  label: 'Transform',
  family: families.shape,
  summary: 'Moves, turns and sizes whatever comes in.',
  help: 'Sizes first, then turns about X, Y and Z, both about the pivot, then moves. Works on curves, points, meshes and copies. Frames turn along; a mirrored size keeps faces pointing outwards.',
  keywords: ['move', 'rotate', 'scale', 'translate', 'turn', 'size', 'mirror'],
  asks: {
    'move it up': { move: [0, 1, 0] },
    'turn it': { turn: [0, 90, 0] },
    'make it twice as big': { size: [2, 2, 2] },
    'lay it flat': { turn: [90, 0, 0] },
    'move and rotate': {},
  },
  telling: ['move', 'turn', 'size'],
  sample: { settings: { move: [0, 0.5, 0], turn: [0, 30, 0] }, given: { any: boxOf(0.4, 0.2, 0.8) } },
  usualAfter: { curves: 9, copies: 3 },
  handles: [
    { kind: 'place', setting: 'move', at: ['pivot'] },
    { kind: 'place', setting: 'pivot', beside: true },
    { kind: 'turn', setting: 'turn', at: ['pivot', 'move'] },
    { kind: 'factors', setting: 'size', at: ['pivot', 'move'] },
  ],
  inputs: [anyIn],
  outputs: [anyOut],
  passes: true,
  where: 'point',
  settings: {
    move: { kind: 'vector', label: 'Move', help: 'How far it moves along each axis.', default: [0, 0, 0], unit: 'm', step: 0.01 },
    turn: { kind: 'vector', label: 'Turn', help: 'Degrees about X, then Y, then Z.', default: [0, 0, 0], unit: '°', step: 1 },
    size: { kind: 'vector', label: 'Size', help: 'Factor along each axis.', default: [1, 1, 1], step: 0.01, direction: true },
    pivot: { kind: 'vector', label: 'Pivot', help: 'The place that turning and sizing leave where it is.', default: [0, 0, 0], unit: 'm', step: 0.01 },
  },
  run: ({ settings, input }) => ({ any: transformGeometry(input('any'), affineFrom(settings)) }),
});
