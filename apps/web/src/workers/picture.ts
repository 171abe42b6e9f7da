import {
  arraysOf,
  boundsOf,
  copiesBounds,
  curveCount,
  curveLengths,
  curvesBounds,
  expandedSize,
  faceCount,
  freshMemory,
  hasExactTangent,
  joinCurves,
  joinMeshes,
  paced,
  tangentsOf,
  triangleCount,
  triangulate,
  unionBounds,
  withoutCopies,
  type Copies,
  type Curves,
  type GeometrySet,
  type Memory,
  type Mesh,
} from '@filaxis/core';
import type { CurvesPicture, GhostPicture, PictureParcel } from '@filaxis/protocol';
import { apart, colourNames, meshValues, rangeOfValues, spreadOverCorners, valuesOf } from './colour';
import { eachPiece, linesOf } from './curveLines';
import { buffersHeldBy, meshParcel, type SentMesh } from './meshParcel';

/** What a picture is made of. */
export interface Content {
  readonly sets: readonly GeometrySet[];
  /** Drawn as curves before those in the results, so that they are numbered as the Path strip numbers them. */
  readonly paths: readonly Curves[];
  /** Faces that the outputs may have; 0: no budget. */
  readonly budget: number;
  readonly colour: string | null;
  /** Results that are seen faintly. */
  readonly ghost: readonly GeometrySet[];
}

/** What the page has of the last picture, by the results it came from. */
export interface Sent {
  readonly mesh: SentMesh | null;
  readonly copies: readonly SentMesh[];
  readonly curves: readonly Curves[];
  readonly colour: string | null;
}

const nothingSent: Sent = { mesh: null, copies: [], curves: [], colour: null };

function curvesPicture(curves: Curves, colour: string | null): CurvesPicture {
  const lines = paced(curves);
  const values = colour === null ? null : valuesOf(lines, 'point', colour);
  const lineValues: number[] = [];
  const curveOf: number[] = [];
  const points = lines.positions.length / 3;
  const pointCurve = new Uint32Array(points);
  for (let c = 0; c < curveCount(lines); c++) pointCurve.fill(c, lines.starts[c], lines.starts[c + 1]);
  eachPiece(lines, (from, to, curve) => {
    if (values) lineValues.push(values[from], values[to]);
    curveOf.push(curve);
  });
  const normal = lines.attributes.get('normal');
  return {
    lines: linesOf(lines),
    curveOf: Uint32Array.from(curveOf),
    points: lines.positions.slice(),
    tangents: normal || (points && hasExactTangent(lines, 0)) ? tangentsOf(lines).slice() : new Float32Array(0),
    normals: normal?.carrier === 'point' ? normal.data.slice() : new Float32Array(0),
    pointCurve,
    lineValues: values && Float32Array.from(lineValues),
  };
}

/**
 * Puts results together for the 3D view. What the page has since the last picture, by what was `before`, is left out; buffers are taken from `memory` and
 * are the parcel's alone.
 */
export function makePicture(
  { sets, paths, budget, colour, ghost }: Content,
  before: Sent = nothingSent,
  memory: Memory = freshMemory,
): { parcel: PictureParcel; sent: Sent } {
  const meshes = sets.flatMap((set) => (set.mesh ? [set.mesh] : []));
  const shown = sets.flatMap((set) => (set.curves ? [set.curves] : []));
  const joined = meshes.length ? joinMeshes(meshes) : null;
  const { mesh, values } = colouredMesh(joined, meshes, colour);
  const surface = mesh && mesh.corners.length ? meshParcel(mesh, values, before.mesh, memory) : null;
  const drawn = [...new Set([...paths, ...shown])];
  const curves = drawn.length ? joinCurves(drawn) : null;
  const own = shown.length ? joinCurves(shown) : null;
  const counted = own ?? curves;
  const placed = sets.flatMap((set) => (set.copies?.object.length ? [set.copies] : []));
  const inPlace = placed.map(expandedSize);
  const triangles = placed.reduce((sum, copies) => sum + copies.object.reduce((own, which) => own + triangleCount(copies.objects[which]), 0), 0);
  let bounds = unionBounds(mesh && boundsOf(mesh.positions), own && curvesBounds(own));
  for (const copies of placed) bounds = unionBounds(bounds, copiesBounds(copies));
  // What is only there to make something of counts where nothing else does.
  bounds ??= curves && curvesBounds(curves);
  const copies = placed
    .flatMap((each) => objectsOf(each, colour))
    .map((each, i) => ({ ...each, ...meshParcel(each.mesh, null, before.copies[i] ?? null, memory) }));
  const curvesStay = colour === null && before.colour === null && drawn.length === before.curves.length && drawn.every((each, i) => each === before.curves[i]);
  const curvesShown = curves && curves.positions.length && !curvesStay ? curvesPicture(curves, colour) : null;
  const range = colour === null ? null : rangeOfValues([values, ...copies.map((each) => each.values), ...(mesh ? [] : [curvesShown?.lineValues ?? null])]);
  const parcel: PictureParcel = {
    mesh: surface && surface.parcel,
    copies: copies.map(({ parcel: object, matrices, values: tints }) => ({ mesh: object, matrices, values: tints })),
    curves: curves?.positions.length && curvesStay ? 'same' : curvesShown,
    names: [...new Set([...meshes, ...shown, ...placed].flatMap(colourNames))],
    colour: colour !== null && range ? { name: colour, ...range } : null,
    counts: {
      faces: (mesh ? faceCount(mesh) : 0) + inPlace.reduce((sum, { faces }) => sum + faces, 0),
      triangles: (mesh ? triangleCount(mesh) : 0) + triangles,
      copies: placed.reduce((sum, { object }) => sum + object.length, 0),
      points: (joined?.pointCount ?? 0) + inPlace.reduce((sum, { vertices }) => sum + vertices, 0) + (own ? own.positions.length / 3 : 0),
      curves: counted ? curveCount(counted) : 0,
      length: counted ? curveLengths(counted).reduce((sum, length) => sum + length, 0) : 0,
    },
    ghost: ghost.length ? ghostPicture(ghost) : null,
    bounds: bounds && { min: [...bounds.min], max: [...bounds.max] },
    budget,
  };
  return { parcel, sent: { mesh: surface && surface.sent, copies: copies.map((each) => each.sent), curves: drawn, colour } };
}

/** The meshes as one, with a number a vertex for colour: those that do not have the name are unknown. Values of faces need the faces apart. */
function colouredMesh(joined: Mesh | null, meshes: readonly Mesh[], colour: string | null): { mesh: Mesh | null; values: Float32Array | null } {
  if (!joined || colour === null) return { mesh: joined, values: null };
  const lists = meshes.map((mesh) => meshValues(mesh, colour));
  if (!lists.some((list) => list)) return { mesh: joined, values: new Float32Array(joined.positions.length / 3).fill(NaN) };
  const perFace = lists.some((list) => list?.per === 'face');
  const values = new Float32Array(perFace ? joined.corners.length : joined.positions.length / 3);
  let at = 0;
  meshes.forEach((mesh, which) => {
    const list = lists[which];
    const count = perFace ? mesh.corners.length : mesh.positions.length / 3;
    if (!list) values.fill(NaN, at, at + count);
    else if (!perFace) values.set(list.values, at);
    else values.set(list.per === 'face' ? spreadOverCorners(mesh, list.values) : Float32Array.from(mesh.corners, (vertex) => list.values[vertex]), at);
    at += count;
  });
  return { mesh: perFace ? apart(joined) : joined, values };
}

/** Each object that is used, with the matrices of its copies. */
function objectsOf(copies: Copies, colour: string | null): { mesh: Mesh; matrices: Float32Array; values: Float32Array | null }[] {
  const { objects, object, matrices } = copies;
  const values = colour === null ? null : valuesOf(copies, 'copy', colour);
  return objects.flatMap((mesh, which) => {
    const own = Array.from(object, (used, i) => (used === which ? i : -1)).filter((i) => i >= 0);
    if (!own.length || !mesh.corners.length) return [];
    const list = new Float32Array(own.length * 16);
    own.forEach((copy, i) => list.set(matrices.subarray(copy * 16, copy * 16 + 16), i * 16));
    return [{ mesh, matrices: list, values: values && Float32Array.from(own, (copy) => values[copy]) }];
  });
}

/** Other results as bare triangles and lines; copies are left out where they would be too many. */
function ghostPicture(sets: readonly GeometrySet[]): GhostPicture {
  const whole = sets.map((set) => (set.copies && expandedSize(set.copies).faces > 200_000 ? set : withoutCopies(set)));
  const meshes = whole.flatMap(({ mesh }) => (mesh ? [mesh] : []));
  const mesh = meshes.length ? joinMeshes(meshes) : null;
  const curves = whole.flatMap(({ curves: each }) => (each ? [each] : []));
  const indices = mesh ? triangulate(mesh).indices.slice() : new Uint32Array(0);
  return {
    positions: mesh ? mesh.positions.slice() : new Float32Array(0),
    indices,
    lines: curves.length ? linesOf(paced(joinCurves(curves))) : new Float32Array(0),
  };
}

/** Buffers of results that the next picture is compared with. */
export const heldBy = ({ mesh, copies, curves }: Sent): ArrayBufferLike[] => [
  ...[...(mesh ? [mesh] : []), ...copies].flatMap(buffersHeldBy),
  ...curves.flatMap((each) => arraysOf(each).map(({ buffer }) => buffer)),
];
