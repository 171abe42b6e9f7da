import { withAttributes } from '../../geometry/attributes.js';
import { faceCount, type Mesh } from '../../geometry/mesh.js';
import type { Material } from '../../geometry/material.js';
import { defineNode } from '../../graph/define.js';
import { families } from '../families.js';

export const material = defineNode({
  type: 'mesh.material',
  label: 'Material',
  family: families.mesh,
  summary: 'Gives a mesh or copies their colour, roughness, metalness and opacity.',
  help: 'Writes one material to all faces (of copies, to those of their objects), as glTF 2.0 metallic-roughness values. It is shown in the 3D view and written to files. Join meshes afterwards to keep several materials.',
  keywords: ['colour', 'color', 'shader', 'rough', 'metal', 'opacity', 'transparent', 'paint'],
  inputs: [{ name: 'any', kinds: ['mesh', 'copies'], aliases: ['mesh', 'copies'] }],
  outputs: [{ name: 'any', kind: 'any', aliases: ['mesh', 'copies'] }],
  passes: true,
  settings: {
    name: { kind: 'text', label: 'Name', help: 'Its name in files.', default: 'material', pattern: /\S/, accepts: 'a name of up to 200 characters' },
    colour: { kind: 'colour', label: 'Colour', help: 'Base colour.', default: '#b9a07a' },
    roughness: { kind: 'number', label: 'Roughness', help: '0 is a mirror, 1 is chalk.', default: 0.7, min: 0, max: 1, step: 0.005 },
    metalness: { kind: 'number', label: 'Metalness', help: '0 for everything but bare metal.', default: 0, min: 0, max: 1, step: 0.005 },
    opacity: { kind: 'number', label: 'Opacity', help: 'Less than 1 lets things behind show through.', default: 1, min: 0, max: 1, step: 0.005 },
    checker: { kind: 'boolean', label: 'Checker', help: 'Shows the UV checker on it in the 3D view.', default: false },
  },
  run: ({ settings, input }) => {
    const given = input('any')!;
    const { name, colour, roughness, metalness, opacity, checker } = settings;
    const value: Material = { name, colour: colour.toLowerCase(), roughness, metalness, opacity, checker };
    const painted = (mesh: Mesh): Mesh => ({
      ...mesh,
      materials: [value],
      attributes: withAttributes(mesh.attributes, { material: { carrier: 'face', size: 1, data: new Float32Array(faceCount(mesh)) } }),
    });
    if (given.type === 'copies') return { any: { ...given, objects: given.objects.map(painted) } };
    return { any: given.type === 'mesh' ? painted(given) : given };
  },
});
