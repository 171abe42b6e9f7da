/** glTF 2.0 metallic-roughness values of a part. All numbers 0…1; colour is linear-light free sRGB hex, `#rrggbb`. */
export interface Material {
  readonly name: string;
  readonly colour: string;
  readonly roughness: number;
  readonly metalness: number;
  readonly opacity: number;
  /** Show the UV checker on it instead of a plain colour. */
  readonly checker: boolean;
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
    a.checker === b.checker
  );
}
