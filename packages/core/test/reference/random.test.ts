/** Random numbers by value: documents are to give the same on every machine, and tomorrow. */
import { describe, expect, test } from 'vitest';
import { noise3 } from '../../src/values/noise.js';
import { hash, randomAt, shuffled } from '../../src/values/random.js';

describe('what is drawn', () => {
  test('is mixed as published: MurmurHash3 of no bytes, of the seeds 1 and 2³² − 1 (SMHasher’s test vectors, from memory)', () => {
    // A key and seeds at which nothing but the seed goes into the finaliser; the inverse of an odd number by Newton’s steps.
    const key = -0x7f4a7c15 | 0;
    let inverse = 0x9e3779b1 | 0;
    for (let i = 0; i < 5; i++) inverse = Math.imul(inverse, 2 - Math.imul(0x9e3779b1, inverse));
    expect(Math.imul(inverse, 0x9e3779b1)).toBe(1);
    expect([hash(0, key), hash(inverse, key), hash(-inverse, key)]).toEqual([0, 0x514e28b7, 0x81f16f39]);
  });

  test('is what it was (recorded when this was written)', () => {
    expect([0, 1, 2, 1000].map((key) => hash(1, key))).toEqual([3017485538, 94878905, 2098986354, 3690662146]);
    expect([0, 7, 20261123].map((seed) => randomAt(seed, 5))).toEqual([0.5266380913089961, 0.35825946531258523, 0.822184226475656]);
    expect(shuffled(['a', 'b', 'c', 'd', 'e', 'f'], 3)).toEqual(['f', 'b', 'a', 'd', 'c', 'e']);
    expect([noise3(1)(0.1, 0.2, 0.3), noise3(2)(0.1, 0.2, 0.3), noise3(1)(-4.5, 12.25, 0)]).toEqual([
      0.40041983999999986, -0.7454494719999998, 0.6168231087641459,
    ]);
  });

  test('is 0 or more and less than 1, and evenly spread: each tenth within five standard deviations of its share', () => {
    const [tenths, count] = [new Array<number>(10).fill(0), 100_000];
    for (let key = 0; key < count; key++) tenths[Math.floor(randomAt(11, key) * 10)]++;
    for (const each of tenths) expect(Math.abs(each - count / 10)).toBeLessThan(5 * Math.sqrt(count * 0.1 * 0.9));
    expect(tenths.reduce((a, b) => a + b, 0)).toBe(count);
  });
});
