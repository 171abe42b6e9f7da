import { BufferAttribute, BufferGeometry, Matrix3, Matrix4 } from 'three';

/** Numbers a vertex. */
type Shape = Readonly<Record<string, { readonly array: Float32Array; readonly size: number }>>;

/** Most vertices that copies are spread out to. */
export const mostSpread = 6_000_000;

/**
 * Copies of a surface, or of lines, as one geometry. A graphics card draws the same thing a million times by itself; software does it one by one, sixty microseconds each,
 * and draws one large thing a hundred times as quickly.
 * @param corners 3 for triangles, 2 for lines.
 * @param matrices 16 numbers a copy, column by column.
 */
export function spread(base: BufferGeometry, matrices: Float32Array, corners: 2 | 3): BufferGeometry {
  const count = matrices.length / 16;
  const { index } = base;
  const spreadOut = new BufferGeometry();
  const given = Object.fromEntries(
    Object.entries(base.attributes).map(([name, attribute]) => [name, { array: attribute.array as Float32Array, size: attribute.itemSize }]),
  ) as Shape;
  for (const [name, { array, size }] of Object.entries(given)) {
    const all = new Float32Array(array.length * count);
    if (name === 'position') place(all, array, matrices);
    else if (name === 'normal') turn(all, array, matrices);
    else for (let i = 0; i < count; i++) all.set(array, i * array.length);
    spreadOut.setAttribute(name, new BufferAttribute(all, size));
  }
  const vertices = given['position'].array.length / 3;
  const order = index!.array as Uint32Array;
  const groups = base.groups.length ? base.groups : [{ start: 0, count: order.length, materialIndex: 0 }];
  const all = new Uint32Array(order.length * count);
  let at = 0;
  for (const { start, count: length, materialIndex } of groups) {
    spreadOut.addGroup(at, length * count, materialIndex);
    for (let copy = 0; copy < count; copy++) {
      const turned = corners === 3 && mirrors(matrices, copy * 16);
      for (let i = 0; i < length; i++) {
        // A mirrored copy goes round the other way, so that its fronts stay fronts.
        const corner = turned ? i - (i % 3) + ((3 - (i % 3)) % 3) : i;
        all[at++] = order[start + corner] + copy * vertices;
      }
    }
  }
  spreadOut.setIndex(new BufferAttribute(all, 1));
  return spreadOut;
}

/** Values of copies, `size` numbers each, for each of their vertices. */
export function spreadValues(values: Float32Array, size: number, vertices: number): Float32Array {
  const count = values.length / size;
  const all = new Float32Array(count * vertices * size);
  for (let copy = 0, at = 0; copy < count; copy++)
    for (let vertex = 0; vertex < vertices; vertex++) for (let k = 0; k < size; k++) all[at++] = values[copy * size + k];
  return all;
}

function place(all: Float32Array, places: Float32Array, matrices: Float32Array): void {
  for (let copy = 0, at = 0; copy < matrices.length; copy += 16)
    for (let i = 0; i < places.length; i += 3)
      for (let k = 0; k < 3; k++)
        all[at++] = matrices[copy + k] * places[i] + matrices[copy + 4 + k] * places[i + 1] + matrices[copy + 8 + k] * places[i + 2] + matrices[copy + 12 + k];
}

function turn(all: Float32Array, normals: Float32Array, matrices: Float32Array): void {
  const [matrix, normal] = [new Matrix4(), new Matrix3()];
  for (let copy = 0, at = 0; copy < matrices.length; copy += 16) {
    const { elements: e } = normal.getNormalMatrix(matrix.fromArray(matrices, copy));
    for (let i = 0; i < normals.length; i += 3, at += 3) {
      const [x, y, z] = [normals[i], normals[i + 1], normals[i + 2]];
      const turned = [e[0] * x + e[3] * y + e[6] * z, e[1] * x + e[4] * y + e[7] * z, e[2] * x + e[5] * y + e[8] * z];
      const length = Math.hypot(...turned) || 1;
      for (let k = 0; k < 3; k++) all[at + k] = turned[k] / length;
    }
  }
}

/** Whether a matrix turns right into left. */
function mirrors(m: Float32Array, at: number): boolean {
  const [a, b, c] = [at, at + 4, at + 8];
  return (
    m[a] * (m[b + 1] * m[c + 2] - m[b + 2] * m[c + 1]) -
      m[b] * (m[a + 1] * m[c + 2] - m[a + 2] * m[c + 1]) +
      m[c] * (m[a + 1] * m[b + 2] - m[a + 2] * m[b + 1]) <
    0
  );
}
