import { Primitive, PropertyType, WebIO, type Accessor, type Document } from '@gltf-transform/core';
import { EXTMeshGPUInstancing, type InstancedMesh } from '@gltf-transform/extensions';
import { joinCopies, joinCurves, joinMeshes, makeCopies, makeCurves, makeMesh, type Copies, type Curves, type GeometrySet, type Mesh } from '@filaxis/core';
import { FormatError } from './errors.js';

/**
 * Meshes and line strips of a binary glTF file, placed by their nodes. Triangles only; one mesh and one set of curves.
 * @throws FormatError when the bytes are no GLB, or an accessor does not fit.
 */
export async function readGlb(bytes: Uint8Array): Promise<GeometrySet> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 20 || view.getUint32(0, true) !== 0x46546c67)
    throw new FormatError('Byte 0: this is not a binary glTF file (its first four bytes are not "glTF").');
  if (view.getUint32(8, true) > bytes.length)
    throw new FormatError(`Byte 8: the file says it has ${view.getUint32(8, true)} bytes, but it has ${bytes.length}.`);
  return contentOf(await parsed(() => new WebIO().registerExtensions([EXTMeshGPUInstancing]).readBinary(bytes as Uint8Array<ArrayBuffer>)));
}

/**
 * Meshes and line strips of a glTF text file whose buffers are in it (data URIs).
 * @throws FormatError when the text is no glTF, or names buffers in other files.
 */
export async function readGltf(text: string): Promise<GeometrySet> {
  let json: { buffers?: { uri?: unknown }[] };
  try {
    json = JSON.parse(text) as typeof json;
  } catch (error) {
    throw new FormatError(`This is not JSON: ${(error as Error).message}.`);
  }
  if (typeof json !== 'object' || json === null) throw new FormatError('This is not glTF: it is no object.');
  const resources: Record<string, Uint8Array<ArrayBuffer>> = {};
  (Array.isArray(json.buffers) ? json.buffers : []).forEach((buffer, n) => {
    const uri = typeof buffer?.uri === 'string' ? buffer.uri : '';
    const data = /^data:[^,]*;base64,(.*)$/s.exec(uri);
    if (!data) throw new FormatError(`/buffers/${n}/uri: the buffer is in another file; give a .glb, or a .gltf that holds its buffers.`);
    try {
      resources[`buffer${n}`] = Uint8Array.from(atob(data[1]), (letter) => letter.charCodeAt(0));
    } catch {
      throw new FormatError(`/buffers/${n}/uri: this is not base64.`);
    }
    buffer.uri = `buffer${n}`;
  });
  return contentOf(await parsed(() => new WebIO().registerExtensions([EXTMeshGPUInstancing]).readJSON({ json: json as never, resources })));
}

async function parsed(read: () => Promise<Document>): Promise<Document> {
  try {
    return await read();
  } catch (error) {
    throw new FormatError(`The glTF file cannot be read: ${(error as Error).message}`);
  }
}

/** Meshes and curves of a document, placed by its nodes; instances become copies. */
function contentOf(document: Document): GeometrySet {
  const meshes: Mesh[] = [];
  const curves: Curves[] = [];
  const copies: Copies[] = [];
  for (const node of document.getRoot().listNodes()) {
    const matrix = node.getWorldMatrix();
    const batch = node.getExtension<InstancedMesh>('EXT_mesh_gpu_instancing');
    const own: Mesh[] = [];
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
      if (primitive.propertyType !== PropertyType.PRIMITIVE) continue;
      const mode = primitive.getMode();
      if (mode === Primitive.Mode.TRIANGLES) own.push(triangleMesh(primitive, matrix));
      else if (mode === Primitive.Mode.LINE_STRIP || mode === Primitive.Mode.LINE_LOOP)
        curves.push(lineStrip(primitive, matrix, mode === Primitive.Mode.LINE_LOOP));
      else if (mode === Primitive.Mode.LINES) curves.push(linePairs(primitive, matrix));
    }
    if (batch && own.length) copies.push(instances(batch, joinMeshes(own)));
    else meshes.push(...own);
  }
  return {
    ...(meshes.length && { mesh: joinMeshes(meshes) }),
    ...(curves.length && { curves: joinCurves(curves) }),
    ...(copies.length && { copies: joinCopies(copies) }),
  };
}

function instances(batch: InstancedMesh, object: Mesh): Copies {
  const [place, turn, size] = ['TRANSLATION', 'ROTATION', 'SCALE'].map((name) => batch.getAttribute(name) as Accessor | null);
  const count = Math.max(...[place, turn, size].map((accessor) => accessor?.getCount() ?? 0));
  const matrices = new Float32Array(count * 16);
  for (let i = 0; i < count; i++) {
    const t = place?.getElement<number[]>(i, []) ?? [0, 0, 0];
    const q = turn?.getElement<number[]>(i, []) ?? [0, 0, 0, 1];
    const s = size?.getElement<number[]>(i, []) ?? [1, 1, 1];
    const [x, y, z, w] = q;
    const r = [
      1 - 2 * (y * y + z * z), 2 * (x * y + z * w), 2 * (x * z - y * w),
      2 * (x * y - z * w), 1 - 2 * (x * x + z * z), 2 * (y * z + x * w),
      2 * (x * z + y * w), 2 * (y * z - x * w), 1 - 2 * (x * x + y * y),
    ]; // prettier-ignore
    for (let column = 0; column < 3; column++) for (let row = 0; row < 3; row++) matrices[i * 16 + column * 4 + row] = r[column * 3 + row] * s[column];
    matrices.set([...t, 1], i * 16 + 12);
  }
  return makeCopies([object], new Uint32Array(count), matrices);
}

function placed(accessor: Accessor | null, m: readonly number[], w: 0 | 1): Float32Array {
  if (!accessor) throw new FormatError('A primitive has no positions.');
  const result = new Float32Array(accessor.getCount() * 3);
  const p: number[] = [];
  for (let i = 0; i < accessor.getCount(); i++) {
    accessor.getElement(i, p);
    for (let k = 0; k < 3; k++) result[i * 3 + k] = m[k] * p[0] + m[4 + k] * p[1] + m[8 + k] * p[2] + w * m[12 + k];
  }
  return result;
}

function triangleMesh(primitive: Primitive, matrix: readonly number[]): Mesh {
  const positions = placed(primitive.getAttribute('POSITION'), matrix, 1);
  const given = primitive.getIndices()?.getArray();
  const corners = given ? Uint32Array.from(given) : Uint32Array.from({ length: positions.length / 3 }, (_, i) => i);
  if (corners.length % 3) throw new FormatError(`A primitive has ${corners.length} triangle indices, which is no multiple of 3.`);
  const attributes = new Map();
  const uv = primitive.getAttribute('TEXCOORD_0');
  if (uv) {
    const data = new Float32Array(uv.getCount() * 2);
    const pair: number[] = [];
    for (let i = 0; i < uv.getCount(); i++) {
      uv.getElement(i, pair);
      data.set([pair[0], 1 - pair[1]], i * 2);
    }
    attributes.set('uv', { carrier: 'corner', size: 2, data });
  }
  const normal = primitive.getAttribute('NORMAL');
  if (normal) attributes.set('normal', { carrier: 'corner', size: 3, data: placed(normal, matrix, 0) });
  return makeMesh({ positions, corners, uniform: 3, attributes });
}

function lineStrip(primitive: Primitive, matrix: readonly number[], loop: boolean): Curves {
  const all = placed(primitive.getAttribute('POSITION'), matrix, 1);
  const given = primitive.getIndices()?.getArray();
  const positions = given ? new Float32Array(given.length * 3) : all;
  given?.forEach((at: number, i: number) => {
    if (at * 3 >= all.length) throw new FormatError(`A line names point ${at}; there are ${all.length / 3}.`);
    positions.set(all.subarray(at * 3, at * 3 + 3), i * 3);
  });
  return makeCurves({ positions, starts: Uint32Array.of(0, positions.length / 3), closed: Uint8Array.of(loop ? 1 : 0) });
}

/** Separate pieces of two points each. */
function linePairs(primitive: Primitive, matrix: readonly number[]): Curves {
  const all = placed(primitive.getAttribute('POSITION'), matrix, 1);
  const given = primitive.getIndices()?.getArray();
  const order = given ? Array.from(given as ArrayLike<number>) : Array.from({ length: all.length / 3 }, (_, i) => i);
  const count = Math.floor(order.length / 2);
  const positions = new Float32Array(count * 6);
  for (let i = 0; i < count * 2; i++) {
    if (order[i] * 3 >= all.length) throw new FormatError(`A line names point ${order[i]}; there are ${all.length / 3}.`);
    positions.set(all.subarray(order[i] * 3, order[i] * 3 + 3), i * 3);
  }
  return makeCurves({ positions, starts: Uint32Array.from({ length: count + 1 }, (_, i) => i * 2) });
}
