import { curveCount, makeCurves, type Curves } from '../../geometry/curves.js';
import { chord, curveLengths, stationsOf } from '../../curves/evaluate/arcLength.js';
import { framesOf, type Frames } from '../../curves/evaluate/frames.js';
import { runValues } from '../../curves/evaluate/places.js';
import { seamJump } from '../../curves/evaluate/seamJump.js';
import { twistBetween } from '../../curves/evaluate/transport.js';
import type { Attribute } from '../../geometry/attributes.js';
import { braidRadius, braidSection, ropeSection } from './ropeSection.js';

/** Middles of strands with exact tangents, and the radius of their tubes at each point, metres. */
export interface Strands {
  readonly curves: Curves;
  readonly radii: Float64Array;
}

export interface LayOptions {
  readonly strands: number;
  /** Metres per turn. */
  readonly layLength: number;
  readonly hand: 'right' | 'left';
  readonly core: boolean;
}

/** Diameters are grouped into this many sections at most, since each costs a search for touching strands. */
const sectionSteps = 64;

/** Sections by diameter, each worked out once; diameters in between are mixed from the two nearest of `sectionSteps` steps. */
function sectionsOf<S extends object>(diameters: ArrayLike<number>, make: (diameter: number) => S): (diameter: number) => S {
  let least = Infinity;
  let greatest = 0;
  for (let i = 0; i < diameters.length; i++) {
    least = Math.min(least, diameters[i]);
    greatest = Math.max(greatest, diameters[i]);
  }
  const known = new Map<number, S>();
  const sectionAt = (diameter: number): S => {
    let section = known.get(diameter);
    if (!section) known.set(diameter, (section = make(diameter)));
    return section;
  };
  if (greatest - least < 1e-9) return () => sectionAt(least);
  const step = (greatest - least) / sectionSteps;
  return (diameter) => {
    const at = (diameter - least) / step;
    const low = Math.min(sectionSteps - 1, Math.floor(at));
    const [a, b, f] = [sectionAt(least + low * step), sectionAt(least + (low + 1) * step), at - low];
    return Object.fromEntries(Object.entries(a).map(([key, value]) => [key, value + (b[key as keyof S] as number - value) * f])) as S; // prettier-ignore
  };
}

/** A strand at one point of its path: distance from it, angle from the normal toward the side, and the distance's change with the angle. */
interface Around {
  radius: number;
  angle: number;
  radiusSlope: number;
  /** 1: turns from the normal toward the side, −1: the other way. */
  hand: 1 | -1;
}

/**
 * `count` strands round every curve: for each strand all curves in turn, with the values of the curves. `at` gives a strand's place round the path for
 * the radians it has turned by lay; on a closed path `drift` is what it turns besides, so that it meets its beginning although the frames jump there.
 */
function strandsAround(
  fine: Curves,
  count: number,
  at: (strand: number, point: number, turn: number, drift: number, out: Around) => void,
  turnsOf: (length: number) => number,
): Curves {
  const points = fine.positions.length / 3;
  const curves = curveCount(fine);
  const frames = framesOf(fine);
  const stations = stationsOf(fine);
  const lengths = curveLengths(fine);
  const positions = new Float32Array(points * 3 * count);
  const tangents = new Float32Array(positions.length);
  const starts = new Uint32Array(curves * count + 1);
  const closed = new Uint8Array(curves * count);
  const out = new Float64Array(6);
  const around: Around = { radius: 0, angle: 0, radiusSlope: 0, hand: 1 };
  const twist = twistRates(fine, frames);
  const drifts = Float64Array.from(lengths, (length, c) => (fine.closed[c] && length > 0 ? driftOf(fine, c, frames) / length : 0));
  for (let k = 0; k < count; k++)
    for (let c = 0; c < curves; c++) {
      const which = k * curves + c;
      starts[which + 1] = starts[which] + fine.starts[c + 1] - fine.starts[c];
      closed[which] = fine.closed[c];
      const turns = turnsOf(lengths[c]);
      const rate = lengths[c] > 0 ? (2 * Math.PI * (fine.closed[c] ? Math.max(1, Math.round(turns)) : turns)) / lengths[c] : 0;
      for (let i = fine.starts[c]; i < fine.starts[c + 1]; i++) {
        at(k, i, rate * stations[i], drifts[c] * stations[i], around);
        helixAround(fine, frames, i, c, around, around.hand * rate, around.hand * rate + drifts[c] + twist[i], out);
        const to = (starts[which] + i - fine.starts[c]) * 3;
        for (let axis = 0; axis < 3; axis++) {
          positions[to + axis] = out[axis];
          tangents[to + axis] = out[3 + axis];
        }
      }
    }
  const attributes = new Map<string, Attribute>();
  for (const [name, attribute] of fine.attributes) {
    if (attribute.carrier === 'whole') attributes.set(name, attribute);
    else if (!(name in runValues)) attributes.set(name, { ...attribute, data: copiesOf(attribute.data, count) });
  }
  attributes.set('tangent', { carrier: 'point', size: 3, data: tangents });
  return makeCurves({ positions, starts, closed, attributes });
}

function copiesOf(data: Float32Array, count: number): Float32Array {
  const all = new Float32Array(data.length * count);
  for (let k = 0; k < count; k++) all.set(data, k * data.length);
  return all;
}

/** Radians a metre by which the frames turn about the path at each point, beyond the least rotation: the mean of the pieces on both sides. */
function twistRates({ positions: p, starts }: Curves, { tangent, normal }: Frames): Float64Array {
  const rates = new Float64Array(p.length / 3);
  for (let c = 0; c + 1 < starts.length; c++) {
    let before = 0;
    for (let i = starts[c]; i < starts[c + 1]; i++) {
      const last = i + 1 === starts[c + 1];
      const after = last ? before : twistBetween(p, tangent, normal, i, i + 1) / (chord(p, i, i + 1) || 1);
      rates[i] = i === starts[c] ? after : (before + after) / 2;
      before = after;
    }
  }
  return rates;
}

/** What a strand has to turn beyond whole turns on a closed curve: what the frames jump at the seam. */
function driftOf(fine: Curves, c: number, frames: Frames): number {
  const from = fine.starts[c];
  const count = fine.starts[c + 1] - from;
  return count < 3 ? 0 : seamJump(fine.positions, frames, (k) => from + ((k + count) % count), null).jump;
}

/** Radii for `count` copies of all points. */
const repeated = (diameters: ArrayLike<number>, count: number, radius: (diameter: number) => number): Float64Array =>
  Float64Array.from({ length: diameters.length * count }, (_, i) => radius(diameters[i % diameters.length]));

/** Strands laid round the curves (paced, with their diameters, metres), and a straight one in the middle where a core is wanted and there is room. */
export function layStrands(fine: Curves, diameters: ArrayLike<number>, { strands, layLength, hand, core }: LayOptions): Strands[] {
  const sections = sectionsOf(diameters, (diameter) => ropeSection(diameter / 2, strands, layLength));
  const sign = hand === 'right' ? 1 : -1;
  const curves = strandsAround(
    fine,
    strands,
    (k, i, turn, drift, out) => {
      out.radius = sections(diameters[i]).centreRadius;
      out.angle = (2 * Math.PI * k) / strands + sign * turn + drift;
      out.radiusSlope = 0;
      out.hand = sign;
    },
    (length) => length / layLength,
  );
  const laid: Strands[] = [{ curves, radii: repeated(diameters, strands, (diameter) => sections(diameter).strandRadius) }];
  if (!core || strands < 3) return laid;
  const middle = (diameter: number): number => Math.max(sections(diameter).coreRadius, sections(diameter).strandRadius * 0.05);
  return [...laid, { curves: fine, radii: repeated(diameters, 1, middle) }];
}

/** Strands of a round plait: the first half turns right, the others left, each over one and under one. */
export function plaitStrands(fine: Curves, diameters: ArrayLike<number>, { strands, layLength, hand }: Omit<LayOptions, 'core'>): Strands {
  const half = strands / 2;
  const sections = sectionsOf(diameters, (diameter) => braidSection(diameter / 2, strands, layLength));
  const curves = strandsAround(
    fine,
    strands,
    (k, i, turn, drift, out) => {
      const own = k < half ? 1 : -1;
      const section = sections(diameters[i]);
      const sign = (hand === 'right') === (own === 1) ? 1 : -1;
      const angle = (2 * Math.PI * (k % half)) / half + sign * turn;
      out.angle = angle + drift;
      out.radius = braidRadius(section, half, angle, own);
      out.radiusSlope = -own * section.swing * half * Math.sin(half * angle);
      out.hand = sign;
    },
    (length) => length / layLength,
  );
  return { curves, radii: repeated(diameters, strands, (diameter) => sections(diameter).strandRadius) };
}

/**
 * Place and unit direction of a strand round point `i` of curve `c`: with a rotation-minimising frame the derivative is
 * T·(1 − a·κ·d) + a·turning·(turned d) + a′·rate·d, with a the distance, d the direction outwards, a′ the distance's change with the angle, `rate` the
 * lay and `turning` all that it turns (with what the frames turn), radians a metre.
 */
function helixAround(
  curves: Curves,
  { tangent, normal }: Frames,
  i: number,
  c: number,
  { radius, angle, radiusSlope }: Around,
  rate: number,
  turning: number,
  out: Float64Array,
): void {
  const o = i * 3;
  const [tx, ty, tz] = [tangent[o], tangent[o + 1], tangent[o + 2]];
  const [nx, ny, nz] = [normal[o], normal[o + 1], normal[o + 2]];
  const [sx, sy, sz] = [ty * nz - tz * ny, tz * nx - tx * nz, tx * ny - ty * nx];
  const cosine = Math.cos(angle);
  const sine = Math.sin(angle);
  const d = [cosine * nx + sine * sx, cosine * ny + sine * sy, cosine * nz + sine * sz];
  const turned = [cosine * sx - sine * nx, cosine * sy - sine * ny, cosine * sz - sine * nz];
  const before = Math.max(curves.starts[c], i - 1) * 3;
  const after = Math.min(curves.starts[c + 1] - 1, i + 1) * 3;
  const p = curves.positions;
  const run = Math.hypot(p[after] - p[before], p[after + 1] - p[before + 1], p[after + 2] - p[before + 2]);
  let bend = 0;
  if (run > 0) for (let k = 0; k < 3; k++) bend += ((tangent[after + k] - tangent[before + k]) / run) * d[k];
  const ahead = Math.max(0.05, 1 - radius * bend);
  let size = 0;
  for (let k = 0; k < 3; k++) {
    out[k] = p[o + k] + radius * d[k];
    out[3 + k] = (k === 0 ? tx : k === 1 ? ty : tz) * ahead + radius * turning * turned[k] + radiusSlope * rate * d[k];
    size += out[3 + k] * out[3 + k];
  }
  size = Math.sqrt(size) || 1;
  for (let k = 0; k < 3; k++) out[3 + k] /= size;
}
