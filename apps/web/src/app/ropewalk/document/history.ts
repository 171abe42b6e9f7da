import type { FilaxisDocument } from '@filaxis/core';
import { applyChange, reversed, type Change } from './change';

/** Most changes that can be undone. */
const depth = 500;

/** Undo and redo, as a value: every change makes a new history. */
export class History {
  private constructor(
    private readonly past: readonly Change[],
    private readonly future: readonly Change[],
  ) {}

  static readonly empty = new History([], []);

  done(change: Change): History {
    return new History([...this.past.slice(1 - depth), change], []);
  }

  /** Takes the last change of a document back; null: there is none. */
  undo(document: FilaxisDocument): { history: History; document: FilaxisDocument } | null {
    const change = this.past.at(-1);
    return change ? { history: new History(this.past.slice(0, -1), [change, ...this.future]), document: applyChange(document, reversed(change)) } : null;
  }

  /** Does the change again that was taken back last. */
  redo(document: FilaxisDocument): { history: History; document: FilaxisDocument } | null {
    const [change, ...rest] = this.future;
    return change ? { history: new History([...this.past, change], rest), document: applyChange(document, change) } : null;
  }

  /** Name of the change that undo would take back. */
  get undoLabel(): string | null {
    return this.past.at(-1)?.label ?? null;
  }

  get redoLabel(): string | null {
    return this.future[0]?.label ?? null;
  }
}
