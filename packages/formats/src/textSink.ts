import type { Out } from './writeOptions.js';

/** Characters that are gathered before they are encoded: a whole large file is longer than a string may be. */
const chunk = 1 << 20;

/** Writes a text file as UTF-8, a piece at a time. `end` writes what still waits. */
export class TextSink {
  private readonly encoder = new TextEncoder();
  private waiting: string[] = [];
  private size = 0;
  /** Lines written so far. */
  lines = 0;

  constructor(private readonly out: Out) {}

  /** Text as it is, without an end of line. */
  text(text: string): void {
    this.waiting.push(text);
    this.size += text.length;
    if (this.size >= chunk) this.end();
  }

  line(text: string): void {
    this.lines++;
    this.text(`${text}\n`);
  }

  all(lines: Iterable<string>): void {
    for (const line of lines) this.line(line);
  }

  /** Items with a comma and a space between them. */
  list(count: number, item: (i: number) => string): void {
    for (let from = 0; from < count; from += 4096) {
      const parts: string[] = [];
      for (let i = from; i < Math.min(count, from + 4096); i++) parts.push(item(i));
      this.text((from ? ', ' : '') + parts.join(', '));
    }
  }

  end(): void {
    if (this.waiting.length) this.out(this.encoder.encode(this.waiting.join('')));
    this.waiting = [];
    this.size = 0;
  }
}

/** All pieces that are written, as one. */
export function gatherPieces(): { readonly out: Out; bytes(): Uint8Array } {
  const pieces: Uint8Array[] = [];
  return {
    out: (bytes) => void pieces.push(bytes),
    bytes: () => {
      if (pieces.length === 1) return pieces[0];
      const whole = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
      let at = 0;
      for (const piece of pieces) {
        whole.set(piece, at);
        at += piece.length;
      }
      return whole;
    },
  };
}
