import { and, asc, desc, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import { upgradeDocument, type FilaxisDocument } from '@filaxis/core';
import type { DocumentCard, Saved, StoredDocument, VersionInfo } from '@filaxis/protocol';
import type { Database } from '../db/database.js';
import { documents, pictures, versionPictures, versions } from '../db/schema.js';
import { Conflict, NotFound } from './errors.js';

/** Versions back from the newest whose pictures are kept without a note. */
const keptPictures = 200;

/** Whether the database could not read a stored text: an escape that stands for no character (22P05), or is half of one (22P02). */
function isUnreadable(error: unknown): boolean {
  for (let at = error; at instanceof Error; at = at.cause) if (['22P05', '22P02'].includes(String((at as { code?: unknown }).code))) return true;
  return false;
}

/** Documents and their versions. Versions are only ever added; saving names the version it started from. */
export class DocumentStore {
  constructor(private readonly db: Database) {}

  /** All that are not deleted, the newest first. One whose text the database cannot read is damaged, and hurts no other. */
  async list(): Promise<DocumentCard[]> {
    try {
      return await this.cards(true);
    } catch (error) {
      if (!isUnreadable(error)) throw error;
    }
    const plain = await this.cards(false);
    const counted = [];
    for (const card of plain) {
      const known = await this.cards(true, card.id).catch((error: unknown) => {
        if (isUnreadable(error)) return [];
        throw error;
      });
      counted.push(known[0] ?? { ...card, damaged: true });
    }
    return counted;
  }

  private async cards(counts: boolean, id?: string): Promise<DocumentCard[]> {
    const rows = await this.db
      .select({
        id: documents.id,
        title: documents.title,
        version: documents.version,
        createdAt: documents.createdAt,
        updatedAt: documents.updatedAt,
        sample: documents.sample,
        pictureOf: pictures.version,
        nodes: counts ? sql<number>`json_array_length(${versions.document}->'nodes')` : sql<number>`0`,
        dials: counts ? sql<number>`coalesce(json_array_length(${versions.document}->'dials'), 0)` : sql<number>`0`,
      })
      .from(documents)
      .innerJoin(versions, and(eq(versions.documentId, documents.id), eq(versions.version, documents.version)))
      .leftJoin(pictures, eq(pictures.documentId, documents.id))
      .where(and(isNull(documents.deletedAt), id === undefined ? undefined : eq(documents.id, id)))
      .orderBy(desc(documents.updatedAt), asc(documents.title));
    return rows.map((row) => ({ ...row, createdAt: row.createdAt.toISOString(), updatedAt: row.updatedAt.toISOString(), sample: row.sample !== null }));
  }

  async create(document: FilaxisDocument, sample: string | null = null): Promise<Saved> {
    return this.db.transaction(async (tx) => {
      const [row] = await tx.insert(documents).values({ title: document.title, version: 1, sample }).returning({ id: documents.id });
      await tx.insert(versions).values({ documentId: row.id, version: 1, title: document.title, document });
      return { id: row.id, version: 1 };
    });
  }

  /** @throws NotFound */
  async newest(id: string): Promise<StoredDocument> {
    const [row] = await this.db
      .select({ version: versions.version, pictureOf: pictures.version, document: versions.document })
      .from(documents)
      .innerJoin(versions, and(eq(versions.documentId, documents.id), eq(versions.version, documents.version)))
      .leftJoin(pictures, eq(pictures.documentId, documents.id))
      .where(and(eq(documents.id, id), isNull(documents.deletedAt)));
    if (!row) throw new NotFound(`There is no document ${id}.`);
    return { id, ...row, document: upgradeDocument(row.document) };
  }

  /** @throws NotFound */
  async version(id: string, version: number): Promise<StoredDocument> {
    const [row] = await this.db
      .select({ document: versions.document })
      .from(versions)
      .where(and(eq(versions.documentId, id), eq(versions.version, version)));
    if (!row) throw new NotFound(`There is no version ${version} of document ${id}.`);
    return { id, version, pictureOf: null, document: upgradeDocument(row.document) };
  }

  async versions(id: string): Promise<VersionInfo[]> {
    const rows = await this.db
      .select({
        version: versions.version,
        title: versions.title,
        createdAt: versions.createdAt,
        note: versions.note,
        faces: versionPictures.faces,
        points: versionPictures.points,
        pictured: sql<boolean>`${versionPictures.version} is not null`,
      })
      .from(versions)
      .leftJoin(versionPictures, and(eq(versionPictures.documentId, versions.documentId), eq(versionPictures.version, versions.version)))
      .where(eq(versions.documentId, id))
      .orderBy(desc(versions.version))
      .limit(1000);
    return rows.map((row) => ({ ...row, createdAt: row.createdAt.toISOString() }));
  }

  /** Puts or takes away what is said of a version. @throws NotFound */
  async setNote(id: string, version: number, note: string): Promise<void> {
    const rows = await this.db
      .update(versions)
      .set({ note: note || null })
      .where(and(eq(versions.documentId, id), eq(versions.version, version)))
      .returning({ version: versions.version });
    if (!rows.length) throw new NotFound(`There is no version ${version} of document ${id}.`);
  }

  /** Adds a version after `baseVersion`. @throws Conflict when another was saved meanwhile; NotFound */
  async save(id: string, baseVersion: number, document: FilaxisDocument): Promise<Saved> {
    return this.db.transaction(async (tx) => {
      const [row] = await tx
        .update(documents)
        .set({ version: baseVersion + 1, title: document.title, updatedAt: new Date() })
        .where(and(eq(documents.id, id), eq(documents.version, baseVersion), isNull(documents.deletedAt)))
        .returning({ version: documents.version });
      if (!row) {
        const [there] = await tx.select({ version: documents.version }).from(documents).where(and(eq(documents.id, id), isNull(documents.deletedAt))); // prettier-ignore
        if (!there) throw new NotFound(`There is no document ${id}.`);
        throw new Conflict(`Version ${there.version} is stored; this was made from version ${baseVersion}.`, there.version);
      }
      await tx.insert(versions).values({ documentId: id, version: row.version, title: document.title, document });
      return { id, version: row.version };
    });
  }

  /** Hides a document; `restore` brings it back. @throws NotFound */
  async remove(id: string): Promise<void> {
    const rows = await this.db.update(documents).set({ deletedAt: new Date() }).where(and(eq(documents.id, id), isNull(documents.deletedAt))).returning({ id: documents.id }); // prettier-ignore
    if (!rows.length) throw new NotFound(`There is no document ${id}.`);
  }

  /** @throws NotFound */
  async restore(id: string): Promise<void> {
    const rows = await this.db.update(documents).set({ deletedAt: null }).where(and(eq(documents.id, id), isNotNull(documents.deletedAt))).returning({ id: documents.id }); // prettier-ignore
    if (!rows.length) throw new NotFound(`There is no deleted document ${id}.`);
  }

  /** Keeps the picture unless a newer version has one. @throws NotFound */
  async setPicture(id: string, version: number, png: Buffer, counts: { faces: number | null; points: number | null }): Promise<void> {
    const { version: newest } = await this.newest(id);
    if (version > newest) throw new NotFound(`There is no version ${version} of document ${id}.`);
    await this.db
      .insert(pictures)
      .values({ documentId: id, version, png })
      .onConflictDoUpdate({ target: pictures.documentId, set: { version, png }, setWhere: sql`${pictures.version} <= ${version}` });
    await this.keepVersionPicture(id, version, png, counts);
  }

  /** Keeps how a version looks; pictures of versions long past that have no note are let go. */
  private async keepVersionPicture(id: string, version: number, png: Buffer, counts: { faces: number | null; points: number | null }): Promise<void> {
    const row = { png, ...counts };
    await this.db
      .insert(versionPictures)
      .values({ documentId: id, version, ...row })
      .onConflictDoUpdate({ target: [versionPictures.documentId, versionPictures.version], set: row });
    await this.db.execute(sql`
      delete from ${versionPictures} where document_id = ${id} and version <= ${version - keptPictures}
      and not exists (select 1 from ${versions} v where v.document_id = ${id} and v.version = ${versionPictures.version} and v.note is not null)`);
  }

  /** @throws NotFound */
  async versionPicture(id: string, version: number): Promise<Buffer> {
    const [row] = await this.db
      .select({ png: versionPictures.png })
      .from(versionPictures)
      .where(and(eq(versionPictures.documentId, id), eq(versionPictures.version, version)));
    if (!row) throw new NotFound(`Version ${version} of document ${id} has no picture.`);
    return row.png;
  }

  /** @throws NotFound */
  async picture(id: string): Promise<Buffer> {
    const [row] = await this.db.select({ png: pictures.png }).from(pictures).where(eq(pictures.documentId, id));
    if (!row) throw new NotFound(`Document ${id} has no picture yet.`);
    return row.png;
  }

  /** Names of the demo documents that were loaded once, deleted ones too. */
  async samples(): Promise<ReadonlySet<string>> {
    const rows = await this.db.select({ sample: documents.sample }).from(documents).where(isNotNull(documents.sample));
    return new Set(rows.map((row) => row.sample!));
  }
}
