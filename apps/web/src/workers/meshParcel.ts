import { arraysOf, faceCount, faceStart, hasBorder, unbounded, type Memory, type Mesh } from '@filaxis/core';
import { backsAreSeen, trianglesByMaterial } from '@filaxis/formats';
import type { MeshParcel } from '@filaxis/protocol';

/** Triangles of one material: where they begin among the indices, how many indices, and the material's number in the mesh. */
interface Group {
  readonly start: number;
  readonly count: number;
  readonly material: number;
}

/** What the page has of a mesh, by the result it came from. */
export interface SentMesh {
  readonly mesh: Mesh;
  readonly values: Float32Array | null;
  readonly groups: readonly Group[];
  /** Whether it has a border; null: nobody asked yet. */
  readonly open: boolean | null;
  /** The triangles, where they depend on the places; null: they do not. */
  readonly indices: Uint32Array | null;
}

type Numbers = Float32Array | Uint32Array;

/** Whether two lists hold the same bits. */
function same(a: Numbers | null | undefined, b: Numbers | null | undefined): boolean {
  if (a === b || (!a && !b)) return true;
  if (!a || !b || a.length !== b.length) return false;
  const [x, y] = [a, b].map(({ buffer, byteOffset, length }) => new Uint32Array(buffer, byteOffset, length));
  for (let i = 0; i < x.length; i++) if (x[i] !== y[i]) return false;
  return true;
}

function copyOf<T extends Numbers>(numbers: T, memory: Memory): T {
  const copy = numbers instanceof Float32Array ? memory.float32(numbers.length) : memory.uint32(numbers.length);
  copy.set(numbers);
  return copy as T;
}

/**
 * A mesh for the page: copies of its arrays, so that the result stays here, but for those that the page has since `before`. Memory taken from `memory` is
 * handed over with the parcel.
 */
export function meshParcel(mesh: Mesh, values: Float32Array | null, before: SentMesh | null, memory: Memory): { parcel: MeshParcel; sent: SentMesh } {
  const old = before?.mesh;
  const faces = !!old && old.positions.length === mesh.positions.length && same(old.corners, mesh.corners) && same(old.faceStarts, mesh.faceStarts);
  const grouped = faces && old.uniform === mesh.uniform && same(dataOf(old, 'material'), dataOf(mesh, 'material'));
  // Faces of one size are cut alike wherever their corners lie.
  const kept = grouped && mesh.uniform ? before : null;
  const { indices, groups } = kept ? { indices: null, groups: kept.groups } : trianglesOf(mesh, memory);
  const stays = kept !== null || (grouped && before !== null && same(before.indices, indices));
  const unlessSame = <T extends Numbers>(now: T | null | undefined, then: T | null | undefined): T | 'same' | null => {
    if (before && same(now, then)) return 'same';
    return now ? copyOf(now, memory) : null;
  };
  const part = (name: string): Float32Array | 'same' | null => unlessSame(dataOf(mesh, name), old && dataOf(old, name));
  const asks = groups.some(({ material }) => mesh.materials[material]?.doubleSided === undefined);
  const open = (faces ? (before?.open ?? null) : null) ?? (asks ? hasBorder(mesh, { ...unbounded, memory }) : null);
  const sent = { mesh, values, groups, open, indices: mesh.uniform ? null : stays ? before!.indices : copyOf(indices!, memory) };
  const parcel = {
    positions: unlessSame(mesh.positions, old?.positions)!,
    normals: part('normal'),
    uv: part('uv'),
    indices: stays ? ('same' as const) : indices!,
    groups: groups.map(({ start, count, material: which }) => {
      const material = mesh.materials[which] ?? null;
      return { start, count, material, backs: backsAreSeen(material, open ?? false) };
    }),
    edges: faces ? ('same' as const) : edgesOf(mesh, memory),
    values: unlessSame(values, before?.values),
  };
  return { parcel, sent };
}

const dataOf = (mesh: Mesh, name: string): Float32Array | undefined => mesh.attributes.get(name)?.data;

function trianglesOf(mesh: Mesh, memory: Memory): { indices: Uint32Array; groups: readonly Group[] } {
  const lists = [...trianglesByMaterial(mesh, memory)];
  const indices = lists.length === 1 ? lists[0][1] : memory.uint32(lists.reduce((sum, [, list]) => sum + list.length, 0));
  const groups: Group[] = [];
  let at = 0;
  for (const [material, list] of lists) {
    if (list !== indices) indices.set(list, at);
    groups.push({ start: at, count: list.length, material });
    at += list.length;
  }
  return { indices, groups };
}

/** Polygon edges for the wire view, as the page has them. Quads of a band share edges, so each gives its first and its last; other faces give all. */
function edgesOf(mesh: Mesh, memory: Memory): Uint32Array | null {
  const { corners, uniform } = mesh;
  if (uniform === 4) return null;
  const faces = faceCount(mesh);
  let count = 0;
  for (let f = 0; f < faces; f++) {
    const size = faceStart(mesh, f + 1) - faceStart(mesh, f);
    count += size === 4 ? 2 : size;
  }
  const edges = memory.uint32(count * 2);
  let at = 0;
  for (let f = 0; f < faces; f++) {
    const from = faceStart(mesh, f);
    const to = faceStart(mesh, f + 1);
    if (to - from === 4) {
      edges[at] = corners[from];
      edges[at + 1] = corners[from + 1];
      edges[at + 2] = corners[from + 3];
      edges[at + 3] = corners[from];
      at += 4;
      continue;
    }
    for (let i = from; i < to; i++) {
      edges[at++] = corners[i];
      edges[at++] = corners[i + 1 < to ? i + 1 : from];
    }
  }
  return edges;
}

/** Buffers that are read when the next picture is made. */
export const buffersHeldBy = ({ mesh, values, indices }: SentMesh): ArrayBufferLike[] =>
  [...arraysOf(mesh), values, indices].flatMap((array) => (array ? [array.buffer] : []));
