import { pointsOut } from '../../definition/ports.js';
import { emptyPoints } from '../../geometry/points.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { fileSettingsFor, taken } from './importing.js';

export default defineNode({
  type: 'lay.importPoints',
  label: 'Imported points',
  family: families.lay,
  summary: 'Points from a file: PLY, OBJ, glTF, or the rows of a CSV table.',
  help: 'Gives the points of an imported file that belong to no face, with their values: a PLY of vertices alone, an OBJ of v lines alone, point primitives of glTF; of a CSV table its rows. Colours arrive as colour. Drop a file on the graph to make this node. Place copies on them, or lay curves through them.',
  attributes: { writes: [] },
  keywords: ['point cloud', 'cloud', 'survey', 'file', 'ply', 'obj', 'gltf', 'glb', 'scan', 'load', 'open'],
  asks: {
    'points from a file': {},
    'use a table of points': {},
  },
  telling: ['scale'],
  sample: null,
  role: 'import',
  outputs: [pointsOut],
  settings: fileSettingsFor('points'),
  run: (context) => ({ points: taken(context, 'points') ?? emptyPoints }),
});
