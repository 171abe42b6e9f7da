import { tableSize } from '../../space/grid.js';

/** Numbers pairs of numbers, whichever way round, in the order in which they are first asked for. */
export class PairTable {
  count = 0;
  /** The two of each pair, the smaller first. */
  ends: Uint32Array;
  private table: Int32Array;

  /** @param room pairs that it has room for before it has to grow. */
  constructor(room: number) {
    this.ends = new Uint32Array(Math.max(8, room) * 2);
    this.table = new Int32Array(tableSize(Math.max(8, room))).fill(-1);
  }

  /** The number of a pair, a new one where it was not asked for before. */
  number(a: number, b: number): number {
    const low = a < b ? a : b;
    const high = a < b ? b : a;
    const slot = this.slot(low, high);
    if (this.table[slot] >= 0) return this.table[slot];
    if (this.count * 2 === this.ends.length) {
      this.grow();
      return this.number(a, b);
    }
    this.ends[this.count * 2] = low;
    this.ends[this.count * 2 + 1] = high;
    this.table[slot] = this.count;
    return this.count++;
  }

  /** The number of a pair; −1 where it was not asked for. */
  find(a: number, b: number): number {
    return a < b ? this.table[this.slot(a, b)] : this.table[this.slot(b, a)];
  }

  private slot(low: number, high: number): number {
    const mask = this.table.length - 1;
    let slot = (Math.imul(low, 0x9e3779b1) ^ Math.imul(high, 0x85ebca6b)) >>> 0;
    for (slot = (slot ^ (slot >>> 15)) & mask; ; slot = (slot + 1) & mask) {
      const own = this.table[slot];
      if (own < 0 || (this.ends[own * 2] === low && this.ends[own * 2 + 1] === high)) return slot;
    }
  }

  private grow(): void {
    const ends = new Uint32Array(this.ends.length * 2);
    ends.set(this.ends);
    this.ends = ends;
    this.table = new Int32Array(tableSize(ends.length / 2)).fill(-1);
    for (let i = 0; i < this.count; i++) this.table[this.slot(ends[i * 2], ends[i * 2 + 1])] = i;
  }
}
