import earcut from 'earcut';

/** Signed area of a polygon in the plane (pairs of numbers): positive when counter-clockwise. */
export function signedArea(flat: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0, j = flat.length - 2; i < flat.length; j = i, i += 2)
    sum += (flat[j] - flat[0]) * (flat[i + 1] - flat[1]) - (flat[i] - flat[0]) * (flat[j + 1] - flat[1]);
  return sum / 2;
}

/** True when all corners turn the same way and the polygon goes round once. */
export function isConvex(flat: ArrayLike<number>): boolean {
  const count = flat.length / 2;
  let turned = 0;
  let sign = 0;
  for (let i = 0; i < count; i++) {
    const [a, b, c] = [i * 2, ((i + 1) % count) * 2, ((i + 2) % count) * 2];
    const [ux, uy, vx, vy] = [flat[b] - flat[a], flat[b + 1] - flat[a + 1], flat[c] - flat[b], flat[c + 1] - flat[b + 1]];
    const cross = ux * vy - uy * vx;
    const angle = Math.atan2(cross, ux * vx + uy * vy);
    turned += angle;
    if (Math.abs(angle) < 1e-7) continue;
    if (sign && Math.sign(angle) !== sign) return false;
    sign = Math.sign(angle);
  }
  return Math.abs(Math.abs(turned) - 2 * Math.PI) < 0.1;
}

/** Triangles of a polygon with holes: 3 indices each, counting the outer corners first, then each hole's. Counter-clockwise. */
export function triangulatePolygon(outer: ArrayLike<number>, holes: readonly ArrayLike<number>[] = []): number[] {
  const flat = [...Array.from(outer), ...holes.flatMap((hole) => Array.from(hole))];
  const starts: number[] = [];
  let at = outer.length / 2;
  for (const hole of holes) {
    starts.push(at);
    at += hole.length / 2;
  }
  const triangles = earcut(flat, starts);
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = [triangles[i] * 2, triangles[i + 1] * 2, triangles[i + 2] * 2];
    if ((flat[b] - flat[a]) * (flat[c + 1] - flat[a + 1]) - (flat[b + 1] - flat[a + 1]) * (flat[c] - flat[a]) < 0)
      [triangles[i + 1], triangles[i + 2]] = [triangles[i + 2], triangles[i + 1]];
  }
  return triangles;
}
