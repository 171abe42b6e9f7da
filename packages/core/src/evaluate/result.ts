import type { Counts, GeometrySet } from '../geometry/geometry.js';
import type { Limits } from '../base/limits.js';
import type { Geometry } from '../geometry/geometry.js';
import type { PerElement } from '../varying/perElement.js';
import type { Value, Warning } from '../definition/define.js';
import type { DialValues } from '../document/dials.js';
import type { Problem } from '../document/problem.js';
import type { Pool } from './pool.js';

/** For each setting that may vary, the geometry and elements that its values were worked out for. */
export type Varied = Record<string, { over: Geometry; per: PerElement }>;

export interface NodeResult {
  readonly outputs: Readonly<Record<string, Value>>;
  /** The settings that it ran with: dials, wires and defaults put in. */
  readonly settings: Readonly<Record<string, unknown>>;
  readonly varied: Readonly<Varied>;
  /** Identity of the result: the same number stands for the same data while the evaluator lives. 0: none. */
  readonly key: number;
  readonly ms: number;
  readonly bytes: number;
  readonly in: Counts;
  readonly out: Counts;
  readonly warnings: readonly Warning[];
  /** It depends on the time, by itself or by what it was made from. */
  readonly moves?: boolean;
  /** Why there is no result. */
  readonly error?: Problem;
}

/** A result without anything in it, to be filled in. */
export const noResult = { outputs: {}, settings: {}, varied: {}, key: 0, ms: 0, bytes: 0, in: {}, out: {}, warnings: [] } as const;

export interface RunRequest {
  /** Nodes whose results are wanted; default: all. */
  readonly targets?: readonly string[];
  readonly dials?: DialValues;
  /** Seconds. */
  readonly time?: number;
  /** Looked at often; true stops the run. */
  readonly cancelled?: () => boolean;
  /** Awaited now and then so that messages can come in. */
  readonly pause?: () => Promise<void>;
  /** Told before a node is computed (not when its result was kept). */
  readonly onBegin?: (node: string) => void;
  /** How far the step in work is, 0…1, at most every 50 ms. */
  readonly onProgress?: (node: string, fraction: number) => void;
}

export interface RunResult {
  readonly nodes: ReadonlyMap<string, NodeResult>;
  readonly ms: number;
  readonly cancelled: boolean;
  /** Nodes whose results came from the cache. */
  readonly reused: number;
}

export interface EvaluatorOptions {
  /** What is in an imported file, by hash. @throws Error with a message for the artist. */
  readonly imported?: (hash: string) => GeometrySet;
  readonly limits?: Partial<Limits>;
  /** Bytes of results to keep; default 1 GiB. */
  readonly memory?: number;
  /** Large results of moments are kept where all that depends on the time takes at least so long, ms; default 1000 ÷ 24, a frame. 0: always. */
  readonly frame?: number;
  /** Where results take their memory from, for an owner that gives it back by `reclaim`; default: memory that nobody had before. */
  readonly pool?: Pool;
}
