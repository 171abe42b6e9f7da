import { curvesFromLists, type Curves } from '../geometry/curves.js';
import type { Surface } from '../near/surface.js';
import { newHit } from '../near/nearest.js';
import { tick, type Work } from '../base/work.js';

/** A place on a body: one of its triangles, and the shares of that triangle's second and third corner (the first has the rest). */
export type BodyPlace = readonly [triangle: number, second: number, third: number];

/** A line drawn on a body. */
export interface Stroke {
  /** Where its points lay when it was drawn, in metres. */
  readonly points: readonly (readonly number[])[];
  /** The same as places on the body, and how many triangles that had: as long as it has as many, the points go with it. */
  readonly on?: readonly BodyPlace[];
  readonly triangles?: number;
  readonly closed?: boolean;
}

/** A stroke may be given as its points alone. */
export type GivenStroke = Stroke | Stroke['points'];

export const asStroke = (given: GivenStroke): Stroke => ('points' in given ? given : { points: given });

export interface PlacedStrokes {
  /** Straight curves whose points lie on the body. */
  readonly curves: Curves;
  /** Strokes that were drawn on a body of other triangles, so that the nearest places were taken. */
  readonly elsewhere: number;
  /** How far the furthest of those places is from where it was drawn, in metres. */
  readonly furthest: number;
}

/** Where strokes lie on a body as it is now. */
export function placeStrokes(strokes: readonly Stroke[], body: Surface, work: Work): PlacedStrokes {
  const { corners, element } = body.nearest.pieces;
  const hit = newHit();
  let elsewhere = 0;
  let furthest = 0;
  const onTriangle = ([triangle, second, third]: BodyPlace): number[] =>
    [0, 1, 2].map((k) => {
      const o = triangle * 9 + k;
      return corners[o] * (1 - second - third) + corners[o + 3] * second + corners[o + 6] * third;
    });
  const nearest = ([x, y, z]: readonly number[]): number[] => {
    body.nearest.nearest(x, y, z, hit);
    furthest = Math.max(furthest, hit.distance);
    return [...hit.place];
  };
  const lists = strokes.map(({ points, on, triangles }, i) => {
    tick(work, i, strokes.length);
    if (on && triangles === element.length) return on.map(onTriangle);
    if (on) elsewhere++;
    return points.map(nearest);
  });
  const closed = strokes.map((stroke) => stroke.closed === true && stroke.points.length > 2);
  return { curves: curvesFromLists(lists, { closed, kind: 'straight' }), elsewhere, furthest };
}
