import { matrixColumns, matrixOf } from './expand.js';
import { makeCopies, type Copies } from './copies.js';
import type { Mesh } from './mesh.js';
import { transformGeometry } from './transform.js';

/** Cosine between two axes above which a copy counts as sheared. */
const square = 1e-4;

/** Whether a copy is sheared: its axes are not square to each other, so that it has no place, turn and size. */
export function isSheared(copies: Copies, i: number): boolean {
  const m = matrixColumns(copies, i);
  for (const [a, b] of [
    [0, 4],
    [4, 8],
    [8, 0],
  ]) {
    // prettier-ignore
    const dot = m[a] * m[b] + m[a + 1] * m[b + 1] + m[a + 2] * m[b + 2];
    const sizes = Math.hypot(m[a], m[a + 1], m[a + 2]) * Math.hypot(m[b], m[b + 1], m[b + 2]);
    if (Math.abs(dot) > square * sizes) return true;
  }
  return false;
}

/** How many copies are sheared. */
export const shearedCount = (copies: Copies): number => copies.object.reduce((count, _, i) => count + Number(isSheared(copies, i)), 0);

/** The copies with an object of its own for each sheared one, which then only stands in its place; the others share theirs. */
export function withoutShear(copies: Copies): Copies {
  if (!shearedCount(copies)) return copies;
  const objects: Mesh[] = [...copies.objects];
  const object = copies.object.slice();
  const matrices = copies.matrices.slice();
  for (let i = 0; i < object.length; i++) {
    if (!isSheared(copies, i)) continue;
    const m = matrixOf(copies, i);
    objects.push(transformGeometry(copies.objects[object[i]], [m[0], m[1], m[2], 0, m[4], m[5], m[6], 0, m[8], m[9], m[10], 0]));
    object[i] = objects.length - 1;
    matrices.set([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, m[3], m[7], m[11], 1], i * 16);
  }
  return makeCopies(objects, object, matrices, copies.attributes);
}
