import type { Curves } from '../../geometry/curves.js';
import { ArcLengthInverse } from './arcLengthInverse.js';
import { spanPoint, spansOf, spanTangent, type Spans } from './spans.js';
import { perpendicular, type Vector3 } from './transport.js';

/** One curve by metres along it: where one is there, which way it goes, and what is up. Beyond the ends it goes round closed curves, and stays at the ends of open ones. */
export class AlongCurve {
  /** Metres in all. */
  readonly total: number;
  readonly spans: Spans;
  private readonly inverse: ArcLengthInverse;
  private readonly first: number;
  private readonly points: number;
  private readonly way = new Float64Array(3);
  private readonly up = new Float64Array(3);

  /** @param normals of the frames of the curves, 3 numbers a point (see `framesOf`). */
  constructor(
    curves: Curves,
    c: number,
    private readonly normals: Float32Array,
  ) {
    this.spans = spansOf(curves, c);
    this.first = curves.starts[c];
    this.points = curves.starts[c + 1] - this.first;
    this.inverse = new ArcLengthInverse(this.spans);
    this.total = this.inverse.total;
  }

  /** The span that a place lies in, and where in it (0…1). */
  spanAt(s: number): { span: number; u: number } {
    const closed = this.spans.count === this.points;
    return this.inverse.at(closed ? s - Math.floor(s / this.total) * this.total : Math.min(this.total, Math.max(0, s)));
  }

  place(s: number): [number, number, number] {
    const { span, u } = this.spanAt(s);
    spanPoint(this.spans, span, u, this.way, 0);
    return [this.way[0], this.way[1], this.way[2]];
  }

  /** What lies between the normals of the points beside a place; only about square to the way. */
  normal(s: number): [number, number, number] {
    const { span, u } = this.spanAt(s);
    const [a, b] = [(this.first + span) * 3, (this.first + ((span + 1) % this.points)) * 3];
    const between = (k: number): number => this.normals[a + k] * (1 - u) + this.normals[b + k] * u;
    return [between(0), between(1), between(2)];
  }

  /** The way and the normal square to it, both unit. */
  frame(s: number): { tangent: Vector3; normal: Vector3 } {
    const { span, u } = this.spanAt(s);
    spanTangent(this.spans, span, u, this.way, 0);
    const [x, y, z] = this.way;
    perpendicular(this.normal(s), x, y, z, this.up, 0);
    return { tangent: [x, y, z], normal: [this.up[0], this.up[1], this.up[2]] };
  }
}
