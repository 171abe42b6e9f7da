import { TestBed } from '@angular/core/testing';
import { describe, expect, test, vi } from 'vitest';
import { Moment } from '../../src/app/ropewalk/timeline/moment';
import { Player } from '../../src/app/ropewalk/timeline/player';
import { TimelinePanel } from '../../src/app/ropewalk/timeline/timeline';
import { graph, mounted, typeInto, type Mounted } from './mounted';

const growing = graph([{ id: 'it', type: 'grow.reveal' }], [], { view: { timeline: { from: 0, to: 48, at: 0, rate: 24, loop: true } } });

async function panel(): Promise<Mounted<TimelinePanel> & { moment: Moment; player: Player }> {
  const made = await mounted(TimelinePanel, { document: growing });
  return { ...made, moment: TestBed.inject(Moment), player: TestBed.inject(Player) };
}
const box = ({ host }: Mounted<unknown>, label: string): HTMLInputElement => host.querySelector<HTMLInputElement>(`input[aria-label="${label}"]`)!;
const button = ({ host }: Mounted<unknown>, label: string): HTMLButtonElement => host.querySelector<HTMLButtonElement>(`button[aria-label="${label}"]`)!;

describe('the timeline', () => {
  test('goes to a frame that is typed, no further than its ends, and says the seconds', async () => {
    const made = await panel();
    typeInto(box(made, 'Frame'), '36');
    await made.settle();
    expect([made.moment.time(), made.host.querySelector('[data-testid=moment]')!.textContent]).toEqual([1.5, '1.5 s']);
    made.player.toFrame(900);
    expect(made.player.frame()).toBe(48);
    button(made, 'To the first frame').click();
    expect(made.player.frame()).toBe(0);
    button(made, 'One frame on').click();
    button(made, 'One frame on').click();
    button(made, 'One frame back').click();
    expect(made.player.frame()).toBe(1);
    expect(made.documents.undoLabel()).toBeNull();
  });

  test('marks frames that are ready, until the document changes', async () => {
    const made = await panel();
    for (const frame of [3, 4, 5, 9]) made.evaluation.finished.next(frame / 24);
    await made.settle();
    expect(made.host.querySelector('[role=status]')!.textContent).toBe('4 of 49 frames ready');
    expect(made.host.querySelectorAll('.ready i').length).toBe(2);
    made.documents.apply('Softer', graph([{ id: 'it', type: 'grow.reveal', settings: { soft: 1 } }]));
    await made.settle();
    expect(made.host.querySelectorAll('.ready i').length).toBe(0);
  });

  test('plays a frame when the one before is there, none left out, round and round or to the end', async () => {
    const made = await panel();
    vi.useFakeTimers();
    try {
      made.player.toFrame(46);
      button(made, 'Play').click();
      made.fixture.detectChanges();
      const seen: number[] = [];
      for (let i = 0; i < 5; i++) {
        // However long a frame takes, the next waits for it.
        await vi.advanceTimersByTimeAsync(i === 1 ? 900 : 50);
        seen.push(made.player.frame());
        made.evaluation.finished.next(made.moment.time());
      }
      expect(seen).toEqual([47, 48, 0, 1, 2]);
      made.player.change({ loop: false });
      made.player.toFrame(48);
      made.evaluation.finished.next(2);
      await vi.advanceTimersByTimeAsync(100);
      expect([made.player.playing(), made.player.frame()]).toEqual([false, 48]);
      made.player.toggle();
      expect(made.player.frame()).toBe(0);
    } finally {
      vi.useRealTimers();
    }
  });

  test('its ends and its rate are kept in the document, and undone', async () => {
    const made = await panel();
    typeInto(box(made, 'Last frame'), '100');
    typeInto(box(made, 'Frame it opens at'), '90');
    await made.settle();
    expect(made.documents.document().view).toEqual({ timeline: { from: 0, to: 100, at: 90, rate: 24, loop: true } });
    made.documents.undo();
    expect(made.player.line().at).toBe(0);
    expect(made.player.range()).toEqual({ from: 0, to: 100 });
  });

  test('as it was given it can be looked through, and not be changed', async () => {
    const made = await mounted(TimelinePanel, { document: growing, inputs: { given: true } });
    expect([box(made, 'Frame') !== null, box(made, 'Last frame')]).toEqual([true, null]);
  });

  test('is of no use where nothing depends on the time', async () => {
    const made = await mounted(TimelinePanel, { document: graph([{ id: 'it', type: 'lay.line' }]) });
    expect([TestBed.inject(Player).timed(), TestBed.inject(Player).range(), made.host.textContent!.length > 0]).toEqual([false, null, true]);
  });
});
