import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { SheetFilm } from '../src/app/ropewalk/uv/sheet-film';
import type { SheetView } from '../src/app/ropewalk/uv/sheet-stage';

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('requestAnimationFrame', (call: () => void) => setTimeout(call, 16));
  vi.stubGlobal('cancelAnimationFrame', clearTimeout);
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** A film of 400 × 200 pixels, a hundred of them a unit. */
function film(heavy: boolean) {
  const style = {} as CSSStyleDeclaration;
  let view: SheetView = { u: 0, v: 0, scale: 100 };
  let painted = 0;
  const made = new SheetFilm({ style } as HTMLElement, () => {
    painted++;
    made.done(view);
  });
  made.heavy = heavy;
  made.resize(400, 200);
  made.anew();
  vi.advanceTimersByTime(16);
  const look = (change: Partial<SheetView>): void => made.look((view = { ...view, ...change }));
  return { made, style, look, painted: () => painted };
}

test('a small sheet is drawn for each frame that it moves in, and fills its pane', () => {
  const { look, painted, style } = film(false);
  expect([style.width, style.left]).toEqual(['400px', '0px']);
  for (let i = 1; i <= 5; i++) {
    look({ u: i / 100 });
    vi.advanceTimersByTime(16);
  }
  expect(painted()).toBe(6);
});

test('a large one is moved as it is while the hand slides, and drawn once it rests', () => {
  const { look, painted, style } = film(true);
  expect([style.width, style.left, style.height, style.top]).toEqual(['800px', '-200px', '400px', '-100px']);
  for (let i = 1; i <= 20; i++) {
    look({ u: i / 100, v: -i / 200 });
    vi.advanceTimersByTime(16);
  }
  // What lay in the middle went 20 pixels to the left and 10 down… up on the sheet is up on the screen.
  expect(style.transform).toBe('translate(-20px, -10px) scale(1)');
  expect(painted()).toBe(1);
  vi.advanceTimersByTime(1000);
  expect([painted(), style.transform]).toEqual([2, '']);
});

test('it is drawn at once where its edge would come into view, and stretched while one zooms', () => {
  const { look, painted, style } = film(true);
  look({ u: 2.1 });
  vi.advanceTimersByTime(16);
  expect(painted()).toBe(2);
  look({ scale: 150 });
  expect(style.transform).toBe('translate(0px, 0px) scale(1.5)');
  vi.advanceTimersByTime(1000);
  expect([painted(), style.transform]).toEqual([3, '']);
});

test('nothing is drawn after the end', () => {
  const { made, look, painted } = film(true);
  look({ u: 0.1 });
  made.dispose();
  vi.advanceTimersByTime(1000);
  expect(painted()).toBe(1);
});
