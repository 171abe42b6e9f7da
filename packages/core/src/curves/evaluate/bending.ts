import { curveCount, curveKinds, type Curves } from '../../geometry/curves.js';
import { tick, unbounded, type Work } from '../../base/work.js';
import { chord } from './arcLength.js';
import { spansOf, type Spans } from './spans.js';

/** Curvature beyond this, 1/m, is told as this: a corner has no radius. */
const sharpest = 1e4;

export interface Bending {
  /** 1/m, a value per point, 0 or more. */
  readonly curvature: Float32Array;
  /** Turning out of the plane of the bend, 1/m, a value per point; right-handed is positive. */
  readonly torsion: Float32Array;
}

/**
 * Curvature and torsion at every point. Smooth curves by their derivatives (Frenet 1852, Serret 1851: κ = |r′ × r″| ÷ |r′|³,
 * τ = (r′ × r″)·r‴ ÷ |r′ × r″|²), the mean of both sides where two spans meet; straight ones from their corners: κ = 2·tan(θ/2) over the mean of
 * the chords beside it, τ the turn of the bend's plane over the middle chord. Open ends take their neighbour's.
 */
export function bendingOf(curves: Curves, work: Work = unbounded): Bending {
  const points = curves.positions.length / 3;
  const bending: Bending = { curvature: new Float32Array(points), torsion: new Float32Array(points) };
  for (let c = 0; c < curveCount(curves); c++) {
    if (curveKinds[curves.kind[c]] === 'straight') bendOfChords(curves, c, bending, work);
    else bendOfSpans(curves, c, bending, work);
  }
  return bending;
}

function bendOfSpans(curves: Curves, c: number, { curvature, torsion }: Bending, work: Work): void {
  const spans = spansOf(curves, c);
  const from = curves.starts[c];
  const count = curves.starts[c + 1] - from;
  const closed = curves.closed[c] === 1;
  for (let i = 0; i < count; i++) {
    tick(work, from + i, curvature.length);
    let sides = 0;
    for (const end of [0, 1] as const) {
      if (end === 0 ? i >= spans.count : i === 0 && !closed) continue;
      bendAt(spans, end === 0 ? i : (i + spans.count - 1) % Math.max(1, spans.count), end);
      curvature[from + i] += bend.curvature;
      torsion[from + i] += bend.torsion;
      sides++;
    }
    curvature[from + i] /= sides || 1;
    torsion[from + i] /= sides || 1;
  }
}

/**
 * Curvature on both sides of every point of curve `c`, 1/m: where a straight piece runs into an arc it is 0 before the point and 1/radius after it.
 * At open ends, and where pieces are chords, both are what `bendingOf` tells.
 */
export function curvatureSides(curves: Curves, c: number): { readonly before: Float32Array; readonly after: Float32Array } {
  const from = curves.starts[c];
  const count = curves.starts[c + 1] - from;
  const before = bendingOf(curves).curvature.slice(from, from + count);
  const after = before.slice();
  if (curveKinds[curves.kind[c]] === 'straight') return { before, after };
  const spans = spansOf(curves, c);
  for (let i = 0; i < spans.count; i++) {
    bendAt(spans, i, 0);
    after[i] = bend.curvature;
    bendAt(spans, i, 1);
    before[(i + 1) % count] = bend.curvature;
  }
  return { before, after };
}

/** What `bendAt` found last. */
const bend = { curvature: 0, torsion: 0 };

/** Finds curvature and torsion at the start (0) or end (1) of a span. Written out, since the strip asks for them at every step of a drag. */
function bendAt({ control: b, count }: Spans, i: number, end: 0 | 1): void {
  bend.curvature = 0;
  bend.torsion = 0;
  if (!count) return;
  const a = i * 12;
  const x0 = b[a + 3] - b[a];
  const y0 = b[a + 4] - b[a + 1];
  const z0 = b[a + 5] - b[a + 2];
  const x1 = b[a + 6] - b[a + 3];
  const y1 = b[a + 7] - b[a + 4];
  const z1 = b[a + 8] - b[a + 5];
  const x2 = b[a + 9] - b[a + 6];
  const y2 = b[a + 10] - b[a + 7];
  const z2 = b[a + 11] - b[a + 8];
  // First derivative ÷ 3, second and third ÷ 6.
  const [rx, ry, rz] = end ? [x2, y2, z2] : [x0, y0, z0];
  const [sx, sy, sz] = end ? [x2 - x1, y2 - y1, z2 - z1] : [x1 - x0, y1 - y0, z1 - z0];
  const cx = ry * sz - rz * sy;
  const cy = rz * sx - rx * sz;
  const cz = rx * sy - ry * sx;
  const speed = 3 * Math.sqrt(rx * rx + ry * ry + rz * rz);
  const area = 18 * Math.sqrt(cx * cx + cy * cy + cz * cz);
  if (!(speed > 1e-12)) return;
  const curvature = area / speed ** 3;
  bend.curvature = Math.min(sharpest, curvature);
  // Where the curve runs straight it has no plane to turn out of.
  if (curvature > 1e-9) bend.torsion = (108 * (cx * (x2 - 2 * x1 + x0) + cy * (y2 - 2 * y1 + y0) + cz * (z2 - 2 * z1 + z0))) / area ** 2;
}

function bendOfChords(curves: Curves, c: number, { curvature, torsion }: Bending, work: Work): void {
  const p = curves.positions;
  const from = curves.starts[c];
  const count = curves.starts[c + 1] - from;
  if (count < 3) return;
  const closed = curves.closed[c] === 1;
  const at = (i: number): number => from + ((i + count) % count);
  const leg = (i: number): number[] => [0, 1, 2].map((k) => p[at(i + 1) * 3 + k] - p[at(i) * 3 + k]);
  const binormal = (i: number): number[] => {
    const [a, b] = [leg(i - 1), leg(i)];
    const n = [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
    const length = Math.hypot(...n) || 1;
    return n.map((value) => value / length);
  };
  const inner = (i: number, last: number): number => (closed ? i : Math.min(last, Math.max(1, i)));
  for (let i = 0; i < count; i++) {
    tick(work, from + i, curvature.length);
    const j = inner(i, count - 2);
    const [before, after] = [chord(p, at(j - 1), at(j)), chord(p, at(j), at(j + 1))];
    if (!(before > 0 && after > 0)) continue;
    const [a, b] = [leg(j - 1), leg(j)];
    const dot = (a[0] * b[0] + a[1] * b[1] + a[2] * b[2]) / (before * after);
    const turn = Math.acos(Math.min(1, Math.max(-1, dot)));
    curvature[from + i] = Math.min(sharpest, (2 * Math.tan(turn / 2)) / ((before + after) / 2));
    if (count < 4) continue;
    const k = inner(i, count - 3);
    const middle = chord(p, at(k), at(k + 1));
    const [m, n] = [binormal(k), binormal(k + 1)];
    const t = leg(k);
    const sine = (t[0] * (m[1] * n[2] - m[2] * n[1]) + t[1] * (m[2] * n[0] - m[0] * n[2]) + t[2] * (m[0] * n[1] - m[1] * n[0])) / (middle || 1);
    if (middle > 0) torsion[from + i] = Math.atan2(sine, m[0] * n[0] + m[1] * n[1] + m[2] * n[2]) / middle;
  }
}
