import { expect, test } from 'vitest';
import { requireDocument } from '@filaxis/core';
import { drawnWire } from '../src/app/ropewalk/graph/drawn-wire';
import { inputPlace, outputPlace } from '../src/app/ropewalk/graph/tag-geometry';
import { Viewport } from '../src/app/ropewalk/graph/viewport';

const document = requireDocument({
  format: 'filaxis-graph',
  version: 1,
  title: 'Wire',
  nodes: [
    { id: 'line', type: 'lay.line', at: [10, 20] },
    { id: 'tube', type: 'skin.tube', at: [300, 120] },
  ],
  wires: [],
});
const numbers = (course: string): number[] => course.match(/-?[\d.]+/g)!.map(Number);

test('a wire in the hand runs from its output to the hand, or to the input that would take it, in pixels of the pane', () => {
  const viewport = new Viewport();
  viewport.pan.set({ x: 30, y: -12 });
  viewport.zoom.set(0.5);
  const screen = ({ x, y }: { x: number; y: number }): number[] => [x * 0.5 + 30, y * 0.5 - 12].map((value) => Number(value.toFixed(1)));
  const [line, tube] = document.nodes;
  const free = drawnWire(document, viewport, ['line', 'curves'], { x: 200, y: 240 }, null)!;
  expect(free.kind).toBe('curves');
  expect([numbers(free.course).slice(0, 2), numbers(free.course).slice(-2)]).toEqual([screen(outputPlace(document, line, 'curves')), [130, 108]]);
  const aimed = drawnWire(document, viewport, ['line', 'curves'], { x: 200, y: 240 }, ['tube', 'curves'])!;
  expect(numbers(aimed.course).slice(-2)).toEqual(screen(inputPlace(document, tube, 'curves')));
  expect(drawnWire(document, viewport, ['gone', 'curves'], { x: 0, y: 0 }, null)).toBeNull();
});
