import { gatherRows, withAttributes } from '../../geometry/attributes.js';
import { faceCount, faceStart, type Mesh } from '../../geometry/mesh.js';
import type { Vector3 } from '../../curves/evaluate/transport.js';
import { tick, unbounded, type Work } from '../../base/work.js';
import { MeshBuilder } from '../../mesh/make/builder.js';
import { cornerAfter, edgesOf } from '../../mesh/topology/edgeTable.js';
import { flipFaces, smoothNormals, splitNormals } from '../../mesh/change/normals.js';
import { fieldAt, type Field } from '../../values/field.js';
import { skinParts } from '../parts/sink.js';

export interface ExtrudeOptions {
  /** Metres, a value per vertex; below 0 it goes the other way. */
  readonly distance: Field;
  /** Unit direction for all, or null: each point along its own normal. */
  readonly axis: Vector3 | null;
  /** From the given faces onwards, or half of the distance to each side. */
  readonly towards: 'oneWay' | 'bothWays';
  readonly capStart: boolean;
  readonly capEnd: boolean;
  readonly wall: boolean;
  readonly wallRows: number;
  /** Metres by which the wall stands out at a share of the way, 0 at the start and 1 at the end. */
  readonly wallShape: (share: number) => number;
  /** Metres per UV tile of the wall; 0: fitted to 0…1. */
  readonly uvScale: number;
}

/** Faces at this angle or more to each other have an edge between them, degrees. */
const edgeAngle = 30;

/**
 * Gives faces a thickness: the given ones moved (capEnd), the given ones turned over (capStart), and walls over their border. With all three the
 * result is closed wherever the given faces were. UVs and materials of the faces are kept, walls take the material of the face they stand on; walls have u along the border and v across.
 */
export function extrude(mesh: Mesh, options: ExtrudeOptions, work: Work = unbounded): Mesh {
  const border = borderOf(mesh, work);
  work.claim({ vertices: mesh.pointCount * 2 + border.length * options.wallRows, faces: faceCount(mesh) * 2 + border.length * options.wallRows });
  const vertices = mesh.positions.length / 3;
  const pointOf = (v: number): number => (mesh.pointOf ? mesh.pointOf[v] : v);
  const normals = smoothNormals(mesh, work).attributes.get('normal')!.data;
  const start = new Float64Array(mesh.pointCount * 3);
  const way = new Float64Array(mesh.pointCount * 3);
  let total = 0;
  for (let v = 0; v < vertices; v++) {
    const d = fieldAt(options.distance, v);
    total += d;
    for (let k = 0; k < 3; k++) {
      const along = options.axis ? options.axis[k] : normals[v * 3 + k];
      way[pointOf(v) * 3 + k] = along * d;
      start[pointOf(v) * 3 + k] = mesh.positions[v * 3 + k] - (options.towards === 'bothWays' ? (along * d) / 2 : 0);
    }
  }
  const builder = new MeshBuilder();
  const firstPoint = builder.points;
  builder.points += mesh.pointCount * 2;
  const uv = mesh.attributes.get('uv')?.data;
  const shell = (share: 0 | 1): number => {
    const base = builder.vertices;
    for (let v = 0; v < vertices; v++) {
      const p = pointOf(v);
      const at = [0, 1, 2].map((k) => start[p * 3 + k] + share * way[p * 3 + k]);
      builder.vertex(at[0], at[1], at[2], firstPoint + share * mesh.pointCount + p, uv ? uv[v * 2] : 0, uv ? uv[v * 2 + 1] : 0);
    }
    return base;
  };
  /** The given face that each new one comes from: its own, or the one whose border a wall stands on. */
  const sources: number[] = [];
  const tell = (face: number): void => {
    while (sources.length < builder.faces) sources.push(face);
  };
  const faces = (part: number, base: number, turned: boolean): void => {
    for (let f = 0; f < faceCount(mesh); f++) {
      tick(work, f, faceCount(mesh));
      const list = Array.from(mesh.corners.subarray(faceStart(mesh, f), faceStart(mesh, f + 1)), (v) => base + v);
      builder.face(part, turned ? list.reverse() : list);
      tell(f);
    }
  };
  if (options.capStart) faces(skinParts.capStart, shell(0), true);
  if (options.capEnd) faces(skinParts.capEnd, shell(1), false);
  if (options.wall) walls(builder, mesh, border, start, way, firstPoint, normals, options, tell, work);
  const made = splitNormals(builder.finish(), edgeAngle, work);
  // A negative distance goes through the faces, so that all of them look inwards.
  const outwards = total < 0 ? flipFaces(made) : made;
  const material = mesh.attributes.get('material');
  if (!material || !mesh.materials.length) return outwards;
  return {
    ...outwards,
    materials: mesh.materials,
    attributes: withAttributes(outwards.attributes, {
      material: { ...material, data: gatherRows(material, sources) },
    }),
  };
}

/** A piece of the border: its vertices in the order of its face, and the face. */
interface BorderEdge {
  readonly a: number;
  readonly b: number;
  readonly face: number;
}

/** Edges with one face only. */
function borderOf(mesh: Mesh, work: Work): BorderEdge[] {
  const edges = edgesOf(mesh, work);
  const border: BorderEdge[] = [];
  for (let e = 0; e < edges.count; e++) {
    if (edges.sides[e] !== 1) continue;
    const face = edges.face[e * 2];
    const from = edges.from[e * 2];
    border.push({ a: mesh.corners[from], b: mesh.corners[cornerAfter(mesh, face, from)], face });
  }
  return border;
}

/** Chains of border edges, each beginning where the last ended. */
function chains(border: readonly BorderEdge[], point: (v: number) => number): BorderEdge[][] {
  const from = new Map<number, BorderEdge[]>();
  for (const edge of border) from.set(point(edge.a), [...(from.get(point(edge.a)) ?? []), edge]);
  const used = new Set<BorderEdge>();
  const result: BorderEdge[][] = [];
  for (const edge of border) {
    if (used.has(edge)) continue;
    const chain: BorderEdge[] = [];
    for (let next: BorderEdge | undefined = edge; next; next = from.get(point(next.b))?.find((candidate) => !used.has(candidate))) {
      used.add(next);
      chain.push(next);
    }
    result.push(chain);
  }
  return result;
}

function walls(
  builder: MeshBuilder,
  mesh: Mesh,
  border: readonly BorderEdge[],
  start: Float64Array,
  way: Float64Array,
  firstPoint: number,
  normals: Float32Array,
  options: ExtrudeOptions,
  tell: (face: number) => void,
  work: Work,
): void {
  const point = (v: number): number => (mesh.pointOf ? mesh.pointOf[v] : v);
  const rows = options.wallRows;
  const outwards = borderDirections(mesh, border, normals);
  /** Mesh points of the rows between the two shells, by border point. */
  const between = new Map<number, number[]>();
  const pointAt = (p: number, row: number): number => {
    if (row === 0) return firstPoint + p;
    if (row === rows) return firstPoint + mesh.pointCount + p;
    let list = between.get(p);
    if (!list) between.set(p, (list = Array.from({ length: rows - 1 }, () => builder.point())));
    return list[row - 1];
  };
  for (const chain of chains(border, point)) {
    const length = chain.reduce((sum, edge) => sum + edgeLength(start, point(edge.a), point(edge.b)), 0) || 1;
    let u = 0;
    for (const edge of chain) {
      const ends = [point(edge.a), point(edge.b)];
      const next = u + edgeLength(start, ends[0], ends[1]);
      const at = (p: number, row: number, s: number): number => {
        const share = row / rows;
        // The ends stay on the shells, so that walls meet the caps.
        const out = row === 0 || row === rows ? 0 : options.wallShape(share);
        const place = [0, 1, 2].map((k) => start[p * 3 + k] + share * way[p * 3 + k] + out * (outwards.get(p)?.[k] ?? 0));
        const across = share * Math.hypot(way[p * 3], way[p * 3 + 1], way[p * 3 + 2]);
        return builder.vertex(
          place[0],
          place[1],
          place[2],
          pointAt(p, row),
          options.uvScale > 0 ? s / options.uvScale : s / length,
          options.uvScale > 0 ? across / options.uvScale : share,
        );
      };
      for (let row = 0; row < rows; row++) {
        tick(work, builder.faces, border.length * rows);
        builder.face(skinParts.wall, [at(ends[0], row, u), at(ends[1], row, next), at(ends[1], row + 1, next), at(ends[0], row + 1, u)]);
      }
      tell(edge.face);
      u = next;
    }
  }
}

const edgeLength = (p: Float64Array, a: number, b: number): number => Math.hypot(p[b * 3] - p[a * 3], p[b * 3 + 1] - p[a * 3 + 1], p[b * 3 + 2] - p[a * 3 + 2]);

/** For each border point the unit direction out of the faces, along the surface. */
function borderDirections(mesh: Mesh, border: readonly BorderEdge[], normals: Float32Array): Map<number, number[]> {
  const point = (v: number): number => (mesh.pointOf ? mesh.pointOf[v] : v);
  const p = mesh.positions;
  const sums = new Map<number, number[]>();
  for (const { a, b } of border) {
    const d = [0, 1, 2].map((k) => p[b * 3 + k] - p[a * 3 + k]);
    const n = [0, 1, 2].map((k) => normals[a * 3 + k] + normals[b * 3 + k]);
    const out = [d[1] * n[2] - d[2] * n[1], d[2] * n[0] - d[0] * n[2], d[0] * n[1] - d[1] * n[0]];
    const size = Math.hypot(...out) || 1;
    for (const v of [a, b]) {
      const own = sums.get(point(v)) ?? [0, 0, 0];
      sums.set(point(v), own.map((value, k) => value + out[k] / size)); // prettier-ignore
    }
  }
  for (const [key, sum] of sums) {
    const size = Math.hypot(...sum) || 1;
    sums.set(key, sum.map((value) => value / size)); // prettier-ignore
  }
  return sums;
}
