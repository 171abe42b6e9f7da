import { readdirSync, readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { parseDocument } from '@filaxis/core';
import type { Database } from './db/database.js';
import { DocumentStore } from './store/documents.js';

/**
 * Loads the demo documents of a folder (NAME.json, with its picture NAME.png) that were never loaded before, so that edited and deleted ones
 * stay as they are. Returns how many were added.
 */
export async function loadSamples(db: Database, folder: string): Promise<number> {
  const store = new DocumentStore(db);
  const known = await store.samples();
  let added = 0;
  const files = readdirSync(folder);
  for (const file of files
    .filter((name) => name.endsWith('.json'))
    .sort()
    .reverse()) {
    const name = file.replace(/\.json$/, '');
    if (known.has(name)) continue;
    const { id, version } = await store.create(parseDocument(readFileSync(resolve(folder, file), 'utf8')), { sample: name });
    if (files.includes(`${name}.png`)) await store.setPicture(id, version, readFileSync(resolve(folder, `${name}.png`)), { faces: null, points: null });
    added++;
  }
  return added;
}
