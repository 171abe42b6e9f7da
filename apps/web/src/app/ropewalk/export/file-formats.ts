/** What a format is called, and what is in its files. */
interface FileFormat {
  readonly name: string;
  readonly help: string;
}

/** The formats that results are written in, by their endings. */
export const fileFormats: Readonly<Record<string, FileFormat>> = {
  '.glb': {
    name: 'GLB',
    help: 'Binary glTF 2.0: meshes, materials, UVs and values; copies share their mesh, curves are lines. For game engines and renderers.',
  },
  '.gltf': { name: 'glTF', help: 'glTF 2.0 as text, with its data in it.' },
  '.obj': { name: 'OBJ', help: 'With an MTL file: polygons as they are, with UVs, normals and materials; curves as lines.' },
  '.stl': { name: 'STL', help: 'Triangles alone, for printing and measuring.' },
  '.ply': { name: 'PLY', help: 'Polygons or points, with normals, UVs, colours and values.' },
  '.usda': { name: 'USD', help: 'As text: meshes, materials, values, curves, copies.' },
  '.svg': { name: 'SVG', help: 'Curves in plan.' },
  '.csv': { name: 'CSV', help: 'The points of curves with every value, a row each.' },
  '.json': { name: 'JSON', help: 'All geometry with every attribute, for scripts.' },
};

/** What is no text, as browsers are told. */
const mediaTypes: Readonly<Record<string, string>> = { '.glb': 'model/gltf-binary', '.stl': 'model/stl', '.zip': 'application/zip' };

export const mediaType = (ending: string): string => mediaTypes[ending] ?? 'text/plain';
