import { mixedRows, type Attribute } from '../../geometry/attributes.js';
import { curveCount, curveKinds, makeCurves, type Curves } from '../../geometry/curves.js';
import { unbounded, type Work } from '../../base/work.js';
import { carryFrames } from '../evaluate/carryFrames.js';
import { fieldAt, type Field } from '../../values/field.js';

export interface RoundCornersOptions {
  /** Metres, a value per point, 0 or more. */
  radius: Field;
  /** Points on each arc, both tangent points included, 2 or more. */
  points: number;
  /** Rounding never takes more than half of a segment; else neighbouring corners share a segment as far as it goes. */
  limit: boolean;
  /** New points have the frames of the path (see `carryFrames`). Default: false, frames are dropped. */
  keepFrames?: boolean;
}

/** One corner to round: how far from it the arc begins and ends, metres along both legs. */
interface Corner {
  readonly cut: number;
  /** Radians by which the path turns. */
  readonly turn: number;
}

/**
 * Rounds the corners of straight curves by arcs that touch both legs (tangent length r·tan(θ/2), common practice). Where a leg is too short the
 * radius is made smaller. Rounded curves come out as `bezier` with exact tangents, their straight pieces being straight spans; curves without
 * a corner to round, smooth curves and points that turn straight back stay as they are. Point values of arcs are those of the length of the
 * path that an arc stands for: between the corner and its neighbours.
 * @throws RangeError naming the point whose radius is negative.
 */
export function roundCorners(curves: Curves, options: RoundCornersOptions, work: Work = unbounded): Curves {
  const out = new RoundedCurves(curves);
  for (let c = 0; c < curveCount(curves); c++) {
    const corners = curveKinds[curves.kind[c]] === 'straight' ? cornersToRound(curves, c, options) : [];
    if (corners.some(({ cut }) => cut > 0)) out.round(c, corners, options.points);
    else out.keep(c);
    work.claim({ points: out.count });
  }
  return out.finish(options.keepFrames === true);
}

const legOf = (p: Float32Array, a: number, b: number): [number, number, number, number] => {
  const x = p[b * 3] - p[a * 3];
  const y = p[b * 3 + 1] - p[a * 3 + 1];
  const z = p[b * 3 + 2] - p[a * 3 + 2];
  const length = Math.sqrt(x * x + y * y + z * z);
  return length > 0 ? [x / length, y / length, z / length, length] : [0, 0, 0, 0];
};

function cornersToRound(curves: Curves, c: number, { radius, limit }: RoundCornersOptions): Corner[] {
  const from = curves.starts[c];
  const count = curves.starts[c + 1] - from;
  const closed = curves.closed[c] === 1 && count > 2;
  const p = curves.positions;
  const legs = Array.from({ length: count }, (_, i) => legOf(p, from + i, from + ((i + 1) % count)));
  const turns = legs.map((after, i) => {
    if (!closed && (i === 0 || i === count - 1)) return 0;
    const before = legs[(i + count - 1) % count];
    if (!before[3] || !after[3]) return 0;
    const sine = Math.hypot(
      before[1] * after[2] - before[2] * after[1],
      before[2] * after[0] - before[0] * after[2],
      before[0] * after[1] - before[1] * after[0],
    );
    return Math.atan2(sine, before[0] * after[0] + before[1] * after[1] + before[2] * after[2]);
  });
  const wanted = turns.map((turn, i) => {
    const r = fieldAt(radius, from + i);
    if (!(r >= 0) || !Number.isFinite(r)) throw new RangeError(`The radius at point ${i + 1} of curve ${c + 1} is ${r} m; it must be 0 or more.`);
    return turn > 1e-9 && turn < Math.PI - 1e-6 ? r * Math.tan(turn / 2) : 0;
  });
  return wanted.map((cut, i) => {
    if (!cut) return { cut: 0, turn: turns[i] };
    const allowed = [(i + count - 1) % count, i].map((leg) => {
      const length = legs[leg][3];
      if (limit) return length / 2;
      const other = leg === i ? wanted[(i + 1) % count] : wanted[leg];
      return cut + other > length ? (length * cut) / (cut + other) : cut;
    });
    return { cut: Math.min(cut, ...allowed), turn: turns[i] };
  });
}

/** Collects the new points with their directions and handles. */
class RoundedCurves {
  private readonly positions: number[] = [];
  private readonly tangent: number[] = [];
  private readonly handleIn: number[] = [];
  private readonly handleOut: number[] = [];
  /** Between which points of the given curves each new one lies, and at which share of the way. */
  private readonly a: number[] = [];
  private readonly b: number[] = [];
  private readonly share: number[] = [];
  private readonly starts = [0];
  private readonly closed: number[] = [];
  private readonly kind: number[] = [];

  constructor(private readonly given: Curves) {}

  get count(): number {
    return this.a.length;
  }

  private end(closed: boolean, kind: number): void {
    this.starts.push(this.count);
    this.closed.push(closed ? 1 : 0);
    this.kind.push(kind);
  }

  keep(c: number): void {
    const { given } = this;
    for (let i = given.starts[c]; i < given.starts[c + 1]; i++) {
      for (const [name, list] of [
        ['tangent', this.tangent],
        ['handleIn', this.handleIn],
        ['handleOut', this.handleOut],
      ] as const) {
        // prettier-ignore
        const data = given.kind[c] ? given.attributes.get(name)?.data : undefined;
        for (let k = 0; k < 3; k++) list.push(data ? data[i * 3 + k] : 0);
      }
      for (let k = 0; k < 3; k++) this.positions.push(given.positions[i * 3 + k]);
      this.lies(i, i, 0);
    }
    this.end(given.closed[c] === 1, given.kind[c]);
  }

  /** Whether point `at` lies at a place, to a millionth of a radius or to where 32-bit positions cannot tell them apart. */
  private isAt(at: number, place: readonly number[], radius: number): boolean {
    const grain = 2 ** -22 * Math.max(...place.map(Math.abs));
    return Math.hypot(...place.map((value, k) => value - this.positions[at * 3 + k])) <= Math.max(1e-6 * radius, grain);
  }

  /** Notes where the next point lies. */
  private lies(a: number, b: number, share: number): void {
    this.a.push(a);
    this.b.push(b);
    this.share.push(share);
  }

  private push(place: readonly number[], direction: readonly number[]): void {
    this.positions.push(...place);
    this.tangent.push(...direction);
    this.handleIn.push(0, 0, 0);
    this.handleOut.push(0, 0, 0);
  }

  round(c: number, corners: readonly Corner[], points: number): void {
    const p = this.given.positions;
    const from = this.given.starts[c];
    const count = this.given.starts[c + 1] - from;
    const closed = this.given.closed[c] === 1 && count > 2;
    const first = this.count;
    const arcs: { at: number; handle: number }[] = [];
    let lastRadius = 0;
    for (let i = 0; i < count; i++) {
      const { cut, turn } = corners[i];
      const before = legOf(p, from + (i + count - 1) % count, from + i); // prettier-ignore
      const after = legOf(p, from + i, from + ((i + 1) % count));
      const [into, outOf] = closed ? [before, after] : [i === 0 ? after : before, i === count - 1 ? before : after];
      const corner = [0, 1, 2].map((k) => p[(from + i) * 3 + k]);
      // An arc that reaches up to here has put a point here already.
      if (!cut && lastRadius > 0 && this.isAt(this.count - 1, corner, lastRadius)) {
        this.positions.splice(-3, 3, ...corner);
        for (const [list, value] of [[this.a, from + i], [this.b, from + i], [this.share, 0]] as const) list[this.count - 1] = value; // prettier-ignore
        lastRadius = 0;
        continue;
      }
      if (!cut) {
        lastRadius = 0;
        // No rounding: the bisector is as good a direction as any.
        const sum = [0, 1, 2].map((k) => into[k] + outOf[k]);
        const size = Math.hypot(...sum);
        this.lies(from + i, from + i, 0);
        this.push(corner, size > 1e-6 ? sum.map((value) => value / size) : into[3] ? into.slice(0, 3) : [1, 0, 0]);
        continue;
      }
      const r = cut / Math.tan(turn / 2);
      lastRadius = r;
      // From the first tangent point: along the leg, and square to it toward the centre.
      const across = [0, 1, 2].map((k) => (outOf[k] - Math.cos(turn) * into[k]) / Math.sin(turn));
      const step = turn / (points - 1);
      const handle = (4 / 3) * Math.tan(step / 4) * r;
      for (let j = 0; j < points; j++) {
        const [cosine, sine] = [Math.cos(j * step), Math.sin(j * step)];
        const place = corner.map((value, k) => value - cut * into[k] + r * (sine * into[k] + (1 - cosine) * across[k]));
        const direction = [0, 1, 2].map((k) => cosine * into[k] + sine * across[k]);
        if (j > 0) arcs.push({ at: this.count - 1, handle });
        // Where arcs meet, the end of one is the start of the next.
        const meets =
          j === 0 ? this.count > first && this.isAt(this.count - 1, place, r) : closed && i === count - 1 && j === points - 1 && this.isAt(first, place, r);
        if (meets) continue;
        // The arc stands for the path from `cut` before the corner to `cut` behind it.
        const past = cut * ((2 * j) / (points - 1) - 1);
        if (past < 0) this.lies(from + ((i + count - 1) % count), from + i, 1 + past / before[3]);
        else this.lies(from + i, from + ((i + 1) % count), past / after[3]);
        this.push(place, direction);
      }
    }
    this.handles(first, closed, arcs);
    this.end(closed, curveKinds.indexOf('bezier'));
  }

  /** Handles of arcs along their tangents, of straight pieces at a third of the way. */
  private handles(first: number, closed: boolean, arcs: readonly { at: number; handle: number }[]): void {
    const last = this.count - 1;
    const bent = new Map(arcs.map(({ at, handle }) => [at, handle]));
    for (let i = first; i <= (closed ? last : last - 1); i++) {
      const a = i * 3;
      const b = (i < last ? i + 1 : first) * 3;
      const handle = bent.get(i);
      for (let k = 0; k < 3; k++) {
        this.handleOut[a + k] = handle === undefined ? (this.positions[b + k] - this.positions[a + k]) / 3 : this.tangent[a + k] * handle;
        this.handleIn[b + k] = handle === undefined ? (this.positions[a + k] - this.positions[b + k]) / 3 : -this.tangent[b + k] * handle;
      }
    }
  }

  finish(keepFrames: boolean): Curves {
    const { given, a, b, share } = this;
    const attributes = new Map<string, Attribute>();
    for (const [name, attribute] of given.attributes) {
      if (attribute.carrier !== 'point') attributes.set(name, attribute);
      else if (!['tangent', 'normal', 'handleIn', 'handleOut'].includes(name)) {
        attributes.set(name, { ...attribute, data: mixedRows(attribute, { a, b, share }) });
      }
    }
    if (this.kind.some((kind) => kind !== 0))
      for (const [name, list] of [
        ['tangent', this.tangent],
        ['handleIn', this.handleIn],
        ['handleOut', this.handleOut],
      ] as const)
        // prettier-ignore
        attributes.set(name, { carrier: 'point', size: 3, data: Float32Array.from(list) });
    const made = makeCurves({
      positions: Float32Array.from(this.positions),
      starts: Uint32Array.from(this.starts),
      closed: Uint8Array.from(this.closed),
      kind: Uint8Array.from(this.kind),
      attributes,
    });
    return keepFrames ? carryFrames(given, made, { a, b, share }) : made;
  }
}
