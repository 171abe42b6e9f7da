import { expect, test } from 'vitest';
import { ForeignPart } from '../../src/base/foreign.js';

/** A part that counts how often it was loaded, and breaks off when told to. */
function part(): { all: ForeignPart<{ number: number }>; fails: (error: Error | null) => void } {
  let [loaded, failure]: [number, Error | null] = [0, null];
  const all = new ForeignPart(async () => {
    if (failure) throw failure;
    return { number: ++loaded };
  });
  return { all, fails: (error) => (failure = error) };
}

test('it is loaded once, when it is first used, also by two at once', async () => {
  const { all } = part();
  expect(await Promise.all([all.use(({ number }) => number), all.use(({ number }) => number)])).toEqual([1, 1]);
  expect(await all.use(({ number }) => number)).toBe(1);
});

test('after it broke off it is loaded anew; what a step throws by itself is no such thing', async () => {
  const { all } = part();
  await expect(all.use(() => { throw new RangeError('too flat'); })).rejects.toThrow(new RangeError('too flat')); // prettier-ignore
  expect(await all.use(({ number }) => number)).toBe(1);
  // As the engine itself breaks off: a function that is only `unreachable` (WebAssembly core specification, 4.4.8).
  const broken = Uint8Array.of(0, 97, 115, 109, 1, 0, 0, 0, 1, 4, 1, 96, 0, 0, 3, 2, 1, 0, 7, 5, 1, 1, 102, 0, 0, 10, 5, 1, 3, 0, 0, 11);
  const trap = new WebAssembly.Instance(new WebAssembly.Module(broken)).exports['f'] as () => void;
  await expect(all.use(trap)).rejects.toThrow(
    /^The part of the program that does this broke off, most likely for want of memory \(unreachable\)\. Give it less at once\.$/,
  );
  expect(await all.use(({ number }) => number)).toBe(2);
});

test('one that cannot be loaded is told, and tried again the next time', async () => {
  const { all, fails } = part();
  fails(new Error('404'));
  await expect(all.use(() => 0)).rejects.toThrow('The part of the program that does this could not be loaded: 404');
  fails(null);
  expect(await all.use(({ number }) => number)).toBe(1);
});
