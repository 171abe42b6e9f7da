import { meshOut, pointsIn } from '../../definition/ports.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { evenOut } from '../../mesh/change/evenOut.js';
import { smoothNormals } from '../../mesh/change/normals.js';
import { blobOf, type Ball } from '../../mesh/make/blob.js';
import { ontoMesh } from '../../shape/ontoSurface.js';
import { fieldAt } from '../../values/field.js';

export default defineNode({
  type: 'lay.blob',
  label: 'Blob',
  family: families.lay,
  summary: 'Balls about points, run together into one closed mesh.',
  help: 'A ball about each point; balls near each other flow together over the blend, those far apart stay bodies of their own. The mesh is closed, of even triangles about as long as the cell: the smaller the cell, the truer the shape, and the more there is to do. Use it as a body to wind on and grow over, or for its edges.',
  attributes: { writes: ['normal'] },
  keywords: ['metaball', 'merge', 'body', 'lump', 'rock', 'organic', 'union', 'balls', 'volume'],
  asks: {
    'balls melted together': {},
    'a lumpy body': { blend: 0.2 },
    'merge balls into one mesh': {},
  },
  telling: ['radius', 'blend'],
  inputs: [pointsIn],
  outputs: [meshOut],
  settings: {
    radius: { kind: 'number', label: 'Radius', help: 'Of the balls.', default: 0.3, min: 0, above: true, unit: 'm', step: 0.005, varies: 'point' },
    blend: { kind: 'number', label: 'Blend', help: 'Over how far they flow together; 0: they only meet.', default: 0.1, min: 0, unit: 'm', step: 0.005 },
    cell: { kind: 'number', label: 'Cell', help: 'About how long edges are.', default: 0.06, min: 0, above: true, unit: 'm', step: 0.005 },
    even: {
      kind: 'boolean',
      label: 'Even triangles',
      help: 'Makes all edges about as long as the cell; without it they are quickly there, and uneven.',
      default: true,
    },
  },
  run: (context) => {
    const { settings, input, field } = context;
    const points = input('points');
    const radius = field(settings.radius, points, 'point');
    const p = points.positions;
    const balls = Array.from({ length: p.length / 3 }, (_, i): Ball => ({ centre: [p[i * 3], p[i * 3 + 1], p[i * 3 + 2]], radius: fieldAt(radius, i) }));
    const raw = blobOf(balls, settings.blend, settings.cell, context);
    if (!settings.even) return { mesh: smoothNormals(raw, context) };
    const even = evenOut(raw, { edge: settings.cell, times: 2, sharp: 180 }, (lines) => ontoMesh(raw, lines, context), context);
    return { mesh: smoothNormals(even, context) };
  },
});
