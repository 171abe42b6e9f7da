import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { combineLatest, finalize, takeWhile, timer, type Subscription } from 'rxjs';
import { DocumentService } from '../document/document.service';
import { moveNodes } from '../document/edits';
import { tidyPlaces } from './tidy';

/** Laying the graph out: at most one at a time, with its share and seconds, and a way to stop it. */
@Injectable()
export class Tidying {
  private readonly documents = inject(DocumentService);
  /** How far it is, in words; null: nothing is laid out. */
  readonly progress = signal<string | null>(null);
  private running: Subscription | null = null;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.running?.unsubscribe());
  }

  /** Lays the graph out for a pane of this width by height, or stops that when it is at work. */
  toggle(shape: number, done: () => void, failed: (message: string) => void): void {
    if (this.running) return this.running.unsubscribe();
    this.progress.set('');
    this.running = combineLatest([tidyPlaces(this.documents.document(), shape), timer(0, 1000)])
      .pipe(
        takeWhile(([{ places }]) => !places, true),
        finalize(() => {
          this.running = null;
          this.progress.set(null);
        }),
      )
      .subscribe({
        next: ([{ share, places }, seconds]) => {
          this.progress.set(`${share ? ` · ${Math.round(share * 100)} %` : ''}${seconds ? ` · ${seconds} s` : ''}`);
          if (!places) return;
          this.documents.apply('Tidy', moveNodes(this.documents.document(), places));
          done();
        },
        error: (error: Error) => failed(error.message),
      });
  }
}
