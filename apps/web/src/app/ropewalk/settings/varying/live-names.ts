import { effect, inject, signal, untracked, type Signal } from '@angular/core';
import type { NamesAnswer } from '@filaxis/protocol';
import { EvaluationService } from '../../evaluation.service';

/** The names that a setting can be given by, with their ranges, and the values it has: asked for again after every run. Call where components are made. */
export function liveNames(node: Signal<string>, setting: Signal<string>): Signal<NamesAnswer | null> {
  const evaluation = inject(EvaluationService);
  const names = signal<NamesAnswer | null>(null);
  let asked = 0;
  effect(() => {
    evaluation.nodes();
    const question = { node: node(), setting: setting() };
    const mine = ++asked;
    untracked(() =>
      evaluation.ask('names', question).then(
        (answer) => {
          if (mine === asked) names.set(answer);
        },
        // Before the first run there is nothing to know yet.
        () => undefined,
      ),
    );
  });
  return names;
}
