import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { TextField } from '../../shared/text-field';
import { ApiService } from '../../shared/api.service';

/** Gives the link of a document's Handout, or closes it. */
@Component({
  selector: 'fx-share',
  imports: [MatButtonModule, MatDialogModule, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Handout</h2>
    <mat-dialog-content>
      <p>Whoever has this link sees the dials and what they make, and can export it. They cannot change the document. The newest saved version is shown.</p>
      @if (link(); as address) {
        <fx-text label="Link to the handout" fixed [value]="address" />
      } @else if (!closed() && !failed()) {
        <p class="slate">Making the link …</p>
      }
      @if (closed()) {
        <p role="status">The handout is closed. Its link leads nowhere now.</p>
      }
      @if (failed(); as text) {
        <p class="failed" role="alert">{{ text }}</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      @if (link(); as address) {
        <button type="button" matButton="outlined" (click)="close()">Close the handout</button>
        <a matButton="outlined" target="_blank" [href]="address">Open</a>
        <button type="button" matButton="filled" (click)="copy(address)">{{ copied() ? 'Copied' : 'Copy link' }}</button>
      }
      <button type="button" matButton="outlined" (click)="dialog.close()">Done</button>
    </mat-dialog-actions>
  `,
  styles: `
    .failed {
      color: var(--madder);
    }
  `,
})
export class ShareDialog {
  private readonly api = inject(ApiService);
  private readonly id = inject<string>(MAT_DIALOG_DATA);
  protected readonly dialog = inject(MatDialogRef);
  protected readonly link = signal<string | null>(null);
  protected readonly failed = signal<string | null>(null);
  protected readonly closed = signal(false);
  protected readonly copied = signal(false);

  constructor() {
    this.api.openHandout(this.id).then(
      ({ token }) => this.link.set(`${location.origin}/h/${token}`),
      (error: Error) => this.failed.set(error.message),
    );
  }

  protected async copy(address: string): Promise<void> {
    await navigator.clipboard.writeText(address);
    this.copied.set(true);
  }

  protected async close(): Promise<void> {
    try {
      await this.api.closeHandout(this.id);
      this.link.set(null);
      this.closed.set(true);
    } catch (error) {
      this.failed.set((error as Error).message);
    }
  }
}
