import type { FilaxisDocument } from '@filaxis/core';
import { tagHeight, tagWidth } from './tag-geometry';

/** New places for the nodes of a graph, on their way from a worker. */
export interface Tidying {
  readonly places: Promise<Map<string, [number, number]>>;
  /** Ends it; `places` fails. */
  stop(): void;
  stopped(): boolean;
}

/** New places for all nodes by automatic layout (layered, left to right; elkjs) in a worker of its own, loaded when first asked for. */
export function tidyPlaces(document: FilaxisDocument): Tidying {
  const worker = new Worker(new URL('../../../workers/tidy.worker', import.meta.url), { type: 'module' });
  let refuse: (error: Error) => void = () => undefined;
  let stopped = false;
  const end = new Promise<never>((_, failed) => (refuse = failed));
  worker.onerror = (event) => refuse(new Error(event.message || 'The graph could not be laid out.'));
  return {
    places: Promise.race([laidOut(document, worker), end]).finally(() => worker.terminate()),
    stop: () => {
      stopped = true;
      refuse(new Error('Stopped.'));
    },
    stopped: () => stopped,
  };
}

async function laidOut(document: FilaxisDocument, worker: Worker): Promise<Map<string, [number, number]>> {
  const { default: Elk } = await import('elkjs/lib/elk-api.js');
  const laid = await new Elk({ workerFactory: () => worker }).layout({
    id: 'graph',
    layoutOptions: {
      'elk.algorithm': 'layered',
      'elk.direction': 'RIGHT',
      'elk.layered.spacing.nodeNodeBetweenLayers': '52',
      'elk.spacing.nodeNode': '34',
      'elk.layered.considerModelOrder.strategy': 'NODES_AND_EDGES',
      'elk.layered.nodePlacement.strategy': 'BRANDES_KOEPF',
    },
    children: document.nodes.map(({ id }) => ({ id, width: tagWidth, height: tagHeight })),
    edges: document.wires.map(({ from, to }, i) => ({ id: `w${i}`, sources: [from[0]], targets: [to[0]] })),
  });
  return new Map((laid.children ?? []).map(({ id, x = 0, y = 0 }) => [id, [Math.round(x), Math.round(y)]]));
}
