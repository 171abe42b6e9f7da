import type { Attribute } from '../../geometry/attributes.js';
import { makeCurves, type Curves } from '../../geometry/curves.js';
import type { Mesh } from '../../geometry/mesh.js';
import type { Work } from '../../base/work.js';
import { cornerAfter, edgesOf, type EdgeTable } from './edgeTable.js';
import { faceAreas } from './areas.js';

export interface EdgePathOptions {
  /** `sharp`: where faces meet at more than `angle` degrees; `marked`: of marked faces, or between marked points; `betweenParts`: where the `part` of faces changes. */
  which: 'all' | 'boundary' | 'sharp' | 'marked' | 'betweenParts';
  angle: number;
  /** `each`: a curve an edge; `trails`: as few as can be, no edge twice; `loops`: from one place where other than two edges meet to the next, closed where there is none. */
  chain: 'each' | 'trails' | 'loops';
}

/**
 * Edges of a mesh as straight curves through its points, each edge once however many faces share it. Values of one number at the corners come along.
 * @throws RangeError when marked edges are asked for and nothing is marked.
 */
export function edgePaths(mesh: Mesh, options: EdgePathOptions, work: Work): Curves {
  const edges = edgesOf(mesh, work);
  const chosen = chooser(mesh, edges, options);
  const ends: number[] = [];
  for (let e = 0; e < edges.count; e++) {
    if (!chosen(e)) continue;
    const corner = edges.from[e * 2];
    ends.push(mesh.corners[corner], mesh.corners[cornerAfter(mesh, edges.face[e * 2], corner)]);
  }
  const pointOf = (vertex: number): number => (mesh.pointOf ? mesh.pointOf[vertex] : vertex);
  const vertexAt = new Map<number, number>();
  const graph = ends.map((vertex) => {
    const point = pointOf(vertex);
    if (!vertexAt.has(point)) vertexAt.set(point, vertex);
    return point;
  });
  work.claim({ points: graph.length });
  const paths = options.chain === 'each' ? eachEdge(graph) : options.chain === 'trails' ? trails(graph) : chains(graph);
  const vertices = paths.flatMap(({ points }) => points.map((point) => vertexAt.get(point)!));
  const starts = new Uint32Array(paths.length + 1);
  paths.forEach(({ points }, c) => (starts[c + 1] = starts[c] + points.length));
  const taken = (data: Float32Array, size: number): Float32Array =>
    Float32Array.from(vertices.flatMap((v) => Array.from(data.subarray(v * size, v * size + size))));
  const attributes = new Map<string, Attribute>();
  for (const [name, { carrier, size, data }] of mesh.attributes) {
    if (carrier === 'corner' && size === 1) attributes.set(name, { carrier: 'point', size, data: taken(data, size) });
    else if (carrier === 'whole') attributes.set(name, { carrier, size, data });
  }
  return makeCurves({ positions: taken(mesh.positions, 3), starts, closed: Uint8Array.from(paths, ({ closed }) => (closed ? 1 : 0)), attributes });
}

function chooser(mesh: Mesh, edges: EdgeTable, { which, angle }: EdgePathOptions): (e: number) => boolean {
  const faces = (e: number): [number, number] => [edges.face[e * 2], edges.face[e * 2 + 1]];
  switch (which) {
    case 'all':
      return () => true;
    case 'boundary':
      return (e) => edges.sides[e] === 1;
    case 'sharp': {
      const areas = faceAreas(mesh);
      const least = Math.cos((angle * Math.PI) / 180);
      return (e) => {
        const [a, b] = faces(e).map((f) => Array.from(areas.subarray(f * 3, f * 3 + 3)));
        const size = Math.hypot(...a) * Math.hypot(...b);
        const cosine = size > 0 ? a.reduce((sum, value, k) => sum + value * b[k], 0) / size : 1;
        return edges.sides[e] !== 1 && (edges.against[e] ? -cosine : cosine) < least - 1e-9;
      };
    }
    case 'betweenParts': {
      const values = ['body', 'part'].flatMap((name) => mesh.attributes.get(name)?.data ?? []);
      return (e) => values.some((data) => data[faces(e)[0]] !== data[faces(e)[1]]);
    }
    case 'marked': {
      const mark = mesh.attributes.get('mark');
      if (mark?.carrier === 'face') return (e) => faces(e).some((f) => mark.data[f] !== 0);
      if (mark?.carrier === 'corner') return (e) => [edges.from[e * 2], cornerAfter(mesh, edges.face[e * 2], edges.from[e * 2])].every((corner) => mark.data[mesh.corners[corner]] !== 0); // prettier-ignore
      throw new RangeError('The mesh has no marked faces or points; write 1 to "mark" by Set attribute.');
    }
  }
}

/** Points one after another; closed: the last is joined to the first. */
export interface PointPath {
  readonly points: number[];
  readonly closed: boolean;
}

/** Edges are pairs of points in a flat list, here and below. */
const eachEdge = (edges: readonly number[]): PointPath[] => Array.from({ length: edges.length / 2 }, (_, e) => ({ points: [edges[e * 2], edges[e * 2 + 1]], closed: false })); // prettier-ignore

/** The edges at each point, in the order of the list; points in the order of their first edges. */
function incidence(edges: readonly number[]): Map<number, number[]> {
  const at = new Map<number, number[]>();
  edges.forEach((point, i) => {
    const list = at.get(point);
    if (list) list.push(i >> 1);
    else at.set(point, [i >> 1]);
  });
  return at;
}

const otherEnd = (edges: readonly number[], edge: number, point: number): number => (edges[edge * 2] === point ? edges[edge * 2 + 1] : edges[edge * 2]);

/**
 * As few trails as cover every edge once: of each connected part one for each two points where an odd number of edges meet, or one closed one where there are
 * none (Euler 1736). Found by Hierholzer's way (1873) with those points joined in pairs, and parted at the joints.
 */
export function trails(edges: readonly number[]): PointPath[] {
  const paths: PointPath[] = [];
  for (const part of partsOf(edges)) {
    const odd = [...incidence(part)].filter(([, list]) => list.length % 2).map(([point]) => point);
    // A joint from each odd point to the next makes all of them even.
    const joined = [...part, ...odd];
    const circuit = eulerCircuit(joined, odd.length ? odd[0] : part[0]);
    const real = part.length / 2;
    if (!odd.length) {
      paths.push({ points: circuit.points.slice(0, -1), closed: true });
      continue;
    }
    // Turned so that it begins behind a joint, every joint ends a trail.
    const first = circuit.edges.findIndex((edge) => edge >= real);
    const count = circuit.edges.length;
    let points: number[] = [];
    for (let k = 1; k <= count; k++) {
      const i = (first + k) % count;
      points.push(circuit.points[i]);
      if (circuit.edges[i] < real) continue;
      if (points.length > 1) paths.push({ points, closed: false });
      points = [];
    }
  }
  return paths;
}

/** Connected parts of edges, in the order of their first edges. */
function partsOf(edges: readonly number[]): number[][] {
  const at = incidence(edges);
  const seen = new Uint8Array(edges.length / 2);
  const parts: number[][] = [];
  for (let start = 0; start < seen.length; start++) {
    if (seen[start]) continue;
    const own = [start];
    seen[start] = 1;
    for (const edge of own)
      for (const point of [edges[edge * 2], edges[edge * 2 + 1]])
        for (const next of at.get(point)!)
          if (!seen[next]) {
            seen[next] = 1;
            own.push(next);
          }
    parts.push(own.sort((a, b) => a - b).flatMap((edge) => [edges[edge * 2], edges[edge * 2 + 1]]));
  }
  return parts;
}

/** All edges of an even, connected graph in one closed run: its points, the first again at the end, and the edges between them. */
function eulerCircuit(edges: readonly number[], start: number): { points: number[]; edges: number[] } {
  const at = incidence(edges);
  const next = new Map<number, number>();
  const used = new Uint8Array(edges.length / 2);
  const stack: { point: number; by: number }[] = [{ point: start, by: -1 }];
  const points: number[] = [];
  const along: number[] = [];
  while (stack.length) {
    const { point, by } = stack[stack.length - 1];
    const list = at.get(point)!;
    let i = next.get(point) ?? 0;
    while (i < list.length && used[list[i]]) i++;
    next.set(point, i);
    if (i < list.length) {
      used[list[i]] = 1;
      stack.push({ point: otherEnd(edges, list[i], point), by: list[i] });
    } else {
      stack.pop();
      points.push(point);
      if (by >= 0) along.push(by);
    }
  }
  return { points, edges: along };
}

/** Edges chained through points where just two of them meet: open between others, closed where they come round. */
export function chains(edges: readonly number[]): PointPath[] {
  const at = incidence(edges);
  const used = new Uint8Array(edges.length / 2);
  const paths: PointPath[] = [];
  const walk = (start: number, first: number): void => {
    const points = [start];
    let [edge, point] = [first, start];
    for (;;) {
      used[edge] = 1;
      point = otherEnd(edges, edge, point);
      if (point === start) break;
      points.push(point);
      const list = at.get(point)!;
      const onwards = list.length === 2 ? list.find((each) => !used[each]) : undefined;
      if (onwards === undefined) break;
      edge = onwards;
    }
    const round = point === start;
    // A run that leaves a junction and comes back to it goes through it once more; one of two points is one edge there and back.
    if (round && at.get(start)!.length !== 2) paths.push({ points: [...points, start], closed: false });
    else paths.push({ points, closed: round && points.length > 2 });
  };
  for (const [point, list] of at) if (list.length !== 2) for (const edge of list) if (!used[edge]) walk(point, edge);
  for (const [point, list] of at) for (const edge of list) if (!used[edge]) walk(point, edge);
  return paths;
}
