import { meshOut } from '../../definition/ports.js';
import { box } from '../../mesh/make/bodies.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { tileSetting, requireExtent } from './bodySettings.js';

export default defineNode({
  type: 'lay.box',
  label: 'Box',
  family: families.lay,
  summary: 'A box about the origin.',
  help: 'Gives a closed box with its middle in the origin, each side divided into as many squares both ways as you ask. Each side has UVs of its own, from 0 to 1 or in metres per tile. A beam is a long box, turned by Transform.',
  attributes: { writes: ['normal', 'uv'] },
  keywords: ['cube', 'beam', 'block', 'body', 'crate', 'post'],
  asks: {
    'a box': {},
    'a beam': { size: [0.1, 0.1, 2] },
    'a block to wrap round': {},
  },
  telling: ['size'],
  handles: [
    {
      kind: 'extent',
      setting: 'size',
      axes: [
        [1, 0, 0],
        [0, 1, 0],
        [0, 0, 1],
      ],
    },
  ],
  outputs: [meshOut],
  settings: {
    size: { kind: 'vector', label: 'Size', help: 'From side to side along x, y and z.', default: [1, 1, 1], unit: 'm', step: 0.01 },
    divisions: { kind: 'integer', label: 'Divisions', help: 'Squares along each edge.', default: 1, min: 1, max: 1000 },
    uvScale: tileSetting,
  },
  run: (context) => {
    const { size, divisions, uvScale } = context.settings;
    requireExtent(size);
    context.claim({ faces: 6 * divisions ** 2, vertices: 6 * divisions ** 2 + 2 });
    return { mesh: box(size, divisions, uvScale, context) };
  },
});
