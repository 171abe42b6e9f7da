import { inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { catchError, debounceTime, EMPTY, switchMap } from 'rxjs';
import type { Finding } from '@filaxis/core';
import { EvaluationService } from '../evaluation.service';

/** How long results stay before they are looked over, ms: a dial that is being dragged is never held up. */
const quiet = 450;

/** What is wrong or worth a look in the newest results. */
@Injectable()
export class ChecksService {
  private readonly evaluation = inject(EvaluationService);
  /** Null: not looked over yet. */
  readonly findings = signal<readonly Finding[] | null>(null);

  constructor() {
    toObservable(this.evaluation.nodes)
      .pipe(
        debounceTime(quiet),
        // Given up when a newer run began: that one is looked over in its turn.
        switchMap(() => this.evaluation.ask('checks', {}).pipe(catchError(() => EMPTY))),
        takeUntilDestroyed(),
      )
      .subscribe((found) => this.findings.set(found));
  }
}
