import type { unionBounds } from '@filaxis/core';
import {
  boundsOf,
  copiesBounds,
  curveCount,
  curvesBounds,
  edgePaths,
  faceCount,
  faceStart,
  indexOf,
  paced,
  resultOf,
  triangulate,
  unbounded,
  uvSheet,
  joinMeshes,
  type Copies,
  type Curves,
  type GeometrySet,
  type Mesh,
} from '@filaxis/core';
import type { Answers, Maker, OutlinePicture, Questions, Seen } from '@filaxis/protocol';
import { linesOf } from './curveLines';
import type { Newest } from './newest';

/** The angle from which an edge is sharp, degrees; common practice, and what normals are split at. */
const sharpAngle = 30;

/** Which node made what is seen, and what the picture shows of a node. Told by numbers: a face that comes through a node unchanged has its numbers. */

type Element = Pick<Maker, 'kind' | 'per' | 'element' | 'part'>;

/** The vertices that stand at a place. */
function verticesAt(positions: Float32Array, [x, y, z]: readonly number[]): number[] {
  const found: number[] = [];
  for (let i = 0; i < positions.length; i += 3) if (positions[i] === x && positions[i + 1] === y && positions[i + 2] === z) found.push(i / 3);
  return found;
}

/** The face of a mesh that has three places among its corners; −1: none. */
function faceAt(mesh: Mesh, corners: readonly number[]): number {
  const first = verticesAt(mesh.positions, corners);
  if (!first.length) return -1;
  for (let i = mesh.corners.indexOf(first[0]), k = 0; k < first.length;) {
    if (i < 0) {
      i = mesh.corners.indexOf(first[++k]);
      continue;
    }
    const face = faceOfCorner(mesh, i);
    if (faceCorners(mesh, face, corners).every((vertex) => vertex !== undefined)) return face;
    i = mesh.corners.indexOf(first[k], i + 1);
  }
  return -1;
}

/** The face that a corner belongs to. */
function faceOfCorner(mesh: Mesh, corner: number): number {
  if (mesh.uniform) return Math.floor(corner / mesh.uniform);
  let [low, high] = [0, faceCount(mesh) - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (faceStart(mesh, middle) <= corner) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** The vertices of a face that stand at three places; undefined for a place where it has none. */
export function faceCorners(mesh: Mesh, face: number, corners: readonly number[]): (number | undefined)[] {
  const own = [...mesh.corners.subarray(faceStart(mesh, face), faceStart(mesh, face + 1))];
  return [0, 1, 2].map((k) => own.find((vertex) => [0, 1, 2].every((i) => mesh.positions[vertex * 3 + i] === corners[k * 3 + i])));
}

/** The copy that a matrix places, of an object that has the face: several things may stand in one place. */
function copyAt({ matrices, object, objects }: Copies, matrix: readonly number[], corners: readonly number[] | null): number {
  for (let i = 0; i < object.length; i++)
    if (matrix.every((value, k) => matrices[i * 16 + k] === value) && (!corners || faceAt(objects[object[i]], corners) >= 0)) return i;
  return -1;
}

function pointAt({ positions }: Curves | { readonly positions: Float32Array }, place: readonly number[]): number {
  for (let i = 0; i < positions.length; i += 3) if (positions[i] === place[0] && positions[i + 1] === place[1] && positions[i + 2] === place[2]) return i / 3;
  return -1;
}

/** The element of a result that is what is seen; null: the result does not have it. */
function elementIn({ mesh, copies, curves }: GeometrySet, { corners, copy, point }: Seen): Element | null {
  if (copy) {
    const element = copies ? copyAt(copies, copy, corners) : -1;
    return element < 0 ? null : { kind: 'copies', per: 'copy', element, part: copies!.object[element] };
  }
  if (corners) {
    const element = mesh ? faceAt(mesh, corners) : -1;
    return element < 0
      ? null
      : { kind: 'mesh', per: 'face', element, part: (mesh!.attributes.get('body') ?? mesh!.attributes.get('part'))?.data[element] ?? null };
  }
  // Curves are drawn by their pace: a point between those that the document knows belongs to no other curves.
  const lines = point && curves ? paced(curves) : null;
  const at = lines ? pointAt(lines, point!) : -1;
  if (at < 0) return null;
  const part = Array.from({ length: curveCount(lines!) }, (_, c) => c).find((c) => at < lines!.starts[c + 1])!;
  return { kind: 'curves', per: 'curve', element: part, part };
}

/** Which node made what is seen. */
export function makerOf({ plan, run, shown }: Newest, seen: Questions['maker']): Answers['maker'] {
  const { wiresTo } = indexOf(plan.document);
  const foundIn = (id: string): Element | null => elementIn(resultOf(run.nodes.get(id)), seen);
  const begin = [...shown].find((id) => foundIn(id)) ?? plan.document.nodes.map(({ id }) => id).findLast((id) => foundIn(id));
  if (!begin) return null;
  const way = [begin];
  for (;;) {
    const before: string | undefined = (wiresTo.get(way[0]) ?? []).map(({ from }) => from[0]).find((id) => !way.includes(id) && foundIn(id));
    if (!before) break;
    way.unshift(before);
  }
  return { node: way[0], through: way.slice(1), ...foundIn(way[0])! };
}

/** How many faces of a node's result are looked for in the picture. */
const sampled = 5;

/** What of a node's result is to be seen in the picture. */
export function outlineOf({ run, shown }: Newest, { node }: Questions['outline']): Answers['outline'] {
  const own = resultOf(run.nodes.get(node));
  const sets = shown.map((id) => resultOf(run.nodes.get(id)));
  const { mesh, copies, curves } = own;
  const sees = (seen: Seen): boolean => sets.some((set) => elementIn(set, seen) !== null);
  if (mesh?.corners.length && some(faceCount(mesh), (f) => sees({ corners: cornersOf(mesh, f), copy: null, point: null }))) {
    const { indices } = triangulate(mesh);
    return { positions: mesh.positions.slice(), indices: indices.slice(), matrices: null, lines: new Float32Array(0), bounds: plain(boundsOf(mesh.positions)) };
  }
  if (
    copies?.object.length &&
    some(copies.object.length, (i) => sees({ corners: null, copy: [...copies.matrices.subarray(i * 16, i * 16 + 16)], point: null }))
  )
    return copiesOutline(copies);
  // Curves are drawn over everything whenever they are asked for.
  if (curves && curveCount(curves)) return { ...none, lines: linesOf(paced(curves)), bounds: plain(curvesBounds(curves)) };
  return null;
}

const none = { positions: new Float32Array(0), indices: new Uint32Array(0), matrices: null } as const;

const plain = (bounds: ReturnType<typeof unionBounds>): OutlinePicture['bounds'] => bounds && { min: [...bounds.min], max: [...bounds.max] };

/** Copies of the object that most of them are of. */
function copiesOutline(copies: Copies): OutlinePicture | null {
  const counts = copies.objects.map((_, which) => copies.object.reduce((sum, used) => sum + (used === which ? 1 : 0), 0));
  const most = counts.indexOf(Math.max(...counts));
  const mesh = copies.objects[most];
  const matrices = new Float32Array(counts[most] * 16);
  let at = 0;
  copies.object.forEach((used, i) => {
    if (used !== most) return;
    matrices.set(copies.matrices.subarray(i * 16, i * 16 + 16), at);
    at += 16;
  });
  const { indices } = triangulate(mesh);
  return { positions: mesh.positions.slice(), indices: indices.slice(), matrices, lines: new Float32Array(0), bounds: plain(copiesBounds(copies)) };
}

const cornersOf = (mesh: Mesh, face: number): number[] =>
  Array.from(mesh.corners.subarray(faceStart(mesh, face), faceStart(mesh, face) + 3)).flatMap((vertex) => [
    ...mesh.positions.subarray(vertex * 3, vertex * 3 + 3),
  ]);

/** Whether something holds for one of a few spread over a count. */
const some = (count: number, holds: (i: number) => boolean): boolean =>
  Array.from({ length: sampled }, (_, k) => Math.floor(((count - 1) * k) / (sampled - 1))).some(holds);

/** Edges of the surfaces that are shown. */
export function edgesShown({ run, shown }: Newest, { sharp }: Questions['edges']): Answers['edges'] {
  const meshes = shown.flatMap((id) => resultOf(run.nodes.get(id)).mesh ?? []);
  const lists = meshes.flatMap((mesh) =>
    (sharp ? (['boundary', 'sharp'] as const) : (['boundary'] as const)).map((which) => {
      const { positions } = edgePaths(mesh, { which, angle: sharpAngle, chain: 'each' }, unbounded);
      return positions;
    }),
  );
  const ends = new Float32Array(lists.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const list of lists) {
    ends.set(list, at);
    at += list.length;
  }
  return ends;
}

/** The UVs of what a node gives, or of what is shown, each object of copies once. */
export function uvsOf({ run, shown }: Newest, { node }: Questions['uvSheet']): Answers['uvSheet'] {
  const meshesOf = (id: string): Mesh[] => {
    const { mesh, copies } = resultOf(run.nodes.get(id));
    return [...(mesh ? [mesh] : []), ...(copies?.objects ?? [])].filter((each) => each.attributes.get('uv')?.size === 2 && each.corners.length);
  };
  const own = node === null ? [] : meshesOf(node);
  const meshes = own.length ? own : shown.flatMap(meshesOf);
  return meshes.length ? uvSheet(joinMeshes(meshes)) : null;
}
