import { computed, effect, inject, Injectable, signal } from '@angular/core';
import { labelById } from '@filaxis/core';
import type { Shows } from '@filaxis/protocol';
import { Notices } from '../shared/notices';
import { DocumentService } from './document/document.service';
import { EvaluationService } from './evaluation.service';

/** Most nodes that are told by name. */
const mostNamed = 3;

/** What the 3D view shows in place of the result, and what it shows faintly beside it. */
@Injectable()
export class Peeking {
  private readonly documents = inject(DocumentService);
  private readonly evaluation = inject(EvaluationService);
  private readonly notices = inject(Notices);
  /** The node that is shown alone, and the one whose result stays faintly in view. */
  readonly peek = signal<string | null>(null);
  readonly ghost = signal<string | null>(null);
  readonly name = computed(() => {
    const peeked = this.peek();
    return peeked === null ? null : labelById(this.documents.document(), peeked);
  });

  /** Which results are shown. */
  readonly shows = signal<Shows>('chosen');
  /** The node that is shown while the chosen one is. What was chosen in the 3D view is seen there already, and changes nothing of what is shown. */
  readonly looked = signal<string | null>(null);
  private inView: string | null = null;
  /** What is shown, in words: the nodes by their names, or how many there are. */
  readonly told = computed(() => {
    const [document, shown] = [this.documents.document(), this.evaluation.shown()];
    return shown.length > mostNamed ? `${shown.length} nodes` : shown.map((id) => labelById(document, id)).join(', ');
  });

  constructor() {
    effect(() => {
      const chosen = this.documents.chosenId();
      if (chosen !== null && chosen === this.inView) return;
      this.inView = null;
      this.looked.set(chosen);
    });
    effect(() => {
      if (this.peek() && !this.documents.document().nodes.some(({ id }) => id === this.peek())) this.peek.set(null);
    });
  }

  /** A node is about to be chosen in the 3D view. */
  chooseInView(id: string): void {
    this.inView = id;
  }

  togglePeek(): void {
    this.peek.set(this.peek() ? null : (this.documents.chosen()?.id ?? null));
  }

  toggleGhost(): void {
    const chosen = this.ghost() ? null : this.documents.chosenId();
    const state = chosen === null ? null : this.evaluation.nodes()[chosen];
    // What is not there cannot be kept in view.
    if (state && (state.error || !Object.values(state.out).some((count) => count > 0))) {
      const why = state.error?.message ?? 'It gives nothing to see.';
      this.notices.say(`${labelById(this.documents.document(), chosen!)} cannot be kept in view. ${why}`);
      return;
    }
    this.ghost.set(chosen);
  }

  /** Ends what was begun last; false: there is nothing to end. */
  end(): boolean {
    const open = this.peek() ? this.peek : this.ghost() ? this.ghost : null;
    open?.set(null);
    return open !== null;
  }
}
