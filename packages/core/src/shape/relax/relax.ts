import { withAttributes } from '../../geometry/attributes.js';
import { curveCount, type Curves } from '../../geometry/curves.js';
import type { Work } from '../../base/work.js';
import type { Surface } from '../../near/surface.js';
import { fieldAt, type Field } from '../../values/field.js';
import { BodyContact } from './bodyContact.js';
import { LyingRopes, RopeContacts } from './ropeContacts.js';
import { Rope } from './rope.js';

export interface RelaxOptions {
  /** New length ÷ old − 1, a value a curve; below 0 tightens. */
  slack: Field;
  /** m/s², along `down`. What it weighs against is stiffness and friction; how far a slack rope hangs does not depend on it. */
  gravity: number;
  down: readonly [number, number, number];
  /** 0: limp, 1: as stiff as a rod. */
  stiffness: number;
  /** 0: slides, 1: sticks. */
  friction: number;
  /** Metres. */
  radius: number;
  settle: 'untilSettled' | 'steps';
  steps: number;
  pinEnds: boolean;
  /** Points that are held: not 0. */
  pinned: Field;
  /** `stack`: later curves come to lie on earlier ones; `apart`: all move, and keep off each other; `through`: they do not know each other. */
  ropes: 'stack' | 'apart' | 'through';
}

export interface Relaxed {
  readonly curves: Curves;
  /** Ropes that had not come to rest, and how far the worst still went in a step, metres. */
  readonly unsettled: readonly number[];
  readonly residual: number;
  /** Points that lay in the body at first. */
  readonly inside: number;
  /** How much nearer to the body than the radius a point still is, metres. */
  readonly tooNear: number;
}

/** Small steps in a step of the setting. */
export const smallSteps = 3;

/** Small steps until ropes count as not coming to rest: more of them where they are short, up to as many points moved. */
const patience = { least: 2400, most: 40_000, points: 4_000_000 };

const patienceFor = (points: number): number => Math.round(Math.min(patience.most, Math.max(patience.least, patience.points / Math.max(1, points))));

/** The fall of a small step under ordinary gravity, as a share of the rope's length. Pieces give by it, so it is made less whenever the rope is calm, down to `least`. */
const fallShare = 1e-3;
const less = 0.2;
const leastWeight = 3e-3;

/** A rope is calm when no point goes further in a small step than this share of the fall, for as many steps on end; without gravity, of its length. */
const still = 0.0002;
const stillWithout = 2e-7;
const stillFor = 6;
/** What lies on something always trembles a little: by less than this share of its radius it is calm too. */
const trembling = 1e-3;

/** Ropes as they come to lie, straight between the points that are given: of their own length, under gravity, on a body and on each other. The same bytes on every run. */
export function relax(curves: Curves, body: Surface | null, options: RelaxOptions, work: Work): Relaxed {
  const ropes: Rope[] = [];
  for (let c = 0; c < curveCount(curves); c++) {
    const [from, to] = [curves.starts[c], curves.starts[c + 1]];
    const closed = curves.closed[c] === 1 && to - from > 2;
    const held = (i: number): boolean => fieldAt(options.pinned, from + i) !== 0 || (options.pinEnds && !closed && (i === 0 || i === to - from - 1));
    ropes.push(new Rope(curves.positions.subarray(from * 3, to * 3), closed, fieldAt(options.slack, c), held));
  }
  const run = new Run(body, options, work);
  if (options.ropes === 'stack') ropes.forEach((rope, i) => run.settle([rope], i, ropes.length));
  else run.settle(ropes, 0, 1);
  const positions = new Float32Array(curves.positions.length);
  ropes.forEach((rope, c) => positions.set(rope.p, curves.starts[c] * 3));
  const made = {
    ...curves,
    positions,
    kind: new Uint8Array(curves.kind.length),
    attributes: withAttributes(curves.attributes, { tangent: null, handleIn: null, handleOut: null }),
  };
  const unsettled = [...ropes.keys()].filter((c) => run.unsettled.has(ropes[c]));
  return { curves: made, unsettled, residual: run.residual, inside: run.inside, tooNear: run.tooNear };
}

/** A rope on its way to rest. */
class Falling {
  /** Of the weight it has at first; at the least of it, it may rest. */
  weight = 1;
  calm = 0;
  private way = 0;
  private faster = 0;
  onBody: BodyContact | null = null;

  constructor(
    readonly rope: Rope,
    /** The first fall of a small step, metres; 0: none. */
    private readonly fall: number,
    readonly most: number,
    /** Metres that it may tremble. */
    private readonly tremble: number,
  ) {}

  get rests(): boolean {
    return this.calm >= stillFor && this.weight <= leastWeight;
  }

  get falls(): number {
    return this.fall * this.weight;
  }

  /** Looks whether it is calm, and takes weight off it where it is. */
  look(): void {
    const limit = Math.max(this.tremble, this.fall ? this.falls * still : this.rope.length * stillWithout);
    const way = this.rope.lastWay();
    // What goes faster from step to step has only begun to move.
    this.faster = way > this.way ? this.faster + 1 : 0;
    this.way = way;
    this.calm = way < limit && this.faster < stillFor ? this.calm + 1 : 0;
    if (this.calm < stillFor || this.weight <= leastWeight) return;
    this.weight = Math.max(leastWeight, this.weight * less);
    this.calm = 0;
  }
}

class Run {
  readonly unsettled = new Set<Rope>();
  residual = 0;
  inside = 0;
  tooNear = 0;
  private readonly down: readonly number[];
  private readonly lying: LyingRopes;

  constructor(
    private readonly body: Surface | null,
    private readonly options: RelaxOptions,
    private readonly work: Work,
  ) {
    this.lying = new LyingRopes(Math.max(options.radius * 8, 1e-6));
    const size = Math.hypot(...options.down);
    this.down = options.down.map((value) => value / size);
  }

  /** Lets ropes come to rest, on those that came to rest before. `turn` of `turns` is for progress. */
  settle(ropes: readonly Rope[], turn: number, turns: number): void {
    const { options, work, lying } = this;
    const falling = ropes.filter(({ n }) => n > 1).map((rope) => this.begin(rope, ropes.length > 1 || lying.pieces.length > 0));
    const live = falling.map(({ rope }) => rope);
    const up = this.down.map((value) => -value);
    const meet = options.ropes === 'apart' ? live.length > 1 || this.body !== null : lying.pieces.length > 0;
    const contacts = meet
      ? new RopeContacts(
          live,
          lying,
          options.radius * 2,
          falling.reduce((fastest, { most }) => Math.max(fastest, most), 0),
          options.friction,
          this.body,
          up,
        )
      : null;
    const count = options.settle === 'steps' ? options.steps * smallSteps : patienceFor(falling.reduce((sum, { rope }) => sum + rope.n, 0));
    for (let step = 0; step < count && falling.length; step++) {
      work.progress((turn + step / count) / turns);
      for (const each of falling) if (contacts || !each.rests) this.step(each);
      contacts?.resolve();
      for (const { onBody, rope, rests } of falling) if (contacts || !rests) onBody?.resolve(rope);
      if (options.settle === 'steps') continue;
      for (const each of falling) if (contacts || !each.rests) each.look();
      if (falling.every(({ rests }) => rests)) break;
    }
    for (const each of falling) {
      this.tooNear = Math.max(this.tooNear, each.onBody?.settle(each.rope) ?? 0);
      lying.add(each.rope);
      if (each.rests) continue;
      this.unsettled.add(each.rope);
      this.residual = Math.max(this.residual, each.rope.lastWay());
    }
  }

  private begin(rope: Rope, others: boolean): Falling {
    const { options, body } = this;
    const meets = body !== null || (others && options.ropes !== 'through');
    const most = meets ? options.radius : rope.length * 0.05;
    const falling = new Falling(rope, (options.gravity / 9.81) * fallShare * rope.length, most, meets ? options.radius * trembling : 0);
    if (!body) return falling;
    falling.onBody = new BodyContact(body, options.radius, options.friction, most, rope.n);
    this.inside += falling.onBody.inside(rope);
    return falling;
  }

  private step({ rope, falls, most, weight, onBody }: Falling): void {
    rope.step(
      this.down.map((value) => value * falls),
      most,
      onBody ? (balance) => onBody.bear(balance) : undefined,
    );
    rope.straighten(this.options.stiffness ** 2 * 0.5 * weight);
  }
}
