import type { GraphNode, Wire } from '../definition/graph.js';
import { currentEdition, type Dial, type FilaxisDocument } from './document.js';
import { requireDocument } from './parse.js';

/** Distances of columns and rows of the graph, in its units. */
export const [columnWidth, rowHeight] = [204, 88] as const;

/**
 * Writes a document in code, node by node; columns and rows of the graph lie on a grid.
 *
 * @example
 * const document = new DocumentBuilder('Line', [])
 *   .add('line', 'lay.line', [0, 0], { to: [3, 0, 0] })
 *   .add('tube', 'skin.tube', [1, 0], { radius: 0.05 }, ['line', 'curves', 'curves'])
 *   .build();
 */
export class DocumentBuilder {
  private readonly nodes: GraphNode[] = [];
  private readonly wires: Wire[] = [];

  constructor(
    private readonly title: string,
    private readonly dials: readonly Dial[] = [],
  ) {}

  /** Adds a node in a column and row, wired from outputs of nodes into its inputs: [node, output, input]. */
  add(
    id: string,
    type: string,
    [column, row]: readonly [number, number],
    settings: Readonly<Record<string, unknown>>,
    ...from: readonly (readonly [node: string, port: string, into: string])[]
  ): this {
    this.nodes.push({ id, type, at: [column * columnWidth, row * rowHeight], settings });
    for (const [node, port, into] of from) this.wires.push({ from: [node, port], to: [id, into] });
    return this;
  }

  /** @throws DocumentError naming the first place that does not fit the form of documents; wires and settings are checked by `checkDocument`. */
  build(view: FilaxisDocument['view'] = {}): FilaxisDocument {
    const { title, dials, nodes, wires } = this;
    return requireDocument({ format: 'filaxis-graph', version: 1, edition: currentEdition, title, dials, nodes, wires, areas: [], notes: [], view });
  }
}
