import type { Curves } from '../../geometry/curves.js';
import type { Frames } from '../../curves/evaluate/frames.js';
import { constantField, fieldAt, type Field } from '../../values/field.js';
import { symmetryOf, type Profile } from './profile.js';
import type { TubePlans } from '../plan/tubePlan.js';

/** How a profile stands at each point of the path; values per point. */
export interface SectionOptions {
  /** Factors on the profile's x and y, 0 or more (0 at an end closes it on one point). */
  readonly size: readonly [Field, Field];
  /** Degrees by which the profile is turned about the path, beyond the frames. */
  readonly roll: Field;
  /** Which profile: 0 the first, 1 the last, between them a blend. */
  readonly profileAt: Field;
}

/** Places in a section: those of all outlines, one after the other. */
export const sectionPlaces = (profile: Profile): number => profile.outlines.reduce((sum, { flat }) => sum + flat.length / 2, 0);

/** Writes the section at point `i` of the path to `flat` from `at` on: the profile blended, sized and rolled, x (along the normal) and y (along the side) a place, metres. */
export function writeSection(profiles: readonly Profile[], { size, roll, profileAt }: SectionOptions, i: number, flat: Float64Array, at = 0): void {
  const which = Math.min(Math.max(fieldAt(profileAt, i), 0), 1) * (profiles.length - 1);
  const low = Math.min(Math.floor(which), Math.max(0, profiles.length - 2));
  const f = profiles.length > 1 ? which - low : 0;
  const a = profiles[low];
  const b = profiles[Math.min(low + 1, profiles.length - 1)];
  const angle = (fieldAt(roll, i) * Math.PI) / 180;
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const [kx, ky] = [fieldAt(size[0], i), fieldAt(size[1], i)];
  for (let o = 0; o < a.outlines.length; o++) {
    const own = a.outlines[o].flat;
    const other = b.outlines[o].flat;
    for (let k = 0; k < own.length; k += 2) {
      const x = (own[k] + (other[k] - own[k]) * f) * kx;
      const y = (own[k + 1] + (other[k + 1] - own[k + 1]) * f) * ky;
      flat[at++] = c * x - s * y;
      flat[at++] = s * x + c * y;
    }
  }
}

/** How far from the path the section may reach on any side at each point, metres. */
export function sectionRadius(curves: Curves, profiles: readonly Profile[], [x, y]: SectionOptions['size']): Field {
  const reach = Math.max(...profiles.map((profile) => profile.reach));
  const at = (i: number): number => reach * Math.max(fieldAt(x, i), fieldAt(y, i));
  return (x.values ?? y.values) ? { constant: 0, values: Float64Array.from({ length: curves.positions.length / 3 }, (_, i) => at(i)) } : constantField(at(0));
}

const common = (a: number, b: number): number => (b ? common(b, a % b) : a);

/** How many times in one turn the section at point `i` looks the same; unequal sizes leave the half turn alone. */
export function sectionSymmetry(profiles: readonly Profile[], [x, y]: SectionOptions['size'], i: number): number {
  const symmetry = profiles.map(symmetryOf).reduce(common);
  return fieldAt(x, i) === fieldAt(y, i) ? symmetry : common(symmetry, 2);
}

/**
 * How far the section reaches toward the centre of the bend at each ring, metres, a value per point (0 at points without a ring): the support of its
 * outline on that side. Below 0 where all of it lies on the outer side, which therefore cannot fold.
 */
export function inwardReach(curves: Curves, plans: TubePlans, frames: Frames, profiles: readonly Profile[], options: SectionOptions): Field {
  const values = new Float64Array(curves.positions.length / 3);
  const flat = new Float64Array(sectionPlaces(profiles[0]) * 2);
  const d = new Float64Array(3);
  for (let k = 0; k < plans.count; k++) {
    const { from, count, closed } = plans.at(k);
    for (let r = closed ? 0 : 1; r < (closed ? count : count - 1); r++) {
      const i = plans.rings[from + r];
      if (!towardBend(curves.positions, plans.rings[from + ((r + count - 1) % count)], i, plans.rings[from + ((r + 1) % count)], d)) continue;
      const o = i * 3;
      const { tangent: t, normal: n } = frames;
      const sx = t[o + 1] * n[o + 2] - t[o + 2] * n[o + 1];
      const sy = t[o + 2] * n[o] - t[o] * n[o + 2];
      const sz = t[o] * n[o + 1] - t[o + 1] * n[o];
      const x = d[0] * n[o] + d[1] * n[o + 1] + d[2] * n[o + 2];
      const y = d[0] * sx + d[1] * sy + d[2] * sz;
      const size = Math.sqrt(x * x + y * y);
      if (!(size > 0)) continue;
      writeSection(profiles, options, i, flat);
      let reach = -Infinity;
      for (let p = 0; p < flat.length; p += 2) reach = Math.max(reach, (flat[p] * x + flat[p + 1] * y) / size);
      values[i] = reach;
    }
  }
  return { constant: 0, values };
}

/** Writes the direction toward the centre of the bend at `b`, between its neighbours: the difference of the unit directions; false where there is no bend. */
function towardBend(p: Float32Array, a: number, b: number, c: number, out: Float64Array): boolean {
  let [before, after] = [0, 0];
  for (let k = 0; k < 3; k++) {
    before += (p[b * 3 + k] - p[a * 3 + k]) ** 2;
    after += (p[c * 3 + k] - p[b * 3 + k]) ** 2;
  }
  if (!(before > 0 && after > 0)) return false;
  [before, after] = [Math.sqrt(before), Math.sqrt(after)];
  for (let k = 0; k < 3; k++) out[k] = (p[c * 3 + k] - p[b * 3 + k]) / after - (p[b * 3 + k] - p[a * 3 + k]) / before;
  return true;
}

/** The path moved to the middle of its sections (of their boxes in the section's plane), and how far each section reaches from there, metres. */
export function sectionMiddles(curves: Curves, frames: Frames, profiles: readonly Profile[], options: SectionOptions): { curves: Curves; radius: Field } {
  const positions = curves.positions.slice();
  const values = new Float64Array(positions.length / 3);
  const flat = new Float64Array(sectionPlaces(profiles[0]) * 2);
  const { tangent: t, normal: n } = frames;
  for (let i = 0; i < values.length; i++) {
    writeSection(profiles, options, i, flat);
    let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
    for (let p = 0; p < flat.length; p += 2) {
      x0 = Math.min(x0, flat[p]);
      x1 = Math.max(x1, flat[p]);
      y0 = Math.min(y0, flat[p + 1]);
      y1 = Math.max(y1, flat[p + 1]);
    }
    const [x, y] = [(x0 + x1) / 2, (y0 + y1) / 2];
    for (let p = 0; p < flat.length; p += 2) values[i] = Math.max(values[i], Math.hypot(flat[p] - x, flat[p + 1] - y));
    const o = i * 3;
    positions[o] += x * n[o] + y * (t[o + 1] * n[o + 2] - t[o + 2] * n[o + 1]);
    positions[o + 1] += x * n[o + 1] + y * (t[o + 2] * n[o] - t[o] * n[o + 2]);
    positions[o + 2] += x * n[o + 2] + y * (t[o] * n[o + 1] - t[o + 1] * n[o]);
  }
  // Handles are those of the path; between middles chords serve.
  return { curves: { ...curves, positions, kind: new Uint8Array(curves.kind.length) }, radius: { constant: 0, values } };
}
