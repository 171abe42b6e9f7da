import { HttpClient, HttpErrorResponse } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import { catchError, firstValueFrom, type Observable, throwError } from 'rxjs';
import type { FilaxisDocument } from '@filaxis/core';
import type { DeletedDocument, DocumentCard, Handout, HandoutLink, ProblemDetails, Saved, StoredDocument, VersionInfo } from '@filaxis/protocol';
import { newKey } from './keys';

/** The server said no, or could not be reached (status 0). The message is for the artist. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly problem: ProblemDetails | null,
  ) {
    super(message);
  }
}

function toApiError(error: unknown): Observable<never> {
  if (!(error instanceof HttpErrorResponse)) return throwError(() => error);
  // The server asks for its token: whoever is there is asked.
  if (error.status === 401) location.assign('/sign-in');
  const body = typeof error.error === 'string' ? parseProblem(error.error) : (error.error as ProblemDetails | null);
  const problem = body && 'detail' in body ? body : null;
  const message = error.status === 0 ? 'The server cannot be reached.' : (problem?.detail ?? `The server answered ${error.status}.`);
  return throwError(() => new ApiError(error.status, message, problem));
}

function parseProblem(text: string): ProblemDetails | null {
  try {
    return JSON.parse(text) as ProblemDetails;
  } catch {
    return null;
  }
}

/** The server's API. */
@Injectable({ providedIn: 'root' })
export class ApiService {
  private readonly http = inject(HttpClient);

  /** Where imported files are fetched: what a handout shows has its own. */
  assetFolder = '/api/assets';

  list(page: { from: number; count: number; search: string; sort: 'changed' | 'name' }): Promise<DocumentCard[]> {
    const query = new URLSearchParams({ from: String(page.from), count: String(page.count), search: page.search.slice(0, 200), sort: page.sort });
    return this.send('GET', `/api/documents?${query.toString()}`);
  }

  /** Makes a document; when the answer is lost it is asked again, which makes no second one. */
  async create(document: FilaxisDocument): Promise<Saved> {
    const body = { document, key: newKey() };
    try {
      return await this.send('POST', '/api/documents', body);
    } catch (error) {
      if (!(error instanceof ApiError) || ![0, 502, 503, 504].includes(error.status)) throw error;
      await new Promise((done) => setTimeout(done, 1500));
      return this.send('POST', '/api/documents', body);
    }
  }

  /** What is stored of a document, as it is. */
  text(id: string): Promise<string> {
    return firstValueFrom(this.http.get(`/api/documents/${id}/text`, { responseType: 'text' }).pipe(catchError(toApiError)));
  }

  /** Tells the server of a fault in the page, for its log. */
  report(message: string, where: string): Promise<void> {
    return this.send('POST', '/api/reports/error', { message: message.slice(0, 2000), where: where.slice(0, 4000), page: location.pathname.slice(0, 200) });
  }

  open(id: string): Promise<StoredDocument> {
    return this.send('GET', `/api/documents/${id}`);
  }

  /** Saves after a version. With the key of a save that did happen it is answered as that was. */
  save(id: string, baseVersion: number, document: FilaxisDocument, key = newKey()): Promise<Saved> {
    return this.send('PUT', `/api/documents/${id}`, { document, baseVersion, key });
  }

  remove(id: string): Promise<void> {
    return this.send('DELETE', `/api/documents/${id}`);
  }

  deleted(): Promise<DeletedDocument[]> {
    return this.send('GET', '/api/documents/deleted');
  }

  /** Lets deleted documents go for good: one, or all. */
  forget(id?: string): Promise<void> {
    return this.send('DELETE', `/api/documents/deleted${id === undefined ? '' : `/${id}`}`);
  }

  restore(id: string): Promise<void> {
    return this.send('POST', `/api/documents/${id}/restore`);
  }

  setPicture(id: string, version: number, png: Blob, counts?: { faces: number; points: number }): Promise<void> {
    const query = counts ? `?faces=${counts.faces}&points=${counts.points}` : '';
    return this.send('PUT', `/api/documents/${id}/versions/${version}/picture${query}`, png);
  }

  openHandout(id: string): Promise<HandoutLink> {
    return this.send('POST', `/api/documents/${id}/handout`);
  }

  closeHandout(id: string): Promise<void> {
    return this.send('DELETE', `/api/documents/${id}/handout`);
  }

  handout(token: string): Promise<Handout> {
    return this.send('GET', `/api/handouts/${encodeURIComponent(token)}`);
  }

  versions(id: string): Promise<VersionInfo[]> {
    return this.send('GET', `/api/documents/${id}/versions`);
  }

  version(id: string, version: number): Promise<StoredDocument> {
    return this.send('GET', `/api/documents/${id}/versions/${version}`);
  }

  setNote(id: string, version: number, note: string): Promise<void> {
    return this.send('PUT', `/api/documents/${id}/versions/${version}/note`, { note });
  }

  /** The picture of a document; null: it has none yet. */
  picture(id: string): Promise<Blob | null> {
    const request = this.http.get(`/api/documents/${id}/picture`, { responseType: 'blob' }).pipe(catchError(toApiError));
    return firstValueFrom(request).catch((error: unknown) => {
      if (error instanceof ApiError && error.status === 404) return null;
      throw error;
    });
  }

  async putAsset(hash: string, name: string, bytes: Uint8Array<ArrayBuffer>): Promise<void> {
    await this.send('PUT', `/api/assets/${hash}?name=${encodeURIComponent(name)}`, new Blob([bytes], { type: 'application/octet-stream' }));
  }

  async asset(hash: string): Promise<Uint8Array> {
    const request = this.http.get(`${this.assetFolder}/${hash}`, { responseType: 'arraybuffer' });
    return new Uint8Array(await firstValueFrom(request.pipe(catchError(toApiError))));
  }

  private send<T>(method: string, url: string, body?: unknown): Promise<T> {
    return firstValueFrom(this.http.request<T>(method, url, { body }).pipe(catchError(toApiError)));
  }
}
