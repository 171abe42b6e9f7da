import { ApplicationRef, inject, Injectable, signal } from '@angular/core';
import { nodeDefinitions, type NodeDefinition } from '@filaxis/core';
import { Notices } from '../../shared/notices';
import { addArea, addNote, align, type Alignment } from '../document/layout';
import { DocumentService } from '../document/document.service';
import { EditingService } from '../document/editing.service';
import { isField } from '../../shared/typing';
import { Panes } from '../panes';
import { Peeking } from '../peeking';
import type { AddRequest, GraphView } from './graph-view';
import { recipeDocument, type Recipe } from '../recipes/recipes';
import { Tidying } from './tidying';

/** What keys, menus and the search do with the graph: nodes are put where there is room, shown, and given the keyboard. */
@Injectable()
export class GraphCommands {
  private readonly documents = inject(DocumentService);
  private readonly editing = inject(EditingService);
  private readonly panes = inject(Panes);
  private readonly peeking = inject(Peeking);
  private readonly tidying = inject(Tidying);
  private readonly notices = inject(Notices);
  private readonly application = inject(ApplicationRef);

  /** The graph on screen; set by the page that shows it. */
  view: () => GraphView | undefined = () => undefined;
  /** What is asked of the search for a node to add, while that is open. */
  readonly adding = signal<AddRequest | null>(null);
  /** The node whose name is being typed. */
  readonly renaming = signal<string | null>(null);

  /** Adds the node that was picked from the search. */
  addChosen({ type, settings, request }: { type: string; settings: Readonly<Record<string, unknown>>; request: AddRequest }): void {
    // What takes no wires stands before the chosen node, not after it: it is there to be wired into something.
    const chosen = request.from.length === 1 ? this.documents.chosen() : null;
    const leads = chosen && !nodeDefinitions.get(type)?.inputs.length;
    const at = (leads && this.view()?.freePlace(chosen, 'before')) || request.at;
    // A wire that was chosen goes through the new node.
    const id = this.editing.add(type, at, request.from, this.documents.selectedWire(), settings);
    this.view()?.reveal(id);
    this.focusTag(id);
    this.panes.panel.set('settings');
  }

  /** Opens the search for a node after the chosen ones, with what has been typed of its name already. */
  openAdd(text = ''): void {
    if (!this.view()) return;
    this.adding.set({ ...this.nextPlace(), text });
    // It has the keyboard before the next key comes.
    this.application.tick();
  }

  addByName(type: string, settings: Readonly<Record<string, unknown>> = {}): void {
    this.addChosen({ type, settings, request: this.nextPlace() });
  }

  /** Puts in a small example of a node, and peeks at what comes of it. */
  putExample(definition: NodeDefinition): void {
    const shown = this.editing.putExample(definition);
    if (shown === null) return;
    this.peeking.peek.set(shown);
    this.view()?.reveal(this.documents.chosenId()!);
  }

  /** Puts in what a recipe makes, and shows its result. */
  putRecipe(recipe: Recipe): void {
    const empty = !this.documents.document().nodes.length;
    const ids = this.editing.putBeneath(`Put in: ${recipe.title}`, recipeDocument(recipe));
    this.documents.select(ids.at(-1)!);
    if (empty) this.view()?.fit();
    else this.view()?.reveal(...ids);
  }

  /** Chooses a node and shows it with its settings. */
  show(id: string): void {
    this.documents.select(id);
    this.panes.panel.set('settings');
    this.view()?.reveal(id);
  }

  /** Chooses a node and gives it the keyboard. */
  goTo(id: string): void {
    this.show(id);
    this.focusTag(id);
  }

  /** Chooses the next node in a direction. */
  step(dx: number, dy: number): void {
    const id = this.editing.step(dx, dy);
    if (!id) return;
    this.view()?.reveal(id);
    this.focusTag(id);
  }

  renameChosen(): void {
    this.renaming.set(this.documents.chosen()?.id ?? null);
  }

  /** Lays the graph out, or stops that when it is at work. */
  tidy(): void {
    const view = this.view();
    this.tidying.toggle(view?.shape ?? 1, () => view?.fit(), (message) => this.notices.say(message)); // prettier-ignore
  }

  async freezeChosen(): Promise<void> {
    const node = this.documents.chosen();
    if (node) await this.editing.freeze(node.id).catch((error: Error) => this.notices.say(error.message));
  }

  group(): void {
    this.documents.apply('Group into an area', addArea(this.documents.document(), this.documents.selection()));
  }

  note(): void {
    const { x, y } = this.view()?.freePlace(this.documents.chosen()) ?? { x: 0, y: 0 };
    this.documents.apply('Add a note', addNote(this.documents.document(), [x, y]).document);
  }

  align(how: Alignment): void {
    this.documents.apply('Align', align(this.documents.document(), this.documents.selection(), how));
  }

  /** A place for a node after the chosen ones, with what it takes from them; on a chosen wire, in its middle. */
  private nextPlace(): AddRequest {
    const document = this.documents.document();
    const last = [...this.documents.selection()].at(-1);
    const ends = this.documents.selectedWire();
    const beside = document.nodes.find(({ id }) => id === (ends?.from[0] ?? last)) ?? null;
    return { at: this.view()?.freePlace(beside) ?? { x: 0, y: 0 }, from: this.editing.chosenOutputs() };
  }

  /** Gives the keyboard to a tag once it is there. */
  private focusTag(id: string): void {
    setTimeout(() => {
      // Who types meanwhile, in whatever box, keeps the keyboard there.
      if (!this.adding() && !isField(document.activeElement)) document.querySelector<HTMLElement>(`fx-tag[data-node="${id}"]`)?.focus({ preventScroll: true });
    });
  }
}
