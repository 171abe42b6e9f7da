import { CdkDrag, CdkDragHandle, CdkDropList, type CdkDragDrop } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { definitionOf, labelById, labelOf, type InputPort, type Wire } from '@filaxis/core';
import { grouped } from '../../shared/figures';
import { DocumentService } from '../document/document.service';
import { connect, disconnect, moveWire, wireRefusal, type End } from '../document/edits';
import { EvaluationService } from '../evaluation.service';
import { portName, portText } from '../graph/wire-aim';

interface Row {
  readonly port: InputPort;
  readonly called: string;
  readonly text: string;
  readonly wires: readonly { readonly wire: Wire; readonly name: string }[];
}

/** What comes into the chosen node: a row for each input with its wires, to be laid, put in order and taken away without the graph. */
@Component({
  selector: 'fx-inputs',
  imports: [CdkDrag, CdkDragHandle, CdkDropList, MatButtonModule, MatIconModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (row of rows(); track row.port.name) {
      <section [attr.data-input]="row.port.name">
        <h3>
          {{ row.called }} <span class="slate">{{ row.text }}</span>
          <button
            type="button"
            matButton
            [matMenuTriggerFor]="feeds"
            [disabled]="!feedsOf(row.port).length"
            [attr.aria-label]="'Wire something into ' + row.called"
          >
            {{ row.wires.length && !row.port.many ? 'Replace' : 'Wire from' }} …
          </button>
          <mat-menu #feeds="matMenu">
            <ng-template matMenuContent>
              @for (feed of feedsOf(row.port); track feed.name) {
                <button mat-menu-item (click)="lay(feed.end, row.port)">{{ feed.name }}</button>
              }
            </ng-template>
          </mat-menu>
        </h3>
        <ol cdkDropList (cdkDropListDropped)="drop(row, $event)">
          @for (each of row.wires; track $index; let first = $first; let last = $last) {
            <li cdkDrag cdkDragLockAxis="y">
              @if (row.wires.length > 1) {
                <mat-icon cdkDragHandle svgIcon="grip" title="Drag to put it elsewhere" />
              }
              <button type="button" class="name" (click)="showNode.emit(each.wire.from[0])">{{ each.name }}</button>
              @if (row.wires.length > 1) {
                <button type="button" matButton [disabled]="first" [attr.aria-label]="'Move ' + each.name + ' up'" (click)="move(each.wire, -1)">↑</button>
                <button type="button" matButton [disabled]="last" [attr.aria-label]="'Move ' + each.name + ' down'" (click)="move(each.wire, 1)">↓</button>
              }
              <button type="button" matButton [attr.aria-label]="'Remove the wire from ' + each.name" (click)="unwire(each.wire)">×</button>
            </li>
          }
        </ol>
      </section>
    }
  `,
  styles: `
    :host {
      display: block;
      margin-top: 12px;
    }
    h3 {
      display: flex;
      gap: 8px;
      align-items: center;
      margin: 0;
      font-size: 13px;
    }
    h3 .slate {
      font-weight: 400;
    }
    ol {
      margin: 0 0 4px;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      align-items: center;
      min-height: 26px;
      padding-left: 8px;
      background: var(--card);
    }
    li mat-icon {
      cursor: grab;
    }
    .name {
      padding: 0 6px 0 0;
      border: 0;
      background: none;
      color: var(--indigo);
      font: inherit;
      text-decoration: underline;
      text-underline-offset: 2px;
      cursor: pointer;
    }
    li [matButton] {
      min-width: 26px;
      padding: 0 6px;
    }
  `,
})
export class InputsPanel {
  private readonly documents = inject(DocumentService);
  private readonly evaluation = inject(EvaluationService);
  readonly showNode = output<string>();

  private readonly id = computed(() => this.documents.chosen()?.id ?? '');
  protected readonly rows = computed<readonly Row[]>(() => {
    const { wires } = this.documents.document();
    return (this.documents.chosenDefinition()?.inputs ?? []).map((port) => ({
      port,
      called: portName(port.name, 'input'),
      // The name stands before it already.
      text: portText(port)
        .slice(portName(port.name, 'input').length)
        .replace(/^[:,] /, ''),
      wires: wires.filter(({ to }) => to[0] === this.id() && to[1] === port.name).map((wire) => ({ wire, name: this.nameOf(wire) })),
    }));
  });

  /** Outputs that could be wired to an input, by the names of their nodes. */
  protected feedsOf(port: InputPort): { readonly end: End; readonly name: string }[] {
    const document = this.documents.document();
    return document.nodes.flatMap((node) =>
      (definitionOf(document, node)?.outputs ?? []).flatMap(({ name }, _, all) => {
        const end: End = [node.id, name];
        const called = `${labelOf(document, node)} (${node.id})${all.length > 1 ? `, ${name}` : ''}`;
        return wireRefusal(document, end, [this.id(), port.name]) ? [] : [{ end, name: called }];
      }),
    );
  }

  private nameOf({ from }: Wire): string {
    const [name, count] = Object.entries(this.evaluation.nodes()[from[0]]?.out ?? {})[0] ?? [];
    return `${labelById(this.documents.document(), from[0])} (${from[0]}${name ? `, ${grouped(count)} ${name}` : ''})`;
  }

  protected lay(end: End, port: InputPort): void {
    this.documents.apply('Wire', connect(this.documents.document(), end, [this.id(), port.name]));
  }

  protected drop({ wires }: Row, { previousIndex, currentIndex }: CdkDragDrop<unknown>): void {
    this.move(wires[previousIndex].wire, currentIndex - previousIndex);
  }

  protected move(wire: Wire, by: number): void {
    this.documents.apply('Order of wires', moveWire(this.documents.document(), wire, by));
  }

  protected unwire(wire: Wire): void {
    this.documents.apply('Remove wire', disconnect(this.documents.document(), wire));
  }
}
