import type { Attribute } from '../../geometry/attributes.js';
import { makeCurves, type Curves } from '../../geometry/curves.js';
import { makePoints, type Points } from '../../geometry/points.js';
import { tick, type Work } from '../../base/work.js';
import { leastRotation } from '../../curves/evaluate/transport.js';
import { framedOutwards } from '../frames.js';
import type { Modules } from './derive.js';

export interface TurtleOptions {
  /** Degrees of a turn that says nothing else, and metres of a step. */
  angle: number;
  step: number;
  /** Metres of width at first, and what `!` multiplies it by. */
  width: number;
  taper: number;
  /** What steps bend to, and by how much: radians at most, where it is straight across. */
  tropism: readonly [number, number, number];
  tropismStrength: number;
  /** Metres a second, for `birth`. */
  pace: number;
  /** Rounds that there were, for `age`. */
  times: number;
  /** Which way it looks at first, and where its left is: unit vectors across each other. */
  heading?: readonly [number, number, number];
  left?: readonly [number, number, number];
}

export interface Drawn {
  readonly curves: Curves;
  /** Places for leaves. */
  readonly leaves: Points;
  /** Where the turtle ended: place, heading, left, up. */
  readonly end: readonly Float64Array[];
}

/** Where the turtle is and looks: place, heading, left and up; and what it draws with. */
interface State {
  readonly place: Float64Array;
  readonly heading: Float64Array;
  readonly left: Float64Array;
  readonly up: Float64Array;
  width: number;
  distance: number;
  depth: number;
  /** The curve that a next step goes on; null: it begins a new one. */
  run: Run | null;
  /** The curve that it is on or left last. */
  from: number;
}

/** A curve that is drawn: places, and values at them. */
interface Run {
  readonly number: number;
  readonly points: number[];
  readonly outward: number[];
  /** What is up on it where it ends now, and which way its last piece runs. */
  readonly up: Float64Array;
  heading: [number, number, number];
  readonly widths: number[];
  readonly distances: number[];
  readonly ages: number[];
  readonly depth: number;
  readonly parent: number;
}

const code = (symbol: string): number => symbol.charCodeAt(0);
const [F, G, f, plus, minus, amp, hat, backslash, slash, bar, dollar, open, close, bang, tilde, percent] = [...'FGf+-&^\\/|$[]!~%'].map(code);

/**
 * Draws modules with a turtle (Abelson & diSessa 1981; in space Prusinkiewicz & Lindenmayer 1990): heading H, left L, up U = H × L. A stem goes on through its branches as one curve;
 * each branch is a curve of its own that begins on it. Points have `width`, `distance` from the root, `birth` (seconds) and `age` (rounds), and frames with normals that begin up and go on with the least turn; curves have
 * `depth` (brackets) and `parent` (a curve's number, −1: none).
 */
export function drawModules(modules: Modules, options: TurtleOptions, work: Work): Drawn {
  const turtle = new Turtle(options);
  for (let i = 0; i < modules.count; i++) {
    tick(work, i, modules.count);
    i = turtle.follow(modules, i);
  }
  work.claim({ points: turtle.points + turtle.leafCount });
  return turtle.drawn();
}

class Turtle {
  points = 0;
  private readonly runs: Run[] = [];
  private readonly leafNumbers: number[] = [];
  private readonly stack: State[] = [];
  private now: State;

  constructor(private readonly options: TurtleOptions) {
    const { heading = [0, 1, 0], left = [-1, 0, 0], width } = options;
    const [h, l] = [Float64Array.from(heading), Float64Array.from(left)];
    this.now = { place: new Float64Array(3), heading: h, left: l, up: cross(h, l), width, distance: 0, depth: 0, run: null, from: -1 };
  }

  get leafCount(): number {
    return this.leafNumbers.length / leafSize;
  }

  /** Does what a module says; gives the number of the last module that was looked at. */
  follow(modules: Modules, i: number): number {
    const { now, options } = this;
    const first = modules.starts[i];
    const given = modules.starts[i + 1] > first ? modules.params[first] : undefined;
    const angle = (((given ?? options.angle) % 360) * Math.PI) / 180;
    switch (modules.symbols[i]) {
      case F:
      case G:
        this.draw(given ?? options.step, options.times - modules.born[i]);
        break;
      case f:
        this.move(given ?? options.step);
        now.run = null;
        break;
      case plus:
        rotate(now.heading, now.left, angle);
        break;
      case minus:
        rotate(now.heading, now.left, -angle);
        break;
      case amp:
        rotate(now.heading, now.up, -angle);
        break;
      case hat:
        rotate(now.heading, now.up, angle);
        break;
      case backslash:
        rotate(now.left, now.up, -angle);
        break;
      case slash:
        rotate(now.left, now.up, angle);
        break;
      case bar:
        rotate(now.heading, now.left, Math.PI);
        break;
      case dollar:
        this.upright();
        break;
      case bang:
        now.width = Math.max(0, given ?? now.width * options.taper);
        break;
      case open:
        this.stack.push(now);
        this.now = { ...now, place: now.place.slice(), heading: now.heading.slice(), left: now.left.slice(), up: now.up.slice(), depth: now.depth + 1, run: null, from: now.run?.number ?? now.from }; // prettier-ignore
        break;
      case close:
        this.now = this.stack.pop()!;
        break;
      case tilde:
        this.leafNumbers.push(...now.place, ...now.heading, ...now.up, given ?? 1, now.width, now.distance, options.times - modules.born[i], now.depth);
        break;
      case percent:
        return this.endOfBranch(modules, i);
    }
    return i;
  }

  private draw(length: number, age: number): void {
    const { now } = this;
    if (!now.run) {
      now.run = { number: this.runs.length, points: [...now.place], outward: [...now.up], up: now.up.slice(), heading: [now.heading[0], now.heading[1], now.heading[2]], widths: [now.width], distances: [now.distance], ages: [age], depth: now.depth, parent: now.from }; // prettier-ignore
      this.runs.push(now.run);
      this.points++;
    }
    const { run } = now;
    run.widths[run.widths.length - 1] = now.width;
    this.move(length);
    run.points.push(now.place[0], now.place[1], now.place[2]);
    // Rolls between branches turn what grows from a stem; followed by the stem itself they would wring its skin.
    leastRotation(run.up, ...run.heading, now.heading[0], now.heading[1], now.heading[2]);
    run.heading = [now.heading[0], now.heading[1], now.heading[2]];
    run.outward.push(...run.up);
    run.widths.push(now.width);
    run.distances.push(now.distance);
    run.ages.push(age);
    this.points++;
    this.bend();
  }

  private move(length: number): void {
    const { now } = this;
    for (let k = 0; k < 3; k++) now.place[k] += now.heading[k] * length;
    now.distance += Math.abs(length);
  }

  /** Turns the heading to where growth tends: about the axis across both, by the strength times the sine of the angle between them. */
  private bend(): void {
    const { tropism, tropismStrength } = this.options;
    const { heading, left, up } = this.now;
    const size = Math.hypot(...tropism);
    if (!tropismStrength || !size) return;
    const t = Float64Array.from(tropism, (value) => value / size);
    const axis = cross(heading, t);
    const sine = Math.hypot(...axis);
    if (!(sine > 1e-9)) return;
    for (let k = 0; k < 3; k++) axis[k] /= sine;
    const [c, s] = [Math.cos(tropismStrength * sine), Math.sin(tropismStrength * sine)];
    for (const vector of [heading, left, up]) {
      const along = axis[0] * vector[0] + axis[1] * vector[1] + axis[2] * vector[2];
      const across = cross(axis, vector);
      for (let k = 0; k < 3; k++) vector[k] = vector[k] * c + across[k] * s + axis[k] * along * (1 - c);
    }
    this.straighten();
  }

  /** Rolls until left is level: L = V × H, where V points up. */
  private upright(): void {
    const { heading, left, up } = this.now;
    const level = cross(Float64Array.of(0, 1, 0), heading);
    const size = Math.hypot(...level);
    if (!(size > 1e-9)) return;
    for (let k = 0; k < 3; k++) left[k] = level[k] / size;
    up.set(cross(heading, left));
  }

  /** Takes out of the frame what rounding left in it. */
  private straighten(): void {
    const { heading, left, up } = this.now;
    let size = Math.hypot(...heading);
    for (let k = 0; k < 3; k++) heading[k] /= size;
    const along = left[0] * heading[0] + left[1] * heading[1] + left[2] * heading[2];
    for (let k = 0; k < 3; k++) left[k] -= along * heading[k];
    size = Math.hypot(...left);
    for (let k = 0; k < 3; k++) left[k] /= size;
    up.set(cross(heading, left));
  }

  private endOfBranch({ symbols, count }: Modules, i: number): number {
    let depth = 0;
    for (let at = i + 1; at < count; at++) {
      if (symbols[at] === open) depth++;
      if (symbols[at] === close && depth-- === 0) return at - 1;
    }
    return count;
  }

  drawn(): Drawn {
    const { runs, options } = this;
    const starts = new Uint32Array(runs.length + 1);
    runs.forEach(({ widths }, c) => (starts[c + 1] = starts[c] + widths.length));
    const count = starts[runs.length];
    const [positions, outward] = [new Float32Array(count * 3), new Float32Array(count * 3)];
    const [width, distance, age] = [0, 1, 2].map(() => new Float32Array(count));
    runs.forEach((run, c) => {
      positions.set(run.points, starts[c] * 3);
      outward.set(run.outward, starts[c] * 3);
      width.set(run.widths, starts[c]);
      distance.set(run.distances, starts[c]);
      age.set(run.ages, starts[c]);
    });
    const of = (carrier: Attribute['carrier'], data: Float32Array, size = 1): Attribute => ({ carrier, size, data });
    const curves = makeCurves({
      positions,
      starts,
      attributes: new Map([
        ['width', of('point', width)],
        ['distance', of('point', distance)],
        ['birth', of('point', distance.map((value) => value / options.pace))],
        ['age', of('point', age)],
        ['depth', of('curve', Float32Array.from(runs, ({ depth }) => depth))],
        ['parent', of('curve', Float32Array.from(runs, ({ parent }) => parent))],
      ]),
    }); // prettier-ignore
    const { now } = this;
    return { curves: count ? framedOutwards(curves, outward) : curves, leaves: this.leaves(), end: [now.place, now.heading, now.left, now.up] };
  }

  private leaves(): Points {
    const { leafNumbers: n, leafCount: count } = this;
    const column = (at: number, size: number): Float32Array =>
      Float32Array.from({ length: count * size }, (_, i) => n[Math.floor(i / size) * leafSize + at + (i % size)]);
    const of = (at: number, size = 1): Attribute => ({ carrier: 'point', size, data: column(at, size) });
    const distance = of(11);
    return makePoints(
      column(0, 3),
      new Map([
        ['tangent', of(3, 3)],
        ['normal', of(6, 3)],
        ['size', of(9)],
        ['width', of(10)],
        ['distance', distance],
        ['birth', { ...distance, data: distance.data.map((value) => value / this.options.pace) }],
        ['age', of(12)],
        ['depth', of(13)],
      ]),
    );
  }
}

/** Numbers of a leaf: place, heading, up, size, width, distance, age, depth. */
const leafSize = 14;

/** Turns a towards b, and b away from a, in the plane of both; lengths and angles are kept to the last digit. */
function rotate(a: Float64Array, b: Float64Array, angle: number): void {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  let [ab, aa, bb] = [0, 0, 0];
  for (let k = 0; k < 3; k++) {
    const [x, y] = [a[k], b[k]];
    a[k] = x * c + y * s;
    b[k] = y * c - x * s;
    ab += a[k] * b[k];
    aa += a[k] * a[k];
    bb += b[k] * b[k];
  }
  // A step of Newton's way towards unit vectors across each other.
  const [fa, fb] = [(3 - aa) / 2, (3 - bb) / 2];
  for (let k = 0; k < 3; k++) {
    const [x, y] = [a[k], b[k]];
    a[k] = x * fa - (ab / 2) * y;
    b[k] = y * fb - (ab / 2) * x;
  }
}

const cross = (a: ArrayLike<number>, b: ArrayLike<number>): Float64Array =>
  Float64Array.of(a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]);
