import { asBezier } from '../curves/evaluate/knots.js';
import { identityOf, seedsOfPoints } from '../curves/evaluate/pointSeeds.js';
import { gatherRows, withAttributes, type Attribute, type Carrier } from '../geometry/attributes.js';
import { makeCopies, type Copies } from '../geometry/copies.js';
import { curveCount, type Curves } from '../geometry/curves.js';
import { gatherCurves, gatherPoints, takeCurves } from '../geometry/gather.js';
import type { Geometry } from '../geometry/geometry.js';
import { faceCount, faceStart, type Mesh } from '../geometry/mesh.js';
import { takeFaces } from '../mesh/change/takeFaces.js';
import type { Work } from '../base/work.js';
import { elementCount, type PerElement } from '../varying/perElement.js';

/** A geometry of some of its elements (rising numbers), with their values. Curves of which points go fall into pieces; a mesh keeps the faces all of whose vertices are kept. */
export function takeElements<G extends Geometry>(geometry: G, per: PerElement, which: readonly number[], work: Work): G {
  return taken(named(geometry, per), per, which, work) as G;
}

/**
 * The geometry with identities written down, so that what is left of it draws the chances that it drew among all. Faces and vertices are not: files would have
 * a number for each of them.
 */
function named(geometry: Geometry, per: PerElement): Geometry {
  if (geometry.type === 'mesh') return geometry;
  let { attributes } = geometry;
  const name = (carrier: Carrier, id: string, data: () => Float32Array): void => {
    if (!identityOf({ attributes }, carrier)) attributes = withAttributes(attributes, { [id]: { carrier, size: 1, data: data() } });
  };
  const numbers = (count: number) => (): Float32Array => Float32Array.from({ length: count }, (_, i) => i);
  if (geometry.type === 'points') name('point', 'id', numbers(elementCount(geometry, 'point')));
  else if (geometry.type === 'copies') name('copy', 'id', numbers(elementCount(geometry, 'copy')));
  else {
    // Points of a curve that falls into pieces keep their seeds; they follow from the curve's where it stays whole.
    if (per === 'point') name('point', 'seed', () => Float32Array.from(seedsOfPoints(geometry)));
    name('curve', 'id', numbers(curveCount(geometry)));
  }
  return { ...geometry, attributes };
}

function taken(geometry: Geometry, per: PerElement, which: readonly number[], work: Work): Geometry {
  switch (geometry.type) {
    case 'mesh':
      return takeFaces(geometry, per === 'face' ? which : facesWithin(geometry, which), work);
    case 'curves':
      return per === 'curve' ? takeCurves(geometry, which) : runsOf(geometry, which);
    case 'points':
      return gatherPoints(geometry, which);
    case 'copies':
      return takeCopies(geometry, which);
  }
}

function facesWithin(mesh: Mesh, vertices: readonly number[]): number[] {
  const kept = new Uint8Array(mesh.positions.length / 3);
  for (const v of vertices) kept[v] = 1;
  const faces: number[] = [];
  for (let f = 0; f < faceCount(mesh); f++) {
    let whole = true;
    for (let i = faceStart(mesh, f); i < faceStart(mesh, f + 1) && whole; i++) whole = kept[mesh.corners[i]] === 1;
    if (whole) faces.push(f);
  }
  return faces;
}

/** The runs of kept points of each curve, as curves of their own; a closed curve that is kept whole stays closed. */
function runsOf(given: Curves, which: readonly number[]): Curves {
  const curves = asBezier(given);
  const kept = new Uint8Array(curves.positions.length / 3);
  for (const i of which) kept[i] = 1;
  const points: number[] = [];
  const starts = [0];
  const sources: number[] = [];
  const closed: number[] = [];
  const end = (curve: number, whole: boolean): void => {
    if (points.length === starts.at(-1)) return;
    starts.push(points.length);
    sources.push(curve);
    closed.push(Number(whole));
  };
  for (let c = 0; c < curveCount(curves); c++) {
    const [from, to] = [curves.starts[c], curves.starts[c + 1]];
    const n = to - from;
    const gap = Array.from({ length: n }, (_, i) => i).findIndex((i) => !kept[from + i]);
    const round = curves.closed[c] === 1;
    // A closed curve is gone round from a point that goes, so that no run is cut where it happens to begin.
    const first = round && gap >= 0 ? gap : 0;
    for (let i = 0; i < n; i++) {
      const point = from + ((first + i) % n);
      if (kept[point]) points.push(point);
      else end(c, false);
    }
    end(c, round && gap < 0);
  }
  return gatherCurves(curves, { points, starts, sources, closed });
}

function takeCopies({ objects, object, matrices, attributes }: Copies, which: readonly number[]): Copies {
  const rows = new Map<string, Attribute>();
  for (const [name, attribute] of attributes) rows.set(name, attribute.carrier === 'copy' ? { ...attribute, data: gatherRows(attribute, which) } : attribute);
  return makeCopies(objects, Uint32Array.from(which, (i) => object[i]), gatherRows({ carrier: 'copy', size: 16, data: matrices }, which), rows); // prettier-ignore
}
