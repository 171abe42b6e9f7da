/** Where the UVs of caps lie: caps are laid out by themselves, apart from the wall. */
export interface CapLayout {
  /** Added to u and v, in tiles. */
  readonly capOffset: readonly [number, number];
  /** Degrees about the cap's middle, counter-clockwise. */
  readonly capTurn: number;
  /** Factor about the cap's middle: 2 shows a texture at half its size. */
  readonly capScale: number;
}

export const plainCaps: CapLayout = { capOffset: [0, 0], capTurn: 0, capScale: 1 };

/**
 * UVs of places on caps: `u` and `v` are fitted into the unit square about (0.5, 0.5), or metres ÷ uvScale about 0, before the layout moves them.
 */
export class CapPlacer {
  private readonly middle: number;
  private readonly c: number;
  private readonly s: number;

  constructor(
    private readonly layout: CapLayout,
    private readonly uvScale: number,
  ) {
    this.middle = uvScale > 0 ? 0 : 0.5;
    this.c = Math.cos((layout.capTurn * Math.PI) / 180) * layout.capScale;
    this.s = Math.sin((layout.capTurn * Math.PI) / 180) * layout.capScale;
  }

  /** Factor from metres in the cap's plane, `reach` being its farthest place from the middle. */
  perMetre(reach: number): number {
    return this.uvScale > 0 ? 1 / this.uvScale : reach > 0 ? 0.5 / reach : 0;
  }

  /** u of a place (x, y) from the middle, in UV units. */
  u(x: number, y: number): number {
    return this.middle + this.c * x - this.s * y + this.layout.capOffset[0];
  }

  v(x: number, y: number): number {
    return this.middle + this.s * x + this.c * y + this.layout.capOffset[1];
  }
}
