import { curveCount, curveKinds, curvesFromLists, type Curves } from '../../geometry/curves.js';
import type { Mesh } from '../../geometry/mesh.js';
import { chord } from '../../curves/evaluate/arcLength.js';
import { asBezier } from '../../curves/evaluate/knots.js';
import { pacedAlike, resample, type ResampleOptions } from '../../curves/change/resample.js';
import { reverse, runsAgainst } from '../../curves/change/reverse.js';
import { spanPoint, spansOf } from '../../curves/evaluate/spans.js';
import { intoPlane, planeThrough } from '../../curves/evaluate/plane.js';
import { tick, unbounded, type Work } from '../../base/work.js';
import { MeshBuilder } from '../../mesh/make/builder.js';
import { flipFaces, smoothNormals } from '../../mesh/change/normals.js';
import { signedVolume } from '../../mesh/topology/areas.js';
import { isConvex, signedArea, triangulatePolygon } from '../../mesh/topology/polygon.js';
import { constantField } from '../../values/field.js';
import { CapPlacer, type CapLayout } from '../parts/capUv.js';
import { skinParts } from '../parts/sink.js';

export interface LoftOptions extends CapLayout {
  /** Points along each curve; 0: as the curves have them. */
  readonly columns: number;
  /** Without columns: smooth curves get points between their own, one for each 7.5° that they turn. */
  readonly sampled: boolean;
  /** Rows put between each two curves. */
  readonly across: number;
  /** Rows in all, spaced anew from the first curve to the last; 0: as `across` has it. */
  readonly rows: number;
  /** Straight from curve to curve, or smooth through them (centripetal Catmull–Rom). */
  readonly smooth: 'linear' | 'through';
  readonly closedAcross: boolean;
  /** Turns curves that run against the one before. */
  readonly matchDirection: boolean;
  readonly spread: ResampleOptions['spread'];
  readonly flip: boolean;
  readonly caps: 'open' | 'flat';
  readonly uvScale: number;
  /**
   * What to do when curves have different numbers of points and `columns` is 0: how many places of each curve are joined, beginning again where one has
   * fewer; or null to give all as many, evenly, as the richest has.
   */
  readonly unequal: (counts: Readonly<Record<string, number>>) => number | null;
}

/** A grid of places, row after row, 3 numbers each. */
interface Grid {
  readonly places: Float64Array;
  readonly rows: number;
  readonly columns: number;
}

/**
 * A surface over curves: a row of faces between each and the next. u runs along the curves by their length, v across by length; faces wind so that
 * the direction of the curves × the direction across points outwards, and closed lofts face outwards anyway.
 * @throws RangeError when there are fewer than two curves, or their points do not match.
 */
export function loft(given: Curves, options: LoftOptions, work: Work = unbounded): Mesh {
  const usable = curveCount(given);
  if (usable < 2) throw new RangeError(`A loft needs two curves or more; it got ${usable}.`);
  for (let c = 0; c < usable; c++)
    if (given.starts[c + 1] - given.starts[c] < 2)
      throw new RangeError(`Curve ${c + 1} has ${given.starts[c + 1] - given.starts[c]} points; a loft needs curves of two or more.`);
  const closed = given.closed[0] === 1;
  for (let c = 1; c < usable; c++)
    if ((given.closed[c] === 1) !== closed)
      throw new RangeError(`Curve 1 is ${closed ? 'closed' : 'open'} and curve ${c + 1} is ${closed ? 'open' : 'closed'}; a loft needs all alike.`);
  const first = firstRows(given, options, closed, work);
  const grid = acrossRows(first, options, work);
  work.claim({ vertices: grid.rows * grid.columns, faces: grid.rows * grid.columns });
  const mesh = gridMesh(grid, closed, options, work);
  const outwards = closed && (options.caps === 'flat' || options.closedAcross) && signedVolume(mesh) < 0 ? flipFaces(mesh) : mesh;
  return options.flip ? flipFaces(outwards) : outwards;
}

/** The curves as rows of equally many places. */
function firstRows(given: Curves, options: LoftOptions, closed: boolean, work: Work): Grid {
  let curves = options.columns ? evenly(given, options.columns, options.spread, work) : onCurve(given);
  if (options.matchDirection) curves = matched(curves);
  const rows = curveCount(curves);
  const countsOf = (of: Curves): number[] => Array.from({ length: rows }, (_, c) => of.starts[c + 1] - of.starts[c]);
  let counts = countsOf(curves);
  if (!options.columns && options.sampled && counts.every((count) => count === counts[0])) counts = countsOf((curves = pacedAlike(curves, work)));
  let columns = counts[0];
  if (counts.some((count) => count !== counts[0])) {
    const most = counts.reduce((a, b) => Math.max(a, b));
    const joined = options.unequal(Object.fromEntries(counts.map((count, c) => [`curve ${c + 1}:`, count])));
    if (joined === null) counts = countsOf((curves = evenly(curves, Math.max(most, closed ? 3 : 2), options.spread, work)));
    columns = joined ?? counts[0];
  }
  if (columns < (closed ? 3 : 2)) throw new RangeError(`A loft needs ${closed ? 3 : 2} points or more along each curve; it would get ${columns}.`);
  const places = new Float64Array(rows * columns * 3);
  for (let c = 0; c < rows; c++)
    for (let j = 0; j < columns; j++)
      for (let k = 0; k < 3; k++) places[(c * columns + j) * 3 + k] = curves.positions[(curves.starts[c] + (j % counts[c])) * 3 + k];
  return { places, rows, columns };
}

/** Points as they are, but on the curve. */
const onCurve = (given: Curves): Curves => (given.kind.some((kind) => curveKinds[kind] === 'bspline') ? asBezier(given) : given);

const evenly = (curves: Curves, count: number, spread: ResampleOptions['spread'], work: Work): Curves =>
  resample(curves, { by: 'count', count: constantField(count), spacing: constantField(1), deviation: 1, fit: 'even', spread }, work);

/** Each curve turned where it runs against the one before it. */
function matched(curves: Curves): Curves {
  let result = curves;
  for (let c = 1; c < curveCount(curves); c++) {
    if (!runsAgainst(result, c, c - 1)) continue;
    const which = new Uint8Array(curveCount(curves));
    which[c] = 1;
    result = reverse(result, which);
  }
  return result;
}

/** More rows, along curves that run across through the columns. */
function acrossRows(grid: Grid, options: LoftOptions, work: Work): Grid {
  const { places, rows, columns } = grid;
  if (!options.across && !options.rows) return grid;
  const closed = options.closedAcross && rows > 2;
  const lists = Array.from({ length: columns }, (_, j) =>
    Array.from({ length: rows }, (_, c) => Array.from(places.subarray((c * columns + j) * 3, (c * columns + j) * 3 + 3))),
  );
  const lines = curvesFromLists(lists, { kind: options.smooth === 'through' ? 'through' : 'straight', closed: lists.map(() => closed) });
  if (options.rows) {
    const made = evenly(lines, options.rows, options.spread, work);
    return transposed(made, options.rows, columns);
  }
  const per = options.across + 1;
  const total = (closed ? rows : rows - 1) * per + (closed ? 0 : 1);
  const out = new Float64Array(total * columns * 3);
  for (let j = 0; j < columns; j++) {
    const spans = spansOf(lines, j);
    for (let r = 0; r < total; r++) {
      tick(work, j * total + r, columns * total);
      const last = r === total - 1 && !closed;
      spanPoint(spans, last ? spans.count - 1 : Math.floor(r / per), last ? 1 : (r % per) / per, out, (r * columns + j) * 3);
    }
  }
  return { places: out, rows: total, columns };
}

function transposed(lines: Curves, rows: number, columns: number): Grid {
  const places = new Float64Array(rows * columns * 3);
  for (let j = 0; j < columns; j++)
    for (let r = 0; r < rows; r++) for (let k = 0; k < 3; k++) places[(r * columns + j) * 3 + k] = lines.positions[(j * rows + r) * 3 + k];
  return { places, rows, columns };
}

/** Lengths along a line of the grid: from its start to each place, and once round when closed. */
function along(places: Float64Array, from: number, step: number, count: number, closed: boolean): Float64Array {
  const result = new Float64Array(count + (closed ? 1 : 0));
  for (let i = 1; i < result.length; i++) result[i] = result[i - 1] + chord(places, from + (i - 1) * step, from + (i % count) * step);
  return result;
}

function gridMesh({ places, rows, columns }: Grid, closed: boolean, options: LoftOptions, work: Work): Mesh {
  const builder = new MeshBuilder();
  const closedAcross = options.closedAcross && rows > 2;
  const wide = columns + (closed ? 1 : 0);
  const high = rows + (closedAcross ? 1 : 0);
  const pointOf = samePoints(builder, places, rows, columns, work);
  const across = Array.from({ length: columns }, (_, j) => along(places, j, columns, rows, closedAcross));
  const scaled = (list: Float64Array, i: number): number => {
    if (options.uvScale > 0) return list[i] / options.uvScale;
    const whole = list[list.length - 1];
    return whole > 0 ? list[i] / whole : i / (list.length - 1);
  };
  for (let r = 0; r < high; r++) {
    const row = r % rows;
    const around = along(places, row * columns, 1, columns, closed);
    for (let j = 0; j < wide; j++) {
      const at = row * columns + (j % columns);
      tick(work, builder.vertices, wide * high);
      builder.vertex(places[at * 3], places[at * 3 + 1], places[at * 3 + 2], pointOf[at], scaled(around, j), scaled(across[j % columns], r));
    }
  }
  for (let r = 0; r + 1 < high; r++)
    for (let j = 0; j + 1 < wide; j++) {
      const a = r * wide + j;
      tick(work, a, wide * high);
      builder.face(skinParts.wall, [a, a + 1, a + wide + 1, a + wide]);
    }
  if (options.caps === 'flat' && closed && !closedAcross) {
    flatEnd(builder, places, 0, columns, pointOf, options, -1);
    flatEnd(builder, places, (rows - 1) * columns, columns, pointOf, options, 1);
  }
  return withCapNormals(builder.finish(), work);
}

/** One point for each place of the grid; places equal to their neighbour before, along or across, share its point. */
function samePoints(builder: MeshBuilder, places: Float64Array, rows: number, columns: number, work: Work): Uint32Array {
  const pointOf = new Uint32Array(rows * columns);
  const same = (a: number, b: number): boolean =>
    places[a * 3] === places[b * 3] && places[a * 3 + 1] === places[b * 3 + 1] && places[a * 3 + 2] === places[b * 3 + 2];
  for (let r = 0; r < rows; r++)
    for (let j = 0; j < columns; j++) {
      const at = r * columns + j;
      tick(work, at, rows * columns);
      if (j > 0 && same(at, at - 1)) pointOf[at] = pointOf[at - 1];
      else if (r > 0 && same(at, at - columns)) pointOf[at] = pointOf[at - columns];
      else pointOf[at] = builder.point();
    }
  return pointOf;
}

/** Closes one end with flat faces. */
function flatEnd(builder: MeshBuilder, places: Float64Array, from: number, columns: number, pointOf: Uint32Array, options: LoftOptions, outward: -1 | 1): void {
  const plane = planeThrough(places, from, from + columns);
  const local = intoPlane(plane, places, from, from + columns);
  const flat: number[] = [];
  for (let j = 0; j < columns; j++) flat.push(local[j * 3], local[j * 3 + 1]);
  const middle = [0, 1].map((k) => flat.filter((_, i) => i % 2 === k).reduce((sum, value) => sum + value, 0) / columns);
  const reach = Math.max(...Array.from({ length: columns }, (_, j) => Math.hypot(flat[j * 2] - middle[0], flat[j * 2 + 1] - middle[1])));
  const placer = new CapPlacer(options, options.uvScale);
  const scale = placer.perMetre(reach);
  // Rows run round one way or the other; the first end is seen from below, the last from above.
  const turned = signedArea(flat) > 0 !== outward > 0;
  const vertices = Array.from({ length: columns }, (_, j) => {
    const [x, y] = [(flat[j * 2] - middle[0]) * scale * (turned ? -1 : 1), (flat[j * 2 + 1] - middle[1]) * scale];
    const o = (from + j) * 3;
    return builder.vertex(places[o], places[o + 1], places[o + 2], pointOf[from + j], placer.u(x, y), placer.v(x, y));
  });
  const part = outward < 0 ? skinParts.capStart : skinParts.capEnd;
  const triangles = triangulatePolygon(flat);
  // One polygon where that is right, and where an outline that crosses itself has no whole set of ears.
  if (isConvex(flat) || triangles.length !== (columns - 2) * 3) {
    builder.face(part, outward > 0 ? vertices : [...vertices].reverse());
    return;
  }
  for (let k = 0; k < triangles.length; k += 3) {
    const [a, b, c] = [vertices[triangles[k]], vertices[triangles[k + 1]], vertices[triangles[k + 2]]];
    const forward = signedArea(flat) > 0 === outward > 0;
    builder.face(part, forward ? [a, b, c] : [c, b, a]);
  }
}

/** Normals of the wall smooth over its seams; caps keep to their own planes, since none of their vertices are the wall's. */
function withCapNormals(mesh: Mesh, work: Work): Mesh {
  // Curves that lie on each other have nothing between them.
  if (!mesh.corners.length) return mesh;
  const part = mesh.attributes.get('part')!.data;
  if (!part.some((value) => value > 0)) return smoothNormals(mesh, work);
  // Points of each part apart, only for the means.
  const apart = new Uint32Array(mesh.positions.length / 3);
  const partOfVertex = new Uint8Array(apart.length);
  const starts = mesh.faceStarts;
  for (let f = 0; f < part.length; f++) {
    const from = starts ? starts[f] : f * mesh.uniform;
    const to = starts ? starts[f + 1] : (f + 1) * mesh.uniform;
    for (let i = from; i < to; i++) partOfVertex[mesh.corners[i]] = part[f];
  }
  for (let v = 0; v < apart.length; v++) apart[v] = mesh.pointOf![v] + partOfVertex[v] * mesh.pointCount;
  const smooth = smoothNormals({ ...mesh, pointOf: apart, pointCount: mesh.pointCount * 3 }, work);
  return { ...mesh, attributes: smooth.attributes };
}
