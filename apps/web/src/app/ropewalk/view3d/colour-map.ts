/**
 * Colours for values: even steps of value look like even steps, and they are told apart without telling red from green, since each map runs from
 * dark to light (or from both ends to light in the middle) between blue and yellow or orange. Between their stops colours run straight in OKLab
 * (Ottosson 2020).
 */
export const colourMaps = {
  dye: { label: 'indigo–weld', stops: ['#141b3c', '#2b3f86', '#5a7296', '#a39a83', '#d9b95a', '#f7e27a'] },
  ink: { label: 'ink–paper', stops: ['#14171f', '#fbf8f1'] },
  tide: { label: 'both ways', stops: ['#173f8a', '#7f9fd0', '#f6f1e6', '#d99a5b', '#8a3d0c'] },
} as const;
export type ColourMap = keyof typeof colourMaps;

/** What is unknown is grey. */
export const unknownColour: readonly [number, number, number] = [0.62, 0.6, 0.57];

type Triple = [number, number, number];

const toLinear = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);
const toGamma = (v: number): number => (v <= 0.0031308 ? v * 12.92 : 1.055 * Math.max(v, 0) ** (1 / 2.4) - 0.055);

/** sRGB as #rrggbb to OKLab. */
export function oklab(hex: string): Triple {
  const [r, g, b] = [1, 3, 5].map((i) => toLinear(parseInt(hex.slice(i, i + 2), 16) / 255));
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

/** OKLab to linear red, green, blue, 0…1. */
function linearOf([L, a, b]: Triple): Triple {
  const l = (L + 0.3963377774 * a + 0.2158037573 * b) ** 3;
  const m = (L - 0.1055613458 * a - 0.0638541728 * b) ** 3;
  const s = (L - 0.0894841775 * a - 1.291485548 * b) ** 3;
  const clip = (v: number): number => Math.min(1, Math.max(0, v));
  return [
    clip(4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s),
    clip(-1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s),
    clip(-0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s),
  ];
}

const tables = new Map<ColourMap, Float32Array>();
const tableSize = 256;

/** 256 colours of a map, linear, 3 numbers each. */
export function colourTable(map: ColourMap): Float32Array {
  let table = tables.get(map);
  if (table) return table;
  const stops = colourMaps[map].stops.map(oklab);
  table = new Float32Array(tableSize * 3);
  for (let i = 0; i < tableSize; i++) {
    const x = (i / (tableSize - 1)) * (stops.length - 1);
    const k = Math.min(stops.length - 2, Math.floor(x));
    const mixed = stops[k].map((value, j) => value + (stops[k + 1][j] - value) * (x - k)) as Triple;
    table.set(linearOf(mixed), i * 3);
  }
  tables.set(map, table);
  return table;
}

/** A colour a value, linear, 3 numbers each; beyond the range the ends, what is not finite grey. */
export function coloursOf(values: Float32Array, low: number, high: number, map: ColourMap): Float32Array {
  const table = colourTable(map);
  const scale = high > low ? (tableSize - 1) / (high - low) : 0;
  const colours = new Float32Array(values.length * 3);
  for (let i = 0; i < values.length; i++) {
    const value = values[i];
    if (!Number.isFinite(value)) colours.set(unknownColour, i * 3);
    else {
      const at = Math.min(tableSize - 1, Math.max(0, Math.round((value - low) * scale))) * 3;
      colours[i * 3] = table[at];
      colours[i * 3 + 1] = table[at + 1];
      colours[i * 3 + 2] = table[at + 2];
    }
  }
  return colours;
}

/** A colour for each whole number, linear, 3 numbers each: neighbours are far apart round the circle of hues, at two depths of one lightness. */
export function partColours(values: ArrayLike<number>): Float32Array {
  const colours = new Float32Array(values.length * 3);
  for (let i = 0; i < values.length; i++) {
    const which = values[i];
    const turn = which * goldenTurn;
    const chroma = which % 2 ? 0.075 : 0.12;
    colours.set(Number.isFinite(which) ? linearOf([0.72, chroma * Math.cos(turn), chroma * Math.sin(turn)]) : unknownColour, i * 3);
  }
  return colours;
}

/** The angle that parts a circle so that whole multiples of it never come close, radians. */
const goldenTurn = Math.PI * (3 - Math.sqrt(5));

/** The map as a CSS gradient from left to right. */
export function gradientOf(map: ColourMap): string {
  const table = colourTable(map);
  const stops = Array.from({ length: 17 }, (_, i) => {
    const at = Math.round((i / 16) * (tableSize - 1)) * 3;
    return `rgb(${[0, 1, 2].map((k) => Math.round(toGamma(table[at + k]) * 255)).join(' ')})`;
  });
  return `linear-gradient(to right, ${stops.join(', ')})`;
}
