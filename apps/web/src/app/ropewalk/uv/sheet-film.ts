import type { SheetView } from './sheet-stage';

/** Sheets of fewer triangles are drawn anew for every frame, ones with more when the hand rests. */
export const quickTriangles = 40_000;
/** What is drawn beside the pane, as a share of its size on each side. */
const margin = 0.5;
/** How long nothing has to move before a large sheet is drawn anew, ms. */
const restAfter = 140;

/**
 * A canvas that is larger than the pane it is seen through: while the hand slides or zooms it is moved and stretched as it is, which costs nothing however much is on it, and it is drawn
 * anew once the hand rests or the edge comes into view.
 */
export class SheetFilm {
  private drawn: SheetView | null = null;
  private frame = 0;
  private rest: ReturnType<typeof setTimeout> | undefined;
  private size = { width: 1, height: 1 };
  /** It costs much to draw. */
  heavy = false;

  constructor(
    private readonly canvas: HTMLElement,
    private readonly paint: () => void,
  ) {}

  /** How many times the pane the canvas is, each way. */
  get spread(): number {
    return this.heavy ? 1 + 2 * margin : 1;
  }

  resize(width: number, height: number): void {
    this.size = { width, height };
    const { spread } = this;
    Object.assign(this.canvas.style, {
      width: `${width * spread}px`,
      height: `${height * spread}px`,
      left: `${(-width * (spread - 1)) / 2}px`,
      top: `${(-height * (spread - 1)) / 2}px`,
    });
  }

  /** Something else is on it: it is drawn in the next frame. */
  anew(): void {
    this.drawn = null;
    this.soon();
  }

  /** Looks at another part of it. */
  look(view: SheetView): void {
    if (!this.heavy || !this.drawn) return this.soon();
    const { drawn, size } = this;
    const grown = view.scale / drawn.scale;
    const [x, y] = [(drawn.u - view.u) * view.scale, (view.v - drawn.v) * view.scale];
    this.canvas.style.transform = `translate(${x}px, ${y}px) scale(${grown})`;
    clearTimeout(this.rest);
    const bare = Math.abs(x) > (size.width * (grown * this.spread - 1)) / 2 || Math.abs(y) > (size.height * (grown * this.spread - 1)) / 2;
    // Beyond its edge there is nothing; going nearer it is blurred for a moment.
    if (bare && grown > 0.7) this.soon();
    else this.rest = setTimeout(() => this.soon(), restAfter);
  }

  /** It was drawn, as it is seen from here. */
  done(view: SheetView): void {
    this.drawn = view;
    this.canvas.style.transform = '';
  }

  dispose(): void {
    cancelAnimationFrame(this.frame);
    clearTimeout(this.rest);
  }

  private soon(): void {
    this.frame ||= requestAnimationFrame(() => {
      this.frame = 0;
      this.paint();
    });
  }
}
