import { definitionOf, indexOf, outputsOf, settingsOf } from '../document/documentIndex.js';
import type { FilaxisDocument } from '../document/document.js';
import type { GeometrySet } from '../geometry/geometry.js';
import { measure, type Measures } from '../gauge/measure.js';
import type { NodeResult, RunResult } from './result.js';
import type { Plan } from './plan.js';
import type { Problem } from '../document/problem.js';

/** What a run gave, in the form of the command line's `--report`. */
export interface Report {
  readonly title: string;
  readonly ok: boolean;
  readonly ms: number;
  readonly nodes: Readonly<Record<string, NodeReport>>;
  readonly outputs: Readonly<Record<string, Measures>>;
  /** Everything wrong, with its place; empty when `ok`. */
  readonly problems: readonly Problem[];
}

export interface NodeReport {
  readonly type: string;
  readonly ms: number;
  readonly bytes: number;
  readonly in: NodeResult['in'];
  readonly out: NodeResult['out'];
  readonly warnings: NodeResult['warnings'];
  readonly error?: string;
}

/** Results of the document's outputs by their names, for those that ran without error; empty where nothing came in. */
export function namedResults(plan: Plan, run: RunResult): ReadonlyMap<string, GeometrySet> {
  const named = new Map<string, GeometrySet>();
  for (const node of outputsOf(plan.document)) {
    const result = run.nodes.get(node.id);
    if (!result || result.error) continue;
    const value = result.outputs['result'];
    named.set(String(settingsOf(plan.document, node)['name']), value?.type === 'set' ? value.set : {});
  }
  return named;
}

/** What a node's result is called in files: by the node's name, an output by its own, else by the node's id. Not as the file, so that the same result is the same bytes. */
export function resultName(document: FilaxisDocument, id: string): string {
  const node = indexOf(document).nodes.get(id);
  if (!node) return id;
  return node.name ?? (definitionOf(document, node)?.role === 'output' ? String(settingsOf(document, node)['name']) : id);
}

/** There is nothing in it to see or to write. */
export const isEmptyResult = ({ curves, points, mesh, copies }: GeometrySet): boolean =>
  !curves?.positions.length && !points?.positions.length && !mesh?.corners.length && !copies?.object.length;

/** All geometry that a node gives, as one set: what Peek shows and `--node` writes. */
export function resultOf(result: NodeResult | undefined): GeometrySet {
  const set: Record<string, unknown> = {};
  for (const value of Object.values(result?.outputs ?? {})) {
    if (value.type === 'set') Object.assign(set, value.set);
    // Of several of one kind the first is what the node is for.
    else if (value.type !== 'number' && value.type !== 'vector') set[value.type] ??= value;
  }
  return set;
}

/** Problems of the plan and errors of the nodes that ran, the cause before its consequences. */
export function problemsOf(plan: Plan, run: RunResult): Problem[] {
  const problems = [...plan.problems];
  const told = new Set(problems.map((problem) => problem.node));
  for (const result of run.nodes.values()) {
    const { error } = result;
    if (!error || error.follows || told.has(error.node)) continue;
    problems.push(error);
  }
  return problems;
}

export function makeReport(plan: Plan, run: RunResult): Report {
  const nodes: Record<string, NodeReport> = {};
  for (const [id, { ms, bytes, in: given, out, warnings, error }] of run.nodes)
    nodes[id] = { type: plan.nodes.get(id)!.node.type, ms: rounded(ms), bytes, in: given, out, warnings, ...(error && { error: error.message }) };
  const outputs: Record<string, Measures> = {};
  for (const [name, set] of namedResults(plan, run)) outputs[name] = measure(set);
  const problems = problemsOf(plan, run);
  return { title: plan.document.title, ok: problems.length === 0, ms: rounded(run.ms), nodes, outputs, problems };
}

const rounded = (ms: number): number => Math.round(ms * 1000) / 1000;
