import { gatherRows, type Attribute } from '../../geometry/attributes.js';
import { faceCount, vertexCount, type Mesh } from '../../geometry/mesh.js';
import { unbounded, type Work } from '../../base/work.js';
import { placesOfMesh } from '../topology/samePlaces.js';
import { triangulate } from '../topology/triangulate.js';
import { refreshNormals, smoothNormals } from './normals.js';
import { Refinement, type Divided } from './refinement.js';

export type RefineScheme = 'flat' | 'catmullClark' | 'triangles';

export interface RefineOptions {
  times: number;
  /**
   * `flat`: faces are divided where they lie; `catmullClark`: into quads that round the mesh (Catmull & Clark 1978); `triangles`: into triangles that do (Loop 1987).
   * Borders are rounded by themselves (cubic B-splines, Hoppe et al. 1994).
   */
  scheme: RefineScheme;
  /** Corners of borders stay where they are. */
  keepCorners: boolean;
}

/**
 * Divides faces. Where only some are (`where`, a number a face, not 0), their neighbours get the new points into their outlines, so that there are no cracks; what is
 * divided is rounded within its own border. Values of faces go to their pieces; UVs and other values of corners are divided straight.
 */
export function refine(given: Mesh, where: ArrayLike<number> | null, options: RefineOptions, work: Work = unbounded): Mesh {
  if (!options.times) return given;
  const started = options.scheme === 'triangles' ? asTriangles(given) : { mesh: given, faceOf: null };
  let chosen = where && Uint8Array.from({ length: faceCount(started.mesh) }, (_, f) => Number(where[started.faceOf ? started.faceOf[f] : f] !== 0));
  let now: Divided = { mesh: started.mesh, places: placesOfMesh(started.mesh, work), sources: new Uint32Array(0) };
  const more = (chosen ? chosen.reduce((sum, own) => sum + own, 0) : faceCount(now.mesh)) * 4 ** options.times;
  work.claim({ faces: faceCount(now.mesh) + more, vertices: vertexCount(now.mesh) + more });
  for (let turn = 0; turn < options.times; turn++) {
    work.progress(turn / options.times);
    now = new Refinement(now, chosen, options, work).run();
    const { sources } = now;
    chosen &&= Uint8Array.from(sources, (f) => chosen![f]);
  }
  // What was rounded is smooth all over; what lies as it did keeps its creases.
  return options.scheme === 'flat' ? refreshNormals(now.mesh, now.mesh, work) : smoothNormals(now.mesh, work);
}

/** The mesh cut into triangles. */
function asTriangles(mesh: Mesh): { mesh: Mesh; faceOf: Uint32Array | null } {
  if (mesh.uniform === 3) return { mesh, faceOf: null };
  const { indices, faceOf } = triangulate(mesh);
  const attributes = new Map<string, Attribute>();
  for (const [name, attribute] of mesh.attributes)
    attributes.set(name, attribute.carrier === 'face' ? { ...attribute, data: gatherRows(attribute, faceOf) } : attribute);
  return { mesh: { ...mesh, corners: indices, uniform: 3, faceStarts: null, attributes }, faceOf };
}
