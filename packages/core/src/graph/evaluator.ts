import { bytesOf, countsOf, type Counts, type Geometry } from '../geometry/geometry.js';
import { curvePointCount, type Curves } from '../geometry/curves.js';
import { faceCount, type Mesh } from '../geometry/mesh.js';
import type { Points } from '../geometry/points.js';
import { constantField } from '../values/field.js';
import { FormulaError } from '../values/formula/tokens.js';
import { resolveVarying, type Varying } from '../values/varying.js';
import type { GivenNumbers, PerElement } from '../values/elements.js';
import { nodeDefinitions } from '../nodes/index.js';
import { ResultCache } from './cache.js';
import { checkDocument, orderNodes, type Problem } from './check.js';
import { converted } from './convert.js';
import type { NodeDefinition, RunContext, Value, Warning } from './define.js';
import { dialValues, type DialValues } from './dials.js';
import type { FilaxisDocument, GraphNode } from './document.js';
import { Cancelled, defaultLimits, LimitError, requireWithin, type Limits } from './limits.js';
import { rangeOf } from './settings.js';
import { settle, settledOf, type SettlingNumbers } from './settle.js';
import { blended, partCurves, putBack, whereElements } from './where.js';

export interface NodeResult {
  readonly outputs: Readonly<Record<string, Value>>;
  /** The settings that it ran with: dials, wires and defaults put in. */
  readonly settings: Readonly<Record<string, unknown>>;
  /** For each setting that may vary, the geometry and elements that its values were worked out for. */
  readonly varied: Readonly<Record<string, { readonly over: Geometry; readonly per: PerElement }>>;
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
  /** Reads an imported file as curves, by hash. @throws Error with a message for the artist. */
  readonly importedCurves?: (hash: string) => Curves;
  readonly limits?: Partial<Limits>;
  /** Bytes of results to keep; default 1 GiB. */
  readonly memory?: number;
}

/** A document made ready to run: checked, ordered, with settings resolved where no dial is in them. */
export class Plan {
  readonly order: readonly string[];
  readonly nodes: ReadonlyMap<string, PlannedNode>;
  readonly problems: readonly Problem[];

  constructor(readonly document: FilaxisDocument) {
    this.problems = checkDocument(document);
    const { order, circle } = orderNodes(document);
    this.order = order;
    const inCircle = new Set(circle);
    const nodes = new Map<string, PlannedNode>();
    const faults = new Map<string, Problem>();
    for (const problem of this.problems) if (problem.node && !faults.has(problem.node)) faults.set(problem.node, problem);
    document.nodes.forEach((node, index) => {
      const definition = nodeDefinitions.get(node.type);
      const fault =
        faults.get(node.id) ??
        (inCircle.has(node.id) ? { pointer: `/nodes/${index}`, message: 'Its wires go round in a circle.', node: node.id, follows: true } : undefined);
      nodes.set(node.id, { node, index, definition, fault, wires: [] });
    });
    for (const { from, to } of document.wires) nodes.get(to[0])?.wires.push({ port: to[1], node: from[0], output: from[1] });
    this.nodes = nodes;
  }
}

export interface PlannedNode {
  readonly node: GraphNode;
  readonly index: number;
  readonly definition: NodeDefinition | undefined;
  readonly fault: Problem | undefined;
  readonly wires: { port: string; node: string; output: string }[];
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
    const result = this.compute(planned, definition, values, given, id, done, request, started);
    if (!result.error) this.cache.set(id, result);
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
    const varied: Record<string, { over: Geometry; per: PerElement }> = {};
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
      const run = (inputs: typeof given): Readonly<Record<string, Value>> =>
        definition.run(this.context(planned, values, numbers, inputs, warnings, varied, request, started) as RunContext<never>);
      return finish(typeof where === 'object' ? runWhere(definition, where as Varying, given, varied, run) : run(given));
    } catch (error) {
      if (error instanceof Cancelled) throw error;
      return { ...noResult, settings: values, varied, ms: performance.now() - begun, in: counts, warnings, error: asProblem(error, planned) };
    }
  }

  private context(
    planned: PlannedNode,
    settings: Readonly<Record<string, unknown>>,
    numbers: GivenNumbers,
    given: ReadonlyMap<string, readonly Geometry[]>,
    warnings: Warning[],
    varied: Record<string, { over: Geometry; per: PerElement }>,
    request: RunRequest,
    started: number,
  ): RunContext<unknown> {
    let told = performance.now();
    const progress = (fraction: number): void => {
      if (request.cancelled?.()) throw new Cancelled();
      const now = performance.now();
      if (now - started > this.limits.seconds * 1000) throw new LimitError(`The run took longer than the limit of ${this.limits.seconds} s.`);
      if (now - told < 50) return;
      told = now;
      request.onProgress?.(planned.node.id, fraction);
    };
    return {
      settings,
      input: (port) => given.get(port)?.[0],
      curves: (port) => given.get(port)?.[0] as Curves,
      mesh: (port) => given.get(port)?.[0] as Mesh,
      points: (port) => given.get(port)?.[0] as Points,
      inputs: (port) => given.get(port) ?? [],
      field: (value, over, per) => {
        const keys = Object.keys(settings).filter((name) => settings[name] === value);
        for (const name of keys) varied[name] = { over, per };
        if (typeof value !== 'object') return constantField(Number(value));
        const [key] = keys;
        const setting = keys.length ? planned.definition?.settings[key] : undefined;
        const range = setting?.kind === 'number' || setting?.kind === 'integer' ? rangeOf(setting) : undefined;
        try {
          return resolveVarying(value, over, per, { label: setting?.label, range, work: { claim: () => undefined, progress } });
        } catch (error) {
          if (!keys.length || error instanceof Cancelled || error instanceof LimitError || !(error instanceof Error)) throw error;
          const message = error instanceof FormulaError ? `${setting?.label}: ${error.message}.` : error.message;
          throw new SettingError(key, message);
        }
      },
      time: request.time ?? 0,
      given: numbers,
      warn: (warning) => void warnings.push(warning),
      claim: (size) => {
        progress(0);
        requireWithin(this.limits, size);
      },
      progress,
      importedCurves: (hash) => {
        if (!this.options.importedCurves) throw new Error('Imported files cannot be read here.');
        return this.options.importedCurves(hash);
      },
    };
  }
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

/** Non-empty geometries at each port, in the order of the wires, converted where the port takes another kind. */
function gatherInputs(
  planned: PlannedNode,
  definition: NodeDefinition,
  done: ReadonlyMap<string, NodeResult>,
  limits: Limits,
): ReadonlyMap<string, readonly Geometry[]> {
  const given = new Map<string, Geometry[]>();
  for (const wire of planned.wires) {
    const value = done.get(wire.node)?.outputs[wire.output];
    if (!value || value.type === 'set' || value.type === 'number' || value.type === 'vector' || isEmpty(value)) continue;
    const port = definition.inputs.find(({ name }) => name === wire.port);
    const fitting = port ? converted(value, port, limits) : value;
    const list = given.get(wire.port);
    if (list) list.push(fitting);
    else given.set(wire.port, [fitting]);
  }
  return given;
}

function isEmpty(geometry: Geometry): boolean {
  if (geometry.type === 'curves') return curvePointCount(geometry) === 0;
  if (geometry.type === 'mesh') return faceCount(geometry) === 0;
  return geometry.type === 'points' ? geometry.positions.length === 0 : geometry.object.length === 0;
}

function sumCounts(list: readonly Geometry[]): Counts {
  const total: Counts = {};
  for (const geometry of list)
    for (const [name, count] of Object.entries(countsOf(geometry))) total[name as keyof Counts] = (total[name as keyof Counts] ?? 0) + count;
  return total;
}

/** A setting whose values could not be worked out. */
class SettingError extends Error {
  override name = 'SettingError';
  constructor(
    readonly setting: string,
    message: string,
  ) {
    super(message);
  }
}

function asProblem(error: unknown, { node, index }: PlannedNode): Problem {
  const message = error instanceof Error ? error.message : String(error);
  if (error instanceof SettingError) return { pointer: `/nodes/${index}/settings/${error.setting}`, message, node: node.id, setting: error.setting };
  return { pointer: `/nodes/${index}`, message, node: node.id };
}

/** The geometries in a value; numbers have none. */
function geometriesOf(value: Value): Geometry[] {
  if (value.type === 'set') return Object.values(value.set) as Geometry[];
  return value.type === 'number' || value.type === 'vector' ? [] : [value];
}

/** Numbers and vectors that come by wire into settings; undefined where the wire carries none. */
function wiredValues(planned: PlannedNode, definition: NodeDefinition, done: ReadonlyMap<string, NodeResult>): Record<string, unknown> {
  const values: Record<string, unknown> = {};
  for (const { port, node, output } of planned.wires) {
    if (!Object.hasOwn(definition.settings, port)) continue;
    const value = done.get(node)?.outputs[output];
    values[port] = value?.type === 'number' || value?.type === 'vector' ? value.value : undefined;
  }
  return values;
}

/** Runs a node on the elements for which its condition holds, and leaves the others as they were given. */
function runWhere(
  definition: NodeDefinition,
  where: Varying,
  given: ReadonlyMap<string, readonly Geometry[]>,
  varied: Record<string, { over: Geometry; per: PerElement }>,
  run: (given: ReadonlyMap<string, readonly Geometry[]>) => Readonly<Record<string, Value>>,
): Readonly<Record<string, Value>> {
  const port = definition.inputs[0].name;
  const subject = given.get(port)![0];
  const per = whereElements(definition.where, subject);
  if (definition.where === 'self') return run(given);
  if (per) varied['where'] = { over: subject, per };
  if (!per) throw new SettingError('where', `A condition cannot choose elements of ${subject.type} here; use it on all or none.`);
  let chosen;
  try {
    chosen = resolveVarying(where, subject, per, { label: 'Only where' });
  } catch (error) {
    throw error instanceof FormulaError ? new SettingError('where', `Only where: ${error.message}.`) : error;
  }
  if (subject.type === 'curves' && per === 'curve') {
    const parts = partCurves(subject, chosen);
    if (!parts.which.length) return { [definition.outputs[0].name]: subject };
    const made = run(new Map([...given, [port, [parts.chosen]]]));
    return Object.fromEntries(Object.entries(made).map(([name, value]) => [name, value.type === 'curves' ? putBack(value, parts) : value]));
  }
  return Object.fromEntries(Object.entries(run(given)).map(([name, value]) => [name, blended(subject, value, chosen, per)]));
}
