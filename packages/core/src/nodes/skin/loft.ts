import { loft } from '../../skin/loft.js';
import { tileShapes } from '../../skin/tilePatterns.js';
import { tiles } from '../../skin/tiles.js';
import { defineNode } from '../../graph/define.js';
import { families } from '../families.js';
import { namedCounts, pairedCount, unequalSetting } from '../unequal.js';
import { capSettings, uvSettings } from './shared.js';

export const loftNode = defineNode({
  type: 'skin.loft',
  label: 'Loft',
  family: families.skin,
  summary: 'A surface over a row of curves, from each to the next.',
  help: 'With columns, every curve gets as many points, so curves drawn with different numbers become an even patch; without, their points are joined as they are; where their numbers differ, each gets as many as the richest has, unless you choose otherwise. Across puts rows between each two curves; Rows spaces so many anew over the whole, straight from curve to curve or smooth through them. Curves that run against the one before are turned. UVs: u along the curves, v across, both by length.',
  attributes: { writes: ['normal', 'uv', 'part'] },
  keywords: ['skin', 'bridge', 'patch', 'hull', 'surface', 'ruled', 'between', 'grid'],
  inputs: [{ name: 'curves', kinds: ['curves'] }],
  outputs: [{ name: 'mesh', kind: 'mesh' }],
  settings: {
    columns: { kind: 'integer', label: 'Columns', help: 'Points along each curve; 0 takes them as they are.', default: 0, min: 0, max: 100_000 },
    across: { kind: 'integer', label: 'Across', help: 'Rows put between each two curves.', default: 0, min: 0, max: 10_000, shownWhen: { rows: [0] } },
    rows: {
      kind: 'integer',
      label: 'Rows',
      help: 'Above 0: so many rows in all, spaced anew from the first curve to the last.',
      default: 0,
      min: 0,
      max: 100_000,
    },
    smooth: {
      kind: 'choice',
      label: 'Smooth',
      help: 'Straight from curve to curve, or smooth through them.',
      default: 'linear',
      choices: { linear: 'linear', through: 'through' },
    },
    spread: {
      kind: 'choice',
      label: 'Spread',
      help: 'How columns and rows are spaced.',
      default: 'even',
      choices: { even: 'even', ends: 'closer to the ends', curvature: 'closer in bends' },
      aliases: { closerToTheEnds: 'ends' },
    },
    closedAcross: { kind: 'boolean', label: 'Closed across', help: 'Joins the last curve to the first.', default: false },
    matchDirection: { kind: 'boolean', label: 'Match direction', help: 'Turns curves that run against the one before.', default: true },
    flip: { kind: 'boolean', label: 'Flip', help: 'Turns the faces over.', default: false },
    caps: {
      kind: 'choice',
      label: 'Caps',
      help: 'Closes the first and the last of closed curves with flat faces.',
      default: 'open',
      choices: { open: 'open', flat: 'flat' },
    },
    unequal: {
      ...unequalSetting.unequal,
      help: 'What to do when the curves have different numbers of points and Columns is 0: give all as many as the richest has, refuse, stop at the shortest, or begin the shorter ones again.',
      default: 'even',
      choices: { even: 'even them out', ...unequalSetting.unequal.choices },
    },
    ...uvSettings,
    ...capSettings,
  },
  run: (context) => {
    const { settings, curves, warn } = context;
    const unequal = (counts: Readonly<Record<string, number>>): number | null => {
      if (settings.unequal !== 'even')
        return pairedCount(counts, settings.unequal, 'Set Columns, so that each gets as many points, or Unequal lists to even them out.');
      const most = Object.values(counts).reduce((a, b) => Math.max(a, b));
      warn({
        code: 'unequal-lists',
        message: `The curves have different numbers of points (${namedCounts(counts)}); each was given ${most}.`,
        remedy: 'Set Columns to say how many.',
      });
      return null;
    };
    const mesh = loft(curves('curves'), { ...settings, unequal }, context);
    if (!mesh.corners.length)
      warn({ code: 'degenerate', message: 'The curves lie on each other, so there is no surface between them.', remedy: 'Move them apart.' });
    return { mesh };
  },
});

export const tilesNode = defineNode({
  type: 'skin.tiles',
  label: 'Tile pattern',
  family: families.skin,
  summary: 'Panels laid over a surface: planks, scales, lozenges, hexagons, triangles or squares.',
  help: 'Lays so many tiles around (along u) and along (along v) over the walls of a loft, a tube or any mesh with UVs, and gives their outlines as closed curves and each tile as a face. At the border tiles are cut, or only whole ones kept; slivers are left out. Scales lie over the row above, with their round ends toward lower v and standing off by the lift. Wrap lets tiles run over the seam of a surface that closes in u.',
  keywords: ['panel', 'hexagon', 'pattern', 'plank', 'scale', 'shingle', 'grid', 'honeycomb', 'cladding', 'lattice'],
  inputs: [{ name: 'mesh', kinds: ['mesh'] }],
  outputs: [
    { name: 'curves', kind: 'curves' },
    { name: 'mesh', kind: 'mesh' },
  ],
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
    const { settings, mesh, warn } = context;
    const made = tiles(mesh('mesh'), settings, context);
    if (made.slivers)
      warn({ code: 'degenerate', message: `${made.slivers} slivers at the border were left out.`, remedy: 'Choose whole only, or another number of tiles.' });
    return { curves: made.curves, mesh: made.mesh };
  },
});
