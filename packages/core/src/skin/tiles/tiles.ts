import { makeCurves, type Curves } from '../../geometry/curves.js';
import type { Mesh } from '../../geometry/mesh.js';
import { unbounded, type Work } from '../../base/work.js';
import { MeshBuilder } from '../../mesh/make/builder.js';
import { UvLookup } from '../../mesh/topology/uvLookup.js';
import { skinParts } from '../parts/sink.js';
import { cutToSquare, insetTile, tileArea, tilePattern, type Tile, type TileShape } from './tilePatterns.js';

export interface TileOptions {
  readonly shape: TileShape;
  /** Tiles side by side along u, and rows along v. */
  readonly around: number;
  readonly along: number;
  /** Metres between tiles. */
  readonly gap: number;
  /** Metres that the free ends of scales stand off the surface. */
  readonly lift: number;
  readonly border: 'cut' | 'wholeOnly';
  /** The surface closes in u: tiles run over that border, and only the borders in v count. */
  readonly wrap: boolean;
}

/** Pieces smaller than this share of a whole tile are slivers, and left out. */
const sliver = 0.01;

const lookups = new WeakMap<Mesh, UvLookup>();

/** Where the walls of a mesh are by their UVs. Kept as long as the mesh is: panels and the glass between them are laid on one. */
function wallLookup(mesh: Mesh): UvLookup {
  let lookup = lookups.get(mesh);
  const part = mesh.attributes.get('part')?.data;
  if (!lookup) lookups.set(mesh, (lookup = new UvLookup(mesh, (face) => !part || part[face] === skinParts.wall)));
  return lookup;
}

/**
 * Lays a pattern of tiles over a mesh by its UVs (walls only): the outline of each tile as a closed curve, and each tile as one face. Corners lie on
 * the mesh; sides are straight. Slivers at the border are left out and counted.
 * @throws RangeError when the mesh has no UVs.
 */
export function tiles(mesh: Mesh, options: TileOptions, work: Work = unbounded): { curves: Curves; mesh: Mesh; slivers: number } {
  const lookup = wallLookup(mesh);
  // Before any is made there are at least so many.
  work.claim({ faces: options.around * options.along });
  const pattern = tilePattern(options.shape, options.around, options.along);
  work.claim({ faces: pattern.length, vertices: pattern.length * (options.shape === 'scale' ? 13 : 6) });
  const [du, dv] = [0, 1].map((k) => lookup.most[k] - lookup.least[k]);
  const probe = new Float64Array(6);
  const place = (x: number, y: number): Float64Array | null => {
    const wrapped = options.wrap && x > 1 ? x - 1 : x;
    return lookup.at(lookup.least[0] + wrapped * du, lookup.least[1] + y * dv, probe) ? probe : null;
  };
  const outlines: number[] = [];
  const starts = [0];
  const builder = new MeshBuilder();
  let slivers = 0;
  for (let n = 0; n < pattern.length; n++) {
    if (n % 256 === 0) work.progress(n / pattern.length);
    const whole = pattern[n];
    const piece = pieceOf(whole, options);
    if (!piece.length) continue;
    const share = tileArea(piece) / tileArea(whole);
    if (share < sliver) {
      // Tiles that only touch the border have no piece inside at all.
      if (share > 1e-6) slivers++;
      continue;
    }
    const tile = options.gap > 0 ? insetTile(piece, options.gap / 2, ...metresAt(piece, place)) : piece;
    // Of each corner that lies on the mesh: x, y, its place and its normal.
    const corners: number[] = [];
    for (const [x, y] of tile) {
      const at = place(x, y);
      if (at) corners.push(x, y, at[0], at[1], at[2], at[3], at[4], at[5]);
    }
    if (corners.length < 3 * 8) continue;
    const vertices: number[] = [];
    const [low, high] = [Math.min(...whole.map(([, y]) => y)), Math.max(...whole.map(([, y]) => y))];
    for (let j = 0; j < corners.length; j += 8) {
      const [u, v] = [lookup.least[0] + corners[j] * du, lookup.least[1] + corners[j + 1] * dv];
      const off = options.shape === 'scale' ? options.lift * (1 - (corners[j + 1] - low) / (high - low)) : 0;
      for (let k = 0; k < 3; k++) corners[j + 2 + k] += off * corners[j + 5 + k];
      const vertex = builder.vertex(corners[j + 2], corners[j + 3], corners[j + 4], builder.point(), u, v);
      builder.normal(vertex, corners[j + 5], corners[j + 6], corners[j + 7]);
      outlines.push(corners[j + 2], corners[j + 3], corners[j + 4]);
      vertices.push(vertex);
    }
    starts.push(outlines.length / 3);
    builder.face(skinParts.wall, vertices);
  }
  const closed = new Uint8Array(starts.length - 1).fill(1);
  const curves = makeCurves({ positions: Float32Array.from(outlines), starts: Uint32Array.from(starts), closed });
  return { curves, mesh: builder.finish(), slivers };
}

/** What of a tile is laid: all of it, its part inside, or nothing. */
function pieceOf(whole: Tile, { border, wrap }: TileOptions): Tile {
  const inside = (value: number): boolean => value >= -1e-9 && value <= 1 + 1e-9;
  const middle = whole.reduce((sum, [x]) => sum + x / whole.length, 0);
  // On a surface that closes, each tile is laid once: by where its middle is.
  if (wrap && !(middle >= -1e-9 && middle < 1 - 1e-9)) return [];
  if (border === 'wholeOnly') return whole.every(([x, y]) => (wrap || inside(x)) && inside(y)) ? shifted(whole, wrap) : [];
  return shifted(cutToSquare(whole, wrap), wrap);
}

/** Places left of the seam are those before its other side. */
const shifted = (tile: Tile, wrap: boolean): Tile => (wrap && tile.some(([x]) => x < 0) ? tile.map(([x, y]): [number, number] => [x + 1, y]) : tile);

/** Metres per unit of the square at the middle of a tile, in both directions. */
function metresAt(tile: Tile, place: (x: number, y: number) => Float64Array | null): [number, number] {
  const [x, y] = [0, 1].map((k) => tile.reduce((sum, corner) => sum + corner[k] / tile.length, 0));
  const step = 1e-3;
  const between = (ax: number, ay: number, bx: number, by: number): number => {
    const from = place(ax, ay);
    if (!from) return 1;
    const [px, py, pz] = from;
    const to = place(bx, by);
    return to ? Math.hypot(to[0] - px, to[1] - py, to[2] - pz) / (2 * step) : 1;
  };
  const clamp = (value: number): number => Math.min(1 - step, Math.max(step, value % 1));
  const [cx, cy] = [clamp(x), clamp(y)];
  return [between(cx - step, cy, cx + step, cy), between(cx, cy - step, cx, cy + step)];
}
