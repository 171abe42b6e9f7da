import { outputKind, type FilaxisDocument, type PortKind, type Wire } from '@filaxis/core';
import type { NodeState } from '@filaxis/protocol';
import { drawnBySoftware } from '../../shared/graphics';
import type { Place } from './tag-geometry';
import { pathOf } from './wire-route';
import type { Viewport } from './viewport';
import { paintGround, paintWire, type WireInks } from './wire-painter';

/** Pixels painted beyond every side of the view, so that panning slides them in. */
const margin = 240;

/** What is painted under the tags. */
export interface GroundScene {
  readonly document: FilaxisDocument;
  readonly states: Readonly<Record<string, NodeState | undefined>>;
  readonly selected: Wire | null;
  readonly inks: WireInks;
  /** A wire that is in the hand now, and not where it was. */
  readonly pulled: Wire | null;
}

/** The canvas under the tags: dots and wires. It is painted with a margin, which panning uses up before it is painted anew. */
export class Ground {
  /** The pan at which it was painted last. */
  private painted: Place = { x: 0, y: 0 };

  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly viewport: Viewport,
  ) {}

  /** Slides what is painted along with the view; false when it has to be painted anew. */
  follow(pan: Place): boolean {
    const [dx, dy] = [pan.x - this.painted.x, pan.y - this.painted.y];
    if (Math.max(Math.abs(dx), Math.abs(dy)) > margin) return false;
    this.canvas.style.transform = `translate(${dx}px, ${dy}px)`;
    return true;
  }

  paint({ document, states, selected, inks, pulled }: GroundScene): void {
    const brush = this.begin();
    if (!brush) return;
    const zoom = this.viewport.zoom();
    const size = this.viewport.size();
    paintGround(brush, size.width + 2 * margin, size.height + 2 * margin, { x: this.painted.x + margin, y: this.painted.y + margin }, zoom, inks);
    brush.translate(this.painted.x + margin, this.painted.y + margin);
    brush.scale(zoom, zoom);
    const reach = margin + 60;
    const [low, high] = [this.viewport.toGraph({ x: -reach, y: -reach }), this.viewport.toGraph({ x: size.width + reach, y: size.height + reach })];
    for (const wire of document.wires) {
      const path = wire === pulled ? null : pathOf(document, wire);
      if (!path) continue;
      const [xs, ys] = [path.flatMap((curve) => [curve[0].x, curve[3].x]), path.flatMap((curve) => [curve[0].y, curve[3].y])];
      if (Math.max(...xs) < low.x || Math.min(...xs) > high.x || Math.max(...ys) < low.y || Math.min(...ys) > high.y) continue;
      const kind = (states[wire.from[0]]?.kinds[wire.from[1]] as PortKind | undefined) ?? outputKind(document, wire.from[0], wire.from[1]);
      paintWire(brush, kind, path, inks, zoom, wire === selected);
    }
  }

  /** The canvas at the view's size with its margin, clean; null while there is none. */
  private begin(): CanvasRenderingContext2D | null {
    const { canvas } = this;
    const { width, height } = this.viewport.size();
    const brush = canvas.getContext('2d', { willReadFrequently: drawnBySoftware() });
    if (!brush || !width) return null;
    this.painted = this.viewport.pan();
    canvas.style.transform = '';
    const scale = devicePixelRatio || 1;
    const [wide, high] = [Math.round((width + 2 * margin) * scale), Math.round((height + 2 * margin) * scale)];
    if (canvas.width !== wide || canvas.height !== high) Object.assign(canvas, { width: wide, height: high });
    brush.setTransform(scale, 0, 0, scale, 0, 0);
    brush.clearRect(0, 0, width + 2 * margin, height + 2 * margin);
    return brush;
  }
}
