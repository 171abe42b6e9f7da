/** Numbers whose count is not known beforehand, without the room that lists of objects take. */
abstract class Growing<T extends Float64Array<ArrayBuffer> | Uint32Array<ArrayBuffer>> {
  length = 0;
  protected abstract room: T;

  protected abstract larger(capacity: number): T;

  push(value: number): number {
    if (this.length === this.room.length) {
      const larger = this.larger(this.length * 2);
      larger.set(this.room);
      this.room = larger;
    }
    this.room[this.length] = value;
    return this.length++;
  }

  at(i: number): number {
    return this.room[i];
  }

  set(i: number, value: number): void {
    this.room[i] = value;
  }

  /** The numbers so far, without a copy. */
  get data(): T {
    return this.room.subarray(0, this.length) as T;
  }
}

export class GrowingFloats extends Growing<Float64Array<ArrayBuffer>> {
  protected room = new Float64Array(1024);
  protected larger(capacity: number): Float64Array<ArrayBuffer> {
    return new Float64Array(capacity);
  }
}

export class GrowingIndices extends Growing<Uint32Array<ArrayBuffer>> {
  protected room = new Uint32Array(1024);
  protected larger(capacity: number): Uint32Array<ArrayBuffer> {
    return new Uint32Array(capacity);
  }
}
