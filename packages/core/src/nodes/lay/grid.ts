import { meshOut } from '../../definition/ports.js';
import { grid } from '../../mesh/make/bodies.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { tileSetting, requireExtent, divisionsSetting, two } from './bodySettings.js';

export default defineNode({
  type: 'lay.grid',
  label: 'Grid',
  family: families.lay,
  summary: 'A level grid about the origin that looks up.',
  help: 'Gives a flat sheet of squares in the plane of x and z. UVs run from 0 to 1 or in metres per tile, u along x and v away from you. Displace makes it uneven.',
  attributes: { writes: ['normal', 'uv'] },
  keywords: ['plane', 'floor', 'sheet', 'ground', 'body', 'deck'],
  asks: {
    'a flat sheet': {},
    'a floor': { size: [10, 10] },
  },
  telling: ['size'],
  handles: [
    {
      kind: 'extent',
      setting: 'size',
      axes: [
        [1, 0, 0],
        [0, 0, 1],
      ],
    },
  ],
  outputs: [meshOut],
  settings: {
    size: { kind: 'vector', label: 'Size', help: 'From side to side along x and z.', default: [1, 1], axes: ['x', 'z'], unit: 'm', step: 0.01 },
    divisions: { ...divisionsSetting, default: 10 },
    uvScale: tileSetting,
  },
  run: (context) => {
    const { settings, claim } = context;
    const [nx, nz] = two(settings.divisions);
    requireExtent(settings.size);
    claim({ faces: nx * nz, vertices: (nx + 1) * (nz + 1) });
    return { mesh: grid(settings.size, [nx, nz], settings.uvScale, context) };
  },
});
