import { computed, type Signal } from '@angular/core';
import { toObservable } from '@angular/core/rxjs-interop';
import { catchError, of, switchMap, type Observable } from 'rxjs';
import type { Answers, Questions, Topic } from '@filaxis/protocol';
import type { EvaluationService } from './evaluation.service';

/**
 * What the worker answers to a question: asked when the question changes, and again after every run, since one may be under way still when it is asked first. Null where
 * there is no question, or no answer (before the first run). Call where components are made.
 */
export function liveAnswers<T extends Topic>(evaluation: EvaluationService, topic: T, question: Signal<Questions[T] | null>): Observable<Answers[T] | null> {
  const asked = computed(() => ({ results: evaluation.nodes(), question: question() }));
  return toObservable(asked).pipe(
    switchMap(({ question }) => (question ? evaluation.ask(topic, question).pipe(catchError(() => of(null))) : of(null))), //
  );
}
