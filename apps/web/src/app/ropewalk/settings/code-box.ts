import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { forceLinting } from '@codemirror/lint';
import { EditorState, RangeSetBuilder, type Extension } from '@codemirror/state';
import { Decoration, EditorView, keymap, ViewPlugin, type DecorationSet, type ViewUpdate } from '@codemirror/view';
import { afterNextRender, DestroyRef, effect, inject, signal, untracked, type ElementRef } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Subject, switchMap } from 'rxjs';
import { onceTyped } from '../../shared/once-typed';

export interface CodeBoxOptions {
  readonly parent: () => ElementRef<HTMLElement>;
  /** The text as the document has it. */
  readonly given: () => string;
  readonly label: () => string;
  /** What the language brings, in front of what every box has; `keep` is for keys that end writing. */
  readonly extensions: (keep: (view: EditorView) => boolean) => Extension;
  /** What is wrong with a text depends on this besides. */
  readonly beside: () => unknown;
  readonly isRight: (text: string) => boolean;
  readonly scrubbed: (text: string) => void;
  readonly committed: (text: string) => void;
}

/** The box in which the text of a setting is written: it follows the document from outside, and is made where a component is. */
export class CodeBox {
  /** The text as it stands in the box. */
  readonly text = signal('');
  /** What was typed last and is not kept yet; null: nothing. */
  private readonly unkept = new Subject<string | null>();
  private view: EditorView | null = null;
  /** The text that was kept last: what is the same is no change. */
  private kept = '';

  constructor(private readonly options: CodeBoxOptions) {
    const destroy = inject(DestroyRef);
    afterNextRender(() => {
      this.text.set(options.given());
      this.kept = options.given();
      this.view = new EditorView({ parent: options.parent().nativeElement, state: this.start() });
      destroy.onDestroy(() => this.view?.destroy());
    });
    // What is right so far is shown once the hand rests; what is wrong waits until it is kept.
    this.unkept.pipe(switchMap(onceTyped), takeUntilDestroyed(destroy)).subscribe((text) => text !== null && options.isRight(text) && options.scrubbed(text));
    // Undo and other tabs change it from outside.
    effect(() => {
      const text = options.given();
      untracked(() => this.follow(text));
    });
    effect(() => {
      options.beside();
      if (this.view) forceLinting(this.view);
    });
  }

  private follow(text: string): void {
    const { view } = this;
    // What comes while one types is what one typed a moment ago.
    if (!view || view.hasFocus || text === view.state.doc.toString()) return;
    this.kept = text;
    view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: text } });
  }

  private start(): EditorState {
    const { given, label, extensions } = this.options;
    return EditorState.create({
      doc: given(),
      extensions: [
        extensions((view) => this.keep(view)),
        history(),
        keymap.of([...historyKeymap, ...defaultKeymap]),
        EditorView.lineWrapping,
        EditorView.contentAttributes.of({ 'aria-label': label(), spellcheck: 'false' }),
        EditorView.updateListener.of((update) => {
          if (update.docChanged) this.typed(update.state.doc.toString(), update.view.hasFocus);
          if (update.focusChanged && !update.view.hasFocus) this.keep(update.view);
        }),
      ],
    });
  }

  private typed(text: string, byHand: boolean): void {
    this.text.set(text);
    if (byHand) this.unkept.next(text);
  }

  private keep(view: EditorView): boolean {
    const text = view.state.doc.toString();
    this.unkept.next(null);
    if (text !== this.kept) this.options.committed(text);
    this.kept = text;
    return true;
  }

  /** Puts a text where the caret is. */
  insert(text: string): void {
    this.view?.focus();
    this.view?.dispatch(this.view.state.replaceSelection(text));
  }
}

/** A part of a text, and the class that it is drawn with. */
export interface Coloured {
  readonly from: number;
  readonly to: number;
  readonly name: string;
}

/** Colours a text by its parts, in their order. */
export function colouredBy(partsOf: (text: string) => Iterable<Coloured>): Extension {
  const decorate = (view: EditorView): DecorationSet => {
    const builder = new RangeSetBuilder<Decoration>();
    for (const { from, to, name } of partsOf(view.state.doc.toString())) builder.add(from, to, Decoration.mark({ class: name }));
    return builder.finish();
  };
  return ViewPlugin.fromClass(
    class {
      decorations: DecorationSet;
      constructor(view: EditorView) {
        this.decorations = decorate(view);
      }
      update(update: ViewUpdate): void {
        if (update.docChanged) this.decorations = decorate(update.view);
      }
    },
    { decorations: (plugin) => plugin.decorations },
  );
}
