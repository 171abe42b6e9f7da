import { computed, signal } from '@angular/core';
import { indexOf, type FilaxisDocument, type GraphNode, type Wire } from '@filaxis/core';
import type { DocumentService } from '../document/document.service';
import { connect, disconnect, insertOnWire, moveNodes, sameWire, type End } from '../document/edits';
import { makeRoom } from '../document/layout';
import { placeOf, tagHeight, widthOf, type Place } from './tag-geometry';
import type { Viewport } from './viewport';
import { aimOf, nodeAt, type Aim } from './wire-aim';
import { wiresNear } from './wire-route';

/** What the pointer is doing in the graph. */
export type Gesture =
  | { readonly kind: 'pan'; readonly from: Place; readonly pan: Place; moved: boolean }
  | { readonly kind: 'frame'; readonly from: Place; to: Place }
  /** `alone`: the node under the hand, to be chosen by itself when nothing was moved. */
  | { readonly kind: 'move'; readonly from: Place; readonly places: ReadonlyMap<string, Place>; readonly alone: string | null; moved: boolean }
  /** `pulled`: the wire that was taken off an input to be laid elsewhere. */
  | { readonly kind: 'wire'; readonly end: End; readonly start: Place; readonly to: Place; readonly aim: Aim | null; readonly pulled: Wire | null };

/** What the hand asks the graph for. */
export interface HandRequests {
  /** A node is wanted at a place, wired from an output. */
  add(at: Place, from: End): void;
  /** One of several settings is to be chosen for a wire from an output; `pulled` is the wire that it was before. */
  choose(node: string, end: End, at: Place, pulled: Wire | null): void;
  refuse(text: string): void;
}

/** The hand in the graph: what pressing, moving and letting go of the pointer mean there. Places are those of the graph, but for panning. */
export class GraphHand {
  readonly gesture = signal<Gesture | null>(null);
  /** The wire under the hand: other gestures change nothing that is painted. */
  readonly wiring = computed(() => {
    const gesture = this.gesture();
    return gesture?.kind === 'wire' ? gesture : null;
  });

  constructor(
    private readonly documents: DocumentService,
    private readonly viewport: Viewport,
    private readonly requests: HandRequests,
  ) {}

  pressGround(screen: Place, framing: boolean): void {
    const at = this.viewport.toGraph(screen);
    this.gesture.set(framing ? { kind: 'frame', from: at, to: at } : { kind: 'pan', from: screen, pan: this.viewport.pan(), moved: false });
  }

  /** Takes a wire from an output. */
  pressOutput(end: End, at: Place): void {
    // A wire that was chosen before has no part in what is drawn out now.
    this.documents.selectedWire.set(null);
    this.gesture.set({ kind: 'wire', end, start: at, to: at, aim: null, pulled: null });
  }

  /** Takes the last wire off an input; false when there is none. */
  pressInput(to: End, at: Place): boolean {
    const pulled = indexOf(this.documents.document()).wiresTo.get(to[0])?.findLast((wire) => wire.to[1] === to[1]); // prettier-ignore
    if (!pulled) return false;
    this.documents.selectedWire.set(null);
    this.gesture.set({ kind: 'wire', end: pulled.from, start: at, to: at, aim: null, pulled });
    return true;
  }

  /** Takes a tag, with all that are chosen; with `adding` it is chosen besides them, or no more. */
  pressTag({ id }: GraphNode, at: Place, adding: boolean): void {
    const chosen = this.documents.selection();
    if (adding) {
      const next = new Set(chosen);
      if (!next.delete(id)) next.add(id);
      this.documents.select(...next);
    } else if (!chosen.has(id)) this.documents.select(id);
    const moving = this.documents.selection();
    const places = new Map(this.documents.document().nodes.filter((node) => moving.has(node.id)).map((node) => [node.id, placeOf(node)])); // prettier-ignore
    this.gesture.set({ kind: 'move', from: at, places, alone: adding ? null : id, moved: false });
  }

  move(screen: Place): void {
    const gesture = this.gesture();
    if (!gesture) return;
    const at = this.viewport.toGraph(screen);
    if (gesture.kind === 'pan') {
      const [dx, dy] = [screen.x - gesture.from.x, screen.y - gesture.from.y];
      gesture.moved ||= Math.hypot(dx, dy) > 3;
      if (gesture.moved) this.viewport.pan.set({ x: gesture.pan.x + dx, y: gesture.pan.y + dy });
    } else if (gesture.kind === 'frame') this.gesture.set({ ...gesture, to: at });
    else if (gesture.kind === 'wire')
      this.gesture.set({ ...gesture, to: at, aim: aimOf(this.documents.document(), gesture.end, at, this.viewport.zoom(), gesture.pulled) });
    else {
      const [dx, dy] = [at.x - gesture.from.x, at.y - gesture.from.y];
      gesture.moved ||= Math.hypot(dx, dy) * this.viewport.zoom() >= 3;
      if (gesture.moved) this.documents.show(this.moved(gesture.places, dx, dy));
    }
  }

  /** Lets go. Returns the place where the ground was only clicked, if it was. */
  release(screen: Place): Place | null {
    const gesture = this.gesture();
    this.gesture.set(null);
    if (!gesture) return null;
    const at = this.viewport.toGraph(screen);
    if (gesture.kind === 'pan') return gesture.moved ? null : at;
    if (gesture.kind === 'frame') this.chooseFramed(gesture.from, gesture.to);
    else if (gesture.kind === 'wire') this.dropWire(gesture, at);
    else if (gesture.moved) this.dropNodes(gesture.places, at.x - gesture.from.x, at.y - gesture.from.y);
    else if (gesture.alone) this.documents.select(gesture.alone);
    return null;
  }

  cancel(): void {
    this.gesture.set(null);
    this.documents.dropPreview();
  }

  private moved(places: ReadonlyMap<string, Place>, dx: number, dy: number): FilaxisDocument {
    return moveNodes(this.documents.document(), new Map([...places].map(([id, { x, y }]) => [id, [Math.round(x + dx), Math.round(y + dy)]])));
  }

  /** Moved nodes are let go; a single one without wires that lies on a wire is put into it, and room is made for it. */
  private dropNodes(places: ReadonlyMap<string, Place>, dx: number, dy: number): void {
    const document = this.moved(places, dx, dy);
    const [id] = places.keys();
    const loose = places.size === 1 && !document.wires.some(({ from, to }) => from[0] === id || to[0] === id);
    const node = indexOf(document).nodes.get(id)!;
    const middle = { x: placeOf(node).x + widthOf(node) / 2, y: placeOf(node).y + tagHeight / 2 };
    // As the wires ran before: they go round the tag that lies on them now.
    const wire = loose ? wiresNear(this.documents.settledDocument(), middle, tagHeight / 2)[0] : undefined;
    const inserted = wire && insertOnWire(document, id, wire);
    this.documents.apply(inserted ? 'Insert on wire' : 'Move', inserted ? makeRoom(inserted, id) : document);
  }

  private dropWire({ end, start, aim, pulled }: Extract<Gesture, { kind: 'wire' }>, at: Place): void {
    const document = this.documents.document();
    const moved = Math.hypot(at.x - start.x, at.y - start.y) * this.viewport.zoom() >= 4;
    if (nodeAt(document, at)?.id === end[0]) return;
    if (pulled) {
      // Put back where it was, nothing has become of it.
      if (!moved || (aim?.to && sameWire({ from: end, to: aim.to }, pulled))) return;
      if (!aim) return this.documents.apply('Remove wire', disconnect(document, pulled));
    }
    if (!aim) {
      if (moved) this.requests.add({ x: at.x, y: at.y - tagHeight / 2 }, end);
    } else if (aim.refused) this.requests.refuse(aim.says);
    else if (aim.to) this.documents.apply(pulled ? 'Move wire' : 'Wire', connect(pulled ? disconnect(document, pulled) : document, end, aim.to));
    else this.requests.choose(aim.node, end, at, pulled);
  }

  private chooseFramed(a: Place, b: Place): void {
    const [left, right, top, bottom] = [Math.min(a.x, b.x), Math.max(a.x, b.x), Math.min(a.y, b.y), Math.max(a.y, b.y)];
    const inside = this.documents.document().nodes.filter((node) => {
      const at = placeOf(node);
      return at.x < right && at.x + widthOf(node) > left && at.y < bottom && at.y + tagHeight > top;
    });
    // From the top to the bottom: the order in which a new node takes them.
    this.documents.select(...inside.toSorted((one, other) => placeOf(one).y - placeOf(other).y).map(({ id }) => id));
  }
}
