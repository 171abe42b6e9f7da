import { withAttributes } from '../geometry/attributes.js';
import type { Geometry } from '../geometry/geometry.js';
import { triangleCount } from '../geometry/mesh.js';
import { paced } from '../curves/resample.js';
import { triangulate } from '../mesh/triangulate.js';

/** Points, segments or triangles in flat arrays, each with the element that it belongs to. */
export interface Pieces {
  /** 3, 6 or 9 numbers a piece: its corners, metres. */
  readonly corners: Float32Array;
  readonly size: 3 | 6 | 9;
  /** Point, piece of a curve (its first point) or face of each piece. */
  readonly element: Uint32Array;
  /** Point or vertex of each corner, `size` ÷ 3 a piece, in `of`. */
  readonly points: Uint32Array;
  /** The geometry that elements and points are numbered in: as given, or curves at the places where they were sampled. */
  readonly of: Geometry;
}

/**
 * What a geometry is made of, for searches: points as they are, curves by their whole length (smooth ones by chords at each 7.5° of turn), meshes
 * by triangles. Copies have none.
 */
export function piecesOf(geometry: Geometry): Pieces {
  switch (geometry.type) {
    case 'points': {
      const element = Uint32Array.from({ length: geometry.positions.length / 3 }, (_, i) => i);
      return { corners: geometry.positions, size: 3, element, points: element, of: geometry };
    }
    case 'curves': {
      // Without their tangents curves count as not sampled yet, so chords follow the bend however few points there are.
      const curves = paced({ ...geometry, attributes: withAttributes(geometry.attributes, { tangent: null }) });
      const element: number[] = [];
      const points: number[] = [];
      for (let c = 0; c + 1 < curves.starts.length; c++) {
        const [from, to] = [curves.starts[c], curves.starts[c + 1]];
        if (to === from) continue;
        const last = to - from === 1 || curves.closed[c] ? to : to - 1;
        for (let i = from; i < last; i++) {
          element.push(i);
          points.push(i, i + 1 < to ? i + 1 : from);
        }
      }
      return made(curves, curves.positions, 6, Uint32Array.from(element), Uint32Array.from(points));
    }
    case 'mesh': {
      if (!triangleCount(geometry)) return made(geometry, geometry.positions, 9, new Uint32Array(0), new Uint32Array(0));
      const { indices, faceOf } = triangulate(geometry);
      return made(geometry, geometry.positions, 9, faceOf, indices);
    }
    case 'copies':
      return { corners: new Float32Array(0), size: 9, element: new Uint32Array(0), points: new Uint32Array(0), of: geometry };
  }
}

function made(of: Geometry, positions: Float32Array, size: 6 | 9, element: Uint32Array, points: Uint32Array): Pieces {
  const corners = new Float32Array(points.length * 3);
  for (let i = 0, at = 0; i < points.length; i++) {
    const o = points[i] * 3;
    corners[at++] = positions[o];
    corners[at++] = positions[o + 1];
    corners[at++] = positions[o + 2];
  }
  return { corners, size, element, points, of };
}
