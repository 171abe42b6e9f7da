import { curvesOut } from '../../definition/ports.js';
import { emptyCurves } from '../../geometry/curves.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { fileSettingsFor, taken } from './importing.js';

export default defineNode({
  type: 'lay.importCurves',
  label: 'Imported curves',
  family: families.lay,
  summary: 'Curves from a file: paths of an SVG drawing, lines of OBJ, glTF or GeoJSON, points of a CSV table.',
  help: 'Gives the curves of an imported file. CSV: a table with columns x, y, z (and curve, for several). SVG: every path, line and shape, one unit as one metre before scaling, y turned up. OBJ: its l lines. glTF and GLB: line primitives. GeoJSON: lines and outlines, longitude as x and latitude as −z in the units of the file, height as y. Drop a file on the graph to make this node.',
  keywords: ['file', 'svg', 'csv', 'obj', 'gltf', 'geojson', 'map', 'drawing', 'table', 'load', 'open'],
  asks: {
    'curves from a file': {},
    'use an svg drawing': {},
  },
  telling: ['scale'],
  sample: null,
  role: 'import',
  outputs: [curvesOut],
  settings: {
    ...fileSettingsFor('curves'),
  },
  run: (context) => ({ curves: taken(context, 'curves') ?? emptyCurves }),
});
