import { Vector3 } from 'three';
import { describe, expect, test } from 'vitest';
import { requireDocument } from '@filaxis/core';
import { Orbit } from '../src/app/ropewalk/view3d/orbit';
import { angleOf, ViewCamera } from '../src/app/ropewalk/view3d/view-camera';
import { boxOf, inputPlace, intoView, outputPlace, wireCurve, wireDistance, wirePoint } from '../src/app/ropewalk/graph/tag-geometry';

/** A camera before a scene, and where it shows a place (−1…1). */
function scene(): { orbit: Orbit; camera: ViewCamera; shown: (place: Vector3) => Vector3 } {
  const camera = Object.assign(new ViewCamera(), { aspect: 1.5 });
  camera.position.set(3, 2, 5);
  const orbit = new Orbit(camera, () => camera.updateMatrixWorld());
  orbit.frame(new Vector3(-1, 0, -1), new Vector3(2, 1, 1), new Vector3(0.4, 0.3, 1));
  return { orbit, camera, shown: (place) => place.clone().project(camera) };
}

describe('the camera', () => {
  test('focal lengths have the angles of a frame 24 mm high', () => {
    // 2 atan(12 / f): 26.99° for 50 mm, 53.13° for 24 mm.
    expect(angleOf(50)).toBeCloseTo(26.99, 2);
    expect(angleOf(24)).toBeCloseTo(53.13, 2);
  });

  test('another lens, and parallel sight, show what is looked at in the same size', () => {
    const { orbit, camera, shown } = scene();
    const beside = orbit.target.clone().add(new Vector3(0.3, 0, 0).applyQuaternion(camera.quaternion));
    const before = shown(beside);
    orbit.zoomLens(90);
    camera.updateMatrixWorld();
    expect(shown(beside).x).toBeCloseTo(before.x, 6);
    orbit.setParallel(true);
    camera.updateMatrixWorld();
    expect(shown(beside).x).toBeCloseTo(before.x, 6);
    // Along parallel lines nearer is not larger.
    const nearer = beside.clone().add(camera.position.clone().sub(orbit.target).multiplyScalar(0.5));
    expect(shown(nearer).x).toBeCloseTo(before.x, 6);
  });

  test('a camera is put where it was with its lens', () => {
    const { orbit, camera } = scene();
    orbit.zoomLens(28);
    orbit.setParallel(true);
    const kept = JSON.parse(JSON.stringify(orbit.state)) as typeof orbit.state;
    orbit.setParallel(false);
    orbit.zoomLens(70);
    orbit.state = kept;
    expect(orbit.state).toEqual(kept);
    expect(camera.fov).toBeCloseTo(angleOf(28), 10);
    // What was kept before lenses could be chosen has the usual one.
    orbit.state = { position: [0, 0, 5], target: [0, 0, 0] };
    expect([camera.focal, camera.parallel]).toEqual([45, false]);
  });

  test('parallel sight zooms to the pointer', () => {
    const { orbit, camera, shown } = scene();
    orbit.setParallel(true);
    camera.updateMatrixWorld();
    const place = new Vector3(1.2, 0.4, 0.6);
    const before = shown(place);
    orbit.zoom(0.5, place);
    camera.updateMatrixWorld();
    expect(shown(place).x).toBeCloseTo(before.x, 6);
    expect(shown(place).y).toBeCloseTo(before.y, 6);
  });

  test('turning about a place keeps it where it is on the screen', () => {
    const { orbit, shown } = scene();
    const place = new Vector3(1.2, 0.4, 0.6);
    const before = shown(place);
    orbit.turnAbout(place);
    orbit.turn(120, -35, 500);
    const after = shown(place);
    expect(Math.hypot(after.x - before.x, after.y - before.y)).toBeLessThan(1e-4);
  });

  test('zooming goes toward the place under the pointer', () => {
    const { orbit, camera, shown } = scene();
    const place = new Vector3(-0.8, 0.2, 0.3);
    const [before, far] = [shown(place), camera.position.distanceTo(place)];
    orbit.zoom(0.5, place);
    const after = shown(place);
    expect(Math.hypot(after.x - before.x, after.y - before.y)).toBeLessThan(1e-6);
    expect(camera.position.distanceTo(place)).toBeCloseTo(far / 2, 6);
  });

  test('a framed box is whole in view, and fills most of it, from any side', () => {
    for (const direction of [new Vector3(0.4, 0.3, 1), new Vector3(1, 0, 0), new Vector3(0, 1, 0.001), new Vector3(-1, -0.4, 0.2)])
      for (const [min, max] of [
        [new Vector3(-1, 0, -1), new Vector3(2, 1, 1)],
        [new Vector3(0, 0, 0), new Vector3(0.1, 9, 0.1)],
      ] as const) {
        // prettier-ignore
        const { orbit, shown } = scene();
        orbit.frame(min, max, direction);
        const corners = Array.from({ length: 8 }, (_, i) => shown(new Vector3(i & 1 ? max.x : min.x, i & 2 ? max.y : min.y, i & 4 ? max.z : min.z)));
        const reach = Math.max(...corners.map(({ x, y }) => Math.max(Math.abs(x), Math.abs(y))));
        expect(reach).toBeLessThanOrEqual(0.85);
        expect(reach).toBeGreaterThan(0.4);
      }
  });

  test('its state comes back as it was; it does not turn over the poles', () => {
    const { orbit, camera } = scene();
    const state = orbit.state;
    orbit.turnAbout(null);
    orbit.turn(0, 5000, 500);
    expect(camera.position.y).toBeLessThan(20);
    expect(camera.up.y).toBe(1);
    orbit.state = state;
    expect(orbit.state).toEqual(state);
  });
});

describe('tags and wires', () => {
  const line = { id: 'a', type: 'lay.line', at: [0, 0] } as const;
  const tube = { id: 'b', type: 'skin.tube', at: [300, 100] } as const;

  test('a wire begins at the right edge and ends in the eyelet', () => {
    const document = requireDocument({ format: 'filaxis-graph', version: 1, title: 'T', nodes: [line, tube], wires: [] });
    const curve = wireCurve(outputPlace(document, line, 'curves'), inputPlace(document, tube, 'curves'));
    expect(wirePoint(curve, 0)).toEqual({ x: 152, y: 31 });
    expect(wirePoint(curve, 1)).toEqual({ x: 313, y: 131 });
    expect(wireDistance(curve, wirePoint(curve, 0.4))).toBeLessThan(4);
    expect(wireDistance(curve, { x: 200, y: 300 })).toBeGreaterThan(100);
  });

  test('the box round tags', () => {
    expect(boxOf([line, tube])).toEqual({ x: 0, y: 0, width: 452, height: 162 });
    expect(boxOf([])).toBeNull();
  });

  test('a tag is brought into view by the least way, or to the middle from far off', () => {
    expect(intoView(100, 152, 600)).toBe(0);
    expect(intoView(10, 152, 600)).toBe(44);
    expect(intoView(560, 152, 600)).toBe(600 - 54 - 152 - 560);
    expect(5000 + intoView(5000, 152, 600)).toBe(224);
    expect(-900 + intoView(-900, 152, 600)).toBe(224);
  });
});
