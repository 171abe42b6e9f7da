import { computed, signal } from '@angular/core';
import type { GraphNode } from '@filaxis/core';
import { boxOf, intoView, type Place } from './tag-geometry';

/** Steps of panning after which tags that came into view are made. */
export const viewStep = 96;
/** Least zoom: at it the largest graphs are specks. */
const leastZoom = 0.04;
/** Room below the graph for the buttons there. */
const foot = 46;

/** Which part of the graph is seen: screen = graph × zoom + pan, in pixels of the pane. */
export class Viewport {
  readonly zoom = signal(1);
  readonly pan = signal<Place>({ x: 24, y: 60 });
  readonly size = signal({ width: 0, height: 0 });
  /** The pan in steps, so that a slow pan does not ask for every node at each frame. */
  readonly roughPan = computed(() => ({ x: Math.round(this.pan().x / viewStep) * viewStep, y: Math.round(this.pan().y / viewStep) * viewStep }), {
    equal: (a, b) => a.x === b.x && a.y === b.y,
  });
  private fitted = false;

  toGraph({ x, y }: Place): Place {
    const pan = this.pan();
    return { x: (x - pan.x) / this.zoom(), y: (y - pan.y) / this.zoom() };
  }

  toScreen({ x, y }: Place): Place {
    const pan = this.pan();
    return { x: x * this.zoom() + pan.x, y: y * this.zoom() + pan.y };
  }

  /** The pane got this size; the first time, `nodes` are shown. */
  resize(width: number, height: number, nodes: readonly GraphNode[]): void {
    this.size.set({ width, height });
    if (!this.fitted) this.fit(nodes);
  }

  /** Shows all of these nodes. */
  fit(nodes: readonly GraphNode[]): void {
    const { width, height } = this.size();
    const box = boxOf(nodes);
    if (!box || !width) return;
    this.fitted = true;
    const zoom = Math.min(1, Math.max(leastZoom, Math.min((width - 56) / box.width, (height - 130) / box.height)));
    this.zoom.set(zoom);
    this.pan.set({ x: (width - box.width * zoom) / 2 - box.x * zoom, y: (height - foot - box.height * zoom) / 2 - box.y * zoom });
  }

  /** Brings nodes into view, as far as they fit. */
  reveal(nodes: readonly GraphNode[]): void {
    const box = boxOf(nodes);
    if (!box) return;
    const { x, y } = this.toScreen(box);
    const { width, height } = this.size();
    const pan = this.pan();
    this.pan.set({ x: pan.x + intoView(x, box.width * this.zoom(), width), y: pan.y + intoView(y, box.height * this.zoom(), height) });
  }

  zoomBy(factor: number, about: Place = { x: this.size().width / 2, y: this.size().height / 2 }): void {
    const zoom = Math.min(2.5, Math.max(leastZoom, this.zoom() * factor));
    const { x, y } = this.pan();
    const real = zoom / this.zoom();
    this.pan.set({ x: about.x - (about.x - x) * real, y: about.y - (about.y - y) * real });
    this.zoom.set(zoom);
  }
}
