import type { Carrier } from '../geometry/attributes.js';
import type { Curves } from '../geometry/curves.js';
import type { Geometry, GeometrySet } from '../geometry/geometry.js';
import type { Mesh } from '../geometry/mesh.js';
import type { Points } from '../geometry/points.js';
import type { Field } from '../values/field.js';
import type { GivenNumbers, PerElement } from '../varying/elements.js';
import type { Varying } from '../varying/varying.js';
import type { VaryingVector, VectorField } from '../varying/varyingVector.js';
import type { Settings, ValuesOf } from './settings.js';
import type { Work } from '../base/work.js';

export type PortKind = 'curves' | 'points' | 'mesh' | 'copies' | 'number' | 'vector' | 'any';

export interface InputPort {
  readonly name: string;
  /** The kinds that fit. */
  readonly kinds: readonly PortKind[];
  /** Takes many wires, in order. */
  readonly many?: boolean;
  /** The node works without it. */
  readonly optional?: boolean;
  /** Other names that documents may use for it; they are rewritten when a document is read. */
  readonly aliases?: readonly string[];
}
export interface OutputPort {
  readonly name: string;
  readonly kind: PortKind;
  /** The input whose kind it gives, when its own is `any`. */
  readonly follows?: string;
  readonly aliases?: readonly string[];
}

/** A result set, as `flow.output` gives it. */
export interface ResultSet {
  readonly type: 'set';
  readonly set: GeometrySet;
}
/** One number, or three, that a wire carries to settings. */
export interface NumberValue {
  readonly type: 'number';
  readonly value: number;
}
export interface VectorValue {
  readonly type: 'vector';
  readonly value: readonly [number, number, number];
}
export type Value = Geometry | ResultSet | NumberValue | VectorValue;

export type WarningCode =
  | 'pinch'
  | 'flip'
  | 'parallel-up'
  | 'collinear'
  | 'unequal-lists'
  | 'volume-of-open-mesh'
  | 'self-cross'
  | 'through-body'
  | 'empty'
  | 'too-large'
  | 'not-closed'
  | 'degenerate'
  | 'stretch'
  | 'budget'
  | 'simpler-method-used';

export interface Warning {
  readonly code: WarningCode;
  readonly message: string;
  readonly remedy?: string;
  /** Metres along the curve. */
  readonly at?: number;
  readonly curve?: number;
}

/** Frames in a second of the timeline. */
export const framesPerSecond = 24;

/** What a node's `run` can see and say. */
export interface RunContext<V> extends Work {
  readonly settings: V;
  /** The one geometry at a port, or an empty answer is given for the node before `run` is called; optional ports may be missing. */
  input(port: string): Geometry | undefined;
  curves(port: string): Curves;
  mesh(port: string): Mesh;
  points(port: string): Points;
  /** All geometries at a multi-port, in the order of the wires; empty ones are left out. */
  inputs(port: string): readonly Geometry[];
  /** The values of a varying setting, one per point (vertex of a mesh), curve, face or copy; each within the setting's range. */
  field(value: boolean | Varying, over: Geometry, per: PerElement): Field;
  /** The same for a varying vector. */
  vectorField(value: VaryingVector, over: Geometry, per: PerElement): VectorField;
  /** Seconds of the timeline; only nodes that are `timed` may look at it. */
  readonly time: number;
  /** Dials and times that a formula among the text settings names. */
  readonly given: GivenNumbers;
  warn(warning: Warning): void;
  /** What is in an imported file, by its hash. @throws Error when the file is missing or cannot be read. */
  imported(hash: string): GeometrySet;
}

export interface NodeFamily {
  readonly id: 'lay' | 'pace' | 'shape' | 'aim' | 'skin' | 'place' | 'mesh' | 'grow' | 'gauge' | 'flow';
  readonly label: string;
}

/** What a node does with the attributes of its first geometry. */
export interface AttributeUse {
  /** Attributes that it looks at by itself, apart from those that its settings name. */
  readonly reads: readonly string[];
  /** Attributes that it writes, whatever was there before. */
  readonly writes: readonly string[];
  /** Carriers whose values go on with their elements. */
  readonly keeps: readonly Carrier[];
  /** Attributes that are void afterwards, though their carrier is kept. */
  readonly drops: readonly string[];
}

/**
 * What a node can choose to change: single points, whole curves, faces; `self`: it looks at the condition itself; `none`: all or nothing.
 */
export type WhereLevel = 'point' | 'curve' | 'face' | 'self' | 'none';

const everyCarrier: readonly Carrier[] = ['point', 'curve', 'corner', 'face', 'copy', 'whole'];

/** Everything about a kind of node. Forms, validation, help, search and listings are made from it. */
export interface NodeDefinition {
  readonly type: string;
  /** Raised when the same settings give another result, so that kept results are not used. */
  readonly version: number;
  readonly label: string;
  readonly family: NodeFamily;
  /** One line for search and lists. */
  readonly summary: string;
  /** A few sentences: what it does, when to use it, what it reads, writes, keeps and drops. */
  readonly help: string;
  readonly keywords: readonly string[];
  readonly inputs: readonly InputPort[];
  readonly outputs: readonly OutputPort[];
  readonly settings: Settings;
  /** Changes elements of what it is given, so it can be switched off: its first input then passes through. */
  readonly passes: boolean;
  /** What becomes of attributes. */
  readonly attributes: AttributeUse;
  /** Its result depends on the time. */
  readonly timed: boolean;
  /** What its `where` can choose, when it passes. */
  readonly where: WhereLevel;
  /** Settings as documents of an earlier time have them, put as they are now; the same object where there is nothing to change. */
  readonly upgrade?: UpgradeSettings;
  readonly run: (context: RunContext<never>) => Readonly<Record<string, Value>>;
}

export type UpgradeSettings = (settings: Readonly<Record<string, unknown>>) => Readonly<Record<string, unknown>>;

export interface NodeParts<S extends Settings> {
  type: string;
  version?: number;
  label: string;
  family: NodeFamily;
  summary: string;
  help: string;
  keywords?: readonly string[];
  inputs?: readonly InputPort[];
  outputs: readonly OutputPort[];
  settings: S;
  passes?: boolean;
  /** Left out: a node that passes things on keeps all values, others keep none. */
  attributes?: Partial<AttributeUse>;
  timed?: boolean;
  /** Default: `curve`. */
  where?: WhereLevel;
  upgrade?: UpgradeSettings;
  run: (context: RunContext<ValuesOf<S> & { readonly where?: boolean | Varying }>) => Readonly<Record<string, Value>>;
}

const whereHelp: Readonly<Record<WhereLevel, string>> = {
  point: 'Which points (of copies: which copies) are changed: all, none, or those for which a condition holds.',
  curve: 'Which curves are changed: all, none, or those for which a condition holds.',
  face: 'Which faces are changed: all, none, or those for which a condition holds.',
  self: 'Which faces are changed: all, none, or those for which a condition holds.',
  none: 'All of it is changed, or nothing.',
};

/** The settings that every node has which changes what passes through it. */
const passSettings = (level: WhereLevel): Settings => ({
  where: { kind: 'boolean', label: 'Only where', help: whereHelp[level], default: true, group: 'Switch', condition: level !== 'none' },
  on: { kind: 'boolean', label: 'On', help: 'Off: the node does nothing, and what comes in goes out unchanged.', default: true, group: 'Switch' },
});

/** Makes a node definition from its parts; the settings' types are those that `run` sees. */
export function defineNode<const S extends Settings>(parts: NodeParts<S>): NodeDefinition {
  const passes = parts.passes ?? false;
  const where = parts.where ?? 'curve';
  return {
    version: 1,
    keywords: [],
    inputs: [],
    ...parts,
    passes,
    attributes: { reads: [], writes: [], keeps: passes ? everyCarrier : [], drops: [], ...parts.attributes },
    timed: parts.timed ?? false,
    where,
    settings: passes ? { ...parts.settings, ...passSettings(where) } : parts.settings,
    run: parts.run as NodeDefinition['run'],
  };
}
