/**
 * The size of cells in which neighbours nearer than `distance` are looked for: at least that distance, and no so small a part of how far the places lie from the origin that cells
 * could not be counted by ones.
 */
export function cellSize(positions: ArrayLike<number>, distance: number): number {
  let most = 0;
  for (let i = 0; i < positions.length; i++) most = Math.max(most, Math.abs(positions[i]));
  return Math.max(distance, 1e-9, most * 2 ** -40);
}
