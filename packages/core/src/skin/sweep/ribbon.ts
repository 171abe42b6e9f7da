import type { Profile } from './profile.js';

export interface RibbonSection {
  /** Pieces across, 1 or more. */
  readonly columns: number;
  /** Degrees that the section bends across, toward its face; 0 is flat. */
  readonly curl: number;
  /** The direction that its face looks to. */
  readonly face: 'normal' | 'side';
}

/**
 * The section of a ribbon of width 1 as a profile: a line, or an arc of the same length, from left to right seen from its face with the path running
 * up.
 */
export function ribbonProfile({ columns, curl, face }: RibbonSection): Profile {
  const flat = new Float64Array((columns + 1) * 2);
  const angle = (curl * Math.PI) / 180;
  for (let i = 0; i <= columns; i++) {
    const share = i / columns - 0.5;
    // Across and out of the plane, for an arc of length 1 with its middle at the origin.
    const across = Math.abs(angle) > 1e-9 ? Math.sin(share * angle) / angle : share;
    const up = Math.abs(angle) > 1e-9 ? (1 - Math.cos(share * angle)) / angle : 0;
    // Face to the normal: across is the side. Face to the side: across is against the normal.
    const [x, y] = face === 'normal' ? [up, across] : [-across, up];
    flat[i * 2] = x;
    flat[i * 2 + 1] = y;
  }
  return { outlines: [{ flat, closed: false, hard: new Uint8Array(columns + 1) }], nested: [], reach: 0.5 };
}
