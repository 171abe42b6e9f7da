import { curvesOut, meshIn } from '../../definition/ports.js';
import { curveCount } from '../../geometry/curves.js';
import { edgePaths } from '../../mesh/topology/edgePaths.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';

export default defineNode({
  type: 'mesh.edges',
  label: 'Edges as curves',
  family: families.mesh,
  summary: 'The edges of a mesh as paths, each edge once.',
  help: 'Gives all edges, or those on the border, those where faces meet at more than the angle, those of marked faces (or between marked points), or those between parts or kinds of faces, such as between wall and cap. Edges that faces share come once. Each edge may be a curve; trails are as few curves as can be, without going over an edge twice; loops run from one junction to the next, and close where there is none, as borders do. Curves are straight between their points; smooth or resample them behind this. Single values of corners come along.',
  attributes: { reads: ['mark', 'part', 'body'], keeps: ['corner', 'whole'] },
  keywords: ['wireframe', 'border', 'boundary', 'outline', 'lines', 'wire', 'crease', 'lattice', 'net', 'cage'],
  asks: {
    'edges as paths': {},
    'the border of a mesh': { which: 'boundary' },
    'only sharp edges': { which: 'sharp' },
  },
  telling: ['which'],
  inputs: [meshIn],
  outputs: [curvesOut],
  settings: {
    which: {
      kind: 'choice',
      label: 'Which',
      help: 'Which edges.',
      default: 'all',
      choices: { all: 'all', boundary: 'boundary', sharp: 'sharp', marked: 'marked', betweenParts: 'between parts or kinds' },
    },
    angle: {
      kind: 'number',
      label: 'Angle',
      help: 'Faces that meet at more than this have a sharp edge.',
      default: 30,
      min: 0,
      max: 180,
      unit: '°',
      step: 1,
      shownWhen: { which: ['sharp'] },
    },
    chain: {
      kind: 'choice',
      label: 'Chain',
      help: 'How edges are put together.',
      default: 'each',
      choices: { each: 'each edge', trails: 'trails', loops: 'loops' },
      aliases: { eachEdge: 'each' },
    },
  },
  run: (context) => {
    const { settings, input, warn } = context;
    const curves = edgePaths(input('mesh'), settings, context);
    if (!curveCount(curves)) warn({ code: 'empty', message: 'No edge of the mesh is asked for.', remedy: 'Choose other edges, or a smaller angle.' });
    return { curves };
  },
});
