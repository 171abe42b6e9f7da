import { attributeBytes, noAttributes, type Attributes } from './attributes.js';
import { requireFinite } from './curves.js';
import { GeometryError } from '../base/errors.js';
import type { Material } from './material.js';

/**
 * A polygon mesh in flat arrays, ready to draw.
 *
 * Points are distinct places; *vertices* are points as one side of a seam sees them. Where normals or UVs differ across an edge, one
 * point has several vertices. Positions and corner attributes (`uv`, `normal`) are stored per vertex, so buffers go to the screen or a
 * file as they are; `pointOf` leads back to the points, on which counts, welds and topology are founded.
 *
 * Faces wind counter-clockwise seen from outside.
 */
export interface Mesh {
  readonly type: 'mesh';
  /** Metres, 3 numbers a vertex. */
  readonly positions: Float32Array;
  /** The point of each vertex, 0…pointCount − 1; null: every vertex is a point of its own. */
  readonly pointOf: Uint32Array | null;
  readonly pointCount: number;
  /** Vertex indices, face after face. */
  readonly corners: Uint32Array;
  /** Corners of every face when they all have as many (3 or 4), else 0. */
  readonly uniform: 0 | 3 | 4;
  /** Where each face begins in `corners`, and the number of corners last; null when `uniform`. */
  readonly faceStarts: Uint32Array | null;
  readonly materials: readonly Material[];
  /** `corner` attributes per vertex; `face` attributes per face; `part` and `material` are face attributes. */
  readonly attributes: Attributes;
}

export interface MeshParts {
  positions: Float32Array;
  corners: Uint32Array;
  pointOf?: Uint32Array | null;
  pointCount?: number;
  uniform?: 0 | 3 | 4;
  faceStarts?: Uint32Array | null;
  materials?: readonly Material[];
  attributes?: Attributes;
}

/**
 * Puts a mesh together and checks it.
 * @throws GeometryError when arrays do not agree, a position is not finite, or a corner names no vertex.
 */
export function makeMesh(parts: MeshParts): Mesh {
  const vertices = parts.positions.length / 3;
  const mesh: Mesh = {
    type: 'mesh',
    positions: parts.positions,
    pointOf: parts.pointOf ?? null,
    pointCount: parts.pointCount ?? vertices,
    corners: parts.corners,
    uniform: parts.uniform ?? 0,
    faceStarts: parts.faceStarts ?? null,
    materials: parts.materials ?? [],
    attributes: parts.attributes ?? noAttributes,
  };
  if (!mesh.uniform && !mesh.faceStarts && mesh.corners.length) throw new GeometryError('A mesh needs face starts, or faces of one size.');
  if (mesh.pointOf && mesh.pointOf.length !== vertices) throw new GeometryError(`A mesh with ${vertices} vertices has points for ${mesh.pointOf.length}.`);
  requireFinite(mesh.positions, 'vertex');
  for (let i = 0; i < mesh.corners.length; i++)
    if (mesh.corners[i] >= vertices) throw new GeometryError(`Corner ${i} names vertex ${mesh.corners[i]}; the mesh has ${vertices}.`);
  return mesh;
}

export const emptyMesh: Mesh = makeMesh({ positions: new Float32Array(0), corners: new Uint32Array(0), uniform: 4 });

export const vertexCount = (mesh: Mesh): number => mesh.positions.length / 3;

export const faceCount = (mesh: Mesh): number => (mesh.uniform ? mesh.corners.length / mesh.uniform : Math.max(0, (mesh.faceStarts?.length ?? 1) - 1));

/** Where face `f` begins in `corners`; `faceStart(mesh, faceCount(mesh))` is their number. */
export const faceStart = (mesh: Mesh, f: number): number => (mesh.faceStarts ? mesh.faceStarts[f] : f * mesh.uniform);

/** Triangles after cutting each face of n corners into n − 2. */
export const triangleCount = (mesh: Mesh): number => mesh.corners.length - 2 * faceCount(mesh);

export function meshBytes(mesh: Mesh): number {
  return (
    mesh.positions.byteLength + mesh.corners.byteLength + (mesh.pointOf?.byteLength ?? 0) + (mesh.faceStarts?.byteLength ?? 0) + attributeBytes(mesh.attributes)
  );
}
