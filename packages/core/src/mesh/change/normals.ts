import { withAttributes } from '../../geometry/attributes.js';
import { faceCount, faceStart, type Mesh } from '../../geometry/mesh.js';
import { tick, unbounded, type Work } from '../../base/work.js';
import { faceAreas, signedVolume } from '../topology/areas.js';
import { cornerAfter, edgesOf } from '../topology/edgeTable.js';
import { splitVertices } from './splitVertices.js';

function unit(data: Float32Array | Float64Array): Float32Array {
  const result = new Float32Array(data.length);
  for (let i = 0; i < data.length; i += 3) {
    const size = Math.sqrt(data[i] * data[i] + data[i + 1] * data[i + 1] + data[i + 2] * data[i + 2]);
    // A vertex that belongs to no face with an area points up rather than nowhere.
    if (!(size > 1e-30)) result[i + 1] = 1;
    else for (let k = 0; k < 3; k++) result[i + k] = data[i + k] / size;
  }
  return result;
}

/** Normals of the vertices as means of their faces, weighted by area; with `groups` (a number per vertex) over all vertices of a group. */
function meanNormals(mesh: Mesh, groups: Uint32Array | null, groupCount: number, work: Work): Float32Array {
  const areas = faceAreas(mesh, work);
  const { corners } = mesh;
  const faces = faceCount(mesh);
  const sums = new Float64Array(groupCount * 3);
  for (let f = 0; f < faces; f++) {
    tick(work, f, faces);
    const x = areas[f * 3];
    const y = areas[f * 3 + 1];
    const z = areas[f * 3 + 2];
    for (let i = faceStart(mesh, f), to = faceStart(mesh, f + 1); i < to; i++) {
      const at = (groups ? groups[corners[i]] : corners[i]) * 3;
      sums[at] += x;
      sums[at + 1] += y;
      sums[at + 2] += z;
    }
  }
  const normals = unit(sums);
  if (!groups) return normals;
  const result = new Float32Array(mesh.positions.length);
  for (let v = 0; v < groups.length; v++) {
    const at = groups[v] * 3;
    result[v * 3] = normals[at];
    result[v * 3 + 1] = normals[at + 1];
    result[v * 3 + 2] = normals[at + 2];
  }
  return result;
}

const withNormals = (mesh: Mesh, data: Float32Array): Mesh => ({
  ...mesh,
  attributes: withAttributes(mesh.attributes, { normal: { carrier: 'corner', size: 3, data } }),
});

/**
 * Normals found anew after points have moved. Vertices of one point that had the same normal before share one again, so creases and seams stay as
 * they were.
 */
export function refreshNormals(mesh: Mesh, before: Mesh = mesh, work: Work = unbounded): Mesh {
  const old = before.attributes.get('normal')?.data;
  if (!old) return mesh;
  const { pointOf } = mesh;
  if (!pointOf) return withNormals(mesh, meanNormals(mesh, null, mesh.positions.length / 3, work));
  const groups = new Uint32Array(pointOf.length);
  const first = new Map<number, number[]>();
  let count = 0;
  for (let v = 0; v < pointOf.length; v++) {
    tick(work, v, pointOf.length);
    const list = first.get(pointOf[v]);
    const same = list?.find((w) => old[w * 3] * old[v * 3] + old[w * 3 + 1] * old[v * 3 + 1] + old[w * 3 + 2] * old[v * 3 + 2] > 0.9999);
    groups[v] = same === undefined ? count++ : groups[same];
    if (same !== undefined) continue;
    if (list) list.push(v);
    else first.set(pointOf[v], [v]);
  }
  return withNormals(mesh, meanNormals(mesh, groups, count, work));
}

/** One normal a point: smooth everywhere. */
export function smoothNormals(mesh: Mesh, work: Work = unbounded): Mesh {
  return withNormals(mesh, meanNormals(mesh, mesh.pointOf, mesh.pointCount, work));
}

/** Each face with its own normals: vertices are no longer shared between faces. */
export function facetedNormals(mesh: Mesh, work: Work = unbounded): Mesh {
  const keys = new Uint32Array(mesh.corners.length);
  for (let f = 0; f < faceCount(mesh); f++) keys.fill(f, faceStart(mesh, f), faceStart(mesh, f + 1));
  const apart = splitVertices(mesh, keys, work);
  return withNormals(apart, meanNormals(apart, null, apart.positions.length / 3, work));
}

/** Smooth across edges whose faces meet at up to `angle` degrees, split where they meet more sharply. */
export function splitNormals(mesh: Mesh, angle: number, work: Work = unbounded): Mesh {
  const groups = smoothingGroups(mesh, Math.cos((angle * Math.PI) / 180), work);
  const apart = splitVertices(mesh, groups.keys, work);
  const own = new Uint32Array(apart.positions.length / 3);
  for (let i = 0; i < apart.corners.length; i++) own[apart.corners[i]] = groups.keys[i];
  return withNormals(apart, meanNormals(apart, own, groups.count, work));
}

/** A number for each corner: corners of one point whose faces are joined through edges that are not sharp have the same. */
function smoothingGroups(mesh: Mesh, cosine: number, work: Work): { keys: Uint32Array; count: number } {
  const { corners } = mesh;
  const normals = unit(faceAreas(mesh, work));
  const parent = Uint32Array.from({ length: corners.length }, (_, i) => i);
  const root = (i: number): number => {
    while (parent[i] !== i) i = parent[i] = parent[parent[i]];
    return i;
  };
  const edges = edgesOf(mesh, work);
  for (let e = 0; e < edges.count; e++) {
    tick(work, e, edges.count);
    if (edges.sides[e] !== 2) continue;
    const first = edges.face[e * 2];
    const second = edges.face[e * 2 + 1];
    const [m, n] = [first * 3, second * 3];
    if (normals[m] * normals[n] + normals[m + 1] * normals[n + 1] + normals[m + 2] * normals[n + 2] < cosine - 1e-9) continue;
    // Neighbours that wind alike run along their edge in opposite directions.
    const alike = !edges.against[e];
    const from = edges.from[e * 2];
    const otherFrom = edges.from[e * 2 + 1];
    const otherTo = cornerAfter(mesh, second, otherFrom);
    parent[root(from)] = root(alike ? otherTo : otherFrom);
    parent[root(cornerAfter(mesh, first, from))] = root(alike ? otherFrom : otherTo);
  }
  const number = new Int32Array(corners.length).fill(-1);
  let count = 0;
  const keys = new Uint32Array(corners.length);
  for (let i = 0; i < corners.length; i++) {
    tick(work, i, corners.length);
    const r = root(i);
    if (number[r] < 0) number[r] = count++;
    keys[i] = number[r];
  }
  return { keys, count };
}

/** All faces turned over, with their normals. */
export function flipFaces(mesh: Mesh, which: Uint8Array | null = null, work: Work = unbounded): Mesh {
  // A vertex between a face that turns and one that does not needs two normals.
  const given = which ? splitVertices(mesh, cornersOf(mesh, which)) : mesh;
  const corners = given.corners.slice();
  const turned = new Uint8Array(given.positions.length / 3);
  for (let f = 0; f < faceCount(given); f++) {
    tick(work, f, faceCount(given));
    if (which && !which[f]) continue;
    const from = faceStart(given, f);
    const to = faceStart(given, f + 1);
    for (let i = from + 1; i < to; i++) corners[i] = given.corners[to - (i - from)];
    for (let i = from; i < to; i++) turned[given.corners[i]] = 1;
  }
  const normal = given.attributes.get('normal');
  const flipped = { ...given, corners };
  return normal ? withNormals(flipped, normal.data.map((value, i) => (turned[(i / 3) | 0] ? -value : value))) : flipped; // prettier-ignore
}

function cornersOf(mesh: Mesh, which: Uint8Array): Uint32Array {
  const keys = new Uint32Array(mesh.corners.length);
  for (let f = 0; f < which.length; f++) keys.fill(which[f], faceStart(mesh, f), faceStart(mesh, f + 1));
  return keys;
}

/**
 * Turns faces so that neighbours wind alike, part by part; closed parts end up facing outwards (positive volume), open ones as most of their
 * faces did. Edges of more than two faces are not crossed.
 */
export function consistentFaces(mesh: Mesh, work: Work = unbounded): Mesh {
  const faces = faceCount(mesh);
  const neighbours: { face: number; against: boolean }[][] = Array.from({ length: faces }, () => []);
  const boundary = new Uint8Array(faces);
  const edges = edgesOf(mesh, work);
  for (let e = 0; e < edges.count; e++) {
    tick(work, e, edges.count);
    const [a, b] = [edges.face[e * 2], edges.face[e * 2 + 1]];
    if (edges.sides[e] === 1) boundary[a] = 1;
    if (edges.sides[e] !== 2) continue;
    const against = edges.against[e] === 1;
    neighbours[a].push({ face: b, against });
    neighbours[b].push({ face: a, against });
  }
  const areas = faceAreas(mesh, work);
  const turn = new Int8Array(faces).fill(-1);
  const result = new Uint8Array(faces);
  for (let seed = 0; seed < faces; seed++) {
    tick(work, seed, faces);
    if (turn[seed] >= 0) continue;
    turn[seed] = 0;
    const part = [seed];
    for (const f of part)
      for (const { face, against } of neighbours[f])
        if (turn[face] < 0) {
          turn[face] = against ? 1 - turn[f] : turn[f];
          part.push(face);
        }
    for (const f of part) if (turn[f]) for (let k = 0; k < 3; k++) areas[f * 3 + k] = -areas[f * 3 + k];
    const volume = signedVolume(mesh, areas, part);
    const closed = part.every((f) => !boundary[f]);
    const flipped = part.reduce((sum, f) => sum + turn[f], 0);
    const over = closed ? volume < 0 : flipped * 2 > part.length;
    for (const f of part) result[f] = turn[f] ^ (over ? 1 : 0);
  }
  return result.includes(1) ? flipFaces(mesh, result) : mesh;
}
