import type { Carrier } from '../geometry/attributes.js';
import type { Copies } from '../geometry/copies.js';
import type { Curves } from '../geometry/curves.js';
import type { Geometry, GeometryKind, GeometrySet } from '../geometry/geometry.js';
import type { Mesh } from '../geometry/mesh.js';
import type { Points } from '../geometry/points.js';
import type { Field } from '../values/field.js';
import type { GivenNumbers } from '../varying/elements.js';
import type { PerElement } from '../varying/perElement.js';
import type { Varying } from '../varying/varying.js';
import type { VaryingVector, VectorField } from '../varying/varyingVector.js';
import type { Graph } from './graph.js';
import type { Handle } from './handles.js';
import type { Sample } from './sample.js';
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

/** What a node gives, by the names of its outputs. */
export type Outputs = Readonly<Record<string, Value>>;

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

/** Frames in a second of a timeline that says nothing else. */
export const framesPerSecond = 24;

interface GeometryOf {
  readonly curves: Curves;
  readonly points: Points;
  readonly mesh: Mesh;
  readonly copies: Copies;
}
/** What comes in at a port: what is wired to it is converted to the kinds that it takes. */
type GivenAt<P extends InputPort> = 'any' extends P['kinds'][number] ? Geometry : GeometryOf[Extract<P['kinds'][number], GeometryKind>];
type PortNamed<I extends readonly InputPort[], N> = Extract<I[number], { readonly name: N }>;
type ManyPort = { readonly many: true };

interface ValueOfKind extends GeometryOf {
  readonly number: NumberValue;
  readonly vector: VectorValue;
  readonly any: Value;
}
/** What `run` gives: a value of its kind for every output. A node without outputs gives what is kept under names of its own. */
export type ResultOf<O extends readonly OutputPort[]> = O['length'] extends 0 ? Outputs : { readonly [P in O[number] as P['name']]: ValueOfKind[P['kind']] };

/** What a node's `run` can see and say. */
export interface RunContext<V, I extends readonly InputPort[] = readonly InputPort[]> extends Work {
  readonly settings: V;
  /** The geometry at a port of one wire, of the kinds that it takes. Without one the node is not run, unless the port is optional. */
  input<N extends Exclude<I[number], ManyPort>['name']>(
    port: N,
  ): GivenAt<PortNamed<I, N>> | (PortNamed<I, N> extends { readonly optional: true } ? undefined : never);
  /** All geometries at a port of many wires, in the order of the wires; empty ones are left out. */
  inputs<N extends Extract<I[number], ManyPort>['name']>(port: N): readonly GivenAt<PortNamed<I, N>>[];
  /** The values of a varying setting, one per point (vertex of a mesh), curve, face or copy; each within the setting's range. */
  field(value: boolean | Varying, over: Geometry, per: PerElement): Field;
  /** The same for a varying vector. */
  vectorField(value: VaryingVector, over: Geometry, per: PerElement): VectorField;
  /** Seconds of the timeline; only nodes that are `timed` may look at it. */
  readonly time: number;
  /** Frames a second of the timeline. */
  readonly rate: number;
  /** Dials and times that a formula among the text settings names. */
  readonly given: GivenNumbers;
  warn(warning: Warning): void;
  /**
   * Runs a graph inside this node, with the same limits, memory of results, stop and messages. `given` are outputs of nodes of the graph that are not run but stand for
   * what comes in; `time` may be another than the own. @throws Error naming the node inside that gives no result.
   */
  evaluate(graph: Graph, given: Readonly<Record<string, Outputs>>, time?: number): Promise<Readonly<Record<string, Outputs>>>;
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
  /** Attributes that it writes under names that its settings give. */
  readonly named?: (settings: Readonly<Record<string, unknown>>) => readonly string[];
}

/** Faults of a mesh that a node behind it can mend. */
export type MendableFault = 'inside-out' | 'winding' | 'double' | 'degenerate' | 'shading' | 'stretch';

/** Something that eases a warning: a value for a setting of the node itself, or a node put before its first input. */
export type Ease =
  | { readonly label: string; readonly setting: string; readonly value: unknown }
  | {
      readonly label: string;
      /** The type of the node; its further inputs are given what those of the same names at the warned one are given. */
      readonly before: string;
      /** Its settings, from those of the warned node as they were evaluated; null: these cannot tell them. */
      readonly settings: (of: Readonly<Record<string, unknown>>) => Readonly<Record<string, unknown>> | null;
    };

/** What a node is to the rest of the program, so that nothing else keeps lists of nodes by name. */
export interface NodeFacts {
  /** The settings that say most of it, the first foremost. */
  readonly telling: readonly string[];
  /** What artists ask for that this node does, in their words, each with the settings that do it. */
  readonly asks: Readonly<Record<string, Readonly<Record<string, unknown>>>>;
  /** How usual it is behind a wire of a kind: 1 is the first guess. */
  readonly usualAfter: Partial<Readonly<Record<PortKind, number>>>;
  /** Of a skin along curves: the setting that gives its thickness, and the factor from it to the radius; null: no one setting tells it. */
  readonly thickness?: { readonly setting: string; readonly toRadius: number } | null;
  /** Of a skin along curves: faces that it makes of each piece between two points, with these settings; no number where they follow something. */
  readonly facesPerPiece?: (settings: Readonly<Record<string, unknown>>) => number;
  /** Of curves that know it: the formula of how thick they are, metres across. A skin that is put behind them begins so. */
  readonly thick?: string;
  /** Faults that it mends when it is put behind the node that made them, with settings for it from those of that node. */
  readonly mends: Partial<
    Readonly<Record<MendableFault, { readonly label: string; readonly settings: (of: Readonly<Record<string, unknown>>) => Readonly<Record<string, unknown>> }>>
  >;
  /** What can be done, the nearest first, so that it need not warn any more. */
  readonly eases: Partial<Readonly<Record<WarningCode, readonly Ease[]>>>;
  /** `output`: it is a result of the document; `drawing`: its data is drawn in the 3D view; `import`: its data comes from a file. */
  readonly role?: 'output' | 'drawing' | 'import';
  /** Whether with these settings of the document it gives its result without what is wired to it, which then need not be there. */
  readonly standsAlone?: (settings: Readonly<Record<string, unknown>>) => boolean;
  /** What of its settings can be taken hold of in the 3D view. */
  readonly handles: readonly Handle[];
  /** How it is shown at work; null: it cannot be without a file of the artist's. */
  readonly sample: Sample | null;
  /** Types that documents of an earlier time have for it. */
  readonly formerly: readonly string[];
}

/**
 * What a node can choose to change: single points, whole curves, faces; `self`: it looks at the condition itself; `none`: all or nothing.
 */
export type WhereLevel = 'point' | 'curve' | 'face' | 'self' | 'none';

const everyCarrier: readonly Carrier[] = ['point', 'curve', 'corner', 'face', 'copy', 'whole'];

/** Everything about a kind of node. Forms, validation, help, search and listings are made from it. */
export interface NodeDefinition extends NodeFacts {
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
  /** Whether with these settings (as they stand in the document, or settled) its result depends on the time. */
  readonly timed: (settings: Readonly<Record<string, unknown>>) => boolean;
  /** What its `where` can choose, when it passes. */
  readonly where: WhereLevel;
  /** Settings as documents of an earlier time have them, put as they are now; the same object where there is nothing to change. */
  readonly upgrade?: UpgradeSettings;
  /** Settings of a document of an earlier edition, put so that they mean what they meant in it; `wired`: whether a wire goes into a port. */
  readonly keepsMeaning?: KeepMeaning;
  readonly run: (context: RunContext<never>) => Outputs | Promise<Outputs>;
}

export type UpgradeSettings = (settings: Readonly<Record<string, unknown>>) => Readonly<Record<string, unknown>>;

export type KeepMeaning = (settings: Readonly<Record<string, unknown>>, edition: number, wired: (port: string) => boolean) => Readonly<Record<string, unknown>>;

export interface NodeParts<S extends Settings, I extends readonly InputPort[], O extends readonly OutputPort[]> extends Partial<NodeFacts> {
  type: string;
  version?: number;
  label: string;
  family: NodeFamily;
  summary: string;
  help: string;
  keywords?: readonly string[];
  inputs?: I;
  outputs: O;
  settings: S;
  passes?: boolean;
  /** Left out: a node that passes things on keeps all values, others keep none. */
  attributes?: Partial<AttributeUse>;
  timed?: NodeDefinition['timed'];
  /** Default: `curve`. */
  where?: WhereLevel;
  upgrade?: UpgradeSettings;
  keepsMeaning?: KeepMeaning;
  run: (context: RunContext<ValuesOf<S> & { readonly where?: boolean | Varying }, I>) => ResultOf<O> | Promise<ResultOf<O>>;
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

/** Makes a node definition from its parts; the types of settings, inputs and outputs are those that `run` sees and has to give. */
export function defineNode<const S extends Settings, const I extends readonly InputPort[], const O extends readonly OutputPort[]>(
  parts: NodeParts<S, I, O>,
): NodeDefinition {
  const passes = parts.passes ?? false;
  const where = parts.where ?? 'curve';
  return {
    version: 1,
    keywords: [],
    inputs: [],
    telling: [],
    asks: {},
    sample: {},
    formerly: [],
    handles: [],
    usualAfter: {},
    mends: {},
    eases: {},
    ...parts,
    passes,
    attributes: { reads: [], writes: [], keeps: passes ? everyCarrier : [], drops: [], ...parts.attributes },
    timed: parts.timed ?? ((): boolean => false),
    where,
    settings: passes ? { ...parts.settings, ...passSettings(where) } : parts.settings,
    // Which names there are is known to those who write the node, not to those who run it.
    run: parts.run as unknown as NodeDefinition['run'],
  };
}
