import { ChangeDetectionStrategy, Component, DestroyRef, inject, signal } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { download, fileName } from '../../shared/assets';
import { formValues } from '../../shared/form-values';
import { NumberField } from '../../shared/number-field';
import { largestPicture, shotFault, takeRound } from './pictures';
import type { Stage } from './stage';

export interface PictureData {
  readonly stage: Stage;
  readonly title: string;
}

/** Asks how pictures are to be taken, and takes them. */
@Component({
  selector: 'fx-pictures',
  imports: [MatButtonModule, MatCheckboxModule, MatDialogModule, NumberField, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Pictures of the 3D view</h2>
    <mat-dialog-content>
      <p>As it looks now: from here, in this light, with what is shown. PNG; several all round come as a zip.</p>
      <div class="fields">
        <label
          >Width
          <fx-number
            label="Width"
            unit="px"
            [value]="asked().width"
            [min]="16"
            [max]="largest"
            [step]="1"
            [whole]="true"
            (committed)="form.controls.width.setValue($event)"
        /></label>
        <label
          >Height
          <fx-number
            label="Height"
            unit="px"
            [value]="asked().height"
            [min]="16"
            [max]="largest"
            [step]="1"
            [whole]="true"
            (committed)="form.controls.height.setValue($event)"
        /></label>
        <label
          >All round
          <fx-number
            label="Pictures all round"
            [value]="asked().count"
            [min]="1"
            [max]="360"
            [step]="0.1"
            [whole]="true"
            (committed)="form.controls.count.setValue($event)"
        /></label>
      </div>
      <mat-checkbox [formControl]="form.controls.transparent">Transparent ground</mat-checkbox>
      @if (done() !== null) {
        <p role="status">{{ done() }} of {{ asked().count }} taken …</p>
      }
      @if (failed(); as text) {
        <p class="failed" role="alert">{{ text }}</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      @if (done() !== null) {
        <button type="button" matButton="outlined" (click)="stopped = true">Stop</button>
      } @else {
        <button type="button" matButton="outlined" (click)="dialog.close()">Close</button>
        <button type="button" matButton="filled" (click)="save()">{{ asked().count > 1 ? 'Save ' + asked().count + ' pictures' : 'Save the picture' }}</button>
      }
    </mat-dialog-actions>
  `,
  styles: `
    .fields {
      display: grid;
      grid-template-columns: repeat(3, 1fr);
      gap: 10px;
      margin: 10px 0 6px;
    }
    .fields label {
      font-size: 12.5px;
    }
    .failed {
      color: var(--madder);
    }
  `,
})
export class PictureDialog {
  private readonly data = inject<PictureData>(MAT_DIALOG_DATA);
  protected readonly dialog = inject(MatDialogRef);
  protected readonly largest = largestPicture;
  protected readonly form = inject(NonNullableFormBuilder).group({ width: 1920, height: 1080, count: 1, transparent: false });
  protected readonly asked = formValues(this.form);
  protected readonly done = signal<number | null>(null);
  protected readonly failed = signal<string | null>(null);
  protected stopped = false;

  constructor() {
    // Who closes it wants no more.
    inject(DestroyRef).onDestroy(() => (this.stopped = true));
  }

  protected async save(): Promise<void> {
    const { count, ...shot } = this.asked();
    this.failed.set(shotFault({ Width: shot.width, Height: shot.height, 'All round': count }));
    if (this.failed()) return;
    this.stopped = false;
    const style = getComputedStyle(document.documentElement);
    const ground = ['--sky-top', '--sky-low'].map((name) => style.getPropertyValue(name).trim());
    this.done.set(0);
    try {
      const pictures = await takeRound(this.data.stage, shot, count, ground, (done) => (this.done.set(done), !this.stopped));
      if (!this.stopped) await this.give(pictures);
    } catch (error) {
      this.failed.set((error as Error).message);
    }
    this.done.set(null);
  }

  private async give(pictures: readonly Uint8Array[]): Promise<void> {
    const name = fileName(this.data.title);
    if (pictures.length === 1) return download(pictures[0], `${name}.png`, 'image/png');
    const { packFiles } = await import('@filaxis/formats');
    const files = Object.fromEntries(pictures.map((png, i) => [`${name}.${String(i + 1).padStart(3, '0')}.png`, png]));
    download(packFiles(files), `${name}-round.zip`, 'application/zip');
  }
}
