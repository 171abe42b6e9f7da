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
import { outputKind, type FilaxisDocument, type GraphNode, type PortKind, type Wire, definitionOf, type NodeDefinition } from '@filaxis/core';
import type { NodeState } from '@filaxis/protocol';
import { ThemeService } from '../../shared/theme.service';
import { DocumentService } from '../document/document.service';
import { bestInput, connect, moveNodes } from '../document/edits';
import { insertOnWire, notesOf } from '../document/layout';
import { AddMenu } from './add-menu';
import { GroundThings } from './ground-things';
import { Tag } from './tag';
import { curveOf, Ground } from './ground';
import { placeOf, tagHeight, tagWidth, wireDistance, type Place } from './tag-geometry';
import { viewStep, Viewport } from './viewport';
import { readInks, textureZoom, type WireInks } from './wire-painter';

/** What the pointer is doing. */
type Gesture =
  | { readonly kind: 'pan'; readonly from: Place; readonly pan: Place; moved: boolean }
  | { readonly kind: 'frame'; readonly from: Place; to: Place }
  | { readonly kind: 'move'; readonly from: Place; readonly places: ReadonlyMap<string, Place>; moved: boolean }
  | { readonly kind: 'wire'; readonly end: readonly [string, string]; to: Place; target: readonly [string, string] | null };

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

  private readonly viewport = new Viewport();
  protected readonly zoom = this.viewport.zoom;
  protected readonly pan = this.viewport.pan;
  protected readonly gesture = signal<Gesture | null>(null);
  protected readonly dropping = signal(false);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('ground');
  /** Takes the pointer while it drags, so that clicks and double clicks still arrive here. */
  private readonly area = viewChild.required<ElementRef<HTMLElement>>('area');
  protected readonly noWires: ReadonlySet<string> = new Set();
  private inks: WireInks | null = null;
  private ground: Ground | null = null;
  /** The wire under the hand: other gestures change nothing that is painted. */
  private readonly wiring = computed(() => {
    const gesture = this.gesture();
    return gesture?.kind === 'wire' ? gesture : null;
  });
  protected readonly far = computed(() => this.zoom() < textureZoom);
  protected readonly visible = computed(() => {
    const { width, height } = this.viewport.size();
    const zoom = this.zoom();
    const { x, y } = this.viewport.roughPan();
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
    const [a, b] = [this.viewport.toScreen(gesture.from), this.viewport.toScreen(gesture.to)];
    return { left: Math.min(a.x, b.x), top: Math.min(a.y, b.y), width: Math.abs(a.x - b.x), height: Math.abs(a.y - b.y) };
  });
  protected readonly menuPlace = computed(() => {
    const request = this.add();
    if (!request) return null;
    const { x, y } = this.viewport.toScreen(request.at);
    const { width, height } = this.viewport.size();
    return { x: Math.max(8, Math.min(x, width - 316)), y: Math.max(8, Math.min(y, height - 360)) };
  });
  protected readonly wireTarget = computed(() => {
    const wiring = this.wiring();
    return wiring ? (wiring.target?.[0] ?? '') : null;
  });
  /** While a wire is dragged: the nodes that can take it. */
  protected readonly takers = computed<ReadonlySet<string> | null>(() => {
    const wiring = this.wiring();
    if (!wiring) return null;
    const document = this.documents.document();
    return new Set(document.nodes.filter((node) => bestInput(document, wiring.end, node.id)).map((node) => node.id));
  });

  constructor() {
    const destroy = inject(DestroyRef);
    afterNextRender(() => {
      this.ground = new Ground(this.canvas().nativeElement, this.viewport);
      const observer = new ResizeObserver(([{ contentRect }]) => this.viewport.resize(contentRect.width, contentRect.height, this.documents.document().nodes));
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
      this.viewport.size();
      this.wiring();
      this.states();
      cancelAnimationFrame(frame);
      frame = requestAnimationFrame(() => this.paint());
    });
    effect(() => {
      const pan = this.pan();
      untracked(() => {
        if (this.ground?.follow(pan) === false) this.paint();
      });
    });
  }

  /** Shows the whole graph. */
  fit(): void {
    this.viewport.fit(this.documents.document().nodes);
  }

  /** A free place near the middle of the view, or beside a node: to the right of it, or to the left. */
  freePlace(beside: GraphNode | null, side: 'after' | 'before' = 'after'): Place {
    const { width, height } = this.viewport.size();
    const start = beside
      ? { x: placeOf(beside).x + (side === 'after' ? 1 : -1) * (tagWidth + 52), y: placeOf(beside).y }
      : this.viewport.toGraph({ x: width / 2 - tagWidth / 2, y: height / 2 - tagHeight });
    const taken = [...this.documents.document().nodes.map(placeOf), ...notesOf(this.documents.document()).map(({ at: [x, y] }) => ({ x, y }))];
    let y = start.y;
    while (taken.some((place) => Math.abs(place.x - start.x) < tagWidth && Math.abs(place.y - y) < tagHeight + 10)) y += tagHeight + 30;
    return { x: Math.round(start.x), y: Math.round(y) };
  }

  /** Brings a node into view. */
  reveal(id: string): void {
    const node = this.documents.document().nodes.find((candidate) => candidate.id === id);
    if (node) this.viewport.reveal(node);
  }

  zoomBy(factor: number, about?: Place): void {
    this.viewport.zoomBy(factor, about);
  }

  private local(event: MouseEvent): Place {
    const { left, top } = this.host.nativeElement.getBoundingClientRect();
    return { x: event.clientX - left, y: event.clientY - top };
  }

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    this.zoomBy(Math.exp(-event.deltaY * (event.deltaMode ? 0.05 : 0.0016)), this.local(event));
  }

  protected definition(node: GraphNode): NodeDefinition | undefined {
    return definitionOf(this.documents.document(), node);
  }

  protected groundDown(event: PointerEvent): void {
    const place = this.local(event);
    this.add.set(null);
    this.area().nativeElement.setPointerCapture(event.pointerId);
    if (event.button === 0 && event.shiftKey) this.gesture.set({ kind: 'frame', from: this.viewport.toGraph(place), to: this.viewport.toGraph(place) });
    else this.gesture.set({ kind: 'pan', from: place, pan: this.pan(), moved: false });
  }

  protected tagDown(event: PointerEvent, node: GraphNode): void {
    event.stopPropagation();
    if (event.button !== 0) return;
    this.add.set(null);
    const port = (event.target as HTMLElement).dataset['port'];
    const from = this.viewport.toGraph(this.local(event));
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
    const at = this.viewport.toGraph(place);
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
    const at = this.viewport.toGraph(this.local(event));
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
    this.add.set({ at: this.viewport.toGraph(this.local(event)), from: null });
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
    if (files.length) this.files.emit({ files, at: this.viewport.toGraph(this.local(event)) });
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
    const wire = loose ? this.wiresNear(document, middle, tagHeight / 2)[0] : undefined;
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
    const [near] = this.wiresNear(this.documents.document(), at, 8 / this.zoom());
    this.documents.select();
    this.documents.selectedWire.set(near ?? null);
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

  /** Wires that pass a place within `reach`, the nearest first. */
  private wiresNear(document: FilaxisDocument, at: Place, reach: number): Wire[] {
    const found = document.wires.flatMap((wire) => {
      const curve = curveOf(this.documents.document(), wire);
      const distance = curve ? wireDistance(curve, at) : Infinity;
      return distance < reach ? [{ wire, distance }] : [];
    });
    return found.sort((a, b) => a.distance - b.distance).map(({ wire }) => wire);
  }

  private paint(): void {
    if (!this.inks) return;
    this.ground?.paint({
      document: this.documents.document(),
      states: this.states(),
      selected: this.documents.selectedWire(),
      inks: this.inks,
      drawn: this.wiring(),
    });
  }
}
