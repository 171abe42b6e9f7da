import { meshOut } from '../../definition/ports.js';
import { emptyMesh } from '../../geometry/mesh.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { fileSettingsFor, taken } from './importing.js';

export default defineNode({
  type: 'lay.importMesh',
  label: 'Imported mesh',
  family: families.lay,
  summary: 'A mesh from a file: glTF, GLB, OBJ, STL or PLY.',
  help: 'Gives the faces of an imported file as one mesh, in the places where the file has them, with its UVs, normals and materials as far as it has any. glTF and GLB: all meshes of the scene; OBJ and PLY: faces of any size; STL: triangles, joined where their corners are at the very same place. Drop a file on the graph to make this node. Curves can be draped on it, kept outside of it, or cut from it.',
  attributes: { writes: [] },
  keywords: ['file', 'gltf', 'glb', 'obj', 'stl', 'ply', 'model', 'scan', 'body', 'load', 'open'],
  asks: {
    'a mesh from a file': {},
    'use my own model': {},
  },
  telling: ['scale'],
  sample: null,
  role: 'import',
  outputs: [meshOut],
  settings: fileSettingsFor('mesh'),
  run: (context) => ({ mesh: taken(context, 'mesh') ?? emptyMesh }),
});
