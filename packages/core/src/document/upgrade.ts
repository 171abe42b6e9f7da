import type { NodeDefinition } from '../definition/define.js';
import type { GraphNode, Wire } from '../definition/graph.js';
import type { ChoiceSetting, Settings } from '../definition/settings.js';
import { nodeDefinitions } from '../nodes/catalogue.js';
import { withFormulaName } from '../values/formula/parse.js';
import { currentEdition, type FilaxisDocument } from './document.js';
import { definitionOf } from './documentIndex.js';

type NodeSettings = Readonly<Record<string, unknown>>;

/**
 * A document of an earlier time as it is written now, step by step: kinds of nodes under their names of today, names of settings, settings that a node puts otherwise now,
 * choices, ports, and defaults of its edition. The same object where there is nothing to change. Documents that are read by `requireDocument` have been through it.
 */
export function upgradeDocument(document: FilaxisDocument): FilaxisDocument {
  const nodes = document.nodes.map((node) => upgradeNode(document, node));
  const definitions = new Map(nodes.map((node) => [node.id, definitionOf(document, node)]));
  const wires = document.wires.map((wire) => upgradeWire(wire, definitions));
  const same = nodes.every((node, i) => node === document.nodes[i]) && wires.every((wire, i) => wire === document.wires[i]);
  if ((document.edition ?? 1) === currentEdition) return same ? document : { ...document, nodes, wires };
  return {
    ...document,
    edition: currentEdition,
    nodes: nodes.map((node) => withEarlierDefaults(withBodies(node, definitions.get(node.id), document), definitions.get(node.id), document)),
    wires,
  };
}

/** What wrote the number of connected pieces as `part` before edition 2. */
const numbersParts: ReadonlySet<string> = new Set(['mesh.parts', 'place.loops']);

/** Whether what comes into a node has the numbers of connected pieces: from Parts or Loops around, without a skin between, which has a `part` of its own. */
function hasPartNumbers(document: FilaxisDocument, id: string, seen = new Set<string>()): boolean {
  return document.wires.some(({ from: [source], to }) => {
    if (to[0] !== id || seen.has(source)) return false;
    seen.add(source);
    const node = document.nodes.find((each) => each.id === source);
    if (!node) return false;
    if (numbersParts.has(node.type)) return true;
    return !definitionOf(document, node)?.attributes.writes.includes('part') && hasPartNumbers(document, source, seen);
  });
}

/** Before edition 2 Parts wrote the number of connected pieces as `part`, by which skins tell wall and caps: settings that name it name `body`. */
function withBodies(node: GraphNode, definition: NodeDefinition | undefined, document: FilaxisDocument): GraphNode {
  if ((document.edition ?? 1) >= 2 || !JSON.stringify(node.settings ?? {}).includes('part') || !hasPartNumbers(document, node.id)) return node;
  const renamed = (value: unknown): unknown => {
    if (typeof value !== 'object' || value === null) return value;
    if (Array.isArray(value)) return value.map(renamed);
    const { formula, attribute, over } = value as Record<string, unknown>;
    return {
      ...value,
      ...(typeof formula === 'string' && { formula: inFormula(formula) }),
      ...(attribute === 'part' && { attribute: 'body' }),
      ...(over === 'part' && { over: 'body' }),
    };
  };
  const settings = Object.entries(node.settings ?? {}).map(([key, value]) => {
    const setting = definition?.settings[key];
    if (setting?.kind === 'text' && typeof value === 'string') return [key, value === 'part' ? 'body' : setting.formula ? inFormula(value) : value];
    return [key, setting?.kind === 'data' ? value : renamed(value)];
  });
  return { ...node, settings: Object.fromEntries(settings) as GraphNode['settings'] };
}

/** A formula with `body` for `part`; one that cannot be read stays for whoever checks it. */
function inFormula(text: string): string {
  try {
    return withFormulaName(text, 'part', 'body');
  } catch {
    return text;
  }
}

/** A node of an earlier edition with the defaults of that edition written down, where it leaves them out. */
function withEarlierDefaults(node: GraphNode, definition: NodeDefinition | undefined, document: FilaxisDocument): GraphNode {
  const edition = document.edition ?? 1;
  const wired = (port: string): boolean => document.wires.some(({ to }) => to[0] === node.id && to[1] === port);
  const left = Object.entries(definition?.settings ?? {}).flatMap(([name, { earlier }]) =>
    earlier && edition < earlier.before && !Object.hasOwn(node.settings ?? {}, name) && !wired(name) ? [[name, earlier.default]] : [],
  );
  const settings = left.length ? { ...node.settings, ...Object.fromEntries(left) } : node.settings;
  const kept = definition?.keepsMeaning?.(settings ?? {}, edition, wired) ?? settings;
  return kept === node.settings ? node : { ...node, settings: kept };
}

function upgradeNode(document: FilaxisDocument, given: GraphNode): GraphNode {
  const type = definitionOf(document, given) ? given.type : typeOfToday(given.type);
  const node = type === given.type ? given : { ...given, type };
  const definition = definitionOf(document, node);
  if (!definition || !node.settings) return node;
  const steps: readonly ((settings: NodeSettings) => NodeSettings)[] = [
    (settings) => renamedKeys(settings, definition.settings),
    (settings) => definition.upgrade?.(settings) ?? settings,
    (settings) => renamedChoices(settings, definition.settings),
  ];
  const settings = steps.reduce((before, step) => step(before), node.settings);
  return settings === node.settings ? node : { ...node, settings };
}

/** The name of today of a kind of node; what nobody was called stays. */
function typeOfToday(type: string): string {
  for (const definition of nodeDefinitions.values()) if (definition.formerly.includes(type)) return definition.type;
  return type;
}

/** Settings under their names of today; one that is there already is not overwritten. */
function renamedKeys(given: NodeSettings, settings: Settings): NodeSettings {
  let result = given;
  for (const [name, { formerly = [] }] of Object.entries(settings))
    for (const old of formerly) {
      if (!Object.hasOwn(result, old) || Object.hasOwn(settings, old)) continue;
      const { [old]: value, ...rest } = result;
      result = Object.hasOwn(rest, name) ? rest : { ...rest, [name]: value };
    }
  return result;
}

function renamedChoices(given: NodeSettings, settings: Settings): NodeSettings {
  const renamed = Object.entries(given).flatMap(([key, value]) => {
    const setting = Object.hasOwn(settings, key) ? settings[key] : undefined;
    const choice = setting?.kind === 'choice' ? choiceNamed(setting, value) : undefined;
    return choice === undefined ? [] : [[key, choice]];
  });
  return renamed.length ? { ...given, ...Object.fromEntries(renamed) } : given;
}

/** The choice that another spelling stands for, or a choice written as a number or truth value; undefined when nothing needs to be rewritten. */
function choiceNamed({ choices, aliases = {} }: ChoiceSetting, value: unknown): string | undefined {
  if (typeof value === 'object') return undefined;
  const text = String(value);
  if (Object.hasOwn(choices, text)) return text === value ? undefined : text;
  return Object.hasOwn(aliases, text) ? aliases[text] : undefined;
}

function upgradeWire(wire: Wire, definitions: ReadonlyMap<string, NodeDefinition | undefined>): Wire {
  const from = portOfToday(definitions.get(wire.from[0])?.outputs, wire.from[1]);
  const target = definitions.get(wire.to[0]);
  const input = portOfToday(target?.inputs, wire.to[1]);
  // A wire into a setting goes by the setting's name.
  const setting = Object.entries(target?.settings ?? {}).find(([, { formerly = [] }]) => formerly.includes(input))?.[0];
  const to = target && !Object.hasOwn(target.settings, input) && setting !== undefined ? setting : input;
  return from === wire.from[1] && to === wire.to[1] ? wire : { ...wire, from: [wire.from[0], from], to: [wire.to[0], to] };
}

const portOfToday = (ports: readonly { readonly name: string; readonly aliases?: readonly string[] }[] | undefined, name: string): string =>
  ports?.some((port) => port.name === name) ? name : (ports?.find((port) => port.aliases?.includes(name))?.name ?? name);
