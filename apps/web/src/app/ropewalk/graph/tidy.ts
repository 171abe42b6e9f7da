import type { FilaxisDocument } from '@filaxis/core';
import { tagHeight, tagWidth } from './tag-geometry';

/** New places for all nodes by automatic layout (layered, left to right; elkjs), loaded when first asked for. */
export async function tidyPlaces(document: FilaxisDocument): Promise<Map<string, [number, number]>> {
  const { default: Elk } = await import('elkjs/lib/elk.bundled.js');
  const laid = await new Elk().layout({
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
