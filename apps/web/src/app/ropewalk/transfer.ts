import { inject, Injectable } from '@angular/core';
import { definitionById } from '@filaxis/core';
import { Notices } from '../shared/notices';
import { isField } from '../shared/typing';
import { DocumentService } from './document/document.service';
import { EditingService } from './document/editing.service';
import { GraphCommands } from './graph/graph-commands';

/** What goes out and comes in by the clipboard, and files that come in. */
@Injectable()
export class Transfer {
  private readonly documents = inject(DocumentService);
  private readonly editing = inject(EditingService);
  private readonly graph = inject(GraphCommands);
  private readonly notices = inject(Notices);

  copy(event: ClipboardEvent, remove = false): void {
    if (!this.documents.selection().size || isField(event.target) || getSelection()?.toString()) return;
    event.preventDefault();
    event.clipboardData?.setData('text/plain', this.editing.chosenAsText());
    if (remove) this.editing.removeChosen();
  }

  paste(event: ClipboardEvent): void {
    if (isField(event.target)) return;
    if (this.putIn(event.clipboardData?.getData('text/plain') ?? '')) event.preventDefault();
  }

  /** Pastes without the event of a key. `open`: without the wires to what was not copied. */
  async pasteHere(open: boolean): Promise<void> {
    const text = await navigator.clipboard.readText().catch(() => '');
    if (!this.putIn(text, open)) this.notices.say('There are no nodes in the clipboard.');
  }

  /** Has a file chosen for a node. */
  browse(node: string): void {
    const asset = definitionById(this.documents.document(), node)?.settings['asset'];
    const endings = [...(asset?.kind === 'asset' ? asset.endings : []), '.bin'];
    const picker = Object.assign(document.createElement('input'), { type: 'file', accept: endings.join(','), multiple: true });
    picker.onchange = () => void this.importFiles([...(picker.files ?? [])], { x: 0, y: 0 }, node);
    picker.click();
  }

  /** Files for a node, or for new nodes at a place of the graph. */
  async importFiles(files: readonly File[], at: { x: number; y: number }, node: string | null): Promise<void> {
    await this.editing.importFiles(files, at, node).catch((error: Error) => this.notices.say(error.message));
  }

  /** Puts in what was copied: at the pointer where it is in the graph, else beside what it was copied from. */
  private putIn(text: string, open = false): boolean {
    const view = this.graph.view();
    const at = view?.pointer;
    if (!this.editing.putIn('Paste', text, { ...(at && { at }), open })) return false;
    view?.reveal(...this.documents.selection());
    return true;
  }
}
