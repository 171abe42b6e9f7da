import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { labelById } from '@filaxis/core';
import { DocumentService } from '../document/document.service';
import { Selecting } from './selecting';

/** What was clicked: the node that made it, what it went through, and which element of it that is. */
@Component({
  selector: 'fx-view-way',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (way(); as steps) {
      <p class="way" role="status">
        @for (step of steps; track step.id) {
          @if (!$first) {
            <span aria-hidden="true">›</span>
          }
          <button type="button" matButton (click)="showNode.emit(step.id)">{{ step.label }}</button>
        }
        @if (element(); as text) {
          <span class="slate">{{ text }}</span>
        }
      </p>
    }
  `,
  styles: `
    .way {
      position: absolute;
      bottom: 48px;
      left: 12px;
      display: flex;
      align-items: center;
      padding: 0 10px 0 2px;
      border: 1px solid var(--seam);
      border-radius: 99px;
      background: var(--card);
      font-size: 13px;
    }
  `,
})
export class ViewWay {
  private readonly documents = inject(DocumentService);
  private readonly selecting = inject(Selecting);
  readonly showNode = output<string>();

  /** From the node that made what was clicked to what is shown. */
  protected readonly way = computed(() => {
    const picked = this.selecting.picked();
    const document = this.documents.document();
    if (!picked || this.documents.chosenId() !== picked.maker.node) return null;
    return [picked.maker.node, ...picked.maker.through].map((id) => ({ id, label: labelById(document, id) }));
  });
  protected readonly element = computed(() => {
    const picked = this.selecting.picked();
    if (picked?.what !== 'element') return null;
    const { per, element, part } = picked.maker;
    return part === null || per !== 'face' ? `${per} ${element}` : `${per} ${element}, part ${part}`;
  });
}
