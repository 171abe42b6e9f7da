import { describe, expect, test } from 'vitest';
import type { MeshPicture } from '@filaxis/protocol';
import { Surfaces } from '../src/app/ropewalk/view3d/surfaces';

const bounds = { min: [0, 0, 0], max: [2, 4, 4] };
const triangle = (indices = new Uint32Array([0, 1, 2])): MeshPicture => ({
  positions: new Float32Array(9),
  normals: new Float32Array(9),
  uv: null,
  indices,
  groups: [{ start: 0, count: 3, material: null, backs: true }],
  edges: new Uint32Array([0, 1, 1, 2, 2, 0]),
  values: null,
});

/** Counts how often a geometry is freed. */
function watch(geometry: ReturnType<Surfaces['surfaceOf']>): { freed: number } {
  const seen = { freed: 0 };
  geometry.addEventListener('dispose', () => seen.freed++);
  return seen;
}

describe('surfaces in the graphics memory', () => {
  test('a picture with the triangles of the one before is written over it: what is the same is not sent again', () => {
    const surfaces = new Surfaces();
    const first = triangle();
    const geometry = surfaces.surfaceOf(first, null, bounds);
    const versions = (): number[] => ['position', 'normal'].map((name) => (geometry.getAttribute(name) as { version: number }).version);
    expect(versions()).toEqual([0, 0]);
    const positions = new Float32Array(9).fill(2);
    expect(surfaces.surfaceOf({ ...first, positions }, null, bounds)).toBe(geometry);
    expect(versions()).toEqual([1, 0]);
    expect(geometry.getAttribute('position').array).toBe(positions);
    expect(geometry.groups).toHaveLength(1);
    expect([geometry.boundingSphere!.radius, geometry.boundingSphere!.center.toArray()]).toEqual([3, [1, 2, 2]]); // prettier-ignore
  });

  test('colours come and go with it', () => {
    const surfaces = new Surfaces();
    const picture = triangle();
    const geometry = surfaces.surfaceOf(picture, new Float32Array(9), bounds);
    expect(geometry.hasAttribute('color')).toBe(true);
    surfaces.surfaceOf(picture, null, bounds);
    expect(geometry.hasAttribute('color')).toBe(false);
  });

  test('one that is not asked for any more is freed, with its wire; one that is, is not', () => {
    const surfaces = new Surfaces();
    const [stays, goes] = [triangle(), triangle()];
    const kept = watch(surfaces.surfaceOf(stays, null, bounds));
    const gone = watch(surfaces.surfaceOf(goes, null, bounds));
    const wire = surfaces.wireOf(goes);
    const goneWire = watch(wire);
    expect(wire.getAttribute('position')).toBe(surfaces.surfaceOf(goes, null, bounds).getAttribute('position'));
    surfaces.sweep();
    surfaces.surfaceOf(stays, null, bounds);
    surfaces.sweep();
    expect([kept.freed, gone.freed, goneWire.freed]).toEqual([0, 1, 1]);
    surfaces.dispose();
    expect(kept.freed).toBe(1);
  });

  test('one whose number of places changes is made anew', () => {
    const surfaces = new Surfaces();
    const first = triangle();
    const geometry = surfaces.surfaceOf(first, null, bounds);
    const more = { ...first, positions: new Float32Array(12), normals: new Float32Array(12) };
    expect(surfaces.surfaceOf(more, null, bounds)).not.toBe(geometry);
  });
});
