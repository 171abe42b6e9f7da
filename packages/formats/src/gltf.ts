import { Document, Primitive, PropertyType, WebIO, type Accessor, type Buffer, type Material as GltfMaterial } from '@gltf-transform/core';
import {
  curveCount,
  joinCurves,
  joinMeshes,
  makeCurves,
  makeMesh,
  paced,
  triangulate,
  type Curves,
  type GeometrySet,
  type Material,
  type Mesh,
} from '@filaxis/core';
import { FormatError } from './errors.js';

/** Linear value of one sRGB channel, 0…1 (IEC 61966-2-1). */
const toLinear = (value: number): number => (value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4);

const linearColour = (hex: string): [number, number, number] =>
  [1, 3, 5].map((at) => toLinear(parseInt(hex.slice(at, at + 2), 16) / 255)) as [number, number, number];

/**
 * A result as a binary glTF 2.0 file (Khronos, glTF 2.0 specification): meshes as triangles with normals and UVs (v turned to its top-left
 * origin), curves as line strips, points as points; one primitive a material. Positions in metres, Y up, as glTF has them.
 * @throws FormatError when there is nothing to write.
 */
export async function writeGlb(set: GeometrySet, name: string): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Filaxis';
  const buffer = document.createBuffer();
  const mesh = document.createMesh(name);
  const materials = new Map<Material, GltfMaterial>();
  const materialFor = (material: Material | undefined): GltfMaterial | null => {
    if (!material) return null;
    let made = materials.get(material);
    if (!made) materials.set(material, (made = createMaterial(document, material)));
    return made;
  };
  if (set.mesh?.corners.length) addMesh(document, buffer, mesh.addPrimitive.bind(mesh), set.mesh, materialFor);
  if (set.curves?.positions.length) addCurves(document, buffer, mesh.addPrimitive.bind(mesh), set.curves);
  if (set.points?.positions.length) {
    const primitive = document
      .createPrimitive()
      .setMode(Primitive.Mode.POINTS)
      .setAttribute('POSITION', vectors(document, buffer, set.points.positions));
    mesh.addPrimitive(primitive);
  }
  if (!mesh.listPrimitives().length) throw new FormatError('There is nothing to write: the result is empty.');
  document.createScene(name).addChild(document.createNode(name).setMesh(mesh));
  return new WebIO().writeBinary(document);
}

const vectors = (document: Document, buffer: Buffer, data: Float32Array): Accessor =>
  document
    .createAccessor()
    .setType('VEC3')
    .setArray(data as Float32Array<ArrayBuffer>)
    .setBuffer(buffer);

function createMaterial(document: Document, { name, colour, opacity, roughness, metalness }: Material): GltfMaterial {
  return document
    .createMaterial(name)
    .setBaseColorFactor([...linearColour(colour), opacity])
    .setRoughnessFactor(roughness)
    .setMetallicFactor(metalness)
    .setAlphaMode(opacity < 1 ? 'BLEND' : 'OPAQUE');
}

function addMesh(
  document: Document,
  buffer: Buffer,
  add: (primitive: Primitive) => void,
  mesh: Mesh,
  materialFor: (material: Material | undefined) => GltfMaterial | null,
): void {
  const position = vectors(document, buffer, mesh.positions);
  const normal = mesh.attributes.get('normal');
  const uv = mesh.attributes.get('uv');
  const normals = normal && vectors(document, buffer, normal.data);
  let uvs: Accessor | null = null;
  if (uv) {
    const turned = Float32Array.from(uv.data, (value, i) => (i % 2 ? 1 - value : value));
    uvs = document.createAccessor().setType('VEC2').setArray(turned).setBuffer(buffer);
  }
  for (const [material, indices] of trianglesByMaterial(mesh)) {
    const fitting = mesh.positions.length / 3 <= 65535 ? Uint16Array.from(indices) : indices;
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', position)
      .setIndices(
        document
          .createAccessor()
          .setType('SCALAR')
          .setArray(fitting as Uint16Array<ArrayBuffer>)
          .setBuffer(buffer),
      )
      .setMaterial(materialFor(mesh.materials[material]));
    if (normals) primitive.setAttribute('NORMAL', normals);
    if (uvs) primitive.setAttribute('TEXCOORD_0', uvs);
    add(primitive);
  }
}

/** Triangle indices for each material number; −1 for faces without one. */
export function trianglesByMaterial(mesh: Mesh): ReadonlyMap<number, Uint32Array> {
  const { indices, faceOf } = triangulate(mesh);
  const own = mesh.attributes.get('material')?.data;
  if (!own) return new Map([[-1, indices]]);
  const counts = new Map<number, number>();
  for (const face of faceOf) counts.set(own[face], (counts.get(own[face]) ?? 0) + 3);
  const result = new Map([...counts].sort(([a], [b]) => a - b).map(([material, count]) => [material, new Uint32Array(count)]));
  const filled = new Map<number, number>();
  for (let i = 0; i < faceOf.length; i++) {
    const material = own[faceOf[i]];
    const at = filled.get(material) ?? 0;
    result.get(material)!.set(indices.subarray(i * 3, i * 3 + 3), at);
    filled.set(material, at + 3);
  }
  return result;
}

function addCurves(document: Document, buffer: Buffer, add: (primitive: Primitive) => void, curves: Curves): void {
  const lines = paced(curves);
  for (let c = 0; c < curveCount(lines); c++) {
    const from = lines.starts[c];
    const to = lines.starts[c + 1];
    if (to - from < 2) continue;
    const closed = lines.closed[c] === 1;
    const positions = new Float32Array((to - from + (closed ? 1 : 0)) * 3);
    positions.set(lines.positions.subarray(from * 3, to * 3));
    if (closed) positions.set(lines.positions.subarray(from * 3, from * 3 + 3), (to - from) * 3);
    add(
      document
        .createPrimitive()
        .setMode(Primitive.Mode.LINE_STRIP)
        .setAttribute('POSITION', vectors(document, buffer, positions)),
    );
  }
}

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
  let document: Document;
  try {
    document = await new WebIO().readBinary(bytes as Uint8Array<ArrayBuffer>);
  } catch (error) {
    throw new FormatError(`The glTF file cannot be read: ${(error as Error).message}`);
  }
  const meshes: Mesh[] = [];
  const curves: Curves[] = [];
  for (const node of document.getRoot().listNodes()) {
    const matrix = node.getWorldMatrix();
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
      if (primitive.propertyType !== PropertyType.PRIMITIVE) continue;
      const mode = primitive.getMode();
      if (mode === Primitive.Mode.TRIANGLES) meshes.push(triangleMesh(primitive, matrix));
      else if (mode === Primitive.Mode.LINE_STRIP || mode === Primitive.Mode.LINE_LOOP)
        curves.push(lineStrip(primitive, matrix, mode === Primitive.Mode.LINE_LOOP));
    }
  }
  return { ...(meshes.length && { mesh: joinMeshes(meshes) }), ...(curves.length && { curves: joinCurves(curves) }) };
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
  const positions = placed(primitive.getAttribute('POSITION'), matrix, 1);
  return makeCurves({ positions, starts: Uint32Array.of(0, positions.length / 3), closed: Uint8Array.of(loop ? 1 : 0) });
}
