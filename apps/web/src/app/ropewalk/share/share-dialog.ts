import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { ApiService } from '../../shared/api.service';

/** Gives the link of a document's Handout, or closes it. */
@Component({
  selector: 'fx-share',
  imports: [MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Handout</h2>
    <mat-dialog-content>
      <p>Whoever has this link sees the dials and what they make, and can export it. They cannot change the document. The newest saved version is shown.</p>
      @if (link(); as address) {
        <input class="field mono" type="text" readonly aria-label="Link to the handout" [value]="address" (focus)="$any($event.target).select()" />
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
        <button type="button" class="slip" (click)="close()">Close the handout</button>
        <a class="slip" target="_blank" [href]="address">Open</a>
        <button type="button" class="slip strong" (click)="copy(address)">{{ copied() ? 'Copied' : 'Copy link' }}</button>
      }
      <button type="button" class="slip" (click)="dialog.close()">Done</button>
    </mat-dialog-actions>
  `,
  styles: `
    .failed {
      color: var(--madder);
    }
    a.slip {
      text-decoration: none;
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
