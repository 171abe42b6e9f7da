import { withAttributes } from '../geometry/attributes.js';
import type { Geometry } from '../geometry/geometry.js';
import { paced } from '../curves/resample.js';
import { faceCount, faceStart } from '../geometry/mesh.js';

/** Points, segments or triangles in flat arrays, each with the element that it belongs to. */
export interface Pieces {
  /** 3, 6 or 9 numbers a piece: its corners, metres. */
  readonly corners: Float64Array;
  readonly size: 3 | 6 | 9;
  /** Point, piece of a curve (its first point) or face of each piece. */
  readonly element: Uint32Array;
  /** Point or vertex of each corner, `size` ÷ 3 a piece, in `of`. */
  readonly points: Uint32Array;
  /** The geometry that elements and points are numbered in: as given, or curves at the places where they were sampled. */
  readonly of: Geometry;
}

/** The nearest place that a search found. */
export interface Hit {
  distance: number;
  /** The piece and its element; −1 where there is none. */
  piece: number;
  element: number;
  /** Weights of the piece's corners at the place: they sum to 1. */
  readonly weights: Float64Array;
  readonly place: Float64Array;
}

export const newHit = (): Hit => ({ distance: Infinity, piece: -1, element: -1, weights: new Float64Array(3), place: new Float64Array(3) });

const leafSize = 6;

/**
 * What a geometry is made of, for searches: points as they are, curves by their whole length (smooth ones by chords at each 7.5° of turn), meshes
 * by triangles. Copies have none.
 */
export function piecesOf(geometry: Geometry): Pieces {
  if (geometry.type === 'points') {
    const element = Uint32Array.from({ length: geometry.positions.length / 3 }, (_, i) => i);
    return { corners: Float64Array.from(geometry.positions), size: 3, element, points: element, of: geometry };
  }
  const list: number[] = [];
  const element: number[] = [];
  const corners: number[] = [];
  const push = (p: Float32Array, ...points: number[]): void => {
    for (const i of points) list.push(p[i * 3], p[i * 3 + 1], p[i * 3 + 2]);
    corners.push(...points);
  };
  if (geometry.type === 'curves') {
    // Without their tangents curves count as not sampled yet, so chords follow the bend however few points there are.
    const curves = paced({ ...geometry, attributes: withAttributes(geometry.attributes, { tangent: null }) });
    for (let c = 0; c + 1 < curves.starts.length; c++) {
      const [from, to] = [curves.starts[c], curves.starts[c + 1]];
      if (to === from) continue;
      const last = to - from === 1 || curves.closed[c] ? to : to - 1;
      for (let i = from; i < last; i++) {
        push(curves.positions, i, i + 1 < to ? i + 1 : from);
        element.push(i);
      }
    }
    return { corners: Float64Array.from(list), size: 6, element: Uint32Array.from(element), points: Uint32Array.from(corners), of: curves };
  }
  if (geometry.type === 'mesh')
    for (let f = 0; f < faceCount(geometry); f++) {
      const [from, to] = [faceStart(geometry, f), faceStart(geometry, f + 1)];
      for (let j = from + 1; j + 1 < to; j++) {
        push(geometry.positions, geometry.corners[from], geometry.corners[j], geometry.corners[j + 1]);
        element.push(f);
      }
    }
  return { corners: Float64Array.from(list), size: 9, element: Uint32Array.from(element), points: Uint32Array.from(corners), of: geometry };
}

/**
 * A tree of boxes over pieces, in flat arrays: halves at the middle of the longest side. Searches look at the nearer box first and leave out those
 * that are further than what is found.
 */
export class NearestTree {
  /** 6 numbers a box: least corner, greatest corner. */
  private readonly boxes: Float64Array;
  /** For each box its first piece (leaf) or its right child, and how many pieces (0: no leaf). */
  private readonly links: Int32Array;
  private readonly order: Uint32Array;
  private count = 0;

  constructor(readonly pieces: Pieces) {
    const n = pieces.element.length;
    this.order = Uint32Array.from({ length: n }, (_, i) => i);
    const most = Math.max(1, 2 * Math.ceil(n / 2));
    this.boxes = new Float64Array(most * 6);
    this.links = new Int32Array(most * 2);
    if (n) this.build(0, n);
  }

  private build(from: number, to: number): number {
    const node = this.count++;
    const box = this.boxes.subarray(node * 6, node * 6 + 6).fill(Infinity, 0, 3).fill(-Infinity, 3); // prettier-ignore
    const { corners, size } = this.pieces;
    for (let k = from; k < to; k++) {
      const at = this.order[k] * size;
      for (let j = 0; j < size; j++) {
        const value = corners[at + j];
        if (value < box[j % 3]) box[j % 3] = value;
        if (value > box[3 + (j % 3)]) box[3 + (j % 3)] = value;
      }
    }
    if (to - from <= leafSize) {
      this.links[node * 2] = from;
      this.links[node * 2 + 1] = to - from;
      return node;
    }
    const axis = [0, 1, 2].reduce((best, k) => (box[3 + k] - box[k] > box[3 + best] - box[best] ? k : best), 0);
    const key = (piece: number): number => corners[piece * size + axis];
    const sorted = this.order.slice(from, to).sort((a, b) => key(a) - key(b) || a - b);
    this.order.set(sorted, from);
    const middle = (from + to) >> 1;
    this.build(from, middle);
    this.links[node * 2] = this.build(middle, to);
    return node;
  }

  private boxDistance(node: number, x: number, y: number, z: number): number {
    const b = this.boxes;
    const o = node * 6;
    const dx = Math.max(b[o] - x, 0, x - b[o + 3]);
    const dy = Math.max(b[o + 1] - y, 0, y - b[o + 4]);
    const dz = Math.max(b[o + 2] - z, 0, z - b[o + 5]);
    return dx * dx + dy * dy + dz * dz;
  }

  /** Finds the nearest place to x, y, z within `reach` metres; `hit.element` is −1 when there is none. */
  nearest(x: number, y: number, z: number, hit: Hit, reach = Infinity): Hit {
    hit.distance = reach;
    hit.element = hit.piece = -1;
    if (this.count) this.search(0, x, y, z, hit);
    return hit;
  }

  private search(node: number, x: number, y: number, z: number, hit: Hit): void {
    const count = this.links[node * 2 + 1];
    if (count) {
      for (let k = this.links[node * 2], end = k + count; k < end; k++) this.look(this.order[k], x, y, z, hit);
      return;
    }
    const [left, right] = [node + 1, this.links[node * 2]];
    const [dl, dr] = [this.boxDistance(left, x, y, z), this.boxDistance(right, x, y, z)];
    const within = (d: number): boolean => d < hit.distance * hit.distance;
    if (within(Math.min(dl, dr))) this.search(dl <= dr ? left : right, x, y, z, hit);
    if (within(Math.max(dl, dr))) this.search(dl <= dr ? right : left, x, y, z, hit);
  }

  private look(piece: number, x: number, y: number, z: number, hit: Hit): void {
    const { corners, size, element } = this.pieces;
    const o = piece * size;
    const w = weights;
    w[0] = 1;
    w[1] = w[2] = 0;
    if (size === 6) onSegment(corners, o, x, y, z);
    else if (size === 9) onTriangle(corners, o, x, y, z);
    let px = 0;
    let py = 0;
    let pz = 0;
    for (let j = 0; j * 3 < size; j++) {
      px += w[j] * corners[o + j * 3];
      py += w[j] * corners[o + j * 3 + 1];
      pz += w[j] * corners[o + j * 3 + 2];
    }
    const distance = Math.sqrt((px - x) ** 2 + (py - y) ** 2 + (pz - z) ** 2);
    if (!(distance < hit.distance)) return;
    hit.distance = distance;
    hit.piece = piece;
    hit.element = element[piece];
    hit.weights.set(w);
    hit.place[0] = px;
    hit.place[1] = py;
    hit.place[2] = pz;
  }
}

/** Weights of the corners at the nearest place of the piece looked at. */
const weights = new Float64Array(3);

function onSegment(c: Float64Array, o: number, x: number, y: number, z: number): void {
  const [dx, dy, dz] = [c[o + 3] - c[o], c[o + 4] - c[o + 1], c[o + 5] - c[o + 2]];
  const squared = dx * dx + dy * dy + dz * dz;
  const f = squared > 0 ? Math.min(1, Math.max(0, ((x - c[o]) * dx + (y - c[o + 1]) * dy + (z - c[o + 2]) * dz) / squared)) : 0;
  weights[0] = 1 - f;
  weights[1] = f;
}

/** The nearest place of a triangle by the regions of its corners, edges and inside (Ericson 2005, "Real-Time Collision Detection", 5.1.5). */
function onTriangle(c: Float64Array, o: number, x: number, y: number, z: number): void {
  const sub = (i: number, px: number, py: number, pz: number): [number, number, number] => [px - c[o + i], py - c[o + i + 1], pz - c[o + i + 2]];
  const dot = (p: readonly number[], q: readonly number[]): number => p[0] * q[0] + p[1] * q[1] + p[2] * q[2];
  const w = weights;
  const set = (a: number, b: number, d: number): void => {
    w[0] = a;
    w[1] = b;
    w[2] = d;
  };
  const ab = sub(0, c[o + 3], c[o + 4], c[o + 5]);
  const ac = sub(0, c[o + 6], c[o + 7], c[o + 8]);
  const ap = sub(0, x, y, z);
  const [d1, d2] = [dot(ab, ap), dot(ac, ap)];
  if (d1 <= 0 && d2 <= 0) return;
  const bp = sub(3, x, y, z);
  const [d3, d4] = [dot(ab, bp), dot(ac, bp)];
  if (d3 >= 0 && d4 <= d3) return set(0, 1, 0);
  const vc = d1 * d4 - d3 * d2;
  if (vc <= 0 && d1 >= 0 && d3 <= 0) {
    const f = d1 === d3 ? 0 : d1 / (d1 - d3);
    return set(1 - f, f, 0);
  }
  const cp = sub(6, x, y, z);
  const [d5, d6] = [dot(ab, cp), dot(ac, cp)];
  if (d6 >= 0 && d5 <= d6) return set(0, 0, 1);
  const vb = d5 * d2 - d1 * d6;
  if (vb <= 0 && d2 >= 0 && d6 <= 0) {
    const f = d2 === d6 ? 0 : d2 / (d2 - d6);
    return set(1 - f, 0, f);
  }
  const va = d3 * d6 - d5 * d4;
  if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
    const f = d4 - d3 + (d5 - d6) === 0 ? 0 : (d4 - d3) / (d4 - d3 + (d5 - d6));
    return set(0, 1 - f, f);
  }
  const sum = va + vb + vc;
  set(va / sum, vb / sum, vc / sum);
}
