import { emptyCurves, type Curves } from '../../geometry/curves.js';
import { countsOf } from '../../geometry/geometry.js';
import { emptyMesh, type Mesh } from '../../geometry/mesh.js';
import { emptyPoints, makePoints, type Points } from '../../geometry/points.js';
import { affineFrom, transformGeometry } from '../../geometry/transform.js';
import { defineNode, type RunContext } from '../../graph/define.js';
import type { ValuesOf } from '../../graph/settings.js';
import { families } from '../families.js';

const fileSettings = {
  asset: { kind: 'asset', label: 'File', help: 'The imported file.', default: '' },
  scale: { kind: 'number', label: 'Scale', help: 'Metres per unit of the file.', default: 1, min: 0, above: true, unit: 'm', step: 0.001 },
  up: { kind: 'choice', label: 'Up', help: 'Which axis of the file points up.', default: 'y', choices: { y: 'Y', z: 'Z' } },
} as const;
type FileSettings = ValuesOf<typeof fileSettings>;

export const importCurves = defineNode({
  type: 'lay.importCurves',
  label: 'Imported curves',
  family: families.lay,
  summary: 'Curves from a file: paths of an SVG drawing, lines of OBJ, glTF or GeoJSON, points of a CSV table.',
  help: 'Gives the curves of an imported file. CSV: a table with columns x, y, z (and curve, for several). SVG: every path, line and shape, one unit as one metre before scaling, y turned up. OBJ: its l lines. glTF and GLB: line primitives. GeoJSON: lines and outlines, longitude as x and latitude as −z in the units of the file, height as y. Drop a file on the graph to make this node.',
  keywords: ['file', 'svg', 'csv', 'obj', 'gltf', 'geojson', 'map', 'drawing', 'table', 'load', 'open'],
  outputs: [{ name: 'curves', kind: 'curves' }],
  settings: {
    ...fileSettings,
  },
  run: (context) => ({ curves: (taken(context, 'curves') as Curves | null) ?? emptyCurves }),
});

export const importMesh = defineNode({
  type: 'lay.importMesh',
  label: 'Imported mesh',
  family: families.lay,
  summary: 'A mesh from a file: glTF, GLB, OBJ, STL or PLY.',
  help: 'Gives the faces of an imported file as one mesh, in the places where the file has them, with its UVs, normals and materials as far as it has any. glTF and GLB: all meshes of the scene; OBJ and PLY: faces of any size; STL: triangles, joined where their corners are at the very same place. Drop a file on the graph to make this node. Curves can be draped on it, kept outside of it, or cut from it.',
  attributes: { writes: [] },
  keywords: ['file', 'gltf', 'glb', 'obj', 'stl', 'ply', 'model', 'scan', 'body', 'load', 'open'],
  outputs: [{ name: 'mesh', kind: 'mesh' }],
  settings: { ...fileSettings },
  run: (context) => ({ mesh: (taken(context, 'mesh') as Mesh | null) ?? emptyMesh }),
});

export const importPoints = defineNode({
  type: 'lay.importPoints',
  label: 'Imported points',
  family: families.lay,
  summary: 'Points from a file: PLY, OBJ, glTF, or the rows of a CSV table.',
  help: 'Gives the points of an imported file that belong to no face, with their values: a PLY of vertices alone, an OBJ of v lines alone, point primitives of glTF; of a CSV table its rows. Colours arrive as colour. Drop a file on the graph to make this node. Place copies on them, or lay curves through them.',
  attributes: { writes: [] },
  keywords: ['file', 'ply', 'obj', 'gltf', 'glb', 'cloud', 'scan', 'survey', 'load', 'open'],
  outputs: [{ name: 'points', kind: 'points' }],
  settings: { ...fileSettings },
  run: (context) => ({ points: (taken(context, 'points') as Points | null) ?? emptyPoints }),
});

/** The rows of a table, or the points of lines, by themselves. */
const pointsOfCurves = ({ positions, attributes }: Curves): Points =>
  makePoints(positions, new Map([...attributes].filter(([name, { carrier }]) => carrier === 'whole' || (carrier === 'point' && !name.startsWith('handle')))));

/** Files have what they have: what a node looks for in them, in words. */
const missing = {
  curves: 'no lines, so there are no curves in it',
  mesh: 'no faces, so there is no mesh in it',
  points: 'no points of their own',
} as const;

/** One kind of geometry of the chosen file, sized and stood up; null: no file is chosen yet. @throws RangeError when the file has none of it. */
function taken({ settings, imported, warn, claim }: RunContext<FileSettings>, kind: 'curves' | 'mesh' | 'points'): Curves | Mesh | Points | null {
  if (!settings.asset) {
    warn({ code: 'empty', message: 'No file is chosen yet.', remedy: 'Drop a file on the graph, or choose one in the settings.' });
    return null;
  }
  const file = imported(settings.asset);
  const found = file[kind] ?? (kind === 'points' && file.curves && !file.mesh ? pointsOfCurves(file.curves) : undefined);
  if (!found?.positions.length) throw new RangeError(`The file has ${missing[kind]}.`);
  claim(countsOf(found));
  const far = found.attributes.get('origin');
  if (far?.carrier === 'whole')
    warn({
      code: 'too-large',
      message: `The file lies far from the origin (near ${Array.from(far.data, (value) => value.toLocaleString('en-GB')).join(', ')}), where positions would be too coarse; it was moved near it.`,
      remedy: 'Files are written where it was, except STL; move what you join it with by as much.',
    });
  const { scale } = settings;
  const turn = settings.up === 'z' ? -90 : 0;
  return transformGeometry(found, affineFrom({ move: [0, 0, 0], turn: [turn, 0, 0], size: [scale, scale, scale], pivot: [0, 0, 0] }));
}
