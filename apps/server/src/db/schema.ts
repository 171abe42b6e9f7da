import type { FilaxisDocument } from '@filaxis/core';
import { customType, index, integer, json, pgTable, primaryKey, text, timestamp, uniqueIndex, uuid } from 'drizzle-orm/pg-core';

const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' });
const moment = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' });

/** One row a document; what it holds is in its versions. */
export const documents = pgTable(
  'documents',
  {
    id: uuid('id').primaryKey().defaultRandom(),
    title: text('title').notNull(),
    /** Number of the newest version. */
    version: integer('version').notNull(),
    /** Name among the demo documents, for those that came with them. */
    sample: text('sample').unique(),
    createdAt: moment('created_at').notNull().defaultNow(),
    updatedAt: moment('updated_at').notNull().defaultNow(),
    /** Deleted, but can be brought back for a while. */
    deletedAt: moment('deleted_at'),
    /** The key of the request that made it, so that one that is asked again is known. */
    key: uuid('key').unique(),
  },
  (table) => [index('documents_changed').on(table.updatedAt.desc(), table.title)],
);

/** Every saved version, never changed afterwards. */
export const versions = pgTable(
  'document_versions',
  {
    documentId: uuid('document_id')
      .notNull()
      .references(() => documents.id),
    version: integer('version').notNull(),
    title: text('title').notNull(),
    document: json('document').$type<FilaxisDocument>().notNull(),
    createdAt: moment('created_at').notNull().defaultNow(),
    /** What its artist says of it. The only thing of a version that changes. */
    note: text('note'),
    /** The key of the request that saved it, so that one that is asked again is known. */
    key: uuid('key'),
  },
  (table) => [
    primaryKey({ columns: [table.documentId, table.version] }),
    index('document_versions_created').on(table.createdAt),
    uniqueIndex('document_versions_key').on(table.documentId, table.key),
  ],
);

/** The newest picture of a document, PNG. */
export const pictures = pgTable('pictures', {
  documentId: uuid('document_id')
    .primaryKey()
    .references(() => documents.id),
  version: integer('version').notNull(),
  png: bytea('png').notNull(),
});

/** How versions looked, PNG, with what they made. Of long histories only the newest and those with a note keep theirs. */
export const versionPictures = pgTable(
  'version_pictures',
  {
    documentId: uuid('document_id')
      .notNull()
      .references(() => documents.id),
    version: integer('version').notNull(),
    png: bytea('png').notNull(),
    faces: integer('faces'),
    points: integer('points'),
  },
  (table) => [primaryKey({ columns: [table.documentId, table.version] })],
);

/** Links under which somebody sees a document's dials and result, and can change nothing. */
export const handouts = pgTable('handouts', {
  /** The secret in the link. */
  token: text('token').primaryKey(),
  documentId: uuid('document_id')
    .notNull()
    .unique()
    .references(() => documents.id),
  createdAt: moment('created_at').notNull().defaultNow(),
});

/** Imported files by the SHA-256 of their bytes, each stored once. */
export const assets = pgTable('assets', {
  hash: text('hash').primaryKey(),
  name: text('name').notNull(),
  size: integer('size').notNull(),
  bytes: bytea('bytes').notNull(),
  createdAt: moment('created_at').notNull().defaultNow(),
});
