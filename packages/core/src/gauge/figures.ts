import { withAttributes, type Attribute } from '../geometry/attributes.js';
import { curveCount, type Curves } from '../geometry/curves.js';
import type { Geometry } from '../geometry/geometry.js';
import { faceCount, type Mesh } from '../geometry/mesh.js';
import { tick, unbounded, type Work } from '../base/work.js';
import { bendingOf } from '../curves/evaluate/bending.js';
import { curveLengths, stationsOf } from '../curves/evaluate/arcLength.js';
import { areaVector } from '../curves/evaluate/plane.js';
import { tangentsOf } from '../curves/evaluate/tangents.js';
import { faceAreas } from '../mesh/topology/areas.js';

/** Figures of shape, with what each is and which geometries have it. */
export const figures = {
  length: { help: 'of each curve, metres', on: ['curves'] },
  s: { help: 'metres from the start, at each point', on: ['curves'] },
  t: { help: 'share of the length, 0 to 1, at each point', on: ['curves'] },
  curvature: { help: '1/m at each point', on: ['curves'] },
  torsion: { help: 'turn out of the bend’s plane, 1/m, at each point', on: ['curves'] },
  spacing: { help: 'metres to the next point (the last: from the one before)', on: ['curves'] },
  slope: { help: 'degrees above the level: of the way at each point, of each face', on: ['curves', 'mesh'] },
  area: { help: 'm²: of each face, of what a closed curve goes round', on: ['curves', 'mesh'] },
} as const;
export type Figure = keyof typeof figures;

const degrees = 180 / Math.PI;

/** Writes figures of shape as attributes of the same names. Those that a geometry does not have are left out. */
export function shapeFigures(geometry: Geometry, wanted: ReadonlySet<Figure>, work: Work = unbounded): Geometry {
  const made = geometry.type === 'curves' ? curveFigures(geometry, wanted, work) : geometry.type === 'mesh' ? meshFigures(geometry, wanted, work) : {};
  return { ...geometry, attributes: withAttributes(geometry.attributes, made) };
}

function curveFigures(curves: Curves, wanted: ReadonlySet<Figure>, work: Work): Record<string, Attribute> {
  const made: Record<string, Attribute> = {};
  const perPoint = (name: Figure, of: () => ArrayLike<number>): void => {
    if (wanted.has(name)) made[name] = { carrier: 'point', size: 1, data: Float32Array.from(of()) };
  };
  const perCurve = (name: Figure, of: () => ArrayLike<number>): void => {
    if (wanted.has(name)) made[name] = { carrier: 'curve', size: 1, data: Float32Array.from(of()) };
  };
  const stations = stationsOf(curves);
  const lengths = curveLengths(curves);
  /** A number for each point from its curve and itself. */
  const each = (of: (c: number, i: number) => number): Float32Array => {
    const data = new Float32Array(stations.length);
    for (let c = 0; c < curveCount(curves); c++)
      for (let i = curves.starts[c]; i < curves.starts[c + 1]; i++) {
        tick(work, i, data.length);
        data[i] = of(c, i);
      }
    return data;
  };
  perCurve('length', () => lengths);
  perPoint('s', () => stations);
  perPoint('t', () => each((c, i) => (lengths[c] > 0 ? stations[i] / lengths[c] : 0)));
  if (wanted.has('curvature') || wanted.has('torsion')) {
    const bending = bendingOf(curves, work);
    perPoint('curvature', () => bending.curvature);
    perPoint('torsion', () => bending.torsion);
  }
  perPoint('spacing', () =>
    each((c, i) => {
      const last = curves.starts[c + 1] - 1;
      if (i < last) return stations[i + 1] - stations[i];
      if (curves.closed[c]) return lengths[c] - stations[i];
      return i > curves.starts[c] ? stations[i] - stations[i - 1] : 0;
    }),
  );
  perPoint('slope', () => {
    const tangents = tangentsOf(curves, 'exact');
    return each((_, i) => Math.asin(Math.min(1, Math.max(-1, tangents[i * 3 + 1]))) * degrees);
  });
  perCurve('area', () =>
    Array.from({ length: curveCount(curves) }, (_, c) =>
      curves.closed[c] ? Math.hypot(...areaVector(curves.positions, curves.starts[c], curves.starts[c + 1])) / 2 : 0,
    ),
  );
  return made;
}

function meshFigures(mesh: Mesh, wanted: ReadonlySet<Figure>, work: Work): Record<string, Attribute> {
  const made: Record<string, Attribute> = {};
  const areas = faceAreas(mesh, work);
  const size = (f: number): number => Math.hypot(areas[f * 3], areas[f * 3 + 1], areas[f * 3 + 2]) / 2;
  const perFace = (name: Figure, of: (f: number) => number): void => {
    if (wanted.has(name)) made[name] = { carrier: 'face', size: 1, data: Float32Array.from({ length: faceCount(mesh) }, (_, f) => of(f)) };
  };
  perFace('area', size);
  // A face that lies level has slope 0, a wall 90, whichever side is up.
  perFace('slope', (f) => (size(f) > 0 ? Math.acos(Math.min(1, Math.abs(areas[f * 3 + 1]) / (2 * size(f)))) * degrees : 0));
  return made;
}
