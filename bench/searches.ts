import { BufferAttribute, BufferGeometry, DoubleSide, Ray, Vector3, type Vector3Tuple } from 'three';
import { CENTER, MeshBVH } from 'three-mesh-bvh';
import {
  distanceTo,
  firstHit,
  makePoints,
  NearestTree,
  nearestTreeOf,
  newRayHit,
  piecesOf,
  terrain,
  triangulate,
  unbounded,
} from '../packages/core/src/index.js';
import { faster, fastest, longer } from './timing.js';

/** Trees over a ground of 500,000 triangles, nearest places from within 30 m of it, and rays straight down. */
export function searches(): void {
  const ground = terrain({ size: [200, 200], divisions: [500, 500], height: 30, seed: 2, roughness: 0.5 });
  const queries = Array.from({ length: 100_000 }, (_, i): Vector3Tuple => [((i * 0.618) % 1) * 200 - 100, ((i * 0.37) % 1) * 60 - 30, ((i * 0.733) % 1) * 200 - 100]); // prettier-ignore
  const geometry = (): BufferGeometry =>
    new BufferGeometry().setAttribute('position', new BufferAttribute(ground.positions, 3)).setIndex(new BufferAttribute(triangulate(ground).indices, 1));
  const points = makePoints(Float32Array.from(queries.flat()));
  const own = nearestTreeOf(ground);
  const theirs = new MeshBVH(geometry(), { strategy: CENTER });
  const down = new Vector3(0, -1, 0);
  const times = fastest({
    build: () => new NearestTree(piecesOf(ground)),
    theirBuild: () => new MeshBVH(geometry(), { strategy: CENTER }),
    nearest: () => distanceTo(points, ground, { reach: 0, place: true }, unbounded),
    theirNearest: () => {
      const place = new Vector3();
      const target = { point: new Vector3(), distance: 0, faceIndex: 0 };
      for (const query of queries) theirs.closestPointToPoint(place.fromArray(query), target);
    },
    rays: () => {
      const hit = newRayHit();
      for (const [x, , z] of queries) firstHit(own.tree, [x, 40, z], [0, -1, 0], hit);
    },
    theirRays: () => {
      const ray = new Ray(new Vector3(), down);
      for (const [x, , z] of queries) {
        ray.origin.set(x, 40, z);
        theirs.raycastFirst(ray, DoubleSide);
      }
    },
  });
  faster('nearest places of 100,000 points on 500,000 triangles', times.nearest, 'three-mesh-bvh', times.theirNearest, '≥ 3.5×');
  faster('rays, 100,000 on 500,000 triangles', times.rays, 'three-mesh-bvh', times.theirRays, '≥ 1.4×');
  longer('the tree for both', times.build, 'three-mesh-bvh', times.theirBuild, '≤ 2.3×');
}
