import { fieldAt } from '../../values/field.js';
import { CapPlacer, plainCaps } from './capUv.js';
import type { TubeEnd } from '../plan/tubePlan.js';
import { skinParts, vAt, type SkinSink, type TubeJob, type WallEnd } from './sink.js';

/** Rings of a dome between its rim and its pole, so that its pieces are about as long as the sides. */
const domeRings = (sides: number): number => Math.max(2, Math.round(sides / 4));

/** Elements that an end adds to the wall. */
export function capSizes(end: TubeEnd, sides: number): { vertices: number; points: number; faces: number; corners: number } {
  if (end === 'flat') return { vertices: sides, points: 0, faces: 1, corners: sides };
  if (end === 'tip') return { vertices: sides, points: 1, faces: sides, corners: sides * 3 };
  if (end === 'open') return { vertices: 0, points: 0, faces: 0, corners: 0 };
  const rings = domeRings(sides);
  return { vertices: rings * sides + 1, points: (rings - 1) * sides + 1, faces: rings * sides, corners: (rings - 1) * sides * 4 + sides * 3 };
}

/**
 * Closes a wall with a flat polygon or a half sphere. Cap UVs are laid out by themselves: planar on flat caps and by length from the pole
 * on domes (so a texture is not smeared), fitted into the unit square about (0.5, 0.5), or in metres ÷ uvScale.
 */
export function writeCap(job: TubeJob, sink: SkinSink, end: WallEnd, kind: 'flat' | 'domed'): void {
  const { curves, section, options, tangent } = job;
  const sides = section.length / 2 - 1;
  const part = end.outward < 0 ? skinParts.capStart : skinParts.capEnd;
  const o = end.ring * 3;
  const r = fieldAt(options.radius, end.ring);
  const t = [0, 1, 2].map((k) => tangent[o + k] * end.outward);
  const centre = [curves.positions[o], curves.positions[o + 1], curves.positions[o + 2]];
  const rings = kind === 'flat' ? 1 : domeRings(sides);
  const reach = kind === 'flat' ? r : (r * Math.PI) / 2;
  const placer = new CapPlacer({ ...plainCaps, ...options }, options.uvScale);
  const uvRadius = reach * placer.perMetre(reach);
  const base = sink.vertex;
  const vertex = (x: readonly number[], n: readonly number[], cx: number, cy: number, point: number): void => {
    const at = sink.vertex++;
    for (let k = 0; k < 3; k++) {
      sink.positions[at * 3 + k] = x[k];
      sink.normals[at * 3 + k] = n[k];
    }
    sink.uv[at * 2] = placer.u(cx, cy);
    sink.uv[at * 2 + 1] = placer.v(cx, cy);
    sink.pointOf[at] = point;
  };
  const across = [0, 1, 2].map((k) => job.normal[o + k]);
  const [tx, ty, tz] = [tangent[o], tangent[o + 1], tangent[o + 2]];
  const side = [ty * across[2] - tz * across[1], tz * across[0] - tx * across[2], tx * across[1] - ty * across[0]];
  for (let ring = 0; ring < rings; ring++) {
    const angle = (ring / rings) * (Math.PI / 2);
    const shrink = uvRadius * (1 - ring / rings);
    for (let j = 0; j < sides; j++) {
      // Seen from outside the start cap runs the other way round, so its u is mirrored to keep lettering readable.
      const [c, s] = [section[j * 2], section[j * 2 + 1] * end.outward];
      const rim = (end.vertex + j) * 3;
      // Outwards by the frame, not by the places: those have lost digits when the tube is thin and far from the origin.
      const d = across.map((value, k) => section[j * 2] * value + section[j * 2 + 1] * side[k]);
      const x = ring ? d.map((value, k) => centre[k] + r * (value * Math.cos(angle) + t[k] * Math.sin(angle))) : [0, 1, 2].map((k) => sink.positions[rim + k]);
      const n = kind === 'flat' ? t : d.map((value, k) => value * Math.cos(angle) + t[k] * Math.sin(angle));
      vertex(x, n, shrink * c, shrink * s, ring ? sink.point++ : end.point + j);
    }
  }
  if (kind === 'flat') {
    face(
      sink,
      part,
      Array.from({ length: sides }, (_, j) => base + (end.outward > 0 ? j : sides - 1 - j)),
    );
    return;
  }
  vertex(centre.map((value, k) => value + r * t[k]), t, 0, 0, sink.point++); // prettier-ignore
  for (let ring = 0; ring < rings; ring++)
    for (let j = 0; j < sides; j++) {
      const a = base + ring * sides + j;
      const b = base + ring * sides + ((j + 1) % sides);
      const corners = ring + 1 < rings ? [a, b, b + sides, a + sides] : [a, b, base + rings * sides];
      face(sink, part, end.outward > 0 ? corners : corners.reverse());
    }
}

/** Closes a wall whose radius runs out to nothing with triangles to one point; they belong to the wall. */
export function writeTip(job: TubeJob, sink: SkinSink, end: WallEnd): void {
  const { curves, plans, plan, section, stations } = job;
  const sides = section.length / 2 - 1;
  const pole = plans.rings[end.outward < 0 ? plan.from : plan.from + plan.count - 1];
  const point = sink.point++;
  const base = sink.vertex;
  const v = vAt(job, stations[pole]);
  for (let j = 0; j < sides; j++) {
    const at = sink.vertex++;
    const a = end.vertex + j;
    const sum = [0, 1, 2].map((k) => sink.normals[a * 3 + k] + sink.normals[(a + 1) * 3 + k]);
    const size = Math.hypot(...sum) || 1;
    for (let k = 0; k < 3; k++) {
      sink.positions[at * 3 + k] = curves.positions[pole * 3 + k];
      sink.normals[at * 3 + k] = sum[k] / size;
    }
    sink.uv[at * 2] = (sink.uv[a * 2] + sink.uv[(a + 1) * 2]) / 2;
    sink.uv[at * 2 + 1] = v;
    sink.pointOf[at] = point;
    const corners = [a, a + 1, base + j];
    face(sink, skinParts.wall, end.outward > 0 ? corners : corners.reverse());
  }
}

function face(sink: SkinSink, part: number, corners: readonly number[]): void {
  for (const corner of corners) sink.corners[sink.corner++] = corner;
  sink.part[sink.face++] = part;
  if (sink.faceStarts) sink.faceStarts[sink.face] = sink.corner;
}
