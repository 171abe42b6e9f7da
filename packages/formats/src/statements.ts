import { textOf } from './text.js';

/** Told how far reading is, 0 to 1; throws to stop it. */
export type Progress = (fraction: number) => void;

/** Bytes that are read between two words about how far it is. */
const between = 1 << 18;

const [feed, turn, space, hash, backslash] = [10, 13, 32, 35, 92];

/**
 * The words of a text that is made of statements, a line each, without what follows `#`; a backslash at its end continues a line. Lines end with LF, CR or both. Looks at each byte
 * once and keeps one line at a time, so that a file of any size takes little room.
 */
export class Statements {
  /** The line, from 1, on which the statement begins. */
  line = 0;
  private at = 0;
  private nextLine = 1;
  private told = 0;
  /** Where each word begins and ends. */
  private bounds = new Uint32Array(2 * 64);
  /** Words of the statement. */
  count = 0;

  /** `bytes`: text of which every byte below 128 is the sign itself, as UTF-8 and Latin-1 are. */
  constructor(
    private readonly bytes: Uint8Array,
    private readonly progress: Progress = () => undefined,
  ) {}

  /** Goes on to the next statement that has words; false: there is none. */
  next(): boolean {
    const { bytes } = this;
    while (this.at < bytes.length) {
      if (this.at - this.told >= between) {
        this.told = this.at;
        this.progress(this.at / bytes.length);
      }
      this.line = this.nextLine;
      this.count = 0;
      let at = this.at;
      let remark = false;
      for (;;) {
        while (at < bytes.length && bytes[at] <= space && bytes[at] !== feed && bytes[at] !== turn) at++;
        if (at >= bytes.length) break;
        const sign = bytes[at];
        if (sign === feed || sign === turn) {
          at += sign === turn && bytes[at + 1] === feed ? 2 : 1;
          this.nextLine++;
          break;
        }
        if (sign === backslash && this.endsAfter(at)) {
          at = this.endsAfter(at);
          this.nextLine++;
          continue;
        }
        const from = at;
        remark ||= sign === hash;
        while (at < bytes.length && bytes[at] > space && (remark || (bytes[at] !== hash && !(bytes[at] === backslash && this.endsAfter(at))))) at++;
        if (remark) continue;
        this.bound(from, at);
      }
      this.at = at;
      if (this.count) return true;
    }
    return false;
  }

  private bound(from: number, to: number): void {
    if (this.count * 2 === this.bounds.length) {
      const larger = new Uint32Array(this.bounds.length * 2);
      larger.set(this.bounds);
      this.bounds = larger;
    }
    this.bounds[this.count * 2] = from;
    this.bounds[this.count++ * 2 + 1] = to;
  }

  /** Behind the end of the line when only white space follows a backslash; else 0. */
  private endsAfter(backslashAt: number): number {
    const { bytes } = this;
    let at = backslashAt + 1;
    while (at < bytes.length && bytes[at] <= space && bytes[at] !== feed && bytes[at] !== turn) at++;
    if (at >= bytes.length) return at;
    if (bytes[at] !== feed && bytes[at] !== turn) return 0;
    return bytes[at] === turn && bytes[at + 1] === feed ? at + 2 : at + 1;
  }

  /** Word `k` as it is written; '' where there is none. */
  word(k: number): string {
    if (k >= this.count) return '';
    const [from, to] = [this.bounds[k * 2], this.bounds[k * 2 + 1]];
    if (to - from > 24) return textOf(this.bytes.subarray(from, to));
    let text = '';
    for (let i = from; i < to; i++) {
      if (this.bytes[i] > 127) return textOf(this.bytes.subarray(from, to));
      text += String.fromCharCode(this.bytes[i]);
    }
    return text;
  }

  /** Words from `k` on with a space between them. */
  from(k: number): string {
    return Array.from({ length: Math.max(0, this.count - k) }, (_, i) => this.word(k + i)).join(' ');
  }

  /** Whether the first word is this one. */
  is(name: string): boolean {
    const [from, to] = [this.bounds[0], this.bounds[1]];
    if (to - from !== name.length) return false;
    for (let i = 0; i < name.length; i++) if (this.bytes[from + i] !== name.charCodeAt(i)) return false;
    return true;
  }

  /** Word `k` as a number: NaN where it is none. Short decimals are put together here, which is exact; others are left to the language. */
  number(k: number): number {
    if (k >= this.count) return NaN;
    const { bytes } = this;
    let at = this.bounds[k * 2];
    const to = this.bounds[k * 2 + 1];
    const minus = bytes[at] === 45;
    if (minus) at++;
    let [digits, value, scale] = [0, 0, -1];
    for (; at < to; at++) {
      const digit = bytes[at] - 48;
      if (digit >= 0 && digit <= 9) {
        value = value * 10 + digit;
        digits++;
        if (scale >= 0) scale++;
      } else if (bytes[at] === 46 && scale < 0) scale = 0;
      else return numberOf(this.word(k));
    }
    // 15 digits and ten to the 15th are exact in 64 bits, so that one division is rounded as the number itself would be (Clinger 1990, from memory).
    if (!digits || digits > 15) return numberOf(this.word(k));
    const size = scale > 0 ? value / powers[scale] : value;
    return minus ? -size : size;
  }

  /** Whole numbers of word `k`, divided by slashes, into `out`; one that is left out is NaN. Returns how many there are. */
  wholes(k: number, out: Float64Array): number {
    const { bytes } = this;
    let at = this.bounds[k * 2];
    const to = this.bounds[k * 2 + 1];
    for (let n = 0; ; n++) {
      const begin = at;
      const minus = bytes[at] === 45;
      if (minus) at++;
      const first = at;
      let value = 0;
      while (at < to && bytes[at] >= 48 && bytes[at] <= 57) value = value * 10 + bytes[at++] - 48;
      if (n < out.length) out[n] = at === first ? NaN : minus ? -value : value;
      if (at >= to) return n + 1;
      if (bytes[at] !== 47) {
        // Something that is no whole number: said as it stands.
        if (n < out.length) out[n] = begin === first && at === first ? Infinity : NaN;
        return -1;
      }
      at++;
    }
  }
}

const powers = Array.from({ length: 16 }, (_, i) => 10 ** i);

/** A number as most programs write it: nothing else is one (`0x10`, the empty word). */
const numberOf = (word: string): number => (/^[+-]?[\d.]/.test(word) && !/[xob]/i.test(word) ? Number(word) : NaN);
