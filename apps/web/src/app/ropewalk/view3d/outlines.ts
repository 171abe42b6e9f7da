import {
  AlwaysStencilFunc,
  DoubleSide,
  Group,
  InstancedMesh,
  Mesh,
  MeshBasicMaterial,
  NotEqualStencilFunc,
  ReplaceStencilOp,
  type BufferGeometry,
  type Material,
  type Plane,
  type Vector2,
} from 'three';
import type { OutlinePicture } from '@filaxis/protocol';
import { discard, trianglesOf, widen } from './content';
import { wideLines } from './lines';
import { mostSpread, spread } from './spread';

/** What is outlined, and the bit of the stencil that it is told apart by. */
const bits = { chosen: 1, hovered: 2 } as const;
export type Outlined = keyof typeof bits;

/** Lines around what is chosen and what the pointer is over, in the picture, seen through everything. */
export class Outlines {
  readonly group = new Group();
  private readonly shown = new Map<Outlined, OutlinePicture | null>();
  private width = 2;
  private inks: Readonly<Record<Outlined, string>> = { chosen: '#1e2947', hovered: '#2f55a4' };
  private clip: readonly Plane[] = [];

  constructor(
    private readonly viewport: { readonly value: Vector2 },
    private readonly spreads: boolean,
    private readonly release: (material: Material) => void,
  ) {}

  /** @returns whether that changes anything. */
  set(which: Outlined, picture: OutlinePicture | null): boolean {
    if ((this.shown.get(which) ?? null) === picture) return false;
    this.shown.set(which, picture);
    this.draw();
    return true;
  }

  /** How they are drawn: in which inks, how wide in pixels, cut by which planes. */
  setLooks(inks: Readonly<Record<Outlined, string>>, width: number, clip: readonly Plane[]): void {
    const same = this.clip.length === clip.length && this.clip.every((plane, i) => plane.equals(clip[i]));
    if (same && this.width === width && inks.chosen === this.inks.chosen && inks.hovered === this.inks.hovered) return;
    Object.assign(this, { inks: { chosen: inks.chosen, hovered: inks.hovered }, width, clip });
    this.draw();
  }

  dispose(): void {
    for (const each of this.group.children) discard(each, this.release);
  }

  private draw(): void {
    this.dispose();
    this.group.clear();
    for (const [which, picture] of this.shown) {
      if (!picture) continue;
      if (picture.indices.length) this.around(which, trianglesOf(picture.positions, picture.indices), picture.matrices);
      if (!picture.lines.length) continue;
      const drawn = wideLines(picture.lines, { ink: this.inks[which], width: this.width + 1.5, opacity: 0.85, through: true });
      drawn.renderOrder = 12;
      this.group.add(drawn);
    }
  }

  /** First the thing itself into the stencil, then its larger self wherever the stencil is not. */
  private around(which: Outlined, geometry: BufferGeometry, matrices: Float32Array | null): void {
    const bit = bits[which];
    const common = { side: DoubleSide, depthTest: false, depthWrite: false, transparent: true, toneMapped: false, stencilWrite: true, stencilRef: bit, stencilFuncMask: bit, clippingPlanes: [...this.clip] }; // prettier-ignore
    const mask = new MeshBasicMaterial({ ...common, colorWrite: false, stencilWriteMask: bit, stencilFunc: AlwaysStencilFunc, stencilZPass: ReplaceStencilOp });
    const rim = new MeshBasicMaterial({ ...common, color: this.inks[which], stencilWriteMask: 0, stencilFunc: NotEqualStencilFunc });
    // Thin, or what is thin itself would be all outline.
    widen(rim, Math.max(1, this.width * 0.6), this.viewport);
    const whole =
      matrices && this.spreads && (geometry.getAttribute('position').count * matrices.length) / 16 <= mostSpread ? spread(geometry, matrices, 3) : null;
    [mask, rim].forEach((material, i) => {
      const object = matrices && !whole ? new InstancedMesh(geometry, material, matrices.length / 16) : new Mesh(whole ?? geometry, material);
      if (matrices && object instanceof InstancedMesh) object.instanceMatrix.array.set(matrices);
      object.frustumCulled = false;
      object.renderOrder = 10 + i;
      this.group.add(object);
    });
  }
}
