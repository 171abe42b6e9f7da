import type { NodeResult } from './evaluator.js';

/** Results that took less long, ms, are soon made again. */
const cheap = 100;
/** Bytes from which a result is large. */
const large = 2 ** 16;

/**
 * Results by key, least recently used out first. Keys are interned text, so two different inputs can never be taken for one another.
 *
 * Of large results that were cheap to make only the last two of a node are kept: a dial that is dragged would fill the memory with meshes that nobody asks
 * for again, each in memory that nobody had before.
 */
export class ResultCache {
  private readonly ids = new Map<string, number>();
  private readonly results = new Map<number, NodeResult>();
  /** Ids of the large and cheap results of each node, the newest last. */
  private readonly byNode = new Map<string, number[]>();
  private readonly largeResults = new Map<number, NodeResult>();
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

  /** Large results that are kept. */
  large(): Iterable<NodeResult> {
    return this.largeResults.values();
  }

  /** Keeps what `node` gave for a key. */
  set(id: number, result: NodeResult, node: string): void {
    this.results.set(id, result);
    this.bytes += result.bytes;
    if (result.bytes >= large) {
      this.largeResults.set(id, result);
      if (result.ms < cheap) this.outdate(id, node);
    }
    for (const [oldest, old] of this.results) {
      if (this.bytes <= this.limit || oldest === id) break;
      this.drop(oldest, old);
    }
  }

  private outdate(id: number, node: string): void {
    const ids = this.byNode.get(node) ?? [];
    this.byNode.set(node, [...ids.slice(-1), id]);
    const [gone] = ids.slice(0, -1);
    const old = gone === undefined || gone === id ? undefined : this.results.get(gone);
    if (old) this.drop(gone, old);
  }

  private drop(id: number, result: NodeResult): void {
    this.results.delete(id);
    this.largeResults.delete(id);
    this.bytes -= result.bytes;
  }

  clear(): void {
    this.ids.clear();
    this.results.clear();
    this.largeResults.clear();
    this.byNode.clear();
    this.bytes = 0;
  }
}
