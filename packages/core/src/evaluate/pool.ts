import type { Memory } from '../base/work.js';

/** Smaller arrays are made faster than they are found again. */
const smallest = 65_536;

/** How many times as large as asked an array's memory may be: what grows and shrinks with time finds what it had before. */
const roomiest = 2;

/**
 * Memory that is used again. A large array that nobody had before costs several times what it costs to write (the system hands it out in pages, and
 * clears each), and every change of a dial makes such arrays anew.
 *
 * Nothing comes back by itself: `reclaim` is told what is still in use, and takes back all the rest that was given out. Arrays that the engine
 * collected meanwhile are gone, so an owner that never reclaims loses nothing.
 */
export class Pool implements Memory {
  /** What lies free, the longest at the front. */
  private readonly free: ArrayBuffer[] = [];
  private given: WeakRef<ArrayBuffer>[] = [];
  private bytes = 0;

  /** @param limit bytes that lie free at most; what has lain longest goes first, so that sizes nobody asks for any more do not keep others out. */
  constructor(private readonly limit = 512 * 1024 ** 2) {}

  /** Bytes that lie free. */
  get freeBytes(): number {
    return this.bytes;
  }

  float32(length: number): Float32Array {
    return length * 4 < smallest ? new Float32Array(length) : new Float32Array(this.take(length * 4), 0, length);
  }

  float64(length: number): Float64Array {
    return length * 8 < smallest ? new Float64Array(length) : new Float64Array(this.take(length * 8), 0, length);
  }

  uint32(length: number): Uint32Array {
    return length * 4 < smallest ? new Uint32Array(length) : new Uint32Array(this.take(length * 4), 0, length);
  }

  private take(bytes: number): ArrayBuffer {
    const size = roomFor(bytes);
    const at = this.find(size);
    const buffer = at < 0 ? new ArrayBuffer(size) : this.free.splice(at, 1)[0];
    if (at >= 0) this.bytes -= buffer.byteLength;
    this.given.push(new WeakRef(buffer));
    return buffer;
  }

  /** Which of those that lie free is the tightest for a size, the newest of several; one of more than twice the size is left for others. */
  private find(size: number): number {
    let [at, least] = [-1, size * roomiest + 1];
    for (let i = this.free.length - 1; i >= 0 && least > size; i--) {
      const { byteLength } = this.free[i];
      if (byteLength >= size && byteLength < least) [at, least] = [i, byteLength];
    }
    return at;
  }

  /** Takes back every array given out whose buffer is not in `used`. Whoever still reads one of them will read something else. */
  reclaim(used: ReadonlySet<ArrayBufferLike>): void {
    const kept: WeakRef<ArrayBuffer>[] = [];
    for (const reference of this.given) {
      const buffer = reference.deref();
      // One that was handed over to somebody has no bytes any more.
      if (!buffer?.byteLength) continue;
      if (used.has(buffer)) kept.push(reference);
      else this.lay(buffer);
    }
    this.given = kept;
  }

  /** Takes buffers that were handed over to somebody and came back. Those of other sizes than are given out here are let go. */
  receive(buffers: readonly ArrayBuffer[]): void {
    for (const buffer of buffers) if (buffer.byteLength >= smallest && buffer.byteLength === roomFor(buffer.byteLength)) this.lay(buffer);
  }

  private lay(buffer: ArrayBuffer): void {
    this.free.push(buffer);
    this.bytes += buffer.byteLength;
    while (this.bytes > this.limit) this.bytes -= this.free.shift()!.byteLength;
  }
}

/** Bytes of a buffer for so many: the next of eight sizes between one power of two and the next, so that results of nearly the same size share. */
function roomFor(bytes: number): number {
  const step = 2 ** Math.max(13, Math.floor(Math.log2(bytes)) - 3);
  return Math.ceil(bytes / step) * step;
}
