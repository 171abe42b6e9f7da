import { MathUtils, PerspectiveCamera } from 'three';

/** Height of the frame that focal lengths are told for, mm: that of 35 mm film. */
const frameHeight = 24;

/** The focal length that is begun with, mm. */
export const usualFocal = 45;

/** Vertical angle of view of a focal length, degrees. */
export const angleOf = (focal: number): number => MathUtils.radToDeg(2 * Math.atan(frameHeight / 2 / focal));

/**
 * A camera that sees in perspective or along parallel lines, and shows what lies `reach` metres before it at the same size either way.
 */
export class ViewCamera extends PerspectiveCamera {
  private along = false;
  private distance = 1;
  private mm = usualFocal;

  constructor() {
    super(angleOf(usualFocal), 1, 0.01, 1000);
  }

  /** Focal length, mm. */
  get focal(): number {
    return this.mm;
  }

  set focal(mm: number) {
    this.mm = mm;
    this.fov = angleOf(mm);
    this.updateProjectionMatrix();
  }

  /** Whether lines of sight are parallel. */
  get parallel(): boolean {
    return this.along;
  }

  set parallel(parallel: boolean) {
    this.along = parallel;
    // What three tells cameras apart by.
    Object.assign(this, { isPerspectiveCamera: !parallel, isOrthographicCamera: parallel });
    this.updateProjectionMatrix();
  }

  /** Fits depth to what lies `distance` metres away. */
  reach(distance: number): void {
    this.distance = distance;
    this.near = Math.max(1e-4, distance / 500);
    this.far = distance * 60 + 100;
    this.updateProjectionMatrix();
  }

  /** Half the height of what is seen `distance` metres away, m. */
  get halfHeight(): number {
    return this.distance * Math.tan(MathUtils.degToRad(this.fov / 2));
  }

  override updateProjectionMatrix(): void {
    if (!this.along) return super.updateProjectionMatrix();
    const high = this.halfHeight;
    const wide = high * this.aspect;
    const inset = this.view?.enabled ? this.view : null;
    const [left, top] = [-wide, high];
    const x = inset ? (2 * wide) / inset.fullWidth : 0;
    const y = inset ? (2 * high) / inset.fullHeight : 0;
    const from = inset ? [left + x * inset.offsetX, top - y * inset.offsetY] : [left, top];
    const to = inset ? [from[0] + x * inset.width, from[1] - y * inset.height] : [wide, -high];
    // What lies behind the eye is seen too: with parallel sight the eye is nowhere in particular.
    this.projectionMatrix.makeOrthographic(from[0], to[0], from[1], to[1], -this.far, this.far, this.coordinateSystem);
    this.projectionMatrixInverse.copy(this.projectionMatrix).invert();
  }
}
