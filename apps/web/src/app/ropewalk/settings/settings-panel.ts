import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { applies, labelById, settingsOf, type Setting } from '@filaxis/core';
import { DocumentService } from '../document/document.service';
import { dialFromSetting } from '../document/dials';
import { asKind, type DrawnCurves } from '../document/drawn';
import { setSetting } from '../document/edits';
import { Notices } from '../../shared/notices';
import { EvaluationService } from '../evaluation.service';
import { InputsPanel } from './inputs-panel';
import { SettingField } from './setting-field';

interface Field {
  readonly key: string;
  readonly name: string;
  readonly setting: Setting;
}

/** Settings of the chosen node, with what is wrong or worth knowing about it. */
@Component({
  selector: 'fx-settings',
  imports: [InputsPanel, SettingField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (documents.chosen(); as node) {
      @if (definition(); as d) {
        <div class="fields">
          @for (field of fields(); track field.key) {
            <fx-setting
              [attr.data-setting]="field.name"
              [node]="node"
              [name]="field.name"
              [setting]="field.setting"
              [fault]="state()?.error?.setting === field.name ? state()!.error!.message : null"
              (scrubbed)="scrub(node.id, field.name, $event)"
              (committed)="commit(node.id, field, $event)"
              (makeDialOf)="makeDial(node.id, field.name, $event)"
              (showDial)="showDial.emit($event)"
              (showNode)="showNode.emit($event)"
              (chooseFile)="chooseFile.emit(node.id)"
            />
          }
        </div>
        <fx-inputs (showNode)="showNode.emit($event)" />
        @if (!fields().length) {
          <p class="slate">This node has nothing to set.</p>
        }
      } @else {
        <p class="notice bad">This Filaxis has no node “{{ node.type }}”. Its settings are kept as they are.</p>
      }
    } @else if (documents.selection().size > 1) {
      <p class="slate">{{ documents.selection().size }} nodes are chosen. Drag moves them, Delete removes them, Ctrl C copies them.</p>
    } @else {
      <p class="slate">Choose a node to see its settings. <kbd>N</kbd> adds one, <kbd>Ctrl K</kbd> finds every action.</p>
    }
  `,
  styles: `
    :host {
      display: block;
      padding: 10px 14px 16px;
      container-type: inline-size;
    }
    .fields {
      display: grid;
      grid-template-columns: minmax(0, 1fr);
      gap: 6px 20px;
      align-items: start;
    }
    @container (min-width: 470px) {
      .fields {
        grid-template-columns: repeat(2, minmax(0, 1fr));
      }
    }
    .notice {
      margin-bottom: 8px;
      padding: 5px 9px;
      border-left: 3px solid var(--weld);
      background: color-mix(in srgb, var(--weld) 12%, transparent);
      font-size: 13px;
    }
    .notice.bad {
      border-color: var(--madder);
      background: color-mix(in srgb, var(--madder) 10%, transparent);
    }
  `,
})
export class SettingsPanel {
  protected readonly documents = inject(DocumentService);
  private readonly evaluation = inject(EvaluationService);
  private readonly notices = inject(Notices);
  readonly showDial = output<string>();
  readonly showNode = output<string>();
  readonly chooseFile = output<string>();

  protected readonly definition = this.documents.chosenDefinition;
  protected readonly state = computed(() => this.evaluation.nodes()[this.documents.chosen()?.id ?? ''] ?? null);
  protected readonly fields = computed<Field[]>(() => {
    const node = this.documents.chosen();
    const settings = this.definition()?.settings ?? {};
    const value = (name: string): unknown => node?.settings?.[name] ?? settings[name]?.default;
    return Object.entries(settings)
      .filter(([, setting]) => applies(setting, value))
      .map(([name, setting]) => ({ key: `${node?.id} ${name}`, name, setting }));
  });
  protected scrub(id: string, name: string, value: unknown): void {
    this.documents.show(setSetting(this.documents.document(), id, name, value));
  }

  protected commit(id: string, { name, setting }: Field, value: unknown): void {
    const [document, node] = [this.documents.settledDocument(), this.documents.chosen()];
    const to = value ?? setting.default;
    // Where it follows a dial nobody knows which kind it will be.
    if (this.definition()?.role === 'drawing' && name === 'kind' && node && typeof to === 'string') {
      const { curves: drawn, kind } = settingsOf(document, { ...node, settings: document.nodes.find((each) => each.id === id)?.settings });
      const { curves, says } = asKind((drawn ?? []) as DrawnCurves, String(kind), to);
      this.documents.apply('Kind of curve', setSetting(setSetting(document, id, 'curves', curves), id, 'kind', value));
      if (says) this.notices.say(says);
      return;
    }
    this.documents.apply(
      `${labelById(this.documents.document(), id)}: ${setting.label.toLowerCase()}`,
      setSetting(this.documents.settledDocument(), id, name, value),
    );
  }

  makeDial(id: string, name: string, part: number | null): void {
    const made = dialFromSetting(this.documents.document(), id, name, part);
    if (!made) return;
    this.documents.apply('Make a dial', made.document);
    this.showDial.emit(made.id);
  }
}
