import type { Attribute } from '../../geometry/attributes.js';
import { makeCurves, type Curves } from '../../geometry/curves.js';
import { makePoints, type Points } from '../../geometry/points.js';
import { framedOutwards } from '../frames.js';

/** A curve that is drawn: places, and values at them. */
export interface Run {
  readonly number: number;
  readonly points: number[];
  readonly outward: number[];
  /** What is up on it where it ends now, and which way its last piece runs. */
  readonly up: Float64Array;
  readonly heading: number[];
  readonly widths: number[];
  readonly distances: number[];
  readonly ages: number[];
  readonly depth: number;
  readonly parent: number;
  readonly plant: number;
}

/** What turtles have drawn: stems, leaves by their numbers one after another, and when each plant begins, seconds. */
export interface DrawnPlants {
  readonly runs: readonly Run[];
  readonly leafNumbers: readonly number[];
  readonly births: readonly number[];
}

/** Numbers of a leaf: place, heading, up, size, width, distance, age, depth, plant. */
export const leafSize = 15;

/** Stems as curves and leaves as points, with their values. `pace`: metres a second, for `birth`; `numbered`: with the number of the plant of each. */
export function plantsAsGeometry(plants: DrawnPlants, pace: number, numbered: boolean): { curves: Curves; leaves: Points } {
  const birthAt = (distance: number, plant: number): number => plants.births[plant] + distance / pace;
  return { curves: stemsOf(plants.runs, birthAt, numbered), leaves: leavesOf(plants.leafNumbers, birthAt, numbered) };
}

function stemsOf(runs: readonly Run[], birthAt: (distance: number, plant: number) => number, numbered: boolean): Curves {
  const starts = new Uint32Array(runs.length + 1);
  runs.forEach(({ widths }, c) => (starts[c + 1] = starts[c] + widths.length));
  const count = starts[runs.length];
  const [positions, outward] = [new Float32Array(count * 3), new Float32Array(count * 3)];
  const [width, distance, age, birth] = [0, 1, 2, 3].map(() => new Float32Array(count));
  runs.forEach((run, c) => {
    positions.set(run.points, starts[c] * 3);
    outward.set(run.outward, starts[c] * 3);
    width.set(run.widths, starts[c]);
    distance.set(run.distances, starts[c]);
    age.set(run.ages, starts[c]);
    for (let i = starts[c]; i < starts[c + 1]; i++) birth[i] = birthAt(distance[i], run.plant);
  });
  const ofPoints = (data: Float32Array): Attribute => ({ carrier: 'point', size: 1, data });
  const ofCurves = (of: (run: Run) => number): Attribute => ({ carrier: 'curve', size: 1, data: Float32Array.from(runs, of) });
  const attributes = new Map([
    ['width', ofPoints(width)],
    ['distance', ofPoints(distance)],
    ['birth', ofPoints(birth)],
    ['age', ofPoints(age)],
    ['depth', ofCurves(({ depth }) => depth)],
    ['parent', ofCurves(({ parent }) => parent)],
  ]);
  if (numbered)
    attributes.set(
      'plant',
      ofCurves(({ plant }) => plant),
    );
  const curves = makeCurves({ positions, starts, attributes });
  return count ? framedOutwards(curves, outward) : curves;
}

function leavesOf(n: readonly number[], birthAt: (distance: number, plant: number) => number, numbered: boolean): Points {
  const count = n.length / leafSize;
  const column = (at: number, size: number): Float32Array =>
    Float32Array.from({ length: count * size }, (_, i) => n[Math.floor(i / size) * leafSize + at + (i % size)]);
  const of = (at: number, size = 1): Attribute => ({ carrier: 'point', size, data: column(at, size) });
  const [distance, plant] = [of(11), of(14)];
  const attributes = new Map([
    ['tangent', of(3, 3)],
    ['normal', of(6, 3)],
    ['size', of(9)],
    ['width', of(10)],
    ['distance', distance],
    ['birth', { ...distance, data: distance.data.map((value, i) => birthAt(value, plant.data[i])) }],
    ['age', of(12)],
    ['depth', of(13)],
  ]);
  if (numbered) attributes.set('plant', plant);
  return makePoints(column(0, 3), attributes);
}
