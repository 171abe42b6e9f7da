import { BufferAttribute, BufferGeometry, DoubleSide, Matrix4, Ray, Vector3 } from 'three';
import { CENTER, MeshBVH } from 'three-mesh-bvh';
import type { MeshPicture, Picture } from '@filaxis/protocol';

/** A place on a surface in view. */
export interface SurfaceHit {
  readonly place: Vector3;
  /** From the eye, metres. */
  readonly distance: number;
  /** Corners of the triangle as the mesh has them (9 numbers), which tell the face whatever is drawn. */
  readonly corners: readonly number[];
  /** Of a copy: the matrix that places it; null: no copy. */
  readonly copy: readonly number[] | null;
}

/** A triangle that a line of sight meets. */
interface Met {
  readonly point: Vector3;
  readonly distance: number;
  readonly faceIndex: number;
}

/** Finds what lies along a line of sight: by trees over the triangles where they were prepared, else triangle by triangle, which is quicker than to make a tree for one look. */
export class Picking {
  private readonly trees = new WeakMap<Uint32Array, { readonly positions: Float32Array; readonly tree: MeshBVH }>();

  /** What a line of sight meets, the nearest first. With `nearest` only that. */
  along(picture: Picture, ray: Ray, nearest = false): SurfaceHit[] {
    const found = [
      ...(picture.mesh ? this.inMesh(picture.mesh, ray, nearest) : []),
      ...picture.copies.flatMap((copies) => this.inCopies(copies, ray, nearest)),
    ];
    return found.sort((a, b) => a.distance - b.distance);
  }

  /** Makes the trees of a picture, so that the first look does not wait for them. */
  prepare({ mesh, copies }: Picture): void {
    for (const each of [...(mesh ? [mesh] : []), ...copies.map((copy) => copy.mesh)]) if (!this.known(each)) this.plant(each);
  }

  private known({ indices, positions }: MeshPicture): MeshBVH | null {
    const known = this.trees.get(indices);
    return known?.positions === positions ? known.tree : null;
  }

  private plant({ indices, positions }: MeshPicture): void {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(positions, 3));
    geometry.setIndex(new BufferAttribute(indices, 1));
    // The order of the triangles is the worker's, so the tree keeps its own.
    const tree = new MeshBVH(geometry, { indirect: true, strategy: CENTER });
    this.trees.set(indices, { positions, tree });
  }

  private inMesh(mesh: MeshPicture, ray: Ray, nearest: boolean): SurfaceHit[] {
    return this.met(mesh, ray, nearest).map(({ point, distance, faceIndex }) => ({
      place: point,
      distance,
      corners: cornersOf(mesh, faceIndex),
      copy: null,
    }));
  }

  private met(mesh: MeshPicture, ray: Ray, nearest: boolean): Met[] {
    if (!mesh.indices.length) return [];
    const tree = this.known(mesh);
    if (!tree) return scanned(mesh, ray, nearest);
    const hits = nearest ? [tree.raycastFirst(ray, DoubleSide)] : tree.raycast(ray, DoubleSide);
    return hits.flatMap((hit) => (hit ? [{ point: hit.point, distance: hit.distance, faceIndex: hit.faceIndex! }] : []));
  }

  private inCopies({ mesh, matrices }: Picture['copies'][number], ray: Ray, nearest: boolean): SurfaceHit[] {
    const { middle, radius } = ballAround(mesh);
    const own = new Ray();
    const [matrix, inverse, centre] = [new Matrix4(), new Matrix4(), new Vector3()];
    const found: SurfaceHit[] = [];
    for (let at = 0; at < matrices.length; at += 16) {
      matrix.fromArray(matrices, at);
      centre.copy(middle).applyMatrix4(matrix);
      const size = matrix.getMaxScaleOnAxis() * radius;
      if (ray.distanceSqToPoint(centre) > size * size) continue;
      own.copy(ray).applyMatrix4(inverse.copy(matrix).invert());
      for (const { point, faceIndex } of this.met(mesh, own, nearest)) {
        const place = point.applyMatrix4(matrix);
        found.push({ place, distance: place.distanceTo(ray.origin), corners: cornersOf(mesh, faceIndex), copy: [...matrices.subarray(at, at + 16)] });
      }
    }
    return found;
  }
}

/** Triangles that a line of sight meets, by looking at each. */
function scanned({ positions, indices }: MeshPicture, ray: Ray, nearest: boolean): Met[] {
  const [a, b, c, at] = [new Vector3(), new Vector3(), new Vector3(), new Vector3()];
  const found: Met[] = [];
  for (let t = 0; t < indices.length; t += 3) {
    a.fromArray(positions, indices[t] * 3);
    b.fromArray(positions, indices[t + 1] * 3);
    c.fromArray(positions, indices[t + 2] * 3);
    if (!ray.intersectTriangle(a, b, c, false, at)) continue;
    const distance = at.distanceTo(ray.origin);
    if (nearest && found.length && found[0].distance <= distance) continue;
    if (nearest) found.pop();
    found.push({ point: at.clone(), distance, faceIndex: t / 3 });
  }
  return found;
}

const cornersOf = ({ indices, positions }: MeshPicture, triangle: number): number[] =>
  [0, 1, 2].flatMap((k) => {
    const at = indices[triangle * 3 + k] * 3;
    return [positions[at], positions[at + 1], positions[at + 2]];
  });

function ballAround({ positions }: MeshPicture): { middle: Vector3; radius: number } {
  const [low, high] = [new Vector3(Infinity, Infinity, Infinity), new Vector3(-Infinity, -Infinity, -Infinity)];
  const place = new Vector3();
  for (let i = 0; i < positions.length; i += 3) {
    place.fromArray(positions, i);
    low.min(place);
    high.max(place);
  }
  const middle = low.clone().add(high).multiplyScalar(0.5);
  return { middle, radius: middle.distanceTo(high) };
}
