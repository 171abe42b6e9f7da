import { Matrix4, Vector3 } from 'three';
import type { Sight } from './sight';
import type { SurfaceHit } from './picking';
import type { CurvePoint } from './sight';

/** What a place can be put on. */
export interface Snapped {
  readonly place: readonly number[];
  readonly on: 'point' | 'curve' | 'grid' | 'face';
}

/** What of the view snapping looks at. */
export interface SnapScene {
  readonly sight: Sight;
  readonly gridStep: number;
  hitsAt(x: number, y: number, nearest?: boolean): readonly SurfaceHit[];
  curvePointAt(x: number, y: number, reach: number): CurvePoint | null;
}

/** How near things have to be under the pointer, in half heights of the view. */
const reach = 0.05;

/** What lies nearest to a point of the view (−1…1): a corner of a face, a point of a curve, a crossing of the grid; else the face there. Null: nothing is near. */
export function snapAt(scene: SnapScene, x: number, y: number, aspect: number): Snapped | null {
  const { sight, gridStep } = scene;
  const [hit] = scene.hitsAt(x, y, true);
  const curve = scene.curvePointAt(x, y, reach);
  const floor = sight.onPlane(x, y, [0, 0, 0], [0, 1, 0]);
  const found: Snapped[] = [
    ...(hit ? cornersOf(hit).map((place): Snapped => ({ place, on: 'point' })) : []),
    ...(curve ? [{ place: curve.place, on: 'curve' } as const] : []),
    ...(floor ? [{ place: floor.map((value) => Math.round(value / gridStep) * gridStep), on: 'grid' } as const] : []),
  ];
  let [nearest, least]: [Snapped | null, number] = [null, reach];
  for (const each of found) {
    const seen = sight.projected(each.place);
    const away = seen ? Math.hypot((seen.x - x) * aspect, seen.y - y) : Infinity;
    if (away < least) [nearest, least] = [each, away];
  }
  return nearest ?? (hit ? { place: hit.place.toArray(), on: 'face' } : null);
}

function cornersOf({ corners, copy }: SurfaceHit): number[][] {
  const matrix = copy ? new Matrix4().fromArray(copy) : null;
  return [0, 1, 2].map((k) => {
    const corner = new Vector3(...corners.slice(k * 3, k * 3 + 3));
    return (matrix ? corner.applyMatrix4(matrix) : corner).toArray();
  });
}
