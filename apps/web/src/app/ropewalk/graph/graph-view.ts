import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  model,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { outputKind, type FilaxisDocument, type GraphNode, type PortKind, type Wire } from '@filaxis/core';
import type { NodeState } from '@filaxis/protocol';
import { ThemeService } from '../../shared/theme.service';
import { DocumentService } from '../document/document.service';
import { bestInput, connect, moveNodes } from '../document/edits';
import { insertOnWire, notesOf } from '../document/layout';
import { drawnBySoftware } from '../../shared/graphics';
import { AddMenu } from './add-menu';
import { GroundThings } from './ground-things';
import { Tag } from './tag';
import { boxOf, inputPlace, intoView, outputPlace, placeOf, tagHeight, tagWidth, wireCurve, wireDistance, type Place } from './tag-geometry';
import { paintGround, paintWire, readInks, textureZoom, type WireInks } from './wire-painter';

/** What the pointer is doing. */
type Gesture =
  | { readonly kind: 'pan'; readonly from: Place; readonly pan: Place; moved: boolean }
  | { readonly kind: 'frame'; readonly from: Place; to: Place }
  | { readonly kind: 'move'; readonly from: Place; readonly places: ReadonlyMap<string, Place>; moved: boolean }
  | { readonly kind: 'wire'; readonly end: readonly [string, string]; to: Place; target: readonly [string, string] | null };

/** Pixels painted beyond every side of the view, so that panning slides them in. */
const groundMargin = 240;
/** Steps of panning after which tags that came into view are made. */
const viewStep = 96;

/** Least zoom at which a graph is shown when it is opened. */
const readableZoom = 0.72;

/** A place where a node is about to be added, and the wire it is to take. */
export interface AddRequest {
  readonly at: Place;
  readonly from: readonly [string, string] | null;
}

/**
 * The graph: tags and wires, left to right. Tags are elements, so that they can be read and reached by keyboard; wires and the ground are
 * painted on one canvas under them. Only what is in view is made.
 */
@Component({
  selector: 'fx-graph',
  imports: [AddMenu, GroundThings, Tag],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './graph-view.html',
  styleUrl: './graph-view.scss',
  host: { role: 'group', 'aria-label': 'Graph' },
})
export class GraphView {
  protected readonly documents = inject(DocumentService);
  private readonly theme = inject(ThemeService);

  readonly states = input<Readonly<Record<string, NodeState | undefined>>>({});
  readonly peek = model<string | null>(null);
  readonly ghost = model<string | null>(null);
  readonly add = model<AddRequest | null>(null);
  readonly addNode = output<{ type: string; request: AddRequest }>();
  readonly files = output<{ files: File[]; at: Place }>();
  readonly refused = output<string>();

  protected readonly zoom = signal(1);
  protected readonly pan = signal<Place>({ x: 24, y: 60 });
  protected readonly size = signal({ width: 0, height: 0 });
  protected readonly gesture = signal<Gesture | null>(null);
  protected readonly dropping = signal(false);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('ground');
  /** Takes the pointer while it drags, so that clicks and double clicks still arrive here. */
  private readonly area = viewChild.required<ElementRef<HTMLElement>>('area');
  protected readonly noWires: ReadonlySet<string> = new Set();
  private inks: WireInks | null = null;
  private fitted = false;
  /** The pan at which the ground was painted last. */
  private painted: Place = { x: 0, y: 0 };
  /** The wire under the hand: other gestures change nothing that is painted. */
  private readonly wiring = computed(() => (this.gesture()?.kind === 'wire' ? this.gesture() : null));
  /** The pan in steps, so that a slow pan does not ask for every node at each frame. */
  private readonly roughPan = computed(() => ({ x: Math.round(this.pan().x / viewStep) * viewStep, y: Math.round(this.pan().y / viewStep) * viewStep }), {
    equal: (a, b) => a.x === b.x && a.y === b.y,
  });

  protected readonly far = computed(() => this.zoom() < textureZoom);
  protected readonly visible = computed(() => {
    const { width, height } = this.size();
    const zoom = this.zoom();
    const { x, y } = this.roughPan();
    const chosen = this.documents.selection();
    const room = 40 + viewStep;
    return this.documents.document().nodes.filter((node) => {
      const at = placeOf(node);
      const [left, top] = [at.x * zoom + x, at.y * zoom + y];
      return chosen.has(node.id) || (left > -tagWidth * zoom - room && left < width + room && top > -tagHeight * zoom - room && top < height + room);
    });
  });
  protected readonly wiredInputs = computed(() => {
    const wired = new Map<string, Set<string>>();
    for (const { to } of this.documents.document().wires) wired.set(to[0], (wired.get(to[0]) ?? new Set()).add(to[1]));
    return wired;
  });
  protected readonly addKind = computed<PortKind | null>(() => {
    const from = this.add()?.from;
    return from ? outputKind(this.documents.document(), from[0], from[1]) : null;
  });
  protected readonly frame = computed(() => {
    const gesture = this.gesture();
    if (gesture?.kind !== 'frame') return null;
    const [a, b] = [this.toScreen(gesture.from), this.toScreen(gesture.to)];
    return { left: Math.min(a.x, b.x), top: Math.min(a.y, b.y), width: Math.abs(a.x - b.x), height: Math.abs(a.y - b.y) };
  });
  protected readonly menuPlace = computed(() => {
    const request = this.add();
    if (!request) return null;
    const { x, y } = this.toScreen(request.at);
    const { width, height } = this.size();
    return { x: Math.max(8, Math.min(x, width - 316)), y: Math.max(8, Math.min(y, height - 360)) };
  });
  protected readonly wireTarget = computed(() => {
    const gesture = this.gesture();
    return gesture?.kind === 'wire' ? (gesture.target?.[0] ?? '') : null;
  });
  /** While a wire is dragged: the nodes that can take it. */
  protected readonly takers = computed<ReadonlySet<string> | null>(() => {
    const gesture = this.gesture();
    if (gesture?.kind !== 'wire') return null;
    const document = this.documents.document();
    return new Set(document.nodes.filter((node) => bestInput(document, gesture.end, node.id)).map((node) => node.id));
  });

  constructor() {
    const destroy = inject(DestroyRef);
    afterNextRender(() => {
      const observer = new ResizeObserver(([entry]) => {
        this.size.set({ width: entry.contentRect.width, height: entry.contentRect.height });
        if (!this.fitted) this.showFirst();
      });
      observer.observe(this.host.nativeElement);
      destroy.onDestroy(() => observer.disconnect());
    });
    effect(() => {
      this.theme.theme();
      // The theme's attribute is set by an effect of its own; the colours are read when it has run.
      requestAnimationFrame(() => {
        this.inks = readInks(this.host.nativeElement);
        this.paint();
      });
    });
    let frame = 0;
    effect(() => {
      this.documents.document();
      this.documents.selectedWire();
      this.zoom();
      this.size();
      this.wiring();
      this.states();
      cancelAnimationFrame(frame);
      frame = requestAnimationFrame(() => this.paint());
    });
    effect(() => {
      const pan = this.pan();
      untracked(() => this.follow(pan));
    });
  }

  /** Shows the whole graph, or the chosen tags. */
  fit(nodes: readonly GraphNode[] = this.documents.document().nodes): void {
    const { width, height } = this.size();
    const box = boxOf(nodes);
    if (!box || !width) return;
    this.fitted = true;
    const zoom = Math.min(1, Math.max(0.15, Math.min((width - 56) / box.width, (height - 130) / box.height)));
    this.zoom.set(zoom);
    this.pan.set({ x: (width - box.width * zoom) / 2 - box.x * zoom, y: (height - 46 - box.height * zoom) / 2 - box.y * zoom });
  }

  /** At first: the whole graph when that is readable, else its results, with what leads to them. */
  private showFirst(): void {
    this.fit();
    const box = boxOf(this.documents.document().nodes);
    if (!box || this.zoom() >= readableZoom) return;
    const { width, height } = this.size();
    this.zoom.set(readableZoom);
    this.pan.set({ x: width - 40 - (box.x + box.width) * readableZoom, y: (height - 46 - box.height * readableZoom) / 2 - box.y * readableZoom });
  }

  /** A free place near the middle of the view, or beside a node: to the right of it, or to the left. */
  freePlace(beside: GraphNode | null, side: 'after' | 'before' = 'after'): Place {
    const { width, height } = this.size();
    const start = beside
      ? { x: placeOf(beside).x + (side === 'after' ? 1 : -1) * (tagWidth + 52), y: placeOf(beside).y }
      : this.toGraph({ x: width / 2 - tagWidth / 2, y: height / 2 - tagHeight });
    const taken = [...this.documents.document().nodes.map(placeOf), ...notesOf(this.documents.document()).map(({ at: [x, y] }) => ({ x, y }))];
    let y = start.y;
    while (taken.some((place) => Math.abs(place.x - start.x) < tagWidth && Math.abs(place.y - y) < tagHeight + 10)) y += tagHeight + 30;
    return { x: Math.round(start.x), y: Math.round(y) };
  }

  /** Brings a node into view. */
  reveal(id: string): void {
    const node = this.documents.document().nodes.find((candidate) => candidate.id === id);
    if (!node) return;
    const { x, y } = this.toScreen(placeOf(node));
    const { width, height } = this.size();
    const pan = this.pan();
    this.pan.set({ x: pan.x + intoView(x, tagWidth * this.zoom(), width), y: pan.y + intoView(y, tagHeight * this.zoom(), height) });
  }

  zoomBy(factor: number, about: Place = { x: this.size().width / 2, y: this.size().height / 2 }): void {
    const zoom = Math.min(2.5, Math.max(0.1, this.zoom() * factor));
    const { x, y } = this.pan();
    const real = zoom / this.zoom();
    this.pan.set({ x: about.x - (about.x - x) * real, y: about.y - (about.y - y) * real });
    this.zoom.set(zoom);
  }

  protected toGraph({ x, y }: Place): Place {
    const pan = this.pan();
    return { x: (x - pan.x) / this.zoom(), y: (y - pan.y) / this.zoom() };
  }

  protected toScreen({ x, y }: Place): Place {
    const pan = this.pan();
    return { x: x * this.zoom() + pan.x, y: y * this.zoom() + pan.y };
  }

  private local(event: MouseEvent): Place {
    const { left, top } = this.host.nativeElement.getBoundingClientRect();
    return { x: event.clientX - left, y: event.clientY - top };
  }

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    this.zoomBy(Math.exp(-event.deltaY * (event.deltaMode ? 0.05 : 0.0016)), this.local(event));
  }

  protected groundDown(event: PointerEvent): void {
    const place = this.local(event);
    this.add.set(null);
    this.area().nativeElement.setPointerCapture(event.pointerId);
    if (event.button === 0 && event.shiftKey) this.gesture.set({ kind: 'frame', from: this.toGraph(place), to: this.toGraph(place) });
    else this.gesture.set({ kind: 'pan', from: place, pan: this.pan(), moved: false });
  }

  protected tagDown(event: PointerEvent, node: GraphNode): void {
    event.stopPropagation();
    if (event.button !== 0) return;
    this.add.set(null);
    const port = (event.target as HTMLElement).dataset['port'];
    const from = this.toGraph(this.local(event));
    this.area().nativeElement.setPointerCapture(event.pointerId);
    if (port) {
      // A wire that was chosen before has no part in what is drawn out now.
      this.documents.selectedWire.set(null);
      this.gesture.set({ kind: 'wire', end: [node.id, port], to: from, target: null });
      return;
    }
    const chosen = this.documents.selection();
    if (event.shiftKey || event.ctrlKey || event.metaKey) {
      const next = new Set(chosen);
      if (next.has(node.id)) next.delete(node.id);
      else next.add(node.id);
      this.documents.select(...next);
    } else if (!chosen.has(node.id)) this.documents.select(node.id);
    const moving = this.documents.selection();
    const places = new Map(this.documents.document().nodes.filter(({ id }) => moving.has(id)).map((each) => [each.id, placeOf(each)])); // prettier-ignore
    this.gesture.set({ kind: 'move', from, places, moved: false });
  }

  /** Reaching a tag by keyboard chooses it. */
  protected focusTag(id: string): void {
    if (!this.gesture() && !this.documents.selection().has(id)) this.documents.select(id);
  }

  protected pointerMove(event: PointerEvent): void {
    const gesture = this.gesture();
    if (!gesture) return;
    const place = this.local(event);
    const at = this.toGraph(place);
    if (gesture.kind === 'pan') {
      const [dx, dy] = [place.x - gesture.from.x, place.y - gesture.from.y];
      if (gesture.moved || Math.hypot(dx, dy) > 3) {
        gesture.moved = true;
        this.pan.set({ x: gesture.pan.x + dx, y: gesture.pan.y + dy });
      }
    } else if (gesture.kind === 'frame') this.gesture.set({ ...gesture, to: at });
    else if (gesture.kind === 'wire') {
      const over = this.nodeAt(at);
      const document = this.documents.document();
      this.gesture.set({ ...gesture, to: at, target: over ? bestInput(document, gesture.end, over.id) : null });
    } else {
      const [dx, dy] = [at.x - gesture.from.x, at.y - gesture.from.y];
      if (!gesture.moved && Math.hypot(dx, dy) * this.zoom() < 3) return;
      gesture.moved = true;
      this.documents.show(this.moved(gesture.places, dx, dy));
    }
  }

  protected pointerUp(event: PointerEvent): void {
    const gesture = this.gesture();
    this.gesture.set(null);
    if (!gesture) return;
    const at = this.toGraph(this.local(event));
    if (gesture.kind === 'pan') {
      if (!gesture.moved) this.clickGround(at);
    } else if (gesture.kind === 'frame') this.chooseFramed(gesture.from, gesture.to);
    else if (gesture.kind === 'wire') this.dropWire(gesture.end, at);
    else if (gesture.moved) this.dropNodes(gesture.places, at.x - gesture.from.x, at.y - gesture.from.y);
  }

  protected pointerCancel(): void {
    this.gesture.set(null);
    this.documents.dropPreview();
  }

  protected doubleClick(event: MouseEvent): void {
    this.add.set({ at: this.toGraph(this.local(event)), from: null });
  }

  protected pick(type: string): void {
    const request = this.add();
    this.add.set(null);
    if (request) this.addNode.emit({ type, request });
    this.area().nativeElement.focus();
  }

  protected drop(event: DragEvent): void {
    event.preventDefault();
    this.dropping.set(false);
    const files = [...(event.dataTransfer?.files ?? [])];
    if (files.length) this.files.emit({ files, at: this.toGraph(this.local(event)) });
  }

  protected dragOver(event: DragEvent): void {
    event.preventDefault();
    this.dropping.set(true);
  }

  private moved(places: ReadonlyMap<string, Place>, dx: number, dy: number): FilaxisDocument {
    return moveNodes(this.documents.document(), new Map([...places].map(([id, { x, y }]) => [id, [Math.round(x + dx), Math.round(y + dy)]])));
  }

  /** Moved nodes are let go; a single one without wires that lies on a wire is put into it. */
  private dropNodes(places: ReadonlyMap<string, Place>, dx: number, dy: number): void {
    const document = this.moved(places, dx, dy);
    const [id] = places.keys();
    const loose = places.size === 1 && !document.wires.some(({ from, to }) => from[0] === id || to[0] === id);
    const node = document.nodes.find((each) => each.id === id)!;
    const middle = { x: placeOf(node).x + tagWidth / 2, y: placeOf(node).y + tagHeight / 2 };
    const wire = loose ? document.wires.find((each) => wireDistance(this.curveOf(each), middle) < tagHeight / 2) : undefined;
    const inserted = wire && insertOnWire(document, id, wire);
    this.documents.apply(inserted ? 'Insert on wire' : 'Move', inserted || document);
  }

  private nodeAt({ x, y }: Place): GraphNode | null {
    const nodes = this.documents.document().nodes;
    const over = (node: GraphNode): boolean => {
      const at = placeOf(node);
      return x > at.x - 14 && x < at.x + tagWidth && y > at.y - 6 && y < at.y + tagHeight + 6;
    };
    return nodes.findLast(over) ?? null;
  }

  private dropWire(end: readonly [string, string], at: Place): void {
    const document = this.documents.document();
    const over = this.nodeAt(at);
    if (!over) {
      this.add.set({ at: { x: at.x, y: at.y - tagHeight / 2 }, from: end });
      return;
    }
    if (over.id === end[0]) return;
    const input = bestInput(document, end, over.id);
    if (input) this.documents.apply('Wire', connect(document, end, input));
    else this.refused.emit('That wire does not fit there.');
  }

  private clickGround(at: Place): void {
    const near = this.documents.document().wires.map((wire) => ({ wire, distance: wireDistance(this.curveOf(wire), at) })).filter(({ distance }) => distance < 8 / this.zoom()); // prettier-ignore
    near.sort((a, b) => a.distance - b.distance);
    this.documents.select();
    this.documents.selectedWire.set(near[0]?.wire ?? null);
    this.area().nativeElement.focus();
  }

  private chooseFramed(a: Place, b: Place): void {
    const [left, right, top, bottom] = [Math.min(a.x, b.x), Math.max(a.x, b.x), Math.min(a.y, b.y), Math.max(a.y, b.y)];
    const inside = this.documents.document().nodes.filter((node) => {
      const at = placeOf(node);
      return at.x < right && at.x + tagWidth > left && at.y < bottom && at.y + tagHeight > top;
    });
    this.documents.select(...inside.map(({ id }) => id));
  }

  private curveOf(wire: Wire): ReturnType<typeof wireCurve> {
    const byId = new Map(this.documents.document().nodes.map((node) => [node.id, node]));
    const [from, to] = [byId.get(wire.from[0]), byId.get(wire.to[0])];
    return wireCurve(from ? outputPlace(from, wire.from[1]) : { x: 0, y: 0 }, to ? inputPlace(to, wire.to[1]) : { x: 0, y: 0 });
  }

  /** Slides what is painted along with the view; it is painted anew only when its margin is used up, or something else changed. */
  private follow(pan: Place): void {
    const [dx, dy] = [pan.x - this.painted.x, pan.y - this.painted.y];
    if (Math.max(Math.abs(dx), Math.abs(dy)) > groundMargin) return this.paint();
    this.canvas().nativeElement.style.transform = `translate(${dx}px, ${dy}px)`;
  }

  private paint(): void {
    const size = this.size();
    const [width, height] = [size.width + 2 * groundMargin, size.height + 2 * groundMargin];
    const canvas = this.canvas().nativeElement;
    const brush = canvas.getContext('2d', { willReadFrequently: drawnBySoftware() });
    if (!brush || !this.inks || !size.width) return;
    this.painted = this.pan();
    canvas.style.transform = '';
    const scale = devicePixelRatio || 1;
    const [pixelsWide, pixelsHigh] = [Math.round(width * scale), Math.round(height * scale)];
    if (canvas.width !== pixelsWide || canvas.height !== pixelsHigh) Object.assign(canvas, { width: pixelsWide, height: pixelsHigh });
    const pan = { x: this.painted.x + groundMargin, y: this.painted.y + groundMargin };
    const zoom = this.zoom();
    brush.setTransform(scale, 0, 0, scale, 0, 0);
    brush.clearRect(0, 0, width, height);
    paintGround(brush, width, height, pan, zoom, this.inks);
    brush.translate(pan.x, pan.y);
    brush.scale(zoom, zoom);
    const document = this.documents.document();
    const byId = new Map(document.nodes.map((node) => [node.id, node]));
    const reach = groundMargin + 60;
    const [low, high] = [this.toGraph({ x: -reach, y: -reach }), this.toGraph({ x: size.width + reach, y: size.height + reach })];
    for (const wire of document.wires) {
      const [from, to] = [byId.get(wire.from[0]), byId.get(wire.to[0])];
      if (!from || !to) continue;
      const curve = wireCurve(outputPlace(from, wire.from[1]), inputPlace(to, wire.to[1]));
      if (Math.max(curve[0].x, curve[3].x) < low.x || Math.min(curve[0].x, curve[3].x) > high.x) continue;
      if (Math.max(curve[0].y, curve[3].y) < low.y || Math.min(curve[0].y, curve[3].y) > high.y) continue;
      const kind = (this.states()[wire.from[0]]?.kinds[wire.from[1]] as PortKind | undefined) ?? outputKind(document, wire.from[0], wire.from[1]);
      paintWire(brush, kind, curve, this.inks, zoom, wire === this.documents.selectedWire());
    }
    const gesture = this.gesture();
    if (gesture?.kind !== 'wire') return;
    const from = byId.get(gesture.end[0]);
    const target = gesture.target && byId.get(gesture.target[0]);
    if (from)
      paintWire(
        brush,
        outputKind(document, ...gesture.end),
        wireCurve(outputPlace(from, gesture.end[1]), target ? inputPlace(target, gesture.target![1]) : gesture.to),
        this.inks,
        zoom,
        false,
      );
  }
}
