import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { differences, type FilaxisDocument } from '@filaxis/core';
import type { VersionInfo } from '@filaxis/protocol';
import { ApiService } from '../../shared/api.service';
import { grouped } from '../../shared/figures';
import { DocumentService } from '../document/document.service';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { TextField } from '../../shared/text-field';

/** Saved versions: how each looked, what was said of it, what it changed; any of them comes back as a new version. */
@Component({
  selector: 'fx-history',
  imports: [DatePipe, MatButtonModule, MatCheckboxModule, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './history-panel.html',
  styleUrl: './history-panel.scss',
})
export class HistoryPanel {
  protected readonly documents = inject(DocumentService);
  private readonly api = inject(ApiService);

  protected readonly grouped = grouped;
  protected readonly versions = signal<readonly VersionInfo[] | null>(null);
  protected readonly failed = signal<string | null>(null);
  /** The version that is looked at, and what changed since the one before it and until now. */
  protected readonly open = signal<number | null>(null);
  protected readonly changes = signal<{ version: number; document: FilaxisDocument; made: readonly string[]; since: readonly string[] } | null>(null);
  protected readonly only = signal(false);
  protected readonly shown = computed(() => {
    const all = this.versions() ?? [];
    return this.only() ? all.filter(({ note, version }) => note || version === this.documents.version()) : all;
  });

  constructor() {
    effect(() => {
      this.documents.version();
      untracked(() => void this.load());
    });
  }

  private async load(): Promise<void> {
    const id = this.documents.id();
    if (!id) return;
    try {
      this.versions.set(await this.api.versions(id));
      this.failed.set(null);
    } catch (error) {
      this.failed.set((error as Error).message);
    }
  }

  protected pictureOf(version: number): string {
    return `/api/documents/${this.documents.id()}/versions/${version}/picture`;
  }

  protected async look(version: number): Promise<void> {
    if (this.open() === version) return this.open.set(null);
    this.open.set(version);
    this.changes.set(null);
    const id = this.documents.id()!;
    try {
      const stored = (await this.api.version(id, version)).document;
      const before = version > 1 ? (await this.api.version(id, version - 1)).document : null;
      if (this.open() !== version) return;
      this.changes.set({
        version,
        document: stored,
        made: before ? differences(before, stored) : ['The first version.'],
        since: differences(stored, this.documents.document()),
      });
    } catch (error) {
      this.failed.set((error as Error).message);
    }
  }

  protected async setNote(version: number, note: string): Promise<void> {
    try {
      await this.api.setNote(this.documents.id()!, version, note);
      await this.load();
    } catch (error) {
      this.failed.set((error as Error).message);
    }
  }

  /** While the button is held the view shows the version; nothing is changed by it. */
  protected hold(event: Event, version: number, document: FilaxisDocument): void {
    if (event instanceof KeyboardEvent && (event.repeat || (event.key !== ' ' && event.key !== 'Enter'))) return;
    this.documents.lookAt(document, `Version ${version}`);
  }

  /** Puts a version back in place of what is there now; undo takes that back. */
  protected async restore(version: number): Promise<void> {
    try {
      const { document } = await this.api.version(this.documents.id()!, version);
      this.documents.apply(`Restore version ${version}`, document);
      this.open.set(null);
    } catch (error) {
      this.failed.set((error as Error).message);
    }
  }
}
