/** Cells along each side of a plane, at most: a quarter of a million are a megabyte. */
const mostAlong = 512;

/**
 * Boxes in a plane sorted into cells, as many along one side of the ground that they cover as along the other, to ask which may touch another box. Lists of cells lie one
 * after another in flat arrays.
 */
export class PlaneCells {
  private readonly along: number;
  private readonly low: readonly number[];
  private readonly high: readonly number[];
  /** Items of each cell from `starts` on; one that touches several is in each. */
  private readonly starts: Uint32Array;
  private readonly items: Uint32Array;

  /**
   * @param boxes of each item its least and its greatest corner: 4 numbers, x before y.
   * @param along cells along a side that are wanted.
   */
  constructor(boxes: Float64Array, along: number) {
    this.along = Math.max(1, Math.min(mostAlong, Math.ceil(along)));
    const [low, high] = [[Infinity, Infinity], [-Infinity, -Infinity]]; // prettier-ignore
    for (let i = 0; i < boxes.length; i += 4)
      for (const k of [0, 1]) {
        low[k] = Math.min(low[k], boxes[i + k]);
        high[k] = Math.max(high[k], boxes[i + 2 + k]);
      }
    [this.low, this.high] = [low, high];
    const starts = new Uint32Array(this.along ** 2 + 1);
    this.eachCell(boxes, (cell) => void starts[cell + 1]++);
    for (let cell = 1; cell < starts.length; cell++) starts[cell] += starts[cell - 1];
    this.items = new Uint32Array(starts[starts.length - 1]);
    const filled = starts.slice();
    this.eachCell(boxes, (cell, item) => void (this.items[filled[cell]++] = item));
    this.starts = starts;
  }

  /**
   * Visits the items in the cells that a box touches, and in so many more to all sides: all that touch it are among them, those of several cells more than once. What lies
   * beside all cells belongs to the outermost. Ends with true as soon as `visit` gives true.
   */
  near(x0: number, y0: number, x1: number, y1: number, visit: (item: number) => boolean | void, more = 0): boolean {
    const { along, starts, items } = this;
    const [i0, i1] = [Math.max(0, this.cellOf(x0, 0) - more), Math.min(along - 1, this.cellOf(x1, 0) + more)];
    const [j0, j1] = [Math.max(0, this.cellOf(y0, 1) - more), Math.min(along - 1, this.cellOf(y1, 1) + more)];
    for (let j = j0; j <= j1; j++)
      for (let i = i0; i <= i1; i++) {
        const cell = j * along + i;
        for (let at = starts[cell]; at < starts[cell + 1]; at++) if (visit(items[at])) return true;
      }
    return false;
  }

  private cellOf(value: number, k: 0 | 1): number {
    const extent = this.high[k] - this.low[k];
    return extent > 0 ? Math.min(this.along - 1, Math.max(0, Math.floor(((value - this.low[k]) / extent) * this.along))) : 0;
  }

  private eachCell(boxes: Float64Array, visit: (cell: number, item: number) => void): void {
    for (let item = 0, o = 0; o < boxes.length; item++, o += 4) {
      const [i1, j1] = [this.cellOf(boxes[o + 2], 0), this.cellOf(boxes[o + 3], 1)];
      for (let j = this.cellOf(boxes[o + 1], 1); j <= j1; j++) for (let i = this.cellOf(boxes[o], 0); i <= i1; i++) visit(j * this.along + i, item);
    }
  }
}
