import type { FilaxisDocument } from '@filaxis/core';

/** One document in the Library. */
export interface DocumentCard {
  readonly id: string;
  readonly title: string;
  readonly version: number;
  /** ISO 8601. */
  readonly createdAt: string;
  readonly updatedAt: string;
  readonly nodes: number;
  readonly dials: number;
  /** Version that the picture shows; null: none yet. */
  readonly pictureOf: number | null;
  /** Comes with the demo data. */
  readonly sample: boolean;
  /** What is stored cannot be read by the database; it can be deleted. */
  readonly damaged?: boolean;
}

/** A document that was deleted and can be brought back. */
export interface DeletedDocument {
  readonly id: string;
  readonly title: string;
  /** ISO 8601: when it was deleted, and when it goes for good. */
  readonly deletedAt: string;
  readonly goesAt: string;
}

export interface StoredDocument {
  readonly id: string;
  readonly version: number;
  /** Version that the picture shows; null: none yet. */
  readonly pictureOf: number | null;
  readonly document: FilaxisDocument;
  /** The key of the request that saved it; null: it had none. */
  readonly key: string | null;
}

export interface VersionInfo {
  readonly version: number;
  readonly title: string;
  readonly createdAt: string;
  /** What its artist says of it. */
  readonly note: string | null;
  /** There is a picture of it. */
  readonly pictured: boolean;
  /** What it made when the picture was taken. */
  readonly faces: number | null;
  readonly points: number | null;
}

/** The secret of a handout's link. */
export interface HandoutLink {
  readonly token: string;
}

/** What a handout shows. It does not tell where the document is kept. */
export interface Handout {
  readonly version: number;
  readonly document: FilaxisDocument;
}

/** What creating and saving answer. */
export interface Saved {
  readonly id: string;
  readonly version: number;
}

/** RFC 9457 problem details. */
export interface ProblemDetails {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly detail: string;
  /** JSON Pointers into the body, and what is wrong there. */
  readonly errors?: readonly { readonly pointer: string; readonly message: string }[];
  /** With 409: the version that is stored. */
  readonly current?: number;
}

/** Media type of problem details. */
export const problemType = 'application/problem+json';

/** Bytes that bodies may have. */
export const bodyLimits = { document: 8 * 1024 * 1024, picture: 512 * 1024, asset: 64 * 1024 * 1024 } as const;

const document = { type: 'object' } as const;
const versionNumber = { type: 'integer', minimum: 1, maximum: 2_000_000_000 } as const;
const uuid = { type: 'string', pattern: '^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$' } as const;

/** JSON Schemas (draft-07) of what the API takes. The document inside is checked against its own schema. */
export const requestSchemas = {
  /** `key`: a UUID of the request, the same when it is asked again because its answer was lost. */
  createDocument: { type: 'object', required: ['document'], additionalProperties: false, properties: { document, key: uuid } },
  saveDocument: {
    type: 'object',
    required: ['document', 'baseVersion'],
    additionalProperties: false,
    properties: { document, baseVersion: versionNumber, key: uuid },
  },
  setNote: { type: 'object', required: ['note'], additionalProperties: false, properties: { note: { type: 'string', maxLength: 500 } } },
  pictureQuery: {
    type: 'object',
    additionalProperties: false,
    properties: { faces: { type: 'string', pattern: '^[0-9]{1,9}$' }, points: { type: 'string', pattern: '^[0-9]{1,9}$' } },
  },
  handoutParams: { type: 'object', required: ['token'], properties: { token: { type: 'string', pattern: '^[A-Za-z0-9_-]{22}$' } } },
  handoutAssetParams: {
    type: 'object',
    required: ['token', 'hash'],
    properties: { token: { type: 'string', pattern: '^[A-Za-z0-9_-]{22}$' }, hash: { type: 'string', pattern: '^[0-9a-f]{64}$' } },
  },
  documentParams: { type: 'object', required: ['id'], properties: { id: uuid } },
  versionParams: { type: 'object', required: ['id', 'version'], properties: { id: uuid, version: { type: 'string', pattern: '^[1-9][0-9]{0,8}$' } } },
  assetParams: { type: 'object', required: ['hash'], properties: { hash: { type: 'string', pattern: '^[0-9a-f]{64}$' } } },
  assetQuery: { type: 'object', additionalProperties: false, properties: { name: { type: 'string', minLength: 1, maxLength: 200 } } },
  listQuery: {
    type: 'object',
    additionalProperties: false,
    properties: {
      from: { type: 'string', pattern: '^[0-9]{1,7}$' },
      count: { type: 'string', pattern: '^([1-9][0-9]?|1[0-9]{2}|200)$' },
      search: { type: 'string', maxLength: 200 },
      sort: { type: 'string', enum: ['changed', 'name'] },
    },
  },
  pictureOf: { type: 'object', additionalProperties: false, properties: { v: { type: 'string', pattern: '^[0-9]{1,10}$' } } },
  report: {
    type: 'object',
    required: ['message'],
    additionalProperties: false,
    properties: { message: { type: 'string', maxLength: 2000 }, where: { type: 'string', maxLength: 4000 }, page: { type: 'string', maxLength: 200 } },
  },
} as const;
