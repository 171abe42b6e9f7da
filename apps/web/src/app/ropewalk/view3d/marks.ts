import { BufferAttribute, BufferGeometry, Group, Mesh, MeshBasicMaterial, Points, PointsMaterial, SphereGeometry, type Camera } from 'three';

const ink = '#c39a1b';
/** Beyond this many, dots are small. */
const many = 600;

/** A ball at a place, and dots at many, both seen through everything. */
export class Marks {
  readonly group = new Group();
  private readonly ball = new Mesh(
    new SphereGeometry(1, 20, 14),
    new MeshBasicMaterial({ color: ink, depthTest: false, transparent: true, opacity: 0.9, toneMapped: false }),
  );
  private readonly dots = new Points(
    new BufferGeometry(),
    new PointsMaterial({ color: ink, sizeAttenuation: false, depthTest: false, transparent: true, toneMapped: false }),
  );

  constructor() {
    this.ball.visible = this.dots.visible = false;
    this.dots.renderOrder = 14;
    this.ball.renderOrder = 15;
    this.dots.frustumCulled = false;
    this.group.add(this.ball, this.dots);
  }

  /** @returns whether that changes anything. */
  mark(place: readonly number[] | null): boolean {
    if (!place && !this.ball.visible) return false;
    this.ball.visible = place !== null;
    if (place) this.ball.position.fromArray(place);
    return true;
  }

  /** @returns whether that changes anything. */
  pick(places: Float32Array | null): boolean {
    if (!places && !this.dots.visible) return false;
    this.dots.visible = !!places?.length;
    this.dots.material.size = (places?.length ?? 0) / 3 > many ? 3 : 9;
    this.dots.geometry.dispose();
    this.dots.geometry = new BufferGeometry();
    if (places) this.dots.geometry.setAttribute('position', new BufferAttribute(places.slice(), 3));
    return true;
  }

  /** Before a frame: the ball is as large in the picture wherever it is. */
  follow(camera: Camera): void {
    if (this.ball.visible) this.ball.scale.setScalar(camera.position.distanceTo(this.ball.position) * 0.008);
  }

  dispose(): void {
    for (const each of [this.ball, this.dots]) {
      each.geometry.dispose();
      each.material.dispose();
    }
  }
}
