import { seedSetting } from '../settings/common.js';
import { meshOut } from '../../definition/ports.js';
import { terrain } from '../../mesh/make/bodies.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { tileSetting, requireExtent, divisionsSetting, two } from './bodySettings.js';

export default defineNode({
  type: 'lay.terrain',
  label: 'Terrain',
  family: families.lay,
  summary: 'Ground with hills, to lay paths and fences over.',
  help: 'A grid whose heights are fractal noise: broad hills, about three across the ground, with finer ones on them. Roughness says how much the finer ones count: 0 leaves the broad ones alone. The heights lie about 0, no further apart than the height. The same seed gives the same ground on every machine.',
  attributes: { writes: ['normal', 'uv'] },
  keywords: ['ground', 'land', 'hills', 'landscape', 'relief', 'height', 'body'],
  asks: {
    'hilly ground': {},
    'rougher ground': { roughness: 0.8 },
    'flatter ground': { height: 0.3 },
  },
  telling: ['size', 'height'],
  handles: [
    {
      kind: 'extent',
      setting: 'size',
      axes: [
        [1, 0, 0],
        [0, 0, 1],
      ],
    },
    { kind: 'length', setting: 'height', along: [0, 1, 0] },
  ],
  outputs: [meshOut],
  settings: {
    size: {
      kind: 'vector',
      label: 'Size',
      help: 'From side to side along x and z.',
      default: [160, 120],
      earlier: { before: 2, default: [200, 200] },
      axes: ['x', 'z'],
      unit: 'm',
      step: 1,
    },
    divisions: { ...divisionsSetting, default: 200 },
    height: { kind: 'number', label: 'Height', help: 'From the lowest to the highest place at most.', default: 12, min: 0, unit: 'm', step: 0.1 },
    seed: { ...seedSetting, help: 'Another number is another ground.' },
    roughness: { kind: 'number', label: 'Roughness', help: 'How high hills half as wide are.', default: 0.45, min: 0, max: 1, step: 0.01 },
    uvScale: tileSetting,
  },
  run: (context) => {
    const { settings, claim } = context;
    const [nx, nz] = two(settings.divisions);
    requireExtent(settings.size);
    claim({ faces: nx * nz, vertices: (nx + 1) * (nz + 1) });
    return { mesh: terrain({ ...settings, divisions: [nx, nz] }, context) };
  },
});
