import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { blocks, blockSize, countUp, kernels, writeDivided } from '../../src/values/formula/blocks.js';
import { farthest, sineAt } from '../../src/values/formula/sine.js';
import { compileFormula } from '../../src/index.js';
import { generateKernels, kernelsPath } from '../../../../scripts/generate-kernels.js';

test('the generated loops are those of kernels.wat (else: npm run generate)', async () => {
  expect(readFileSync(kernelsPath, 'utf8')).toBe(await generateKernels());
});

/** Units in the last place between two numbers. */
function unitsApart(a: number, b: number): number {
  const unit = 2 ** (Math.floor(Math.log2(Math.max(Math.abs(a), Math.abs(b), 2 ** -1022))) - 52);
  return Math.abs(a - b) / unit;
}

describe('sine and cosine', () => {
  const angle = fc.oneof(
    fc.double({ min: -10, max: 10, noNaN: true }),
    fc.double({ min: -farthest, max: farthest, noNaN: true }),
    fc.double(),
    fc.integer({ min: -1000, max: 1000 }).map((n) => (n * Math.PI) / 2),
  );

  // The engine's own are within one unit of the true value (fdlibm, Sun Microsystems 1993), so two such are at most two apart.
  test('are within two units in the last place of the engine’s at any angle', () =>
    fc.assert(
      fc.property(angle, (x) => {
        for (const [ours, theirs] of [
          [sineAt(x, 0), Math.sin(x)],
          [sineAt(x, 1), Math.cos(x)],
        ])
          // prettier-ignore
          if (Number.isNaN(theirs)) expect(ours).toBeNaN();
          else expect(unitsApart(ours, theirs)).toBeLessThanOrEqual(2);
      }),
      { numRuns: 20_000 },
    ));

  test('are exact at turning points, and keep the sign of 0', () => {
    expect(sineAt(Math.PI, 1)).toBe(-1);
    expect(sineAt(Math.PI / 2, 0)).toBe(1);
    expect(sineAt(-Math.PI / 2, 0)).toBe(-1);
    expect(sineAt(0, 1)).toBe(1);
    expect(sineAt(-0, 0)).toBe(-0);
    expect(sineAt(Math.PI / 6, 0)).toBeCloseTo(0.5, 15);
  });

  test('are the same in blocks, to the last bit, and with angles too far for the loop among them', () =>
    fc.assert(
      fc.property(fc.array(angle, { minLength: 1, maxLength: 70 }), (angles) => {
        const values = (text: string): Float64Array =>
          compileFormula(text, { source: () => ({ fill: (out, from, count) => out.set(angles.slice(from, from + count)) }), names: ['x'], id: 0 }).evaluate(
            angles.length,
          );
        expect([...values('sin(x)')]).toEqual(angles.map((x) => sineAt(x, 0)));
        expect([...values('cos(x)')]).toEqual(angles.map((x) => sineAt(x, 1)));
      }),
      { numRuns: 500 },
    ));
});

describe('loops over parts of a block', () => {
  test('write what is asked and nothing beside it', () =>
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 200 }), fc.integer({ min: 0, max: 200 }), fc.integer({ min: -50, max: 50 }), (o, count, first) => {
        for (const out of [blocks(2)[0], new Float64Array(blockSize)]) {
          out.fill(NaN);
          countUp(out, o, first, count);
          const wanted = (i: number, value: number): number => (i >= o && i < o + count ? value : NaN);
          expect([...out.subarray(0, 410)]).toEqual(Array.from({ length: 410 }, (_, i) => wanted(i, first + i - o)));
          const data = Float64Array.from({ length: 500 }, (_, i) => i * 0.3);
          out.fill(NaN);
          writeDivided(out, o, data, 10, 10 + count, 7);
          expect([...out.subarray(0, 410)]).toEqual(Array.from({ length: 410 }, (_, i) => wanted(i, data[10 + i - o] / 7)));
        }
      }),
      { numRuns: 60 },
    ));

  test('a number out of range, or none, is found wherever it is', () => {
    const [block] = blocks(1);
    for (const bad of [NaN, Infinity, -0.001, 1.001])
      for (const at of [0, 1, 510, 1023]) {
        block.fill(0.5);
        expect(kernels.within(block.byteOffset, 0, 1, blockSize)).toBe(1);
        block[at] = bad;
        expect(kernels.within(block.byteOffset, 0, 1, blockSize)).toBe(0);
      }
  });
});

test('a formula that needs more blocks than there are gets them, and an older one works on', () => {
  const scope = { source: () => ({ fill: (out: Float64Array, from: number, count: number) => countUp(out, 0, from, count) }), names: [], id: 0 };
  const older = compileFormula('x * y', scope);
  // Each name has a block of its own.
  const names = Array.from({ length: 400 }, (_, i) => `n${i}`);
  const sum = compileFormula(names.join('+'), scope).evaluate(3);
  expect([...sum]).toEqual([0, 400, 800]);
  expect([...older.evaluate(3)]).toEqual([0, 1, 4]);
});
