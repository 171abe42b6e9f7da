import { arraysOf, bytesOf, type Counts, type Geometry, type GeometrySet } from '../geometry/geometry.js';
import type { GivenNumbers } from '../varying/elements.js';
import type { Varying } from '../varying/varying.js';
import { ResultCache } from './cache.js';
import type { Problem } from '../document/problem.js';
import { asProblem, makeContext, type RunStep, type Varied } from './context.js';
import type { NodeDefinition, RunContext, Value, Warning } from '../definition/define.js';
import { dialValues, type DialValues } from '../document/dials.js';
import { gatherInputs, geometriesOf, sumCounts, wiredValues } from './inputs.js';
import { Cancelled, defaultLimits, type Limits } from '../base/limits.js';
import type { Plan, PlannedNode } from './plan.js';
import type { Pool } from './pool.js';
import { settle, settledOf, type SettlingNumbers } from './settle.js';
import { runWhere } from './where.js';
import { freshMemory } from '../base/work.js';

export interface NodeResult {
  readonly outputs: Readonly<Record<string, Value>>;
  /** The settings that it ran with: dials, wires and defaults put in. */
  readonly settings: Readonly<Record<string, unknown>>;
  /** For each setting that may vary, the geometry and elements that its values were worked out for. */
  readonly varied: Readonly<Varied>;
  /** Identity of the result: the same number stands for the same data while the evaluator lives. 0: none. */
  readonly key: number;
  readonly ms: number;
  readonly bytes: number;
  readonly in: Counts;
  readonly out: Counts;
  readonly warnings: readonly Warning[];
  /** Why there is no result. */
  readonly error?: Problem;
}

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
  /** Where results take their memory from, for an owner that gives it back by `reclaim`; default: memory that nobody had before. */
  readonly pool?: Pool;
}

const noResult = { outputs: {}, settings: {}, varied: {}, key: 0, ms: 0, bytes: 0, in: {}, out: {}, warnings: [] } as const;

/**
 * Runs documents. Results are kept by content: type, version, resolved settings and the keys of the inputs; only what changed runs. The same
 * inputs give the same bytes, whatever was kept.
 */
export class Evaluator {
  private readonly cache: ResultCache;
  private readonly limits: Limits;

  constructor(private readonly options: EvaluatorOptions = {}) {
    this.cache = new ResultCache(options.memory ?? 1024 ** 3);
    this.limits = { ...defaultLimits, ...options.limits };
  }

  /** Runs what the targets need. Errors stay at their node; nodes behind it say that they wait for it. */
  async run(plan: Plan, request: RunRequest = {}): Promise<RunResult> {
    const started = performance.now();
    const numbers: SettlingNumbers = { dials: dialValues(plan.document, request.dials), time: request.time ?? 0 };
    const wanted = neededBy(plan, request.targets);
    const nodes = new Map<string, NodeResult>();
    let reused = 0;
    let rested = started;
    for (const id of plan.order) {
      if (!wanted.has(id)) continue;
      if (request.pause && performance.now() - rested > 12) {
        await request.pause();
        rested = performance.now();
      }
      if (request.cancelled?.()) return { nodes, ms: performance.now() - started, cancelled: true, reused };
      try {
        const { result, kept } = this.runNode(plan, plan.nodes.get(id)!, nodes, numbers, request, started);
        nodes.set(id, result);
        if (kept) reused++;
      } catch (error) {
        if (error instanceof Cancelled) return { nodes, ms: performance.now() - started, cancelled: true, reused };
        throw error;
      }
    }
    return { nodes, ms: performance.now() - started, cancelled: false, reused };
  }

  /**
   * Gives the memory of results that are neither kept here nor part of `run` back to the pool. Only for an owner that reads nothing else any more but
   * what is in `held`: what older runs made is written over.
   */
  reclaim(run: RunResult, held: Iterable<ArrayBufferLike> = []): void {
    const { pool } = this.options;
    if (!pool) return;
    const used = new Set(held);
    for (const results of [this.cache.large(), run.nodes.values()]) for (const result of results) for (const buffer of buffersHeldBy(result)) used.add(buffer);
    pool.reclaim(used);
  }

  private runNode(
    plan: Plan,
    planned: PlannedNode,
    done: ReadonlyMap<string, NodeResult>,
    numbers: SettlingNumbers,
    request: RunRequest,
    started: number,
  ): { result: NodeResult; kept: boolean } {
    const { node, definition } = planned;
    const failed = (error: Problem): { result: NodeResult; kept: boolean } => ({ result: { ...noResult, error }, kept: false });
    if (planned.fault || !definition) return failed(planned.fault!);
    const waiting = planned.wires.find((wire) => done.get(wire.node)?.error ?? !done.has(wire.node));
    if (waiting)
      return failed({ pointer: `/nodes/${planned.index}`, message: `Waiting for "${waiting.node}", which has no result.`, node: node.id, follows: true });
    const wired = wiredValues(planned, definition, done);
    const without = Object.keys(wired).find((name) => wired[name] === undefined);
    if (without !== undefined)
      return failed({ pointer: `/nodes/${planned.index}/settings/${without}`, message: `What is wired to ${definition.settings[without].label} gives no value yet.`, node: node.id, follows: true }); // prettier-ignore
    const { values, text, given, fault } = settledOf(planned) ?? settle(planned, definition, numbers, plan.document, wired);
    if (fault) return failed(fault);
    let key = `${node.type} ${definition.version} ${text}`;
    for (const { node: from, output, port } of planned.wires) key += ` ${port}<${done.get(from)!.key}.${output}`;
    const id = this.cache.idOf(key);
    const kept = this.cache.get(id);
    if (kept) return { result: kept, kept: true };
    request.onBegin?.(node.id);
    const result = this.compute(planned, definition, values, given, id, done, request, started);
    if (!result.error) this.cache.set(id, result, node.id);
    return { result, kept: false };
  }

  private compute(
    planned: PlannedNode,
    definition: NodeDefinition,
    values: Readonly<Record<string, unknown>>,
    numbers: GivenNumbers,
    key: number,
    done: ReadonlyMap<string, NodeResult>,
    request: RunRequest,
    started: number,
  ): NodeResult {
    const begun = performance.now();
    let given: ReadonlyMap<string, readonly Geometry[]>;
    try {
      given = gatherInputs(planned, definition, done, this.limits);
    } catch (error) {
      return { ...noResult, ms: performance.now() - begun, error: asProblem(error, planned) };
    }
    const counts = sumCounts([...given.values()].flat());
    const warnings: Warning[] = [];
    const varied: Varied = {};
    const { limits } = this;
    const { imported, pool } = this.options;
    const step: RunStep = { planned, settings: values, numbers, warnings, varied, request, limits, memory: pool ?? freshMemory, started, imported };
    const finish = (outputs: Readonly<Record<string, Value>>): NodeResult => {
      const made = Object.values(outputs).flatMap(geometriesOf);
      return {
        outputs,
        settings: values,
        varied,
        key,
        ms: performance.now() - begun,
        bytes: made.reduce((sum, geometry) => sum + bytesOf(geometry), 0),
        in: counts,
        out: sumCounts(made),
        warnings,
      };
    };
    const where = values['where'];
    if (values['on'] === false || where === false) {
      const passing = given.get(definition.inputs[0].name)?.[0];
      const fitting = passing && definition.outputs.find((port) => port.kind === passing.type || port.kind === 'any');
      if (passing && !fitting)
        warnings.push({
          code: 'empty',
          message: `${definition.label} is off, and ${passing.type} cannot pass as ${definition.outputs[0].kind}.`,
          remedy: 'Switch it on.',
        });
      return finish(passing && fitting ? { [fitting.name]: passing } : {});
    }
    const missing = definition.inputs.find((port) => !port.optional && !given.get(port.name)?.length);
    if (missing) {
      const wired = planned.wires.some((wire) => wire.port === missing.name);
      const what = missing.kinds.includes('any') ? 'anything' : missing.kinds.join(' or ');
      warnings.push({
        code: 'empty',
        message: wired ? `What comes into "${missing.name}" is empty.` : `Waiting for ${what} at "${missing.name}".`,
        remedy: wired ? 'Look at the node before it.' : `Wire ${what} to it.`,
      });
      return finish({});
    }
    try {
      const run = (inputs: typeof given): Readonly<Record<string, Value>> => definition.run(makeContext(step, inputs) as RunContext<never>);
      return finish(typeof where === 'object' ? runWhere(definition, where as Varying, given, varied, run) : run(given));
    } catch (error) {
      if (error instanceof Cancelled) throw error;
      return { ...noResult, settings: values, varied, ms: performance.now() - begun, in: counts, warnings, error: asProblem(error, planned) };
    }
  }
}

const heldBuffers = new WeakMap<NodeResult, readonly ArrayBufferLike[]>();

/** Buffers of all that a result shows: what it made, and what its varying settings were worked out for. */
function buffersHeldBy(result: NodeResult): readonly ArrayBufferLike[] {
  let buffers = heldBuffers.get(result);
  if (!buffers) {
    const shown = [...Object.values(result.outputs).flatMap(geometriesOf), ...Object.values(result.varied).map(({ over }) => over)];
    heldBuffers.set(result, (buffers = shown.flatMap((geometry) => arraysOf(geometry).map(({ buffer }) => buffer))));
  }
  return buffers;
}

/** The targets and all they take from; everything when there are no targets. */
function neededBy(plan: Plan, targets: readonly string[] | undefined): ReadonlySet<string> {
  if (!targets) return new Set(plan.order);
  const needed = new Set<string>();
  const visit = (id: string): void => {
    const planned = plan.nodes.get(id);
    if (!planned || needed.has(id)) return;
    needed.add(id);
    for (const wire of planned.wires) visit(wire.node);
  };
  targets.forEach(visit);
  return needed;
}
