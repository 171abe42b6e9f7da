import { randomBytes } from 'node:crypto';
import { and, eq, isNull } from 'drizzle-orm';
import { upgradeDocument } from '@filaxis/core';
import type { Handout, HandoutLink } from '@filaxis/protocol';
import type { Database } from '../db/database.js';
import { documents, handouts, versions } from '../db/schema.js';
import { NotFound } from './errors.js';

/** Links that show a document without letting it be changed. One a document. */
export class HandoutStore {
  constructor(private readonly db: Database) {}

  /** The document's link; made when there is none. @throws NotFound */
  async open(documentId: string): Promise<HandoutLink> {
    const [there] = await this.db.select({ id: documents.id }).from(documents).where(and(eq(documents.id, documentId), isNull(documents.deletedAt))); // prettier-ignore
    if (!there) throw new NotFound(`There is no document ${documentId}.`);
    const token = randomBytes(16).toString('base64url');
    await this.db.insert(handouts).values({ token, documentId }).onConflictDoNothing({ target: handouts.documentId });
    const [row] = await this.db.select({ token: handouts.token }).from(handouts).where(eq(handouts.documentId, documentId));
    return { token: row.token };
  }

  /** Makes the link lead nowhere. */
  async close(documentId: string): Promise<void> {
    await this.db.delete(handouts).where(eq(handouts.documentId, documentId));
  }

  /** What the link shows: the newest version. @throws NotFound */
  async read(token: string): Promise<Handout> {
    const [row] = await this.db
      .select({ version: versions.version, document: versions.document })
      .from(handouts)
      .innerJoin(documents, and(eq(documents.id, handouts.documentId), isNull(documents.deletedAt)))
      .innerJoin(versions, and(eq(versions.documentId, documents.id), eq(versions.version, documents.version)))
      .where(eq(handouts.token, token));
    if (!row) throw new NotFound('This handout does not exist, or is no longer open.');
    return { ...row, document: upgradeDocument(row.document) };
  }
}
