import fc from 'fast-check';
import { expect, test } from 'vitest';
import { partsOf } from '../src/app/ropewalk/view3d/pictures';

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
