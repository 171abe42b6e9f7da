import { meshIn, meshOut } from '../../definition/ports.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { evenOut } from '../../mesh/change/evenOut.js';
import { smoothNormals } from '../../mesh/change/normals.js';
import { splitNormals } from '../../mesh/change/normals.js';
import { faceAreas } from '../../mesh/topology/areas.js';
import { ontoMesh, withFaceValues } from '../../shape/ontoSurface.js';

/** Triangles of a body for which no edge is given. */
const usualFaces = 5000;

export default defineNode({
  type: 'mesh.even',
  label: 'Even out',
  family: families.mesh,
  summary: 'Makes a mesh of triangles with even edges over the same surface.',
  help: 'Splits edges that are too long, collapses those too short, turns others, and moves points along the surface, until edges are about as long as asked. Borders and edges sharper than the angle stay, and the corners where they turn by more than 30°; a noisy scan has such edges all over, so give it 180°. Faces keep their values and materials by the place they lie on; UVs are dropped, since their layout is gone.',
  attributes: { keeps: ['face', 'whole'], writes: ['normal'] },
  keywords: ['remesh', 'isotropic', 'retopology', 'uniform', 'triangles', 'regular', 'clean'],
  asks: {
    'even triangles': {},
    'remesh to one edge length': { edge: 0.05 },
    'keep sharp edges while remeshing': { sharp: 30 },
  },
  telling: ['edge'],
  inputs: [meshIn],
  outputs: [meshOut],
  passes: true,
  where: 'none',
  settings: {
    edge: {
      kind: 'number',
      label: 'Edge',
      help: 'How long edges are to be; by the body, it gets about 5,000 triangles.',
      default: 0,
      earlier: { before: 2, default: 0.1 },
      special: { called: 'by the body', instead: 0.1 },
      min: 0,
      unit: 'm',
      step: 0.005,
    },
    times: { kind: 'integer', label: 'Times', help: 'How often all is gone over.', default: 6, min: 1, max: 50 },
    sharp: {
      kind: 'number',
      label: 'Sharp',
      help: 'Edges at which faces meet at more than this stay.',
      default: 40,
      min: 0,
      max: 180,
      unit: '°',
      step: 1,
    },
  },
  run: (context) => {
    const { settings, input, claim } = context;
    const given = input('mesh');
    const areas = faceAreas(given, context);
    let area = 0;
    for (let i = 0; i < areas.length; i += 3) area += Math.hypot(areas[i], areas[i + 1], areas[i + 2]) / 2;
    // Triangles of even edges have √3⁄4 of the square of an edge.
    const edge = settings.edge || Math.sqrt(area / (0.433 * usualFaces)) || 1;
    const faces = Math.ceil(area / (0.433 * edge ** 2));
    claim({ faces, vertices: faces / 2 });
    const made = evenOut(given, { ...settings, edge }, (lines) => ontoMesh(given, lines, context), context);
    const shaded = settings.sharp < 180 ? splitNormals(made, settings.sharp, context) : smoothNormals(made, context);
    return { mesh: withFaceValues(shaded, given, context) };
  },
});
