import { fits, nodeDefinitions, type NodeDefinition, type PortKind } from '@filaxis/core';

/** What usually comes after a wire of a kind, best guess first. */
const usual: Partial<Record<PortKind, readonly string[]>> = {
  curves: ['shape.hang', 'pace.resample', 'skin.tube', 'skin.sweep', 'skin.rope', 'skin.loft', 'aim.frames', 'place.copies', 'shape.transform'],
  points: ['place.copies', 'lay.throughPoints', 'pace.reorder', 'lay.arc3'],
  mesh: ['flow.output', 'mesh.material', 'mesh.normals', 'mesh.uv', 'shape.mirror', 'skin.extrude', 'flow.join'],
  copies: ['flow.output', 'mesh.material', 'shape.transform'],
};

function score(definition: NodeDefinition, words: readonly string[]): number {
  let total = 0;
  for (const word of words) {
    const label = definition.label.toLowerCase();
    const found = label.startsWith(word)
      ? 8
      : label.includes(word)
        ? 5
        : definition.type.toLowerCase().includes(word)
          ? 4
          : definition.keywords.some((keyword) => keyword.startsWith(word))
            ? 3
            : definition.summary.toLowerCase().includes(word)
              ? 1
              : 0;
    if (!found) return 0;
    total += found;
  }
  return total;
}

/**
 * Nodes that fit a search, best first. When they are to take a wire of `kind`, those that can come first; the others are found by their words only,
 * and stay unwired.
 */
export function searchNodes(text: string, kind: PortKind | null): NodeDefinition[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const takes = (definition: NodeDefinition): boolean => !kind || definition.inputs.some((port) => fits(kind, port));
  const all = [...nodeDefinitions.values()].filter((definition) => words.length > 0 || takes(definition));
  const guess = (definition: NodeDefinition): number => {
    const place = (kind ? usual[kind] : undefined)?.indexOf(definition.type) ?? -1;
    return place < 0 ? 99 : place;
  };
  if (!words.length) return all.sort((a, b) => guess(a) - guess(b));
  return all
    .map((definition) => ({ definition, found: score(definition, words) }))
    .filter(({ found }) => found > 0)
    .sort((a, b) => Number(takes(b.definition)) - Number(takes(a.definition)) || b.found - a.found || guess(a.definition) - guess(b.definition))
    .map(({ definition }) => definition);
}
