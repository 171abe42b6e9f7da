import type { Graph } from '../definition/graph.js';

/**
 * The edition of the defaults: what settings stand for that a document leaves out. A document without one is of edition 1. A change of a default makes a new
 * edition, and older documents get the old value written down when they are read (`SettingBase.earlier`), so that they stay as they were.
 */
export const currentEdition = 3;

/** A document: what an artist makes and keeps. Plain data; see `documentSchema`. */
export interface FilaxisDocument extends Graph {
  readonly format: 'filaxis-graph';
  readonly version: 1;
  readonly edition?: number;
  readonly title: string;
  readonly dials?: readonly Dial[];
  readonly areas?: readonly Readonly<Record<string, unknown>>[];
  readonly notes?: readonly Readonly<Record<string, unknown>>[];
  readonly view?: Readonly<Record<string, unknown>>;
  /** Names of imported files by the SHA-256 of their bytes. */
  readonly assets?: Readonly<Record<string, AssetInfo>>;
}

export interface AssetInfo {
  readonly name: string;
  readonly bytes: number;
  /** Of a frozen result: when it was taken (ISO 8601). */
  readonly taken?: string;
}

export const dialKinds = ['number', 'integer', 'vector', 'boolean', 'choice', 'colour', 'text', 'seed'] as const;
export type DialKind = (typeof dialKinds)[number];
export type DialValue = number | boolean | string | readonly number[];

export interface Dial {
  readonly id: string;
  readonly label: string;
  readonly kind: DialKind;
  readonly value: DialValue;
  readonly min?: number;
  readonly max?: number;
  readonly step?: number;
  readonly unit?: string;
  readonly choices?: readonly string[];
  readonly group?: string;
}

export const emptyDocument: FilaxisDocument = {
  format: 'filaxis-graph',
  version: 1,
  edition: currentEdition,
  title: 'Untitled',
  dials: [],
  nodes: [],
  wires: [],
  areas: [],
  notes: [],
  view: {},
};

const id = { type: 'string', pattern: '^[A-Za-z][A-Za-z0-9_-]{0,63}$' } as const;
const end = { type: 'array', items: [id, { type: 'string', minLength: 1, maxLength: 40 }], minItems: 2, additionalItems: false } as const;
const finite = { type: 'number', minimum: -1e12, maximum: 1e12 } as const;

/** Most letters in the name of a node. */
export const longestName = 60;

/** JSON Schema (draft-07) of a document, version 1. Settings are checked against the node definitions in a second step. */
export const documentSchema = {
  $schema: 'http://json-schema.org/draft-07/schema#',
  $id: 'filaxis-graph-1',
  title: 'Filaxis document, version 1',
  type: 'object',
  required: ['format', 'version', 'title', 'nodes', 'wires'],
  additionalProperties: false,
  properties: {
    format: { const: 'filaxis-graph' },
    version: { const: 1 },
    edition: { type: 'integer', minimum: 1, maximum: currentEdition },
    title: { type: 'string', minLength: 1, maxLength: 200 },
    dials: {
      type: 'array',
      maxItems: 500,
      items: {
        type: 'object',
        required: ['id', 'label', 'kind', 'value'],
        additionalProperties: false,
        properties: {
          id,
          label: { type: 'string', minLength: 1, maxLength: 80 },
          kind: { enum: dialKinds },
          value: { type: ['number', 'boolean', 'string', 'array'], items: finite, maxItems: 4, maxLength: 2000 },
          min: finite,
          max: finite,
          step: { type: 'number', exclusiveMinimum: 0, maximum: 1e12 },
          unit: { type: 'string', maxLength: 20 },
          choices: { type: 'array', items: { type: 'string', maxLength: 80 }, minItems: 1, maxItems: 200 },
          group: { type: 'string', maxLength: 80 },
        },
      },
    },
    nodes: {
      type: 'array',
      maxItems: 5000,
      items: {
        type: 'object',
        required: ['id', 'type'],
        additionalProperties: false,
        properties: {
          id,
          type: { type: 'string', minLength: 1, maxLength: 80 },
          name: { type: 'string', minLength: 1, maxLength: longestName },
          at: { type: 'array', items: [finite, finite], minItems: 2, additionalItems: false },
          settings: { type: 'object' },
        },
      },
    },
    wires: {
      type: 'array',
      maxItems: 20000,
      items: { type: 'object', required: ['from', 'to'], additionalProperties: false, properties: { from: end, to: end } },
    },
    areas: { type: 'array', maxItems: 1000, items: { type: 'object' } },
    notes: { type: 'array', maxItems: 1000, items: { type: 'object' } },
    view: { type: 'object' },
    assets: {
      type: 'object',
      propertyNames: { pattern: '^[0-9a-f]{64}$' },
      additionalProperties: {
        type: 'object',
        required: ['name', 'bytes'],
        additionalProperties: false,
        properties: {
          name: { type: 'string', minLength: 1, maxLength: 200 },
          bytes: { type: 'integer', minimum: 0 },
          taken: { type: 'string', pattern: '^\\d{4}-\\d{2}-\\d{2}T[0-9:.]+Z$' },
        },
      },
    },
  },
} as const;
