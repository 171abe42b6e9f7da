/** Pictures of the view: their parts and sizes, one, all round, and the document's small one. */
import fc from 'fast-check';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { Vector3 } from 'three';
import { partsOf, shotFault, takeRound, thumbnail } from '../src/app/ropewalk/view3d/pictures';
import type { DrawPicture, PicturePart, Stage } from '../src/app/ropewalk/view3d/stage';
import type { StageOptions } from '../src/app/ropewalk/view3d/stage-options';
import { stubPage } from './graphics';

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

let page: ReturnType<typeof stubPage>;
beforeEach(() => {
  page = stubPage();
});
afterEach(() => vi.unstubAllGlobals());

/** A stage that remembers what it was asked to draw. */
class FakeStage {
  readonly bounds = { min: [-1, 0, -1], max: [1, 2, 1] };
  readonly orbit = { state: { position: [3, 1, 0], target: [1, 1, 0] } };
  readonly changes: Partial<StageOptions>[] = [];
  readonly drawn: { readonly position: readonly number[]; readonly size: readonly [number, number]; readonly part: PicturePart | undefined }[] = [];
  readonly framed: unknown[] = [];
  away = false;
  readonly as = this as unknown as Stage;

  aside<T>(change: Partial<StageOptions>, work: (draw: DrawPicture) => T): T | null {
    this.changes.push(change);
    return this.away
      ? null
      : work((width, height, part) => {
          this.drawn.push({ position: this.orbit.state.position, size: [width, height], part });
          return 'drawn' as never;
        });
  }
  frameBox(...box: unknown[]): void {
    this.framed.push(box);
  }
}
const ground = ['#eeeeee', '#dddddd', '#cccccc'];
const shot = { width: 64, height: 32, transparent: false };

test('one picture is the view as it is, on its ground; a transparent one has neither ground nor floor', async () => {
  const stage = new FakeStage();
  const [png] = await takeRound(stage.as, shot, 1, ground, () => true);
  expect(new TextDecoder().decode(png)).toBe('64 × 32');
  expect([stage.changes, stage.drawn.map(({ position }) => position)]).toEqual([[{}], [[3, 1, 0]]]); // prettier-ignore
  expect(page.canvases[0].pasted).toEqual([['fill', 0, 0, 64, 32], ['drawn', 0, 0, 64, 32]]); // prettier-ignore
  await takeRound(stage.as, { ...shot, transparent: true }, 1, ground, () => true);
  expect([stage.changes[1], page.canvases[1].pasted]).toEqual([{ floor: false }, [['drawn', 0, 0, 64, 32]]]);
});

test('several go round what is looked at in even steps, at one height', async () => {
  const stage = new FakeStage();
  const done: number[] = [];
  const list = await takeRound(stage.as, shot, 8, ground, (count) => done.push(count) > 0);
  expect([list.length, done]).toEqual([8, [0, 1, 2, 3, 4, 5, 6, 7]]);
  stage.drawn.forEach(({ position }, i) => {
    const from = new Vector3(...position).sub(new Vector3(1, 1, 0));
    expect([from.x, from.y, from.z]).toEqual([2 * Math.cos((i * Math.PI) / 4), 0, -2 * Math.sin((i * Math.PI) / 4)].map((value) => expect.closeTo(value, 9)));
  });
});

test('who stops has those that were taken; graphics that are away, and a browser that gives none, are said', async () => {
  const stage = new FakeStage();
  expect(await takeRound(stage.as, shot, 5, ground, (done) => done < 2)).toHaveLength(2);
  stage.away = true;
  await expect(takeRound(stage.as, shot, 1, ground, () => true)).rejects.toThrow('The graphics are away for the moment');
  stage.away = false;
  vi.stubGlobal('document', {
    createElement: () => ({ getContext: () => ({ drawImage: () => undefined }), toBlob: (told: (blob: null) => void) => told(null) }),
  });
  await expect(takeRound(stage.as, { width: 8192, height: 16, transparent: true }, 1, ground, () => true)).rejects.toThrow(
    'The browser gives no picture of 8192 × 16 pixels.',
  );
});

test('a large one is put together from parts where they belong', async () => {
  const stage = new FakeStage();
  await takeRound(stage.as, { width: 1500, height: 1100, transparent: true }, 1, ground, () => true);
  const parts = [[0, 0, 1024, 1024], [1024, 0, 476, 1024], [0, 1024, 1024, 76], [1024, 1024, 476, 76]]; // prettier-ignore
  expect(stage.drawn.map(({ part }) => [part!.x, part!.y, part!.width, part!.height])).toEqual(parts);
  expect(page.canvases[0].pasted).toEqual(parts.map((part) => ['drawn', ...part]));
});

test('the document’s small picture shows everything, framed in its own proportions, without floor or ground', async () => {
  const stage = new FakeStage();
  expect(await (await thumbnail(stage.as))!.text()).toBe('480 × 300');
  expect([stage.framed, stage.changes[0]]).toEqual([
    [[stage.bounds.min, stage.bounds.max]],
    expect.objectContaining({ floor: false, backs: 'fronts', surface: 'shaded' }),
  ]);
  // The first tells the camera its proportions.
  expect(stage.drawn.map(({ size, part }) => [size, part && 'part'])).toEqual([[[480, 300], undefined], [[480, 300], 'part']]); // prettier-ignore
  expect(page.canvases[0].pasted).toEqual([['drawn', 0, 0, 480, 300]]);
  stage.away = true;
  expect(await thumbnail(stage.as)).toBeNull();
});
