import { curveCount, type Curves } from '../../geometry/curves.js';
import { chord, curveLengths, stationsOf } from '../../curves/evaluate/arcLength.js';
import { PointGrid } from '../../space/grid.js';
import { nearestOfSegments } from '../../space/segments.js';
import type { Field } from '../../values/field.js';
import type { SkinIssue } from './tubePlan.js';

/** Paths of more points than this are not looked at: the check would take longer than the skin. */
export const mostPointsForSelfCross = 100_000;

/** Up to so many pieces each is compared with every other. */
const few = 24;

/** Places told for one curve at most. */
const mostPlaces = 50;

/** Whether a place of a curve, by metres along it, is part of a joint. */
type Joined = (place: { readonly curve: number; readonly at: number }) => boolean;

/**
 * Places where two parts of one path come nearer than twice the radius: their skins run through each other. Only parts farther along than half a turn
 * of the tightest bend a tube of that radius can make are compared. Only the first place of each stretch is told. `path`: what places are told along,
 * where the sections stand beside it. `joined`: places at which two parts are one surface.
 */
export function findSelfCrossings(curves: Curves, radius: Field, issues: SkinIssue[], path: Curves = curves, joined: Joined = () => false): void {
  if (curves.positions.length / 3 > mostPointsForSelfCross) return;
  const lengths = curveLengths(curves);
  const looked = new Crossings(curves, radius, stationsOf(path), issues, joined);
  for (let c = 0; c < curveCount(curves); c++) {
    const from = curves.starts[c];
    const count = curves.starts[c + 1] - from;
    if (count < 4) continue;
    const greatest = looked.greatest(from, count);
    if (greatest > 0 && lengths[c] > Math.PI * greatest) looked.at(c, greatest, lengths[c]);
  }
}

/** The crossings of curves with themselves, one curve after another. What is asked of each pair of pieces is one function for all of them, since there are very many. */
class Crossings {
  private readonly stations: Float64Array;
  /** The curve that is looked at: its number, its first point, how many it has, its length (0: it is open), and its longest piece. */
  private curve = 0;
  private from = 0;
  private count = 0;
  private around = 0;
  private longest = 0;
  /** The piece that others are compared with. */
  private piece = 0;

  constructor(
    private readonly curves: Curves,
    private readonly radius: Field,
    private readonly told: Float64Array,
    private readonly issues: SkinIssue[],
    private readonly joined: Joined,
  ) {
    this.stations = stationsOf(curves);
  }

  /** The greatest radius of some points. */
  greatest(from: number, count: number): number {
    const { values, constant } = this.radius;
    if (!values) return constant;
    let greatest = 0;
    for (let i = from; i < from + count; i++) if (values[i] > greatest) greatest = values[i];
    return greatest;
  }

  at(c: number, greatest: number, length: number): void {
    const { positions: p, starts, closed } = this.curves;
    this.curve = c;
    const from = (this.from = starts[c]);
    const count = (this.count = starts[c + 1] - from);
    this.around = closed[c] ? length : 0;
    const pieces = closed[c] ? count : count - 1;
    let longest = 0;
    for (let i = 0; i < pieces; i++) longest = Math.max(longest, chord(p, from + i, from + ((i + 1) % count)));
    this.longest = longest;
    // Pieces nearer than two radii have middles within this of each other. Cells some times as large are few to look into; a few pieces are all in one.
    const reach = pieces > few ? longest + 2 * greatest : 0;
    const grid = new PointGrid(pieces > few ? 3 * reach : Infinity, Math.max(1, pieces));
    let told = -Infinity;
    let left = mostPlaces;
    for (let i = 0; i < pieces && left > 0; i++) {
      const a = (from + i) * 3;
      const b = (from + ((i + 1) % count)) * 3;
      const x = (p[a] + p[b]) / 2 - p[from * 3];
      const y = (p[a + 1] + p[b + 1]) / 2 - p[from * 3 + 1];
      const z = (p[a + 2] + p[b + 2]) / 2 - p[from * 3 + 2];
      this.piece = i;
      // A stretch is told once.
      if (this.stations[from + i] - told > 4 * greatest + longest && grid.near(x, y, z, reach, this.meets)) {
        told = this.stations[from + i];
        left--;
        this.issues.push({ code: 'self-cross', curve: c, at: this.told[from + i], reason: 'near-itself' });
      }
      grid.add(x, y, z);
    }
  }

  /** Whether the piece at work comes too near to piece j. */
  private readonly meets = (j: number): boolean => {
    const { from, count, stations, longest, around, piece: i } = this;
    const { values, constant } = this.radius;
    const reach = values ? values[from + i] + values[from + j] : 2 * constant;
    const apart = Math.abs(stations[from + i] - stations[from + j]);
    const way = (around > 0 ? Math.min(apart, around - apart) : apart) - longest;
    if (way <= (Math.PI / 2) * reach * 1.05) return false;
    const p = this.curves.positions;
    const a = (from + i) * 3;
    const b = (from + j) * 3;
    // Too far from each other at a glance: each piece ends within the longest from where it begins.
    const far = reach + 2 * longest;
    const x = p[a] - p[b];
    const y = p[a + 1] - p[b + 1];
    const z = p[a + 2] - p[b + 2];
    if (x * x + y * y + z * z > far * far) return false;
    const after = (from + ((i + 1) % count)) * 3;
    const { s, distance } = nearestOfSegments(p, a, after, b, (from + ((j + 1) % count)) * 3);
    if (!(distance < reach * (1 - 1e-3))) return false;
    return !this.joined({ curve: this.curve, at: stations[from + i] + s * chord(p, from + i, after / 3) });
  };
}
