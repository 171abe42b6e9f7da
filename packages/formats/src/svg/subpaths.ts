import SvgPath from 'svgpath';
import { makeCurves, type Attribute, type Curves } from '@filaxis/core';
import { FormatError } from '../errors.js';
import { farOrigin, originAttribute } from '../far.js';
import { arcPieces } from './arc.js';
import type { Matrix } from './matrix.js';

/** A subpath as corners with the places of the handles before and after each; y runs up. */
export interface Subpath {
  points: number[][];
  before: number[][];
  after: number[][];
  closed: boolean;
  /** Lines only. */
  straight: boolean;
}

const mostPoints = 5_000_000;

/**
 * Reads path data and adds its subpaths where the matrix puts them.
 * @throws FormatError naming the element and what is wrong with its data.
 */
export function readPath(data: string, [a, b, c, d, e, f]: Matrix, where: string, out: Subpath[]): void {
  const path = SvgPath(data);
  const fault = (path as unknown as { err?: string }).err;
  if (fault) throw new FormatError(`${where}: ${fault.replace(/^SvgPath: /, '')}.`);
  const at = (x: number, y: number): number[] => {
    const place = [a * x + c * y + e, -(b * x + d * y + f)];
    if (!Number.isFinite(place[0]) || !Number.isFinite(place[1])) throw new FormatError(`${where}: a place is not finite.`);
    return place;
  };
  let current: Subpath | null = null;
  const begin = (x: number, y: number): void => {
    finish();
    current = { points: [at(x, y)], before: [at(x, y)], after: [at(x, y)], closed: false, straight: true };
  };
  const finish = (): void => {
    if (current && current.points.length > 1) out.push(tidied(current));
    current = null;
  };
  const add = (ax: number, ay: number, bx: number, by: number, x: number, y: number): void => {
    const { points, before, after } = current!;
    if (points.length > mostPoints) throw new FormatError(`${where}: more than ${mostPoints} points.`);
    after[points.length - 1] = at(ax, ay);
    points.push(at(x, y));
    before.push(at(bx, by));
    after.push(at(x, y));
  };
  const line = (x: number, y: number, ex: number, ey: number): void => add(x + (ex - x) / 3, y + (ey - y) / 3, ex - (ex - x) / 3, ey - (ey - y) / 3, ex, ey);
  const bend: typeof add = (...places) => {
    current!.straight = false;
    add(...places);
  };
  // Short forms are written out before arcs become cubic pieces: what follows an arc takes nothing over from it.
  path
    .abs()
    .unshort()
    .iterate((segment: (string | number)[], _index: number, x: number, y: number) => {
      const [command, ...v] = segment as [string, ...number[]];
      if (command !== 'M' && !current) begin(x, y);
      if (command === 'M') begin(v[0], v[1]);
      else if (command === 'L') line(x, y, v[0], v[1]);
      else if (command === 'H') line(x, y, v[0], y);
      else if (command === 'V') line(x, y, x, v[0]);
      else if (command === 'C') bend(v[0], v[1], v[2], v[3], v[4], v[5]);
      else if (command === 'Q')
        bend(x + (2 / 3) * (v[0] - x), y + (2 / 3) * (v[1] - y), v[2] + (2 / 3) * (v[0] - v[2]), v[3] + (2 / 3) * (v[1] - v[3]), v[2], v[3]);
      else if (command === 'A')
        for (const piece of arcPieces(x, y, v[0], v[1], v[2], !!v[3], !!v[4], v[5], v[6])) bend(...(piece as [number, number, number, number, number, number]));
      else if (command === 'Z') {
        current!.closed = true;
        finish();
      }
    });
  finish();
}

/** A closed subpath that returns to its first point by itself does not repeat that point; one of a single piece gets a point halfway. */
function tidied(subpath: Subpath): Subpath {
  const { points, before, after, closed, straight } = subpath;
  const last = points.length - 1;
  const returns = Math.hypot(points[0][0] - points[last][0], points[0][1] - points[last][1]) <= 1e-9 * (1 + Math.hypot(...points[0]));
  if (!closed) return subpath;
  if (!returns) {
    // The piece that closes it is straight.
    const third = (from: number[], to: number[]): number[] => [from[0] + (to[0] - from[0]) / 3, from[1] + (to[1] - from[1]) / 3];
    before[0] = third(points[0], points[last]);
    after[last] = third(points[last], points[0]);
    return subpath;
  }
  if (last > 1) return { points: points.slice(0, last), before: [before[last], ...before.slice(1, last)], after: after.slice(0, last), closed, straight };
  const mix = (p: number[], q: number[]): number[] => [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
  const [p0, p1, p2, p3] = [points[0], after[0], before[1], points[1]];
  const [p01, p12, p23] = [mix(p0, p1), mix(p1, p2), mix(p2, p3)];
  const [left, right] = [mix(p01, p12), mix(p12, p23)];
  return { points: [p0, mix(left, right)], before: [p23, left], after: [p01, right], closed, straight };
}

/** All subpaths as curves: those of lines alone are straight, the others Bezier curves. */
export function toCurves(subpaths: readonly Subpath[]): Curves {
  const origin = farOrigin(subpaths.flatMap(({ points }) => points.flatMap(([x, y]) => [x, y, 0])));
  const starts = new Uint32Array(subpaths.length + 1);
  subpaths.forEach(({ points }, c) => (starts[c + 1] = starts[c] + points.length));
  const total = starts[subpaths.length];
  const positions = new Float32Array(total * 3);
  const handleIn = new Float32Array(total * 3);
  const handleOut = new Float32Array(total * 3);
  let at = 0;
  for (const { points, before, after } of subpaths) {
    points.forEach((p, i) => {
      for (let k = 0; k < 2; k++) {
        positions[at + k] = p[k] - (origin ? origin[k] : 0);
        handleIn[at + k] = before[i][k] - p[k];
        handleOut[at + k] = after[i][k] - p[k];
      }
      at += 3;
    });
  }
  const attributes = new Map<string, Attribute>([
    ...originAttribute(origin),
    ['handleIn', { carrier: 'point', size: 3, data: handleIn }],
    ['handleOut', { carrier: 'point', size: 3, data: handleOut }],
  ]);
  return makeCurves({
    positions,
    starts,
    closed: Uint8Array.from(subpaths, ({ closed }) => (closed ? 1 : 0)),
    kind: Uint8Array.from(subpaths, ({ straight }) => (straight ? 0 : 2)),
    attributes,
  });
}
