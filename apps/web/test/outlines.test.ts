import { InstancedMesh, Plane, Vector2, Vector3, type Mesh, type MeshBasicMaterial } from 'three';
import { describe, expect, test } from 'vitest';
import type { OutlinePicture } from '@filaxis/protocol';
import { Outlines } from '../src/app/ropewalk/view3d/outlines';

const unit = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
const triangle = (matrices: Float32Array | null = null): OutlinePicture => ({
  positions: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0),
  indices: Uint32Array.of(0, 1, 2),
  matrices,
  lines: new Float32Array(0),
  bounds: null,
});
const made = (spreads = false): Outlines => new Outlines({ value: new Vector2(800, 600) }, spreads, (material) => material.dispose());
const materials = ({ group }: Outlines): MeshBasicMaterial[] => group.children.map((each) => (each as Mesh).material as MeshBasicMaterial);

describe('outlines', () => {
  test('are drawn again only where something else is outlined', () => {
    const outlines = made();
    const picture = triangle();
    expect([outlines.set('chosen', picture), outlines.set('chosen', picture), outlines.set('hovered', null)]).toEqual([true, false, false]);
    expect(outlines.set('chosen', null)).toBe(true);
    expect(outlines.group.children).toEqual([]);
  });

  test('the thing goes into the stencil unseen, then its rim wherever the stencil is not; choice and hover have bits of their own', () => {
    const outlines = made();
    outlines.set('chosen', triangle());
    outlines.set('hovered', triangle());
    const [mask, rim, mask2, rim2] = materials(outlines);
    expect([mask.colorWrite, mask.stencilWriteMask, rim.colorWrite, rim.stencilWriteMask]).toEqual([false, 1, true, 0]);
    expect([mask2.stencilWriteMask, rim2.stencilFuncMask]).toEqual([2, 2]);
    expect(outlines.group.children.map(({ renderOrder }) => renderOrder)).toEqual([10, 11, 10, 11]);
    for (const each of materials(outlines)) expect([each.depthTest, each.depthWrite]).toEqual([false, false]);
  });

  test('copies are instances on a card, and one thing where software draws', () => {
    for (const spreads of [false, true]) {
      const outlines = made(spreads);
      outlines.set('chosen', triangle(Float32Array.of(...unit, ...unit, ...unit)));
      const [mask] = outlines.group.children as Mesh[];
      expect([mask instanceof InstancedMesh, mask.geometry.getAttribute('position').count]).toEqual(spreads ? [false, 9] : [true, 3]);
    }
  });

  test('take inks and cuts, and are not drawn anew for the same ones', () => {
    const outlines = made();
    outlines.set('chosen', triangle());
    const cut = [new Plane(new Vector3(1, 0, 0), 2)];
    outlines.setLooks({ chosen: '#102030', hovered: '#405060' }, 3, cut);
    const before = [...outlines.group.children];
    expect(materials(outlines).map((each) => each.clippingPlanes!.length)).toEqual([1, 1]);
    expect(`#${materials(outlines)[1].color.getHexString()}`).toBe('#102030');
    outlines.setLooks({ chosen: '#102030', hovered: '#405060' }, 3, [cut[0].clone()]);
    expect(outlines.group.children).toEqual(before);
    outlines.setLooks({ chosen: '#102030', hovered: '#405060' }, 3, []);
    expect(outlines.group.children[0]).not.toBe(before[0]);
  });
});
