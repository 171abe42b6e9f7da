/** The axes of an object of which one runs along something: which looks up, which to the side, and whether the side is that of up × along (1) or opposite to it (−1). */
export interface OwnAxes {
  readonly along: 0 | 1 | 2;
  readonly up: 0 | 1 | 2;
  readonly side: 0 | 1 | 2;
  readonly hand: 1 | -1;
}

/** Own up is y, or z where y runs along; the three stay right-handed. */
export function ownAxes(along: 0 | 1 | 2): OwnAxes {
  const up = along === 1 ? 2 : 1;
  const side = (3 - along - up) as 0 | 1 | 2;
  return { along, up, side, hand: (side + 1) % 3 === up ? 1 : -1 };
}
