import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { indexOf, type GraphNode } from '@filaxis/core';
import { interval, map, startWith } from 'rxjs';
import { agoText } from '../../shared/figures';
import { DocumentService } from '../document/document.service';
import { EditingService } from '../document/editing.service';

/** What a node keeps of a moment: of what it was taken, how long ago; take it anew, or let what comes in pass again. */
@Component({
  selector: 'fx-frozen',
  imports: [MatButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (kept(); as info) {
      <span
        >{{ info.name }} <span class="slate" [title]="info.taken ?? ''">{{ age() }}</span></span
      >
    } @else {
      <span class="slate">{{ hash() ? hash().slice(0, 10) + '… is not among the files of the document' : 'not frozen: what comes in passes' }}</span>
    }
    <div class="row">
      <button type="button" matButton="outlined" [disabled]="!wired() || busy()" [title]="wired() ? '' : 'Nothing is wired to it'" (click)="freeze()">
        {{ busy() ? 'Freezing …' : hash() ? 'Freeze again' : 'Freeze' }}
      </button>
      @if (hash()) {
        <button type="button" matButton="outlined" [disabled]="busy()" (click)="editing.thaw(node().id)">Thaw</button>
      }
    </div>
    @if (fault(); as text) {
      <p class="fault" role="alert">{{ text }}</p>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 6px;
    }
    .row {
      display: flex;
      gap: 8px;
    }
    .fault {
      color: var(--madder);
    }
  `,
})
export class FrozenField {
  readonly node = input.required<GraphNode>();
  readonly hash = input.required<string>();
  private readonly documents = inject(DocumentService);
  protected readonly editing = inject(EditingService);
  protected readonly busy = signal(false);
  protected readonly fault = signal<string | null>(null);
  private readonly now = toSignal(interval(15_000).pipe(startWith(0), map(() => Date.now())), { requireSync: true }); // prettier-ignore

  protected readonly kept = computed(() => this.documents.document().assets?.[this.hash()] ?? null);
  protected readonly wired = computed(() => !!indexOf(this.documents.document()).wiresTo.get(this.node().id)?.length);
  protected readonly age = computed(() => {
    const taken = Date.parse(this.kept()?.taken ?? '');
    return Number.isNaN(taken) ? '' : agoText(this.now() - taken);
  });

  protected async freeze(): Promise<void> {
    this.busy.set(true);
    this.fault.set(null);
    await this.editing.freeze(this.node().id).catch((error: Error) => this.fault.set(error.message));
    this.busy.set(false);
  }
}
