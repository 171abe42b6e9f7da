import { meshIn, meshOut } from '../../definition/ports.js';
import { consistentFaces, facetedNormals, flipFaces, smoothNormals, splitNormals } from '../../mesh/change/normals.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';

export default defineNode({
  type: 'mesh.normals',
  label: 'Normals',
  family: families.mesh,
  summary: 'Flat, smooth, or smooth with edges; turned over or made to agree.',
  help: 'Faceted gives each face its own flat shading; continuous shades smoothly over everything; split keeps edges where faces meet at more than the angle. Make consistent first turns faces so that neighbours wind alike and closed parts face outwards; flip turns everything over.',
  attributes: { writes: ['normal'] },
  keywords: ['shading', 'smooth', 'flat', 'flip', 'inside out', 'edges', 'crease', 'orientation'],
  asks: {
    'smooth shading': { style: 'continuous' },
    'faceted look': { style: 'faceted' },
    'turn it inside out': { flip: true },
    'hard edges': { style: 'split' },
  },
  telling: ['style', 'angle'],
  usualAfter: { mesh: 3 },
  mends: {
    'inside-out': { label: 'Flip its faces', settings: () => ({ flip: true }) },
    winding: { label: 'Make faces consistent', settings: () => ({ consistent: true }) },
    shading: { label: 'Make normals anew', settings: () => ({ style: 'split' }) },
  },
  inputs: [meshIn],
  outputs: [meshOut],
  passes: true,
  where: 'none',
  settings: {
    style: {
      kind: 'choice',
      label: 'Style',
      help: 'How light runs over edges.',
      default: 'split',
      choices: { faceted: 'faceted', continuous: 'continuous', split: 'split at edges', keep: 'as they are' },
      aliases: { splitWhereTheAngleExceedsAngle: 'split' },
    },
    angle: {
      kind: 'number',
      label: 'Angle',
      help: 'Faces that meet at more than this have an edge.',
      default: 30,
      min: 0,
      max: 180,
      unit: '°',
      step: 1,
      shownWhen: { style: ['split'] },
    },
    consistent: { kind: 'boolean', label: 'Make consistent', help: 'Neighbours wind alike; closed parts face outwards.', default: false },
    flip: { kind: 'boolean', label: 'Flip', help: 'Turns all faces over.', default: false },
  },
  run: (context) => {
    const { settings, input } = context;
    const agreed = settings.consistent ? consistentFaces(input('mesh'), context) : input('mesh');
    const turned = settings.flip ? flipFaces(agreed, null, context) : agreed;
    if (settings.style === 'keep') return { mesh: turned };
    if (settings.style === 'faceted') return { mesh: facetedNormals(turned, context) };
    return { mesh: settings.style === 'continuous' ? smoothNormals(turned, context) : splitNormals(turned, settings.angle, context) };
  },
});
