import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { Drawing } from '../src/app/ropewalk/view3d/drawing';

const frameTime = 20;
const typed = vi.hoisted(() => vi.fn(() => -Infinity));
vi.mock('../src/app/shared/typing', () => ({ lastTyped: typed, typingPause: 150 }));

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('requestAnimationFrame', (call: (now: number) => void) => setTimeout(() => call(performance.now()), frameTime));
  vi.stubGlobal('cancelAnimationFrame', clearTimeout);
  vi.stubGlobal('document', { hidden: false });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
  typed.mockReturnValue(-Infinity);
});

/** A drawing that notes what is painted; its graphics take `busy` ms. */
function drawing({ software = true, refines = true, smooth = false, busy = 0, away = false } = {}) {
  const painted: string[] = [];
  const rests: boolean[] = [];
  let told = 0;
  const gl = { SYNC_GPU_COMMANDS_COMPLETE: 1, TIMEOUT_EXPIRED: 2, fenceSync: () => ((told = performance.now()), {}), flush: () => undefined, deleteSync: () => undefined, clientWaitSync: () => (performance.now() - told < busy ? 2 : 3) } as unknown as WebGL2RenderingContext; // prettier-ignore
  const made = new Drawing({ gl, software, refines, smooth, away: () => away, paint: (light, refined) => painted.push(`${light}${refined ? ' refined' : ''}`), rests: (now) => rests.push(now) }); // prettier-ignore
  return { made, painted, rests };
}

describe('when the view is drawn', () => {
  test('many changes in one frame are one frame, and what rests costs none', () => {
    const { made, painted, rests } = drawing();
    for (let i = 0; i < 5; i++) made.invalidate(false);
    vi.advanceTimersByTime(frameTime);
    expect(painted).toEqual(['plain']);
    expect(rests).toEqual([false]);
    vi.advanceTimersByTime(10_000);
    expect(painted).toEqual(['plain', 'full refined']);
    expect(rests).toEqual([false, true]);
  });

  test('what goes on moving is not refined', () => {
    const { made, painted } = drawing();
    for (let i = 0; i < 20; i++) {
      made.invalidate(false);
      vi.advanceTimersByTime(100);
    }
    expect(new Set(painted)).toEqual(new Set(['plain']));
  });

  test('on a graphics card everything is drawn, and nothing again', () => {
    const { made, painted, rests } = drawing({ software: false, smooth: true });
    made.invalidate(false);
    vi.advanceTimersByTime(5000);
    expect(painted).toEqual(['full']);
    expect(rests).toEqual([false, true]);
  });

  test.each([
    ['stays refined for a mark where the graphics are quick', 10, 'full refined'],
    ['is plain again for a mark where they are slow, however quickly they were told', 400, 'plain'],
  ])('a still picture %s', (_, busy, then) => {
    const { made, painted } = drawing({ busy });
    made.invalidate(false);
    vi.advanceTimersByTime(2000);
    made.invalidate(true);
    // The page comes first.
    vi.advanceTimersByTime(frameTime);
    expect(painted).toHaveLength(2);
    vi.advanceTimersByTime(60);
    expect([painted.length, painted.at(-1)]).toEqual([3, then]);
  });

  test('waits for a pause between letters where software draws, and not for ever', () => {
    const { made, painted } = drawing();
    const type = (): void => {
      typed.mockReturnValue(performance.now());
      made.invalidate(false);
      vi.advanceTimersByTime(100);
    };
    for (let letter = 0; letter < 20; letter++) type();
    expect(painted).toEqual([]);
    vi.advanceTimersByTime(100);
    expect(painted).toEqual(['plain']);
    for (let letter = 0; letter < 105; letter++) type();
    expect(painted.length).toBeGreaterThan(1);
    const card = drawing({ software: false, smooth: true });
    typed.mockReturnValue(performance.now());
    card.made.invalidate(false);
    vi.advanceTimersByTime(frameTime);
    expect(card.painted).toEqual(['full']);
  });

  test('whatever changed, marks or more, in whatever order, it ends with the still picture', () =>
    fc.assert(
      fc.property(
        fc.array(fc.record({ slight: fc.boolean(), then: fc.integer({ min: 0, max: 500 }) }), { minLength: 1, maxLength: 12 }),
        fc.boolean(),
        fc.nat(400),
        (changes, software, busy) => {
          const { made, painted, rests } = drawing({ software, busy });
          for (const { slight, then } of changes) {
            made.invalidate(slight);
            vi.advanceTimersByTime(then);
          }
          vi.advanceTimersByTime(5000);
          expect([painted.at(-1), rests.at(-1)]).toEqual(['full refined', true]);
          const before = painted.length;
          vi.advanceTimersByTime(20_000);
          expect(painted.length).toBe(before);
        },
      ),
    ));

  test('who wants no second picture gets none, and while the graphics are away nothing is drawn', () => {
    for (const how of [{ refines: false }, { away: true }]) {
      const { made, painted } = drawing(how);
      made.invalidate(false);
      vi.advanceTimersByTime(5000);
      expect(painted).toEqual(how.away ? [] : ['plain']);
    }
  });

  test('a page that is hidden gets its still picture once it is seen again', () => {
    const { made, painted, rests } = drawing();
    const page = { hidden: true };
    vi.stubGlobal('document', page);
    made.invalidate(false);
    vi.advanceTimersByTime(10_000);
    expect([painted, rests]).toEqual([['plain'], [false]]);
    page.hidden = false;
    vi.advanceTimersByTime(1001);
    expect([painted, rests]).toEqual([['plain', 'full refined'], [false, true]]); // prettier-ignore
  });

  test('nothing comes after the end', () => {
    const { made, painted } = drawing();
    made.invalidate(false);
    made.dispose();
    vi.advanceTimersByTime(5000);
    expect(painted).toEqual([]);
  });
});
