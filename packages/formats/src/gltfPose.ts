import type { Accessor, Node, Primitive, Skin } from '@gltf-transform/core';
import { FormatError } from './errors.js';

/** Places and normals of a primitive's vertices, 3 numbers each. */
export interface Posed {
  readonly positions: Float32Array;
  readonly normals: Float32Array | null;
}

/** The values of an accessor, `size` numbers each; integers that stand for 0…1 as such. */
export function valuesOf(accessor: Accessor, size: number): Float32Array {
  const result = new Float32Array(accessor.getCount() * size);
  const element: number[] = [];
  for (let i = 0; i < accessor.getCount(); i++) {
    accessor.getElement(i, element);
    for (let k = 0; k < size; k++) result[i * size + k] = element[k];
  }
  return result;
}

/**
 * The vertices of a primitive as its node poses them: morph targets by the weights of the node, else of the mesh, then the joints of its skin by the vertices' weights
 * (glTF 2.0, 3.7.2.2 and 3.7.3.3).
 * @throws FormatError when there are no positions.
 */
export function posed(primitive: Primitive, node: Node): Posed {
  const accessor = primitive.getAttribute('POSITION');
  if (!accessor) throw new FormatError('A primitive has no positions.');
  const positions = valuesOf(accessor, 3);
  const given = primitive.getAttribute('NORMAL');
  const normals = given ? valuesOf(given, 3) : null;
  const own = node.getWeights();
  const weights = own.length ? own : (node.getMesh()?.getWeights() ?? []);
  primitive.listTargets().forEach((target, k) => {
    const weight = weights[k] ?? 0;
    if (!weight) return;
    for (const [name, list] of [['POSITION', positions], ['NORMAL', normals]] as const) {
      const change = target.getAttribute(name);
      if (!change || !list) continue;
      const by = valuesOf(change, 3);
      for (let i = 0; i < list.length; i++) list[i] += weight * by[i];
    }
  }); // prettier-ignore
  const skin = node.getSkin();
  if (skin) skinned(primitive, skin, positions, normals);
  else if (normals && primitive.listTargets().length) for (let i = 0; i < normals.length; i += 3) unit(normals, i);
  return { positions, normals };
}

/** Moves vertices by their joints: each by the weighted sum of the joints' matrices times their inverse bind matrices. */
function skinned(primitive: Primitive, skin: Skin, positions: Float32Array, normals: Float32Array | null): void {
  const inverse = skin.getInverseBindMatrices();
  const matrices = skin.listJoints().map((joint, k) => product(joint.getWorldMatrix(), inverse?.getElement<number[]>(k, []) ?? null));
  const sets: { joints: Accessor; weights: Accessor }[] = [];
  for (let set = 0; ; set++) {
    const [joints, weights] = [primitive.getAttribute(`JOINTS_${set}`), primitive.getAttribute(`WEIGHTS_${set}`)];
    if (!joints || !weights) break;
    sets.push({ joints, weights });
  }
  if (!sets.length) return;
  const [which, share, m] = [[0, 0, 0, 0], [0, 0, 0, 0], new Float64Array(12)];
  for (let i = 0; i < positions.length / 3; i++) {
    m.fill(0);
    let sum = 0;
    for (const { joints, weights } of sets) {
      joints.getElement(i, which);
      weights.getElement(i, share);
      for (let k = 0; k < 4; k++) {
        if (!share[k]) continue;
        const joint = matrices[which[k]];
        if (!joint) throw new FormatError(`Vertex ${i} hangs on joint ${which[k]}; the skin has ${matrices.length}.`);
        sum += share[k];
        for (let n = 0; n < 12; n++) m[n] += share[k] * joint[n];
      }
    }
    if (!(sum > 0)) continue;
    move(m, positions, i * 3, 1 / sum, 1);
    if (!normals) continue;
    move(m, normals, i * 3, 1 / sum, 0);
    unit(normals, i * 3);
  }
}

/** The first three rows of a·b, column-major 4 × 4 matrices, as 4 columns of 3 numbers; b left out is the identity. */
function product(a: readonly number[], b: readonly number[] | null): Float64Array {
  const out = new Float64Array(12);
  for (let column = 0; column < 4; column++)
    for (let row = 0; row < 3; row++) {
      let sum = 0;
      for (let k = 0; k < 4; k++) sum += a[k * 4 + row] * (b ? b[column * 4 + k] : k === column ? 1 : 0);
      out[column * 3 + row] = sum;
    }
  return out;
}

function move(m: Float64Array, list: Float32Array, o: number, scale: number, w: 0 | 1): void {
  const [x, y, z] = [list[o], list[o + 1], list[o + 2]];
  for (let row = 0; row < 3; row++) list[o + row] = (m[row] * x + m[3 + row] * y + m[6 + row] * z + w * m[9 + row]) * scale;
}

function unit(list: Float32Array, o: number): void {
  const size = Math.hypot(list[o], list[o + 1], list[o + 2]) || 1;
  for (let k = 0; k < 3; k++) list[o + k] /= size;
}
