import type { Attribute } from '../geometry/attributes.js';
import { curveCount, makeCurves, type Curves } from '../geometry/curves.js';
import type { Mesh } from '../geometry/mesh.js';
import { joinMeshes } from '../geometry/join.js';
import { curveLengths, stationsOf } from '../curves/arcLength.js';
import { framesOf } from '../curves/frames.js';
import { resample } from '../curves/resample.js';
import { unbounded, type Work } from '../graph/work.js';
import { constantField, fieldAt, type Field } from '../values/field.js';
import { ropeSection, type RopeSection } from './ropeSection.js';
import type { TubeOptions } from './sink.js';
import { tube } from './tube.js';
import type { SkinIssue } from './tubePlan.js';

export interface RopeOptions {
  /** Outer diameter, metres, more than 0, a value per point of the curves. */
  diameter: Field;
  strands: number;
  /** Metres per turn of a strand, more than 0. */
  layLength: number;
  /** `right`: strands rise to the right in front of the eye (the common Z lay). */
  hand: 'right' | 'left';
  /** Corners of a strand's section. */
  sides: number;
  /** Fill the hole in the middle with one straight strand. */
  core: boolean;
  caps: TubeOptions['caps'];
  uvScale: number;
  /** Rings of a strand per turn. */
  ringsPerTurn: number;
}

/** Diameters are grouped into this many sections at most, since each costs a search for touching strands. */
const sectionSteps = 64;

/**
 * Ropes of twisted strands along curves (the heart is the strand's helix round the curve's frame; common practice). A closed curve gets
 * a whole number of turns, so that strands meet.
 * @throws RangeError naming the point where the diameter is not more than 0; whatever `work` throws.
 */
export function rope(curves: Curves, options: RopeOptions, work: Work = unbounded): { mesh: Mesh; issues: SkinIssue[] } {
  requireDiameters(curves, options.diameter);
  const spacing = options.layLength / options.ringsPerTurn;
  const lengths = curveLengths(curves);
  const counts = Float64Array.from(lengths, (length, c) => Math.max(curves.closed[c] ? 3 : 2, Math.ceil(length / spacing) + (curves.closed[c] ? 0 : 1)));
  const rings = counts.reduce((sum, count) => sum + count, 0);
  const perRing = options.strands * options.sides + (options.core ? options.sides : 0);
  work.claim({ vertices: rings * perRing, faces: rings * perRing });

  const withDiameter = attach(curves, options.diameter);
  const fine = resample(withDiameter, {
    by: 'count',
    count: { constant: 0, values: counts },
    spacing: constantField(1),
    deviation: 1,
    fit: 'even',
    spread: 'even',
  });
  const diameters = fine.attributes.get(diameterName)!.data;
  const sections = sectionsOf(diameters, options);
  const strands = strandCurves(fine, diameters, sections, options);
  const radiusOf = (size: (section: RopeSection) => number, repeat: number): Field => {
    const values = new Float64Array(diameters.length * repeat);
    for (let i = 0; i < values.length; i++) values[i] = size(sections(diameters[i % diameters.length]));
    return { constant: 0, values };
  };
  const shared = { sides: options.sides, caps: options.caps, corners: 'asIs' as const, uvScale: options.uvScale, ringStep: 1 };
  const skin = tube(strands, { ...shared, radius: radiusOf((section) => section.strandRadius, options.strands) }, work);
  const issues = skin.issues.map((issue) => ({ ...issue, curve: issue.curve % Math.max(1, curveCount(curves)) }));
  if (!options.core || options.strands < 3) return { mesh: skin.mesh, issues };
  const core = tube(fine, { ...shared, radius: radiusOf((section) => Math.max(section.coreRadius, section.strandRadius * 0.05), 1) }, work);
  return { mesh: joinMeshes([skin.mesh, core.mesh]), issues };
}

const diameterName = 'ropeDiameter';

/** The curves with their diameter as an attribute, so that resampling carries it along. */
function attach(curves: Curves, diameter: Field): Curves {
  const data = Float32Array.from({ length: curves.positions.length / 3 }, (_, i) => fieldAt(diameter, i));
  const attributes = new Map<string, Attribute>(curves.attributes).set(diameterName, { carrier: 'point', size: 1, data });
  return { ...curves, attributes };
}

function requireDiameters(curves: Curves, diameter: Field): void {
  for (let i = 0; i < curves.positions.length / 3; i++) {
    const value = fieldAt(diameter, i);
    if (!(value > 0) || !Number.isFinite(value)) throw new RangeError(`The diameter at point ${i} is ${value} m; it must be more than 0.`);
  }
}

/** Sections by diameter, each worked out once; diameters in between take the nearest of `sectionSteps` steps. */
function sectionsOf(diameters: Float32Array, { strands, layLength }: RopeOptions): (diameter: number) => RopeSection {
  let least = Infinity;
  let greatest = 0;
  for (const diameter of diameters) {
    least = Math.min(least, diameter);
    greatest = Math.max(greatest, diameter);
  }
  const known = new Map<number, RopeSection>();
  const sectionAt = (diameter: number): RopeSection => {
    let section = known.get(diameter);
    if (!section) known.set(diameter, (section = ropeSection(diameter / 2, strands, layLength)));
    return section;
  };
  if (greatest - least < 1e-9) return () => sectionAt(least);
  const step = (greatest - least) / sectionSteps;
  return (diameter) => {
    const at = (diameter - least) / step;
    const low = Math.min(sectionSteps - 1, Math.floor(at));
    const [a, b, f] = [sectionAt(least + low * step), sectionAt(least + (low + 1) * step), at - low];
    const mix = (p: number, q: number): number => p + (q - p) * f;
    return {
      centreRadius: mix(a.centreRadius, b.centreRadius),
      strandRadius: mix(a.strandRadius, b.strandRadius),
      coreRadius: mix(a.coreRadius, b.coreRadius),
    };
  };
}

/** The middles of all strands: for each strand all curves in turn, with exact tangents. */
function strandCurves(fine: Curves, diameters: Float32Array, sections: (diameter: number) => RopeSection, options: RopeOptions): Curves {
  const points = diameters.length;
  const count = curveCount(fine);
  const { tangent, normal } = framesOf(fine);
  const stations = stationsOf(fine);
  const lengths = curveLengths(fine);
  const positions = new Float32Array(points * 3 * options.strands);
  const tangents = new Float32Array(positions.length);
  const starts = new Uint32Array(count * options.strands + 1);
  const closed = new Uint8Array(count * options.strands);
  const sign = options.hand === 'right' ? 1 : -1;
  const out = new Float64Array(6);
  for (let k = 0; k < options.strands; k++)
    for (let c = 0; c < count; c++) {
      const which = k * count + c;
      starts[which + 1] = starts[which] + fine.starts[c + 1] - fine.starts[c];
      closed[which] = fine.closed[c];
      const turns = lengths[c] / options.layLength;
      const rate = lengths[c] > 0 ? (sign * 2 * Math.PI * (fine.closed[c] ? Math.max(1, Math.round(turns)) : turns)) / lengths[c] : 0;
      for (let i = fine.starts[c]; i < fine.starts[c + 1]; i++) {
        const a = sections(diameters[i]).centreRadius;
        const angle = (2 * Math.PI * k) / options.strands + rate * stations[i];
        helixAround(fine, tangent, normal, i, c, a, angle, rate, out);
        const to = (starts[which] + i - fine.starts[c]) * 3;
        for (let axis = 0; axis < 3; axis++) {
          positions[to + axis] = out[axis];
          tangents[to + axis] = out[3 + axis];
        }
      }
    }
  return makeCurves({ positions, starts, closed, attributes: new Map([['tangent', { carrier: 'point', size: 3, data: tangents }]]) });
}

/**
 * Place and unit direction of a helix of radius `a` round point `i` of curve `c`, at `angle` from the normal toward the side, turning by
 * `rate` radians a metre: with a rotation-minimising frame the derivative is T·(1 − a·κ·d) + a·rate·(turned d), d the direction outwards.
 */
function helixAround(
  curves: Curves,
  tangent: Float32Array,
  normal: Float32Array,
  i: number,
  c: number,
  a: number,
  angle: number,
  rate: number,
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
  const ahead = Math.max(0.05, 1 - a * bend);
  let size = 0;
  for (let k = 0; k < 3; k++) {
    out[k] = p[o + k] + a * d[k];
    out[3 + k] = (k === 0 ? tx : k === 1 ? ty : tz) * ahead + a * rate * turned[k];
    size += out[3 + k] * out[3 + k];
  }
  size = Math.sqrt(size) || 1;
  for (let k = 0; k < 3; k++) out[3 + k] /= size;
}
