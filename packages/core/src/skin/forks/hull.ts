import { tick, type Work } from '../../base/work.js';

/**
 * The triangles of the convex hull of points in general position (no four in a plane), each turned outwards: points are added one by one, and what a new one sees is replaced by
 * triangles to it (the incremental algorithm; Preparata & Shamos 1985, section 3.4.3, from memory).
 * @param p 3 numbers a point.
 * @returns 3 numbers a triangle; null where the points have no volume.
 */
export function convexHull(p: ArrayLike<number>, work: Work): number[] | null {
  const count = p.length / 3;
  const first = tetrahedron(p, count);
  if (!first) return null;
  const [a, b, c, d] = first;
  let faces = volume(p, a, b, c, d) < 0 ? [[a, b, c], [a, d, b], [b, d, c], [a, c, d]] : [[a, c, b], [a, b, d], [b, c, d], [a, d, c]]; // prettier-ignore
  for (let i = 0; i < count; i++) {
    tick(work, i, count);
    if (first.includes(i)) continue;
    const seen = faces.filter(([x, y, z]) => volume(p, x, y, z, i) > 0);
    if (!seen.length) continue;
    const edges = new Set(seen.flatMap(([x, y, z]) => [x * count + y, y * count + z, z * count + x]));
    const rim = [...edges].map((edge) => [Math.floor(edge / count), edge % count]).filter(([x, y]) => !edges.has(y * count + x));
    const hidden = new Set(seen);
    faces = [...faces.filter((face) => !hidden.has(face)), ...rim.map(([x, y]) => [x, y, i])];
  }
  return faces.flat();
}

/** Six times the volume between a triangle and a point: above 0 where the point lies before its front. */
function volume(p: ArrayLike<number>, a: number, b: number, c: number, d: number): number {
  const [ax, ay, az] = [p[a * 3], p[a * 3 + 1], p[a * 3 + 2]];
  const ux = p[b * 3] - ax;
  const uy = p[b * 3 + 1] - ay;
  const uz = p[b * 3 + 2] - az;
  const vx = p[c * 3] - ax;
  const vy = p[c * 3 + 1] - ay;
  const vz = p[c * 3 + 2] - az;
  return (uy * vz - uz * vy) * (p[d * 3] - ax) + (uz * vx - ux * vz) * (p[d * 3 + 1] - ay) + (ux * vy - uy * vx) * (p[d * 3 + 2] - az);
}

/** Four points far from lying in a plane. */
function tetrahedron(p: ArrayLike<number>, count: number): [number, number, number, number] | null {
  if (count < 4) return null;
  const best = (measure: (i: number) => number): number =>
    Array.from({ length: count }, (_, i) => i).reduce((most, i) => (measure(i) > measure(most) ? i : most), 0);
  const from = (i: number, j: number): number[] => [0, 1, 2].map((k) => p[i * 3 + k] - p[j * 3 + k]);
  const a = 0;
  const b = best((i) => Math.hypot(...from(i, a)));
  const way = from(b, a);
  const c = best((i) => {
    const [x, y, z] = from(i, a);
    return Math.hypot(way[1] * z - way[2] * y, way[2] * x - way[0] * z, way[0] * y - way[1] * x);
  });
  const d = best((i) => Math.abs(volume(p, a, b, c, i)));
  const size = Math.hypot(...way);
  return Math.abs(volume(p, a, b, c, d)) > 1e-9 * size ** 3 ? [a, b, c, d] : null;
}
