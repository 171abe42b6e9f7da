import { curvesOut, meshIn } from '../../definition/ports.js';
import { areaVector } from '../../curves/evaluate/plane.js';
import { offset } from '../../curves/change/offset.js';
import { curveCount, type Curves } from '../../geometry/curves.js';
import type { Geometry } from '../../geometry/geometry.js';
import { faceCount, faceStart, type Mesh } from '../../geometry/mesh.js';
import type { Points } from '../../geometry/points.js';
import { faceAreas } from '../../mesh/topology/areas.js';
import { connectedParts } from '../../mesh/topology/parts.js';
import { section, type CuttingPlane } from '../../mesh/cut/section.js';
import { defineNode, type Warning } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { post } from '../../definition/sample.js';

export default defineNode({
  type: 'mesh.section',
  label: 'Section by planes',
  family: families.mesh,
  summary: 'The outlines along which planes cut a body, as closed curves.',
  help: 'Planes are points with normals (of curves: the points with their frames), or flat meshes, of which each connected part is one plane, however far it reaches. The curves come plane by plane, the largest first, with a point at each edge of the body that is crossed; their plane is kept as a value of each curve. Seen against the plane’s normal outlines of the body run counter-clockwise and those of holes clockwise. The offset takes them off the body, or into it below 0. Where the body is open, so are they. Simplify leaves out points that lie in line.',
  attributes: { reads: ['normal', 'tangent'], writes: ['plane'] },
  keywords: ['slice', 'cut', 'cross-section', 'contour', 'outline', 'wrap', 'rope', 'lash', 'intersect'],
  asks: {
    'cut a body by planes': {},
    'outlines where a plane cuts': {},
    'ropes round a bollard': {},
  },
  telling: ['squareTo'],
  sample: { given: { mesh: post, planes: { type: 'lay.planes', settings: { planes: [{ point: [0, 0.1, 0], normal: [0, 1, 0.4] }] } } } },
  inputs: [meshIn, { name: 'planes', kinds: ['points', 'mesh'], many: true }],
  outputs: [curvesOut],
  settings: {
    squareTo: {
      kind: 'choice',
      label: 'Square to',
      help: 'Which vector of a point its plane is square to: of a path, the tangent cuts across it.',
      default: 'normal',
      choices: { normal: 'normal', tangent: 'tangent' },
    },
    offset: { kind: 'number', label: 'Offset', help: 'Off the body, in the plane.', default: 0, unit: 'm', step: 0.001 },
  },
  run: (context) => {
    const { settings, input, inputs, warn } = context;
    const planes = inputs('planes').flatMap((each) => (each.type === 'mesh' ? planesOfParts(each, warn) : planesOfPoints(each, settings.squareTo)));
    const cut = section(input('mesh'), planes, context);
    const met = new Set(cut.attributes.get('plane')!.data);
    const missed = planes.findIndex((_, i) => !met.has(i));
    if (missed >= 0)
      warn({
        code: 'empty',
        message: `${planes.length - met.size} of ${planes.length} planes do not meet the body, the first of them plane ${missed + 1}.`,
        remedy: 'Move them, or the body.',
      });
    if (cut.closed.includes(0))
      warn({ code: 'not-closed', message: 'The body is open, so some sections are too.', remedy: 'Close the body, or use Close or open behind this.' });
    if (!settings.offset || !curveCount(cut)) return { curves: cut };
    const { curves, gone } = offset(
      cut,
      {
        distance: { constant: 0, values: outwards(cut, planes, settings.offset) },
        joins: 'round',
        facing: (c) => planes[cut.attributes.get('plane')!.data[c]].normal,
      },
      context,
    );
    for (const curve of gone.slice(0, 50))
      warn({ code: 'empty', curve, message: `Nothing is left of section ${curve + 1}: it is too narrow for this offset.`, remedy: 'Use a smaller offset.' });
    return { curves };
  },
});

/** How far each point is to go: outlines grow by the offset, holes shrink; open ones have the body on their left, and move to the right. */
function outwards(curves: Curves, planes: readonly CuttingPlane[], distance: number): Float64Array {
  const values = new Float64Array(curves.positions.length / 3);
  const plane = curves.attributes.get('plane')!.data;
  for (let c = 0; c < curveCount(curves); c++) {
    const [from, to] = [curves.starts[c], curves.starts[c + 1]];
    if (!curves.closed[c]) {
      values.fill(-distance, from, to);
      continue;
    }
    const area = areaVector(curves.positions, from, to);
    const { normal } = planes[plane[c]];
    values.fill(area[0] * normal[0] + area[1] * normal[1] + area[2] * normal[2] < 0 ? -distance : distance, from, to);
  }
  return values;
}

const unit = ([x, y, z]: ArrayLike<number> & Iterable<number>): [number, number, number] | null => {
  const size = Math.hypot(x, y, z);
  return size > 0 ? [x / size, y / size, z / size] : null;
};

/** @throws RangeError when the points do not have the vector. */
function planesOfPoints(points: Geometry, squareTo: 'normal' | 'tangent'): CuttingPlane[] {
  const { positions, attributes } = points as Points;
  const vectors = attributes.get(squareTo);
  if (vectors?.size !== 3) throw new RangeError(`The points of the planes have no ${squareTo}; points of curves have one.`);
  return Array.from({ length: positions.length / 3 }, (_, i) => {
    const normal = unit(vectors.data.subarray(i * 3, i * 3 + 3));
    if (!normal) throw new RangeError(`The ${squareTo} of point ${i + 1} of the planes is 0, 0, 0, so there is no plane.`);
    return { origin: [positions[i * 3], positions[i * 3 + 1], positions[i * 3 + 2]], normal };
  });
}

/** How far a part may be off its plane, as a share of its size. */
const flatness = 1e-3;

/** The plane of each connected part of a flat mesh: square to what its faces look along on the whole, through the middle of its corners. */
function planesOfParts(mesh: Mesh, warn: (warning: Warning) => void): CuttingPlane[] {
  const { ofFace, count } = connectedParts(mesh);
  const areas = faceAreas(mesh);
  const sums = new Float64Array(count * 3);
  const middles = new Float64Array(count * 4);
  const p = mesh.positions;
  const eachCorner = (look: (part: number, o: number) => void): void => {
    for (let f = 0; f < faceCount(mesh); f++) for (let i = faceStart(mesh, f); i < faceStart(mesh, f + 1); i++) look(ofFace[f], mesh.corners[i] * 3);
  };
  for (let f = 0; f < faceCount(mesh); f++) for (let k = 0; k < 3; k++) sums[ofFace[f] * 3 + k] += areas[f * 3 + k];
  eachCorner((part, o) => {
    for (let k = 0; k < 3; k++) middles[part * 4 + k] += p[o + k];
    middles[part * 4 + 3]++;
  });
  const planes = Array.from({ length: count }, (_, part): CuttingPlane => {
    const normal = unit(sums.subarray(part * 3, part * 3 + 3));
    if (!normal) throw new RangeError(`Part ${part} of the planes has no area on the whole, so it is no plane.`);
    const [x, y, z, corners] = middles.subarray(part * 4, part * 4 + 4);
    return { origin: [x / corners, y / corners, z / corners], normal };
  });
  const off = new Float64Array(count);
  const reach = new Float64Array(count);
  eachCorner((part, o) => {
    const { origin, normal } = planes[part];
    const away = [0, 1, 2].map((k) => p[o + k] - origin[k]);
    off[part] = Math.max(off[part], Math.abs(away[0] * normal[0] + away[1] * normal[1] + away[2] * normal[2]));
    reach[part] = Math.max(reach[part], Math.hypot(...away));
  });
  const bent = off.findIndex((value, part) => value > flatness * reach[part]);
  if (bent >= 0)
    warn({ code: 'degenerate', message: `Part ${bent + 1} of the planes is not flat; the plane through its middle is used.`, remedy: 'Give it flat meshes.' });
  return planes;
}
