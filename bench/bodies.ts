import { MeshBVH, type HitPointInfo } from 'three-mesh-bvh';
import { BufferAttribute, BufferGeometry, Vector3 } from 'three';
import { connectedParts, constantField, icosphere, makeCurves, placesOfMesh, refine, relax, surfaceOf, triangulate, unbounded, type Curves, type RelaxOptions, type Surface } from '../packages/core/src/index.js'; // prettier-ignore
import { faster, fastest, longer } from './timing.js';

/** Half the thickness of the ropes, metres. */
const radius = 0.01;
const ropes = 200;
const points = 64;
const substeps = 60;

/** Ropes side by side over a ball of 50,000 triangles. */
function hung(): Curves {
  const positions = new Float32Array(ropes * points * 3);
  const starts = Uint32Array.from({ length: ropes + 1 }, (_, r) => r * points);
  for (let r = 0; r < ropes; r++)
    for (let i = 0; i < points; i++) positions.set([-1.5 + (3 * i) / (points - 1), 1.1, (r - ropes / 2) * 0.009], (r * points + i) * 3);
  return makeCurves({ positions, starts, closed: new Uint8Array(ropes) });
}

/** Ropes that come to rest on a body, against the same without one and against a plain loop on three-mesh-bvh; refining. */
export function bodies(): void {
  const body = icosphere(1, 50, unbounded);
  const surface = surfaceOf(body);
  const curves = hung();
  const options: RelaxOptions = { slack: constantField(0.3), gravity: 9.81, down: [0, -1, 0], stiffness: 0.1, friction: 0.2, radius, settle: 'steps', steps: substeps / 3, pinEnds: true, pinned: constantField(0), ropes: 'through' }; // prettier-ignore
  const on = (what: Surface | null) => (): unknown => relax(curves, what, options, unbounded);
  const geometry = new BufferGeometry().setAttribute('position', new BufferAttribute(body.positions.slice(), 3)).setIndex(new BufferAttribute(triangulate(body).indices, 1)); // prettier-ignore
  const tree = new MeshBVH(geometry);
  const box = icosphere(1, 4, unbounded);
  const times = fastest(
    {
      body: on(surface),
      free: on(null),
      theirs: () => loopOnBvh(curves, tree),
      parts: () => connectedParts(body, placesOfMesh(body)),
      refine: () => refine(box, null, { times: 4, scheme: 'triangles', keepCorners: true }),
    },
    3,
  );
  faster(`${ropes} ropes × ${points} points × ${substeps} substeps on 50,000 triangles`, times.body, 'a loop on three-mesh-bvh', times.theirs, '≥ 4×');
  longer('the same', times.body, 'without the body', times.free, '≤ 8×');
  console.log(`  parts of 50,000 triangles ${times.parts.toFixed(0)} ms · Loop to 81,920 triangles ${times.refine.toFixed(0)} ms`);
}

/** The same ropes as anybody would write them: positions and lengths by turns (Jakobsen 2001), every point asked of the tree every step that ours asks it. */
function loopOnBvh(curves: Curves, tree: MeshBVH): Float32Array {
  const p = curves.positions.slice();
  const before = p.slice();
  const rest = (3 / (points - 1)) * 1.3;
  const at = new Vector3();
  const target = { point: new Vector3(), distance: 0, faceIndex: 0 } as HitPointInfo;
  for (let step = 0; step < substeps; step++) {
    for (let r = 0; r < ropes; r++)
      for (let i = 1; i < points - 1; i++)
        for (let k = 0; k < 3; k++) {
          const o = (r * points + i) * 3 + k;
          const way = (p[o] - before[o]) * 0.98 - (k === 1 ? 0.004 : 0);
          before[o] = p[o];
          p[o] += Math.max(-radius, Math.min(radius, way));
        }
    for (let turn = 0; turn < 4; turn++)
      for (let r = 0; r < ropes; r++)
        for (let i = 0; i + 1 < points; i++) {
          const [a, b] = [(r * points + i) * 3, (r * points + i + 1) * 3];
          const size = Math.hypot(p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]) || 1;
          const share = ((size - rest) / size) * (i === 0 || i + 2 === points ? 1 : 0.5);
          for (let k = 0; k < 3; k++) {
            const by = (p[b + k] - p[a + k]) * share;
            if (i > 0) p[a + k] += by;
            if (i + 2 < points) p[b + k] -= by;
          }
        }
    if (step % 6) continue;
    for (let i = 0; i < ropes * points; i++) {
      tree.closestPointToPoint(at.fromArray(p, i * 3), target);
      if (target.distance < radius)
        at.sub(target.point)
          .normalize()
          .multiplyScalar(radius)
          .add(target.point)
          .toArray(p, i * 3);
    }
  }
  return p;
}
