import { faceCount, faceStart, type Mesh } from '../../geometry/mesh.js';

/** Faces, or smaller boxes, that one box is put round, as they come: a plane that misses it misses them all. */
export const perBox = 8;

/**
 * Boxes round every few faces of a mesh, round every few of these, and so on up to few: 6 numbers a box, its middle and half its sides.
 * @param cornerAt the vertex whose place each corner has.
 */
export function boxesOf(mesh: Mesh, cornerAt: Uint32Array): Float64Array[] {
  const p = mesh.positions;
  const faces = faceCount(mesh);
  const first = boxesRound(faces, (f, box) => {
    for (let i = faceStart(mesh, f), to = faceStart(mesh, f + 1); i < to; i++) box.around(p, cornerAt[i] * 3);
  });
  const levels = [first];
  for (let below = first; below.length > perBox * 6; levels.push(below)) {
    const inner = below;
    below = boxesRound(inner.length / 6, (j, box) => box.aroundBox(inner, j * 6));
  }
  return levels;
}

/** A box round every few of `count` things. */
function boxesRound(count: number, put: (i: number, box: Box) => void): Float64Array {
  const boxes = new Float64Array(Math.ceil(count / perBox) * 6);
  const box = new Box();
  for (let from = 0, at = 0; from < count; from += perBox, at += 6) {
    box.empty();
    for (let i = from, to = Math.min(count, from + perBox); i < to; i++) put(i, box);
    box.write(boxes, at);
  }
  return boxes;
}

class Box {
  private x0 = 0;
  private y0 = 0;
  private z0 = 0;
  private x1 = 0;
  private y1 = 0;
  private z1 = 0;

  empty(): void {
    this.x0 = this.y0 = this.z0 = Infinity;
    this.x1 = this.y1 = this.z1 = -Infinity;
  }

  around(p: Float32Array, o: number): void {
    this.span(p[o], p[o + 1], p[o + 2], 0, 0, 0);
  }

  /** Round another, written as its middle and half its sides. */
  aroundBox(b: Float64Array, o: number): void {
    this.span(b[o], b[o + 1], b[o + 2], b[o + 3], b[o + 4], b[o + 5]);
  }

  private span(x: number, y: number, z: number, dx: number, dy: number, dz: number): void {
    this.x0 = Math.min(this.x0, x - dx);
    this.y0 = Math.min(this.y0, y - dy);
    this.z0 = Math.min(this.z0, z - dz);
    this.x1 = Math.max(this.x1, x + dx);
    this.y1 = Math.max(this.y1, y + dy);
    this.z1 = Math.max(this.z1, z + dz);
  }

  write(to: Float64Array, o: number): void {
    to[o] = (this.x0 + this.x1) / 2;
    to[o + 1] = (this.y0 + this.y1) / 2;
    to[o + 2] = (this.z0 + this.z1) / 2;
    to[o + 3] = (this.x1 - this.x0) / 2;
    to[o + 4] = (this.y1 - this.y0) / 2;
    to[o + 5] = (this.z1 - this.z0) / 2;
  }
}
