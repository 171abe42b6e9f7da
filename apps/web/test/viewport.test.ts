import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { GraphNode } from '@filaxis/core';
import { tagHeight, tagWidth } from '../src/app/ropewalk/graph/tag-geometry';
import { Viewport } from '../src/app/ropewalk/graph/viewport';

const nodeAt = (x: number, y: number, id = `${x} ${y}`): GraphNode => ({ id, type: 'lay.line', at: [x, y] });
const place = fc.record({ x: fc.integer({ min: -3000, max: 3000 }), y: fc.integer({ min: -3000, max: 3000 }) });

/** A view of a pane of 800 × 600. */
function view(nodes: readonly GraphNode[] = []): Viewport {
  const viewport = new Viewport();
  viewport.resize(800, 600, nodes);
  return viewport;
}

const inside = (viewport: Viewport, { at: [x, y] = [0, 0] }: GraphNode): boolean => {
  const [low, high] = [viewport.toScreen({ x, y }), viewport.toScreen({ x: x + tagWidth, y: y + tagHeight })];
  return low.x >= 0 && low.y >= 0 && high.x <= 800 && high.y <= 600;
};

describe('what is seen of the graph', () => {
  test('places on the screen lead back to where they are in the graph', () =>
    fc.assert(
      fc.property(place, fc.double({ min: 0.2, max: 4, noNaN: true }), place, (about, factor, at) => {
        const viewport = view();
        viewport.zoomBy(factor, about);
        const back = viewport.toGraph(viewport.toScreen(at));
        expect(Math.hypot(back.x - at.x, back.y - at.y)).toBeLessThan(1e-6);
      }),
    ));

  test('zooming leaves the place under the pointer where it is, between a twenty-fifth and two and a half times', () =>
    fc.assert(
      fc.property(place, fc.array(fc.double({ min: 0.3, max: 3, noNaN: true }), { maxLength: 12 }), (about, factors) => {
        const viewport = view();
        const under = viewport.toGraph(about);
        for (const factor of factors) viewport.zoomBy(factor, about);
        const now = viewport.toGraph(about);
        expect(Math.hypot(now.x - under.x, now.y - under.y)).toBeLessThan(1e-6);
        expect(viewport.zoom()).toBeGreaterThanOrEqual(0.04);
        expect(viewport.zoom()).toBeLessThanOrEqual(2.5);
      }),
    ));

  test('fitted, every tag is whole in view, unless the graph is larger than a seventh of its size shows', () =>
    fc.assert(
      fc.property(fc.array(place, { minLength: 1, maxLength: 20 }), (places) => {
        const nodes = places.map(({ x, y }) => nodeAt(x / 2, y / 2));
        const viewport = view();
        viewport.fit(nodes);
        expect(viewport.zoom()).toBeLessThanOrEqual(1);
        if (viewport.zoom() > 0.15) for (const node of nodes) expect(inside(viewport, node)).toBe(true);
      }),
    ));

  test('a node that is brought into view is there; one that is in view already moves nothing', () =>
    fc.assert(
      fc.property(place, ({ x, y }) => {
        const viewport = view();
        viewport.reveal([nodeAt(x, y)]);
        expect(inside(viewport, nodeAt(x, y))).toBe(true);
        const pan = viewport.pan();
        viewport.reveal([nodeAt(x, y)]);
        expect(viewport.pan()).toEqual(pan);
      }),
    ));

  test('a graph is shown whole at first; later sizes change nothing', () => {
    const small = view([nodeAt(0, 0), nodeAt(300, 0)]);
    expect(small.zoom()).toBe(1);
    const large = Array.from({ length: 30 }, (_, i) => nodeAt(i * 220, 0));
    const shown = view(large);
    expect([inside(shown, large[29]), inside(shown, large[0])]).toEqual([true, true]);
    const { x, y } = shown.pan();
    shown.resize(500, 500, large);
    expect(shown.pan()).toEqual({ x, y });
    // An empty graph waits for its first nodes.
    expect(view().pan()).toEqual({ x: 24, y: 60 });
  });
});
