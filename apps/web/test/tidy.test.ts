import { describe, expect, test } from 'vitest';
import { createRequire } from 'node:module';
import { requireDocument, type FilaxisDocument } from '@filaxis/core';
import { partsOf, tidyPlaces, type Tidying } from '../src/app/ropewalk/graph/tidy';
import { tagHeight, tagWidth } from '../src/app/ropewalk/graph/tag-geometry';

const library = createRequire(import.meta.url)('elkjs/lib/elk-worker.min.js') as { Worker: new () => Worker };
/** The library's own worker, run here. */
const here = (terminate = (): void => undefined): Worker => Object.assign(new library.Worker(), { terminate });

const chain = (name: string, count: number): Pick<FilaxisDocument, 'nodes' | 'wires'> => ({
  nodes: Array.from({ length: count }, (_, i) => ({ id: `${name}${i}`, type: i ? 'shape.transform' : 'lay.line' })),
  wires: Array.from({ length: count - 1 }, (_, i) => ({ from: [`${name}${i}`, i ? 'any' : 'curves'], to: [`${name}${i + 1}`, 'any'] })),
});

const [a, b] = [chain('a', 4), chain('b', 3)];
const document = requireDocument({
  format: 'filaxis-graph',
  version: 1,
  title: 'Parts',
  nodes: [...a.nodes, { id: 'alone', type: 'gauge.number' }, ...b.nodes],
  wires: [...b.wires, ...a.wires],
});

test('parts of a graph hang together by their wires, in the order of their first nodes', () => {
  expect(partsOf(document).map(({ nodes, wires }) => [nodes.map(({ id }) => id).join(' '), wires.length])).toEqual([
    ['a0 a1 a2 a3', 3],
    ['alone', 0],
    ['b0 b1 b2', 2],
  ]);
});

describe('a graph is laid out', () => {
  test('part by part, its share told; left to right along the wires, and no tag lies on another', async () => {
    const told: Tidying[] = [];
    await tidyPlaces(document, 1.4, () => here()).forEach((tidying) => void told.push(tidying));
    expect(told.map(({ share }) => share)).toEqual([0, 4 / 8, 5 / 8, 1]);
    const places = told.at(-1)!.places!;
    expect(places.size).toBe(8);
    for (const { from, to } of document.wires) expect(places.get(to[0])![0]).toBeGreaterThanOrEqual(places.get(from[0])![0] + tagWidth);
    const all = [...places.values()];
    all.forEach(([x, y], i) => {
      for (const [u, v] of all.slice(i + 1)) expect(Math.abs(x - u) >= tagWidth || Math.abs(y - v) >= tagHeight).toBe(true);
    });
  });

  test('unsubscribing ends the worker, and nothing comes any more', async () => {
    let ended = false;
    const told: Tidying[] = [];
    const laying = tidyPlaces(document, 1.4, () => here(() => void (ended = true))).subscribe((tidying) => told.push(tidying));
    laying.unsubscribe();
    await new Promise((done) => setTimeout(done, 200));
    expect(ended).toBe(true);
    expect(told.filter(({ places }) => places)).toEqual([]);
  });
});
