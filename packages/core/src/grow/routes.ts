import type { Attribute } from '../geometry/attributes.js';
import { makeCurves, type Curves } from '../geometry/curves.js';
import { faceCount, faceStart, type Mesh } from '../geometry/mesh.js';
import { smoothNormals } from '../mesh/change/normals.js';
import { placesOfMesh } from '../mesh/topology/samePlaces.js';
import { framedOutwards } from './frames.js';
import { tick, type Work } from '../base/work.js';
import { fieldAt, type Field } from '../values/field.js';

export interface RoutesOptions {
  /** Every end to the start that it is nearest to, or to every start. */
  from: 'nearest' | 'each';
  /** Routes that share a way are one curve there. */
  merge: boolean;
  /** For each vertex: how much harder the way is there; 1 makes it cost twice its length. 0 or more. */
  harder: Field;
  /** Metres a second, for `birth`. */
  pace: number;
}

export interface Routes {
  readonly curves: Curves;
  /** Ends to which no way leads from any start. */
  readonly unreachable: number;
}

/** The edges of a mesh as ways between its points, each both ways: those of point p are `links` and `costs` from `starts[p]` on. */
export interface EdgeGraph {
  readonly count: number;
  readonly starts: Uint32Array;
  readonly links: Uint32Array;
  /** Metres, and what they cost. */
  readonly lengths: Float64Array;
  readonly costs: Float64Array;
  /** A vertex of each point, and the point of each vertex. */
  readonly vertexOf: Uint32Array;
  readonly pointOf: Uint32Array;
}

/** The edges of a mesh as ways. Points at one place are one, so that seams are no walls. */
export function edgeGraph(mesh: Mesh, harder: Field, work: Work): EdgeGraph {
  const { pointOf, count } = placesOfMesh(mesh, work);
  const vertexOf = new Uint32Array(count);
  for (let v = pointOf.length - 1; v >= 0; v--) vertexOf[pointOf[v]] = v;
  const { corners } = mesh;
  const starts = new Uint32Array(count + 1);
  const eachSide = (visit: (a: number, b: number) => void): void => {
    for (let f = 0; f < faceCount(mesh); f++) {
      tick(work, f, faceCount(mesh));
      const [from, to] = [faceStart(mesh, f), faceStart(mesh, f + 1)];
      for (let k = from; k < to; k++) {
        const [a, b] = [pointOf[corners[k]], pointOf[corners[k + 1 < to ? k + 1 : from]]];
        if (a !== b) visit(a, b);
      }
    }
  };
  // An edge between two faces is met once from each end, one at a border from one end alone; both ways are laid each time, and doubles do no harm.
  eachSide((a, b) => {
    starts[a + 1]++;
    starts[b + 1]++;
  });
  for (let p = 0; p < count; p++) starts[p + 1] += starts[p];
  const at = starts.slice();
  const links = new Uint32Array(starts[count]);
  const [lengths, costs] = [new Float64Array(links.length), new Float64Array(links.length)];
  const { positions: p } = mesh;
  eachSide((a, b) => {
    const [v, w] = [vertexOf[a], vertexOf[b]];
    const [x, y, z] = [p[v * 3] - p[w * 3], p[v * 3 + 1] - p[w * 3 + 1], p[v * 3 + 2] - p[w * 3 + 2]];
    const length = Math.sqrt(x * x + y * y + z * z);
    const cost = length * (1 + (fieldAt(harder, v) + fieldAt(harder, w)) / 2);
    for (const [from, to] of [[a, b], [b, a]] as const) {
      links[at[from]] = to;
      lengths[at[from]] = length;
      costs[at[from]++] = cost;
    }
  }); // prettier-ignore
  return { count, starts, links, lengths, costs, vertexOf, pointOf };
}

/** Cheapest ways from starts to all points: what came before each (itself for starts, −1 where none leads), metres, and the points in the order in which they are reached. */
export interface Ways {
  readonly before: Int32Array;
  readonly metres: Float64Array;
  readonly order: Uint32Array;
}

/** Dijkstra's way (1959), from all starts at once, with a heap. Of ways that cost the same the one found first stays. */
export function cheapestWays({ count, starts, links, lengths, costs }: EdgeGraph, from: Iterable<number>, work: Work): Ways {
  const before = new Int32Array(count).fill(-1);
  const [metres, cost] = [new Float64Array(count), new Float64Array(count).fill(Infinity)];
  const done = new Uint8Array(count);
  const order = new Uint32Array(count);
  const heap = new Heap();
  for (const start of from) {
    if (cost[start] === 0) continue;
    cost[start] = 0;
    before[start] = start;
    heap.push(start, 0);
  }
  let reached = 0;
  while (heap.size) {
    const here = heap.pop();
    if (done[here]) continue;
    done[here] = 1;
    order[reached++] = here;
    tick(work, reached, count);
    for (let k = starts[here]; k < starts[here + 1]; k++) {
      const next = links[k];
      const sum = cost[here] + costs[k];
      if (!(sum < cost[next])) continue;
      cost[next] = sum;
      metres[next] = metres[here] + lengths[k];
      before[next] = here;
      heap.push(next, sum);
    }
  }
  return { before, metres, order: order.subarray(0, reached) };
}

/** The least first: a binary heap of items by cost. */
class Heap {
  size = 0;
  private items = new Uint32Array(1024);
  private keys = new Float64Array(1024);

  push(item: number, key: number): void {
    if (this.size === this.items.length) this.grow();
    let { items, keys, size: i } = this; // eslint-disable-line prefer-const
    this.size++;
    while (i > 0) {
      const up = (i - 1) >> 1;
      if (keys[up] <= key) break;
      items[i] = items[up];
      keys[i] = keys[up];
      i = up;
    }
    items[i] = item;
    keys[i] = key;
  }

  pop(): number {
    const { items, keys } = this;
    const first = items[0];
    const size = --this.size;
    const [item, key] = [items[size], keys[size]];
    let i = 0;
    for (let down = 1; down < size; down = 2 * i + 1) {
      if (down + 1 < size && keys[down + 1] < keys[down]) down++;
      if (!(keys[down] < key)) break;
      items[i] = items[down];
      keys[i] = keys[down];
      i = down;
    }
    items[i] = item;
    keys[i] = key;
    return first;
  }

  private grow(): void {
    const [items, keys] = [new Uint32Array(this.size * 2), new Float64Array(this.size * 2)];
    items.set(this.items);
    keys.set(this.keys);
    this.items = items;
    this.keys = keys;
  }
}

/** A curve of routes, as points of the graph. */
interface Run {
  readonly points: number[];
  /** Metres from the start of the route at its first point, for those that are not read off the tree. */
  readonly metres: ArrayLike<number>;
  readonly parent: number;
  readonly order: number;
  readonly start: number;
}

/**
 * Cheapest routes along the edges of a mesh from starts to ends (vertices). Points of the curves have `traffic` (how many routes share the way), `distance` (metres from the start),
 * `birth` (seconds) and frames with normals outwards; curves have `length` (metres of the route to their end), `share` (of the longest), `start` (which), `order` and `parent` (a curve's number,
 * −1: none); the whole has `longest`.
 */
export function routes(mesh: Mesh, starts: readonly number[], ends: readonly number[], options: RoutesOptions, work: Work): Routes {
  const graph = edgeGraph(mesh, options.harder, work);
  const points = (vertices: readonly number[]): number[] => [...new Set(vertices.map((v) => graph.pointOf[v]))];
  const [begins, targets] = [points(starts), points(ends)];
  const groups = options.from === 'each' ? begins.map((start) => [start]) : [begins];
  const runs: Run[] = [];
  const traffics: Float64Array[] = [];
  const found = new Set<number>();
  groups.forEach((group, g) => {
    work.progress(g / groups.length);
    const ways = cheapestWays(graph, group, work);
    const wanted = targets.filter((point) => ways.before[point] >= 0 && ways.before[point] !== point);
    targets.forEach((point) => ways.before[point] >= 0 && found.add(point));
    const traffic = trafficOf(ways, wanted, graph.count);
    const first = runs.length;
    const add = (run: Run): number => {
      traffics.push(traffic);
      return runs.push(run) - 1;
    };
    if (options.merge) mergedRuns(ways, traffic, group, first, begins, add, work);
    else for (const end of wanted) add(singleRun(ways, end, begins, work));
  });
  work.claim({ points: runs.reduce((sum, run) => sum + run.points.length, 0) });
  return { curves: asCurves(mesh, graph, runs, traffics, options, work), unreachable: targets.length - found.size };
}

/** How many of the wanted ends the way through each point leads to. */
function trafficOf({ before, order }: Ways, wanted: readonly number[], count: number): Float64Array {
  const traffic = new Float64Array(count);
  for (const end of wanted) traffic[end]++;
  for (let i = order.length - 1; i >= 0; i--) if (before[order[i]] !== order[i]) traffic[before[order[i]]] += traffic[order[i]];
  return traffic;
}

function singleRun({ before, metres }: Ways, end: number, begins: readonly number[], work: Work): Run {
  const points = [end];
  for (let at = end; before[at] !== at; at = before[at]) points.push(before[at]);
  points.reverse();
  work.claim({ points: points.length });
  return { points, metres, parent: -1, order: 0, start: begins.indexOf(points[0]) };
}

/** The tree of ways with traffic as curves, each way once: where it forks the busier goes on, and the others begin there. */
function mergedRuns(
  { before, metres, order }: Ways,
  traffic: Float64Array,
  group: readonly number[],
  first: number,
  begins: readonly number[],
  add: (run: Run) => number,
  work: Work,
): void {
  const children = new Map<number, number[]>();
  for (const point of order) {
    if (!traffic[point] || before[point] === point) continue;
    const list = children.get(before[point]);
    if (list) list.push(point);
    else children.set(before[point], [point]);
  }
  // The busiest first; of equals that which was reached first.
  for (const list of children.values()) list.sort((a, b) => traffic[b] - traffic[a] || metres[b] - metres[a] || a - b);
  const waiting: { from: number; to: number; parent: number; order: number; start: number }[] = [];
  for (const start of group) for (const to of children.get(start) ?? []) waiting.push({ from: start, to, parent: -1, order: 0, start: begins.indexOf(start) });
  let made = 0;
  for (let w = 0; w < waiting.length; w++) {
    tick(work, w, waiting.length);
    const { from, to, parent, order: rank, start } = waiting[w];
    const points = [from];
    const number = first + made++;
    for (let at: number | undefined = to; at !== undefined;) {
      points.push(at);
      const [onwards, ...others]: number[] = children.get(at) ?? [];
      for (const other of others) waiting.push({ from: at, to: other, parent: number, order: rank + 1, start });
      at = onwards;
    }
    add({ points, metres, parent, order: rank, start });
  }
}

function asCurves(mesh: Mesh, graph: EdgeGraph, runs: readonly Run[], traffics: readonly Float64Array[], { pace }: RoutesOptions, work: Work): Curves {
  const starts = new Uint32Array(runs.length + 1);
  runs.forEach(({ points }, c) => (starts[c + 1] = starts[c] + points.length));
  const count = starts[runs.length];
  const [positions, normal] = [work.memory.float32(count * 3), work.memory.float32(count * 3)];
  const [traffic, distance, birth] = [0, 1, 2].map(() => work.memory.float32(count));
  const normals = (mesh.attributes.get('normal') ?? smoothNormals(mesh, work).attributes.get('normal')!).data;
  const length = new Float32Array(runs.length);
  runs.forEach(({ points, metres }, c) => {
    points.forEach((point, i) => {
      const at = starts[c] + i;
      const v = graph.vertexOf[point];
      for (let k = 0; k < 3; k++) {
        positions[at * 3 + k] = mesh.positions[v * 3 + k];
        normal[at * 3 + k] = normals[v * 3 + k];
      }
      // A side way has at its first point what goes along it, not what passes by.
      traffic[at] = traffics[c][i === 0 && points.length > 1 ? points[1] : point];
      distance[at] = metres[point];
      birth[at] = metres[point] / pace;
    });
    length[c] = metres[points.at(-1)!];
  });
  const longest = length.reduce((most, value) => Math.max(most, value), 0);
  const ofPoints = (data: Float32Array, size = 1): Attribute => ({ carrier: 'point', size, data });
  const ofCurves = (data: Float32Array): Attribute => ({ carrier: 'curve', size: 1, data });
  const attributes = new Map<string, Attribute>([
    ['traffic', ofPoints(traffic)],
    ['distance', ofPoints(distance)],
    ['birth', ofPoints(birth)],
    ['length', ofCurves(length)],
    ['share', ofCurves(length.map((value) => (longest > 0 ? value / longest : 0)))],
    ['start', ofCurves(Float32Array.from(runs, (run) => run.start))],
    ['order', ofCurves(Float32Array.from(runs, (run) => run.order))],
    ['parent', ofCurves(Float32Array.from(runs, (run) => run.parent))],
    ['longest', { carrier: 'whole', size: 1, data: Float32Array.of(longest) }],
  ]);
  return framedOutwards(makeCurves({ positions, starts, attributes }), normal);
}
