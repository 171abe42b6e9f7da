import { Document, Primitive, WebIO, type Buffer, type GLTF, type Mesh as GltfMesh, type Node, type Scene } from '@gltf-transform/core';
import { EXTMeshGPUInstancing } from '@gltf-transform/extensions';
import { withoutShear, curveCount, matrixColumns, paced, type Copies, type Curves, type Mesh, type Piece, type Points } from '@filaxis/core';
import { originOf } from './far.js';
import { MeshesOf } from './gltfMesh.js';
import { accessorOf, addValues, ownValues } from './gltfValues.js';
import { namedParts } from './meshPieces.js';
import { TextSink } from './textSink.js';
import type { Out, WriteOptions } from './writeOptions.js';

/**
 * Results as a glTF 2.0 document (Khronos, glTF 2.0 specification), each an object of its own name: meshes as triangles with normals and UVs (v turned to its top-left
 * origin), curves as one list of lines, points as points; copies as nodes that share the mesh of their object, or as instances (EXT_mesh_gpu_instancing). Values of points,
 * corners and faces go out as attributes (`_NAME`), `colour` as COLOR_0. Open surfaces are double-sided unless their material says otherwise. Positions in metres, Y up, as glTF
 * has them; what is counted from far away stands on a node that is moved there.
 * Sheared copies, which nodes cannot be, have meshes of their own.
 */
function gltfDocument(pieces: readonly Piece[], name: string, options: WriteOptions): Document {
  const document = newDocument();
  const buffer = document.createBuffer();
  const scene = document.createScene(name);
  const meshes = new MeshesOf(document, buffer, !!options.tangents);
  for (const piece of pieces) addPiece(document, buffer, scene, piece, options, meshes);
  // A scene must not have an empty list of nodes (glTF 2.0, 5.25).
  if (!scene.listChildren().length) scene.addChild(document.createNode(name));
  return document;
}

function addPiece(document: Document, buffer: Buffer, scene: Scene, { name, set }: Piece, { instances, parts }: WriteOptions, meshes: MeshesOf): void {
  const standing = new Map<string, GltfMesh>();
  /** The mesh on the node that stands where these places are counted from. */
  const meshAt = (origin: readonly [number, number, number]): GltfMesh => {
    const key = origin.join(' ');
    let mesh = standing.get(key);
    if (!mesh) {
      standing.set(key, (mesh = document.createMesh(name)));
      scene.addChild(moved(document.createNode(name).setMesh(mesh), origin));
    }
    return mesh;
  };
  if (set.mesh?.corners.length) {
    const origin = originOf(set.mesh.attributes);
    const named = namedParts(set.mesh, name, parts);
    if (named.length === 1) meshes.add(set.mesh, (primitive) => meshAt(origin).addPrimitive(primitive));
    else {
      const group = moved(document.createNode(name), origin);
      scene.addChild(group);
      for (const [own, part] of named) {
        const mesh = document.createMesh(own);
        meshes.add(part, (primitive) => mesh.addPrimitive(primitive));
        group.addChild(document.createNode(own).setMesh(mesh));
      }
    }
  }
  if (set.curves?.positions.length) {
    const primitive = lines(document, buffer, set.curves);
    if (primitive) meshAt(originOf(set.curves.attributes)).addPrimitive(primitive);
  }
  if (set.points?.positions.length) meshAt(originOf(set.points.attributes)).addPrimitive(pointsOf(document, buffer, set.points));
  if (set.copies?.object.length) {
    const own = standing.size ? `${name} copies` : name;
    (instances ? addInstances : addNodes)(document, buffer, scene, withoutShear(set.copies), own, meshes);
  }
}

/** Objects that copies are made of, with their copies and their names: that of the whole, numbered where there are several. */
function placedObjects({ objects, object }: Copies, name: string): { readonly called: string; readonly mesh: Mesh; readonly copies: readonly number[] }[] {
  const own = objects.map((): number[] => []);
  object.forEach((which, copy) => own[which].push(copy));
  const used = objects.map((mesh, which) => ({ mesh, copies: own[which] })).filter(({ mesh, copies }) => copies.length && mesh.corners.length);
  return used.map((each, i) => ({ ...each, called: used.length > 1 ? `${name} object ${i + 1}` : name }));
}

/** A node at a place of 64 bits. */
export function moved(node: Node, origin: readonly [number, number, number]): Node {
  return origin.some((value) => value !== 0) ? node.setTranslation([...origin]) : node;
}

/** A document that says who wrote it. */
export function newDocument(): Document {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Filaxis';
  return document;
}

/** The text of a document, and the bytes of its one buffer, which it names by no file. */
async function textAndBytes(document: Document): Promise<{ json: GLTF.IGLTF; bytes: Uint8Array }> {
  const { json, resources } = await new WebIO().registerExtensions([EXTMeshGPUInstancing]).writeJSON(document);
  const [buffer] = json.buffers ?? [];
  const bytes = buffer && resources[buffer.uri!];
  // A scene without anything in it has no bytes, and so no buffer.
  if (!bytes) {
    delete json.buffers;
    return { json, bytes: new Uint8Array(0) };
  }
  delete buffer.uri;
  return { json, bytes };
}

/** Results as a binary glTF file. @throws FormatError as `gltfDocument`. */
export const writeGlb = (pieces: readonly Piece[], name: string, options: WriteOptions, out: Out): Promise<void> =>
  writeBinary(gltfDocument(pieces, name, options), out);

/** A document as a binary file. */
export async function writeBinary(document: Document, out: Out): Promise<void> {
  const { json, bytes } = await textAndBytes(document);
  const text = padded(new TextEncoder().encode(JSON.stringify(json)), 0x20);
  const rest = padded(bytes.subarray(bytes.length - (bytes.length % 4)), 0);
  const body = bytes.length - (bytes.length % 4) + rest.length;
  // glTF 2.0, 4.4: heading, then chunks of a length and a kind, each filled up to four bytes.
  out(words(0x46546c67, 2, 12 + 8 + text.length + (body ? 8 + body : 0)));
  out(words(text.length, 0x4e4f534a));
  out(text);
  if (!body) return;
  out(words(body, 0x004e4942));
  out(bytes.subarray(0, bytes.length - (bytes.length % 4)));
  if (rest.length) out(rest);
}

function words(...values: number[]): Uint8Array {
  const bytes = new Uint8Array(values.length * 4);
  values.forEach((value, i) => new DataView(bytes.buffer).setUint32(i * 4, value, true));
  return bytes;
}

/** Bytes filled up to a multiple of four. */
function padded(bytes: Uint8Array, by: number): Uint8Array {
  const filled = new Uint8Array(Math.ceil(bytes.length / 4) * 4).fill(by);
  filled.set(bytes);
  return filled;
}

/** Results as a glTF text file that holds its buffer itself. @throws FormatError as `gltfDocument`. */
export async function writeGltf(pieces: readonly Piece[], name: string, options: WriteOptions, out: Out): Promise<void> {
  const { json, bytes } = await textAndBytes(gltfDocument(pieces, name, options));
  const [buffer] = json.buffers ?? [];
  if (buffer) buffer.uri = '';
  const text = JSON.stringify(json);
  const at = text.indexOf('"uri":""') + '"uri":"'.length;
  const sink = new TextSink(out);
  if (!buffer) {
    sink.line(text);
    sink.end();
    return;
  }
  sink.text(`${text.slice(0, at)}data:application/octet-stream;base64,`);
  sink.base64(bytes);
  sink.line(text.slice(at));
  sink.end();
}

/** Each object once, as the mesh of a node for each of its copies. */
function addNodes(document: Document, _buffer: Buffer, scene: Scene, copies: Copies, name: string, meshes: MeshesOf): void {
  for (const { called, mesh: object, copies: own } of placedObjects(copies, name)) {
    const mesh = document.createMesh(called);
    meshes.add(object, (primitive) => mesh.addPrimitive(primitive));
    const group = moved(document.createNode(called), originOf(copies.attributes));
    scene.addChild(group);
    own.forEach((copy, i) => {
      const { place, turn, size } = takenApart(matrixColumns(copies, copy));
      group.addChild(
        document
          .createNode(`${called} copy ${i + 1}`)
          .setMesh(mesh)
          .setTranslation(place as [number, number, number])
          .setRotation(turn as [number, number, number, number])
          .setScale(size as [number, number, number]),
      );
    });
  }
}

/** Each object once, with the places, turns and sizes of its copies. */
function addInstances(document: Document, buffer: Buffer, scene: Scene, copies: Copies, name: string, meshes: MeshesOf): void {
  const extension = document.createExtension(EXTMeshGPUInstancing).setRequired(true);
  for (const { called, mesh: object, copies: own } of placedObjects(copies, name)) {
    const mesh = document.createMesh(called);
    meshes.add(object, (primitive) => mesh.addPrimitive(primitive));
    const places = new Float32Array(own.length * 3);
    const turns = new Float32Array(own.length * 4);
    const sizes = new Float32Array(own.length * 3);
    own.forEach((copy, i) => {
      const { place, turn, size } = takenApart(matrixColumns(copies, copy));
      places.set(place, i * 3);
      turns.set(turn, i * 4);
      sizes.set(size, i * 3);
    });
    const batch = extension
      .createInstancedMesh()
      .setAttribute('TRANSLATION', accessorOf(document, buffer, places, 3))
      .setAttribute('ROTATION', accessorOf(document, buffer, turns, 4))
      .setAttribute('SCALE', accessorOf(document, buffer, sizes, 3));
    scene.addChild(moved(document.createNode(called), originOf(copies.attributes)).setMesh(mesh).setExtension('EXT_mesh_gpu_instancing', batch));
  }
}

/**
 * Place, turn (unit quaternion x, y, z, w; Shepperd 1978, from memory) and size of a matrix without shear; a mirrored one has a negative size along x.
 */
function takenApart(m: Float32Array): { place: number[]; turn: number[]; size: number[] } {
  const columns = [0, 4, 8].map((at) => [m[at], m[at + 1], m[at + 2]]);
  const size = columns.map((column) => Math.hypot(...column));
  const [x, y, z] = columns;
  const det = x[0] * (y[1] * z[2] - y[2] * z[1]) + x[1] * (y[2] * z[0] - y[0] * z[2]) + x[2] * (y[0] * z[1] - y[1] * z[0]);
  if (det < 0) size[0] = -size[0];
  const r = columns.map((column, k) => column.map((value) => (size[k] ? value / size[k] : 0)));
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

/** All curves as one list of lines, those of a curve one after another: few draws however many curves, and readers find the curves again. Null when no curve has two points. */
function lines(document: Document, buffer: Buffer, curves: Curves): Primitive | null {
  const straight = paced(curves);
  const order: number[] = [];
  for (let c = 0; c < curveCount(straight); c++) {
    const [from, to] = [straight.starts[c], straight.starts[c + 1]];
    for (let i = from; i + 1 < to; i++) order.push(i, i + 1);
    if (straight.closed[c] === 1 && to - from > 2) order.push(to - 1, from);
  }
  if (!order.length) return null;
  const primitive = document
    .createPrimitive()
    .setMode(Primitive.Mode.LINES)
    .setAttribute('POSITION', accessorOf(document, buffer, straight.positions, 3))
    .setIndices(document.createAccessor().setType('SCALAR').setArray(straight.positions.length / 3 <= 65535 ? Uint16Array.from(order) : Uint32Array.from(order)).setBuffer(buffer)); // prettier-ignore
  addValues(document, buffer, primitive, ownValues(straight.attributes, ['point']));
  return primitive;
}

function pointsOf(document: Document, buffer: Buffer, { positions, attributes }: Points): Primitive {
  const primitive = document
    .createPrimitive()
    .setMode(Primitive.Mode.POINTS)
    .setAttribute('POSITION', accessorOf(document, buffer, positions, 3));
  const colour = attributes.get('colour');
  if (colour && (colour.size === 3 || colour.size === 4)) primitive.setAttribute('COLOR_0', accessorOf(document, buffer, colour.data, colour.size));
  addValues(document, buffer, primitive, ownValues(attributes, ['point']));
  return primitive;
}
