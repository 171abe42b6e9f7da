import type { Curves } from '../../geometry/curves.js';
import type { Work } from '../../base/work.js';
import type { Field } from '../../values/field.js';
import type { CapLayout } from './capUv.js';
import type { TubePlan, TubePlans } from '../plan/tubePlan.js';

/** Values of the face attribute `part`, which skins and bodies write: the kind of a face. Connected pieces are another thing: their number is `body`. */
export const skinParts = { wall: 0, capStart: 1, capEnd: 2 } as const;

/** Curves that are pieces of longer ones, which go on beyond them. */
export interface PieceOf {
  /** Metres of the longer curve before each piece, and in all: v runs along the longer one. */
  readonly before: ArrayLike<number>;
  readonly whole: ArrayLike<number>;
  /** 1 where its start stays open whatever caps there are, 2 its end, 3 both. */
  readonly open: Uint8Array;
}

export interface TubeOptions extends Partial<CapLayout> {
  /** Metres, a value per point, 0 or more (0 at an end closes it on one point). */
  radius: Field;
  /** Corners of the section, 3 or more. */
  sides: number;
  caps: 'open' | 'flat' | 'domed';
  /** `mitre`: corners of straight curves keep the tube's thickness; `asIs`: plain sections everywhere. */
  corners: 'mitre' | 'asIs';
  /** Metres per UV tile; 0: fitted to 0…1. */
  uvScale: number;
  /** Every k-th point gets a ring, and the last one. */
  ringStep: number;
  pieces?: PieceOf;
}

/** Growing position in the output arrays, and the arrays. All kernels of this folder write through it. */
export interface SkinSink {
  positions: Float32Array;
  normals: Float32Array;
  uv: Float32Array;
  pointOf: Uint32Array;
  corners: Uint32Array;
  faceStarts: Uint32Array | null;
  part: Float32Array;
  /** The curve point that each vertex stands at; null: nobody asks. */
  source: Uint32Array | null;
  vertex: number;
  point: number;
  corner: number;
  face: number;
}

/** What is needed to write one tube. */
export interface TubeJob {
  curves: Curves;
  plans: TubePlans;
  plan: TubePlan;
  options: TubeOptions;
  section: Float64Array;
  stations: Float64Array;
  length: number;
  /** Columns by which the last ring of a closed tube goes on in the first, 0 … sides − 1. */
  shift: number;
  /** Where the curve begins on the one whose v it has, and how long that is, metres. */
  before: number;
  whole: number;
  tangent: Float32Array;
  normal: Float32Array;
  work: Work;
  /** Faces of the whole result. */
  faces: number;
}

/** One end of a written wall: the ring it closes, for caps. */
export interface WallEnd {
  /** Curve point of the ring. */
  ring: number;
  /** First mesh point of the ring. */
  point: number;
  /** First vertex of the ring. */
  vertex: number;
  /** −1 at the start, 1 at the end: which way along the tangent is outside. */
  outward: -1 | 1;
}

/** The first and the last ring of a wall, of a curve. */
export interface Wall {
  readonly curve: number;
  readonly start: WallEnd;
  readonly end: WallEnd;
}

/** v of a place `s` metres along: metres ÷ uvScale, or the share of the length. */
export function vAt({ options, before, whole }: TubeJob, s: number): number {
  if (options.uvScale > 0) return (before + s) / options.uvScale;
  return whole > 0 ? (before + s) / whole : 0;
}
