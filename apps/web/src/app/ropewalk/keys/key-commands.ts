import { isField } from '../../shared/typing';
import { actionFor, lettersAreFor, type Action } from '../actions';
import { TypedWords, typingPace } from './typed-words';

/** Keys as commands: which action a key asks for, and when letters are a word instead. */
export class KeyCommands {
  private readonly words = new TypedWords();
  /** The action of a second letter, which waits until it is sure that no third follows. */
  private waiting: { readonly action: Action; readonly timer: ReturnType<typeof setTimeout> } | null = null;

  /** `run` carries out an action; `search` opens the search with what was typed. */
  constructor(
    private readonly run: (action: Action) => void,
    private readonly search: (text: string) => void,
  ) {}

  press(event: KeyboardEvent, actions: readonly Action[]): void {
    const action = actionFor(event, actions);
    const letter = letterOf(event);
    if (letter && !event.repeat) return this.pressLetter(event, letter, action);
    if (!letter && !modifiers.has(event.key)) {
      this.words.forget();
      this.finish();
    }
    if (!action) return;
    event.preventDefault();
    this.run(action);
  }

  /** Keys were let go: what lasts only while its key is held needs not begin any more. */
  letGo(): void {
    if (this.waiting?.action.held) this.drop();
  }

  private pressLetter(event: KeyboardEvent, letter: string, action: Action | null): void {
    const taken = this.words.press(letter, event.timeStamp);
    if (action || taken === 'word') event.preventDefault();
    if (taken === 'word') {
      this.drop();
      return this.search(this.words.take());
    }
    if (!action) return;
    if (taken === 'later') this.waiting = { action, timer: setTimeout(() => this.finish(), typingPace) };
    else {
      this.run(action);
      // The box that it opened has the letters that follow.
      if (isField(document.activeElement)) this.words.forget();
    }
  }

  /** What waited is carried out. */
  private finish(): void {
    const action = this.waiting?.action;
    this.drop();
    if (action) this.run(action);
  }

  private drop(): void {
    clearTimeout(this.waiting?.timer);
    this.waiting = null;
  }
}

/** Keys that mean nothing by themselves. */
export const modifiers: ReadonlySet<string> = new Set(['Shift', 'Control', 'Alt', 'Meta', 'CapsLock']);

/** The letter that was pressed where letters are commands; null: another key, or elsewhere. */
export function letterOf(event: KeyboardEvent): string | null {
  if (event.ctrlKey || event.metaKey || event.altKey || !/^\p{L}$/u.test(event.key)) return null;
  return !isField(event.target) && lettersAreFor(event.target) ? event.key : null;
}
