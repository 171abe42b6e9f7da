import type { Profile } from './profile.js';

/** How the wall over a profile is laid out on every ring. */
export interface Columns {
  /** First place of each outline in a ring, and their number last. */
  readonly first: readonly number[];
  readonly count: number;
  /** For each column the place it stands on, and the piece whose normal it has: −1 the one before, 1 the one after, 0 both. */
  readonly place: readonly number[];
  readonly side: readonly number[];
  /** Outline of each column, and the last column of that outline. */
  readonly outline: readonly number[];
  readonly last: readonly number[];
  /** Columns joined by the wall, pair by pair. */
  readonly walls: readonly (readonly [number, number])[];
}

/** Columns of a profile: an edge has two, and a closed outline comes back to its first place for the seam. */
export function columnsOf(profile: Profile): Columns {
  const first: number[] = [];
  const place: number[] = [];
  const side: number[] = [];
  const outline: number[] = [];
  const walls: [number, number][] = [];
  let count = 0;
  profile.outlines.forEach(({ flat, closed, hard }, o) => {
    const own = flat.length / 2;
    first.push(count);
    let before = -1;
    for (let i = 0; i <= (closed ? own : own - 1); i++) {
      const at = i % own;
      const sides = hard[at] ? [-1, 1] : [0];
      if (i === 0) sides.splice(0, sides.length - 1);
      else if (i === own && hard[at]) sides.pop();
      sides.forEach((which, n) => {
        const column = place.length;
        if (before >= 0 && n === 0) walls.push([before, column]);
        place.push(count + at);
        side.push(which);
        outline.push(o);
        before = column;
      });
    }
    count += own;
  });
  first.push(count);
  const last = outline.map((which) => outline.lastIndexOf(which));
  return { first, count, place, side, outline, last, walls };
}
