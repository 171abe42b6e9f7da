/** The kinds of place on a curve where an object of a run may stand. */
export const standingPlaces = ['along', 'joints', 'bends', 'first', 'last', 'ends'] as const;
export type StandingPlace = (typeof standingPlaces)[number];

/**
 * Where an object of a run stands: as a piece of it (`along`), as its first or last piece, in its own length, where pieces meet (`joints`: free ends of the run too),
 * at corners besides, after the last piece (`ends`).
 */
export interface Standing extends Readonly<Record<StandingPlace, boolean>> {
  /** How often against the others that stand there. */
  readonly share: number;
  /** Metres of the piece; 0: as for all. */
  readonly length: number;
}

export interface RunOptions {
  /** The pieces' own axis that runs along the curve. */
  readonly axis: 0 | 1 | 2;
  /** Metres of a piece; 0: as measured. */
  readonly length: number;
  /** Where a piece begins: in its origin, or where it begins itself. */
  readonly begin: 'origin' | 'edge';
  /**
   * `stretch`: a whole number of pieces, each as long as its place; `nearestCount`: the same places, pieces as they are; `exact`: as many as fit, end to end;
   * `spans`: one from each given point to the next, as long as it takes.
   */
  readonly fit: 'stretch' | 'nearestCount' | 'exact' | 'spans';
  /** Pieces take places of their own lengths, or all as long a one as the longest. */
  readonly lengths: 'own' | 'longest';
  /** Own up stays upright and the piece leans along with the ground; else it turns with the frame. */
  readonly upright: boolean;
  /** Factor on pieces. */
  readonly size: number;
  /** Degrees by which each piece is rolled beyond the one before it, when it turns with the frame. */
  readonly alternateRoll: number;
  /** Pieces bend with the curve between their places; else they reach straight from one to the next. */
  readonly bendPieces: boolean;
  /** Which of several a place gets: the next, one by chance, or the one that the given point where the piece begins names (the last one before it, between points). */
  readonly pick: 'inTurn' | 'random' | ((point: number, curve: number) => number);
  /** An entry for each object. */
  readonly stands: readonly Standing[];
  readonly seed: number;
  /** Degrees; at corners that turn by more a piece ends and another begins. */
  readonly cornerAngle: number;
}

export interface RunIssue {
  code: 'too-short' | 'no-length' | 'upright' | 'folds';
  curve: number;
}
