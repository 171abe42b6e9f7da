import { Cancelled, defaultLimits, type Limits } from '../base/limits.js';
import { freshMemory } from '../base/work.js';
import { arraysOf } from '../geometry/geometry.js';
import type { Outputs, Warning } from '../definition/define.js';
import type { Graph } from '../definition/graph.js';
import { dialValues } from '../document/dials.js';
import type { FilaxisDocument } from '../document/document.js';
import { labelById } from '../document/documentIndex.js';
import { firstMoment, timelineOf } from '../document/timeline.js';
import type { Problem } from '../document/problem.js';
import { ResultCache } from './cache.js';
import type { Step } from './context.js';
import { geometriesOf, wiredValues } from './inputs.js';
import { Plan, type PlannedNode } from './plan.js';
import { noResult, type EvaluatorOptions, type NodeResult, type RunRequest, type RunResult } from './result.js';
import { settle, settledOf, type Settled, type SettlingNumbers } from './settle.js';
import { runStep } from './step.js';

/** A run at work: what was asked, what is there already, and the numbers that settings may name. */
interface Job {
  readonly request: RunRequest;
  readonly nodes: Map<string, NodeResult>;
  readonly numbers: SettlingNumbers;
  /** When the whole run began, ms. */
  readonly started: number;
  /** How many results were kept from before. */
  readonly tally: { reused: number };
}

/** A node before it is computed: ready, with its result if that is kept from before; or failed. */
type Begun = Ready | { readonly kept?: undefined; readonly failed: NodeResult };
interface Ready {
  readonly settled: Settled;
  /** Identity of its result. */
  readonly key: number;
  readonly kept: NodeResult | undefined;
  readonly failed?: undefined;
}

/**
 * Runs documents. Results are kept by content: type, version, resolved settings and the keys of the inputs; only what changed runs. The same
 * inputs give the same bytes, whatever was kept.
 */
export class Evaluator {
  private readonly cache: ResultCache;
  private last: { readonly plan: Plan; readonly dials: string } | null = null;
  private readonly limits: Limits;

  constructor(private readonly options: EvaluatorOptions = {}) {
    this.cache = new ResultCache(options.memory ?? 1024 ** 3, options.frame);
    this.limits = { ...defaultLimits, ...options.limits };
  }

  /** Runs what the targets need. Errors stay at their node; nodes behind it say that they wait for it. */
  async run(plan: Plan, request: RunRequest = {}): Promise<RunResult> {
    const started = performance.now();
    const nodes = new Map<string, NodeResult>();
    const tally = { reused: 0 };
    this.noteChange(plan, request);
    const numbers = { dials: dialValues(plan.document, request.dials), time: request.time ?? firstMoment(plan.document), rate: timelineOf(plan.document).rate };
    const result = (cancelled: boolean): RunResult => ({ nodes, ms: performance.now() - started, cancelled, reused: tally.reused });
    try {
      await this.runGraph(plan, { request, nodes, started, numbers, tally });
      this.cache.noteMoment([...nodes.values()].reduce((sum, { moves, ms }) => (moves ? sum + ms : sum), 0));
      return result(false);
    } catch (error) {
      if (error instanceof Cancelled) return result(true);
      throw error;
    }
  }

  /** What moments were kept of is of use while the document and its dials stay as they are. */
  private noteChange(plan: Plan, { dials }: RunRequest): void {
    const now = JSON.stringify(dials ?? {});
    if (this.last && (this.last.plan !== plan || this.last.dials !== now)) this.cache.forgetMoments();
    this.last = { plan, dials: now };
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

  /** Runs the nodes of a graph that have no result yet in `job.nodes`. @throws Cancelled */
  private async runGraph(plan: Plan, job: Job): Promise<void> {
    const { request, nodes } = job;
    const wanted = neededBy(plan, request.targets);
    let rested = performance.now();
    for (const id of plan.order) {
      if (!wanted.has(id) || nodes.has(id)) continue;
      if (request.pause && performance.now() - rested > 12) {
        await request.pause();
        rested = performance.now();
      }
      if (request.cancelled?.()) throw new Cancelled();
      const planned = plan.nodes.get(id)!;
      const begun = this.begin(plan, planned, job);
      if (begun.kept) job.tally.reused++;
      nodes.set(id, begun.kept ?? begun.failed ?? (await this.compute(plan, planned, begun, job)));
    }
  }

  /** What a node has to run with, the result that is kept of that, or why it cannot run. */
  private begin(plan: Plan, planned: PlannedNode, { nodes, numbers }: Job): Begun {
    const { node, index, definition, fault, wires } = planned;
    const failed = (error: Problem): Begun => ({ failed: { ...noResult, error } });
    if (fault || !definition) return failed(fault!);
    const waiting = wires.find((wire) => nodes.get(wire.node)?.error ?? !nodes.has(wire.node));
    if (waiting) return failed({ pointer: `/nodes/${index}`, message: `Waiting for "${waiting.node}", which has no result.`, node: node.id, follows: true });
    const wired = wiredValues(planned, definition, nodes);
    const without = Object.keys(wired).find((name) => wired[name] === undefined);
    if (without !== undefined) {
      const message = `What is wired to ${definition.settings[without].label} gives no value yet.`;
      return failed({ pointer: `/nodes/${index}/settings/${without}`, message, node: node.id, follows: true });
    }
    const settled = settledOf(planned) ?? settle(planned, definition, numbers, plan.document, wired);
    if (settled.fault) return failed(settled.fault);
    // What a node is, runs with and takes in: the same result has the same number.
    let key = `${node.type} ${definition.version} ${settled.text}`;
    for (const { node: from, output, port } of wires) key += ` ${port}<${nodes.get(from)!.key}.${output}`;
    const id = this.cache.idOf(key);
    return { settled, key: id, kept: this.cache.get(id) };
  }

  private async compute(plan: Plan, planned: PlannedNode, { settled, key }: Ready, job: Job): Promise<NodeResult> {
    const { request, started, nodes } = job;
    const { limits } = this;
    const { imported, pool } = this.options;
    request.onBegin?.(planned.node.id);
    const warnings: Warning[] = [];
    const evaluate = (graph: Graph, given: Readonly<Record<string, Outputs>>, time?: number): Promise<Readonly<Record<string, Outputs>>> =>
      this.runInside(graph, given, { ...job, numbers: { ...job.numbers, time: time ?? job.numbers.time } }, { document: plan.document, planned, warnings });
    const memory = pool ?? freshMemory;
    const { values, given: numbers } = settled;
    const step: Step = {
      planned,
      settings: values,
      numbers,
      time: job.numbers.time,
      rate: job.numbers.rate,
      key,
      warnings,
      varied: {},
      request,
      limits,
      memory,
      started,
      imported,
      evaluate,
    };
    const moves = settled.moves || planned.wires.some(({ node }) => nodes.get(node)?.moves);
    const result = { ...(await runStep(step, planned.definition!, nodes)), moves };
    if (!result.error) this.cache.set(key, result, planned.node.id);
    return result;
  }

  /** Runs a graph inside a node; what is told of nodes inside is told of that node, by their names. */
  private async runInside(
    graph: Graph,
    given: Readonly<Record<string, Outputs>>,
    job: Job,
    { document, planned, warnings }: { document: FilaxisDocument; planned: PlannedNode; warnings: Warning[] },
  ): Promise<Readonly<Record<string, Outputs>>> {
    const plan = this.planInside(graph, document);
    const { onProgress, onBegin, cancelled, pause } = job.request;
    const own = planned.node.id;
    const request: RunRequest = { time: job.numbers.time, cancelled, pause, onBegin: () => onBegin?.(own), onProgress: (_, share) => onProgress?.(own, share) };
    const nodes = new Map<string, NodeResult>();
    for (const [id, outputs] of Object.entries(given)) nodes.set(id, { ...noResult, outputs, key: this.cache.idOf(this.identityOf(outputs)) });
    await this.runGraph(plan, { ...job, request, nodes, tally: { reused: 0 } });
    for (const [id, result] of nodes) {
      if (result.error && !result.error.follows) throw new Error(`${labelById(plan.document, id)} (${id}): ${result.error.message}`);
      for (const warning of result.warnings) warnings.push({ ...warning, message: `${labelById(plan.document, id)} (${id}): ${warning.message}` });
    }
    return Object.fromEntries([...nodes].map(([id, { outputs }]) => [id, outputs]));
  }

  private readonly plansInside = new WeakMap<Graph, { readonly document: FilaxisDocument; readonly plan: Plan }>();

  /** The plan of a graph inside a document, made once for each; dials are those of the document. */
  private planInside(graph: Graph, document: FilaxisDocument): Plan {
    const known = this.plansInside.get(graph);
    if (known?.document === document) return known.plan;
    const plan = new Plan({ ...document, nodes: graph.nodes, wires: graph.wires });
    this.plansInside.set(graph, { document, plan });
    return plan;
  }

  private readonly identities = new WeakMap<object, number>();
  private lastIdentity = 0;

  /** Text that is the same for the same values, by the objects that they are. */
  private identityOf(outputs: Outputs): string {
    const numbered = Object.entries(outputs).map(([name, value]) => {
      if (value.type === 'number' || value.type === 'vector') return `${name}=${JSON.stringify(value.value)}`;
      let identity = this.identities.get(value);
      if (identity === undefined) this.identities.set(value, (identity = ++this.lastIdentity));
      return `${name}#${identity}`;
    });
    return `given ${numbered.join(' ')}`;
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
