import {
  afterNextRender,
  ApplicationRef,
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
import { definitionById, definitionOf, labelOf, outputKind, type Dial, type GraphNode, type NodeDefinition, type PortKind, type Wire } from '@filaxis/core';
import type { NodeState } from '@filaxis/protocol';
import type { Action } from '../actions';
import { MatButtonModule } from '@angular/material/button';
import { Learning } from '../lessons/learning';
import { ContextMenu } from '../context-menu';
import { ThemeService } from '../../shared/theme.service';
import { DocumentService } from '../document/document.service';
import { bestInput, connect, disconnect, fittingInputs, renameNode, type End } from '../document/edits';
import { notesOf } from '../document/layout';
import { AddMenu } from './add-menu';
import { drawnWire } from './drawn-wire';
import { Ground } from './ground';
import { GraphHand } from './graph-hand';
import { GroundThings } from './ground-things';
import { signsAt, tagZoom } from './signs';
import type { Entry, Find } from '../search/search';
import { Tag } from './tag';
import { placeOf, tagGap, tagHeight, tagWidth, widthOf, type Place } from './tag-geometry';
import { viewStep, Viewport } from './viewport';
import { nodeAt } from './wire-aim';
import { readInks, type WireInks } from './wire-painter';
import { wiresNear } from './wire-route';

/** A place where a node is about to be added, and the outputs it is to take. */
export interface AddRequest {
  readonly at: Place;
  readonly from: readonly End[];
  /** What has been typed of its name already. */
  readonly text?: string;
}

const noDials: readonly Dial[] = [];

/**
 * The graph: tags and wires, left to right. Tags are elements, so that they can be read and reached by keyboard; wires and the ground are
 * painted on one canvas under them. Only what is in view is made.
 */
@Component({
  selector: 'fx-graph',
  imports: [AddMenu, GroundThings, MatButtonModule, Tag],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './graph-view.html',
  styleUrl: './graph-view.scss',
  host: { role: 'group', 'aria-label': 'Graph', '(pointermove)': 'last = local($event)', '(pointerleave)': 'last = null' },
})
export class GraphView {
  protected readonly documents = inject(DocumentService);
  protected readonly learning = inject(Learning);
  private readonly theme = inject(ThemeService);
  private readonly menu = inject(ContextMenu);
  private readonly application = inject(ApplicationRef);

  readonly states = input<Readonly<Record<string, NodeState | undefined>>>({});
  /** What the search for a node gives. */
  readonly find = input.required<Find>();
  readonly peek = model<string | null>(null);
  readonly ghost = model<string | null>(null);
  readonly add = model<AddRequest | null>(null);
  /** The node whose name is being typed. */
  readonly renaming = model<string | null>(null);
  readonly addNode = output<{ type: string; settings: Readonly<Record<string, unknown>>; request: AddRequest }>();
  readonly files = output<{ files: File[]; at: Place }>();
  readonly refused = output<string>();
  /** A menu is wanted for what was pressed. */
  readonly menuAsked = output<{ event: MouseEvent; of: 'tag' | 'wire' | 'ground' }>();

  protected readonly requests = computed(() => [this.add()].filter((request) => request !== null));
  private readonly viewport = new Viewport();
  protected readonly zoom = this.viewport.zoom;
  protected readonly pan = this.viewport.pan;
  protected readonly hand = new GraphHand(this.documents, this.viewport, {
    add: (at, from) => this.openAdd({ at, from: [from] }),
    choose: (node, end, at, pulled) => this.chooseSetting(node, end, at, pulled),
    refuse: (text) => this.refused.emit(text),
  });
  protected readonly dropping = signal(false);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('ground');
  /** Takes the pointer while it drags, so that clicks and double clicks still arrive here. */
  private readonly area = viewChild.required<ElementRef<HTMLElement>>('area');
  protected readonly noWires: ReadonlySet<string> = new Set();
  private inks: WireInks | null = null;
  private ground: Ground | null = null;
  /** Where the pointer is, in pixels of the pane; null: elsewhere. */
  protected last: Place | null = null;
  protected readonly dials = computed(() => this.documents.document().dials ?? noDials);
  protected readonly far = computed(() => this.zoom() < tagZoom);
  protected readonly signs = computed(() => {
    if (!this.far()) return null;
    const document = this.documents.document();
    const faulty = Object.entries(this.states()).flatMap(([id, state]) => (state?.error && !state.error.follows ? [id] : []));
    return signsAt(document.nodes, this.zoom(), (node) => labelOf(document, node), new Set([...this.documents.selection(), ...faulty]));
  });
  protected readonly visible = computed(() => {
    const { width, height } = this.viewport.size();
    const zoom = this.zoom();
    const { x, y } = this.viewport.roughPan();
    const chosen = this.documents.selection();
    const room = 40 + viewStep;
    return this.documents.document().nodes.filter((node) => {
      const at = placeOf(node);
      const [left, top] = [at.x * zoom + x, at.y * zoom + y];
      return chosen.has(node.id) || (left > -widthOf(node) * zoom - room && left < width + room && top > -tagHeight * zoom - room && top < height + room);
    });
  });
  protected readonly wiredInputs = computed(() => {
    const wired = new Map<string, Set<string>>();
    for (const { to } of this.documents.document().wires) wired.set(to[0], (wired.get(to[0]) ?? new Set()).add(to[1]));
    return wired;
  });
  protected readonly addKind = computed<PortKind | null>(() => {
    const [from] = this.add()?.from ?? [];
    return from ? outputKind(this.documents.document(), from[0], from[1]) : null;
  });
  protected readonly frame = computed(() => {
    const gesture = this.hand.gesture();
    if (gesture?.kind !== 'frame') return null;
    const [a, b] = [this.viewport.toScreen(gesture.from), this.viewport.toScreen(gesture.to)];
    return { left: Math.min(a.x, b.x), top: Math.min(a.y, b.y), width: Math.abs(a.x - b.x), height: Math.abs(a.y - b.y) };
  });
  /** The wire under the hand, as it is drawn. */
  protected readonly drawn = computed(() => {
    const wiring = this.hand.wiring();
    return wiring && drawnWire(this.documents.document(), this.viewport, wiring.end, wiring.to, wiring.aim?.to ?? null);
  });
  /** What a wire under the hand is held over, in words, beside the hand. */
  protected readonly aimed = computed(() => {
    const wiring = this.hand.wiring();
    if (!wiring) return null;
    const { x, y } = this.viewport.toScreen(wiring.to);
    const { width } = this.viewport.size();
    const says = wiring.aim?.says ?? (wiring.pulled ? 'Let go here to take the wire away' : 'Let go here to choose what comes next');
    return { says, refused: wiring.aim?.refused ?? false, x: Math.min(x + 16, Math.max(8, width - 280)), y: y + 18 };
  });
  protected readonly menuPlace = computed(() => {
    const request = this.add();
    if (!request) return null;
    const { x, y } = this.viewport.toScreen(request.at);
    const { width, height } = this.viewport.size();
    return { x: Math.max(8, Math.min(x, width - 316)), y: Math.max(8, Math.min(y, height - 360)) };
  });
  /** While a wire is dragged: the nodes that can take it. */
  protected readonly takers = computed<ReadonlySet<string> | null>(() => {
    const end = this.wireEnd();
    if (!end) return null;
    const document = this.documents.document();
    return new Set(document.nodes.filter((node) => bestInput(document, end, node.id)).map((node) => node.id));
  });
  /** The wire that is in the hand; the same while it is dragged. */
  private readonly pulled = computed(() => this.hand.wiring()?.pulled ?? null);
  /** The output of the wire under the hand; the same while it is dragged. */
  private readonly wireEnd = computed(() => this.hand.wiring()?.end ?? null, { equal: (a, b) => a?.[0] === b?.[0] && a?.[1] === b?.[1] });

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
      this.pulled();
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

  /** Width by height of the pane. */
  get shape(): number {
    const { width, height } = this.viewport.size();
    return height ? width / height : 1;
  }

  /** Where the pointer is in the graph; null: it is elsewhere. */
  get pointer(): Place | null {
    return this.last && this.viewport.toGraph(this.last);
  }

  /** A free place near the middle of the view, or beside a node: to the right of it, or to the left. */
  freePlace(beside: GraphNode | null, side: 'after' | 'before' = 'after'): Place {
    const { width, height } = this.viewport.size();
    const start = beside
      ? { x: placeOf(beside).x + (side === 'after' ? widthOf(beside) + tagGap : -tagWidth - tagGap), y: placeOf(beside).y }
      : this.viewport.toGraph({ x: width / 2 - tagWidth / 2, y: height / 2 - tagHeight });
    const taken = [...this.documents.document().nodes.map(placeOf), ...notesOf(this.documents.document()).map(({ at: [x, y] }) => ({ x, y }))];
    let y = start.y;
    while (taken.some((place) => Math.abs(place.x - start.x) < tagWidth && Math.abs(place.y - y) < tagHeight + 10)) y += tagHeight + 30;
    return { x: Math.round(start.x), y: Math.round(y) };
  }

  /** Brings nodes into view. */
  reveal(...ids: readonly string[]): void {
    this.viewport.reveal(this.documents.document().nodes.filter(({ id }) => ids.includes(id)));
  }

  zoomBy(factor: number, about?: Place): void {
    this.viewport.zoomBy(factor, about);
  }

  protected local(event: MouseEvent): Place {
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
    this.add.set(null);
    if (event.button === 2) return;
    this.area().nativeElement.setPointerCapture(event.pointerId);
    this.hand.pressGround(this.local(event), event.button === 0 && event.shiftKey);
  }

  protected tagDown(event: PointerEvent, node: GraphNode): void {
    if (event.button === 1) return;
    event.stopPropagation();
    if (event.button !== 0) return;
    this.add.set(null);
    const { port, input } = (event.target as HTMLElement).dataset;
    const at = this.viewport.toGraph(this.local(event));
    this.area().nativeElement.setPointerCapture(event.pointerId);
    if (port) this.hand.pressOutput([node.id, port], at);
    else if (!input || !this.hand.pressInput([node.id, input], at)) this.hand.pressTag(node, at, event.shiftKey || event.ctrlKey || event.metaKey);
  }

  /** Reaching a tag by keyboard chooses it. */
  protected focusTag(id: string): void {
    if (!this.hand.gesture() && !this.documents.selection().has(id)) this.documents.select(id);
  }

  protected pointerMove(event: PointerEvent): void {
    this.hand.move(this.local(event));
  }

  protected pointerUp(event: PointerEvent): void {
    const clicked = this.hand.release(this.local(event));
    if (clicked) this.clickGround(clicked);
  }

  protected pointerCancel(): void {
    this.hand.cancel();
  }

  protected doubleClick(event: MouseEvent): void {
    const at = this.viewport.toGraph(this.local(event));
    // While the pointer was held by the ground, a double click on a tag arrives here too.
    const node = nodeAt(this.documents.document(), at);
    if (node) return this.beginRename(node.id);
    this.openAdd({ at, from: [] });
  }

  /** The search is there, and has the keyboard, before the next key comes. */
  private openAdd(request: AddRequest): void {
    this.add.set(request);
    this.application.tick();
  }

  protected closeAdd(request: AddRequest): void {
    if (this.add() === request) this.add.set(null);
  }

  protected askMenu(event: MouseEvent, node: GraphNode | null): void {
    event.preventDefault();
    event.stopPropagation();
    const [wire] = node ? [] : wiresNear(this.documents.document(), this.viewport.toGraph(this.local(event)), 8 / this.zoom());
    if (node && !this.documents.selection().has(node.id)) this.documents.select(node.id);
    if (!node) this.documents.select();
    if (wire) this.documents.selectedWire.set(wire);
    this.menuAsked.emit({ event, of: node ? 'tag' : wire ? 'wire' : 'ground' });
  }

  protected pick(entry: Entry): void {
    const request = this.add();
    this.add.set(null);
    this.area().nativeElement.focus();
    if (request && entry.adds) this.addNode.emit({ ...entry.adds, request });
    else entry.run();
  }

  protected beginRename(id: string): void {
    this.renaming.set(id);
    // The field is there, and has the keyboard, before the first letter comes.
    this.application.tick();
  }

  /** Keeps a name that was typed; null: it is left as it was. */
  protected rename(id: string, name: string | null): void {
    this.renaming.set(null);
    if (name !== null) {
      const document = this.documents.document();
      const renamed = renameNode(document, id, name);
      if (renamed.nodes.some((node, i) => node !== document.nodes[i])) this.documents.apply('Name node', renamed);
    }
    this.host.nativeElement.querySelector<HTMLElement>(`fx-tag[data-node="${id}"]`)?.focus({ preventScroll: true });
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

  /** Asks which setting a wire is to feed. */
  private chooseSetting(node: string, end: End, at: Place, pulled: Wire | null): void {
    const document = this.documents.document();
    const settings = definitionById(document, node)?.settings ?? {};
    const actions = fittingInputs(document, end, node).map((to): Action => ({
      name: settings[to[1]]?.label ?? to[1],
      detail: settings[to[1]]?.help ?? '',
      run: () => {
        const now = this.documents.document();
        this.documents.apply(pulled ? 'Move wire' : 'Wire', connect(pulled ? disconnect(now, pulled) : now, end, to));
      },
    }));
    const { left, top } = this.host.nativeElement.getBoundingClientRect();
    const { x, y } = this.viewport.toScreen(at);
    this.menu.open({ x: left + x, y: top + y }, actions);
  }

  private clickGround(at: Place): void {
    const [near] = wiresNear(this.documents.document(), at, 8 / this.zoom());
    this.documents.select();
    this.documents.selectedWire.set(near ?? null);
    this.area().nativeElement.focus();
  }

  private paint(): void {
    if (!this.inks) return;
    this.ground?.paint({
      document: this.documents.document(),
      states: this.states(),
      selected: this.documents.selectedWire(),
      inks: this.inks,
      pulled: this.pulled(),
    });
  }
}
