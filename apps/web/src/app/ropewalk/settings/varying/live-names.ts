import { computed, inject, type Signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { catchError, EMPTY, switchMap } from 'rxjs';
import type { NamesAnswer } from '@filaxis/protocol';
import { EvaluationService } from '../../evaluation.service';

/** The names that a setting can be given by, with their ranges, and the values it has: asked for again after every run. Call where components are made. */
export function liveNames(node: Signal<string>, setting: Signal<string>): Signal<NamesAnswer | null> {
  const evaluation = inject(EvaluationService);
  const questions = computed(() => ({ results: evaluation.nodes(), node: node(), setting: setting() }));
  // Before the first run there is nothing to know yet.
  const answers = toObservable(questions).pipe(
    switchMap((asked) => evaluation.ask('names', { node: asked.node, setting: asked.setting }).pipe(catchError(() => EMPTY))),
  );
  return toSignal(answers, { initialValue: null });
}
