import type { Out } from './writeOptions.js';

/** Bytes that are gathered before they are handed on: a whole large file is longer than a string may be. */
const pieceBytes = 1 << 20;

const powers = Array.from({ length: 23 }, (_, i) => 10 ** i);
const base64Signs = Uint8Array.from('ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/', (sign) => sign.charCodeAt(0));
const [zero, point, minus, feed, equals] = [48, 46, 45, 10, 61];

/** Up to 9 significant digits: enough for a 32-bit number to come back as it was. */
export const numberText = (value: number): string => String(Number(value.toPrecision(9)));

/** Writes a text file as UTF-8, a piece at a time. `end` writes what still waits. */
export class TextSink {
  private readonly encoder = new TextEncoder();
  private bytes = new Uint8Array(pieceBytes);
  private at = 0;

  constructor(private readonly out: Out) {}

  /** Text as it is, without an end of line. */
  text(text: string): void {
    if (text.length > 64) {
      for (let from = 0; from < text.length;) {
        // A piece at a time, since a sign takes up to three bytes.
        this.room(pieceBytes / 4);
        const { read, written } = this.encoder.encodeInto(text.slice(from, from + pieceBytes / 16), this.bytes.subarray(this.at));
        from += read;
        this.at += written;
      }
      return;
    }
    this.room(text.length * 3);
    for (let i = 0; i < text.length; i++) {
      const sign = text.charCodeAt(i);
      if (sign > 127) {
        this.at += this.encoder.encodeInto(text.slice(i), this.bytes.subarray(this.at)).written;
        return;
      }
      this.bytes[this.at++] = sign;
    }
  }

  line(text: string): void {
    this.text(text);
    this.endLine();
  }

  all(lines: Iterable<string>): void {
    for (const line of lines) this.line(line);
  }

  endLine(): void {
    this.sign(feed);
  }

  /** A sign below 128. */
  sign(code: number): void {
    this.room(1);
    this.bytes[this.at++] = code;
  }

  /** A whole number from 0 on. */
  whole(value: number): void {
    this.room(20);
    let digits = 1;
    while (digits < 16 && value >= powers[digits]) digits++;
    this.digits(value, digits);
  }

  /** A number with as many digits, 7 to 9, as it takes for 32 bits to come back; the same number as `numberText` gives, or a shorter one for the same 32 bits. */
  number(value: number): void {
    this.room(32);
    const size = Math.abs(value);
    if (!(size >= 1e-5 && size < 1e9)) return value === 0 ? this.sign(zero) : this.text(numberText(value));
    if (value < 0) this.bytes[this.at++] = minus;
    /** Digits before the point; 0 or less: noughts behind it. */
    let before = 0;
    if (size >= 1) while (size >= powers[before]) before++;
    else while (size * powers[1 - before] < 1) before--;
    for (let digits = Math.max(7, before); ; digits++) {
      const places = digits - before;
      const scaled = Math.round(size * powers[places]);
      if (digits < 9 && Math.fround(scaled / powers[places]) !== size) continue;
      this.decimal(scaled, places);
      return;
    }
  }

  /** `scaled` divided by ten to the `places`, without noughts at its end. */
  private decimal(scaled: number, places: number): void {
    const whole = Math.floor(scaled / powers[places]);
    let rest = scaled - whole * powers[places];
    this.whole(whole);
    if (!rest) return;
    while (rest % 10 === 0) {
      rest /= 10;
      places--;
    }
    this.bytes[this.at++] = point;
    this.digits(rest, places);
  }

  private digits(value: number, count: number): void {
    for (let i = this.at + count - 1; i >= this.at; i--) {
      const tenth = Math.floor(value / 10);
      this.bytes[i] = zero + (value - tenth * 10);
      value = tenth;
    }
    this.at += count;
  }

  /** Numbers of a row with a sign between them. */
  numbers(data: ArrayLike<number>, from: number, count: number, between: number): void {
    for (let k = 0; k < count; k++) {
      if (k) this.sign(between);
      this.number(data[from + k]);
    }
  }

  /** Bytes as base64 (RFC 4648). */
  base64(bytes: Uint8Array): void {
    for (let i = 0; i < bytes.length; i += 3) {
      this.room(4);
      const [a, b, c] = [bytes[i], i + 1 < bytes.length ? bytes[i + 1] : 0, i + 2 < bytes.length ? bytes[i + 2] : 0];
      this.bytes[this.at++] = base64Signs[a >> 2];
      this.bytes[this.at++] = base64Signs[((a & 3) << 4) | (b >> 4)];
      this.bytes[this.at++] = i + 1 < bytes.length ? base64Signs[((b & 15) << 2) | (c >> 6)] : equals;
      this.bytes[this.at++] = i + 2 < bytes.length ? base64Signs[c & 63] : equals;
    }
  }

  /** Makes room for so many bytes. */
  private room(bytes: number): void {
    if (this.at + bytes > pieceBytes) this.end();
  }

  end(): void {
    if (!this.at) return;
    // What is handed on stays as it is.
    this.out(this.bytes.slice(0, this.at));
    this.at = 0;
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
