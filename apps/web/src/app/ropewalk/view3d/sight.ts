import { Plane, Raycaster, Vector3 } from 'three';
import type { CurvesPicture } from '@filaxis/protocol';
import type { ViewCamera } from './view-camera';

/** A place on a curve: which curve, which of its points. */
export interface CurvePlace {
  readonly curve: number;
  readonly index: number;
}

/** The same, and where in space it is. */
export interface CurvePoint extends CurvePlace {
  readonly place: readonly [number, number, number];
}

/** What lies under a point of the view (−1…1 both ways), and where in the view a place lies. */
export class Sight {
  constructor(private readonly camera: ViewCamera) {}

  /** The line of sight through a point of the view. */
  ray(x: number, y: number): Raycaster {
    const { camera } = this;
    const from = new Vector3(x, y, -1).unproject(camera);
    const along = new Vector3(x, y, 1).unproject(camera).sub(from).normalize();
    // In perspective all lines begin in the eye; parallel ones begin before everything.
    return new Raycaster(camera.parallel ? from : camera.position.clone(), along);
  }

  /** The place under a point of the view that is as deep in it as another place. */
  atDepthOf(target: Vector3, x: number, y: number): Vector3 {
    return new Vector3(x, y, target.clone().project(this.camera).z).unproject(this.camera);
  }

  /** The point of the curves nearest to a point of the view, within `reach` of its height. */
  nearestOf({ points, pointCurve }: CurvesPicture, x: number, y: number, reach: number): CurvePoint | null {
    const place = new Vector3();
    let least = reach;
    let found = -1;
    for (let i = 0; i < pointCurve.length; i++) {
      place.fromArray(points, i * 3).project(this.camera);
      if (place.z > 1) continue;
      const distance = Math.hypot((place.x - x) * this.camera.aspect, place.y - y);
      if (distance < least) [least, found] = [distance, i];
    }
    if (found < 0) return null;
    const curve = pointCurve[found];
    return { curve, index: found - pointCurve.indexOf(curve), place: [points[found * 3], points[found * 3 + 1], points[found * 3 + 2]] };
  }

  /** Where a place lies in the view; null behind the eye. */
  projected(place: readonly number[]): { x: number; y: number } | null {
    const v = new Vector3().fromArray(place).project(this.camera);
    return v.z < 1 ? { x: v.x, y: v.y } : null;
  }

  /** Where the line of sight meets a plane; null when it runs along it. */
  onPlane(x: number, y: number, through: readonly number[], normal: readonly number[]): number[] | null {
    const { ray } = this.ray(x, y);
    const plane = new Plane().setFromNormalAndCoplanarPoint(new Vector3().fromArray(normal), new Vector3().fromArray(through));
    const place = ray.intersectPlane(plane, new Vector3());
    // Nearly along the plane the place runs off to the horizon.
    if (!place || Math.abs(ray.direction.dot(plane.normal)) < 0.02) return null;
    return place.toArray();
  }

  /** The place of a line (through `at`, along a unit direction) that a line of sight passes nearest to; null when it runs along it. */
  onLine(x: number, y: number, at: readonly number[], along: readonly number[]): number[] | null {
    const { ray } = this.ray(x, y);
    const [place, way] = [new Vector3().fromArray(at), new Vector3().fromArray(along)];
    const same = way.dot(ray.direction);
    const off = place.clone().sub(ray.origin);
    const steep = 1 - same * same;
    if (steep < 1e-4) return null;
    return place.addScaledVector(way, (same * ray.direction.dot(off) - way.dot(off)) / steep).toArray();
  }

  /** Unit direction from the scene to the eye. */
  get towardsEye(): number[] {
    return this.camera.getWorldDirection(new Vector3()).negate().toArray();
  }
}
