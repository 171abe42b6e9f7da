import { meshIn, meshOut } from '../../definition/ports.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { triangleCount } from '../../geometry/mesh.js';
import { reduce } from '../../mesh/change/reduce.js';
import { deviationOf } from '../../shape/deviation.js';
import { withFaceValues } from '../../shape/ontoSurface.js';

export default defineNode({
  type: 'mesh.reduce',
  label: 'Reduce',
  family: families.mesh,
  summary: 'Makes a mesh of fewer triangles that looks as much like it as can be.',
  help: 'Takes edges away where that changes the surface least, down to a share of the triangles or to a number, but no further off the surface than the greatest error, which is measured. A closed body stays closed. Points that stay do not move, so UVs and seams stay true; faces get the values of the place they lie on. Hold the border where the mesh is to meet another.',
  attributes: { keeps: ['corner', 'face', 'whole'] },
  keywords: ['decimate', 'simplify', 'lod', 'polycount', 'fewer', 'lighter', 'optimise', 'low'],
  asks: {
    'fewer triangles': { by: 'share' },
    'reduce to a number of triangles': { by: 'triangles' },
    'a lighter mesh for growth': { by: 'share', ratio: 0.1 },
  },
  telling: ['by', 'ratio', 'triangles'],
  inputs: [meshIn],
  outputs: [meshOut],
  passes: true,
  where: 'none',
  settings: {
    by: {
      kind: 'choice',
      label: 'By',
      help: 'A share of the triangles, or their number.',
      default: 'share',
      choices: { share: 'share', triangles: 'number' },
      aliases: { ratio: 'share' },
    },
    ratio: {
      kind: 'number',
      label: 'Share',
      help: 'Of the triangles that is to be left.',
      default: 0.25,
      min: 0,
      max: 1,
      step: 0.01,
      shownWhen: { by: ['share'] },
    },
    triangles: { kind: 'integer', label: 'Triangles', help: 'That are to be left.', default: 5000, min: 1, max: 20_000_000, shownWhen: { by: ['triangles'] } },
    maxError: {
      kind: 'number',
      label: 'Greatest error',
      help: 'How far the surface may come off.',
      default: 0,
      min: 0,
      unit: 'm',
      step: 0.001,
      special: { called: 'as far as it takes', instead: 0.005 },
    },
    keepBorder: { kind: 'boolean', label: 'Hold borders', help: 'Open borders stay as they are.', default: false },
  },
  upgrade: (settings) =>
    settings['triangles'] !== undefined && settings['ratio'] === undefined && settings['by'] === undefined ? { by: 'triangles', ...settings } : settings,
  run: async (context) => {
    const { settings, input, warn } = context;
    const given = input('mesh');
    const before = triangleCount(given);
    const wanted = settings.by === 'share' ? Math.round(before * settings.ratio) : settings.triangles;
    const options = { triangles: wanted, maxError: settings.maxError || Infinity, keepBorder: settings.keepBorder };
    const { mesh, error, broken } = await reduce(given, options, (made, from) => deviationOf(made, from, context), context);
    const left = triangleCount(mesh);
    if (left > wanted * 1.05 + 2)
      warn({
        code: 'simpler-method-used',
        message: `${left.toLocaleString('en-GB')} triangles are left, not ${wanted.toLocaleString('en-GB')}: taking more away would ${settings.maxError ? `put the surface more than ${settings.maxError} m off` : 'break the mesh'} (it is ${Number((error || deviationOf(mesh, given, context)).toPrecision(2))} m off).`,
        remedy: settings.maxError ? 'Allow a greater error.' : 'Weld it first, or do not hold its borders.',
      });
    if (broken)
      warn({
        code: 'not-closed',
        message: `The surface came apart at ${broken} points: more than two faces meet at edges there.`,
        remedy: 'Leave more triangles, or even it out first.',
      });
    return { mesh: mesh === given ? given : withFaceValues(mesh, given, context) };
  },
});
