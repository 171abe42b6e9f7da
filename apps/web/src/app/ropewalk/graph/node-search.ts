import { fits, nodeDefinitions, type NodeDefinition, type PortKind } from '@filaxis/core';

/** What usually comes after a wire of a kind, best guess first. */
const usual: Partial<Record<PortKind, readonly string[]>> = {
  curves: ['shape.hang', 'pace.resample', 'skin.tube', 'skin.rope', 'aim.frames', 'shape.transform'],
  mesh: ['flow.output', 'mesh.material', 'shape.transform', 'flow.join'],
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

/** Nodes that fit a search and, when they are to take a wire of `kind`, that wire; best first. */
export function searchNodes(text: string, kind: PortKind | null): NodeDefinition[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const all = [...nodeDefinitions.values()].filter((definition) => !kind || definition.inputs.some((port) => fits(kind, port)));
  const guess = (definition: NodeDefinition): number => {
    const place = (kind ? usual[kind] : undefined)?.indexOf(definition.type) ?? -1;
    return place < 0 ? 99 : place;
  };
  if (!words.length) return all.sort((a, b) => guess(a) - guess(b));
  return all
    .map((definition) => ({ definition, found: score(definition, words) }))
    .filter(({ found }) => found > 0)
    .sort((a, b) => b.found - a.found || guess(a.definition) - guess(b.definition))
    .map(({ definition }) => definition);
}
