import { withAttributes } from '../geometry/attributes.js';
import { curveCount, curveKinds, type Curves } from '../geometry/curves.js';
import type { Geometry } from '../geometry/geometry.js';
import { triangleCount } from '../geometry/mesh.js';
import { paced } from '../curves/change/resample.js';
import { spansOf } from '../curves/evaluate/spans.js';
import type { Pieces } from '../space/boxTree.js';
import { triangulate } from '../mesh/topology/triangulate.js';

/**
 * What a geometry is made of, for searches: points as they are, curves by their whole length (smooth ones by cubic pieces that turn by 7.5° at most),
 * meshes by triangles. Copies have none.
 */
export function piecesOf(geometry: Geometry): Pieces {
  switch (geometry.type) {
    case 'points': {
      const element = Uint32Array.from({ length: geometry.positions.length / 3 }, (_, i) => i);
      return { corners: geometry.positions, size: 3, element, points: element, perPiece: 1, of: geometry };
    }
    case 'curves': {
      // Without their tangents curves count as not sampled yet, so pieces are short however few points there are.
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
      const pieces = made(curves, curves.positions, 2, Uint32Array.from(element), Uint32Array.from(points));
      return curves.kind.some((kind) => curveKinds[kind] !== 'straight') ? { ...pieces, size: 12, corners: controlOf(curves, element.length) } : pieces;
    }
    case 'mesh': {
      if (!triangleCount(geometry)) return made(geometry, geometry.positions, 3, new Uint32Array(0), new Uint32Array(0));
      const { indices, faceOf } = triangulate(geometry);
      return made(geometry, geometry.positions, 3, faceOf, indices);
    }
    case 'copies':
      return { corners: new Float32Array(0), size: 9, element: new Uint32Array(0), points: new Uint32Array(0), perPiece: 3, of: geometry };
  }
}

/** Control points of all pieces of curves, a curve after the other; a curve of one point is a piece of no length. */
function controlOf(curves: Curves, pieces: number): Float32Array {
  const control = new Float32Array(pieces * 12);
  let at = 0;
  for (let c = 0; c < curveCount(curves); c++) {
    const spans = spansOf(curves, c);
    control.set(spans.control, at);
    at += spans.control.length;
    if (spans.count || curves.starts[c + 1] === curves.starts[c]) continue;
    for (let k = 0; k < 12; k++) control[at++] = curves.positions[curves.starts[c] * 3 + (k % 3)];
  }
  return control;
}

function made(of: Geometry, positions: Float32Array, perPiece: 2 | 3, element: Uint32Array, points: Uint32Array): Pieces {
  const corners = new Float32Array(points.length * 3);
  for (let i = 0, at = 0; i < points.length; i++) {
    const o = points[i] * 3;
    corners[at++] = positions[o];
    corners[at++] = positions[o + 1];
    corners[at++] = positions[o + 2];
  }
  return { corners, size: perPiece === 2 ? 6 : 9, element, points, perPiece, of };
}
