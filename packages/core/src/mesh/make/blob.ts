import type { Mesh } from '../../geometry/mesh.js';
import { unbounded, type Work } from '../../base/work.js';
import { isosurface, makeGrid } from './isosurface.js';

export interface Ball {
  readonly centre: readonly [number, number, number];
  readonly radius: number;
}

/** How many times the blend a ball is still felt beyond its skin. */
const felt = 8;

/**
 * Balls run together into one closed skin (or several, where they are far apart). `blend`: metres over which they flow into each other, the same whichever comes first
 * (the soft minimum of their distances by exponentials; common practice); 0: they only meet.
 */
export function blobOf(balls: readonly Ball[], blend: number, cell: number, work: Work = unbounded): Mesh {
  const low = [0, 1, 2].map((k) => balls.reduce((least, { centre, radius }) => Math.min(least, centre[k] - radius), Infinity));
  const high = [0, 1, 2].map((k) => balls.reduce((most, { centre, radius }) => Math.max(most, centre[k] + radius), -Infinity));
  const margin = blend * Math.log(balls.length + 1) + cell * 2;
  const grid = makeGrid(low.map((value) => value - margin), high.map((value) => value + margin), cell, work); // prettier-ignore
  const [nx, ny] = grid.size;
  const { values, origin } = grid;
  const soft = blend / 2;
  values.fill(soft > 0 ? 0 : Infinity);
  balls.forEach(({ centre, radius }, i) => {
    work.progress((i / balls.length) * 0.5);
    const reach = radius + soft * felt + cell * 2;
    const from = [0, 1, 2].map((k) => Math.max(0, Math.floor((centre[k] - reach - origin[k]) / cell)));
    const to = [0, 1, 2].map((k) => Math.min(grid.size[k] - 1, Math.ceil((centre[k] + reach - origin[k]) / cell)));
    for (let z = from[2]; z <= to[2]; z++)
      for (let y = from[1]; y <= to[1]; y++)
        for (let x = from[0]; x <= to[0]; x++) {
          const away = Math.hypot(origin[0] + x * cell - centre[0], origin[1] + y * cell - centre[1], origin[2] + z * cell - centre[2]) - radius;
          const at = x + nx * (y + ny * z);
          // Deep inside one ball no other can be told, and sums must stay finite.
          if (soft > 0) values[at] += Math.exp(Math.min(60, -away / soft));
          else values[at] = Math.min(values[at], away);
        }
  });
  if (soft > 0) for (let i = 0; i < values.length; i++) values[i] = values[i] > 0 ? -soft * Math.log(values[i]) : soft * felt;
  return isosurface(grid, work);
}
