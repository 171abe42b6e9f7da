import { orient2d } from 'robust-predicates';
import { tick, unbounded, type Work } from '../../base/work.js';
import { PlaneCells } from '../../space/planeCells.js';

/** Places nearer than this share of the whole extent are one: what 32-bit coordinates leave of equal places. */
const sameShare = 1e-6;

/** Closed outlines of a plane, cut wherever one meets another or itself, so that pieces of outlines share their ends or nothing. */
export interface Arrangement {
  /** Plane coordinates of vertices, pairs. */
  readonly places: readonly number[];
  /** The corner of an outline that each vertex is: outline and corner; −1 and −1 where outlines cross. */
  readonly corners: readonly (readonly [outline: number, corner: number])[];
  /** Vertices round each outline. */
  readonly chains: readonly (readonly number[])[];
}

/** Crossings that outlines may have, and pairs of pieces that may lie so near that they have to be looked at: those that wind over themselves have the square of their pieces. */
const mostCrossings = 50_000;
const mostPairs = 8_000_000;

/** A number for the piece between two vertices, whichever way it is passed. */
export const pieceKey = (a: number, b: number): number => Math.min(a, b) * 2 ** 26 + Math.max(a, b);

/** Vertices by their places: one that is nearer than `same` to another is that one. */
class Vertices {
  readonly places: number[] = [];
  readonly corners: (readonly [number, number])[] = [];
  private readonly cells = new Map<string, number[]>();

  constructor(private readonly same: number) {}

  at(x: number, y: number, corner: readonly [number, number]): number {
    const [i, j] = [Math.floor(x / this.same), Math.floor(y / this.same)];
    for (let di = -1; di <= 1; di++)
      for (let dj = -1; dj <= 1; dj++)
        for (const v of this.cells.get(`${i + di} ${j + dj}`) ?? []) if (Math.hypot(this.places[v * 2] - x, this.places[v * 2 + 1] - y) <= this.same) return v;
    const made = this.corners.push(corner) - 1;
    this.places.push(x, y);
    const key = `${i} ${j}`;
    const cell = this.cells.get(key);
    if (cell) cell.push(made);
    else this.cells.set(key, [made]);
    return made;
  }
}

/**
 * Cuts outlines (pairs of coordinates, the last corner joined to the first) where they meet. Sides of crossings are decided exactly (Shewchuk 1997).
 * @throws RangeError when they cross more often than can be worked with.
 */
export function arrange(outlines: readonly ArrayLike<number>[], work: Work = unbounded): Arrangement {
  const [low, high] = [[Infinity, Infinity], [-Infinity, -Infinity]]; // prettier-ignore
  for (const flat of outlines)
    for (let i = 0; i < flat.length; i++) {
      low[i % 2] = Math.min(low[i % 2], flat[i]);
      high[i % 2] = Math.max(high[i % 2], flat[i]);
    }
  const same = sameShare * Math.max(high[0] - low[0], high[1] - low[1], Number.MIN_VALUE);
  const vertices = new Vertices(same);
  const rounds = outlines.map((flat, o) =>
    withoutRepeats(Array.from({ length: flat.length / 2 }, (_, i) => vertices.at(flat[i * 2], flat[i * 2 + 1], [o, i]))),
  );
  const pieces = rounds.flatMap((round) => (round.length > 1 ? round.map((a, i) => [a, round[(i + 1) % round.length]] as const) : []));
  const cuts = cutsOf(pieces, vertices, same, work);
  let at = 0;
  const chains = rounds.map((round) => {
    if (round.length < 2) return [];
    return withoutRepeats(round.flatMap((a) => [a, ...cuts[at++].sort((p, q) => p[0] - q[0]).map(([, vertex]) => vertex)]));
  });
  return { places: vertices.places, corners: vertices.corners, chains };
}

const withoutRepeats = (round: readonly number[]): number[] => round.filter((v, i) => v !== round[(i + round.length - 1) % round.length]);

/** Boxes in cells about as wide as they are: smaller cells would have each box many times. */
export function cellsOf(boxes: Float64Array): PlaneCells {
  const count = boxes.length / 4;
  const [low, high] = [[Infinity, Infinity], [-Infinity, -Infinity]]; // prettier-ignore
  let width = 0;
  for (let o = 0; o < boxes.length; o += 4)
    for (const k of [0, 1]) {
      low[k] = Math.min(low[k], boxes[o + k]);
      high[k] = Math.max(high[k], boxes[o + 2 + k]);
      width += (boxes[o + 2 + k] - boxes[o + k]) / (2 * count);
    }
  return new PlaneCells(boxes, Math.min(Math.sqrt(count), Math.max(high[0] - low[0], high[1] - low[1]) / Math.max(width, Number.MIN_VALUE)));
}

/** For each piece the vertices at which it is cut, with their share of the way. */
function cutsOf(pieces: readonly (readonly [number, number])[], vertices: Vertices, same: number, work: Work): [share: number, vertex: number][][] {
  const { places: p } = vertices;
  const boxes = new Float64Array(pieces.length * 4);
  pieces.forEach(([a, b], i) => {
    for (const k of [0, 1]) {
      boxes[i * 4 + k] = Math.min(p[a * 2 + k], p[b * 2 + k]) - same;
      boxes[i * 4 + 2 + k] = Math.max(p[a * 2 + k], p[b * 2 + k]) + same;
    }
  });
  const cells = cellsOf(boxes);
  /** The question for which each piece was looked at last, so that none is twice. */
  const looked = new Int32Array(pieces.length).fill(-1);
  const cuts = pieces.map((): [number, number][] => []);
  /** Share of a piece at which a vertex lies on it; null where it does not, or is one of its ends. */
  const onPiece = (i: number, v: number): number | null => {
    const [a, b] = pieces[i];
    if (v === a || v === b) return null;
    const [dx, dy] = [p[b * 2] - p[a * 2], p[b * 2 + 1] - p[a * 2 + 1]];
    const t = ((p[v * 2] - p[a * 2]) * dx + (p[v * 2 + 1] - p[a * 2 + 1]) * dy) / (dx * dx + dy * dy);
    return t > 0 && t < 1 && Math.hypot(p[v * 2] - p[a * 2] - t * dx, p[v * 2 + 1] - p[a * 2 + 1] - t * dy) <= same ? t : null;
  };
  let pairs = 0;
  const lookAtOneMore = (): void => {
    if (++pairs > mostPairs) throw new RangeError('The outlines wind over each other or themselves too often to tell what they enclose.');
  };
  const corners = vertices.corners.length;
  for (let v = 0; v < corners; v++) {
    tick(work, v, corners * 2);
    cells.near(p[v * 2], p[v * 2 + 1], p[v * 2], p[v * 2 + 1], (i) => {
      lookAtOneMore();
      const t = looked[i] === v ? null : onPiece(i, v);
      looked[i] = v;
      if (t !== null) cuts[i].push([t, v]);
    });
  }
  const touched = cuts.map((list) => new Set(list.map(([, v]) => v)));
  let crossings = 0;
  const side = (a: number, b: number, c: number): number => orient2d(p[a * 2], p[a * 2 + 1], p[b * 2], p[b * 2 + 1], p[c * 2], p[c * 2 + 1]);
  for (let i = 0; i < pieces.length; i++) {
    const [a, b] = pieces[i];
    tick(work, pieces.length + i, pieces.length * 2);
    cells.near(boxes[i * 4], boxes[i * 4 + 1], boxes[i * 4 + 2], boxes[i * 4 + 3], (j) => {
      if (j <= i || looked[j] === corners + i) return;
      looked[j] = corners + i;
      lookAtOneMore();
      const [c, d] = pieces[j];
      if (a === c || a === d || b === c || b === d) return;
      if (touched[i].has(c) || touched[i].has(d) || touched[j].has(a) || touched[j].has(b)) return;
      const [sa, sb, sc, sd] = [side(c, d, a), side(c, d, b), side(a, b, c), side(a, b, d)];
      if (sa * sb >= 0 || sc * sd >= 0) return;
      const [t, u] = [sa / (sa - sb), sc / (sc - sd)];
      if (++crossings > mostCrossings)
        throw new RangeError(
          `The outlines cross each other or themselves more than ${mostCrossings.toLocaleString('en-GB')} times; draw them so that they do not.`,
        );
      const cross = vertices.at(p[a * 2] + t * (p[b * 2] - p[a * 2]), p[a * 2 + 1] + t * (p[b * 2 + 1] - p[a * 2 + 1]), [-1, -1]);
      if (cross !== a && cross !== b) cuts[i].push([t, cross]);
      if (cross !== c && cross !== d) cuts[j].push([u, cross]);
    });
  }
  return cuts;
}

/**
 * Whether (x, y) lies inside an outline that it does not lie on, by the number of pieces to its right (even-odd rule), decided exactly: `orient2d` is negative
 * for a turn to the left, since it takes y as downwards.
 */
export function insideOutline({ places: p }: Arrangement, chain: readonly number[], x: number, y: number): boolean {
  let inside = false;
  for (let i = 0, j = chain.length - 1; i < chain.length; j = i++) {
    const [a, b] = p[chain[j] * 2 + 1] < p[chain[i] * 2 + 1] ? [chain[j], chain[i]] : [chain[i], chain[j]];
    if (p[a * 2 + 1] <= y && y < p[b * 2 + 1] && orient2d(p[a * 2], p[a * 2 + 1], p[b * 2], p[b * 2 + 1], x, y) < 0) inside = !inside;
  }
  return inside;
}
