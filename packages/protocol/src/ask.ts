import type { Counts, Finding, PerElement, UvSheet } from '@filaxis/core';

/** What the page may ask the worker about the newest results. Each question gets one answer. */
export interface Questions {
  /** Names that a setting's formula can use, and the values that the setting has now. */
  names: { readonly node: string; readonly setting: string };
  /** All that is wrong or worth a look. Given up when a newer run begins. */
  checks: Record<string, never>;
  /** A window of the values of a result's elements. */
  table: TableQuestion;
  /** Figures of one column of that table, with its distribution. */
  column: TableQuestion & { readonly column: string };
  /** The element of that table at a place, and its row. */
  locate: TableQuestion & { readonly place: readonly [number, number, number] };
  /** The whole table as CSV. */
  csv: TableQuestion;
  /** What of a result can be chosen for a file. */
  writable: { readonly nodes: readonly string[] };
  /** Where lines of sight (unit directions) meet the body that a node draws on. */
  onBody: { readonly node: string; readonly rays: readonly { readonly from: readonly number[]; readonly along: readonly number[] }[] };
  /** Where the points of a node's strokes lie on its body as that is now. */
  strokePoints: { readonly node: string };
  /** Edges of the surfaces that are shown: borders of panels, with `sharp` those where faces meet at more than 30° too. */
  edges: { readonly sharp: boolean };
  /** What of a node's result is to be seen in the picture, to be outlined. */
  outline: { readonly node: string };
  /** Which node made what is seen at a place. */
  maker: Seen;
  /** What a place that was clicked hangs on, so that it goes along when the document changes. */
  anchor: { readonly seen: Seen; readonly place: readonly number[] };
  /** Where measures are now, and what they come to. */
  measured: { readonly measures: readonly Measure[] };
  /** The UVs of a node's mesh, or where it has none, of what is shown. */
  uvSheet: { readonly node: string | null };
}

/** Something in the picture, told by its numbers there: a triangle by its corners (9 numbers), of a copy with its matrix (16); a point of curves by its place. */
export interface Seen {
  readonly corners: readonly number[] | null;
  readonly copy: readonly number[] | null;
  readonly point: readonly number[] | null;
}

/** A place that a measure begins or ends at: of a mesh by a triangle of its vertices, of curves by a share of the length. Where what it hung on is gone, it stays at `place`. */
export interface Anchor {
  /** The node whose result it hangs on; null: it hangs on nothing. */
  readonly node: string | null;
  readonly place: readonly number[];
  /** Vertices of the node's mesh, and their shares. */
  readonly vertices?: readonly number[];
  readonly shares?: readonly number[];
  /** A curve of the node's, and how far along it, 0 to 1. */
  readonly curve?: number;
  readonly share?: number;
}

/** Places that each kind of measure takes: the way between two, the way along a curve between two, the angle at the middle one of three, the radius of a bend at one. */
export const measurePlaces = { distance: 2, along: 2, angle: 3, bend: 1 } as const;
export type MeasureKind = keyof typeof measurePlaces;

export interface Measure {
  readonly kind: MeasureKind;
  readonly anchors: readonly Anchor[];
}

/** A measure as it is now. */
export interface Measured {
  readonly places: readonly (readonly number[])[];
  /** What is drawn for it, points in order. */
  readonly line: readonly (readonly number[])[];
  /** Metres, or degrees of an angle; null: there is none, and `why`. */
  readonly value: number | null;
  readonly why: string | null;
  /** Something it hung on is gone. */
  readonly lost: boolean;
}

/** What made something in the picture. */
export interface Maker {
  readonly node: string;
  /** What it went through behind that node on its way into the picture, the first behind it first. */
  readonly through: readonly string[];
  /** The element of the node's result: of which geometry, counted by what, and which. */
  readonly kind: 'mesh' | 'copies' | 'curves' | 'points';
  readonly per: PerElement;
  readonly element: number;
  /** Its part or curve, where it has one. */
  readonly part: number | null;
}

/** What is outlined: triangles, how often they are placed (16 numbers each; null: once, where they are), and lines (6 numbers a piece). */
export interface OutlinePicture {
  readonly positions: Float32Array;
  readonly indices: Uint32Array;
  readonly matrices: Float32Array | null;
  readonly lines: Float32Array;
  readonly bounds: { readonly min: readonly number[]; readonly max: readonly number[] } | null;
}

export interface Answers {
  names: NamesAnswer;
  checks: readonly Finding[];
  table: TableAnswer;
  column: ColumnAnswer;
  locate: LocateAnswer;
  csv: string;
  writable: WritableAnswer;
  /** How many triangles the body has, and for each line where it is met; null: nowhere. */
  onBody: { readonly triangles: number; readonly hits: readonly (BodyHit | null)[] };
  /** For each stroke its points, in metres. */
  strokePoints: readonly (readonly (readonly number[])[])[];
  /** 6 numbers an edge. */
  edges: Float32Array;
  /** Null: nothing of it is in the picture. */
  outline: OutlinePicture | null;
  /** Null: nothing that is shown has it. */
  maker: Maker | null;
  anchor: Anchor;
  measured: readonly Measured[];
  /** Null: there are no UVs. */
  uvSheet: UvSheet | null;
}

/** A place on a body: in metres, and as a triangle with the shares of its second and third corner. */
export interface BodyHit {
  readonly place: readonly [number, number, number];
  readonly on: readonly [triangle: number, second: number, third: number];
}

export type Topic = keyof Questions;

export interface NamesAnswer {
  /** The elements that the setting is given for are known, so no other names are to be had. */
  readonly complete: boolean;
  readonly names: readonly KnownName[];
  /** Attributes of three numbers, which a setting that is a vector can be given by. */
  readonly vectors: readonly string[];
  /** The values that the setting has now; null when it has none. */
  readonly values: ValuesSketch | null;
}

export interface KnownName {
  readonly name: string;
  readonly help: string;
  readonly kind: 'element' | 'attribute' | 'dial';
  /** Least and greatest now; null where it cannot be told. */
  readonly range: readonly [number, number] | null;
}

export interface ValuesSketch {
  readonly low: number;
  readonly high: number;
  readonly mean: number;
  readonly count: number;
  /** Up to 120 of the values in order: of the first curve where they belong to points of curves. */
  readonly line: readonly number[];
  /** How many values fall into each of 24 even steps from low to high. */
  readonly bins: readonly number[];
}

/** What results have that a file can be made of in more than one way. */
export interface WritableAnswer {
  /** Names of UV sets, and of values that could be a vertex colour. */
  readonly uvSets: readonly string[];
  readonly colours: readonly string[];
  /** Parts that its faces belong to, and copies. */
  readonly parts: number;
  readonly copies: number;
  /** The objects of the file by name, and what is in each. */
  readonly pieces: readonly { readonly name: string; readonly counts: Counts }[];
  /** Formats that can hold it, by their endings. */
  readonly endings: readonly string[];
  /** The node that is in the way, and why; null: none. */
  readonly fault: { readonly node: string; readonly message: string } | null;
}

/** Which elements of which result, in which order. */
export interface TableQuestion {
  readonly node: string;
  /** Which of the node's geometries, when it has several. */
  readonly kind: string | null;
  readonly per: PerElement | null;
  readonly sort: { readonly column: string; readonly descending: boolean } | null;
  /** A formula: elements for which it is not 0. Empty: all. */
  readonly filter: string;
  readonly from: number;
  readonly count: number;
}

export interface TableAnswer {
  readonly kind: string;
  readonly kinds: readonly string[];
  readonly per: PerElement;
  readonly pers: readonly PerElement[];
  readonly columns: readonly string[];
  /** Elements in the table, and how many there are without the filter. */
  readonly total: number;
  readonly all: number;
  readonly from: number;
  /** The element of each row, and its values: columns a row. */
  readonly elements: Uint32Array;
  readonly values: Float64Array;
  /** A place of each row in space, 3 numbers: where the 3D view flies to. */
  readonly places: Float32Array;
}

export interface LocateAnswer {
  readonly element: number;
  /** Null: the filter leaves it out. */
  readonly row: number | null;
  readonly place: readonly number[];
}

export interface ColumnAnswer {
  readonly column: string;
  readonly sketch: ValuesSketch | null;
  /** Values that are not finite. */
  readonly notFinite: number;
}
