import { anyOut } from '../../definition/ports.js';
import { withAttributes } from '../../geometry/attributes.js';
import { faceCount, type Mesh } from '../../geometry/mesh.js';
import type { Material } from '../../geometry/material.js';
import { defineNode } from '../../definition/define.js';
import { fieldAt } from '../../values/field.js';
import { families } from '../../definition/families.js';

const withMaterials = (mesh: Mesh, materials: readonly Material[], data: Float32Array): Mesh => ({
  ...mesh,
  materials,
  attributes: withAttributes(mesh.attributes, { material: { carrier: 'face', size: 1, data } }),
});

export default defineNode({
  type: 'mesh.material',
  label: 'Material',
  family: families.mesh,
  summary: 'Gives a mesh or copies their colour, roughness, metalness and opacity.',
  help: 'Writes one material to all faces, or to those for which a condition holds (of copies, to those of their objects), as glTF 2.0 metallic-roughness values. It is shown in the 3D view and written to files. Join meshes afterwards to keep several materials.',
  attributes: { writes: ['material'] },
  keywords: ['colour', 'color', 'shader', 'rough', 'metal', 'opacity', 'transparent', 'paint'],
  asks: {
    'paint it red': { colour: '#a2323f' },
    'shiny metal': { metalness: 1, roughness: 0.3 },
    'colour it': {},
    glass: { opacity: 0.3 },
    matte: { roughness: 1 },
  },
  telling: ['name', 'colour'],
  sample: { settings: { name: 'red lead', colour: '#b3402e' } },
  usualAfter: { mesh: 2, copies: 2 },
  inputs: [{ name: 'any', kinds: ['mesh', 'copies'], aliases: ['mesh', 'copies'] }],
  outputs: [{ ...anyOut, aliases: ['mesh', 'copies'] }],
  passes: true,
  where: 'self',
  settings: {
    name: { kind: 'text', label: 'Name', help: 'Its name in files.', default: 'material', pattern: /\S/, accepts: 'a name of up to 200 characters' },
    colour: { kind: 'colour', label: 'Colour', help: 'Base colour. Its red, green and blue, 0 to 1, can each follow a dial.', default: '#b9a07a' },
    roughness: { kind: 'number', label: 'Roughness', help: '0 is a mirror, 1 is chalk.', default: 0.7, min: 0, max: 1, step: 0.005 },
    metalness: { kind: 'number', label: 'Metalness', help: '0 for everything but bare metal.', default: 0, min: 0, max: 1, step: 0.005 },
    opacity: { kind: 'number', label: 'Opacity', help: 'Less than 1 lets things behind show through.', default: 1, min: 0, max: 1, step: 0.005 },
    backs: {
      kind: 'choice',
      label: 'Backs',
      help: 'Whether the backs of its faces are seen, in the 3D view and in files. Backs that are not seen are drawn hatched here.',
      default: 'open',
      choices: { open: 'where open', seen: 'seen', unseen: 'not seen' },
    },
    checker: { kind: 'boolean', label: 'Checker', help: 'Shows the UV checker on it in the 3D view.', default: false },
  },
  run: ({ settings, input, field }) => {
    const given = input('any');
    const { name, colour, roughness, metalness, opacity, backs, checker, where = true } = settings;
    const doubleSided = backs === 'open' ? {} : { doubleSided: backs === 'seen' };
    const value: Material = { name, colour: colour.toLowerCase(), roughness, metalness, opacity, checker, ...doubleSided };
    const painted = (mesh: Mesh): Mesh => {
      if (typeof where === 'boolean') return withMaterials(mesh, [value], new Float32Array(faceCount(mesh)));
      const chosen = field(where, mesh, 'face');
      const before = mesh.attributes.get('material')?.data;
      const faces = Float32Array.from({ length: faceCount(mesh) }, (_, f) => (fieldAt(chosen, f) ? mesh.materials.length : (before?.[f] ?? -1)));
      return withMaterials(mesh, [...mesh.materials, value], faces);
    };
    if (given.type === 'copies') return { any: { ...given, objects: given.objects.map(painted) } };
    return { any: given.type === 'mesh' ? painted(given) : given };
  },
});
