import type { Logger } from 'pino';
import type { DocumentStore } from './documents.js';

/** How often it is looked for documents that are to go for good, ms. */
const every = 600_000;

/** Deleted documents go for good after so many hours: looked for at once and every ten minutes, as long as the process lives. What goes wrong is logged, and tried again. */
export function clearDeleted(store: Pick<DocumentStore, 'purge'>, undoHours: number, log: Pick<Logger, 'info' | 'warn'>): void {
  const clear = (): void =>
    void store.purge(new Date(Date.now() - undoHours * 3_600_000)).then(
      (gone) => gone && log.info({ gone }, 'deleted documents are gone for good'),
      (error: unknown) => log.warn(error, 'deleted documents were not cleared away'),
    );
  clear();
  setInterval(clear, every).unref();
}
