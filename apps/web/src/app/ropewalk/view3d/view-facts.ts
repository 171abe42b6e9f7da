import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { figure, grouped, milliseconds } from '../../shared/figures';
import { EvaluationService } from '../evaluation.service';

/** How much is shown, against the budget, and what the view has to say about itself. */
@Component({
  selector: 'fx-view-facts',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (facts(); as f) {
      <div class="facts mono" aria-live="off">
        <div [class.over]="f.over">
          <strong data-fact="faces">{{ f.faces }}</strong> {{ f.budget }}
        </div>
        <div data-fact="points">{{ f.points }}</div>
        <div data-fact="curves">{{ f.curves }}</div>
        <div>{{ f.ms }}</div>
        @if (f.problems) {
          <div class="over">{{ f.problems }}</div>
        }
        @if (note(); as text) {
          <div>{{ text }}</div>
        }
      </div>
    }
  `,
  styles: `
    .facts {
      position: absolute;
      top: 10px;
      right: 12px;
      color: var(--slate);
      font-size: 12.5px;
      line-height: 1.35;
      text-align: right;
      /* Read over whatever the picture shows there. */
      text-shadow:
        0 0 3px var(--sky-top),
        0 0 6px var(--sky-top);
      pointer-events: none;
    }

    .facts strong {
      color: var(--indigo);
    }

    .facts .over,
    .facts .over strong {
      color: var(--madder);
    }
  `,
})
export class ViewFacts {
  private readonly evaluation = inject(EvaluationService);
  readonly note = input<string | null>(null);

  protected readonly facts = computed(() => {
    const counts = this.evaluation.counts();
    const ms = this.evaluation.ms();
    const problems = this.evaluation.problems().length;
    if (!counts) return null;
    return {
      faces: grouped(counts.faces),
      budget: counts.budget ? `faces of ${grouped(counts.budget)}` : 'faces',
      over: counts.budget > 0 && counts.triangles > counts.budget,
      curves: `${grouped(counts.curves)} ${counts.curves === 1 ? 'curve' : 'curves'} · ${figure(counts.length, 3)} m`,
      points: `${grouped(counts.points)} points${counts.copies ? ` · ${grouped(counts.copies)} copies` : ''}`,
      ms: ms === null ? '' : `last run ${milliseconds(ms)}`,
      problems: problems ? `${problems === 1 ? '1 problem' : `${problems} problems`}: last good picture` : '',
    };
  });
}
