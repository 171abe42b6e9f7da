import type { FilaxisDocument } from '@filaxis/core';

interface Step {
  readonly label: string;
  readonly before: FilaxisDocument;
  readonly after: FilaxisDocument;
}

/** Most steps that can be undone. */
const depth = 500;

/** Undo and redo, as a value: every change makes a new history. */
export class History {
  private constructor(
    private readonly past: readonly Step[],
    private readonly future: readonly Step[],
  ) {}

  static readonly empty = new History([], []);

  done(label: string, before: FilaxisDocument, after: FilaxisDocument): History {
    return new History([...this.past.slice(1 - depth), { label, before, after }], []);
  }

  undo(): { history: History; document: FilaxisDocument } | null {
    const step = this.past[this.past.length - 1];
    return step ? { history: new History(this.past.slice(0, -1), [step, ...this.future]), document: step.before } : null;
  }

  redo(): { history: History; document: FilaxisDocument } | null {
    const [step, ...rest] = this.future;
    return step ? { history: new History([...this.past, step], rest), document: step.after } : null;
  }

  /** Name of the change that undo would take back. */
  get undoLabel(): string | null {
    return this.past[this.past.length - 1]?.label ?? null;
  }

  get redoLabel(): string | null {
    return this.future[0]?.label ?? null;
  }
}
