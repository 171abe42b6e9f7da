/** Triangles over points that come and go: which are at a point, beside an edge, and how they lie. */
export class TriangleNet {
  protected p: Float64Array;
  protected points: number;
  /** Corners, 3 a triangle, and whether it is still there. */
  protected readonly tri: number[] = [];
  protected readonly alive: boolean[] = [];
  /** Triangles that are there. */
  protected living = 0;
  /** Triangles at each point. */
  protected readonly at: number[][];
  /** Points around the one that was looked at last, as many as `gather` has told; and at each point, which looking has met it last. */
  protected readonly around: number[] = [];
  private readonly met: number[];
  private look = 0;

  constructor(count: number) {
    this.points = count;
    this.p = new Float64Array(count * 3);
    this.at = Array.from({ length: count }, () => []);
    this.met = new Array<number>(count).fill(0);
  }

  protected addPoint(a: number, b: number): number {
    if (this.points * 3 === this.p.length) {
      const more = new Float64Array(this.p.length * 2 + 96);
      more.set(this.p);
      this.p = more;
    }
    const m = this.points++;
    for (let k = 0; k < 3; k++) this.p[m * 3 + k] = (this.p[a * 3 + k] + this.p[b * 3 + k]) / 2;
    this.at.push([]);
    this.met.push(0);
    return m;
  }

  protected add(a: number, b: number, c: number): void {
    const t = this.alive.push(true) - 1;
    this.living++;
    this.tri.push(a, b, c);
    this.at[a].push(t);
    this.at[b].push(t);
    this.at[c].push(t);
  }

  protected remove(t: number): void {
    this.alive[t] = false;
    this.living--;
    for (let k = 0; k < 3; k++) {
      const list = this.at[this.tri[t * 3 + k]];
      list.splice(list.indexOf(t), 1);
    }
  }

  /** Writes the points around a point into `around`, and tells how many there are. */
  protected gather(v: number): number {
    const { at, tri, around, met } = this;
    const own = at[v];
    const look = ++this.look;
    let count = 0;
    met[v] = look;
    for (let i = 0; i < own.length; i++)
      for (let k = 0; k < 3; k++) {
        const n = tri[own[i] * 3 + k];
        if (met[n] === look) continue;
        met[n] = look;
        around[count++] = n;
      }
    return count;
  }

  protected neighbours(v: number): number[] {
    return this.around.slice(0, this.gather(v));
  }

  protected beside(a: number, b: number): number[] {
    const { tri } = this;
    return this.at[a].filter((t) => tri[t * 3] === b || tri[t * 3 + 1] === b || tri[t * 3 + 2] === b);
  }

  /** Whether a triangle runs from a to b. */
  protected runs(t: number, a: number, b: number): boolean {
    const { tri } = this;
    const [x, y, z] = [tri[t * 3], tri[t * 3 + 1], tri[t * 3 + 2]];
    return x === a ? y === b : y === a ? z === b : z === a && x === b;
  }

  /** The corners of a triangle beginning with an edge, in its own order. */
  protected turned(t: number, a: number, b: number): [number, number, number] {
    return this.runs(t, a, b) ? this.turnedAt(t, a) : this.turnedAt(t, b);
  }

  protected turnedAt(t: number, v: number): [number, number, number] {
    const k = this.tri[t * 3] === v ? 0 : this.tri[t * 3 + 1] === v ? 1 : 2;
    return [this.tri[t * 3 + k], this.tri[t * 3 + ((k + 1) % 3)], this.tri[t * 3 + ((k + 2) % 3)]];
  }

  protected squared(a: number, b: number): number {
    const { p } = this;
    return (p[a * 3] - p[b * 3]) ** 2 + (p[a * 3 + 1] - p[b * 3 + 1]) ** 2 + (p[a * 3 + 2] - p[b * 3 + 2]) ** 2;
  }

  protected normal(t: number): number[] {
    return this.normalOf(this.tri[t * 3], this.tri[t * 3 + 1], this.tri[t * 3 + 2]);
  }

  protected normalOf(a: number, b: number, c: number): number[] {
    return unitNormal(this.p, a * 3, b * 3, c * 3);
  }

  /** Whether a triangle lies far from how it lay with other places: it has come over, or nearly. */
  protected hasTurned(t: number, before: Float64Array): boolean {
    const [a, b, c] = [this.tri[t * 3] * 3, this.tri[t * 3 + 1] * 3, this.tri[t * 3 + 2] * 3];
    writeNormal(this.p, a, b, c, here);
    writeNormal(before, a, b, c, there);
    return here[0] * there[0] + here[1] * there[1] + here[2] * there[2] < 0.2;
  }

  /** The normal at a point, until the next is asked for. */
  protected pointNormal(v: number): Float64Array {
    const { at, tri, p } = this;
    const own = at[v];
    sum.fill(0);
    for (let i = 0; i < own.length; i++) {
      const t = own[i] * 3;
      writeNormal(p, tri[t] * 3, tri[t + 1] * 3, tri[t + 2] * 3, here);
      for (let k = 0; k < 3; k++) sum[k] += here[k];
    }
    const size = Math.sqrt(sum[0] * sum[0] + sum[1] * sum[1] + sum[2] * sum[2]) || 1;
    for (let k = 0; k < 3; k++) sum[k] /= size;
    return sum;
  }

  /** Whether a triangle is so flat that it has no direction. */
  protected isNeedle(a: number, b: number, c: number): boolean {
    const [x, y, z] = [this.squared(a, b), this.squared(b, c), this.squared(c, a)];
    const four = 2 * (x * y + y * z + z * x) - (x * x + y * y + z * z);
    return four < 0.01 * Math.max(x, y, z) ** 2;
  }
}

export const dot = (a: readonly number[], b: readonly number[]): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

const [here, there, sum] = [new Float64Array(3), new Float64Array(3), new Float64Array(3)];

function writeNormal(p: Float64Array, a: number, b: number, c: number, out: Float64Array): void {
  const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
  const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
  const [x, y, z] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const size = Math.sqrt(x * x + y * y + z * z) || 1;
  out[0] = x / size;
  out[1] = y / size;
  out[2] = z / size;
}

function unitNormal(p: Float64Array, a: number, b: number, c: number): number[] {
  writeNormal(p, a, b, c, here);
  return [here[0], here[1], here[2]];
}
