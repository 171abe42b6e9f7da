import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  curvesFromLists,
  dialFault,
  dialValues,
  fieldAt,
  modeOf,
  parseDialText,
  rampAt,
  requireDocument,
  resolveVarying,
  varyingFault,
  type Dial,
} from '../../src/index.js';

describe('ramps', () => {
  const keys = [[0, 1], [0.5, 3], [1, 2]] as const; // prettier-ignore

  test('straight, smooth and in steps between the keys', () => {
    expect([0, 0.25, 0.5, 0.75, 1].map((x) => rampAt(keys, 'linear', x))).toEqual([1, 2, 3, 2.5, 2]);
    // 3f² − 2f³ at a quarter is 0.15625.
    expect(rampAt(keys, 'smooth', 0.125)).toBeCloseTo(1 + 2 * 0.15625, 12);
    expect([0.1, 0.5, 0.9, 1].map((x) => rampAt(keys, 'steps', x))).toEqual([1, 3, 3, 2]);
  });

  test('constant outside the keys; two keys at one place are a jump', () => {
    expect([-1, 5].map((x) => rampAt(keys, 'linear', x))).toEqual([1, 2]);
    const jump = [[0, 0], [0.5, 0], [0.5, 1], [1, 1]] as const; // prettier-ignore
    expect([0.499, 0.5, 0.501].map((x) => rampAt(jump, 'linear', x))).toEqual([0, 1, 1]);
  });

  test('stay between their least and greatest key, however they are eased', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: -5, max: 5, noNaN: true })), { minLength: 1, maxLength: 8 }),
        fc.double({ min: -0.5, max: 1.5, noNaN: true }),
        fc.constantFrom('linear', 'smooth', 'steps'),
        (list, x, ease) => {
          const sorted = [...list].sort((a, b) => a[0] - b[0]);
          const values = sorted.map((key) => key[1]);
          const value = rampAt(sorted, ease as 'linear', x);
          expect(value).toBeGreaterThanOrEqual(Math.min(...values) - 1e-12);
          expect(value).toBeLessThanOrEqual(Math.max(...values) + 1e-12);
        },
      ),
    ));

  test('faults are told in words', () => {
    expect(varyingFault({ ramp: [] })).toBe('A ramp needs a list of 1 to 256 keys [place, value].');
    expect(varyingFault({ ramp: [[0, 1, 2]] })).toBe('Key 0 of the ramp is [0,1,2]; a key is two numbers, [place, value].');
    expect(varyingFault({ ramp: [[0, 1]], ease: 'bouncy' })).toBe('A ramp\'s ease is "bouncy"; it accepts linear, smooth, steps.');
    expect(varyingFault({ ramp: [[0, 1]], over: 'two words' })).toBe('A ramp runs over "two words"; it accepts "t", "s" or the name of an attribute.');
    expect(varyingFault({ ramp: [[0, 1]], colour: 1 })).toBe('A ramp value has no "colour"; it takes ramp, ease, over.');
    expect(varyingFault({ ramp: [[0, 1], [0, 2]], over: 't', ease: 'smooth' })).toBeNull(); // prettier-ignore
  });
});

describe('values along curves', () => {
  const curves = curvesFromLists([[[0, 0, 0], [1, 0, 0], [4, 0, 0]], [[0, 1, 0], [0, 1, 0]], [[0, 2, 0], [2, 2, 0]]]); // prettier-ignore

  test('a ramp over t goes by length, not by point number; a curve of no length takes its start', () => {
    const field = resolveVarying({ ramp: [[0, 10], [1, 20]] }, curves, 'point'); // prettier-ignore
    expect(Array.from({ length: 7 }, (_, i) => fieldAt(field, i))).toEqual([10, 12.5, 20, 10, 10, 10, 20]);
  });

  test('per curve, a ramp goes over the curves', () => {
    const field = resolveVarying({ ramp: [[0, 0], [1, 4]] }, curves, 'curve'); // prettier-ignore
    expect([0, 1, 2].map((c) => fieldAt(field, c))).toEqual([0, 2, 4]);
  });

  test('a number is the same everywhere', () => expect(fieldAt(resolveVarying(7, curves, 'point'), 5)).toBe(7));

  test('every mode of the contract is recognised', () => {
    const written = [0.02, { dial: 'radius' }, { formula: 't' }, { attribute: 'width' }, { ramp: [[0, 1]] }, { random: [0, 1] }];
    expect(written.map(modeOf)).toEqual(['fixed', 'dial', 'formula', 'attribute', 'ramp', 'random']);
    expect(modeOf({ dream: 1 })).toBeNull();
    expect(modeOf(null)).toBeNull();
  });
});

describe('dials', () => {
  const dial = (kind: Dial['kind'], more: Partial<Dial> = {}): Dial => ({ id: 'd', label: 'D', kind, value: 0, ...more });
  const cases: readonly (readonly [Dial, unknown, string | null])[] = [
    [dial('number', { min: 0, max: 2, unit: 'm' }), 1.5, null],
    [dial('number', { min: 0, max: 2, unit: 'm' }), 3, 'Dial "d" is 3; it accepts numbers from 0 to 2 m.'],
    [dial('number'), NaN, 'Dial "d" is null; it accepts a finite number.'],
    [dial('integer'), 1.5, 'Dial "d" is 1.5; it accepts a whole number.'],
    [dial('seed'), 7, null],
    [dial('vector'), [1, 2, 3], null],
    [dial('vector'), [1, 2], 'Dial "d" is [1,2]; it accepts three finite numbers [x, y, z].'],
    [dial('boolean'), 'yes', 'Dial "d" is "yes"; it accepts true or false.'],
    [dial('choice', { choices: ['flat', 'domed'] }), 'domed', null],
    [dial('choice', { choices: ['flat', 'domed'] }), 'open', 'Dial "d" is "open"; it accepts flat, domed.'],
    [dial('colour'), '#A2323F', null],
    [dial('colour'), 'madder', 'Dial "d" is "madder"; it accepts a colour such as #a2323f.'],
    [dial('text'), 'quay', null],
  ];
  for (const [given, value, fault] of cases)
    test(`${given.kind} ${JSON.stringify(value)}: ${fault ?? 'fine'}`, () => expect(dialFault(given, value)).toBe(fault));

  test('text from a command line is read as the dial’s kind', () => {
    expect(parseDialText(dial('number'), '0.5')).toBe(0.5);
    expect(parseDialText(dial('vector'), '1,2,3')).toEqual([1, 2, 3]);
    expect(parseDialText(dial('boolean'), 'true')).toBe(true);
    expect(parseDialText(dial('choice'), '1')).toBe('1');
    expect(parseDialText(dial('number'), 'wide')).toBe('wide');
  });

  test('values of a document, with some replaced', () => {
    const document = requireDocument({
      format: 'filaxis-graph',
      version: 1,
      title: 'x',
      nodes: [],
      wires: [],
      dials: [dial('number', { id: 'a', value: 1 }), dial('number', { id: 'b', value: 2 })],
    });
    expect(dialValues(document, { b: 5, c: 9 })).toEqual({ a: 1, b: 5 });
  });
});
