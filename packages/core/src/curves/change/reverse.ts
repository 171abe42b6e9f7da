import { withAttributes, type Attribute } from '../../geometry/attributes.js';
import { tick, unbounded, type Work } from '../../base/work.js';
import { gatherCurves } from '../../geometry/gather.js';
import { areaVector } from '../evaluate/plane.js';
import { curveCount, type Curves } from '../../geometry/curves.js';

/** The same curves, those in `which` (1: yes, a curve) running the other way. Closed curves keep their first point; frames keep their normal. */
export function reverse(curves: Curves, which: ArrayLike<number>, work: Work = unbounded): Curves {
  const points = new Uint32Array(curves.positions.length / 3);
  const turned = new Uint8Array(points.length);
  for (let c = 0; c < curveCount(curves); c++) {
    tick(work, c, curveCount(curves));
    const from = curves.starts[c];
    const to = curves.starts[c + 1];
    const shift = curves.closed[c] ? 1 : 0;
    const count = to - from;
    for (let i = 0; i < count; i++) {
      points[from + i] = which[c] ? from + ((count - 1 - i + shift) % count) : from + i;
      turned[from + i] = which[c] ? 1 : 0;
    }
  }
  const sources = Uint32Array.from({ length: curveCount(curves) }, (_, c) => c);
  const result = gatherCurves(curves, { points, starts: curves.starts, sources, closed: curves.closed });
  const [tangent, into, out] = ['tangent', 'handleIn', 'handleOut'].map((name) => result.attributes.get(name));
  const changes: Record<string, Attribute> = {};
  if (tangent?.carrier === 'point') changes['tangent'] = { ...tangent, data: tangent.data.map((value, i) => (turned[(i / 3) | 0] ? -value : value)) };
  if (into && out) {
    const chosen = (own: Float32Array, other: Float32Array): Float32Array => own.map((value, i) => (turned[(i / 3) | 0] ? other[i] : value));
    changes['handleIn'] = { ...into, data: chosen(into.data, out.data) };
    changes['handleOut'] = { ...out, data: chosen(out.data, into.data) };
  }
  return { ...result, attributes: withAttributes(result.attributes, changes) };
}

/** 1 for each curve that runs against curve `model`: closed ones by the sense they turn in, open ones by which ends lie nearer. */
export function runsAgainst(curves: Curves, c: number, model: number): boolean {
  const p = curves.positions;
  const ends = (which: number): [number, number] => [curves.starts[which], curves.starts[which + 1] - 1];
  const [a, b] = ends(model);
  const [d, e] = ends(c);
  if (b < a || e < d) return false;
  if (curves.closed[c] && curves.closed[model]) {
    const [n, m] = [areaVector(p, a, b + 1), areaVector(p, d, e + 1)];
    return n[0] * m[0] + n[1] * m[1] + n[2] * m[2] < 0;
  }
  const far = (i: number, j: number): number => Math.hypot(p[i * 3] - p[j * 3], p[i * 3 + 1] - p[j * 3 + 1], p[i * 3 + 2] - p[j * 3 + 2]);
  return far(a, e) + far(b, d) < far(a, d) + far(b, e) - 1e-12;
}
