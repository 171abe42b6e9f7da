import fc from 'fast-check';
import { expect, test } from 'vitest';
import { partsOf, shotFault } from '../src/app/ropewalk/view3d/pictures';

test('parts of a picture cover each of its pixels once, and none is larger than can be drawn at once', () =>
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 8192 }), fc.integer({ min: 1, max: 8192 }), (width, height) => {
      const parts = partsOf(width, height);
      expect(parts.reduce((sum, part) => sum + part.width * part.height, 0)).toBe(width * height);
      for (const part of parts) {
        expect(Math.max(part.width, part.height)).toBeLessThanOrEqual(1024);
        expect([part.x + part.width <= width, part.y + part.height <= height]).toEqual([true, true]);
      }
      expect(new Set(parts.map(({ x, y }) => `${x} ${y}`)).size).toBe(parts.length);
    }),
  ));

test('a size that no picture can have is refused by name and range', () => {
  const fine = { Width: 1920, Height: 1080, 'All round': 1 };
  expect(shotFault(fine)).toBeNull();
  expect(shotFault({ ...fine, Width: 20_000 })).toBe('Width is 20000; it accepts whole numbers from 16 to 8192.');
  expect(shotFault({ ...fine, Height: 10.5 })).toContain('Height is 10.5');
  expect(shotFault({ ...fine, 'All round': 0 })).toBe('All round is 0; it accepts whole numbers from 1 to 360.');
});
