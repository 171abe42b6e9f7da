import { ChangeDetectionStrategy, Component, effect, inject, output, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { Learning } from './learning';

/** How long what is to be used is ringed, ms, and how long after a step is done the next one rings, so that what it made is there. */
const [ringed, settled] = [2400, 400];

/** The lesson that is taken: what is to be done now, how far one is, and the way out. */
@Component({
  selector: 'fx-lesson',
  imports: [MatButtonModule, MatProgressBarModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './lesson-card.html',
  styleUrl: './lesson-card.scss',
})
export class LessonCard {
  protected readonly learning = inject(Learning);
  /** Another lesson is wanted, from an empty document. */
  readonly another = output<string>();

  constructor() {
    effect((gone) => {
      if (!this.learning.step()) return;
      const later = setTimeout(() => untracked(() => this.show()), settled);
      gone(() => clearTimeout(later));
    });
  }

  /** Rings what the step is done with. */
  protected show(): void {
    const aim = this.learning.aim();
    if (!aim) return;
    aim.classList.add('fx-ringed');
    setTimeout(() => aim.classList.remove('fx-ringed'), ringed);
  }
}
