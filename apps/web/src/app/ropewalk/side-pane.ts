import { ChangeDetectionStrategy, Component, computed, inject, input, model, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatTabsModule } from '@angular/material/tabs';
import { kindLabelOf, labelOf, type NodeDefinition } from '@filaxis/core';
import { GuardedPanel, PanelGuard } from '../shared/panel-guard';
import { dialFromSetting } from './document/dials';
import { DocumentService } from './document/document.service';
import { DialsPanel } from './settings/dials-panel';
import type { Recipe } from './recipes/recipes';
import { NodeHelp } from './settings/node-help';
import { NodeMessages } from './settings/node-messages';
import { settingType } from './settings/setting-field';
import { SettingsPanel } from './settings/settings-panel';

export type SideTab = 'settings' | 'dials' | 'help';

/** What is said of the chosen node and of the whole: settings, dials, help, one at a time. */
@Component({
  selector: 'fx-side-pane',
  imports: [DialsPanel, GuardedPanel, MatButtonModule, MatTabsModule, NodeHelp, NodeMessages, PanelGuard, SettingsPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './side-pane.html',
  styleUrl: './side-pane.scss',
  host: { role: 'region', 'aria-label': 'Settings and dials' },
})
export class SidePane {
  protected readonly documents = inject(DocumentService);
  readonly panel = model.required<SideTab>();
  readonly showNode = output<string>();
  readonly chooseFile = output<string>();
  readonly example = output<NodeDefinition>();
  readonly refused = output<string>();
  /** A recipe is to be put in. */
  readonly recipe = output<Recipe>();
  /** It fills the window. */
  readonly full = input(false);
  readonly filled = output();
  protected readonly markedDial = signal<string | null>(null);

  protected readonly heading = computed(() => {
    const node = this.documents.chosen();
    if (!node) return this.documents.selection().size ? { name: `${this.documents.selection().size} nodes`, text: '' } : { name: 'Nothing chosen', text: '' };
    const document = this.documents.document();
    const summary = this.documents.chosenDefinition()?.summary ?? '';
    return { name: labelOf(document, node), text: node.name === undefined ? summary : `${kindLabelOf(document, node)}: ${summary}` };
  });

  protected showDial(id: string): void {
    this.markedDial.set(id);
    this.panel.set('dials');
  }

  /** A setting's label was dropped on the dials. */
  protected dropSetting(event: DragEvent): void {
    const text = event.dataTransfer?.getData(settingType);
    if (!text) return;
    event.preventDefault();
    const { node, setting } = JSON.parse(text) as { node: string; setting: string };
    const made = dialFromSetting(this.documents.document(), node, setting);
    if (!made) return this.refused.emit('This setting cannot be a dial.');
    this.documents.apply('Make a dial', made.document);
    this.showDial(made.id);
  }

  protected overDials(event: DragEvent): void {
    if (!event.dataTransfer?.types.includes(settingType)) return;
    event.preventDefault();
    event.dataTransfer.dropEffect = 'link';
  }
}
