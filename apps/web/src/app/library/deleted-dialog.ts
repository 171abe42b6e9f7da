import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { DatePipe } from '@angular/common';
import { firstValueFrom } from 'rxjs';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog, MatDialogModule } from '@angular/material/dialog';
import type { DeletedDocument } from '@filaxis/protocol';
import { ApiService } from '../shared/api.service';
import { ask } from '../shared/ask-dialog';
import { agoText } from '../shared/figures';

/** Documents that were deleted: each can be brought back until it goes for good, by hand or by time. */
@Component({
  selector: 'fx-deleted',
  imports: [DatePipe, MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Recently deleted</h2>
    <mat-dialog-content>
      @if (failed(); as text) {
        <p class="fault" role="alert">{{ text }}</p>
      }
      @if (list(); as documents) {
        <ul aria-label="Deleted documents">
          @for (each of documents; track each.id) {
            <li>
              <span class="name">{{ each.title }}</span>
              <span class="slate">deleted {{ ago(each) }}, kept until {{ each.goesAt | date: 'd MMM, HH:mm' }}</span>
              <button type="button" matButton="outlined" [attr.aria-label]="'Bring back ' + each.title" (click)="bringBack(each)">Bring back</button>
              <button type="button" matButton [attr.aria-label]="'Delete ' + each.title + ' for good'" (click)="forget(each)">Delete for good</button>
            </li>
          } @empty {
            <li class="slate">No recently deleted documents.</li>
          }
        </ul>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      @if (list()?.length) {
        <button type="button" matButton="outlined" (click)="forget(null)">Clear the list</button>
      }
      <button type="button" matButton="filled" mat-dialog-close cdkFocusInitial>Close</button>
    </mat-dialog-actions>
  `,
  styles: `
    ul {
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto auto;
      align-items: center;
      column-gap: 8px;
      padding: 8px 0;
      border-bottom: 1px solid var(--seam);
    }
    .name {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .name + .slate {
      grid-row: 2;
    }
    li button {
      grid-row: 1 / span 2;
    }
    .fault {
      color: var(--madder);
    }
    mat-dialog-actions {
      gap: 8px;
      padding: 8px 24px 16px;
    }
  `,
})
export class DeletedDialog {
  private readonly api = inject(ApiService);
  private readonly dialogs = inject(MatDialog);
  /** Null while loading. */
  protected readonly list = signal<readonly DeletedDocument[] | null>(null);
  protected readonly failed = signal<string | null>(null);

  constructor() {
    void this.attempt(async () => undefined);
  }

  protected ago({ deletedAt }: DeletedDocument): string {
    return agoText(Date.now() - Date.parse(deletedAt));
  }

  protected async bringBack({ id }: DeletedDocument): Promise<void> {
    await this.attempt(() => this.api.restore(id));
  }

  /** Deletes one for good, or all of them (null), after asking. */
  protected async forget(which: DeletedDocument | null): Promise<void> {
    const list = which ? [which] : this.list()!;
    const what = list.length === 1 ? `“${list[0].title}” and all its versions` : `${list.length} documents and all their versions`;
    const text = `${what} will be deleted. This cannot be undone.`;
    if (await firstValueFrom(ask(this.dialogs, { title: 'Delete for good?', text, action: 'Delete for good' })))
      await this.attempt(() => this.api.forget(which?.id));
  }

  /** Runs a step, then lists the deleted documents anew; shows what fails. */
  private async attempt(step: () => Promise<unknown>): Promise<void> {
    this.failed.set(null);
    const failed = (error: Error): void => this.failed.set(error.message);
    await step().catch(failed);
    await this.api.deleted().then((list) => this.list.set(list), failed);
  }
}
