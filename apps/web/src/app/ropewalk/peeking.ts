import { computed, effect, inject, Injectable, signal } from '@angular/core';
import { labelById } from '@filaxis/core';
import { DocumentService } from './document/document.service';

/** What the 3D view shows in place of the result, and what it shows faintly beside it. */
@Injectable()
export class Peeking {
  private readonly documents = inject(DocumentService);
  /** The node that is shown alone, and the one whose result stays faintly in view. */
  readonly peek = signal<string | null>(null);
  readonly ghost = signal<string | null>(null);
  readonly name = computed(() => {
    const peeked = this.peek();
    return peeked === null ? null : labelById(this.documents.document(), peeked);
  });

  constructor() {
    effect(() => {
      if (this.peek() && !this.documents.document().nodes.some(({ id }) => id === this.peek())) this.peek.set(null);
    });
  }

  togglePeek(): void {
    this.peek.set(this.peek() ? null : (this.documents.chosen()?.id ?? null));
  }

  toggleGhost(): void {
    this.ghost.set(this.ghost() ? null : (this.documents.chosen()?.id ?? null));
  }

  /** Ends what was begun last; false: there is nothing to end. */
  end(): boolean {
    const open = this.peek() ? this.peek : this.ghost() ? this.ghost : null;
    open?.set(null);
    return open !== null;
  }
}
