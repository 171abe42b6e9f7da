import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  ambience,
  fromAboveAndBelow,
  keyShare,
  lightings,
  radiance,
  surroundings,
  towards,
  type Lighting,
  type LightingName,
} from '../src/app/ropewalk/view3d/lighting';
import { labelEvery, stepFor } from '../src/app/ropewalk/view3d/floor';
import { Pace, steps } from '../src/app/ropewalk/view3d/pace';
import { normalPins } from '../src/app/ropewalk/view3d/pins';
import { partColours } from '../src/app/ropewalk/view3d/colour-map';
import type { MeshPicture } from '@filaxis/protocol';

const names = Object.keys(lightings) as LightingName[];
const even: Lighting = { label: 'Even', top: [1, 1, 1], horizon: [1, 1, 1], ground: [1, 1, 1], panes: [], key: { round: 0, above: 45, colour: [1, 1, 1] } };

describe('lightings', () => {
  test('light that is 1 from everywhere gives 1 to a face that looks anywhere', () => {
    // The integral of a cosine over the half sphere is π.
    for (const normal of [[0, 1, 0], [1, 0, 0], [0.6, -0.8, 0]] as const) for (const each of ambience(even, normal)) expect(each).toBeCloseTo(1, 2); // prettier-ignore
  });

  test.each(names)('%s lights a face that looks to its key light with 1 on the whole', (name) => {
    const lighting: Lighting = lightings[name];
    const { key } = lighting;
    const normal = towards(key.round, key.above);
    const [all, rough] = [ambience(lighting, normal), fromAboveAndBelow(ambience(lighting, [0, 1, 0]), ambience(lighting, [0, -1, 0]), normal)];
    for (const around of [all, rough]) {
      const share = keyShare(lighting, around);
      const whole = around.map((value, k) => value + key.colour[k] * share);
      expect(whole[0] * 0.2126 + whole[1] * 0.7152 + whole[2] * 0.0722).toBeCloseTo(1, 6);
      // Enough of it comes from the key light for shadows to be seen, and enough from around for them not to be black.
      expect(share).toBeGreaterThan(0.15);
      expect(share).toBeLessThan(0.85);
    }
    // The rough light is near the right one: what moves and what is still look alike.
    expect(Math.max(...all.map((value, k) => Math.abs(value - rough[k])))).toBeLessThan(0.2);
  });

  test('the image of the surroundings has the light of every direction where it is looked for', () => {
    const width = 64;
    const image = surroundings(lightings.window, width);
    for (const [column, row] of [[3, 5], [40, 20], [63, 31]] as const) {
      // u = atan2(z, x) / 2π + 1/2, v = asin(y) / π + 1/2, as three reads such images.
      const [u, v] = [((column + 0.5) / width - 0.5) * 2 * Math.PI, ((row + 0.5) / (width / 2) - 0.5) * Math.PI];
      const colour = radiance(lightings.window, [Math.cos(u) * Math.cos(v), Math.sin(v), Math.sin(u) * Math.cos(v)]);
      expect([...image.subarray((row * width + column) * 4, (row * width + column) * 4 + 3)]).toEqual(colour.map(Math.fround));
    } // prettier-ignore
  });
});

describe('the floor', () => {
  test('has some ten lines across a scene of any size, and some five numbers along each half of an axis', () =>
    fc.assert(
      fc.property(fc.double({ min: 0.02, max: 1e6, noNaN: true }), (extent) => {
        const step = stepFor(extent);
        expect(extent / step).toBeGreaterThan(2);
        expect(extent / step).toBeLessThan(30);
        const apart = labelEvery(extent, step) * step;
        expect((extent / 2) / apart).toBeLessThanOrEqual(5); // prettier-ignore
      }),
    ));
});

describe('how much is drawn while the view moves', () => {
  const drawn = (pace: Pace, gap: number, frames: number, from = 0): string[] =>
    Array.from({ length: frames }, (_, i) => (pace.frame(from + i * gap), pace.step));

  test('all of it where frames come quickly', () => {
    const pace = new Pace(false);
    expect(new Set(drawn(pace, 30, 60))).toEqual(new Set(['full']));
    expect(pace.note).toBeNull();
  });

  test('less and less below 20 frames a second, and it is said', () => {
    const pace = new Pace(false);
    expect([...new Set(drawn(pace, 80, 40))]).toEqual([...steps]);
    expect(pace.note).toContain('slow');
  });

  test('rests between movements are no slow frames', () => {
    const pace = new Pace(false);
    for (let i = 0; i < 50; i++) pace.frame(i * 900);
    expect(pace.step).toBe('full');
  });

  test('software begins with the least and complains of nothing', () => {
    const pace = new Pace(true);
    drawn(pace, 200, 40);
    expect([pace.step, pace.note]).toEqual(['plain', null]);
  });
});

describe('pins', () => {
  const mesh = { positions: Float32Array.of(0, 0, 0, 2, 0, 0, 0, 2, 0), normals: Float32Array.of(0, 0, 3, 0, 0, 3, 0, 0, 3), indices: Uint32Array.of(0, 1, 2) } as unknown as MeshPicture; // prettier-ignore

  test('stand on vertices or in the middle of faces, of one length whatever the normals have', () => {
    expect([...normalPins(mesh, 'vertices', 0.5)!.subarray(6, 12)]).toEqual([2, 0, 0, 2, 0, 0.5]);
    const face = normalPins(mesh, 'faces', 0.5)!;
    expect(face.length).toBe(6);
    expect([...face].map((value) => Number(value.toFixed(5)))).toEqual([0.66667, 0.66667, 0, 0.66667, 0.66667, 0.5]);
  });

  test('there are none where none are asked for, or there are no normals', () => {
    expect(normalPins(mesh, 'none', 1)).toBeNull();
    expect(normalPins({ ...mesh, normals: null }, 'vertices', 1)).toBeNull();
  });
});

test('neighbouring parts have colours that are told apart, and what has no part is grey', () => {
  const colours = partColours([0, 1, 2, 3, 4, 5, 6, 7, NaN]);
  const of = (i: number): number[] => [...colours.subarray(i * 3, i * 3 + 3)];
  for (let i = 0; i < 7; i++) expect(Math.hypot(...of(i).map((value, k) => value - of(i + 1)[k]))).toBeGreaterThan(0.08);
  expect(Math.max(...of(8)) - Math.min(...of(8))).toBeLessThan(0.1);
});
