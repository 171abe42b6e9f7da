import { expect, test } from 'vitest';
import { cosineAndSine } from '../../src/base/turns.js';
import { affineFrom } from '../../src/geometry/transform.js';

test('quarter turns are exact, either way round and many times; others are what the engine says', () => {
  const plain = (degrees: number): number[] => cosineAndSine(degrees).map((value) => value + 0);
  expect([0, 90, 180, 270, 360, -90, -180, 7290, -360_000_090].map(plain)).toEqual([[1, 0], [0, 1], [-1, 0], [0, -1], [1, 0], [0, -1], [-1, 0], [0, 1], [0, -1]]); // prettier-ignore
  for (const degrees of [1, 89.999, 45, -33, 1e6 + 0.5]) {
    const [cosine, sine] = cosineAndSine(degrees);
    expect([cosine, sine]).toEqual([Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)]);
  }
});

test('what is turned by quarters lies on its axes to the last bit', () => {
  const turned = affineFrom({ move: [0, 0, 0], turn: [90, -90, 180], size: [1, 1, 1], pivot: [0, 0, 0] });
  expect(new Set(turned.map(Math.abs))).toEqual(new Set([0, 1]));
});
