import type { NodeResult } from './result.js';

/** Results that took less long, ms, are soon made again. */
const cheap = 100;
/** Bytes from which a result is large. */
const large = 2 ** 16;
/** Cheap results of a node that are kept, and of those that depend on the time, while nothing else changes. */
const depth = { small: 16, large: 2, moments: 600 };
/** How much of what a moment takes on the whole is what the newest took. */
const newest = 0.2;

/**
 * Results by key, least recently used out first. Keys are interned text, so two different inputs can never be taken for one another.
 *
 * Of results that were cheap to make only the last few of a node are kept: a dial that is dragged would fill the memory with what nobody asks for again, and
 * each large one would be in memory that nobody had before. Moments of the timeline are gone back to, so those are kept until something else changes: the large ones where
 * all of a moment takes longer to make than a frame lasts, since memory that nobody had before takes a good part of that time itself.
 */
export class ResultCache {
  private readonly ids = new Map<string, number>();
  private readonly results = new Map<number, NodeResult>();
  /** Ids of the cheap results of each node, the newest last. */
  private readonly cheapOnes = { small: new Map<string, number[]>(), large: new Map<string, number[]>() };
  /** Ids of the results of each node that depend on the time, the newest last. */
  private readonly moments = new Map<string, number[]>();
  private readonly largeResults = new Map<number, NodeResult>();
  private next = 1;
  private bytes = 0;
  /** What all that depends on the time takes to be made, ms. */
  private momentTakes = 0;

  /**
   * @param limit bytes of geometry to keep at most; results that are in use elsewhere do not count as freed until those let go.
   * @param frame how long a moment may take without its large results being kept, ms; 0: they always are.
   */
  constructor(
    private readonly limit: number,
    private readonly frame = 1000 / 24,
  ) {}

  /** Told how long all of a moment took that depends on the time, whenever it was made, ms; 0: nothing does. */
  noteMoment(ms: number): void {
    if (ms > 0) this.momentTakes += (ms - this.momentTakes) * newest;
  }

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
    const size = result.bytes >= large ? 'large' : 'small';
    if (size === 'large') this.largeResults.set(id, result);
    if (result.moves && (size === 'small' || result.ms >= cheap || this.momentTakes >= this.frame)) this.keepMoment(id, node);
    else if (result.ms < cheap) this.outdate(id, node, size);
    for (const [oldest, old] of this.results) {
      if (this.bytes <= this.limit || oldest === id) break;
      this.drop(oldest, old);
    }
  }

  /** Drops the oldest cheap result of a node when it has too many. */
  private outdate(id: number, node: string, size: 'small' | 'large'): void {
    const ids = this.cheapOnes[size].get(node);
    if (!ids) {
      this.cheapOnes[size].set(node, [id]);
      return;
    }
    ids.push(id);
    const gone = ids.length > depth[size] ? ids.shift()! : id;
    const old = gone === id ? undefined : this.results.get(gone);
    if (old) this.drop(gone, old);
  }

  private keepMoment(id: number, node: string): void {
    const ids = this.moments.get(node);
    if (!ids) this.moments.set(node, [id]);
    else if (ids.push(id) > depth.moments) this.dropAll([ids.shift()!]);
  }

  /** What was kept of other moments goes, but for the last of each node: they were of another document, or other dials. */
  forgetMoments(): void {
    for (const ids of this.moments.values()) this.dropAll(ids.splice(0, ids.length - depth.large));
  }

  private dropAll(ids: readonly number[]): void {
    for (const id of ids) {
      const old = this.results.get(id);
      if (old) this.drop(id, old);
    }
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
    this.moments.clear();
    this.cheapOnes.small.clear();
    this.cheapOnes.large.clear();
    this.bytes = 0;
  }
}
