import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { UvSheet } from '@filaxis/core';
import { inSpace, onSheet, sheetSvg, underUv } from '../src/app/ropewalk/uv/sheet-places';
import { middleOf } from '../src/app/ropewalk/uv/sheet-stage';

/** Two triangles that make a square from 0 to 1 in UV, and one of 2 m by 3 m in space. */
const sheet = {
  corners: Float32Array.of(0, 0, 1, 0, 1, 1, 0, 0, 1, 1, 0, 1),
  places: Float32Array.of(0, 0, 0, 2, 0, 0, 2, 3, 0, 0, 0, 0, 2, 3, 0, 0, 3, 0),
  edges: Float32Array.of(0, 0, 1, 0, 1, 0, 1, 1, 1, 1, 0, 1, 0, 1, 0, 0, 1, 1, 1, 0),
} as unknown as UvSheet;

describe('places of the sheet', () => {
  test('a place under the pointer is where it is in space, and back', () =>
    fc.assert(
      fc.property(fc.double({ min: 0.01, max: 0.99, noNaN: true }), fc.double({ min: 0.01, max: 0.99, noNaN: true }), (u, v) => {
        const found = underUv(sheet, u, v)!;
        const place = inSpace(sheet, found);
        expect(place[0]).toBeCloseTo(u * 2, 5);
        expect(place[1]).toBeCloseTo(v * 3, 5);
        const back = onSheet(sheet, [...sheet.places.subarray(found.triangle * 9, found.triangle * 9 + 9)], place)!;
        expect(back[0]).toBeCloseTo(u, 5);
        expect(back[1]).toBeCloseTo(v, 5);
      }),
    ));

  test('beside the sheet, and on triangles that it does not have, is nothing', () => {
    expect(underUv(sheet, 1.2, 0.5)).toBeNull();
    expect(onSheet(sheet, [9, 9, 9, 1, 1, 1, 2, 2, 2], [0, 0, 0])).toBeNull();
  });

  test('the SVG has each side once, v upwards', () => {
    const svg = sheetSvg(sheet, 100);
    expect(svg.match(/M/g)!.length).toBe(4);
    expect(svg).toContain('M0 100 100 100');
    expect(svg).toContain('viewBox="0 0 100 100"');
  });

  test('the middle value leaves out what is none', () => {
    expect(middleOf(Float32Array.of(NaN, 3, 1, 0, 2, Infinity))).toBe(2);
    expect(middleOf(Float32Array.of(NaN))).toBe(0);
  });
});
