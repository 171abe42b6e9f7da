import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Vector3 } from 'three';
import type { CurvesPicture } from '@filaxis/protocol';
import { Sight } from '../src/app/ropewalk/view3d/sight';
import { ViewCamera } from '../src/app/ropewalk/view3d/view-camera';

function looking(from: readonly number[], to: readonly number[] = [0, 0, 0], parallel = false): { camera: ViewCamera; sight: Sight } {
  const camera = Object.assign(new ViewCamera(), { aspect: 1.6 });
  camera.position.fromArray(from as number[]);
  camera.lookAt(new Vector3().fromArray(to as number[]));
  camera.reach(Math.hypot(...from.map((value, k) => value - to[k])));
  camera.parallel = parallel;
  camera.updateMatrixWorld();
  return { camera, sight: new Sight(camera) };
}

const inView = fc.record({ x: fc.double({ min: -0.9, max: 0.9, noNaN: true }), y: fc.double({ min: -0.9, max: 0.9, noNaN: true }) });
const eyes = fc.tuple(fc.double({ min: 2, max: 20, noNaN: true }), fc.double({ min: 1, max: 20, noNaN: true }), fc.double({ min: -20, max: 20, noNaN: true }));

const curves = (points: readonly (readonly number[])[], pointCurve: readonly number[]): CurvesPicture =>
  ({ points: Float32Array.from(points.flat()), pointCurve: Uint32Array.from(pointCurve) }) as CurvesPicture;

describe('what lies under a point of the view', () => {
  test('the place of a line under the pointer lies on it, and is where the pointer is when it was seen there', () =>
    fc.assert(
      fc.property(eyes, inView, fc.double({ min: -1, max: 1, noNaN: true }), (eye, { x, y }, along) => {
        const { sight } = looking(eye);
        const way = new Vector3(x, 0.3, y).normalize();
        const place = way.clone().multiplyScalar(along);
        const seen = sight.projected(place.toArray())!;
        const found = sight.onLine(seen.x, seen.y, [0, 0, 0], way.toArray());
        // Seen nearly along the line, a hair of the pointer is a long way.
        if (found && Math.abs(way.dot(new Vector3(...sight.towardsEye))) < 0.95) expect(new Vector3(...found).distanceTo(place)).toBeLessThan(1e-3);
      }),
    ));

  test('a place in view lies on its own line of sight, in perspective and along parallel lines', () =>
    fc.assert(
      fc.property(eyes, inView, fc.boolean(), fc.double({ min: -0.5, max: 0.9, noNaN: true }), (eye, { x, y }, parallel, deep) => {
        const { camera, sight } = looking(eye, [0, 0, 0], parallel);
        const size = Math.hypot(...eye);
        const place = new Vector3(x, y, 0.2).unproject(camera).sub(camera.position).setLength(size * (1 - deep)).add(camera.position); // prettier-ignore
        const seen = sight.projected(place.toArray())!;
        const { ray } = sight.ray(seen.x, seen.y);
        expect(ray.distanceToPoint(place)).toBeLessThan(size * 1e-6);
        if (!parallel) expect(ray.origin.distanceTo(camera.position)).toBe(0);
      }),
    ));

  test('a place found on a plane lies in it, and is seen where it was looked for', () =>
    fc.assert(
      fc.property(eyes, inView, (eye, { x, y }) => {
        const { sight } = looking(eye);
        const place = sight.onPlane(x, y, [0, 0, 0], [0, 1, 0]);
        if (!place) return;
        expect(place[1]).toBeCloseTo(0, 6);
        const seen = sight.projected(place)!;
        expect(seen.x).toBeCloseTo(x, 4);
        expect(seen.y).toBeCloseTo(y, 4);
      }),
    ));

  test('a plane seen from its edge, or that lies behind, has no place', () => {
    expect(looking([5, 0, 0]).sight.onPlane(0, 0, [0, 0, 0], [0, 1, 0])).toBeNull();
    expect(looking([5, 1, 0], [10, 2, 0]).sight.onPlane(0, 0, [0, 0, 0], [0, 1, 0])).toBeNull();
  });

  test('a place as deep as another is seen where it was looked for', () =>
    fc.assert(
      fc.property(eyes, inView, (eye, { x, y }) => {
        const { camera, sight } = looking(eye);
        const place = sight.atDepthOf(new Vector3(0, 0, 0), x, y);
        const ahead = camera.getWorldDirection(new Vector3());
        expect(place.clone().sub(camera.position).dot(ahead)).toBeCloseTo(camera.position.length(), 3);
        const seen = sight.projected(place.toArray())!;
        expect([seen.x - x, seen.y - y].every((off) => Math.abs(off) < 1e-4)).toBe(true);
      }),
    ));

  test('what is behind the eye is nowhere in the view', () => {
    const { sight } = looking([5, 0, 0]);
    expect(sight.projected([0, 0, 0])).toEqual({ x: expect.closeTo(0, 9), y: expect.closeTo(0, 9) });
    expect(sight.projected([9, 0, 0])).toBeNull();
    expect(sight.towardsEye.map((value) => Math.round(value * 1e9) / 1e9 + 0)).toEqual([1, 0, 0]);
  });
});

describe('the point of the curves under the pointer', () => {
  const { sight } = looking([0, 0, 10]);
  const shown = curves([[-1, 0, 0], [0, 0, 0], [1, 0, 0], [0, 1, 0], [0, 2, 0]], [0, 0, 0, 1, 1]); // prettier-ignore

  test('is the nearest one, told by its curve, its number there and its place', () => {
    const at = sight.projected([0.03, 1.02, 0])!;
    expect(sight.nearestOf(shown, at.x, at.y, 0.05)).toEqual({ curve: 1, index: 0, place: [0, 1, 0] });
    const end = sight.projected([1, 0, 0])!;
    expect(sight.nearestOf(shown, end.x, end.y, 0.05)).toEqual({ curve: 0, index: 2, place: [1, 0, 0] });
  });

  test('must be within reach, as wide as it is high', () => {
    const { y } = sight.projected([0, 0.05, 0])!;
    expect(sight.nearestOf(shown, 0, y, y * 1.01)).not.toBeNull();
    expect(sight.nearestOf(shown, 0, y, y * 0.99)).toBeNull();
    const { x } = sight.projected([0.05, 0, 0])!;
    expect(sight.nearestOf(shown, x, 0, y * 1.01)).not.toBeNull();
    expect(sight.nearestOf(shown, x, 0, y * 0.99)).toBeNull();
  });

  test('is never one behind the eye', () => expect(sight.nearestOf(curves([[0, 0, 20]], [0]), 0, 0, 0.5)).toBeNull());
});
