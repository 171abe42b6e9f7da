import { MathUtils, Quaternion, Spherical, Vector3 } from 'three';
import { angleOf, usualFocal, type ViewCamera } from './view-camera';

/** What can be kept of a camera. */
export interface CameraState {
  readonly position: readonly number[];
  readonly target: readonly number[];
  /** Focal length, mm; left out: the usual one. */
  readonly focal?: number;
  /** Lines of sight are parallel. */
  readonly parallel?: boolean;
}

const up = new Vector3(0, 1, 0);

/** How far a thing without extent is looked at from, m. */
const armsLength = 1.5;
/** Share of the view that a framed box may fill. */
const room = 0.84;
/** Most of the height that is left to bars above, and below, where the view is low. */
const mostBars = 0.2;

/**
 * Moves a camera about a place: turning keeps the place under the pointer where it is on the screen, panning and zooming go with the pointer.
 */
export class Orbit {
  readonly target = new Vector3();
  private readonly pivot = new Vector3();

  constructor(
    private readonly camera: ViewCamera,
    private readonly changed: () => void,
  ) {}

  get state(): CameraState {
    const { focal, parallel } = this.camera;
    return { position: this.camera.position.toArray(), target: this.target.toArray(), focal, parallel };
  }

  set state({ position, target, focal = usualFocal, parallel = false }: CameraState) {
    Object.assign(this.camera, { focal, parallel });
    this.camera.position.fromArray(position);
    this.target.fromArray(target);
    this.look();
  }

  /** Begins to turn about a place; without one about the target. */
  turnAbout(place: Vector3 | null): void {
    this.pivot.copy(place ?? this.target);
  }

  /** Turns by pixels of a view `height` pixels high. */
  turn(dx: number, dy: number, height: number): void {
    const offset = this.camera.position.clone().sub(this.target);
    const spherical = new Spherical().setFromVector3(offset);
    const phi = MathUtils.clamp(spherical.phi - (dy / height) * Math.PI, 0.02, Math.PI - 0.02);
    const about = new Quaternion().setFromAxisAngle(up, (-dx / height) * 2 * Math.PI);
    const side = new Vector3().crossVectors(offset, up).normalize();
    const tilt = new Quaternion().setFromAxisAngle(side, spherical.phi - phi);
    const turn = about.multiply(tilt);
    for (const place of [this.camera.position, this.target]) place.sub(this.pivot).applyQuaternion(turn).add(this.pivot);
    this.look();
  }

  /** Moves the view sideways so that what lies at the target's depth goes with the pointer. */
  slide(dx: number, dy: number, height: number): void {
    const perPixel = (2 * this.camera.position.distanceTo(this.target) * Math.tan(MathUtils.degToRad(this.camera.fov / 2))) / height;
    const move = new Vector3(-dx * perPixel, dy * perPixel, 0).applyQuaternion(this.camera.quaternion);
    this.camera.position.add(move);
    this.target.add(move);
    this.look();
  }

  /** Goes nearer to (factor below 1) or farther from the place under the pointer. */
  zoom(factor: number, place: Vector3): void {
    const distance = this.camera.position.distanceTo(this.target) * factor;
    if (distance < 1e-4 || distance > 1e6) return;
    this.camera.position.sub(place).multiplyScalar(factor).add(place);
    this.target.sub(place).multiplyScalar(factor).add(place);
    this.look();
  }

  /** Shows a box whole, as near as can be with a little room around, from a direction or from where the camera is. `bars`: the share of the height that bars take above, and below. */
  frame(min: Vector3, max: Vector3, direction: Vector3 | null = null, bars = 0): void {
    const from = direction?.clone() ?? this.camera.position.clone().sub(this.target);
    if (from.lengthSq() < 1e-12) from.set(0.42, 0.36, 1);
    from.normalize();
    const right = new Vector3().crossVectors(up, from).normalize();
    const above = new Vector3().crossVectors(from, right);
    const half = Math.tan(MathUtils.degToRad(this.camera.fov / 2));
    const vertical = half * Math.min(room, 1 - 2 * Math.min(mostBars, bars));
    const level = half * room * this.camera.aspect;
    const centre = min.clone().add(max).multiplyScalar(0.5);
    const corner = new Vector3();
    // A lone point is looked at from an arm's length.
    let distance = Math.max(1e-3, min.distanceTo(max) * 0.05 || armsLength);
    for (let i = 0; i < 8; i++) {
      corner.set(i & 1 ? max.x : min.x, i & 2 ? max.y : min.y, i & 4 ? max.z : min.z).sub(centre);
      const depth = corner.dot(from);
      distance = Math.max(distance, depth + Math.abs(corner.dot(right)) / level, depth + Math.abs(corner.dot(above)) / vertical);
    }
    this.target.copy(centre);
    this.camera.position.copy(centre).add(from.multiplyScalar(distance));
    this.look();
  }

  /** Takes another focal length, mm, and goes as near or far as shows what is looked at in the same size. */
  zoomLens(focal: number): void {
    const { position } = this.camera;
    const half = (mm: number): number => Math.tan(MathUtils.degToRad(angleOf(mm) / 2));
    position
      .sub(this.target)
      .multiplyScalar(half(this.camera.focal) / half(focal))
      .add(this.target);
    this.camera.focal = focal;
    this.look();
  }

  /** Sees along parallel lines, or in perspective. */
  setParallel(parallel: boolean): void {
    this.camera.parallel = parallel;
    this.look();
  }

  private look(): void {
    this.camera.lookAt(this.target);
    this.camera.reach(this.camera.position.distanceTo(this.target));
    this.changed();
  }
}
