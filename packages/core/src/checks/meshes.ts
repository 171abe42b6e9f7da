import { faceCount, faceStart, type Mesh } from '../geometry/mesh.js';
import { tick, unbounded, type Work } from '../base/work.js';
import { edgesOf } from '../mesh/topology/edgeTable.js';
import { faceAreas } from '../mesh/topology/areas.js';
import { samePlaces } from '../mesh/topology/samePlaces.js';

/** What was found on a mesh: how many, and a place of the first. */
export interface MeshFault {
  readonly kind: 'inside-out' | 'winding' | 'hole' | 'double' | 'degenerate' | 'shading' | 'stretch';
  readonly count: number;
  readonly place: readonly [number, number, number];
  readonly message: string;
}

type Place = readonly [number, number, number];

const known = new WeakMap<Mesh, readonly MeshFault[]>();

/**
 * Inside-out shells, faces against their neighbours, open edges, doubled points, faces of no area, normals that look into their faces and stretched UVs of
 * a mesh. Kept as long as the
 * mesh is. Whatever `work` throws stops it.
 */
export function meshFaults(mesh: Mesh, work: Work = unbounded): readonly MeshFault[] {
  let faults = known.get(mesh);
  if (!faults) known.set(mesh, (faults = [edgeFaults, doubles, noArea, shadedAgainst, stretched].flatMap((find) => find(mesh, work))));
  return faults;
}

const vertexPlace = (mesh: Mesh, vertex: number): Place => [mesh.positions[vertex * 3], mesh.positions[vertex * 3 + 1], mesh.positions[vertex * 3 + 2]];
const facePlace = (mesh: Mesh, face: number): Place => {
  const sum = [0, 0, 0];
  const [from, to] = [faceStart(mesh, face), faceStart(mesh, face + 1)];
  for (let j = from; j < to; j++) for (let k = 0; k < 3; k++) sum[k] += mesh.positions[mesh.corners[j] * 3 + k] / (to - from);
  return [sum[0], sum[1], sum[2]];
};
const some = (count: number, one: string, many: string): string => `${count.toLocaleString('en-GB')} ${count === 1 ? one : many}`;

function edgeFaults(mesh: Mesh, work: Work): MeshFault[] {
  const shell = new Uint32Array(faceCount(mesh)).map((_, f) => f);
  const rootOf = (f: number): number => {
    let root = f;
    while (shell[root] !== root) root = shell[root];
    while (shell[f] !== root) [shell[f], f] = [root, shell[f]];
    return root;
  };
  let [open, firstOpen, against, firstAgainst] = [0, -1, 0, -1];
  const openShells = new Set<number>();
  const openFaces: number[] = [];
  const edges = edgesOf(mesh, work);
  for (let e = 0; e < edges.count; e++) {
    tick(work, e, edges.count);
    const [a, b] = [edges.face[e * 2], edges.face[e * 2 + 1]];
    if (edges.sides[e] === 1) {
      if (!open++) firstOpen = mesh.corners[edges.from[e * 2]];
      openFaces.push(a);
    } else {
      shell[rootOf(b)] = rootOf(a);
      if (edges.sides[e] === 2 && edges.against[e] && !against++) firstAgainst = mesh.corners[edges.from[e * 2]];
    }
  }
  for (const face of openFaces) openShells.add(rootOf(face));
  const faults: MeshFault[] = [];
  if (against)
    faults.push({
      kind: 'winding',
      count: against,
      place: vertexPlace(mesh, firstAgainst),
      message: `${some(against, 'edge lies', 'edges lie')} between faces that look opposite ways.`,
    });
  if (open)
    faults.push({
      kind: 'hole',
      count: open,
      place: vertexPlace(mesh, firstOpen),
      message: `${some(open, 'edge is', 'edges are')} open: the surface has a border there.`,
    });
  faults.push(...insideOut(mesh, rootOf, openShells, work));
  return faults;
}

/** Closed shells of negative volume. Volumes are summed about each shell's own first corner. */
function insideOut(mesh: Mesh, rootOf: (f: number) => number, open: ReadonlySet<number>, work: Work): MeshFault[] {
  const p = mesh.positions;
  const volumes = new Map<number, number>();
  for (let f = 0; f < faceCount(mesh); f++) {
    tick(work, f, faceCount(mesh));
    const root = rootOf(f);
    if (open.has(root)) continue;
    const o = mesh.corners[faceStart(mesh, root)] * 3;
    const at = (corner: number, k: number): number => p[mesh.corners[corner] * 3 + k] - p[o + k];
    const from = faceStart(mesh, f);
    let sum = 0;
    for (let j = from + 1; j + 1 < faceStart(mesh, f + 1); j++)
      sum +=
        at(from, 0) * (at(j, 1) * at(j + 1, 2) - at(j, 2) * at(j + 1, 1)) +
        at(from, 1) * (at(j, 2) * at(j + 1, 0) - at(j, 0) * at(j + 1, 2)) +
        at(from, 2) * (at(j, 0) * at(j + 1, 1) - at(j, 1) * at(j + 1, 0));
    volumes.set(root, (volumes.get(root) ?? 0) + sum);
  }
  const wrong = [...volumes].filter(([, volume]) => volume < 0).map(([root]) => root);
  if (!wrong.length) return [];
  return [
    {
      kind: 'inside-out',
      count: wrong.length,
      place: facePlace(mesh, wrong[0]),
      message: `${some(wrong.length, 'closed shell is', 'closed shells are')} inside-out: faces look inwards.`,
    },
  ];
}

/** Points at the very same place that are not one point: the surface is not joined there. */
function doubles(mesh: Mesh, work: Work): MeshFault[] {
  const { positions, pointOf } = mesh;
  const places = samePlaces(positions, work);
  // The point that was met first at each place; another one there is a double.
  const first = new Int32Array(places.count).fill(-1);
  const looked = new Uint8Array(mesh.pointCount);
  let [count, at] = [0, -1];
  for (let v = 0; v < positions.length / 3; v++) {
    const point = pointOf ? pointOf[v] : v;
    if (looked[point]) continue;
    looked[point] = 1;
    const place = places.pointOf[v];
    if (first[place] < 0) first[place] = point;
    else if (!count++) at = v;
  }
  if (!count) return [];
  return [
    {
      kind: 'double',
      count,
      place: vertexPlace(mesh, at),
      message: `${some(count, 'point lies', 'points lie')} exactly on another without being joined to it.`,
    },
  ];
}

function noArea(mesh: Mesh, work: Work): MeshFault[] {
  work.progress(0);
  const areas = faceAreas(mesh);
  let [count, first] = [0, -1];
  for (let f = 0; f < faceCount(mesh); f++) if (!(areas[f * 3] ** 2 + areas[f * 3 + 1] ** 2 + areas[f * 3 + 2] ** 2 > 1e-24) && !count++) first = f;
  if (!count) return [];
  return [{ kind: 'degenerate', count, place: facePlace(mesh, first), message: `${some(count, 'face has', 'faces have')} no area.` }];
}

/** Sine of the angle below its face's plane that a corner's normal may have: smooth edges of thin bodies come near it. */
const belowPlane = 0.05;

/** Faces with a corner whose normal looks into them, so that light falls on them from behind. */
function shadedAgainst(mesh: Mesh, work: Work): MeshFault[] {
  const normals = mesh.attributes.get('normal');
  if (normals?.carrier !== 'corner') return [];
  const areas = faceAreas(mesh);
  let [count, first] = [0, -1];
  for (let f = 0; f < faceCount(mesh); f++) {
    tick(work, f, faceCount(mesh));
    const [x, y, z] = areas.subarray(f * 3, f * 3 + 3);
    const limit = -belowPlane * Math.sqrt(x * x + y * y + z * z);
    const end = faceStart(mesh, f + 1);
    for (let j = faceStart(mesh, f); j < end; j++) {
      const o = mesh.corners[j] * 3;
      if (!(normals.data[o] * x + normals.data[o + 1] * y + normals.data[o + 2] * z < limit)) continue;
      if (!count++) first = f;
      break;
    }
  }
  if (!count) return [];
  return [{ kind: 'shading', count, place: facePlace(mesh, first), message: `The normals of ${some(count, 'face', 'faces')} look into the surface.` }];
}

/** Quads of the wall whose UVs are squeezed or stretched to more than twice the mesh's usual proportion of along to around. */
function stretched(mesh: Mesh, work: Work): MeshFault[] {
  const uv = mesh.attributes.get('uv');
  const part = mesh.attributes.get('part')?.data;
  if (uv?.size !== 2) return [];
  const p = mesh.positions;
  const faces: number[] = [];
  const proportions: number[] = [];
  const length = (a: number, b: number): number =>
    Math.sqrt((p[b * 3] - p[a * 3]) ** 2 + (p[b * 3 + 1] - p[a * 3 + 1]) ** 2 + (p[b * 3 + 2] - p[a * 3 + 2]) ** 2);
  const uvLength = (a: number, b: number): number => Math.sqrt((uv.data[b * 2] - uv.data[a * 2]) ** 2 + (uv.data[b * 2 + 1] - uv.data[a * 2 + 1]) ** 2);
  for (let f = 0; f < faceCount(mesh); f++) {
    tick(work, f, faceCount(mesh));
    const from = faceStart(mesh, f);
    if (faceStart(mesh, f + 1) - from !== 4 || part?.[f]) continue;
    const [a, b, d] = [mesh.corners[from], mesh.corners[from + 1], mesh.corners[from + 3]];
    const around = length(a, b) / uvLength(a, b);
    const along = length(a, d) / uvLength(a, d);
    if (!(around > 0 && along > 0 && around < Infinity && along < Infinity)) continue;
    faces.push(f);
    proportions.push(along / around);
  }
  const usual = Float64Array.from(proportions).sort()[proportions.length >> 1] ?? 1;
  work.progress(1);
  const skew = (k: number): number => Math.max(proportions[k] / usual, usual / proportions[k]);
  let [count, worst] = [0, 0];
  for (let k = 0; k < faces.length; k++) {
    if (skew(k) > 2) count++;
    if (skew(k) > skew(worst)) worst = k;
  }
  if (!count) return [];
  const long = proportions[worst] > usual;
  return [
    {
      kind: 'stretch',
      count,
      place: facePlace(mesh, faces[worst]),
      message: `A texture is up to ${skew(worst).toPrecision(2)} times as ${long ? 'long' : 'wide'} as elsewhere on ${some(count, 'face', 'faces')}.`,
    },
  ];
}
