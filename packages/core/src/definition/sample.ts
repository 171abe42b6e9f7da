import type { PortKind } from './define.js';

/** A node of an example, with what is wired to its inputs and to its settings, by their names; a node that stands at several places is one. */
export interface SampleNode {
  readonly type: string;
  readonly settings?: Readonly<Record<string, unknown>>;
  readonly given?: Readonly<Record<string, SampleWire | readonly SampleWire[]>>;
}
/** What is wired: the first output of a node, or one by its name. */
export type SampleWire = SampleNode | { readonly output: string; readonly of: SampleNode };

/** How a node is shown at work: by the usual things of the kinds that it takes, where nothing else is said. */
export interface Sample {
  readonly settings?: SampleNode['settings'];
  /** What is wired to its inputs and settings in place of the usual, and to inputs that need not be wired. */
  readonly given?: SampleNode['given'];
  /** The node behind it that shows what it gives, made from it. */
  readonly shownBy?: (itself: SampleNode) => SampleNode;
}

/** A line from place to place, metres. */
export const lineOf = (from: readonly number[], to: readonly number[], points = 2): SampleNode => ({ type: 'lay.line', settings: { from, to, points } });
/** A rope's way between two hooks. */
export const hangingLine: SampleNode = { type: 'shape.hang', given: { curves: lineOf([-1, 1, 0], [1, 1.2, 0]) } };
/** A closed way with corners. */
export const corneredPath: SampleNode = { type: 'lay.polygon' };
export const ball: SampleNode = { type: 'lay.sphere' };
export const post: SampleNode = { type: 'lay.cylinder', settings: { radius: 0.04, height: 0.5 } };
export const boxOf = (...size: readonly [number, number, number]): SampleNode => ({ type: 'lay.box', settings: { size } });
export const moved = (any: SampleNode, ...move: readonly [number, number, number]): SampleNode => ({
  type: 'shape.transform',
  settings: { move },
  given: { any },
});
export const joined = (...any: readonly SampleNode[]): SampleNode => ({ type: 'flow.join', given: { any } });
/** Numbers at the points of something, by a formula. */
export const valued = (any: SampleNode, formula: string): SampleNode => ({ type: 'gauge.set', settings: { value: { formula } }, given: { any } });
/** A line drawn over the ball. */
export const strokeOverBall = [[-0.8, 0.6, 0], [-0.3, 0.7, 0.65], [0.4, 0.6, 0.7], [0.8, 0.2, 0.56]] as const; // prettier-ignore
/** Points round a circle. */
export const ringOfPoints: SampleNode = { type: 'pace.points', settings: { every: 4 }, given: { curves: { type: 'lay.circle' } } };
/** A pipe whose radius is what comes along a wire. */
export const pipeOfRadius = (radius: SampleNode): SampleNode => ({ type: 'skin.tube', given: { curves: hangingLine, radius } });

/** What stands for each kind of geometry, where a node says nothing else. */
export const usualSamples: Partial<Readonly<Record<PortKind, SampleNode>>> = {
  curves: hangingLine,
  points: ringOfPoints,
  mesh: ball,
  copies: { type: 'place.copies', given: { points: ringOfPoints, objects: post } },
  any: ball,
};
