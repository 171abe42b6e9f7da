import { createHash } from 'node:crypto';
import { eq } from 'drizzle-orm';
import type { Database } from '../db/database.js';
import { assets } from '../db/schema.js';
import { BadRequest, NotFound } from './errors.js';

/** Imported files, stored once each under the SHA-256 of their bytes. */
export class AssetStore {
  constructor(private readonly db: Database) {}

  /** @throws BadRequest when the bytes do not have that hash. */
  async put(hash: string, name: string, bytes: Buffer): Promise<void> {
    const actual = createHash('sha256').update(bytes).digest('hex');
    if (actual !== hash) throw new BadRequest(`The bytes have the SHA-256 ${actual}, not ${hash}.`);
    await this.db.insert(assets).values({ hash, name, size: bytes.length, bytes }).onConflictDoNothing();
  }

  /** @throws NotFound */
  async get(hash: string): Promise<{ name: string; bytes: Buffer }> {
    const [row] = await this.db.select({ name: assets.name, bytes: assets.bytes }).from(assets).where(eq(assets.hash, hash));
    if (!row) throw new NotFound(`There is no imported file ${hash}.`);
    return row;
  }
}
