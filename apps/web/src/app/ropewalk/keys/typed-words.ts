/** How a letter is to be taken: as a command at once, once it is sure that no other follows, or as part of a word. */
export type Taken = 'now' | 'later' | 'word';

/** Letters closer together than this, ms, come from a hand that types. */
export const typingPace = 250;
/** Three letters within this, ms, are a word, however slowly they come. */
const wordPace = 1000;

/** Tells a word that is typed where no text is from letters that are commands: a word is one command at most. */
export class TypedWords {
  private row: readonly { readonly letter: string; readonly at: number }[] = [];

  /** Decides how a pressed letter is taken; `at`: the event's time, ms. Repeating one letter repeats its command. */
  press(letter: string, at: number): Taken {
    const before = this.row.at(-1);
    this.row = [...this.row.filter((each) => at - each.at < wordPace), { letter, at }];
    if (this.row.every((each) => each.letter === letter)) return 'now';
    if (this.row.length > 2) return 'word';
    return before && at - before.at < typingPace ? 'later' : 'now';
  }

  /** Hands over the letters of the word so far, and begins a new one. */
  take(): string {
    const word = this.row.map(({ letter }) => letter).join('');
    this.row = [];
    return word;
  }

  /** The next letter begins a new word. */
  forget(): void {
    this.row = [];
  }
}
