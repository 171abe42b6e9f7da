import type { Curves } from '../../geometry/curves.js';
import type { Points } from '../../geometry/points.js';
import { tick, type Work } from '../../base/work.js';
import { leastRotation } from '../../curves/evaluate/transport.js';
import type { Modules } from './derive.js';
import { leafSize, plantsAsGeometry, type Run } from './plantsAsGeometry.js';

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

/** Where a plant begins: a place, which way the turtle looks there and where its left is (unit vectors across each other), and when, in seconds. */
export interface Root {
  readonly place: ArrayLike<number>;
  readonly heading: ArrayLike<number>;
  readonly left: ArrayLike<number>;
  readonly birth: number;
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

const code = (symbol: string): number => symbol.charCodeAt(0);
const [F, G, f, plus, minus, amp, hat, backslash, slash, bar, dollar, open, close, bang, tilde, percent] = [...'FGf+-&^\\/|$[]!~%'].map(code);

/**
 * Draws modules with a turtle (Abelson & diSessa 1981; in space Prusinkiewicz & Lindenmayer 1990): heading H, left L, up U = H × L. A stem goes on through its branches as one curve;
 * each branch is a curve of its own that begins on it. Points have `width`, `distance` from the root, `birth` (seconds) and `age` (rounds), and frames with normals that begin up and go on with the least turn; curves have
 * `depth` (brackets) and `parent` (a curve's number, −1: none).
 */
export function drawModules(modules: Modules, options: TurtleOptions, work: Work): Drawn {
  const { heading = [0, 1, 0], left = [-1, 0, 0] } = options;
  const turtle = new Turtle(options);
  turtle.draws(modules, { place: [0, 0, 0], heading, left, birth: 0 }, work);
  return turtle.drawn(false);
}

/** Draws many plants, each of the modules that are made for it when its turn comes; curves and leaves have `plant`, its number, besides. */
export function drawPlants(roots: readonly Root[], modulesOf: (plant: number) => Modules, options: TurtleOptions, work: Work): Drawn {
  const turtle = new Turtle(options);
  roots.forEach((root, plant) => {
    work.progress(plant / roots.length);
    turtle.draws(modulesOf(plant), root, { ...work, progress: () => work.progress(plant / roots.length) });
  });
  return turtle.drawn(true);
}

class Turtle {
  points = 0;
  private readonly runs: Run[] = [];
  private readonly leafNumbers: number[] = [];
  /** A state for each open bracket, used again and again: a branch begins as its stem is, and what it leaves is not asked for. */
  private readonly states: State[];
  private level = 0;
  private now: State;
  private plant = -1;
  /** When each plant begins, seconds. */
  private readonly births: number[] = [];

  constructor(private readonly options: TurtleOptions) {
    this.now = { place: new Float64Array(3), heading: new Float64Array(3), left: new Float64Array(3), up: new Float64Array(3), width: 0, distance: 0, depth: 0, run: null, from: -1 }; // prettier-ignore
    this.states = [this.now];
  }

  /** Draws a plant from its root. */
  draws(modules: Modules, { place, heading, left, birth }: Root, work: Work): void {
    this.level = 0;
    this.now = this.states[0];
    this.plant++;
    this.births.push(birth);
    const { now } = this;
    now.place.set(place);
    now.heading.set(heading);
    now.left.set(left);
    now.up.set(cross(now.heading, now.left));
    Object.assign(now, { width: this.options.width, distance: 0, depth: 0, run: null, from: -1 });
    for (let i = 0; i < modules.count; i++) {
      tick(work, i, modules.count);
      i = this.follow(modules, i);
    }
    work.claim({ points: this.points + this.leafCount });
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
        this.branch();
        break;
      case close:
        this.now = this.states[--this.level];
        break;
      case tilde:
        this.leafNumbers.push(
          ...now.place,
          ...now.heading,
          ...now.up,
          given ?? 1,
          now.width,
          now.distance,
          options.times - modules.born[i],
          now.depth,
          this.plant,
        );
        break;
      case percent:
        return this.endOfBranch(modules, i);
    }
    return i;
  }

  /** Goes on as a branch of where it is. */
  private branch(): void {
    const { now, states } = this;
    const next = (states[++this.level] ??= { place: new Float64Array(3), heading: new Float64Array(3), left: new Float64Array(3), up: new Float64Array(3), width: 0, distance: 0, depth: 0, run: null, from: -1 }); // prettier-ignore
    for (let k = 0; k < 3; k++) {
      next.place[k] = now.place[k];
      next.heading[k] = now.heading[k];
      next.left[k] = now.left[k];
      next.up[k] = now.up[k];
    }
    next.width = now.width;
    next.distance = now.distance;
    next.depth = now.depth + 1;
    next.run = null;
    next.from = now.run?.number ?? now.from;
    this.now = next;
  }

  private draw(length: number, age: number): void {
    const { now } = this;
    const { place, heading, up } = now;
    if (!now.run) {
      now.run = { number: this.runs.length, points: [place[0], place[1], place[2]], outward: [up[0], up[1], up[2]], up: up.slice(), heading: [heading[0], heading[1], heading[2]], widths: [now.width], distances: [now.distance], ages: [age], depth: now.depth, parent: now.from, plant: this.plant }; // prettier-ignore
      this.runs.push(now.run);
      this.points++;
    }
    const { run } = now;
    run.widths[run.widths.length - 1] = now.width;
    this.move(length);
    run.points.push(place[0], place[1], place[2]);
    // Rolls between branches turn what grows from a stem; followed by the stem itself they would wring its skin.
    leastRotation(run.up, run.heading[0], run.heading[1], run.heading[2], heading[0], heading[1], heading[2]);
    for (let k = 0; k < 3; k++) run.heading[k] = heading[k];
    run.outward.push(run.up[0], run.up[1], run.up[2]);
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

  /** What was drawn; `numbered`: with the number of its plant. */
  drawn(numbered: boolean): Drawn {
    const { now, runs, leafNumbers, births } = this;
    const drawn = plantsAsGeometry({ runs, leafNumbers, births }, this.options.pace, numbered);
    return { ...drawn, end: [now.place, now.heading, now.left, now.up] };
  }
}

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

export const cross = (a: ArrayLike<number>, b: ArrayLike<number>): Float64Array =>
  Float64Array.of(a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]);
