import { Document, Primitive, WebIO, type Accessor, type Buffer, type Material as GltfMaterial, type Scene } from '@gltf-transform/core';
import { EXTMeshGPUInstancing } from '@gltf-transform/extensions';
import {
  curveCount,
  edgesOf,
  plainMaterial,
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
import { accessorOf, addValues, gathered, ownValues, usedVertices } from './gltfValues.js';

/** How a result is written. */
export interface WriteOptions {
  /** Copies as one mesh. */
  readonly expanded?: boolean;
  /**
   * Copies by what some readers do not know: in glTF by the instancing extension instead of nodes that share a mesh, in USD by references to the first of them instead of the
   * object in each.
   */
  readonly instances?: boolean;
  /** The axis that points up in the file (y), and its unit (m). */
  readonly up?: 'y' | 'z';
  readonly unit?: 'm' | 'cm' | 'mm';
}

/**
 * A result as a glTF 2.0 document (Khronos, glTF 2.0 specification): meshes as triangles with normals and UVs (v turned to its top-left
 * origin), curves as one list of lines, points as points; one primitive a material, each with the vertices that it uses; copies as nodes that share the mesh of
 * their object, or as instances (EXT_mesh_gpu_instancing). Values of points, corners and faces go out as attributes (`_NAME`), `colour` as COLOR_0. Open surfaces
 * are double-sided. Positions in metres, Y up, as glTF has them.
 * @throws FormatError when there is nothing to write, or a copy is sheared, which nodes cannot be.
 */
function gltfDocument(given: GeometrySet, name: string, { expanded, instances }: WriteOptions): Document {
  const set = expanded ? withoutCopies(given) : given;
  const document = new Document();
  document.getRoot().getAsset().generator = 'Filaxis';
  const buffer = document.createBuffer();
  const mesh = document.createMesh(name);
  const materials = new Map<string, GltfMaterial>();
  const materialFor = (material: Material | undefined, open: boolean): GltfMaterial | null => {
    // Without a material readers leave out the backs, which an open surface shows.
    const used = material ?? (open ? plainMaterial : null);
    if (!used) return null;
    const key = JSON.stringify([used, open]);
    let made = materials.get(key);
    if (!made) materials.set(key, (made = createMaterial(document, used).setDoubleSided(open)));
    return made;
  };
  if (set.mesh?.corners.length) addMesh(document, buffer, mesh.addPrimitive.bind(mesh), set.mesh, materialFor);
  if (set.curves?.positions.length) addCurves(document, buffer, mesh.addPrimitive.bind(mesh), set.curves);
  if (set.points?.positions.length) {
    const primitive = document
      .createPrimitive()
      .setMode(Primitive.Mode.POINTS)
      .setAttribute('POSITION', vectors(document, buffer, set.points.positions));
    addValues(document, buffer, primitive, ownValues(set.points.attributes, ['point']));
    mesh.addPrimitive(primitive);
  }
  const scene = document.createScene(name);
  if (mesh.listPrimitives().length) scene.addChild(document.createNode(name).setMesh(mesh));
  else mesh.dispose();
  if (set.copies?.object.length) (instances ? addInstances : addNodes)(document, buffer, scene, set.copies, name, materialFor);
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

type MaterialFor = (material: Material | undefined, open: boolean) => GltfMaterial | null;

/** Each object once, as the mesh of a node for each of its copies. */
function addNodes(document: Document, buffer: Buffer, scene: Scene, copies: Copies, name: string, materialFor: MaterialFor): void {
  copies.objects.forEach((object, which) => {
    if (!object.corners.length || !copies.object.includes(which)) return;
    const mesh = document.createMesh(`${name} ${which}`);
    addMesh(document, buffer, mesh.addPrimitive.bind(mesh), object, materialFor);
    const group = document.createNode(`${name} ${which}`);
    scene.addChild(group);
    copies.object.forEach((used, copy) => {
      if (used !== which) return;
      const { place, turn, size } = takenApart(matrixColumns(copies, copy), copy);
      group.addChild(
        document
          .createNode(`${name} ${which} ${copy}`)
          .setMesh(mesh)
          .setTranslation(place as [number, number, number])
          .setRotation(turn as [number, number, number, number])
          .setScale(size as [number, number, number]),
      );
    });
  });
}

/** Each object once, with the places, turns and sizes of its copies. */
function addInstances(document: Document, buffer: Buffer, scene: Scene, copies: Copies, name: string, materialFor: MaterialFor): void {
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
      throw new FormatError(`Copy ${copy} is sheared, which copies in a file cannot be. Write it expanded.`);
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

function addMesh(document: Document, buffer: Buffer, add: (primitive: Primitive) => void, mesh: Mesh, materialFor: MaterialFor): void {
  const open = hasBorder(mesh);
  const values = ownValues(mesh.attributes, ['point', 'corner', 'face']);
  // Sets are numbered without gaps: the first is `uv`, then whatever others there are.
  const sets = [...mesh.attributes].filter(([name, { size }]) => /^uv[2-9]?$/.test(name) && size === 2).sort(([a], [b]) => (a < b ? -1 : 1));
  const normal = mesh.attributes.get('normal');
  const colour = mesh.attributes.get('colour');
  const faces = values.filter(([, { carrier }]) => carrier === 'face');
  const { faceOf } = faces.length ? triangulate(mesh) : { faceOf: null };
  for (const [material, indices, triangles] of trianglesByMaterial(mesh)) {
    const { order, source, face } = usedVertices(mesh, indices, triangles, faceOf, faces);
    const rows = (data: Float32Array, size: number): Float32Array => {
      const out = new Float32Array(source.length * size);
      for (let v = 0; v < source.length; v++) for (let k = 0; k < size; k++) out[v * size + k] = data[source[v] * size + k];
      return out;
    };
    const fitting = source.length <= 65535 ? Uint16Array.from(order) : order;
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', vectors(document, buffer, rows(mesh.positions, 3)))
      .setIndices(
        document
          .createAccessor()
          .setType('SCALAR')
          .setArray(fitting as Uint16Array<ArrayBuffer>)
          .setBuffer(buffer),
      )
      .setMaterial(materialFor(mesh.materials[material], open));
    if (normal) primitive.setAttribute('NORMAL', vectors(document, buffer, rows(normal.data, 3)));
    sets.forEach(([, { data }], n) => {
      const turned = rows(data, 2);
      for (let i = 1; i < turned.length; i += 2) turned[i] = 1 - turned[i];
      primitive.setAttribute(`TEXCOORD_${n}`, accessorOf(document, buffer, turned, 2));
    });
    if (colour?.carrier === 'corner' && (colour.size === 3 || colour.size === 4)) primitive.setAttribute('COLOR_0', accessorOf(document, buffer, rows(colour.data, colour.size), colour.size)); // prettier-ignore
    addValues(document, buffer, primitive, values.map(([name, { carrier, size, data }]) => [name, { carrier, size, data: carrier === 'face' ? gathered(data, size, face!) : rows(data, size) }])); // prettier-ignore
    add(primitive);
  }
}

/** Whether a surface has a border, so that its back is seen. */
function hasBorder(mesh: Mesh): boolean {
  const { sides, count } = edgesOf(mesh);
  for (let e = 0; e < count; e++) if (sides[e] === 1) return true;
  return false;
}

/** Triangle indices for each material number, and the triangles (null: all in their order); −1 for faces without one. */
export function trianglesByMaterial(mesh: Mesh, memory?: Memory): (readonly [material: number, indices: Uint32Array, triangles: Uint32Array | null])[] {
  const { indices, faceOf } = triangulate(mesh, memory);
  const own = mesh.attributes.get('material')?.data;
  if (!own) return [[-1, indices, null]];
  const counts = new Map<number, number>();
  for (let i = 0; i < faceOf.length; i++) counts.set(own[faceOf[i]], (counts.get(own[faceOf[i]]) ?? 0) + 1);
  if (counts.size === 1) return [[[...counts.keys()][0], indices, null]];
  return [...counts].sort(([a], [b]) => a - b).map(([material, count]) => {
    const [list, triangles] = [new Uint32Array(count * 3), new Uint32Array(count)];
    for (let i = 0, at = 0; i < faceOf.length; i++) {
      if (own[faceOf[i]] !== material) continue;
      triangles[at] = i;
      for (let k = 0; k < 3; k++) list[at * 3 + k] = indices[i * 3 + k];
      at++;
    }
    return [material, list, triangles] as const;
  }); // prettier-ignore
}

/** All curves as one list of lines, those of a curve one after another: few draws however many curves, and readers find the curves again. */
function addCurves(document: Document, buffer: Buffer, add: (primitive: Primitive) => void, curves: Curves): void {
  const lines = paced(curves);
  const order: number[] = [];
  for (let c = 0; c < curveCount(lines); c++) {
    const [from, to] = [lines.starts[c], lines.starts[c + 1]];
    for (let i = from; i + 1 < to; i++) order.push(i, i + 1);
    if (lines.closed[c] === 1 && to - from > 2) order.push(to - 1, from);
  }
  if (!order.length) return;
  const primitive = document
    .createPrimitive()
    .setMode(Primitive.Mode.LINES)
    .setAttribute('POSITION', vectors(document, buffer, lines.positions))
    .setIndices(document.createAccessor().setType('SCALAR').setArray(lines.positions.length / 3 <= 65535 ? Uint16Array.from(order) : Uint32Array.from(order)).setBuffer(buffer)); // prettier-ignore
  addValues(document, buffer, primitive, ownValues(lines.attributes, ['point']));
  add(primitive);
}
