import type { FilaxisDocument } from '@filaxis/core';
import { Observable } from 'rxjs';
import type { ELK, ElkNode } from 'elkjs/lib/elk-api.js';
import { tagGap, tagHeight, widthOf } from './tag-geometry';

/** How far the layout of a graph is: the share of its nodes that have their places (0…1), and at the end where all of them go. */
export interface Tidying {
  readonly share: number;
  readonly places?: ReadonlyMap<string, [number, number]>;
}

/** Between parts of a graph that no wire joins. */
const partGap = 68;

/**
 * New places for all nodes by automatic layout (layered, left to right; elkjs), part by part below each other, in a worker of its own that is loaded when first
 * asked for. `shape` is the width of the pane by its height: rows that are long for it are folded. Unsubscribing ends it.
 */
export function tidyPlaces(document: FilaxisDocument, shape: number, workerFactory = tidyWorker): Observable<Tidying> {
  return new Observable((told) => {
    const worker = workerFactory();
    worker.onerror = (event) => told.error(new Error(event.message || 'The graph could not be laid out.'));
    layOut(document, shape, worker, (tidying) => told.next(tidying)).then(
      () => told.complete(),
      (error: unknown) => told.error(error),
    );
    return () => worker.terminate();
  });
}

const tidyWorker = (): Worker => new Worker(new URL('../../../workers/tidy.worker', import.meta.url), { type: 'module' });

async function layOut(document: FilaxisDocument, shape: number, worker: Worker, tell: (tidying: Tidying) => void): Promise<void> {
  const { default: Elk } = await import('elkjs/lib/elk-api.js');
  const elk = new Elk({ workerFactory: () => worker });
  const places = new Map<string, [number, number]>();
  let top = 0;
  for (const part of partsOf(document)) {
    tell({ share: places.size / document.nodes.length });
    const { children = [], height = 0 } = await placed(elk, part, shape);
    for (const { id, x = 0, y = 0 } of children) places.set(id, [Math.round(x), Math.round(top + y)]);
    top += height + partGap;
  }
  tell({ share: 1, places });
}

/** Most nodes of a part that is never folded: it can be read as it is. */
const shortest = 5;

type Part = Pick<FilaxisDocument, 'nodes' | 'wires'>;

const placed = (elk: ELK, { nodes, wires }: Part, shape: number): Promise<ElkNode> =>
  elk.layout({
    id: 'graph',
    layoutOptions: {
      'elk.algorithm': 'layered',
      'elk.direction': 'RIGHT',
      'elk.padding': '[top=0,left=0,bottom=0,right=0]',
      'elk.layered.spacing.nodeNodeBetweenLayers': String(tagGap),
      'elk.spacing.nodeNode': '34',
      'elk.layered.considerModelOrder.strategy': 'NODES_AND_EDGES',
      'elk.layered.nodePlacement.strategy': 'BRANDES_KOEPF',
      ...(nodes.length > shortest && { 'elk.layered.wrapping.strategy': 'MULTI_EDGE', 'elk.aspectRatio': String(shape) }),
    },
    children: nodes.map((node) => ({ id: node.id, width: widthOf(node), height: tagHeight })),
    edges: wires.map(({ from, to }, i) => ({ id: `w${i}`, sources: [from[0]], targets: [to[0]] })),
  });

/** Nodes that wires join, with those wires, in the order of their first nodes. */
export function partsOf({ nodes, wires }: Part): Part[] {
  const parent = new Map(nodes.map(({ id }) => [id, id]));
  const root = (id: string): string => {
    let at = id;
    while (parent.get(at) !== at) {
      parent.set(at, parent.get(parent.get(at)!)!);
      at = parent.get(at)!;
    }
    return at;
  };
  for (const { from, to } of wires) parent.set(root(to[0]), root(from[0]));
  const parts = new Map<string, { nodes: Part['nodes'][number][]; wires: Part['wires'][number][] }>();
  for (const node of nodes) {
    const key = root(node.id);
    const part = parts.get(key);
    if (part) part.nodes.push(node);
    else parts.set(key, { nodes: [node], wires: [] });
  }
  for (const wire of wires) parts.get(root(wire.from[0]))!.wires.push(wire);
  return [...parts.values()];
}
