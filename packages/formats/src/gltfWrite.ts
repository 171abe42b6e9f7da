import { Document, Primitive, WebIO, type Accessor, type Buffer, type Material as GltfMaterial, type Scene } from '@gltf-transform/core';
import { EXTMeshGPUInstancing } from '@gltf-transform/extensions';
import {
  curveCount,
  linearColour,
  matrixColumns,
  paced,
  triangulate,
  withoutCopies,
  type Copies,
  type Curves,
  type GeometrySet,
  type Material,
  type Memory,
  type Mesh,
} from '@filaxis/core';
import { FormatError } from './errors.js';

/** How a result is written. */
export interface WriteOptions {
  /** Copies as one mesh instead of instances. */
  readonly expanded?: boolean;
}

/**
 * A result as a glTF 2.0 document (Khronos, glTF 2.0 specification): meshes as triangles with normals and UVs (v turned to its top-left
 * origin), curves as line strips, points as points; one primitive a material; copies as instances (EXT_mesh_gpu_instancing) of their objects. Positions
 * in metres, Y up, as glTF has them.
 * @throws FormatError when there is nothing to write, or a copy is sheared, which instances cannot be.
 */
function gltfDocument(given: GeometrySet, name: string, { expanded }: WriteOptions): Document {
  const set = expanded ? withoutCopies(given) : given;
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
  const scene = document.createScene(name);
  if (mesh.listPrimitives().length) scene.addChild(document.createNode(name).setMesh(mesh));
  else mesh.dispose();
  if (set.copies?.object.length) addInstances(document, buffer, scene, set.copies, name, materialFor);
  if (!scene.listChildren().length) throw new FormatError('There is nothing to write: the result is empty.');
  return document;
}

/** A result as a binary glTF file. @throws FormatError as `gltfDocument`. */
export async function writeGlb(set: GeometrySet, name: string, options: WriteOptions = {}): Promise<Uint8Array> {
  return new WebIO().registerExtensions([EXTMeshGPUInstancing]).writeBinary(gltfDocument(set, name, options));
}

/** A result as a glTF text file that holds its buffers itself. @throws FormatError as `gltfDocument`. */
export async function writeGltf(set: GeometrySet, name: string, options: WriteOptions = {}): Promise<string> {
  const { json, resources } = await new WebIO().registerExtensions([EXTMeshGPUInstancing]).writeJSON(gltfDocument(set, name, options));
  for (const buffer of json.buffers ?? []) {
    const bytes = buffer.uri === undefined ? undefined : resources[buffer.uri];
    if (bytes) buffer.uri = `data:application/octet-stream;base64,${base64(bytes)}`;
  }
  return `${JSON.stringify(json)}\n`;
}

function base64(bytes: Uint8Array): string {
  let text = '';
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(text);
}

/** Each object once, with the places, turns and sizes of its copies. */
function addInstances(
  document: Document,
  buffer: Buffer,
  scene: Scene,
  copies: Copies,
  name: string,
  materialFor: (material: Material | undefined) => GltfMaterial | null,
): void {
  const extension = document.createExtension(EXTMeshGPUInstancing).setRequired(true);
  copies.objects.forEach((object, which) => {
    const own = Array.from(copies.object, (used, i) => (used === which ? i : -1)).filter((i) => i >= 0);
    if (!own.length || !object.corners.length) return;
    const mesh = document.createMesh(`${name} ${which}`);
    addMesh(document, buffer, mesh.addPrimitive.bind(mesh), object, materialFor);
    const places = new Float32Array(own.length * 3);
    const turns = new Float32Array(own.length * 4);
    const sizes = new Float32Array(own.length * 3);
    own.forEach((copy, i) => {
      const { place, turn, size } = takenApart(matrixColumns(copies, copy), copy);
      places.set(place, i * 3);
      turns.set(turn, i * 4);
      sizes.set(size, i * 3);
    });
    const batch = extension
      .createInstancedMesh()
      .setAttribute('TRANSLATION', vectors(document, buffer, places))
      .setAttribute('ROTATION', document.createAccessor().setType('VEC4').setArray(turns).setBuffer(buffer))
      .setAttribute('SCALE', vectors(document, buffer, sizes));
    scene.addChild(document.createNode(`${name} ${which}`).setMesh(mesh).setExtension('EXT_mesh_gpu_instancing', batch));
  });
}

/**
 * Place, turn (unit quaternion x, y, z, w; Shepperd 1978, from memory) and size of a matrix; a mirrored one has a negative size along x.
 * @throws FormatError when the matrix is sheared.
 */
function takenApart(m: Float32Array, copy: number): { place: number[]; turn: number[]; size: number[] } {
  const columns = [0, 4, 8].map((at) => [m[at], m[at + 1], m[at + 2]]);
  const size = columns.map((column) => Math.hypot(...column));
  const [x, y, z] = columns;
  const det = x[0] * (y[1] * z[2] - y[2] * z[1]) + x[1] * (y[2] * z[0] - y[0] * z[2]) + x[2] * (y[0] * z[1] - y[1] * z[0]);
  if (det < 0) size[0] = -size[0];
  const r = columns.map((column, k) => column.map((value) => (size[k] ? value / size[k] : 0)));
  for (const [a, b] of [
    [0, 1],
    [1, 2],
    [2, 0],
  ])
    // prettier-ignore
    if (Math.abs(r[a].reduce((sum, value, k) => sum + value * r[b][k], 0)) > 1e-4)
      throw new FormatError(`Copy ${copy} is sheared, which instances cannot be. Write it expanded.`);
  const trace = r[0][0] + r[1][1] + r[2][2];
  const largest = [trace, r[0][0], r[1][1], r[2][2]].reduce((best, value, i, all) => (value > all[best] ? i : best), 0);
  let turn: number[];
  if (largest === 0) {
    const s = Math.sqrt(trace + 1) * 2;
    turn = [(r[1][2] - r[2][1]) / s, (r[2][0] - r[0][2]) / s, (r[0][1] - r[1][0]) / s, s / 4];
  } else {
    const i = largest - 1;
    const [j, k] = [(i + 1) % 3, (i + 2) % 3];
    const s = Math.sqrt(Math.max(0, 1 + r[i][i] - r[j][j] - r[k][k])) * 2;
    turn = [0, 0, 0, (r[j][k] - r[k][j]) / s];
    turn[i] = s / 4;
    turn[j] = (r[i][j] + r[j][i]) / s;
    turn[k] = (r[i][k] + r[k][i]) / s;
  }
  const length = Math.hypot(...turn) || 1;
  return { place: [m[12], m[13], m[14]], turn: turn.map((value) => value / length), size };
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
  const uvSet = (data: Float32Array): Accessor => {
    const turned = Float32Array.from(data, (value, i) => (i % 2 ? 1 - value : value));
    return document.createAccessor().setType('VEC2').setArray(turned).setBuffer(buffer);
  };
  // Sets are numbered without gaps: the first is `uv`, then whatever others there are.
  const others = [...mesh.attributes].filter(([name, { size }]) => /^uv[2-9]$/.test(name) && size === 2).sort(([a], [b]) => (a < b ? -1 : 1));
  const sets = [...(uv ? [uv] : []), ...others.map(([, attribute]) => attribute)].map(({ data }) => uvSet(data));
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
    sets.forEach((own, n) => primitive.setAttribute(`TEXCOORD_${n}`, own));
    add(primitive);
  }
}

/** Triangle indices for each material number; −1 for faces without one. */
export function trianglesByMaterial(mesh: Mesh, memory?: Memory): ReadonlyMap<number, Uint32Array> {
  const { indices, faceOf } = triangulate(mesh, memory);
  const own = mesh.attributes.get('material')?.data;
  if (!own) return new Map([[-1, indices]]);
  const counts = new Map<number, number>();
  for (let i = 0; i < faceOf.length; i++) counts.set(own[faceOf[i]], (counts.get(own[faceOf[i]]) ?? 0) + 3);
  const result = new Map([...counts].sort(([a], [b]) => a - b).map(([material, count]) => [material, new Uint32Array(count)]));
  if (result.size === 1) return new Map([[[...result.keys()][0], indices]]);
  for (const [material, list] of result)
    for (let i = 0, at = 0; i < faceOf.length; i++) if (own[faceOf[i]] === material) for (let k = 0; k < 3; k++) list[at++] = indices[i * 3 + k];
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
