/** Characters that are gathered before they are encoded: a whole large file is longer than a string may be. */
const chunk = 1 << 20;

/** Gathers the lines of a text file as UTF-8. */
export class TextSink {
  private readonly parts: Uint8Array[] = [];
  private readonly encoder = new TextEncoder();
  private waiting: string[] = [];
  private size = 0;
  /** Lines written so far. */
  lines = 0;

  line(text: string): void {
    this.lines++;
    this.waiting.push(text);
    this.size += text.length + 1;
    if (this.size >= chunk) this.encode();
  }

  all(lines: Iterable<string>): void {
    for (const line of lines) this.line(line);
  }

  private encode(): void {
    if (!this.waiting.length) return;
    this.parts.push(this.encoder.encode(`${this.waiting.join('\n')}\n`));
    this.waiting = [];
    this.size = 0;
  }

  /** The whole file. */
  bytes(): Uint8Array {
    this.encode();
    const whole = new Uint8Array(this.parts.reduce((sum, part) => sum + part.length, 0));
    let at = 0;
    for (const part of this.parts) {
      whole.set(part, at);
      at += part.length;
    }
    return whole;
  }
}
