import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatIcon } from '@angular/material/icon';
import { MatSliderModule } from '@angular/material/slider';
import { frameRates, mostFrames } from '@filaxis/core';
import { ChoiceField } from '../../shared/choice-field';
import { figure } from '../../shared/figures';
import { NumberField } from '../../shared/number-field';
import { Player } from './player';

/** Frames that are looked at: scrubbed, played, and which of them are ready. */
@Component({
  selector: 'fx-timeline',
  imports: [ChoiceField, MatButtonModule, MatCheckbox, MatIcon, MatSliderModule, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './timeline.html',
  styleUrl: './timeline.scss',
})
export class TimelinePanel {
  /** The timeline is as it was given: its ends and its rate are not offered. */
  readonly given = input(false);
  protected readonly player = inject(Player);
  protected readonly rates = frameRates.map((rate) => ({ value: String(rate), label: `${rate} a second` }));
  protected readonly seconds = computed(() => figure(this.player.frame() / this.player.line().rate, 4));

  /** The frames that the document keeps, each with its field. */
  protected readonly ends = computed(() => {
    const { from, to } = this.player.line();
    return [
      { name: 'from', word: 'From', label: 'First frame', help: '', min: -mostFrames, max: to },
      { name: 'to', word: 'to', label: 'Last frame', help: '', min: from, max: from + mostFrames - 1 },
      { name: 'at', word: 'opens at', label: 'Frame it opens at', help: 'The frame that is seen when the document is opened, and by the command line when it is told no time', min: from, max: to }, // prettier-ignore
    ] as const;
  });

  protected keep(name: 'from' | 'to' | 'at', frame: number): void {
    this.player.change({ [name]: frame });
  }

  /** Runs of frames that are ready, as shares of the whole. */
  protected readonly runs = computed(() => {
    const { from, to } = this.player.line();
    const count = to - from + 1;
    const frames = [...this.player.ready()].filter((frame) => frame >= from && frame <= to).sort((a, b) => a - b);
    const runs: { at: number; size: number }[] = [];
    frames.forEach((frame, i) => {
      if (i && frames[i - 1] === frame - 1) runs[runs.length - 1].size += 100 / count;
      else runs.push({ at: ((frame - from) * 100) / count, size: 100 / count });
    });
    return runs;
  });
  protected readonly readyText = computed(() => {
    const { from, to } = this.player.line();
    return `${[...this.player.ready()].filter((frame) => frame >= from && frame <= to).length} of ${to - from + 1} frames ready`;
  });
  protected readonly paceText = computed(() => {
    const [pace, { rate }] = [this.player.pace(), this.player.line()];
    if (!this.player.playing() || pace === null) return '';
    return pace < rate * 0.9 ? `${figure(pace, 2)} of ${rate} frames a second; none is left out` : `${rate} frames a second`;
  });
}
