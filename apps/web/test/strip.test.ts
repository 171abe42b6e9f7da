/** What a hand does to the Path strip, and what it says. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { PathStripData, StripRamp } from '@filaxis/protocol';
import { afterPress, withKeyAt } from '../src/app/ropewalk/strip/ramp-keys';
import { pointText, spokenStrip, stripAsText } from '../src/app/ropewalk/strip/strip-text';
import { afterWheel } from '../src/app/ropewalk/strip/strip-zoom';

/** Three keys along a curve of four metres, of a diameter: the radius is half the value. */
const ramp: StripRamp = { node: 'rope', setting: 'width', factor: 0.5, min: 0.01, max: 1, value: { ramp: [[0, 0.1], [0.5, 0.2], [1, 0.1]], ease: 'smooth' } }; // prettier-ignore
const length = 4;
const keysOf = (edit: ReturnType<typeof afterPress>): readonly (readonly [number, number])[] => edit!.value.ramp;

describe('keys of a ramp', () => {
  test('are put at metres and a radius; the others and the way between them stay', () => {
    const edit = withKeyAt(ramp, length, 1, 1, 0.15);
    expect(edit).toEqual({ node: 'rope', setting: 'width', value: { ramp: [[0, 0.1], [0.25, 0.3], [1, 0.1]], ease: 'smooth' } }); // prettier-ignore
  });

  test('of a ramp over metres are metres', () => {
    const metric: StripRamp = { ...ramp, value: { ramp: [[0, 0.1], [2, 0.2]], over: 's' } }; // prettier-ignore
    expect(keysOf(withKeyAt(metric, length, 1, 3, 0.1))[1]).toEqual([3, 0.2]);
    expect(keysOf(withKeyAt(metric, length, 1, 9, 0.1))[1]).toEqual([4, 0.2]);
    expect(keysOf(afterPress(metric, length, 1, { key: 'ArrowLeft', shiftKey: false }))[1]).toEqual([1.96, 0.2]);
  });

  test('stay between their neighbours and in range, wherever the hand goes', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 2 }),
        fc.double({ noNaN: true, min: -9, max: 9 }),
        fc.double({ noNaN: true, min: -9, max: 9 }),
        (key, metres, radius) => {
          const keys = keysOf(withKeyAt(ramp, length, key, metres, radius));
          const places = keys.map(([place]) => place);
          expect(places).toEqual([...places].sort((a, b) => a - b));
          expect([places[0] >= 0, places[2] <= 1, keys[key][1] >= 0.01, keys[key][1] <= 1]).toEqual([true, true, true, true]);
          expect(keys.filter((_, k) => k !== key)).toEqual(ramp.value.ramp.filter((_, k) => k !== key));
        },
      ),
    );
  });

  test('are moved by arrows, a hundredth of the length or a millimetre, ten with Shift', () => {
    const after = (key: string, shiftKey = false): unknown => keysOf(afterPress(ramp, length, 1, { key, shiftKey }))[1];
    expect([after('ArrowLeft'), after('ArrowRight'), after('ArrowUp'), after('ArrowDown')]).toEqual([[0.49, 0.2], [0.51, 0.2], [0.5, 0.202], [0.5, 0.198]]); // prettier-ignore
    expect([after('ArrowRight', true), after('ArrowDown', true)]).toEqual([[0.6, 0.2], [0.5, 0.18]]); // prettier-ignore
    expect(afterPress(ramp, length, 1, { key: 'a', shiftKey: false })).toBeNull();
  });

  test('are taken away, but for the last', () => {
    const without = afterPress(ramp, length, 1, { key: 'Delete', shiftKey: false });
    expect(keysOf(without)).toEqual([[0, 0.1], [1, 0.1]]); // prettier-ignore
    const one: StripRamp = { ...ramp, value: { ramp: [[0, 0.1]] } };
    expect(afterPress(one, length, 0, { key: 'Backspace', shiftKey: false })).toBeNull();
  });
});

describe('the wheel', () => {
  const turn = (zoom: Parameters<typeof afterWheel>[0], metres: number, deltaY: number, more: object = {}): ReturnType<typeof afterWheel> =>
    afterWheel(zoom, length, metres, { deltaX: 0, deltaY, shiftKey: false, ...more });

  test('goes nearer about the place under the pointer, which stays where it is', () => {
    const [first, last] = turn(null, 1, -300)!;
    expect((1 - first) / (last - first)).toBeCloseTo(1 / 4, 9);
    expect(last - first).toBeCloseTo(4 * Math.exp(-0.45), 9);
  });

  test('goes back to the whole, never beyond the ends, and no nearer than can be read', () => {
    expect(turn([1, 2], 1.5, 5000)).toBeNull();
    expect(turn([0, 2], 0.1, 100)![0]).toBe(0);
    expect(turn([2, 4], 3.9, 100)![1]).toBe(4);
    const near = [1, 1.0005] as const;
    expect(turn(near, 1.0001, -3000)).toBe(near);
  });

  test('with Shift, or turned sideways, slides along the curve to its ends', () => {
    expect(turn([1, 2], 1, 100, { shiftKey: true })).toEqual([1.1, 2.1]);
    expect(turn([1, 2], 1, 1, { deltaX: -250 })).toEqual([0.75, 1.75]);
    expect(turn([1, 2], 1, 90_000, { shiftKey: true })).toEqual([3, 4]);
    expect(turn([1, 2], 1, -90_000, { shiftKey: true })).toEqual([0, 1]);
  });
});

describe('in words', () => {
  const line = { s: new Float32Array(), values: new Float32Array() };
  const data: PathStripData = {
    curve: 1, curves: 3, node: 'line', length: 2, closed: false, step: 1, s: Float32Array.of(0, 1, 2), positions: new Float32Array(9), radius: Float32Array.of(0.01, 0.03, 0.02),
    roll: Float32Array.of(0, 45, 90), curvature: Float32Array.of(0, 0.5, 0.25), bends: line, spacing: Float32Array.of(1, 1, 1), attribute: { name: 'wear', values: Float32Array.of(0, 1, 2) },
    names: [], ramp: null, v: null, others: [], warnings: [{ code: 'pinch', message: 'Too tight.' }],
  }; // prettier-ignore

  test('it says which curve it is, how long, how bent, how thick, and what is to be looked at', () => {
    expect(spokenStrip(data)).toBe(
      'Path strip of curve 2 of 3, 2 metres long, greatest curvature 0.5 per metre, greatest radius 30 millimetres, 1 place to look at',
    );
    expect([spokenStrip({ ...data, radius: null }).includes('radius'), spokenStrip(null)]).toEqual([false, 'Path strip, empty']);
  });

  test('a point has its metres, radius, roll, bend and value', () => {
    expect(pointText(data, 1)).toBe('1 m · radius 30 mm · roll 45° · bend 0.5 /m · wear 1');
    expect(pointText({ ...data, radius: null, attribute: null }, 2)).toBe('2 m · roll 90° · bend 0.25 /m');
  });

  test('rows are copied as a table', () => {
    const [head, first, , last] = stripAsText({ ...data, radius: Float32Array.of(0.5, 1, 2) }).split('\n');
    expect(head).toBe('s (m)\tradius (m)\troll (°)\tcurvature (1/m)\tspacing (m)\twear');
    expect([first, last]).toEqual(['0\t0.5\t0\t0\t1\t0', '2\t2\t90\t0.25\t1\t2']);
    expect([stripAsText({ ...data, radius: null, attribute: null }).split('\n')[0], stripAsText(null)]).toEqual([
      's (m)\troll (°)\tcurvature (1/m)\tspacing (m)',
      '',
    ]);
  });
});
