import { lastTyped, typingPause } from '../../shared/typing';
import { Pace, stillAfter, type Step } from './pace';

/** A full frame that takes longer is not drawn anew for a mark under the pointer, ms. */
const quickFrame = 60;
/** Where software draws, the page is drawn before the view: so long after a mark has changed, and at most so long while something is typed, ms. */
const [afterMark, longestWait] = [40, 10_000];
/** How often it is looked whether a hidden page is seen again, ms. */
const whileHidden = 1000;
/** How often the graphics are asked whether they are done, ms. */
const lookEvery = 8;

export interface DrawingParts {
  readonly gl: WebGL2RenderingContext;
  /** No graphics card draws. */
  readonly software: boolean;
  /** What rests is drawn once more, refined. */
  readonly refines: boolean;
  /** Edges are smoothed in every frame. */
  readonly smooth: boolean;
  /** Draws now, in as much of the light; `refined`: with more samples where edges are not smoothed. */
  readonly paint: (light: Step, refined: boolean) => void;
  /** Nothing can be drawn for the moment. */
  readonly away: () => boolean;
  /** Told when what is drawn is the last for the moment, and when it is not any more. */
  readonly rests: (rests: boolean) => void;
}

/** When the view is drawn, and how much of it: a frame at a time and none while nothing changes, plain while it moves where that is needed, refined once it rests. */
export class Drawing {
  private readonly pace: Pace;
  private frame = 0;
  private wait: ReturnType<typeof setTimeout> | undefined;
  /** Since when a frame is wanted, ms; 0: none is. */
  private wanted = 0;
  /** What is wanted are marks alone. */
  private marksOnly = false;
  private still: ReturnType<typeof setTimeout> | undefined;
  /** What is seen is the refined picture. */
  private refined = false;
  /** How long the last refined picture took, ms. */
  private took = Infinity;

  constructor(private readonly parts: DrawingParts) {
    this.pace = new Pace(parts.software);
    lastTyped();
  }

  /** What the view leaves out while it moves, in words; null: nothing. */
  get note(): string | null {
    return this.pace.note;
  }

  /** Has the picture drawn anew. `slight`: only what marks something has changed, so that a refined picture stays one if that is quick. */
  invalidate(slight: boolean): void {
    if (this.frame) return;
    this.parts.rests(false);
    this.marksOnly = slight && (this.marksOnly || !this.wanted);
    this.wanted ||= performance.now();
    clearTimeout(this.wait);
    const wait = this.pause();
    if (wait > 0) this.wait = setTimeout(() => this.invalidate(this.marksOnly), wait);
    else
      this.frame = requestAnimationFrame((now) => {
        const again = this.marksOnly && this.refined && this.took < quickFrame;
        this.frame = this.wanted = 0;
        this.marksOnly = false;
        this.draw(again, now);
      });
  }

  /** How long the page comes first, ms: where software draws, letters and fields would wait for the view. */
  private pause(): number {
    if (!this.parts.software) return 0;
    const wanted = this.wanted || performance.now();
    const until = Math.max(lastTyped() + typingPause, this.marksOnly ? wanted + afterMark : 0);
    return Math.min(until, wanted + longestWait) - performance.now();
  }

  /** What is seen is not what was drawn last. */
  forget(): void {
    this.refined = false;
  }

  dispose(): void {
    cancelAnimationFrame(this.frame);
    clearTimeout(this.wait);
    clearTimeout(this.still);
  }

  private draw(refined: boolean, now: number): void {
    const { away, paint, smooth, refines, rests } = this.parts;
    if (away()) return;
    clearTimeout(this.still);
    const { step } = this.pace;
    this.refined = refined;
    paint(refined ? 'full' : step, refined);
    if (refined) return rests(true);
    this.pace.frame(now);
    // A still picture has all the light, and several samples a pixel.
    if ((step !== 'full' || !smooth) && refines) this.still = setTimeout(() => this.drawStill(), stillAfter);
    else rests(true);
  }

  private drawStill(): void {
    if (this.parts.away() || this.frame || this.wanted) return;
    // Nobody looks at a page that is hidden; who comes back finds the still picture soon.
    const wait = document.hidden ? whileHidden : this.pause();
    if (wait > 0) return void (this.still = setTimeout(() => this.drawStill(), wait));
    const begun = performance.now();
    this.refined = true;
    this.took = Infinity;
    this.parts.paint('full', true);
    this.parts.rests(true);
    this.whenDrawn(() => (this.took = performance.now() - begun));
  }

  /** Calls when the graphics have done what they were told so far: that takes longer than telling them. */
  private whenDrawn(call: () => void): void {
    const { gl } = this.parts;
    const sync = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
    if (!sync) return;
    gl.flush();
    const look = (): void => {
      if (gl.clientWaitSync(sync, 0, 0) === gl.TIMEOUT_EXPIRED) return void setTimeout(look, lookEvery);
      gl.deleteSync(sync);
      call();
    };
    look();
  }
}
