import { Injector, runInInjectionContext, type Type } from '@angular/core';
import { vi } from 'vitest';
import { emptyDocument, type FilaxisDocument } from '@filaxis/core';
import type { FromWorker, ToWorker } from '@filaxis/protocol';
import { Moment } from '../src/app/ropewalk/timeline/moment';
import { ApiError, ApiService } from '../src/app/shared/api.service';

/** A server of one document, in memory: what the services need of it. */
export class FakeServer {
  version = 1;
  document: FilaxisDocument = { ...emptyDocument, title: 'Stored' };
  saves: FilaxisDocument[] = [];
  assets = new Map<string, Uint8Array>();
  /** What the next calls fail with; null: they do not. */
  failure: ApiError | null = null;
  /** Held until let go, to see what happens while a save is on its way. */
  hold: Promise<void> | null = null;

  /** The key of the newest version; saves by their keys. */
  key: string | null = null;
  readonly known = new Map<string, number>();
  /** The next save is done, but its answer is lost. */
  loseAnswer = false;

  async open(): Promise<{ document: FilaxisDocument; version: number; pictureOf: number | null; key: string | null }> {
    this.fail();
    return { document: this.document, version: this.version, pictureOf: null, key: this.key };
  }

  async save(_: string, base: number, document: FilaxisDocument, key: string): Promise<{ version: number }> {
    await this.hold;
    this.fail();
    const before = this.known.get(key);
    if (before !== undefined) return { version: before };
    const saved = this.store(base, document, key);
    if (!this.loseAnswer) return saved;
    this.loseAnswer = false;
    throw new ApiError(0, 'The server cannot be reached.', null);
  }

  private store(base: number, document: FilaxisDocument, key: string): { version: number } {
    if (base !== this.version) throw new ApiError(409, 'Somebody saved in between.', null);
    this.saves.push(document);
    this.document = document;
    this.key = key;
    this.known.set(key, ++this.version);
    return { version: this.version };
  }

  async asset(hash: string): Promise<Uint8Array> {
    const bytes = this.assets.get(hash);
    if (!bytes) throw new ApiError(404, 'There is no such file.', null);
    return bytes;
  }

  private fail(): void {
    if (this.failure) throw this.failure;
  }
}

/** The worker's side, for a test to play. */
export class FakeWorker {
  static newest: FakeWorker;
  readonly told: ToWorker[] = [];
  onmessage: ((event: { data: FromWorker }) => void) | null = null;
  onerror: ((event: { message: string }) => void) | null = null;

  constructor() {
    FakeWorker.newest = this;
  }

  postMessage(message: ToWorker): void {
    this.told.push(message);
  }

  terminate(): void {
    this.told.length = 0;
  }

  say(message: FromWorker): void {
    this.onmessage?.({ data: message });
  }

  /** Messages of one kind, in order. */
  heard<K extends ToWorker['kind']>(kind: K): Extract<ToWorker, { kind: K }>[] {
    return this.told.filter((message): message is Extract<ToWorker, { kind: K }> => message.kind === kind);
  }
}

class Channel {
  static readonly open = new Set<Channel>();
  onmessage: ((event: { data: unknown }) => void) | null = null;

  constructor(readonly name: string) {
    Channel.open.add(this);
  }

  postMessage(data: unknown): void {
    for (const other of Channel.open) if (other !== this && other.name === this.name) other.onmessage?.({ data });
  }

  close(): void {
    Channel.open.delete(this);
  }
}

/** From now on services are those of another tab. */
export let openTab: () => void = () => undefined;

/** What the services look for in a browser. Returns the storage that outlives a page. */
export function stubBrowser(): Map<string, string> {
  const kept = new Map<string, string>();
  vi.stubGlobal('window', new EventTarget());
  const storage = (values: Map<string, string>): Partial<Storage> => ({
    get length() {
      return values.size;
    },
    key: (i: number) => [...values.keys()][i] ?? null,
    getItem: (key: string) => values.get(key) ?? null,
    setItem: (key: string, value: string) => void values.set(key, value),
    removeItem: (key: string) => void values.delete(key),
  });
  vi.stubGlobal('localStorage', storage(kept));
  openTab = () => vi.stubGlobal('sessionStorage', storage(new Map()));
  openTab();
  vi.stubGlobal('crossOriginIsolated', false);
  vi.stubGlobal('BroadcastChannel', Channel);
  vi.stubGlobal('Worker', FakeWorker);
  return kept;
}

/** Makes a service with the server and the other services it asks for. */
export function make<T>(service: Type<T>, server: FakeServer, others: readonly (readonly [Type<unknown>, unknown])[] = []): T {
  const providers = [
    { provide: ApiService, useValue: server },
    { provide: Moment, useValue: new Moment() },
    ...others.map(([provide, useValue]) => ({ provide, useValue })),
  ];
  return runInInjectionContext(Injector.create({ providers }), () => new service());
}
