/** Lines of sight onto the body that a node draws on, and where its strokes lie on it. */
import { beforeAll, describe, expect, test } from 'vitest';
import { requireDocument, type FilaxisDocument } from '@filaxis/core';
import type { Newest } from '../src/workers/newest';
import { onBody, strokePoints } from '../src/workers/onBody';
import { ranDocument } from './runs';

/** A square tube of four metres along x, and strokes on it. */
const drawnOn = (strokes: readonly object[]): FilaxisDocument =>
  requireDocument({
    format: 'filaxis-graph', version: 1, title: 'Strokes',
    nodes: [
      { id: 'line', type: 'lay.line', settings: { to: [4, 0, 0], points: 5 } },
      { id: 'tube', type: 'skin.tube', settings: { radius: 0.1, sides: 4, caps: 'open' } },
      { id: 'stroke', type: 'lay.surfaceStroke', settings: { strokes } },
    ],
    wires: [{ from: ['line', 'curves'], to: ['tube', 'curves'] }, { from: ['tube', 'mesh'], to: ['stroke', 'mesh'] }],
  }); // prettier-ignore
let newest: Newest;
beforeAll(async () => {
  newest = await ranDocument(drawnOn([]));
});

describe('lines of sight onto a body', () => {
  test('meet its nearest side, told by triangle and weights; what misses meets nothing', () => {
    const { triangles, hits } = onBody(newest, { node: 'stroke', rays: [{ from: [2.5, 5, 0.01], along: [0, -1, 0] }, { from: [9, 5, 0], along: [0, -1, 0] }] }); // prettier-ignore
    expect([triangles, hits[1]]).toEqual([32, null]);
    const { place, on } = hits[0]!;
    expect([place[0], place[2], place[1] > 0]).toEqual([2.5, 0.01, true]);
    expect([on[0] >= 0 && on[0] < 32, on[1] >= 0, on[2] >= 0, on[1] + on[2] <= 1]).toEqual([true, true, true, true]);
  });

  test('without a body there is nothing to meet', () => {
    expect(onBody(newest, { node: 'line', rays: [{ from: [0, 1, 0], along: [0, -1, 0] }] })).toEqual({ triangles: 0, hits: [null] });
    expect([strokePoints(newest, { node: 'line' }), strokePoints(newest, { node: 'lost' })]).toEqual([[], []]);
  });

  test('points of strokes lie where they were laid', async () => {
    const { hits, triangles } = onBody(newest, { node: 'stroke', rays: [{ from: [1.5, 5, 0.01], along: [0, -1, 0] }, { from: [2.5, 5, 0.01], along: [0, -1, 0] }] }); // prettier-ignore
    // By triangle, since the body has as many as then: the places that were noted are another body's.
    const strokes = [{ triangles, points: hits.map(() => [9, 9, 9]), on: hits.map((hit) => hit!.on) }];
    const [points] = strokePoints(await ranDocument(drawnOn(strokes)), { node: 'stroke' });
    expect(points).toHaveLength(2);
    points.forEach((point, i) => point.forEach((value, k) => expect(value).toBeCloseTo(hits[i]!.place[k], 5)));
  });
});
