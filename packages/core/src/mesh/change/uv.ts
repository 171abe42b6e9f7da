import { cosineAndSine } from '../../base/turns.js';
import { withAttributes } from '../../geometry/attributes.js';
import { tick, unbounded, type Work } from '../../base/work.js';
import { faceCount, faceStart, type Mesh } from '../../geometry/mesh.js';
import { faceAreas } from '../topology/areas.js';
import { splitVertices } from './splitVertices.js';

export interface UvOptions {
  /** 1 for each face whose UVs change. */
  readonly faces: Uint8Array;
  /** `keep`: as they are; `planar`: seen along an axis; `box`: each face along the axis it looks along most. Metres ÷ uvScale. */
  readonly layout: 'keep' | 'planar' | 'box';
  /** The axis a planar layout is seen along: 0…2 for x, y, z. */
  readonly axis: number;
  /** Metres per tile of planar and box. */
  readonly tile: number;
  readonly move: readonly [number, number];
  /** Degrees about (0.5, 0.5) of the unit square, counter-clockwise. */
  readonly turn: number;
  readonly scale: readonly [number, number];
  /** The UV set to write; it begins as a copy of `uv`. */
  readonly set: string;
}

/** The axes that u and v run along for faces that look along x, y or z, so that lettering reads on the positive side. */
const across = [[2, 1, -1, 1], [0, 2, 1, -1], [0, 1, 1, 1]] as const; // prettier-ignore

/**
 * Lays out, moves, turns and scales UVs of some faces. Vertices shared with faces that keep theirs, or between box sides, are given UVs apart.
 * Size, then turn (both about the middle of the unit square), then move.
 */
export function layUvs(given: Mesh, options: UvOptions, work: Work = unbounded): Mesh {
  const faces = faceCount(given);
  const side = new Uint8Array(faces);
  const positive = new Uint8Array(faces).fill(1);
  if (options.layout === 'planar') side.fill(options.axis);
  if (options.layout === 'box') {
    const areas = faceAreas(given, work);
    for (let f = 0; f < faces; f++) {
      const n = [0, 1, 2].map((k) => areas[f * 3 + k]);
      side[f] = n.map(Math.abs).reduce((best, value, k, list) => (value > list[best] * (1 + 1e-6) ? k : best), 0);
      positive[f] = n[side[f]] >= 0 ? 1 : 0;
    }
  }
  const keys = new Uint8Array(given.corners.length);
  for (let f = 0; f < faces; f++)
    keys.fill(options.faces[f] ? 1 + (options.layout === 'box' ? side[f] * 2 + positive[f] : 0) : 0, faceStart(given, f), faceStart(given, f + 1));
  const mesh = splitVertices(given, keys);
  const own = mesh.attributes.get(options.set) ?? mesh.attributes.get('uv');
  const data = own?.size === 2 ? own.data.slice() : new Float32Array((mesh.positions.length / 3) * 2);
  const [c, s] = cosineAndSine(options.turn);
  const done = new Uint8Array(data.length / 2);
  for (let f = 0; f < faces; f++) {
    tick(work, f, faces);
    if (!options.faces[f]) continue;
    const [uAxis, vAxis, uSign, vSign] = across[side[f]];
    const mirror = positive[f] ? 1 : -1;
    for (let i = faceStart(mesh, f); i < faceStart(mesh, f + 1); i++) {
      const v = mesh.corners[i];
      if (done[v]) continue;
      done[v] = 1;
      const keep = options.layout === 'keep';
      const u0 = keep ? data[v * 2] : (mirror * uSign * mesh.positions[v * 3 + uAxis]) / options.tile;
      const v0 = keep ? data[v * 2 + 1] : (vSign * mesh.positions[v * 3 + vAxis]) / options.tile;
      const x = (u0 - 0.5) * options.scale[0];
      const y = (v0 - 0.5) * options.scale[1];
      data[v * 2] = 0.5 + c * x - s * y + options.move[0];
      data[v * 2 + 1] = 0.5 + s * x + c * y + options.move[1];
    }
  }
  return { ...mesh, attributes: withAttributes(mesh.attributes, { [options.set]: { carrier: 'corner', size: 2, data } }) };
}
