/** A node as a document has it. */
export interface GraphNode {
  readonly id: string;
  readonly type: string;
  /** What the artist calls it; without one, it is called as its kind is. */
  readonly name?: string;
  readonly at?: readonly [number, number];
  readonly settings?: Readonly<Record<string, unknown>>;
}

/** From [node, output port] to [node, input port]. */
export interface Wire {
  readonly from: readonly [string, string];
  readonly to: readonly [string, string];
}

/** Nodes and what joins them: a document, or a part that stands in one node of it. */
export interface Graph {
  readonly nodes: readonly GraphNode[];
  readonly wires: readonly Wire[];
}
