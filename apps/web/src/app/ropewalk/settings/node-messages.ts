import { CdkConnectedOverlay, CdkOverlayOrigin } from '@angular/cdk/overlay';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { DocumentService } from '../document/document.service';
import { EvaluationService } from '../evaluation.service';

/**
 * What is wrong with the chosen node, or worth knowing about it: one line in the head of its settings, where it moves no field, and all of it on demand. Where there is nothing to say, what it holds
 * is shown.
 */
@Component({
  selector: 'fx-node-messages',
  imports: [CdkConnectedOverlay, CdkOverlayOrigin, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (messages()[0]; as first) {
      <button
        type="button"
        matButton
        class="line"
        [class.bad]="first.bad"
        cdkOverlayOrigin
        #line="cdkOverlayOrigin"
        [title]="first.text"
        [attr.aria-expanded]="open()"
        (click)="open.set(!open())"
      >
        @if (messages().length > 1) {
          <b>{{ messages().length }}&nbsp;</b>
        }
        <span class="text" [attr.role]="first.bad ? 'alert' : 'status'">{{ first.text }}</span>
      </button>
      <ng-template
        cdkConnectedOverlay
        [cdkConnectedOverlayOrigin]="line"
        [cdkConnectedOverlayOpen]="open()"
        cdkConnectedOverlayHasBackdrop
        cdkConnectedOverlayBackdropClass="cdk-overlay-transparent-backdrop"
        (backdropClick)="open.set(false)"
        (detach)="open.set(false)"
      >
        <ul class="all">
          @for (message of messages().slice(0, most); track $index) {
            <li class="notice" [class.bad]="message.bad">
              {{ message.text }}
              @if (message.remedy) {
                <span class="slate">{{ message.remedy }}</span>
              }
            </li>
          }
          @if (messages().length > most) {
            <li class="slate">and {{ messages().length - most }} more, in Checks</li>
          }
        </ul>
      </ng-template>
    } @else {
      <ng-content />
    }
  `,
  styles: `
    :host {
      display: block;
      flex: 1;
      min-width: 0;
    }
    .line {
      --mat-button-text-label-text-color: var(--ink);
      justify-content: start;
      width: 100%;
      padding: 0 8px;
      border-left: 3px solid var(--weld);
      border-radius: 0;
      background: color-mix(in srgb, var(--weld) 12%, transparent);
      font-size: 13px;
      font-weight: 400;
    }
    .line .text {
      overflow: hidden;
      white-space: nowrap;
      text-overflow: ellipsis;
    }
    .all {
      max-width: 460px;
      max-height: 50vh;
      margin: 4px 0 0;
      padding: 8px;
      overflow: auto;
      border: 1px solid var(--seam);
      border-radius: 8px;
      background: var(--card);
      list-style: none;
      font-size: 13px;
    }
    .notice {
      margin-bottom: 6px;
      padding: 5px 9px;
      border-left: 3px solid var(--weld);
      background: color-mix(in srgb, var(--weld) 12%, transparent);
    }
    .bad {
      border-color: var(--madder);
      background: color-mix(in srgb, var(--madder) 10%, transparent);
    }
  `,
})
export class NodeMessages {
  private readonly documents = inject(DocumentService);
  private readonly evaluation = inject(EvaluationService);
  protected readonly open = signal(false);
  /** Most that are listed here. */
  protected readonly most = 20;
  /** What is wrong, then warnings. */
  readonly messages = computed(() => {
    const state = this.evaluation.nodes()[this.documents.chosen()?.id ?? ''];
    return [
      ...(state?.error ? [{ text: state.error.message, remedy: '', bad: true }] : []),
      ...(state?.warnings ?? []).map(({ message, remedy = '' }) => ({ text: message, remedy, bad: false })),
    ];
  });
}
