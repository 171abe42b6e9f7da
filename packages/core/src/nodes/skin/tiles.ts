import { curvesOut, meshIn, meshOut } from '../../definition/ports.js';
import { tileShapes } from '../../skin/tiles/tilePatterns.js';
import { tiles } from '../../skin/tiles/tiles.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';

export default defineNode({
  type: 'skin.tiles',
  label: 'Tile pattern',
  family: families.skin,
  summary: 'Panels laid over a surface: planks, scales, lozenges, hexagons, triangles or squares.',
  help: 'Lays so many tiles around (along u) and along (along v) over the walls of a loft, a tube or any mesh with UVs, and gives their outlines as closed curves and each tile as a face. At the border tiles are cut, or only whole ones kept; slivers are left out. Scales lie over the row above, with their round ends toward lower v and standing off by the lift. Wrap lets tiles run over the seam of a surface that closes in u.',
  keywords: ['panel', 'hexagon', 'pattern', 'plank', 'scale', 'shingle', 'grid', 'honeycomb', 'cladding', 'lattice'],
  asks: {
    'roof tiles': { shape: 'scale' },
    'bricks over a surface': { shape: 'brick' },
    'hexagons over a surface': { shape: 'hexagon' },
    panels: { shape: 'rectangle' },
  },
  telling: ['shape', 'around', 'along'],
  inputs: [meshIn],
  outputs: [curvesOut, meshOut],
  settings: {
    shape: {
      kind: 'choice',
      label: 'Shape',
      help: 'Of the tiles.',
      default: 'hexagon',
      choices: tileShapes,
      aliases: { plank: 'brick', lozenge: 'diamond', square: 'rectangle' },
    },
    around: { kind: 'integer', label: 'Around', help: 'Tiles side by side, along u.', default: 8, min: 1, max: 10_000 },
    along: { kind: 'integer', label: 'Along', help: 'Rows, along v.', default: 8, min: 1, max: 10_000 },
    gap: { kind: 'number', label: 'Gap', help: 'Between tiles.', default: 0, min: 0, unit: 'm', step: 0.001 },
    lift: {
      kind: 'number',
      label: 'Lift',
      help: 'How far the free ends of scales stand off the surface.',
      default: 0.01,
      min: 0,
      unit: 'm',
      step: 0.001,
      shownWhen: { shape: ['scale'] },
    },
    border: {
      kind: 'choice',
      label: 'Border',
      help: 'Tiles that reach over the border are cut, or left out.',
      default: 'cut',
      choices: { cut: 'cut', wholeOnly: 'whole only' },
    },
    wrap: { kind: 'boolean', label: 'Wrap', help: 'The surface closes in u: tiles run over its seam.', default: false },
  },
  run: (context) => {
    const { settings, input, warn } = context;
    const made = tiles(input('mesh'), settings, context);
    if (made.slivers)
      warn({ code: 'degenerate', message: `${made.slivers} slivers at the border were left out.`, remedy: 'Choose whole only, or another number of tiles.' });
    return { curves: made.curves, mesh: made.mesh };
  },
});
