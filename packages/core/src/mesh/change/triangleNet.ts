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

  constructor(count: number) {
    this.points = count;
    this.p = new Float64Array(count * 3);
    this.at = Array.from({ length: count }, () => []);
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

  protected neighbours(v: number): number[] {
    const list: number[] = [];
    for (const t of this.at[v])
      for (let k = 0; k < 3; k++) {
        const n = this.tri[t * 3 + k];
        if (n !== v && !list.includes(n)) list.push(n);
      }
    return list;
  }

  protected beside(a: number, b: number): number[] {
    const { tri } = this;
    return this.at[a].filter((t) => tri[t * 3] === b || tri[t * 3 + 1] === b || tri[t * 3 + 2] === b);
  }

  /** Whether a triangle runs from a to b. */
  protected runs(t: number, a: number, b: number): boolean {
    return [0, 1, 2].some((k) => this.tri[t * 3 + k] === a && this.tri[t * 3 + ((k + 1) % 3)] === b);
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

  protected normalOf3(p: Float64Array, t: number): number[] {
    return unitNormal(p, this.tri[t * 3] * 3, this.tri[t * 3 + 1] * 3, this.tri[t * 3 + 2] * 3);
  }

  protected pointNormal(v: number): number[] {
    const n = [0, 0, 0];
    for (const t of this.at[v]) this.normal(t).forEach((value, k) => (n[k] += value));
    const size = Math.hypot(...n) || 1;
    return n.map((value) => value / size);
  }

  /** Whether a triangle is so flat that it has no direction. */
  protected isNeedle(a: number, b: number, c: number): boolean {
    const [x, y, z] = [this.squared(a, b), this.squared(b, c), this.squared(c, a)];
    const four = 2 * (x * y + y * z + z * x) - (x * x + y * y + z * z);
    return four < 0.01 * Math.max(x, y, z) ** 2;
  }
}

export const dot = (a: readonly number[], b: readonly number[]): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

function unitNormal(p: Float64Array, a: number, b: number, c: number): number[] {
  const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
  const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
  const n = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const size = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]) || 1;
  return [n[0] / size, n[1] / size, n[2] / size];
}
