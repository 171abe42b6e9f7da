import { and, asc, desc, eq, inArray, isNotNull, isNull, lte, sql, type AnyColumn, type SQL } from 'drizzle-orm';
import { upgradeDocument, type FilaxisDocument } from '@filaxis/core';
import type { DeletedDocument, DocumentCard, Saved, StoredDocument, VersionInfo } from '@filaxis/protocol';
import type { Database } from '../db/database.js';
import { documents, handouts, pictures, versionPictures, versions } from '../db/schema.js';
import { Conflict, NotFound } from './errors.js';

/** Versions back from the newest whose pictures are kept without a note. */
const keptPictures = 200;

/** Whether the database could not read a stored text: an escape that stands for no character (22P05), or is half of one (22P02). */
function isUnreadable(error: unknown): boolean {
  for (let at = error; at instanceof Error; at = at.cause) if (['22P05', '22P02'].includes(String((at as { code?: unknown }).code))) return true;
  return false;
}

/** What a document that is gone for good has no more; samples leave their name behind. */
const hasVersions = sql`exists (select 1 from ${versions} where ${versions.documentId} = ${documents.id})`;

/** Which of the documents are listed. */
export interface ListPage {
  readonly from: number;
  readonly count: number;
  /** Words that a title has to have. */
  readonly search: string;
  readonly sort: 'changed' | 'name';
}

/** Names in the order in which people look for them: capitals count as small letters. */
const byName = (title: AnyColumn | SQL.Aliased): SQL => sql`lower(${title}), ${title}`;

/** Deleted documents that are listed at once. */
const mostListed = 500;

/** Documents and their versions. Versions are only ever added; saving names the version it started from. */
export class DocumentStore {
  constructor(private readonly db: Database) {}

  /** A page of those that are not deleted. One whose text the database cannot read is damaged, and hurts no other. */
  async list(page: ListPage): Promise<DocumentCard[]> {
    try {
      return await this.cards(page, true);
    } catch (error) {
      if (!isUnreadable(error)) throw error;
    }
    const plain = await this.cards(page, false);
    const counted = [];
    for (const card of plain) {
      const known = await this.cards(page, true, card.id).catch((error: unknown) => {
        if (isUnreadable(error)) return [];
        throw error;
      });
      counted.push(known[0] ?? { ...card, damaged: true });
    }
    return counted;
  }

  private async cards({ from, count, search, sort }: ListPage, counts: boolean, id?: string): Promise<DocumentCard[]> {
    const words = search.split(/\s+/).filter(Boolean);
    const wanted = words.map((word) => sql`position(lower(${word}) in lower(${documents.title})) > 0`);
    // The page first, so that only its documents are looked into.
    const page = this.db
      .select()
      .from(documents)
      .where(and(isNull(documents.deletedAt), id === undefined ? undefined : eq(documents.id, id), ...wanted))
      .orderBy(...(sort === 'name' ? [byName(documents.title), asc(documents.id)] : [desc(documents.updatedAt), asc(documents.title)]))
      .limit(count)
      .offset(id === undefined ? from : 0)
      .as('page');
    const rows = await this.db
      .select({
        id: page.id,
        title: page.title,
        version: page.version,
        createdAt: page.createdAt,
        updatedAt: page.updatedAt,
        sample: page.sample,
        pictureOf: pictures.version,
        nodes: counts ? sql<number>`json_array_length(${versions.document}->'nodes')` : sql<number>`0`,
        dials: counts ? sql<number>`coalesce(json_array_length(${versions.document}->'dials'), 0)` : sql<number>`0`,
      })
      .from(page)
      .innerJoin(versions, and(eq(versions.documentId, page.id), eq(versions.version, page.version)))
      .leftJoin(pictures, eq(pictures.documentId, page.id))
      .orderBy(...(sort === 'name' ? [byName(page.title), asc(page.id)] : [desc(page.updatedAt), asc(page.title)]));
    return rows.map((row) => ({ ...row, createdAt: row.createdAt.toISOString(), updatedAt: row.updatedAt.toISOString(), sample: row.sample !== null }));
  }

  /** Makes a document; a request with the key of one that was answered, or whose answer was lost, gets that one's. */
  async create(document: FilaxisDocument, { sample = null, key = null }: { sample?: string | null; key?: string | null } = {}): Promise<Saved> {
    const made = await this.db.execute<{ id: string }>(sql`
      with made as (
        insert into documents (title, version, sample, key) values (${document.title}, 1, ${sample}, ${key})
        on conflict (key) do nothing returning id
      )
      insert into document_versions (document_id, version, title, document, key)
      select id, 1, ${document.title}, ${JSON.stringify(document)}::json, ${key} from made returning document_id as id`);
    if (made.rows.length) return { id: made.rows[0].id, version: 1 };
    const [known] = await this.db.select({ id: documents.id }).from(documents).where(eq(documents.key, key!));
    return { id: known.id, version: 1 };
  }

  /** @throws NotFound */
  async newest(id: string): Promise<StoredDocument> {
    const [row] = await this.db
      .select({ version: versions.version, pictureOf: pictures.version, document: versions.document, key: versions.key })
      .from(documents)
      .innerJoin(versions, and(eq(versions.documentId, documents.id), eq(versions.version, documents.version)))
      .leftJoin(pictures, eq(pictures.documentId, documents.id))
      .where(and(eq(documents.id, id), isNull(documents.deletedAt)));
    if (!row) throw new NotFound(`There is no document ${id}.`);
    return { id, ...row, document: upgradeDocument(row.document) };
  }

  /** @throws NotFound */
  async version(id: string, version: number): Promise<StoredDocument> {
    await this.requireThere(id);
    const [row] = await this.db
      .select({ document: versions.document, key: versions.key })
      .from(versions)
      .where(and(eq(versions.documentId, id), eq(versions.version, version)));
    if (!row) throw new NotFound(`There is no version ${version} of document ${id}.`);
    return { id, version, pictureOf: null, document: upgradeDocument(row.document), key: row.key };
  }

  /** @throws NotFound */
  async versions(id: string): Promise<VersionInfo[]> {
    await this.requireThere(id);
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
    await this.requireThere(id);
    const rows = await this.db
      .update(versions)
      .set({ note: note || null })
      .where(and(eq(versions.documentId, id), eq(versions.version, version)))
      .returning({ version: versions.version });
    if (!rows.length) throw new NotFound(`There is no version ${version} of document ${id}.`);
  }

  /**
   * Adds a version after `baseVersion`, in one statement. A request with the key of one that did save is answered as that was.
   * @throws Conflict when another was saved meanwhile; NotFound
   */
  async save(id: string, baseVersion: number, document: FilaxisDocument, key: string | null = null): Promise<Saved> {
    const saved = await this.db.execute<{ version: number }>(sql`
      with moved as (
        update documents set version = version + 1, title = ${document.title}, updated_at = now()
        where id = ${id} and version = ${baseVersion} and deleted_at is null returning version
      )
      insert into document_versions (document_id, version, title, document, key)
      select ${id}, version, ${document.title}, ${JSON.stringify(document)}::json, ${key} from moved returning version`);
    if (saved.rows.length) return { id, version: saved.rows[0].version };
    const [there] = await this.db
      .select({ version: documents.version })
      .from(documents)
      .where(and(eq(documents.id, id), isNull(documents.deletedAt)));
    if (!there) throw new NotFound(`There is no document ${id}.`);
    if (key) {
      const [known] = await this.db
        .select({ version: versions.version })
        .from(versions)
        .where(and(eq(versions.documentId, id), eq(versions.key, key)));
      if (known) return { id, version: known.version };
    }
    throw new Conflict(`Version ${there.version} is stored; this was made from version ${baseVersion}.`, there.version);
  }

  /** Hides a document; `restore` brings it back. @throws NotFound */
  async remove(id: string): Promise<void> {
    const rows = await this.db.update(documents).set({ deletedAt: new Date() }).where(and(eq(documents.id, id), isNull(documents.deletedAt))).returning({ id: documents.id }); // prettier-ignore
    if (!rows.length) throw new NotFound(`There is no document ${id}.`);
  }

  /** @throws NotFound */
  async restore(id: string): Promise<void> {
    const rows = await this.db.update(documents).set({ deletedAt: null }).where(and(eq(documents.id, id), isNotNull(documents.deletedAt), hasVersions)).returning({ id: documents.id }); // prettier-ignore
    if (!rows.length) throw new NotFound(`There is no deleted document ${id}.`);
  }

  /** Deleted documents that can be restored, newest first, at most `mostListed`. Each is purged `undoHours` after its deletion. */
  async deleted(undoHours: number): Promise<DeletedDocument[]> {
    const rows = await this.db
      .select({ id: documents.id, title: documents.title, deletedAt: documents.deletedAt })
      .from(documents)
      .where(and(isNotNull(documents.deletedAt), hasVersions))
      .orderBy(desc(documents.deletedAt), asc(documents.id))
      .limit(mostListed);
    return rows.map(({ id, title, deletedAt }) => ({
      id,
      title,
      deletedAt: deletedAt!.toISOString(),
      goesAt: new Date(deletedAt!.getTime() + undoHours * 3_600_000).toISOString(),
    }));
  }

  /** Lets one deleted document go for good. @throws NotFound */
  async forget(id: string): Promise<void> {
    if (!(await this.purge(new Date(), id))) throw new NotFound(`There is no deleted document ${id}.`);
  }

  /**
   * Lets documents go for good that were deleted until a moment, or the one that is named, with all that belongs to them. Returns how many. Samples stay known, so that they do
   * not come again.
   */
  async purge(until: Date, id?: string): Promise<number> {
    return this.db.transaction(async (tx) => {
      const gone = await tx
        .select({ id: documents.id, sample: documents.sample })
        .from(documents)
        .where(and(lte(documents.deletedAt, until), hasVersions, id === undefined ? undefined : eq(documents.id, id)))
        .for('update');
      const ids = gone.map(({ id }) => id);
      if (!ids.length) return 0;
      for (const table of [pictures, versionPictures, handouts, versions]) await tx.delete(table).where(inArray(table.documentId, ids));
      const mine = gone.filter(({ sample }) => sample === null).map(({ id }) => id);
      if (mine.length) await tx.delete(documents).where(inArray(documents.id, mine));
      return ids.length;
    });
  }

  /** What is stored of the newest version, as text: of a damaged document too. @throws NotFound */
  async text(id: string): Promise<string> {
    const rows = await this.db.execute<{ text: string }>(sql`
      select v.document::text as text from documents d join document_versions v on v.document_id = d.id and v.version = d.version
      where d.id = ${id} and d.deleted_at is null`);
    if (!rows.rows.length) throw new NotFound(`There is no document ${id}.`);
    return rows.rows[0].text;
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
    await this.requireThere(id);
    const [row] = await this.db
      .select({ png: versionPictures.png })
      .from(versionPictures)
      .where(and(eq(versionPictures.documentId, id), eq(versionPictures.version, version)));
    if (!row) throw new NotFound(`Version ${version} of document ${id} has no picture.`);
    return row.png;
  }

  /** @throws NotFound */
  async picture(id: string): Promise<Buffer> {
    await this.requireThere(id);
    const [row] = await this.db.select({ png: pictures.png }).from(pictures).where(eq(pictures.documentId, id));
    if (!row) throw new NotFound(`Document ${id} has no picture yet.`);
    return row.png;
  }

  /** What belongs to a deleted document is not given out. @throws NotFound */
  private async requireThere(id: string): Promise<void> {
    const [there] = await this.db
      .select({ id: documents.id })
      .from(documents)
      .where(and(eq(documents.id, id), isNull(documents.deletedAt)));
    if (!there) throw new NotFound(`There is no document ${id}.`);
  }

  /** Names of the demo documents that were loaded once, deleted ones too. */
  async samples(): Promise<ReadonlySet<string>> {
    const rows = await this.db.select({ sample: documents.sample }).from(documents).where(isNotNull(documents.sample));
    return new Set(rows.map((row) => row.sample!));
  }
}
