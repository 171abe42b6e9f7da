import { type Attribute, type Attributes } from './attributes.js';
import { makeCopies, type Copies } from './copies.js';
import { curveCount, curvePointCount, makeCurves, type Curves } from './curves.js';
import { freshMemory, type Memory } from '../base/work.js';
import type { Geometry, GeometryKind, GeometrySet } from './geometry.js';
import { sameMaterial, type Material } from './material.js';
import { faceCount, faceStart, vertexCount, type Mesh } from './mesh.js';
import { makePoints, type Points } from './points.js';

/** Number of elements of each carrier in one part of a join. */
type ElementCounts = Readonly<Record<Attribute['carrier'], number>>;

/**
 * Attributes of several parts, one after another. An attribute that a part lacks is filled with zeros there, so that lengths always
 * agree; `whole` attributes keep the first part's value.
 */
function joinAttributes(parts: readonly { attributes: Attributes; counts: ElementCounts }[], memory: Memory = freshMemory): Attributes {
  const result = new Map<string, Attribute>();
  for (const part of parts) {
    for (const [name, { carrier, size, data }] of part.attributes) {
      if (result.has(name)) continue;
      if (carrier === 'whole') {
        result.set(name, { carrier, size, data });
        continue;
      }
      const total = parts.reduce((sum, p) => sum + p.counts[carrier], 0);
      const joined = memory.float32(total * size);
      let at = 0;
      for (const p of parts) {
        const own = p.attributes.get(name);
        const next = at + p.counts[carrier] * size;
        if (own && own.carrier === carrier && own.size === size) joined.set(own.data, at);
        else joined.fill(0, at, next);
        at = next;
      }
      result.set(name, { carrier, size, data: joined });
    }
  }
  return result;
}

const noElements: ElementCounts = { point: 0, curve: 0, corner: 0, face: 0, copy: 0, whole: 1 };

/** All curves in the order of the list. */
export function joinCurves(list: readonly Curves[]): Curves {
  if (list.length === 1) return list[0];
  const points = list.reduce((sum, curves) => sum + curvePointCount(curves), 0);
  const count = list.reduce((sum, curves) => sum + curveCount(curves), 0);
  const positions = new Float32Array(points * 3);
  const starts = new Uint32Array(count + 1);
  const closed = new Uint8Array(count);
  const kind = new Uint8Array(count);
  let point = 0;
  let curve = 0;
  for (const curves of list) {
    positions.set(curves.positions, point * 3);
    closed.set(curves.closed, curve);
    kind.set(curves.kind, curve);
    for (let c = 0; c < curveCount(curves); c++) starts[++curve] = point + curves.starts[c + 1];
    point += curvePointCount(curves);
  }
  const attributes = joinAttributes(
    list.map((curves) => ({ attributes: curves.attributes, counts: { ...noElements, point: curvePointCount(curves), curve: curveCount(curves) } })),
  );
  return makeCurves({ positions, starts, closed, kind, attributes });
}

export function joinPoints(list: readonly Points[]): Points {
  if (list.length === 1) return list[0];
  const positions = new Float32Array(list.reduce((sum, points) => sum + points.positions.length, 0));
  let at = 0;
  for (const points of list) {
    positions.set(points.positions, at);
    at += points.positions.length;
  }
  return makePoints(
    positions,
    joinAttributes(list.map((points) => ({ attributes: points.attributes, counts: { ...noElements, point: points.positions.length / 3 } }))),
  );
}

/** One list of materials without doubles, and for each mesh where its own went. */
function joinMaterials(list: readonly Mesh[]): { materials: Material[]; moved: number[][] } {
  const materials: Material[] = [];
  const moved = list.map((mesh) =>
    mesh.materials.map((material) => {
      const known = materials.findIndex((other) => sameMaterial(other, material));
      return known >= 0 ? known : materials.push(material) - 1;
    }),
  );
  return { materials, moved };
}

/**
 * All meshes in the order of the list. The `part` of faces is left as it is (it names wall and caps); material numbers are
 * rewritten to the joined list, −1 for faces without one.
 */
export function joinMeshes(list: readonly Mesh[], memory: Memory = freshMemory): Mesh {
  if (list.length === 1) return list[0];
  const vertices = list.reduce((sum, mesh) => sum + vertexCount(mesh), 0);
  const cornerTotal = list.reduce((sum, mesh) => sum + mesh.corners.length, 0);
  const faces = list.reduce((sum, mesh) => sum + faceCount(mesh), 0);
  const sizes = new Set(list.filter((mesh) => mesh.corners.length).map((mesh) => mesh.uniform));
  const uniform = sizes.size === 1 ? [...sizes][0] : sizes.size === 0 ? 4 : 0;
  const positions = memory.float32(vertices * 3);
  const corners = memory.uint32(cornerTotal);
  const faceStarts = uniform ? null : new Uint32Array(faces + 1);
  const pointOf = list.some((mesh) => mesh.pointOf) ? memory.uint32(vertices) : null;
  const { materials, moved } = joinMaterials(list);
  const material = materials.length ? new Float32Array(faces).fill(-1) : null;
  const into: JoinedMesh = { positions, corners, faceStarts, pointOf, material, vertex: 0, corner: 0, face: 0, point: 0 };
  for (let which = 0; which < list.length; which++) appendMesh(into, list[which], moved[which]);
  const attributes = new Map(
    joinAttributes(
      list.map((mesh) => ({
        attributes: mesh.attributes,
        counts: { ...noElements, point: vertexCount(mesh), corner: vertexCount(mesh), face: faceCount(mesh) },
      })),
      memory,
    ),
  );
  if (material) attributes.set('material', { carrier: 'face', size: 1, data: material });
  // The parts were checked when they were made, so there is nothing to check once more.
  return { type: 'mesh', positions, corners, faceStarts, uniform, pointOf, pointCount: into.point, materials, attributes };
}

/** Arrays of a joined mesh, and how far each is filled. */
interface JoinedMesh {
  readonly positions: Float32Array;
  readonly corners: Uint32Array;
  readonly faceStarts: Uint32Array | null;
  readonly pointOf: Uint32Array | null;
  readonly material: Float32Array | null;
  vertex: number;
  corner: number;
  face: number;
  point: number;
}

function appendMesh(into: JoinedMesh, mesh: Mesh, materials: readonly number[]): void {
  const { corners, faceStarts, pointOf, material, vertex, corner, face, point } = into;
  const vertices = vertexCount(mesh);
  const faces = faceCount(mesh);
  into.positions.set(mesh.positions, vertex * 3);
  const own = mesh.corners;
  for (let i = 0; i < own.length; i++) corners[corner + i] = own[i] + vertex;
  if (pointOf) for (let i = 0; i < vertices; i++) pointOf[vertex + i] = point + (mesh.pointOf ? mesh.pointOf[i] : i);
  if (faceStarts) for (let f = 1; f <= faces; f++) faceStarts[face + f] = corner + faceStart(mesh, f);
  const numbers = mesh.attributes.get('material')?.data;
  if (material && numbers) for (let f = 0; f < faces; f++) material[face + f] = numbers[f] < 0 ? -1 : materials[numbers[f]];
  into.vertex += vertices;
  into.corner += own.length;
  into.face += faces;
  into.point += mesh.pointCount;
}

export function joinCopies(list: readonly Copies[]): Copies {
  if (list.length === 1) return list[0];
  const total = list.reduce((sum, copies) => sum + copies.object.length, 0);
  const object = new Uint32Array(total);
  const matrices = new Float32Array(total * 16);
  const objects: Mesh[] = [];
  let at = 0;
  for (const copies of list) {
    for (let i = 0; i < copies.object.length; i++) object[at + i] = copies.object[i] + objects.length;
    matrices.set(copies.matrices, at * 16);
    objects.push(...copies.objects);
    at += copies.object.length;
  }
  return makeCopies(
    objects,
    object,
    matrices,
    joinAttributes(list.map((copies) => ({ attributes: copies.attributes, counts: { ...noElements, copy: copies.object.length } }))),
  );
}

/** Joins geometries that are all of one kind. An empty list has no kind, so it is not accepted. */
export function joinGeometries(list: readonly Geometry[], memory: Memory = freshMemory): Geometry {
  switch (list[0].type) {
    case 'curves':
      return joinCurves(list as Curves[]);
    case 'points':
      return joinPoints(list as Points[]);
    case 'mesh':
      return joinMeshes(list as Mesh[], memory);
    case 'copies':
      return joinCopies(list as Copies[]);
  }
}

/** The geometries by kind, each kind's in the order given. */
export function byKind(list: readonly Geometry[]): Map<GeometryKind, Geometry[]> {
  const groups = new Map<GeometryKind, Geometry[]>();
  for (const geometry of list) groups.set(geometry.type, [...(groups.get(geometry.type) ?? []), geometry]);
  return groups;
}

/** One set of any geometries: those of a kind joined, in the order given. */
export const setOf = (list: readonly Geometry[], memory: Memory = freshMemory): GeometrySet =>
  Object.fromEntries([...byKind(list)].map(([kind, group]) => [kind, joinGeometries(group, memory)]));

/** Several results as one. */
export const joinSets = (list: readonly GeometrySet[]): GeometrySet =>
  list.length === 1 ? list[0] : setOf(list.flatMap(({ curves, points, mesh, copies }) => [curves, points, mesh, copies].filter((each) => each !== undefined)));
