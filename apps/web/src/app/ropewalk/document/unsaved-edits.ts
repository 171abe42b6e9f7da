import type { FilaxisDocument } from '@filaxis/core';
import { newKey } from '../../shared/keys';

/** Edits of one tab that the server does not have yet, as they are kept in the browser. */
export interface UnsavedEdits {
  readonly tab: string;
  /** ISO 8601. */
  readonly at: string;
  readonly baseVersion: number;
  readonly document: FilaxisDocument;
  /** The key of a save whose answer did not come. */
  readonly asked: string | null;
}

const prefix = (id: string): string => `filaxis.unsaved.${id}`;

/** Keeps unsaved edits in the browser, each tab its own, so that none erases another's. */
export class UnsavedStore {
  private tab = this.tabName();

  /** Another tab has the same name: it is a copy of this one. */
  rename(): void {
    this.tab = newKey();
    sessionStorage.setItem('filaxis.tab', this.tab);
  }

  get name(): string {
    return this.tab;
  }

  /** Returns whether there was room. */
  keep(id: string, edits: Omit<UnsavedEdits, 'tab' | 'at'>): boolean {
    try {
      const all: UnsavedEdits = { ...edits, tab: this.tab, at: new Date().toISOString() };
      localStorage.setItem(`${prefix(id)}.${this.tab}`, JSON.stringify(all));
      return true;
    } catch {
      return false;
    }
  }

  forget(id: string, tab = this.tab): void {
    localStorage.removeItem(`${prefix(id)}.${tab}`);
  }

  own(id: string): UnsavedEdits | null {
    return this.all(id).find(({ tab }) => tab === this.tab) ?? null;
  }

  /** Those of other tabs, the newest first. */
  others(id: string): UnsavedEdits[] {
    return this.all(id).filter(({ tab }) => tab !== this.tab);
  }

  private all(id: string): UnsavedEdits[] {
    const found: UnsavedEdits[] = [];
    for (let i = 0; i < localStorage.length; i++) {
      const key = localStorage.key(i)!;
      if (!key.startsWith(`${prefix(id)}.`)) continue;
      try {
        const edits = JSON.parse(localStorage.getItem(key) ?? '') as UnsavedEdits;
        if (Array.isArray(edits.document.nodes)) found.push({ ...edits, tab: key.slice(prefix(id).length + 1) });
      } catch {
        // What is no record of ours is left alone.
      }
    }
    return found.sort((a, b) => (a.at < b.at ? 1 : -1));
  }

  private tabName(): string {
    const known = sessionStorage.getItem('filaxis.tab');
    if (known) return known;
    const made = newKey();
    sessionStorage.setItem('filaxis.tab', made);
    return made;
  }
}
