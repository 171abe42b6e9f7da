import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { ChoiceField, type Choice } from '../../shared/choice-field';
import { MouseHabits, dragUses, grips, pivots, plainHabits, wheelUses, type Habits } from './mouse-habits';

const choicesOf = (uses: Readonly<Record<string, string>>): Choice[] => Object.entries(uses).map(([value, label]) => ({ value, label }));

/** Asks what the mouse does in the 3D view, for those who are used to something else. */
@Component({
  selector: 'fx-mouse',
  imports: [ChoiceField, MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>What the mouse does in the 3D view</h2>
    <mat-dialog-content>
      <p>A click with the left button always chooses, and handles and drawn points are dragged with it. This browser remembers what is set here.</p>
      <div class="rows">
        @for (row of rows; track row.name) {
          <span>{{ row.label }}</span>
          <fx-choice [label]="row.label" [choices]="row.choices" [value]="mouse.habits()[row.name]" (chosen)="set(row.name, $event)" />
        }
      </div>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" matButton="outlined" (click)="mouse.set(plain)">As it was at first</button>
      <button type="button" matButton="filled" (click)="dialog.close()">Done</button>
    </mat-dialog-actions>
  `,
  styles: `
    .rows {
      display: grid;
      grid-template-columns: 1fr 220px;
      gap: 8px 12px;
      align-items: center;
      margin-top: 12px;
    }
  `,
})
export class MouseDialog {
  protected readonly mouse = inject(MouseHabits);
  protected readonly dialog = inject(MatDialogRef);
  protected readonly plain = plainHabits;
  protected readonly rows: readonly { readonly name: keyof Habits; readonly label: string; readonly choices: readonly Choice[] }[] = [
    ...(Object.entries(grips) as [keyof typeof grips, string][]).map(([name, label]) => ({ name, label: `${label}, dragged`, choices: choicesOf(dragUses) })),
    { name: 'wheel', label: 'Wheel, turned away from you', choices: choicesOf(wheelUses) },
    { name: 'about', label: 'The view turns about', choices: choicesOf(pivots) },
  ];

  protected set(name: keyof Habits, value: string): void {
    this.mouse.set({ [name]: value });
  }
}
