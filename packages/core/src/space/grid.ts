/** How many times the distance asked for a cell is wide: most places then have all neighbours in their own. */
const roomy = 4;

/** Cells begin this share of a cell beside round numbers, on which places of real things like to lie: else many would lie on borders, with neighbours in several cells. */
const aside = 0.37;

/**
 * The size of cells in which neighbours nearer than `distance` are looked for: a few times that distance, and no so small a part of how far the places lie from the
 * origin that cells could not be counted by ones.
 */
export function cellSize(positions: ArrayLike<number>, distance: number): number {
  let most = 0;
  for (let i = 0; i < positions.length; i++) most = Math.max(most, Math.abs(positions[i]));
  return Math.max(distance * roomy, 1e-9, most * 2 ** -40);
}

/** A power of two with room to spare for `n` entries of an open table. */
export const tableSize = (n: number): number => 2 ** Math.ceil(Math.log2(Math.max(8, n * 2)));

/**
 * Places sorted into cubic cells, to ask which lie near another. Items have the numbers in which they were added. Cells are found by a table of chains in flat arrays,
 * so that a million places take some tens of bytes each and no text is made for them.
 */
export class PointGrid {
  count = 0;
  private readonly perMetre: number;
  private heads: Int32Array;
  private next: Int32Array;
  /** The cell of each item: 3 numbers. */
  private cells: Float64Array;

  /** @param size metres of a cell; Infinity: all are in one. @param room items that it has room for before it has to grow. */
  constructor(size: number, room = 64) {
    this.perMetre = 1 / size;
    this.heads = new Int32Array(tableSize(room)).fill(-1);
    this.next = new Int32Array(room);
    this.cells = new Float64Array(room * 3);
  }

  /** Adds a place and returns its number. */
  add(x: number, y: number, z: number): number {
    if (this.count === this.next.length) this.grow();
    const item = this.count++;
    const o = item * 3;
    this.cells[o] = Math.floor(x * this.perMetre + aside);
    this.cells[o + 1] = Math.floor(y * this.perMetre + aside);
    this.cells[o + 2] = Math.floor(z * this.perMetre + aside);
    this.link(item);
    return item;
  }

  /**
   * Visits the items of all cells that the cube of `reach` metres to all sides of a place touches: all items within reach are among them. Ends with true as soon as `visit`
   * gives true.
   */
  near(x: number, y: number, z: number, reach: number, visit: (item: number) => boolean | void): boolean {
    const { perMetre, cells, next, heads } = this;
    const last = heads.length - 1;
    const x1 = Math.floor((x + reach) * perMetre + aside);
    const y1 = Math.floor((y + reach) * perMetre + aside);
    const z1 = Math.floor((z + reach) * perMetre + aside);
    for (let i = Math.floor((x - reach) * perMetre + aside); i <= x1; i++)
      for (let j = Math.floor((y - reach) * perMetre + aside); j <= y1; j++)
        for (let k = Math.floor((z - reach) * perMetre + aside); k <= z1; k++)
          for (let item = heads[slotOf(i | 0, j | 0, k | 0) & last]; item >= 0; item = next[item])
            if (cells[item * 3] === i && cells[item * 3 + 1] === j && cells[item * 3 + 2] === k && visit(item)) return true;
    return false;
  }

  private link(item: number): void {
    const { cells } = this;
    const slot = slotOf(cells[item * 3] | 0, cells[item * 3 + 1] | 0, cells[item * 3 + 2] | 0) & (this.heads.length - 1);
    this.next[item] = this.heads[slot];
    this.heads[slot] = item;
  }

  private grow(): void {
    const [next, cells] = [new Int32Array(this.next.length * 2), new Float64Array(this.cells.length * 2)];
    cells.set(this.cells);
    this.next = next;
    this.cells = cells;
    this.heads = new Int32Array(tableSize(next.length)).fill(-1);
    for (let item = 0; item < this.count; item++) this.link(item);
  }
}

/** A number for a cell, mixed: its last bits say which chain. Whole numbers of 32 bits, since others would be put into memory of their own at each call. */
function slotOf(i: number, j: number, k: number): number {
  const mixed = Math.imul(i, 0x9e3779b1) ^ Math.imul(j, 0x85ebca6b) ^ Math.imul(k, 0xc2b2ae35);
  return mixed ^ (mixed >>> 15);
}
