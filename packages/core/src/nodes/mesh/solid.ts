import { meshIn, meshOut } from '../../definition/ports.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { ball, boxOf } from '../../definition/sample.js';
import { joinMeshes } from '../../geometry/join.js';
import { NotSolid, solid } from '../../mesh/cut/solid.js';
import { triangleCount, type Mesh } from '../../geometry/mesh.js';

export default defineNode({
  type: 'mesh.solid',
  label: 'Solid',
  family: families.mesh,
  summary: 'Closed bodies put together, cut out of each other, or what they have in common.',
  help: 'Union makes one skin of all bodies, without what lies inside; difference cuts the bodies of the second input out of the first; intersection leaves what all have in common. Bodies have to be closed, each edge between two faces; pieces of one body that overlap count as one. Faces are triangles afterwards and keep their values and materials; UVs and normals run on to the cuts.',
  attributes: { keeps: ['corner', 'face', 'whole'] },
  keywords: ['boolean', 'union', 'difference', 'subtract', 'intersect', 'intersection', 'cut', 'carve', 'csg', 'merge'],
  asks: {
    'cut a hole': { operation: 'difference' },
    'make one skin of overlapping bodies': { operation: 'union' },
    'what two bodies have in common': { operation: 'intersection' },
  },
  telling: ['operation'],
  sample: { settings: { operation: 'difference' }, given: { mesh: boxOf(1.4, 1.4, 1.4), others: ball } },
  inputs: [meshIn, { name: 'others', kinds: ['mesh'], many: true, optional: true }],
  outputs: [meshOut],
  passes: true,
  where: 'none',
  settings: {
    operation: {
      kind: 'choice',
      label: 'Do',
      help: 'Put all together, cut the others out of the first, or leave what all have in common.',
      default: 'union',
      choices: { union: 'put together', difference: 'cut out', intersection: 'leave in common' },
      aliases: { subtract: 'difference', add: 'union' },
    },
  },
  run: async (context) => {
    const { settings, input, inputs, warn, claim } = context;
    const given = [input('mesh'), ...inputs('others')];
    const total = (of: (mesh: Mesh) => number): number => given.reduce((sum, mesh) => sum + of(mesh), 0);
    claim({ vertices: total(({ pointCount }) => pointCount), faces: total(triangleCount) });
    // What is cut out may lie over itself, and counts as one.
    const bodies = settings.operation === 'difference' && given.length > 1 ? [given[0], joinMeshes(given.slice(1))] : given;
    const { mesh, turned } = await solid(bodies, settings.operation, context).catch((error: Error) => {
      throw error instanceof NotSolid ? new NotSolid(error.body, `${error.why} Weld it, close it with caps or Fill, or give Normals the same side.`) : error;
    });
    if (turned.length)
      warn({
        code: 'not-closed',
        message: `${turned.length === 1 ? `Body ${turned[0] + 1} was` : `${turned.length} bodies were`} inside out, and taken the right way round.`,
        remedy: 'Put Normals before it, with its faces flipped.',
      });
    if (!mesh.corners.length) warn({ code: 'empty', message: settings.operation === 'intersection' ? 'The bodies have nothing in common.' : 'Nothing is left of the first body.', remedy: 'Move the bodies.' }); // prettier-ignore
    return { mesh };
  },
});
