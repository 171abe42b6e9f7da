import { meshIn, meshOut } from '../../definition/ports.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { boxOf } from '../../definition/sample.js';
import { refine } from '../../mesh/change/refine.js';
import { fieldAt } from '../../values/field.js';
import { faceCount } from '../../geometry/mesh.js';

export default defineNode({
  type: 'mesh.refine',
  label: 'Refine',
  family: families.mesh,
  summary: 'Divides faces into smaller ones, flat or rounding the mesh.',
  help: 'Flat divides faces where they lie. Catmull–Clark makes quads and Loop triangles that come nearer to a smooth surface each time; open borders become smooth curves of their own. Only where chooses faces: their neighbours take the new points into their outlines, so there are no cracks, and what is divided is rounded within its own border. Each time there are about four times as many faces. UVs are divided straight; normals are found anew.',
  attributes: { reads: ['normal'] },
  keywords: ['subdivision', 'subdivide', 'tessellate', 'smooth', 'divide', 'catmull', 'clark', 'loop', 'denser', 'detail', 'round'],
  asks: {
    'more faces': { scheme: 'flat' },
    'subdivide smoothly': { scheme: 'catmullClark' },
    'round a blocky mesh': { scheme: 'catmullClark', times: 2 },
    'refine marked faces': { where: { attribute: 'mark' } },
  },
  telling: ['scheme', 'times'],
  sample: { given: { mesh: boxOf(1, 1, 1) } },
  inputs: [meshIn],
  outputs: [meshOut],
  passes: true,
  where: 'self',
  settings: {
    times: { kind: 'integer', label: 'Times', help: 'Each time there are four times as many faces.', default: 1, min: 0, max: 10 },
    scheme: {
      kind: 'choice',
      label: 'Scheme',
      help: 'How faces are divided.',
      default: 'flat',
      choices: { flat: 'flat', catmullClark: 'Catmull–Clark, quads', triangles: 'Loop, triangles' },
    },
    keepCorners: {
      kind: 'boolean',
      label: 'Keep corners',
      help: 'Corners of open borders stay where they are; else the border is round there too.',
      default: true,
      shownWhen: { scheme: ['catmullClark', 'triangles'] },
    },
  },
  run: (context) => {
    const { settings, input, field } = context;
    const given = input('mesh');
    const chosen = settings.where === undefined || settings.where === true ? null : field(settings.where, given, 'face');
    const where = chosen && Uint8Array.from({ length: faceCount(given) }, (_, f) => Number(fieldAt(chosen, f) !== 0));
    return { mesh: refine(given, where, settings, context) };
  },
});
