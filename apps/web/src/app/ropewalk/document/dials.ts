import {
  formulaNames,
  labelOf,
  partSettings,
  partsOf,
  withPart,
  takenByFormulas,
  withFormulaName,
  type Dial,
  type DialKind,
  type DialValue,
  type FilaxisDocument,
  definitionById,
  definitionOf,
  type NodeDefinition,
} from '@filaxis/core';
import { freshId, setSetting } from './edits';

/** Changes to a document's dials, as functions from one document to the next. */

export function setDialValue(document: FilaxisDocument, id: string, value: DialValue): FilaxisDocument {
  return { ...document, dials: (document.dials ?? []).map((dial) => (dial.id === id ? { ...dial, value } : dial)) };
}

export function changeDial(document: FilaxisDocument, id: string, change: Partial<Dial>): FilaxisDocument {
  return { ...document, dials: (document.dials ?? []).map((dial) => (dial.id === id ? { ...dial, ...change } : dial)) };
}

/** The formula in a setting's value: of a varying setting, or a text that is one. */
function formulaIn(definition: NodeDefinition | undefined, key: string, value: unknown): string | null {
  if (typeof value === 'object' && value !== null && typeof (value as { formula?: unknown }).formula === 'string')
    return (value as { formula: string }).formula;
  const setting = definition?.settings[key];
  return typeof value === 'string' && setting?.kind === 'text' && setting.formula ? value : null;
}

const follows = (value: unknown, id: string): boolean => typeof value === 'object' && value !== null && (value as { dial?: unknown }).dial === id;

const dialOf = (document: FilaxisDocument, value: unknown): Dial | undefined => document.dials?.find(({ id }) => follows(value, id));

/** A setting's value with the values of the dials that all of it or its parts follow. */
export const withDialValues = (dials: readonly Dial[], whole: unknown): unknown =>
  partsOf(whole).reduce((now, part, k) => withPart(now, k, dials.find(({ id }) => follows(part, id))?.value ?? part), whole);

/** The same of all settings of a node. */
export const withAllDialValues = (dials: readonly Dial[], settings: Readonly<Record<string, unknown>>): Readonly<Record<string, unknown>> =>
  Object.fromEntries(Object.entries(settings).map(([name, value]) => [name, withDialValues(dials, value)]));

/** Sets a setting to what a hand took it to: what follows a dial takes the dial along, within its range, and with it all else that follows that. */
export function setThroughDials(document: FilaxisDocument, node: string, setting: string, value: unknown): FilaxisDocument {
  const own = document.nodes.find(({ id }) => id === node)?.settings?.[setting];
  const moved = (now: FilaxisDocument, dial: Dial, to: unknown): FilaxisDocument => setDialValue(now, dial.id, withinDial(dial, to as DialValue));
  const whole = dialOf(document, own);
  if (whole) return moved(document, whole, value);
  const parts = partsOf(value);
  if (!Array.isArray(own) || parts.length !== own.length) return setSetting(document, node, setting, value);
  const dials = own.map((part) => dialOf(document, part));
  const now = dials.reduce((made, dial, k) => (dial ? moved(made, dial, parts[k]) : made), document);
  return setSetting(now, node, setting, own.map((part, k) => (dials[k] ? (part as unknown) : parts[k]))); // prettier-ignore
}

/** A number within a dial's range. */
function withinDial({ kind, min, max }: Dial, value: DialValue): DialValue {
  if (typeof value !== 'number') return value;
  const kept = Math.min(max ?? Infinity, Math.max(min ?? -Infinity, value));
  return kind === 'integer' ? Math.round(kept) : kept;
}

/** Takes a dial away; settings and formulas that used it keep its value. */
export function removeDial(document: FilaxisDocument, id: string): FilaxisDocument {
  const value = document.dials?.find((dial) => dial.id === id)?.value;
  const freed = (definition: NodeDefinition | undefined, key: string, whole: unknown): unknown =>
    partsOf(whole).reduce((now, part, k) => withPart(now, k, freedPart(definition, key, part)), whole);
  const freedPart = (definition: NodeDefinition | undefined, key: string, setting: unknown): unknown => {
    if (follows(setting, id)) return value;
    const formula = formulaIn(definition, key, setting);
    if (formula === null || (typeof value !== 'number' && typeof value !== 'boolean') || !formulaNames(formula).includes(id)) return setting;
    const text = withFormulaName(formula, id, Number(value) < 0 ? `(${Number(value)})` : String(Number(value)));
    return typeof setting === 'string' ? text : { ...(setting as object), formula: text };
  };
  const used = new Set(dialUses(document, id).map(({ node }) => node));
  return {
    ...document,
    dials: (document.dials ?? []).filter((dial) => dial.id !== id),
    nodes: document.nodes.map((node) =>
      used.has(node.id)
        ? {
            ...node,
            settings: Object.fromEntries(Object.entries(node.settings ?? {}).map(([key, setting]) => [key, freed(definitionOf(document, node), key, setting)])),
          }
        : node,
    ),
  };
}

/** Puts a dial before or after its neighbour. */
export function moveDial(document: FilaxisDocument, id: string, by: number): FilaxisDocument {
  const dials = [...(document.dials ?? [])];
  const at = dials.findIndex((dial) => dial.id === id);
  if (at < 0 || at + by < 0 || at + by >= dials.length) return document;
  dials.splice(at + by, 0, ...dials.splice(at, 1));
  return { ...document, dials };
}

const newDials: Readonly<Record<DialKind, Partial<Dial> & { readonly value: DialValue }>> = {
  number: { value: 0.5, min: 0, max: 1, step: 0.01 },
  integer: { value: 4, min: 0, max: 20, step: 1 },
  vector: { value: [0, 0, 0], step: 0.01 },
  boolean: { value: true },
  choice: { value: 'first', choices: ['first', 'second'] },
  colour: { value: '#2f55a4' },
  text: { value: '' },
  seed: { value: 1, min: 0, max: 9999, step: 1 },
};

/** An id for a dial that formulas can read: no dash, no word of theirs. */
const dialId = (document: FilaxisDocument, base: string): string => {
  const plain = base.replace(/[^A-Za-z0-9_]/g, '_');
  return freshId(takenByFormulas(plain) || plain.length === 1 ? `${plain}Dial` : plain, (document.dials ?? []).map(({ id }) => id)); // prettier-ignore
};

/** A new dial of a kind, not used yet. */
export function addDial(document: FilaxisDocument, kind: DialKind): { document: FilaxisDocument; id: string } {
  const id = dialId(document, kind);
  const label = id.replace(/^./, (letter) => letter.toUpperCase()).replace(/(\d+)$/, ' $1');
  return { document: { ...document, dials: [...(document.dials ?? []), { id, label, kind, ...newDials[kind] }] }, id };
}

/** Makes a dial of a setting's present value, or of one part of a vector or colour, and lets it follow that. Null when the setting has no kind of dial. */
export function dialFromSetting(
  document: FilaxisDocument,
  nodeId: string,
  key: string,
  part: number | null = null,
): { document: FilaxisDocument; id: string } | null {
  const node = document.nodes.find(({ id }) => id === nodeId);
  const definition = node && definitionOf(document, node);
  const setting = definition?.settings[key];
  if (!node || !setting) return null;
  const whole = node.settings?.[key] ?? setting.default;
  const own = part === null ? setting : partSettings(setting)[part];
  if (own.kind === 'data' || own.kind === 'asset') return null;
  const given = part === null ? whole : partsOf(whole)[part];
  const value = (typeof given === 'object' && (!Array.isArray(given) || given.some((each) => typeof each === 'object')) ? own.default : given) as DialValue;
  const name = own.label.slice(setting.label.length);
  const id = dialId(document, `${key}${name.trim().toUpperCase()}`);
  const label = `${labelOf(document, node)} ${setting.label.toLowerCase()}${name}`;
  const withDial = { ...document, dials: [...(document.dials ?? []), { id, label, kind: own.kind, value, ...dialRange(own, value) }] };
  return { document: setSetting(withDial, nodeId, key, part === null ? { dial: id } : withPart(whole, part, { dial: id })), id };
}

function dialRange(
  setting: { kind: string; min?: number; max?: number; above?: boolean; unit?: string; step?: number; choices?: object },
  value: DialValue,
): Partial<Dial> {
  if (setting.kind === 'choice') return { choices: Object.keys(setting.choices ?? {}) };
  if (setting.kind !== 'number' && setting.kind !== 'integer') return setting.unit ? { unit: setting.unit } : {};
  const size = Math.max(Math.abs(Number(value)), setting.kind === 'integer' ? 4 : 0.01);
  const step = setting.kind === 'integer' ? 1 : (setting.step ?? 0.01);
  const min = Math.max(setting.min ?? -Infinity, Number(value) < 0 ? -4 * size : 0);
  const max = Math.min(setting.max ?? Infinity, Number((4 * size).toPrecision(2)));
  return { min: setting.above && min === setting.min ? min + step : min, max, step, ...(setting.unit && { unit: setting.unit }) };
}

/** Where a dial is used: settings that follow it, and formulas that name it. */
export function dialUses(document: FilaxisDocument, id: string): { node: string; setting: string }[] {
  return document.nodes.flatMap((node) =>
    Object.entries(node.settings ?? {})
      .filter(([key, value]) =>
        partsOf(value).some((part) => follows(part, id) || formulaNames(formulaIn(definitionOf(document, node), key, part) ?? '').includes(id)),
      )
      .map(([setting]) => ({ node: node.id, setting })),
  );
}

/** What the values of a dial of choices are called: as the first setting that follows it calls them. Null: nothing follows it, or it has no choices. */
export function choiceNames(document: FilaxisDocument, id: string): Readonly<Record<string, string>> | null {
  for (const { node, setting } of dialUses(document, id)) {
    const known = definitionById(document, node)?.settings[setting];
    if (known?.kind === 'choice') return known.choices;
  }
  return null;
}
