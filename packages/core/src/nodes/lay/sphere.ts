import { meshOut } from '../../definition/ports.js';
import { icosphere, ringSphere } from '../../mesh/make/bodies.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';

export default defineNode({
  type: 'lay.sphere',
  label: 'Sphere',
  family: families.lay,
  summary: 'A sphere about the origin, of even triangles or of rings.',
  help: 'Even triangles: an icosahedron whose edges are divided into so many pieces, all triangles of nearly one size; good to lay and scatter on. Rings: twice as many rings as divisions and four times as many sides, with poles above and below; good for textures. Points lie on the sphere, so faces lie a little inside it.',
  attributes: { writes: ['normal', 'uv', 'part'] },
  keywords: ['ball', 'globe', 'float', 'buoy', 'body', 'round'],
  asks: {
    'a ball': {},
    'a globe with rings': { kind: 'rings' },
  },
  telling: ['radius'],
  handles: [{ kind: 'length', setting: 'radius', along: [1, 0, 0] }],
  outputs: [meshOut],
  settings: {
    radius: { kind: 'number', label: 'Radius', help: 'From the middle to the points.', default: 1, min: 0, above: true, unit: 'm', step: 0.005 },
    kind: { kind: 'choice', label: 'Kind', help: 'How it is divided.', default: 'icosphere', choices: { icosphere: 'even triangles', rings: 'rings' } },
    divisions: {
      kind: 'integer',
      label: 'Divisions',
      help: 'Pieces of each edge of the icosahedron, or rings from pole to equator.',
      default: 4,
      min: 2,
      max: 512,
    },
  },
  run: (context) => {
    const { radius, kind, divisions } = context.settings;
    const faces = kind === 'icosphere' ? 20 * divisions ** 2 : 8 * divisions ** 2;
    context.claim({ faces, vertices: kind === 'icosphere' ? faces / 2 + 2 : faces });
    return { mesh: kind === 'icosphere' ? icosphere(radius, divisions, context) : ringSphere(radius, divisions, context) };
  },
});
