import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { checkKinds, type CheckKind, type Finding, type Remedy, labelById } from '@filaxis/core';
import { DocumentService } from '../document/document.service';
import { ChecksService } from './checks.service';
import { remedied } from './remedies';
import { MatButtonModule } from '@angular/material/button';

interface Group {
  readonly kind: CheckKind;
  readonly name: string;
  readonly findings: readonly (Finding & { readonly label: string })[];
}

/** What is wrong and what may be, each with its place, its cause and, where there is one, a button that mends it. */
@Component({
  selector: 'fx-checks',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (groups().length) {
      @for (group of groups(); track group.kind) {
        <section>
          <h3>
            {{ group.name }} <span class="slate">{{ group.findings.length }}</span>
          </h3>
          <ul>
            @for (finding of group.findings; track $index) {
              <li [class.wrong]="finding.level === 'wrong'">
                <span class="level">{{ finding.level === 'wrong' ? 'wrong' : 'look' }}</span>
                <p>
                  <button type="button" class="node" (click)="show(finding)">{{ finding.label }}</button> {{ finding.message }}
                </p>
                <span class="does">
                  @if (finding.place) {
                    <button type="button" matButton="outlined" (click)="flown.emit(finding.place)">Show me</button>
                  }
                  @if (finding.remedy; as remedy) {
                    <button type="button" matButton="filled" (click)="mend(remedy)">{{ remedy.label }}</button>
                  }
                </span>
              </li>
            }
          </ul>
        </section>
      }
    } @else if (checks.findings()) {
      <p class="slate none">Nothing to mend: no pinches, no inside-out faces, no holes, no values that are not finite, all within budget.</p>
    } @else {
      <p class="slate none">Looking …</p>
    }
  `,
  styles: `
    :host {
      display: block;
      height: 100%;
      padding: 4px 14px 12px;
      overflow: auto;
    }
    h3 {
      margin: 8px 0 3px;
      font-size: 13px;
    }
    ul {
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: grid;
      grid-template-columns: 46px minmax(0, 1fr) auto;
      gap: 8px;
      align-items: center;
      padding: 4px 8px;
      border-left: 3px solid var(--weld);
      background: color-mix(in srgb, var(--weld) 8%, transparent);
    }
    li + li {
      margin-top: 3px;
    }
    li.wrong {
      border-color: var(--madder);
      background: color-mix(in srgb, var(--madder) 8%, transparent);
    }
    .level {
      color: var(--weld-text);
      font: 600 12px var(--sans);
    }
    .wrong .level {
      color: var(--madder);
    }
    p {
      margin: 0;
      font-size: 13px;
    }
    .node {
      padding: 0;
      border: 0;
      background: none;
      color: var(--indigo);
      font: 600 13px var(--sans);
      text-decoration: underline;
      text-underline-offset: 2px;
      cursor: pointer;
    }
    .does {
      display: flex;
      gap: 6px;
    }
    .does .slip {
      min-height: 24px;
      font-size: 12.5px;
    }
    .none {
      padding-top: 8px;
    }
  `,
})
export class ChecksPanel {
  protected readonly checks = inject(ChecksService);
  private readonly documents = inject(DocumentService);
  readonly flown = output<readonly number[]>();
  readonly showNode = output<string>();

  protected readonly groups = computed<Group[]>(() => {
    const document = this.documents.document();
    const labelled = (this.checks.findings() ?? []).map((finding) => ({ ...finding, label: labelById(document, finding.node) }));
    return (Object.keys(checkKinds) as CheckKind[]).flatMap((kind) => {
      const found = labelled.filter((finding) => finding.kind === kind);
      return found.length ? [{ kind, name: checkKinds[kind], findings: found }] : [];
    });
  });

  protected show(finding: Finding): void {
    this.showNode.emit(finding.node);
  }

  protected mend(remedy: Remedy): void {
    this.documents.apply(remedy.label, remedied(this.documents.document(), remedy));
  }
}
