import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, type MatDialog } from '@angular/material/dialog';
import { map, type Observable } from 'rxjs';

/** What is asked before something that cannot be taken back. */
export interface Question {
  readonly title: string;
  readonly text: string;
  /** What the button says that does it. */
  readonly action: string;
}

/** Asks before something that cannot be taken back; closes with true when it is to be done. */
@Component({
  selector: 'fx-ask',
  imports: [MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ data.title }}</h2>
    <mat-dialog-content>{{ data.text }}</mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" matButton="outlined" mat-dialog-close cdkFocusInitial>Cancel</button>
      <button type="button" matButton="filled" [mat-dialog-close]="true">{{ data.action }}</button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-dialog-actions {
      gap: 8px;
      padding: 0 24px 16px;
    }
  `,
})
export class AskDialog {
  protected readonly data = inject<Question>(MAT_DIALOG_DATA);
}

/** Whether it is to be done. */
export const ask = (dialogs: MatDialog, question: Question): Observable<boolean> =>
  dialogs
    .open<AskDialog, Question, true>(AskDialog, { data: question, width: '420px', role: 'alertdialog' })
    .afterClosed()
    .pipe(map((answer) => answer === true));
