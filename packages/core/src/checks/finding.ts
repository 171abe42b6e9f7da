import type { WarningCode } from '../definition/define.js';

/** What the Checks look for, with its name on screen. */
export const checkKinds = {
  error: 'No result',
  'not-finite': 'Values that are not finite',
  pinch: 'Pinches',
  'self-cross': 'Skins through themselves',
  flip: 'Flipped frames',
  'inside-out': 'Inside-out faces',
  winding: 'Faces against their neighbours',
  hole: 'Holes',
  double: 'Doubles',
  degenerate: 'Faces or curves of no size',
  shading: 'Normals that look inwards',
  stretch: 'Stretched UVs',
  budget: 'Over the budget',
  unequal: 'Unequal lists',
  other: 'Worth a look',
} as const;
export type CheckKind = keyof typeof checkKinds;

/** Something that is wrong or worth a look: what, where, why, and what mends it. */
export interface Finding {
  readonly kind: CheckKind;
  /** `wrong`: it should not be delivered so; `look`: it may be meant. */
  readonly level: 'wrong' | 'look';
  readonly node: string;
  readonly message: string;
  /** Where to look, metres; null: no one place. */
  readonly place: readonly [number, number, number] | null;
  /** Curve and metres along it, where that tells the place. */
  readonly curve?: number;
  readonly at?: number;
  /** What mends it, the nearest first. */
  readonly remedies: readonly Remedy[];
}

/** A change of the graph that mends a finding. */
export type Remedy =
  | { readonly do: 'set'; readonly label: string; readonly node: string; readonly setting: string; readonly value: unknown }
  /** A new node between a node's output and all that it is wired to. */
  | { readonly do: 'insert'; readonly label: string; readonly after: string; readonly type: string; readonly settings: Readonly<Record<string, unknown>> }
  /** A new node in what comes into a node's first input; its further inputs are given what those of the same names there are given. */
  | { readonly do: 'before'; readonly label: string; readonly node: string; readonly type: string; readonly settings: Readonly<Record<string, unknown>> };

/** Kinds of warnings that nodes give, as Checks list them. */
export const kindOfWarning: Readonly<Record<WarningCode, CheckKind>> = {
  pinch: 'pinch',
  'self-cross': 'self-cross',
  flip: 'flip',
  'parallel-up': 'flip',
  'unequal-lists': 'unequal',
  degenerate: 'degenerate',
  stretch: 'stretch',
  budget: 'budget',
  'not-closed': 'hole',
  'volume-of-open-mesh': 'hole',
  collinear: 'other',
  'through-body': 'other',
  empty: 'other',
  'too-large': 'other',
  'simpler-method-used': 'other',
};
