import { Vector3 } from 'three';
import { describe, expect, test } from 'vitest';
import { Sight } from '../src/app/ropewalk/view3d/sight';
import { snapAt, type SnapScene } from '../src/app/ropewalk/view3d/snapping';
import { ViewCamera } from '../src/app/ropewalk/view3d/view-camera';

const aspect = 1.5;

/** Looking straight down from 10 m on a grid of 1 m, with what else there is. */
function scene(more: Partial<SnapScene> = {}): SnapScene & { readonly at: (place: readonly number[]) => readonly [number, number] } {
  const camera = Object.assign(new ViewCamera(), { aspect });
  camera.position.set(0, 10, 0.0001);
  camera.lookAt(0, 0, 0);
  camera.reach(10);
  camera.updateMatrixWorld();
  const sight = new Sight(camera);
  const at = (place: readonly number[]): readonly [number, number] => {
    const { x, y } = sight.projected(place)!;
    return [x, y];
  };
  return { sight, gridStep: 1, hitsAt: () => [], curvePointAt: () => null, at, ...more };
}

const corners = [0.2, 1, 0.2, 0.8, 1, 0.2, 0.2, 1, 0.8];
const face = (place: readonly number[], copy: readonly number[] | null = null) => [{ place: new Vector3(...place), distance: 9, corners, copy }];

describe('what a handle is put on', () => {
  test('a crossing of the grid where it is near, and nothing between', () => {
    const bare = scene();
    const near = snapAt(bare, ...bare.at([1.03, 0, 2.02]), aspect)!;
    expect([near.on, near.place.map(Math.round)]).toEqual(['grid', [1, 0, 2]]);
    expect(snapAt(bare, ...bare.at([1.5, 0, 2.5]), aspect)).toBeNull();
  });

  test('a corner of the face that is under the pointer, else the face there', () => {
    const made = scene({ hitsAt: () => face([0.25, 1, 0.22]) });
    expect(snapAt(made, ...made.at([0.22, 1, 0.21]), aspect)).toEqual({ place: [0.2, 1, 0.2], on: 'point' });
    const inside = scene({ hitsAt: () => face([0.5, 1, 0.45]) });
    expect(snapAt(inside, ...inside.at([0.5, 1, 0.45]), aspect)).toEqual({ place: [0.5, 1, 0.45], on: 'face' });
  });

  test('corners of copies lie where the copies are', () => {
    const moved = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 3, 0, 0, 1];
    const made = scene({ hitsAt: () => face([3.25, 1, 0.22], moved) });
    expect(snapAt(made, ...made.at([3.21, 1, 0.2]), aspect)).toEqual({ place: [3.2, 1, 0.2], on: 'point' });
  });

  test('of several the nearest to the pointer', () => {
    const curve = { place: [1.02, 0, 2.01] as const, curve: 0, index: 0 };
    const made = scene({ curvePointAt: () => curve });
    expect(snapAt(made, ...made.at([1.021, 0, 2.011]), aspect)?.on).toBe('curve');
    expect(snapAt(made, ...made.at([1, 0, 2]), aspect)?.on).toBe('grid');
  });
});
