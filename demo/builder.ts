import { requireDocument, type Dial, type FilaxisDocument, type GraphNode, type Wire } from '@filaxis/core';

/** Builds a document node by node; columns and rows of the graph are laid out on a grid. */
export class DocumentBuilder {
  private readonly nodes: GraphNode[] = [];
  private readonly wires: Wire[] = [];

  constructor(
    private readonly title: string,
    private readonly dials: readonly Dial[],
  ) {}

  /** Adds a node in a column and row, wired from the named nodes' only outputs. */
  add(
    id: string,
    type: string,
    [column, row]: readonly [number, number],
    settings: Readonly<Record<string, unknown>>,
    ...from: readonly (readonly [node: string, port: string, into: string])[]
  ): this {
    this.nodes.push({ id, type, at: [column * 204, row * 88], settings });
    for (const [node, port, into] of from) this.wires.push({ from: [node, port], to: [id, into] });
    return this;
  }

  build(): FilaxisDocument {
    const { title, dials, nodes, wires } = this;
    return requireDocument({ format: 'filaxis-graph', version: 1, title, dials, nodes, wires, areas: [], notes: [], view: {} });
  }
}
