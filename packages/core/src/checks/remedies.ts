import type { Attribute, Carrier } from '../geometry/attributes.js';
import { nodeDefinitions } from '../nodes/catalogue.js';
import type { Ease, NodeDefinition, Warning, WarningCode } from '../definition/define.js';
import type { GraphNode } from '../definition/graph.js';
import type { NodeResult } from '../evaluate/result.js';
import { takenByFormulas } from '../evaluate/settle.js';
import { elementNames } from '../varying/elements.js';
import type { Remedy } from './finding.js';
import type { MeshFault } from './meshes.js';

/** A node that is answerable for what was found. */
export interface Answerable {
  readonly id: string;
  readonly definition: NodeDefinition;
  /** As it stands in the document. */
  readonly node: GraphNode;
  readonly result: NodeResult;
}

/** What mends a node that gives no result. */
export function remedyOfError(definition: NodeDefinition | undefined, id: string, setting: string | undefined, code: WarningCode | undefined): Remedy | null {
  if (code === 'unequal-lists' && definition?.settings['unequal'])
    return { do: 'set', label: 'Begin the shorter list again', node: id, setting: 'unequal', value: 'cycle' };
  if (setting === undefined || !definition?.settings[setting]) return null;
  return { do: 'set', label: `Put ${definition.settings[setting].label} back to its default`, node: id, setting, value: undefined };
}

/** What mends the cause of a warning, the nearest first. */
export function remediesOfWarning(answerable: Answerable, { code }: Warning): Remedy[] {
  const { definition } = answerable;
  const eased = (definition.eases[code] ?? []).flatMap((ease) => easing(answerable, ease));
  if (eased.length || (code !== 'pinch' && code !== 'self-cross')) return eased;
  const thin = thinner(answerable);
  return thin ? [thin] : [];
}

/** What a node says eases a warning of its; nothing where it is so already, or where the node to put before it does not take what comes in or has no settings for it. */
function easing({ id, definition, result }: Answerable, ease: Ease): Remedy[] {
  if ('setting' in ease) return result.settings[ease.setting] === ease.value ? [] : [{ do: 'set', node: id, ...ease }];
  // A node that is warned of before its first input passes on what comes in.
  const kind = result.outputs[definition.outputs[0].name]?.type;
  const takes = nodeDefinitions.get(ease.before)?.inputs[0].kinds ?? [];
  const settings = takes.some((each) => each === kind) ? ease.settings(result.settings) : null;
  return settings ? [{ do: 'before', label: ease.label, node: id, type: ease.before, settings }] : [];
}

/** How much thinner a skin is made. */
const factor = 0.8;

function thinner({ id, definition, node }: Answerable): Remedy | null {
  const setting = definition.thickness === null ? definition.telling[0] : definition.thickness?.setting;
  if (setting === undefined) return null;
  const { default: standard, label } = definition.settings[setting];
  const value = scaled(node.settings?.[setting] ?? standard, factor);
  return value === undefined ? null : { do: 'set', label: `${label} down by a fifth`, node: id, setting, value };
}

/** A value of a setting times a factor, in the mode it is in; a dial's, which others may follow, as a formula. undefined: it cannot be told. */
export function scaled(value: unknown, by: number): unknown {
  const times = (number: number): number => Number((number * by).toPrecision(6));
  if (typeof value === 'number') return times(value);
  if (Array.isArray(value)) return value.map((each) => scaled(each, by));
  if (typeof value !== 'object' || value === null) return undefined;
  if ('dial' in value) return isName(String(value.dial)) ? { formula: `${by}*${String(value.dial)}` } : undefined;
  if ('formula' in value) return { formula: `${by}*(${String(value.formula)})` };
  if ('ramp' in value) return { ...value, ramp: (value.ramp as [number, number][]).map(([at, height]) => [at, times(height)]) };
  if ('random' in value) return { ...value, random: (value.random as number[]).map(times) };
  if (!('attribute' in value)) return undefined;
  const { scale = 1, offset = 0 } = value as { scale?: number; offset?: number };
  return { ...value, scale: times(scale), offset: times(offset) };
}

/** A dial's id that a formula reads as the dial, and as nothing else. */
const isName = (id: string): boolean => /^[A-Za-z_][A-Za-z0-9_]*$/.test(id) && !takenByFormulas(id) && !Object.hasOwn(elementNames, id);

/** What mends a fault of a mesh: a setting of the node that made it, or a node behind it. */
export function remedyOfFault({ id, definition, result }: Answerable, kind: MeshFault['kind']): Remedy | null {
  if (kind === 'hole') return { do: 'set', label: 'Close the ends', node: id, setting: 'caps', value: 'flat' };
  if (kind === 'inside-out' && definition.settings['flip'])
    return { do: 'set', label: 'Flip its faces', node: id, setting: 'flip', value: result.settings['flip'] !== true };
  for (const { type, mends } of nodeDefinitions.values()) {
    const mend = mends[kind];
    if (mend) return { do: 'insert', label: mend.label, after: id, type, settings: mend.settings(result.settings) };
  }
  return null;
}

/** Carriers as Set attribute names them. */
const carriers: Readonly<Record<Carrier, string>> = { point: 'points', curve: 'curves', corner: 'corners', face: 'faces', copy: 'copies', whole: 'whole' };

/** Puts 0 in place of what is not finite in an attribute of one number. */
export function remedyOfAttribute(id: string, name: string, { size, carrier }: Attribute): Remedy | null {
  if (size !== 1 || !/^[a-z][A-Za-z0-9_]*$/.test(name)) return null;
  const value = { formula: `abs(${name}) < 1e30 ? ${name} : 0` };
  return { do: 'insert', label: 'Put 0 in their place', after: id, type: 'gauge.set', settings: { name, carrier: carriers[carrier], value } };
}
