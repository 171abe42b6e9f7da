import type { Attribute } from '../geometry/attributes.js';
import { makeCurves, type Curves } from '../geometry/curves.js';
import type { Memory } from '../base/work.js';
import { cellSize, PointGrid } from '../space/grid.js';
import { framedOutwards } from './frames.js';

/** A vine that grows. */
export interface Vine {
  readonly key: number;
  readonly order: number;
  readonly parent: Vine | null;
  /** How long the parent was where it left it, metres. */
  readonly leftAt: number;
  readonly step: number;
  readonly lean: readonly [number, number, number];
  readonly points: number[];
  readonly normals: number[];
  readonly births: number[];
  /** 1 for points that hang free. */
  readonly hangs: number[];
  readonly along: Float64Array;
  readonly place: Float64Array;
  triangle: number;
  length: number;
  steps: number;
  /** Metres that it has hung; −1: it is on the body. */
  hung: number;
  /** When its first step is, counted in steps of all. */
  readonly begins: number;
}

/** How far along its own way, as a share of `avoid`, a vine has to be before it keeps from where it was. */
const memory = 2.5;

/** Where vines are, so that others keep away: places along them half the distance apart. */
export class Others {
  private readonly grid: PointGrid;
  private readonly places: number[] = [];
  private readonly vines: Vine[] = [];
  private readonly lengths: number[] = [];

  constructor(
    private readonly avoid: number,
    around: ArrayLike<number>,
  ) {
    this.grid = new PointGrid(cellSize(around, avoid));
  }

  add(vine: Vine, x: number, y: number, z: number, length: number): void {
    this.grid.add(x, y, z);
    this.places.push(x, y, z);
    this.vines.push(vine);
    this.lengths.push(length);
  }

  /** Whether a place of a vine, so far along it, is too near to another, or to an older part of itself. */
  tooNear(vine: Vine, x: number, y: number, z: number, length: number): boolean {
    const { places, avoid } = this;
    return this.grid.near(x, y, z, avoid, (item) => {
      const [dx, dy, dz] = [places[item * 3] - x, places[item * 3 + 1] - y, places[item * 3 + 2] - z];
      return dx * dx + dy * dy + dz * dz < avoid * avoid && this.wayBetween(vine, length, this.vines[item], this.lengths[item]) > memory * avoid;
    });
  }

  /** Metres along vines from one place to another; Infinity where they do not hang together by one fork. */
  private wayBetween(a: Vine, at: number, b: Vine, there: number): number {
    if (a === b) return Math.abs(at - there);
    if (a.parent === b) return at + Math.abs(a.leftAt - there);
    if (b.parent === a) return there + Math.abs(b.leftAt - at);
    return a.parent && a.parent === b.parent ? at + there + Math.abs(a.leftAt - b.leftAt) : Infinity;
  }

  /** Whether what a vine has got since `kept` points is free. */
  isFree(vine: Vine, kept: number): boolean {
    return this.along(vine, kept, (x, y, z, length) => !this.tooNear(vine, x, y, z, length));
  }

  addFrom(vine: Vine, kept: number): void {
    this.along(vine, kept, (x, y, z, length) => {
      this.add(vine, x, y, z, length);
      return true;
    });
  }

  /** Visits places along the newest pieces of a vine, until one of them gives false. */
  private along({ points: p, length }: Vine, kept: number, visit: (x: number, y: number, z: number, length: number) => boolean): boolean {
    let gone = length;
    for (let o = kept * 3; o < p.length; o += 3) {
      const [dx, dy, dz] = [p[o] - p[o - 3], p[o + 1] - p[o - 2], p[o + 2] - p[o - 1]];
      const size = Math.sqrt(dx * dx + dy * dy + dz * dz);
      const pieces = Math.max(1, Math.ceil(size / (this.avoid / 2)));
      for (let i = 1; i <= pieces; i++) {
        const share = i / pieces;
        if (!visit(p[o - 3] + dx * share, p[o - 2] + dy * share, p[o - 1] + dz * share, gone + size * share)) return false;
      }
      gone += size;
    }
    return true;
  }
}

/** Vines that have grown as curves, parents first. `pace`: steps a second, in which births are counted. */
export function vinesAsCurves(vines: readonly Vine[], pace: number, memory: Memory): Curves {
  const grown = vines.filter(({ births }) => births.length > 1);
  const number = new Map(grown.map((vine, c) => [vine, c]));
  const starts = new Uint32Array(grown.length + 1);
  grown.forEach(({ births }, c) => (starts[c + 1] = starts[c] + births.length));
  const count = starts[grown.length];
  const positions = memory.float32(count * 3);
  const normal = memory.float32(count * 3);
  const [birth, age, hangs] = [0, 1, 2].map(() => memory.float32(count));
  grown.forEach((vine, c) => {
    positions.set(vine.points, starts[c] * 3);
    normal.set(vine.normals, starts[c] * 3);
    birth.set(vine.births.map((steps) => steps / pace), starts[c]); // prettier-ignore
    hangs.set(vine.hangs, starts[c]);
  });
  const last = birth.reduce((most, value) => Math.max(most, value), 0);
  birth.forEach((value, i) => (age[i] = last - value));
  const ofPoints = (data: Float32Array, size = 1): Attribute => ({ carrier: 'point', size, data });
  const ofCurves = (of: (vine: Vine) => number): Attribute => ({ carrier: 'curve', size: 1, data: Float32Array.from(grown, of) });
  const attributes = new Map<string, Attribute>([
    ['birth', ofPoints(birth)],
    ['age', ofPoints(age)],
    ['hangs', ofPoints(hangs)],
    ['order', ofCurves(({ order }) => order)],
    ['parent', ofCurves(({ parent }) => (parent ? number.get(parent)! : -1))],
  ]);
  return framedOutwards(makeCurves({ positions, starts, attributes }), normal);
}
