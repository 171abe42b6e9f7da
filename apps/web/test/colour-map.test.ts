import { describe, expect, test } from 'vitest';
import { colourMaps, coloursOf, colourTable, gradientOf, oklab, unknownColour, type ColourMap } from '../src/app/ropewalk/view3d/colour-map';

/** Linear red, green, blue to what eyes without the cones for long waves see (Viénot, Brettel & Mollon 1999, protanopia; rounded, from memory). */
const protanope = ([r, g, b]: readonly number[]): [number, number, number] => [0.1124 * r + 0.8876 * g, 0.1124 * r + 0.8876 * g, 0.004 * r - 0.004 * g + b];
const luminance = ([r, g, b]: readonly number[]): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;
const rows = (map: ColourMap): number[][] => Array.from({ length: 256 }, (_, i) => [...colourTable(map).subarray(i * 3, i * 3 + 3)]);

describe('colour maps', () => {
  for (const map of ['dye', 'ink'] as const)
    test(`${map} grows lighter all the way, for eyes that do not tell red from green too`, () => {
      const light = rows(map).map(luminance);
      const seen = rows(map).map((row) => luminance(protanope(row)));
      for (let i = 8; i < 256; i += 8) {
        expect(light[i]).toBeGreaterThan(light[i - 8]);
        expect(seen[i]).toBeGreaterThan(seen[i - 8]);
      }
    });

  test('both ways: lightest in the middle, and the two ends differ without red and green', () => {
    const table = rows('tide');
    expect(luminance(table[128])).toBeGreaterThan(luminance(table[40]));
    expect(luminance(table[128])).toBeGreaterThan(luminance(table[215]));
    const [low, high] = [protanope(table[20]), protanope(table[235])];
    expect(Math.abs(low[2] - high[2])).toBeGreaterThan(0.15);
  });

  test('a grey from OKLab is that grey (Ottosson 2020: white is 1, 0, 0)', () => {
    const [lightness, a, b] = oklab('#ffffff');
    expect(lightness).toBeCloseTo(1, 5);
    expect(Math.hypot(a, b)).toBeLessThan(1e-4);
    expect(colourMaps.ink.stops.length).toBe(2);
  });

  test('values beyond the range take the ends, those that are not finite are grey', () => {
    const colours = coloursOf(Float32Array.of(-5, 0, 1, 9, NaN), 0, 1, 'ink');
    expect([...colours.slice(0, 3)]).toEqual([...colours.slice(3, 6)]);
    expect([...colours.slice(6, 9)]).toEqual([...colours.slice(9, 12)]);
    unknownColour.forEach((value, k) => expect(colours[12 + k]).toBeCloseTo(value, 6));
    expect(gradientOf('dye')).toMatch(/^linear-gradient\(to right, rgb\(\d+ \d+ \d+\)/);
  });
});
