import { emptyCurves } from '../../geometry/curves.js';
import { affineFrom, transformGeometry } from '../../geometry/transform.js';
import { defineNode } from '../../graph/define.js';
import { families } from '../families.js';

export const importCurves = defineNode({
  type: 'lay.importCurves',
  label: 'Imported curves',
  family: families.lay,
  summary: 'Curves from a file: paths of an SVG drawing, lines of OBJ, glTF or GeoJSON, points of a CSV table.',
  help: 'Gives the curves of an imported file. CSV: a table with columns x, y, z (and curve, for several). SVG: every path, line and shape, one unit as one metre before scaling, y turned up. OBJ: its l lines. glTF and GLB: line primitives. GeoJSON: lines and outlines, longitude as x and latitude as −z in the units of the file, height as y. Drop a file on the graph to make this node.',
  keywords: ['file', 'svg', 'csv', 'obj', 'gltf', 'geojson', 'map', 'drawing', 'table', 'load', 'open'],
  outputs: [{ name: 'curves', kind: 'curves' }],
  settings: {
    asset: { kind: 'asset', label: 'File', help: 'The imported file.', default: '' },
    scale: { kind: 'number', label: 'Scale', help: 'Metres per unit of the file.', default: 1, min: 0, above: true, unit: 'm', step: 0.001 },
    up: { kind: 'choice', label: 'Up', help: 'Which axis of the file points up.', default: 'y', choices: { y: 'Y', z: 'Z' } },
  },
  run: ({ settings, importedCurves, warn, claim }) => {
    if (!settings.asset) {
      warn({ code: 'empty', message: 'No file is chosen yet.', remedy: 'Drop a file on the graph, or choose one in the settings.' });
      return { curves: emptyCurves };
    }
    const curves = importedCurves(settings.asset);
    claim({ points: curves.positions.length / 3 });
    const { scale } = settings;
    const turn = settings.up === 'z' ? -90 : 0;
    return { curves: transformGeometry(curves, affineFrom({ move: [0, 0, 0], turn: [turn, 0, 0], size: [scale, scale, scale], pivot: [0, 0, 0] })) };
  },
});
