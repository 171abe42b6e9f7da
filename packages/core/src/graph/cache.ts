import type { NodeResult } from './evaluator.js';

/**
 * Results by key, least recently used out first. Keys are interned text, so two different inputs can never be taken for one another.
 */
export class ResultCache {
  private readonly ids = new Map<string, number>();
  private readonly results = new Map<number, NodeResult>();
  private next = 1;
  private bytes = 0;

  /** @param limit bytes of geometry to keep at most; results that are in use elsewhere do not count as freed until those let go. */
  constructor(private readonly limit: number) {}

  /** A number for a key text, the same for the same text. */
  idOf(key: string): number {
    let id = this.ids.get(key);
    if (id === undefined) {
      if (this.ids.size > 200_000) this.clear();
      id = this.next++;
      this.ids.set(key, id);
    }
    return id;
  }

  get(id: number): NodeResult | undefined {
    const result = this.results.get(id);
    if (!result) return undefined;
    this.results.delete(id);
    this.results.set(id, result);
    return result;
  }

  set(id: number, result: NodeResult): void {
    this.results.set(id, result);
    this.bytes += result.bytes;
    for (const [oldest, old] of this.results) {
      if (this.bytes <= this.limit || oldest === id) break;
      this.results.delete(oldest);
      this.bytes -= old.bytes;
    }
  }

  clear(): void {
    this.ids.clear();
    this.results.clear();
    this.bytes = 0;
  }
}
