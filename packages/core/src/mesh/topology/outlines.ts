import { tick, unbounded, type Work } from '../../base/work.js';
import type { PlaneCells } from '../../space/planeCells.js';
import { arrange, cellsOf, insideOutline, pieceKey, type Arrangement } from './arrangement.js';

/** An outline with the holes directly inside it, as indices. */
export interface NestedOutline {
  readonly outer: number;
  readonly holes: readonly number[];
}

/** A region of the plane: round it, counter-clockwise, and round each of its holes, clockwise; vertices of an arrangement. */
export interface Region {
  readonly outer: readonly number[];
  readonly holes: readonly (readonly number[])[];
}

/** What outlines enclose: outlines that stand by themselves with their holes, and regions of those that cross or touch. */
export interface Enclosed {
  readonly arrangement: Arrangement;
  readonly nested: readonly NestedOutline[];
  readonly regions: readonly Region[];
  /** Outlines that cross others or themselves, and those that lie on an earlier one. */
  readonly crossing: readonly number[];
  readonly coincident: readonly number[];
}

/** How one outline lies to another. Those that are apart may touch. */
type Relation = 'apart' | 'inside' | 'around' | 'crossing' | 'coincident';

/** Where the runs of `chain` between vertices of another outline lie: inside it, outside, or on it (neither). */
function sidesOf(
  arrangement: Arrangement,
  chain: readonly number[],
  other: readonly number[],
  pieces: ReadonlySet<number>,
  met: ReadonlySet<number>,
): { inside: boolean; outside: boolean } {
  const { places: p } = arrangement;
  const found = { inside: false, outside: false };
  const first = chain.findIndex((v) => met.has(v));
  let longest = -1;
  let middle = [0, 0];
  for (let k = 0; k < chain.length; k++) {
    const [a, b] = [chain[(first + k) % chain.length], chain[(first + k + 1) % chain.length]];
    const length = pieces.has(pieceKey(a, b)) ? -1 : Math.hypot(p[b * 2] - p[a * 2], p[b * 2 + 1] - p[a * 2 + 1]);
    if (length > longest) [longest, middle] = [length, [(p[a * 2] + p[b * 2]) / 2, (p[a * 2 + 1] + p[b * 2 + 1]) / 2]];
    if (!met.has(b)) continue;
    if (longest >= 0) found[insideOutline(arrangement, other, middle[0], middle[1]) ? 'inside' : 'outside'] = true;
    longest = -1;
  }
  return found;
}

class Outlines {
  readonly arrangement: Arrangement;
  readonly boxes: readonly (readonly number[])[];
  private readonly pieces: readonly ReadonlySet<number>[];
  private readonly vertices: readonly ReadonlySet<number>[];

  constructor(
    outlines: readonly ArrayLike<number>[],
    private readonly work: Work,
  ) {
    this.arrangement = arrange(outlines, work);
    const { chains, places: p } = this.arrangement;
    this.pieces = chains.map((chain) => new Set(chain.map((a, i) => pieceKey(a, chain[(i + 1) % chain.length]))));
    this.vertices = chains.map((chain) => new Set(chain));
    this.boxes = chains.map((chain) =>
      [0, 1].flatMap((k) => [chain.reduce((m, v) => Math.min(m, p[v * 2 + k]), Infinity), chain.reduce((m, v) => Math.max(m, p[v * 2 + k]), -Infinity)]),
    );
  }

  /** Whether an outline meets itself. */
  meetsItself = (a: number): boolean => this.vertices[a].size < this.arrangement.chains[a].length;

  touches = (a: number, b: number): boolean => this.met(a, b).size > 0;

  /** Pairs whose boxes meet, each once. */
  *pairs(): Generator<readonly [number, number]> {
    const order = this.boxes
      .map((_, i) => i)
      .filter((i) => this.arrangement.chains[i].length)
      .sort((a, b) => this.boxes[a][0] - this.boxes[b][0]);
    for (let n = 0; n < order.length; n++) {
      tick(this.work, n, order.length);
      for (let m = n + 1; m < order.length && this.boxes[order[m]][0] <= this.boxes[order[n]][1]; m++) {
        const [a, b] = [this.boxes[order[n]], this.boxes[order[m]]];
        if (a[2] <= b[3] && b[2] <= a[3]) yield [order[n], order[m]];
      }
    }
  }

  private met(a: number, b: number): Set<number> {
    const other = this.vertices[b];
    return new Set(this.arrangement.chains[a].filter((v) => other.has(v)));
  }

  /** How outline `a` lies to outline `b`. */
  relation(a: number, b: number): Relation {
    const { chains, places: p } = this.arrangement;
    const met = this.met(a, b);
    const contains = (outer: number, v: number): boolean => insideOutline(this.arrangement, chains[outer], p[v * 2], p[v * 2 + 1]);
    if (!met.size) return contains(b, chains[a][0]) ? 'inside' : contains(a, chains[b][0]) ? 'around' : 'apart';
    const ofA = sidesOf(this.arrangement, chains[a], chains[b], this.pieces[b], met);
    const ofB = sidesOf(this.arrangement, chains[b], chains[a], this.pieces[a], met);
    if ((ofA.inside && (ofA.outside || ofB.inside)) || (ofB.inside && ofB.outside)) return 'crossing';
    if (ofA.inside) return 'inside';
    if (ofB.inside) return 'around';
    return ofA.outside || ofB.outside ? 'apart' : 'coincident';
  }
}

/** Sets that grow together. */
class Groups {
  private readonly parent: number[];
  constructor(count: number) {
    this.parent = Array.from({ length: count }, (_, i) => i);
  }
  of(i: number): number {
    while (this.parent[i] !== i) i = this.parent[i] = this.parent[this.parent[i]];
    return i;
  }
  join(a: number, b: number): void {
    this.parent[this.of(b)] = this.of(a);
  }
}

/**
 * What outlines (pairs of plane coordinates, the last corner joined to the first) enclose: the places inside an odd number of them, in whichever order and
 * direction they come. Outlines that neither cross nor touch what they lie in stay whole; neighbours that share corners or pieces of edges are apart.
 */
export function enclosedBy(outlines: readonly ArrayLike<number>[], work: Work = unbounded): Enclosed {
  const all = new Outlines(outlines, work);
  const groups = new Groups(outlines.length);
  const around = outlines.map((): number[] => []);
  const mixed: number[] = [];
  const apart: (readonly [number, number])[] = [];
  const crossing = new Set<number>();
  const coincident = new Set<number>();
  all.arrangement.chains.forEach((_, a) => {
    if (!all.meetsItself(a)) return;
    mixed.push(a);
    crossing.add(a);
  });
  for (const [a, b] of all.pairs()) {
    const relation = all.relation(a, b);
    if (relation === 'apart') {
      if (all.touches(a, b)) apart.push([a, b]);
      continue;
    }
    groups.join(a, b);
    if (relation === 'inside') around[a].push(b);
    else if (relation === 'around') around[b].push(a);
    else if (relation === 'crossing') for (const each of [a, b]) crossing.add(each);
    else coincident.add(Math.max(a, b));
    if (relation === 'crossing' || relation === 'coincident' || all.touches(a, b)) mixed.push(a);
  }
  // Holes that touch each other are no simple outline.
  for (const [a, b] of apart) if (groups.of(a) === groups.of(b) && around[a].length % 2 && around[b].length % 2) mixed.push(a);
  const isMixed = new Set(mixed.map((a) => groups.of(a)));
  const plain = outlines.map((_, a) => all.arrangement.chains[a].length > 0 && !isMixed.has(groups.of(a)));
  const together = new Map<number, number[]>();
  outlines.forEach((_, a) => isMixed.has(groups.of(a)) && together.set(groups.of(a), [...(together.get(groups.of(a)) ?? []), a]));
  return {
    arrangement: all.arrangement,
    nested: nest(around, plain),
    regions: [...together.values()].flatMap((which) => oddRegions(all.arrangement, which, work)),
    crossing: [...crossing].sort((a, b) => a - b),
    coincident: [...coincident].sort((a, b) => a - b),
  };
}

/** Outlines inside an even number of others, each with those directly inside it. */
function nest(around: readonly (readonly number[])[], takes: readonly boolean[]): NestedOutline[] {
  const holes = new Map<number, number[]>();
  around.forEach((list, i) => takes[i] && list.length % 2 === 0 && holes.set(i, []));
  around.forEach((list, i) => {
    if (!takes[i] || list.length % 2 === 0) return;
    // The innermost of those around it is inside all the others.
    const parent = list.reduce((best, j) => (around[j].length > around[best].length ? j : best));
    holes.get(parent)?.push(i);
  });
  return [...holes].sort(([a], [b]) => a - b).map(([outer, own]) => ({ outer, holes: own }));
}

/** Sorts closed outlines by nesting: those inside an even number of others bound faces, those inside an odd number are holes. Outlines that cross are beside each other. */
export function nestOutlines(outlines: readonly ArrayLike<number>[], work: Work = unbounded): NestedOutline[] {
  const all = new Outlines(outlines, work);
  const around = outlines.map((): number[] => []);
  for (const [a, b] of all.pairs()) {
    const relation = all.relation(a, b);
    if (relation === 'inside') around[a].push(b);
    else if (relation === 'around') around[b].push(a);
    // Of two that lie on each other the later one is the hole.
    else if (relation === 'coincident') around[Math.max(a, b)].push(Math.min(a, b));
  }
  return nest(
    around,
    outlines.map(() => true),
  );
}

/**
 * The regions inside an odd number of some outlines. Pieces that lie on each other an even number of times bound nothing; of each of the others the inner side
 * is found, and loops are followed with it on their left.
 */
function oddRegions(arrangement: Arrangement, which: readonly number[], work: Work): Region[] {
  const { places: p, chains } = arrangement;
  const odd = new Map<number, readonly [number, number]>();
  for (const o of which)
    chains[o].forEach((a, i) => {
      const b = chains[o][(i + 1) % chains[o].length];
      const key = pieceKey(a, b);
      if (!odd.delete(key)) odd.set(key, [a, b]);
    });
  const pieces = [...odd.values()];
  const sides = new Sides(p, pieces);
  const turned = pieces.map((_, e) => {
    tick(work, e, pieces.length);
    return sides.innerLeft(e);
  });
  return regionsOf(p, loopsOf(p, turned));
}

/** Pieces, each with the inside on its left, as loops. One that comes back to a corner goes on there along the same inside. */
function loopsOf(p: readonly number[], pieces: readonly (readonly [number, number])[]): number[][] {
  const leaving = new Map<number, number[]>();
  pieces.forEach(([a], e) => {
    const list = leaving.get(a);
    if (list) list.push(e);
    else leaving.set(a, [e]);
  });
  const used = new Uint8Array(pieces.length);
  const loops: number[][] = [];
  pieces.forEach((_, first) => {
    if (used[first]) return;
    const loop: number[] = [];
    let e: number | undefined = first;
    do {
      used[e] = 1;
      const [a, b]: readonly [number, number] = pieces[e];
      loop.push(a);
      e = nextPiece(p, pieces, (leaving.get(b) ?? []).filter((each) => !used[each] || each === first), a, b); // prettier-ignore
    } while (e !== undefined && e !== first);
    loops.push(loop);
  });
  return loops;
}

/** On which side of each of some pieces the inside is: the number of pieces on one side tells. */
class Sides {
  private readonly cells: PlaneCells;
  /** The piece for which each was counted last, so that none counts twice. */
  private readonly counted: Int32Array;

  constructor(
    private readonly p: readonly number[],
    private readonly pieces: readonly (readonly [number, number])[],
  ) {
    const boxes = pieces.flatMap(([a, b]) =>
      [0, 1].map((k) => Math.min(p[a * 2 + k], p[b * 2 + k])).concat([0, 1].map((k) => Math.max(p[a * 2 + k], p[b * 2 + k]))),
    );
    this.cells = cellsOf(Float64Array.from(boxes));
    this.counted = new Int32Array(pieces.length).fill(-1);
  }

  /** The ends of a piece in the order that has the inside on the left. */
  innerLeft(piece: number): readonly [number, number] {
    const { p, pieces, counted } = this;
    const [a, b] = pieces[piece];
    const [dx, dy] = [p[b * 2] - p[a * 2], p[b * 2 + 1] - p[a * 2 + 1]];
    // A ray along the axis that the piece crosses more squarely, from its middle.
    const [along, across] = Math.abs(dy) > Math.abs(dx) ? [0, 1] : [1, 0];
    const [x, y] = [(p[a * 2 + along] + p[b * 2 + along]) / 2, (p[a * 2 + across] + p[b * 2 + across]) / 2];
    let beyond = 0;
    counted[piece] = piece;
    const count = (other: number): void => {
      if (counted[other] === piece) return;
      counted[other] = piece;
      const [c, d] = pieces[other];
      const [low, high] = p[c * 2 + across] < p[d * 2 + across] ? [c, d] : [d, c];
      const [y0, y1] = [p[low * 2 + across], p[high * 2 + across]];
      if (y0 > y || y >= y1) return;
      const [x0, x1] = [p[low * 2 + along], p[high * 2 + along]];
      if (x0 + ((x1 - x0) * (y - y0)) / (y1 - y0) > x) beyond++;
    };
    if (along === 0) this.cells.near(x, y, Infinity, y, count);
    else this.cells.near(y, x, y, Infinity, count);
    const insideBeyond = beyond % 2 === 1;
    // The ray runs to the right of a piece that goes up (along x), to the left of one that goes to the right (along y).
    const onRight = along === 0 ? dy > 0 : dx < 0;
    return insideBeyond === onRight ? [b, a] : [a, b];
  }
}

/** The piece to follow from `b`, come to from `a`, with the inside on the left: the first one clockwise from the way back. */
function nextPiece(p: readonly number[], pieces: readonly (readonly [number, number])[], ways: readonly number[], a: number, b: number): number | undefined {
  const angle = (v: number): number => Math.atan2(p[v * 2 + 1] - p[b * 2 + 1], p[v * 2] - p[b * 2]);
  const back = angle(a);
  const turned = ways.map((e) => {
    const turn = back - angle(pieces[e][1]);
    return turn > 1e-12 ? turn : turn + 2 * Math.PI;
  });
  return ways[turned.indexOf(Math.min(...turned))];
}

const loopArea = (p: readonly number[], loop: readonly number[]): number => {
  const [x, y] = [p[loop[0] * 2], p[loop[0] * 2 + 1]];
  return loop.reduce((sum, a, i) => {
    const b = loop[(i + 1) % loop.length];
    return sum + (p[a * 2] - x) * (p[b * 2 + 1] - y) - (p[b * 2] - x) * (p[a * 2 + 1] - y);
  }, 0);
};

/** Loops with the inside on their left: those that go round counter-clockwise are regions, the others holes of the smallest that is around them. */
function regionsOf(p: readonly number[], loops: readonly number[][]): Region[] {
  const arrangement: Arrangement = { places: p, corners: [], chains: [] };
  const areas = loops.map((loop) => loopArea(p, loop));
  const regions = loops.flatMap((outer, i) => (areas[i] > 0 ? [{ outer, area: areas[i], holes: [] as number[][] }] : []));
  regions.sort((a, b) => a.area - b.area);
  loops.forEach((hole, i) => {
    if (areas[i] >= 0) return;
    const [a, b] = hole;
    const [x, y] = [(p[a * 2] + p[b * 2]) / 2, (p[a * 2 + 1] + p[b * 2 + 1]) / 2];
    regions.find(({ outer, area }) => area > -areas[i] * (1 - 1e-9) && insideOutline(arrangement, outer, x, y))?.holes.push(hole);
  });
  return regions;
}
