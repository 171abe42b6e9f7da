import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { checkKinds, type CheckKind, type Finding, type Remedy, labelById } from '@filaxis/core';
import { DocumentService } from '../document/document.service';
import { ChecksService } from './checks.service';
import { remedied } from './remedies';
import { MatButtonModule } from '@angular/material/button';

/** Findings of one cause: the same at the same node, mended alike. */
interface Cause {
  readonly key: string;
  readonly label: string;
  readonly findings: readonly Finding[];
}

interface Group {
  readonly kind: CheckKind;
  readonly name: string;
  readonly causes: readonly Cause[];
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
            {{ group.name }} <span class="slate">{{ group.causes.length }}</span>
          </h3>
          <ul>
            @for (cause of group.causes; track cause.key) {
              @let finding = shown(cause);
              <li [class.wrong]="finding.level === 'wrong'">
                <span class="level">{{ finding.level === 'wrong' ? 'wrong' : 'look' }}</span>
                <p>
                  <button type="button" class="node" (click)="showNode.emit(finding.node)">{{ cause.label }}</button> {{ finding.message }}
                  @if (cause.findings.length > 1) {
                    <span class="slate">{{ cause.findings.length }} places</span>
                  }
                </p>
                <span class="does">
                  @if (finding.place) {
                    <button type="button" matButton="outlined" (click)="fly(cause)">Show me{{ nextOf(cause) }}</button>
                  }
                  @for (remedy of finding.remedies; track remedy.label; let first = $first) {
                    <button type="button" [matButton]="first ? 'filled' : 'outlined'" (click)="mend(remedy)">{{ remedy.label }}</button>
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
      grid-template-columns: 46px minmax(200px, 1fr) fit-content(55%);
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
      flex-wrap: wrap;
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
    return (Object.keys(checkKinds) as CheckKind[]).flatMap((kind) => {
      const causes = new Map<string, Finding[]>();
      for (const finding of this.checks.findings() ?? []) {
        if (finding.kind !== kind) continue;
        const key = [kind, finding.node, finding.level, finding.remedies[0]?.label].join('|');
        causes.set(key, [...(causes.get(key) ?? []), finding]);
      }
      const listed = [...causes].map(([key, findings]) => ({ key, label: labelById(document, findings[0].node), findings }));
      return listed.length ? [{ kind, name: checkKinds[kind], causes: listed }] : [];
    });
  });
  /** How many places of a cause were looked at. */
  private readonly looked = signal<Readonly<Record<string, number>>>({});

  /** The finding of a cause that was shown last, at first its first. */
  protected shown({ key, findings }: Cause): Finding {
    return findings[Math.max(0, (this.looked()[key] ?? 0) - 1) % findings.length];
  }

  protected nextOf({ key, findings }: Cause): string {
    const looked = this.looked()[key] ?? 0;
    return findings.length > 1 && looked ? ` (${(looked % findings.length) + 1})` : '';
  }

  /** Flies to the next place of a cause. */
  protected fly({ key, findings }: Cause): void {
    const looked = this.looked()[key] ?? 0;
    this.looked.update((all) => ({ ...all, [key]: looked + 1 }));
    const { place } = findings[looked % findings.length];
    if (place) this.flown.emit(place);
  }

  protected mend(remedy: Remedy): void {
    this.documents.apply(remedy.label, remedied(this.documents.document(), remedy));
  }
}
