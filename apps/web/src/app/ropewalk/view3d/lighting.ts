import { MathUtils } from 'three';

type Triple = readonly [number, number, number];

/** Light around a thing: a sky that runs from the ground over the horizon to the top, bright panes in it, and one key light that casts shadows. */
export interface Lighting {
  readonly label: string;
  /** Radiance straight up, at the horizon, straight down. */
  readonly top: Triple;
  readonly horizon: Triple;
  readonly ground: Triple;
  /** Bright panes: where they are (degrees round and above the horizon), half their width and height in degrees, and how bright they are. */
  readonly panes: readonly { readonly round: number; readonly above: number; readonly wide: number; readonly high: number; readonly light: Triple }[];
  /** The key light: where it is, degrees, and its colour. */
  readonly key: { readonly round: number; readonly above: number; readonly colour: Triple };
}

/** Our own three; common practice for looking at form, at material, and at what a day does. */
export const lightings = {
  window: {
    label: 'North window',
    top: [0.42, 0.44, 0.48],
    horizon: [0.36, 0.355, 0.34],
    ground: [0.2, 0.18, 0.15],
    panes: [
      { round: 38, above: 42, wide: 14, high: 20, light: [1.9, 1.85, 1.75] },
      { round: 215, above: 25, wide: 7, high: 34, light: [1.1, 1.15, 1.25] },
    ],
    key: { round: 38, above: 50, colour: [1, 0.97, 0.92] },
  },
  lowSun: {
    label: 'Low sun',
    top: [0.3, 0.36, 0.48],
    horizon: [0.5, 0.44, 0.36],
    ground: [0.17, 0.14, 0.11],
    panes: [{ round: 70, above: 18, wide: 8, high: 8, light: [7, 5, 3] }],
    key: { round: 70, above: 22, colour: [1, 0.86, 0.68] },
  },
  overcast: {
    label: 'Overcast',
    top: [0.86, 0.87, 0.88],
    horizon: [0.55, 0.55, 0.54],
    ground: [0.24, 0.22, 0.2],
    panes: [],
    key: { round: 20, above: 75, colour: [1, 1, 1] },
  },
} as const satisfies Readonly<Record<string, Lighting>>;
export type LightingName = keyof typeof lightings;

/** Unit direction towards a place `round` degrees from −z… over x, `above` the horizon. */
export function towards(round: number, above: number): Triple {
  const [a, b] = [MathUtils.degToRad(round), MathUtils.degToRad(above)];
  return [Math.sin(a) * Math.cos(b), Math.sin(b), Math.cos(a) * Math.cos(b)];
}

/** What comes from a direction (unit), red, green, blue. */
export function radiance({ top, horizon, ground, panes }: Lighting, [x, y, z]: Triple): [number, number, number] {
  const end = y > 0 ? top : ground;
  // The sky changes most near the horizon.
  const share = Math.abs(y) ** 0.6;
  const given = horizon.map((value, k) => value + (end[k] - value) * share) as [number, number, number];
  const round = MathUtils.radToDeg(Math.atan2(x, z));
  const above = MathUtils.radToDeg(Math.asin(Math.min(1, Math.max(-1, y))));
  for (const pane of panes) {
    const aside = Math.abs(((((round - pane.round) % 360) + 540) % 360) - 180);
    // Panes have soft edges, of a few degrees.
    const edge = Math.min(1, Math.max(0, (pane.wide - aside) / 4 + 0.5)) * Math.min(1, Math.max(0, (pane.high - Math.abs(above - pane.above)) / 4 + 0.5));
    for (let k = 0; k < 3; k++) given[k] += pane.light[k] * edge;
  }
  return given;
}

/** Light that falls on a face with a normal (unit) from all around, divided by π: what a white matt face sends back. */
export function ambience(lighting: Lighting, normal: Triple): [number, number, number] {
  const sum: [number, number, number] = [0, 0, 0];
  const rows = 48;
  for (let i = 0; i < rows; i++) {
    const y = -1 + (2 * (i + 0.5)) / rows;
    const level = Math.sqrt(1 - y * y);
    for (let j = 0; j < rows * 2; j++) {
      const a = (Math.PI * (j + 0.5)) / rows;
      const direction: Triple = [Math.sin(a) * level, y, Math.cos(a) * level];
      const facing = direction[0] * normal[0] + direction[1] * normal[1] + direction[2] * normal[2];
      if (facing <= 0) continue;
      radiance(lighting, direction).forEach((value, k) => (sum[k] += value * facing));
    }
  }
  // Each piece of the sphere is 4π over their number; π of that is divided away.
  return sum.map((value) => (value * 4) / (rows * rows * 2)) as [number, number, number];
}

/** What a face gets where all that is known of the surroundings is what comes from above and from below. */
export const fromAboveAndBelow = (up: Triple, down: Triple, normal: Triple): Triple => {
  const share = normal[1] * 0.5 + 0.5;
  return [0, 1, 2].map((k) => down[k] + (up[k] - down[k]) * share) as unknown as Triple;
};

/**
 * How bright the key light is (times its colour, over π) beside what comes from around, so that a matt face turned towards it is lit with just 1 on the whole: then a colour of the document is the
 * same colour in the picture where the light falls on it.
 */
export function keyShare({ key }: Lighting, around: readonly number[]): number {
  const light = (of: readonly number[]): number => of[0] * 0.2126 + of[1] * 0.7152 + of[2] * 0.0722;
  return (1 - light(around)) / light(key.colour);
}

/** The surroundings as an image of all directions, `width` by half of that, four numbers a pixel, the lowest row first. */
export function surroundings(lighting: Lighting, width: number): Float32Array {
  const height = width / 2;
  const pixels = new Float32Array(width * height * 4);
  for (let row = 0; row < height; row++) {
    const above = ((row + 0.5) / height - 0.5) * Math.PI;
    for (let column = 0; column < width; column++) {
      // three reads u = atan2(z, x) / 2π + 1/2.
      const a = ((column + 0.5) / width - 0.5) * 2 * Math.PI;
      const colour = radiance(lighting, [Math.cos(a) * Math.cos(above), Math.sin(above), Math.sin(a) * Math.cos(above)]);
      pixels.set([...colour, 1], (row * width + column) * 4);
    }
  }
  return pixels;
}
