/** Below this many frames a second the view leaves something out while it moves. */
const slowest = 20;
/** Frames that are looked at together. */
const looked = 6;
/** A longer gap between two frames is a rest, ms. */
const rest = 400;
/** How long nothing has to move before a still picture is drawn, ms. */
export const stillAfter = 260;

/** What is drawn while the view moves: everything, all but contact shade, or plain light without shadows. */
export const steps = ['full', 'open', 'plain'] as const;
export type Step = (typeof steps)[number];

const notes: { readonly [S in Step]: string | null } = {
  full: null,
  open: 'No contact shade while it moves: the graphics are slow',
  plain: 'Plain light while it moves: the graphics are slow',
};

/**
 * Decides how much is drawn while the view moves. It begins with everything where a graphics card draws, and with the least where software does; too few frames a second, and something more is left out.
 */
export class Pace {
  private level: number;
  private times: number[] = [];
  private last = -Infinity;

  constructor(private readonly software: boolean) {
    this.level = software ? steps.length - 1 : 0;
  }

  get step(): Step {
    return steps[this.level];
  }

  /** What to say about it; null: everything is drawn. */
  get note(): string | null {
    return this.software ? null : notes[this.step];
  }

  /** A frame was drawn at a time, ms, while the view moves. @returns whether something more is left out from now on. */
  frame(now: number): boolean {
    const gap = now - this.last;
    this.last = now;
    if (gap > rest) {
      this.times = [];
      return false;
    }
    this.times.push(gap);
    if (this.times.length < looked) return false;
    const mean = this.times.reduce((sum, time) => sum + time, 0) / this.times.length;
    this.times = [];
    if (mean <= 1000 / slowest || this.level === steps.length - 1) return false;
    this.level++;
    return true;
  }
}
