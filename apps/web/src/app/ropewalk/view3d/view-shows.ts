import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import type { Shows } from '@filaxis/protocol';

/** The switch for what the 3D view shows, and what that is now. */
@Component({
  selector: 'fx-view-shows',
  imports: [MatButtonToggleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-button-toggle-group hideSingleSelectionIndicator aria-label="Which results are shown" [value]="shows()" (change)="shows.set($event.value)">
      @for (choice of choices; track choice.value) {
        <mat-button-toggle [value]="choice.value" [title]="choice.help">{{ choice.label }}</mat-button-toggle>
      }
    </mat-button-toggle-group>
    <span class="told" role="status">{{ shown() }}</span>
  `,
  styles: `
    :host {
      position: absolute;
      bottom: 12px;
      left: 12px;
      display: flex;
      gap: 10px;
      align-items: center;
      max-width: 58%;
      font-size: 12.5px;
    }
    .told {
      overflow: hidden;
      color: var(--slate);
      white-space: nowrap;
      text-overflow: ellipsis;
    }
  `,
})
export class ViewShows {
  readonly shows = model.required<Shows>();
  /** What is shown, in words. */
  readonly shown = input('');
  protected readonly choices: readonly { readonly value: Shows; readonly label: string; readonly help: string }[] = [
    { value: 'chosen', label: 'Chosen', help: 'The chosen node; with nothing chosen, the outputs' },
    { value: 'outputs', label: 'Outputs', help: 'The outputs, whatever is chosen' },
    { value: 'all', label: 'All', help: 'The outputs, and everything that goes no further' },
  ];
}
