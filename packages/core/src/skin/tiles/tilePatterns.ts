/** A convex tile in a unit square: pairs of numbers, counter-clockwise. */
export type Tile = readonly (readonly [number, number])[];

export const tileShapes = { brick: 'plank', scale: 'scale', diamond: 'lozenge', hexagon: 'hexagon', triangle: 'triangle', rectangle: 'square' } as const;
export type TileShape = keyof typeof tileShapes;

/**
 * Tiles that cover the unit square, `around` of them side by side and `along` rows, some reaching over its border. Rows of hexagons stand on their
 * points and every other row is shifted by half a tile; `along` of them reach from border to border. Rows of scales lie over the row above, their free
 * ends round and toward lower y.
 */
export function tilePattern(shape: TileShape, around: number, along: number): Tile[] {
  const tiles: Tile[] = [];
  const w = 1 / around;
  const h = 1 / along;
  const box = (x: number, y: number): Tile => [[x, y], [x + w, y], [x + w, y + h], [x, y + h]]; // prettier-ignore
  if (shape === 'rectangle') for (let r = 0; r < along; r++) for (let c = 0; c < around; c++) tiles.push(box(c * w, r * h));
  if (shape === 'brick') for (let r = 0; r < along; r++) for (let c = r % 2 ? -1 : 0; c < around; c++) tiles.push(box((c + (r % 2) / 2) * w, r * h));
  if (shape === 'triangle')
    for (let r = 0; r < along; r++)
      for (let c = -1; c < around; c++) {
        // Rows alternate, so that tips meet.
        const x = (c + (r % 2) / 2) * w;
        tiles.push([[x, r * h], [x + w, r * h], [x + w / 2, (r + 1) * h]], [[x + w, r * h], [x + 1.5 * w, (r + 1) * h], [x + w / 2, (r + 1) * h]]); // prettier-ignore
      }
  if (shape === 'diamond')
    for (let r = -1; r < 2 * along; r++)
      for (let c = -1; c <= around; c++) {
        const [x, y] = [(c + (r % 2 ? 0.5 : 0) + 0.5) * w, ((r + 1) * h) / 2];
        tiles.push([[x, y - h / 2], [x + w / 2, y], [x, y + h / 2], [x - w / 2, y]]); // prettier-ignore
      }
  if (shape === 'scale')
    for (let r = -1; r < along; r++) for (let c = r % 2 ? -1 : 0; c < around; c++) tiles.push(scaleTile((c + (r % 2 ? 0.5 : 0)) * w, r * h, w, h));
  if (shape === 'hexagon') {
    const tall = 1 / (0.75 * along + 0.25);
    for (let r = -1; r <= along; r++)
      for (let c = -1; c <= around; c++) {
        const [x, y] = [(c + 0.5 + (r % 2 ? 0.5 : 0)) * w, tall / 2 + r * 0.75 * tall];
        tiles.push([[x, y - tall / 2], [x + w / 2, y - tall / 4], [x + w / 2, y + tall / 4], [x, y + tall / 2], [x - w / 2, y + tall / 4], [x - w / 2, y - tall / 4]]); // prettier-ignore
      }
  }
  return tiles;
}

/** How far a scale reaches under the row above, in rows, and the pieces of its round end. */
const underlap = 0.6;
const roundPieces = 10;

function scaleTile(x: number, y: number, w: number, h: number): Tile {
  const round = Array.from({ length: roundPieces + 1 }, (_, i): [number, number] => {
    const angle = Math.PI + (Math.PI * i) / roundPieces;
    return [x + (w / 2) * (1 + Math.cos(angle)), y + (h / 2) * (1 + Math.sin(angle))];
  });
  return [...round, [x + w, y + (1 + underlap) * h], [x, y + (1 + underlap) * h]];
}

/** Area of a tile. */
export function tileArea(tile: Tile): number {
  let sum = 0;
  tile.forEach(([x, y], i) => {
    const [p, q] = tile[(i + 1) % tile.length];
    sum += x * q - p * y;
  });
  return sum / 2;
}

/** What of a convex tile lies where `inside` is not negative: a line given by its function (Sutherland & Hodgman 1974). */
function clipBy(tile: Tile, inside: (place: readonly [number, number]) => number): Tile {
  const out: [number, number][] = [];
  tile.forEach((a, i) => {
    const b = tile[(i + 1) % tile.length];
    const [da, db] = [inside(a), inside(b)];
    if (da >= 0) out.push([a[0], a[1]]);
    if (da < 0 !== db < 0 && da !== 0 && db !== 0) {
      const f = da / (da - db);
      out.push([a[0] + (b[0] - a[0]) * f, a[1] + (b[1] - a[1]) * f]);
    }
  });
  return out;
}

/** The part of a tile inside the unit square; with `wrap` only its upper and lower border cut. */
export function cutToSquare(tile: Tile, wrap: boolean): Tile {
  if (tile.every(([x, y]) => y >= 0 && y <= 1 && (wrap || (x >= 0 && x <= 1)))) return tile;
  let cut = clipBy(clipBy(tile, ([, y]) => y), ([, y]) => 1 - y); // prettier-ignore
  if (!wrap) cut = clipBy(clipBy(cut, ([x]) => x), ([x]) => 1 - x); // prettier-ignore
  return cut;
}

/** A convex tile with every side moved in by `distance`, lengths measured with x times `sx` and y times `sy`; empty when nothing is left. */
export function insetTile(tile: Tile, distance: number, sx: number, sy: number): Tile {
  if (!(distance > 0)) return tile;
  let result: Tile = tile;
  tile.forEach((a, i) => {
    const b = tile[(i + 1) % tile.length];
    const [dx, dy] = [(b[0] - a[0]) * sx, (b[1] - a[1]) * sy];
    const size = Math.hypot(dx, dy);
    if (size > 0) result = clipBy(result, ([x, y]) => (dx * (y - a[1]) * sy - dy * (x - a[0]) * sx) / size - distance);
  });
  return result;
}
