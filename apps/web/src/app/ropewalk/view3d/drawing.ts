import { Pace, stillAfter, type Step } from './pace';

/** A full frame that takes longer is not drawn anew for a mark under the pointer, ms. */
const quickFrame = 60;
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
  private still: ReturnType<typeof setTimeout> | undefined;
  /** What is seen is the refined picture. */
  private refined = false;
  /** How long the last refined picture took, ms. */
  private took = Infinity;

  constructor(private readonly parts: DrawingParts) {
    this.pace = new Pace(parts.software);
  }

  /** What the view leaves out while it moves, in words; null: nothing. */
  get note(): string | null {
    return this.pace.note;
  }

  /** Has the picture drawn anew. `slight`: only what marks something has changed, so that a refined picture stays one if that is quick. */
  invalidate(slight: boolean): void {
    if (this.frame) return;
    this.parts.rests(false);
    const stays = slight && this.refined && this.took < quickFrame;
    this.frame = requestAnimationFrame((now) => {
      this.frame = 0;
      this.draw(stays, now);
    });
  }

  /** What is seen is not what was drawn last. */
  forget(): void {
    this.refined = false;
  }

  dispose(): void {
    cancelAnimationFrame(this.frame);
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
    if (this.parts.away() || this.frame || document.hidden) return;
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
