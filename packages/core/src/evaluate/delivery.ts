import { distinctNames } from '../base/names.js';
import type { Problem } from '../document/problem.js';
import { definitionOf, givenName, labelById } from '../document/documentIndex.js';
import type { FilaxisDocument } from '../document/document.js';
import { setOf } from '../geometry/join.js';
import type { GeometrySet } from '../geometry/geometry.js';
import { geometriesOf } from './inputs.js';
import type { Plan } from './plan.js';
import { isEmptyResult, resultName, resultOf } from './report.js';
import type { RunResult } from './result.js';

/** A part of a delivery, under its own name: an object of the file. */
export interface Piece {
  readonly name: string;
  readonly set: GeometrySet;
}

/** What an output is called as long as nobody named it, which says nothing of what it holds. */
const unnamed = 'main';

/** The name of an output that tells something; null: it was left as it is. */
function ownName(document: FilaxisDocument, output: string): string | null {
  const name = resultName(document, output);
  return name === unnamed ? null : name;
}

/** What a node's result is called: by the name it was given, else by what made it, looking through nodes that only change what passes through them. */
function madeBy(plan: Plan, id: string): string {
  let at = id;
  for (let seen = 0; seen < plan.order.length; seen++) {
    const own = plan.nodes.get(at);
    const first =
      own?.definition?.passes && givenName(plan.document, own.node) === undefined
        ? own.wires.find(({ port }) => port === own.definition!.inputs[0].name)
        : undefined;
    if (!first) break;
    at = first.node;
  }
  return labelById(plan.document, at);
}

/** A source of pieces: an output of a node, and the name that its piece goes by. */
interface Source {
  readonly name: string;
  readonly node: string;
  /** Null: all that the node gives. */
  readonly output: string | null;
}

/** What goes into a file of the results of nodes. */
function sourcesOf(plan: Plan, nodes: readonly string[]): Source[] {
  const { document, nodes: planned } = plan;
  return nodes.flatMap((id): Source[] => {
    const own = planned.get(id);
    if (!own) return [];
    if (definitionOf(document, own.node)?.role !== 'output') return [{ name: madeBy(plan, id), node: id, output: null }];
    const given = ownName(document, id);
    const before = given !== null && nodes.length > 1 ? `${given} ` : '';
    const several = own.wires.length > 1;
    return own.wires.map(({ node, output }): Source => {
      const label = madeBy(plan, node);
      return { name: several ? `${before}${label}` : (given ?? label), node, output };
    });
  });
}

/**
 * What nodes give, piece by piece, named after outputs and nodes. An output to which one node is wired is one piece under the output's name (under the node's, while the output is
 * still called "main"); one that takes several is a piece for each of them, under their names, with the output's before them where several outputs are asked for. Any other node is
 * one piece. Equal names are numbered; what is empty is left out.
 */
export function deliveredPieces(plan: Plan, run: RunResult, nodes: readonly string[]): Piece[] {
  const found = sourcesOf(plan, nodes).map(({ name, node, output }): Piece => {
    const result = run.nodes.get(node);
    const value = output === null ? undefined : result?.outputs[output];
    return { name, set: output === null ? resultOf(result) : setOf(value ? geometriesOf(value) : []) };
  });
  const filled = found.filter(({ set }) => !isEmptyResult(set));
  const names = distinctNames(filled.map(({ name }) => name));
  return filled.map(({ set }, i) => ({ name: names[i], set }));
}

/** What the whole is called in a file. Not as the file, so that the same result is the same bytes. */
export function deliveryName(plan: Plan, nodes: readonly string[]): string {
  const sources = sourcesOf(plan, nodes);
  if (sources.length === 1) return sources[0].name;
  return (nodes.length === 1 ? ownName(plan.document, nodes[0]) : null) ?? plan.document.title;
}

/** The error that keeps one of these nodes from having a result: of a node that waits, the one it waits for. Null: there is none. */
export function faultBefore(plan: Plan, run: RunResult, nodes: readonly string[]): Problem | null {
  const failed = nodes.map((node) => run.nodes.get(node)?.error).find((error) => error);
  if (!failed?.follows) return failed ?? null;
  const seen = new Set(nodes);
  for (const id of seen) {
    const error = run.nodes.get(id)?.error;
    if (error && !error.follows) return error;
    for (const { node } of plan.nodes.get(id)?.wires ?? []) seen.add(node);
  }
  return failed;
}
