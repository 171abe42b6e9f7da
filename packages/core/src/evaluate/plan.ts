import { definitionOf } from '../document/documentIndex.js';
import { checkDocument } from '../document/checkDocument.js';
import { orderNodes } from '../document/order.js';
import { type Problem } from '../document/problem.js';
import type { NodeDefinition } from '../definition/define.js';
import type { FilaxisDocument } from '../document/document.js';
import type { GraphNode } from '../definition/graph.js';

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
      const definition = definitionOf(document, node);
      const fault =
        faults.get(node.id) ??
        (inCircle.has(node.id) ? { pointer: `/nodes/${index}`, message: 'Its wires go round in a circle.', node: node.id, follows: true } : undefined);
      nodes.set(node.id, { node, index, definition, fault, wires: [] });
    });
    for (const { from, to } of document.wires) {
      const planned = nodes.get(to[0]);
      if (planned && !planned.definition?.standsAlone?.(planned.node.settings ?? {})) planned.wires.push({ port: to[1], node: from[0], output: from[1] });
    }
    this.nodes = nodes;
  }
}

export interface PlannedNode {
  readonly node: GraphNode;
  readonly index: number;
  readonly definition: NodeDefinition | undefined;
  readonly fault: Problem | undefined;
  /** What it takes, in the order of the wires. */
  readonly wires: { port: string; node: string; output: string }[];
}
