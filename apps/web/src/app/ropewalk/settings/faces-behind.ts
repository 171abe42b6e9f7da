import { definitionById, settingsOf, type Dial, type FilaxisDocument } from '@filaxis/core';
import { withAllDialValues } from '../document/dials';

export interface FacesBehind {
  readonly faces: number;
  /** The least budget of the outputs that they go to, triangles; 0: none has one. */
  readonly budget: number;
}

/**
 * Faces that the skins behind an output's curves will make of so many pieces between two points, before anything is made. Null where there is no skin whose faces could be
 * counted so, or curves are resampled before it.
 */
export function facesBehind(
  document: FilaxisDocument,
  dials: readonly Dial[],
  output: readonly [node: string, port: string],
  pieces: number,
): FacesBehind | null {
  const skins = new Set<string>();
  const ways = [output];
  let faces = 0;
  for (const [from, port] of ways)
    for (const { to } of document.wires.filter((wire) => wire.from[0] === from && wire.from[1] === port)) {
      const definition = definitionById(document, to[0]);
      const own = document.nodes.find(({ id }) => id === to[0]);
      if (!definition || !own || to[1] !== definition.inputs[0]?.name) continue;
      const each = definition.facesPerPiece?.(withAllDialValues(dials, settingsOf(document, own)));
      if (each !== undefined && Number.isFinite(each)) {
        faces += each * pieces;
        skins.add(to[0]);
      } else if (definition.passes && definition.family.id !== 'pace') ways.push([to[0], definition.outputs[0].name]);
    }
  return skins.size ? { faces, budget: leastBudget(document, skins) } : null;
}

/** The least budget of all outputs that nodes lead to. */
function leastBudget(document: FilaxisDocument, nodes: ReadonlySet<string>): number {
  const reached = new Set(nodes);
  for (const id of reached) for (const { from, to } of document.wires) if (from[0] === id) reached.add(to[0]);
  const budgets = document.nodes
    .filter(({ id }) => reached.has(id) && definitionById(document, id)?.role === 'output')
    .map((own) => Number(settingsOf(document, own)['budget']));
  const set = budgets.filter((budget) => budget > 0);
  return set.length ? Math.min(...set) : 0;
}
