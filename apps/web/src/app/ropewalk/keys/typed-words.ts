/** How a letter is to be taken: as a command at once, once it is sure that no other follows, or as part of a word. */
export type Taken = 'now' | 'later' | 'word';

/** Letters closer together than this, ms, come from a hand that types. */
export const typingPace = 250;
/** Three letters within this, ms, are a word, however slowly they come. */
const wordPace = 1000;

/** Tells a word that is typed where no text is from letters that are commands: a word is one command at most. */
export class TypedWords {
  private row: readonly { readonly letter: string; readonly at: number }[] = [];

  /** A letter was pressed, at a time in ms as events have it. The same one again and again is a command that is repeated. */
  press(letter: string, at: number): Taken {
    const before = this.row.at(-1);
    this.row = [...this.row.filter((each) => at - each.at < wordPace), { letter, at }];
    if (this.row.every((each) => each.letter === letter)) return 'now';
    if (this.row.length > 2) return 'word';
    return before && at - before.at < typingPace ? 'later' : 'now';
  }

  /** What was typed of a word, which somebody else goes on with. */
  take(): string {
    const word = this.row.map(({ letter }) => letter).join('');
    this.row = [];
    return word;
  }

  /** What comes next does not belong to what was before. */
  forget(): void {
    this.row = [];
  }
}
