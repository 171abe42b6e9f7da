/** glTF 2.0 metallic-roughness values of a part. All numbers 0…1; colour is linear-light free sRGB hex, `#rrggbb`. */
export interface Material {
  readonly name: string;
  readonly colour: string;
  readonly roughness: number;
  readonly metalness: number;
  readonly opacity: number;
  /** Show the UV checker on it instead of a plain colour. */
  readonly checker: boolean;
  /** Whether its backs are seen; left out: those of open surfaces are. */
  readonly doubleSided?: boolean;
}

export const plainMaterial: Material = {
  name: 'plain',
  colour: '#b9b2a4',
  roughness: 0.7,
  metalness: 0,
  opacity: 1,
  checker: false,
};

export function sameMaterial(a: Material, b: Material): boolean {
  return (
    a.name === b.name &&
    a.colour === b.colour &&
    a.roughness === b.roughness &&
    a.metalness === b.metalness &&
    a.opacity === b.opacity &&
    a.checker === b.checker &&
    a.doubleSided === b.doubleSided
  );
}

/** Linear value of one sRGB channel, 0…1 (IEC 61966-2-1). */
const toLinear = (value: number): number => (value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4);

/** Red, green and blue in linear light, 0…1, of a colour such as #a2323f. */
export const linearColour = (hex: string): [number, number, number] => {
  const [r, g, b] = [1, 3, 5].map((at) => toLinear(parseInt(hex.slice(at, at + 2), 16) / 255));
  return [r, g, b];
};

const toEncoded = (value: number): number => (value <= 0.0031308 ? value * 12.92 : 1.055 * value ** (1 / 2.4) - 0.055);

/** The colour, such as #a2323f, of red, green and blue in linear light; what lies beyond 0…1 is cut off. The inverse of `linearColour`. */
export const hexColour = (linear: readonly number[]): string =>
  `#${linear.map((value) => Math.round(toEncoded(Math.min(1, Math.max(0, value))) * 255).toString(16).padStart(2, '0')).join('')}`; // prettier-ignore
