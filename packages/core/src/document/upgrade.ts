import { definitionOf } from './documentIndex.js';
import type { FilaxisDocument } from './document.js';
import type { GraphNode, Wire } from '../definition/graph.js';
import type { ChoiceSetting } from '../definition/settings.js';

/** The choice that another spelling stands for, or a choice written as a number or truth value; undefined when nothing needs to be rewritten. */
export function choiceNamed({ choices, aliases = {} }: ChoiceSetting, value: unknown): string | undefined {
  if (typeof value === 'object') return undefined;
  const text = String(value);
  if (Object.hasOwn(choices, text)) return text === value ? undefined : text;
  return Object.hasOwn(aliases, text) ? aliases[text] : undefined;
}

/**
 * A document of an earlier time as it is written now: settings that were put otherwise, and every port and choice under its own name. The same object where
 * there is nothing to change. Documents that are read by `requireDocument` have been through it.
 */
export function upgradeDocument(document: FilaxisDocument): FilaxisDocument {
  const types = new Map(document.nodes.map((node) => [node.id, definitionOf(document, node)]));
  const named = (ports: readonly { name: string; aliases?: readonly string[] }[] | undefined, name: string): string =>
    ports?.some((port) => port.name === name) ? name : (ports?.find((port) => port.aliases?.includes(name))?.name ?? name);
  let changed = false;
  const wires = document.wires.map((wire): Wire => {
    const from = named(types.get(wire.from[0])?.outputs, wire.from[1]);
    const to = named(types.get(wire.to[0])?.inputs, wire.to[1]);
    if (from === wire.from[1] && to === wire.to[1]) return wire;
    changed = true;
    return { ...wire, from: [wire.from[0], from], to: [wire.to[0], to] };
  });
  const nodes = document.nodes.map((given): GraphNode => {
    const definition = types.get(given.id);
    const upgraded = given.settings && definition?.upgrade?.(given.settings);
    const node = upgraded && upgraded !== given.settings ? { ...given, settings: upgraded } : given;
    if (node !== given) changed = true;
    const settings = definition?.settings;
    const renamed = Object.entries(node.settings ?? {}).flatMap(([key, value]) => {
      const setting = settings && Object.hasOwn(settings, key) ? settings[key] : undefined;
      const choice = setting?.kind === 'choice' ? choiceNamed(setting, value) : undefined;
      return choice === undefined ? [] : [[key, choice]];
    });
    if (!renamed.length) return node;
    changed = true;
    return { ...node, settings: { ...node.settings, ...Object.fromEntries(renamed) } };
  });
  return changed ? { ...document, nodes, wires } : document;
}
