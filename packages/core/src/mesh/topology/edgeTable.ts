import { faceCount, faceStart, type Mesh } from '../../geometry/mesh.js';
import { tableSize } from '../../space/grid.js';
import { tick, unbounded, type Work } from '../../base/work.js';

/** Edges over distinct points, in flat arrays: of more than two sides the first and the last are kept. */
export interface EdgeTable {
  count: number;
  /** How many faces meet at each, the first and the last of them, and the corners (indices into `corners`) that their sides begin at. */
  readonly sides: Uint8Array;
  readonly face: Uint32Array;
  readonly from: Uint32Array;
  /** 1 where two sides run the same way, so that the faces look opposite ways. */
  readonly against: Uint8Array;
  /** How many more sides run to the point of the higher number than back; 0 at an edge of a closed surface, however many faces meet there. */
  readonly surplus: Int32Array;
}

/** Finds edges by an open-addressing table, without a list for each edge. */
export function edgesOf(mesh: Mesh, work: Work = unbounded): EdgeTable {
  const { corners, pointOf } = mesh;
  const n = corners.length;
  const size = tableSize(n);
  const table = new Int32Array(size).fill(-1);
  const ends = new Uint32Array(n * 2);
  const edges: EdgeTable = {
    count: 0,
    sides: new Uint8Array(n),
    face: new Uint32Array(n * 2),
    from: new Uint32Array(n * 2),
    against: new Uint8Array(n),
    surplus: new Int32Array(n),
  };
  const rising = new Uint8Array(n);
  for (let f = 0; f < faceCount(mesh); f++) {
    tick(work, f, faceCount(mesh));
    const [from, to] = [faceStart(mesh, f), faceStart(mesh, f + 1)];
    for (let j = from; j < to; j++) {
      const next = corners[j + 1 < to ? j + 1 : from];
      const [p, q] = [pointOf ? pointOf[corners[j]] : corners[j], pointOf ? pointOf[next] : next];
      const [low, high] = [Math.min(p, q), Math.max(p, q)];
      let slot = (Math.imul(low, 0x9e3779b1) ^ Math.imul(high, 0x85ebca6b)) >>> 0;
      slot = (slot ^ (slot >>> 15)) & (size - 1);
      while (table[slot] >= 0 && (ends[table[slot] * 2] !== low || ends[table[slot] * 2 + 1] !== high)) slot = (slot + 1) & (size - 1);
      let e = table[slot];
      if (e < 0) {
        e = table[slot] = edges.count++;
        ends[e * 2] = low;
        ends[e * 2 + 1] = high;
        edges.face[e * 2] = f;
        edges.from[e * 2] = j;
        rising[e] = Number(p < q);
      } else if (rising[e] === Number(p < q)) edges.against[e] = 1;
      edges.face[e * 2 + 1] = f;
      edges.from[e * 2 + 1] = j;
      edges.surplus[e] += Math.sign(q - p);
      if (edges.sides[e] < 255) edges.sides[e]++;
    }
  }
  return edges;
}

/** The corner after `corner` of a face. */
export const cornerAfter = (mesh: Mesh, face: number, corner: number): number => (corner + 1 < faceStart(mesh, face + 1) ? corner + 1 : faceStart(mesh, face));
