import { tick, type Work } from '../../base/work.js';
import type { Mesh } from '../../geometry/mesh.js';
import { ownAxes } from '../../geometry/ownAxes.js';
import { refreshNormals } from './normals.js';

/** A place on a path: the way on, what is up there, and the side, which is up × way. All unit but the place, which is in metres. */
export interface Station {
  readonly place: readonly number[];
  readonly way: readonly number[];
  readonly up: readonly number[];
  readonly side: readonly number[];
}

/** A station from its place, way and up. */
export function stationFrom(place: readonly number[], way: readonly number[], up: readonly number[]): Station {
  const side = [up[1] * way[2] - up[2] * way[1], up[2] * way[0] - up[0] * way[2], up[0] * way[1] - up[1] * way[0]];
  const size = Math.hypot(...side) || 1;
  return { place, way, up, side: side.map((value) => value / size) };
}

export interface LaidAlong {
  /** The mesh's own axis that comes to lie along the path. */
  readonly axis: 0 | 1 | 2;
  /** Metres along the path of a place on that axis. */
  readonly metresOf: (own: number) => number;
  /** Factor on what lies beside the axis. */
  readonly across: number;
  readonly stationAt: (metres: number) => Station;
  /** Between which metres, and over how many, it is looked whether a place goes on forwards. */
  readonly folding: { readonly from: number; readonly to: number; readonly step: number };
}

/**
 * A mesh laid along a path: what lies along the own axis lies along the path, what lies beside it keeps its distance. Stations are asked for once for all vertices at the same metres.
 * @returns the mesh with its normals, and where along the path it first folds over itself, metres; null: nowhere.
 */
export function laidAlong(mesh: Mesh, { axis, metresOf, across, stationAt, folding }: LaidAlong, work: Work): { mesh: Mesh; folds: number | null } {
  const { up, side, hand } = ownAxes(axis);
  const p = mesh.positions;
  const positions = new Float32Array(p.length);
  let folds: number | null = null;
  const stations = new Map<number, Station>();
  const at = (metres: number): Station => {
    let station = stations.get(metres);
    if (!station) stations.set(metres, (station = stationAt(metres)));
    return station;
  };
  /** Metres that a place beside the axis goes forwards between two stations, along the way of the first. */
  const goes = (here: Station, next: Station, q: number, w: number): number => {
    let sum = 0;
    for (let k = 0; k < 3; k++) sum += (next.place[k] - here.place[k] + q * (next.up[k] - here.up[k]) + w * (next.side[k] - here.side[k])) * here.way[k];
    return sum;
  };
  for (let i = 0; i < p.length; i += 3) {
    tick(work, i / 3, p.length / 3);
    const s = metresOf(p[i + axis]);
    const [q, w] = [p[i + up] * across, p[i + side] * hand * across];
    const here = at(s);
    for (let k = 0; k < 3; k++) positions[i + k] = here.place[k] + q * here.up[k] + w * here.side[k];
    if (folds === null && s > folding.from + folding.step && s < folding.to - folding.step && goes(here, at(s + folding.step), q, w) < 0) folds = s;
  }
  return { mesh: refreshNormals({ ...mesh, positions }, mesh, work), folds };
}
