import type { UvSheet } from '@filaxis/core';

/** A place of the sheet: its triangle and the shares of that one's corners. */
export interface SheetPlace {
  readonly triangle: number;
  readonly shares: readonly [number, number, number];
}

/** Shares of the corners of a triangle (in the plane) at a point; null where it has no area. */
function sharesAt(c: Float32Array, at: number, u: number, v: number): readonly [number, number, number] | null {
  const [au, av, bu, bv] = [c[at + 2] - c[at], c[at + 3] - c[at + 1], c[at + 4] - c[at], c[at + 5] - c[at + 1]];
  const area = au * bv - bu * av;
  if (!area) return null;
  const [pu, pv] = [u - c[at], v - c[at + 1]];
  const second = (pu * bv - bu * pv) / area;
  const third = (au * pv - pu * av) / area;
  return [1 - second - third, second, third];
}

/** The triangle of a sheet under a UV; null: there is none. */
export function underUv({ corners }: UvSheet, u: number, v: number): SheetPlace | null {
  for (let t = 0; t < corners.length / 6; t++) {
    const shares = sharesAt(corners, t * 6, u, v);
    if (shares?.every((share) => share >= 0)) return { triangle: t, shares };
  }
  return null;
}

/** Where a place of the sheet is in space, metres. */
export const inSpace = ({ places }: UvSheet, { triangle, shares }: SheetPlace): number[] =>
  [0, 1, 2].map((k) => shares.reduce((sum, share, i) => sum + share * places[triangle * 9 + i * 3 + k], 0));

/** The UV of a place in space on a triangle that has the given corners (9 numbers); null: the sheet does not have it. */
export function onSheet(sheet: UvSheet, corners: readonly number[], place: readonly number[]): readonly [number, number] | null {
  const { places, corners: uv } = sheet;
  for (let t = 0; t < places.length / 9; t++) {
    if (!corners.every((value, i) => places[t * 9 + i] === value)) continue;
    const at = (i: number): number[] => [0, 1, 2].map((k) => place[k] - corners[i * 3 + k]);
    const area = (a: number[], b: number[]): number => Math.hypot(a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]);
    const shares = [area(at(1), at(2)), area(at(2), at(0)), area(at(0), at(1))];
    const sum = shares[0] + shares[1] + shares[2] || 1;
    return [0, 1].map((k) => shares.reduce((total, share, i) => total + (share / sum) * uv[t * 6 + i * 2 + k], 0)) as [number, number];
  }
  return null;
}

/** The sheet from 0 to 1 as SVG of `texels` a side: the sides of its faces. */
export function sheetSvg({ edges }: UvSheet, texels: number): string {
  const number = (value: number): string => String(Number((value * texels).toFixed(2)));
  const lines = new Set<string>();
  for (let i = 0; i < edges.length; i += 4) {
    const [a, b] = [`${number(edges[i])} ${number(1 - edges[i + 1])}`, `${number(edges[i + 2])} ${number(1 - edges[i + 3])}`];
    // Two faces share most sides; each is drawn once.
    lines.add(a < b ? `M${a} ${b}` : `M${b} ${a}`);
  }
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${texels}" height="${texels}" viewBox="0 0 ${texels} ${texels}"><path fill="none" stroke="#1e2947" stroke-width="1" d="${[...lines].join('')}"/></svg>\n`;
}
