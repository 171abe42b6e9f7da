import { computed, inject, type Signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { filter } from 'rxjs';
import type { NamesAnswer } from '@filaxis/protocol';
import { EvaluationService } from '../../evaluation.service';
import { liveAnswers } from '../../live-answers';

/** The names that a setting can be given by, with their ranges, and the values it has, as of the newest run. Call where components are made. */
export function liveNames(node: Signal<string>, setting: Signal<string>): Signal<NamesAnswer | null> {
  const question = computed(() => ({ node: node(), setting: setting() }));
  return toSignal(liveAnswers(inject(EvaluationService), 'names', question).pipe(filter((found) => found !== null)), { initialValue: null });
}
