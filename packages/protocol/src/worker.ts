import type { Counts, DialValues, FilaxisDocument, Material, Measures, Problem, Warning } from '@filaxis/core';
import type { WriteCure, WriteOptions } from '@filaxis/formats';
import type { Answers, Questions, Topic } from './ask.js';

/** What the words of the memory that page and worker share mean. */
export const SharedWord = {
  /** The newest run's number, so that a step at work can see that it is out of date. */
  run: 0,
  /** How often reading was stopped. */
  reading: 1,
  /** Which node of the document is at work, counted from 1: known also when the worker says nothing any more. */
  atWork: 2,
  /** How often writing a file was stopped. */
  writing: 3,
} as const;

/** Number of the run that a message belongs to; newer runs have greater numbers. */
export type RunNumber = number;

/** What the page tells the worker. */
export type ToWorker =
  /** Once, first: shared memory with a word for each of `SharedWord`; null: the page may not share memory. */
  | { readonly kind: 'start'; readonly newest: Int32Array | null }
  /** A document was opened or changed. */
  | { readonly kind: 'document'; readonly document: FilaxisDocument }
  /** The bytes of an imported file, and its name if that is known. */
  | { readonly kind: 'asset'; readonly hash: string; readonly name: string; readonly bytes: Uint8Array }
  /** Why an imported file cannot be had. */
  | { readonly kind: 'asset-failed'; readonly hash: string; readonly message: string }
  /** A question about the newest results. */
  | { readonly kind: 'ask'; readonly request: number; readonly topic: Topic; readonly question: Questions[Topic] }
  /** `time`: seconds of the timeline, here and below; `spare`: memory of older pictures, to be used again. */
  | {
      readonly kind: 'run';
      readonly run: RunNumber;
      readonly dials: DialValues;
      readonly time: number;
      readonly show: Shown;
      readonly spare: readonly ArrayBuffer[];
    }
  /** Give what an output gives as bytes that keep every number of it. */
  | {
      readonly kind: 'freeze';
      readonly request: number;
      readonly dials: DialValues;
      readonly time: number;
      readonly from: readonly [node: string, output: string];
    }
  | {
      readonly kind: 'export';
      readonly request: number;
      readonly dials: DialValues;
      readonly time: number;
      /** The nodes whose results go into the file: outputs, and others. */
      readonly nodes: readonly string[];
      readonly ending: string;
      readonly name: string;
      readonly how: WriteOptions;
      /** All frames of a range, as an archive; null: the moment alone. */
      readonly frames: FrameRange | null;
    };

/** Which results the 3D view shows: the chosen node's, the outputs', or all that no one takes further. */
export type Shows = 'chosen' | 'outputs' | 'all';

/** What the 3D view is to show, and the curves that the Path strip looks at. */
export interface Shown {
  readonly shows: Shows;
  /** The node that is shown while `shows` is `chosen`; null: the outputs. */
  readonly looked: string | null;
  readonly peek: string | null;
  /** The curve of the strip, counted over all curves found. */
  readonly curve: number;
  /** The name shown in the strip's own row; null: none. */
  readonly stripName: string | null;
  /** Other curves are drawn behind the one of the strip. */
  readonly stripOthers: boolean;
  /** The node that was chosen, whose curves are looked at first. */
  readonly chosen: string | null;
  /** The attribute (or other name of formulas) that is shown as colour; null: none. */
  readonly colour: string | null;
  /** A node whose result is kept faintly in view; null: none. */
  readonly ghost: string | null;
}

/** What the worker tells the page. */
export type FromWorker =
  | {
      readonly kind: 'result';
      readonly run: RunNumber;
      readonly ms: number;
      readonly nodes: Readonly<Record<string, NodeState>>;
      /** Null: the picture did not change. */
      readonly picture: PictureParcel | null;
      /** The nodes whose results are shown; null: one of them has none, and the last picture stays. */
      readonly shown: readonly string[] | null;
      readonly problems: readonly Problem[];
    }
  /** After the result, so that the picture does not wait for it. */
  | { readonly kind: 'strip'; readonly run: RunNumber; readonly strip: PathStripData | null }
  | { readonly kind: 'progress'; readonly run: RunNumber; readonly node: string; readonly fraction: number }
  | { readonly kind: 'cancelled'; readonly run: RunNumber }
  /** The run broke off for a reason that is no fault of the document. */
  | { readonly kind: 'run-failed'; readonly run: RunNumber; readonly message: string }
  | { readonly kind: 'answer'; readonly request: number; readonly answer: Answers[Topic] }
  | { readonly kind: 'no-answer'; readonly request: number; readonly message: string }
  | { readonly kind: 'frozen'; readonly request: number; readonly bytes: Uint8Array<ArrayBuffer>; readonly counts: Counts }
  | { readonly kind: 'missing-asset'; readonly hash: string }
  /** How far a file is read, 0 to 1. */
  | { readonly kind: 'reading'; readonly hash: string; readonly fraction: number }
  | { readonly kind: 'asset-read'; readonly hash: string; readonly found: FileContent }
  | { readonly kind: 'asset-refused'; readonly hash: string; readonly message: string }
  /** How far an archive of frames is written, 0 to 1. */
  | { readonly kind: 'writing'; readonly request: number; readonly fraction: number }
  | {
      readonly kind: 'exported';
      readonly request: number;
      readonly file: Blob;
      readonly companion: Companion | null;
      readonly measures: Measures;
      /** There is nothing in the file: nothing has grown by that moment, say. */
      readonly empty: boolean;
    }
  | { readonly kind: 'export-failed'; readonly request: number; readonly message: string; readonly obstacle: Obstacle };

/** What stands in the way of a file: a node that has no result, or a choice that does not fit; null: neither is known. */
export type Obstacle = { readonly node: string } | { readonly cure: WriteCure } | null;

/** Frames of the timeline, both ends included. */
export interface FrameRange {
  readonly from: number;
  readonly to: number;
}

/** Elements in a file. */
export interface FileContent {
  readonly curves: number;
  readonly faces: number;
  readonly points: number;
}

/** A file that belongs beside an exported one. */
export interface Companion {
  readonly ending: string;
  readonly text: string;
}

export interface NodeState {
  readonly ms: number;
  readonly in: Counts;
  readonly out: Counts;
  readonly warnings: readonly Warning[];
  readonly error: Problem | null;
  /** The number or vector that it gives, as text; null: it gives none. */
  readonly value: string | null;
  /** The kind of each output, as it came out. */
  readonly kinds: Readonly<Record<string, string>>;
}

/** Buffers ready to draw. */
export interface Picture {
  readonly mesh: MeshPicture | null;
  readonly copies: readonly CopiesPicture[];
  readonly curves: CurvesPicture | null;
  readonly counts: {
    readonly faces: number;
    readonly triangles: number;
    readonly points: number;
    readonly curves: number;
    readonly length: number;
    readonly copies: number;
  };
  readonly bounds: { readonly min: readonly number[]; readonly max: readonly number[] } | null;
  readonly budget: number;
  /** Another node's result, drawn faintly. */
  readonly ghost: GhostPicture | null;
  /** Names that could be shown as colour. */
  readonly names: readonly string[];
  /** What is shown as colour, with its least and greatest finite value; null: nothing, or nothing shown has it. */
  readonly colour: { readonly name: string; readonly low: number; readonly high: number } | null;
}

/** In place of what the picture before had too, number for number: it is not sent again. */
export type Same = 'same';

/** A mesh on its way to the page. */
export type MeshParcel = {
  readonly [Part in keyof MeshPicture]: MeshPicture[Part] extends Float32Array | Uint32Array | null ? MeshPicture[Part] | Same : MeshPicture[Part];
};

/** A picture on its way to the page. Its buffers are handed over. */
export type PictureParcel = Omit<Picture, 'mesh' | 'copies' | 'curves'> & {
  readonly mesh: MeshParcel | null;
  readonly copies: readonly (Omit<CopiesPicture, 'mesh'> & { readonly mesh: MeshParcel })[];
  readonly curves: CurvesPicture | Same | null;
};

/** A placed object with the matrices of its copies (16 numbers each, column-major). */
export interface CopiesPicture {
  readonly mesh: MeshPicture;
  readonly matrices: Float32Array;
  readonly values: Float32Array | null;
}

export interface GhostPicture {
  readonly positions: Float32Array;
  readonly indices: Uint32Array;
  /** Pairs of ends of curves, 6 numbers a piece. */
  readonly lines: Float32Array;
}

export interface MeshPicture {
  readonly positions: Float32Array;
  readonly normals: Float32Array | null;
  readonly uv: Float32Array | null;
  /** Triangles, grouped by material. */
  readonly indices: Uint32Array;
  /** Triangles of one material; `backs`: whether their backs are seen where the file is opened. */
  readonly groups: readonly { readonly start: number; readonly count: number; readonly material: Material | null; readonly backs: boolean }[];
  /** Edges of the polygons, two vertices each, for the wire view; null: all are quads, each cut into two triangles that follow each other. */
  readonly edges: Uint32Array | null;
  /** What is shown as colour, a number a vertex (not finite: unknown); null: nothing. */
  readonly values: Float32Array | null;
}

export interface CurvesPicture {
  /** Pairs of ends, 6 numbers a piece. */
  readonly lines: Float32Array;
  /** Curve of each piece. */
  readonly curveOf: Uint32Array;
  /** The curves' points, with the frames at them (3 numbers each; normals are null without frames). */
  readonly points: Float32Array;
  readonly tangents: Float32Array;
  readonly normals: Float32Array;
  readonly pointCurve: Uint32Array;
  /** What is shown as colour, a number an end of `lines`; null: nothing. */
  readonly lineValues: Float32Array | null;
}

/** One curve unrolled: values at places along its length. */
export interface PathStripData {
  /** Which curve of how many, and the node it comes from. */
  readonly curve: number;
  readonly curves: number;
  readonly node: string;
  readonly length: number;
  readonly closed: boolean;
  /** Every how many points of the curve a place stands: 1, but for very long ones. */
  readonly step: number;
  /** Metres along, rising. */
  readonly s: Float32Array;
  readonly positions: Float32Array;
  /** Metres; null when nothing is swept along this curve. */
  readonly radius: Float32Array | null;
  /** Degrees between the frame and the least-turning one, −180…180. */
  readonly roll: Float32Array;
  /** 1/m. */
  readonly curvature: Float32Array;
  /** The same as it is drawn: two values where a straight piece meets an arc. */
  readonly bends: StripLine;
  /** Metres to the next place; the last from the one before. */
  readonly spacing: Float32Array;
  /** Any name of formulas at the places; null: none was asked for, or these points do not have it. */
  readonly attribute: { readonly name: string; readonly values: Float32Array } | null;
  /** Names that could be asked for. */
  readonly names: readonly string[];
  /** The ramp that the radius is given by, when it is one: its keys are edited right here. */
  readonly ramp: StripRamp | null;
  /** How the skin's UVs lie along: v at each place; null: no skin. */
  readonly v: Float32Array | null;
  /** The other curves: a sample of them, or none. */
  readonly others: readonly StripOther[];
  readonly warnings: readonly Warning[];
}

/** A ramp that gives the radius of a skin. */
export interface StripRamp {
  readonly node: string;
  readonly setting: string;
  readonly value: { readonly ramp: readonly (readonly [number, number])[]; readonly ease?: 'linear' | 'smooth' | 'steps'; readonly over?: string };
  /** Radius for a value of 1. */
  readonly factor: number;
  /** Least and greatest value of the setting. */
  readonly min: number;
  readonly max: number;
}

/** Values over metres along a curve. */
export interface StripLine {
  readonly s: Float32Array;
  readonly values: Float32Array;
}

/** Another curve, drawn thin behind the chosen one. */
export interface StripOther {
  readonly s: Float32Array;
  readonly radius: Float32Array | null;
  readonly bends: StripLine;
  readonly spacing: Float32Array;
  readonly attribute: Float32Array | null;
}
