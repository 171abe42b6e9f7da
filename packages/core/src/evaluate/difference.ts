import { definitionOf, kindLabelOf, labelOf } from '../document/documentIndex.js';
import { modeOf } from '../varying/varying.js';
import type { Dial, FilaxisDocument } from '../document/document.js';
import type { GraphNode, Wire } from '../definition/graph.js';

const nameOf = (document: FilaxisDocument, node: GraphNode): string => {
  const { id } = node;
  const label = labelOf(document, node);
  return label.toLowerCase() === id.toLowerCase() ? label : `${label} (${id})`;
};

/** A value of a setting or dial in a few words. */
function said(value: unknown): string {
  if (value === undefined) return 'the default';
  if (typeof value === 'number') return String(Number(value.toPrecision(6)));
  if (typeof value === 'boolean') return value ? 'on' : 'off';
  if (Array.isArray(value) && value.length <= 4 && value.every((each) => typeof each === 'number' || modeOf(each) !== null)) return value.map(said).join(', ');
  const mode = typeof value === 'object' && value !== null && !Array.isArray(value) ? modeOf(value) : null;
  if (mode === 'dial') return `the dial ${(value as { dial: string }).dial}`;
  if (mode === 'formula') return `the formula ${(value as { formula: string }).formula}`;
  if (mode === 'attribute') return `the attribute ${(value as { attribute: string }).attribute}`;
  if (mode === 'ramp') return `a ramp of ${(value as { ramp: unknown[] }).ramp.length} keys`;
  if (mode === 'random') return `chance between ${(value as { random: number[] }).random.join(' and ')}`;
  if (typeof value === 'string') return `“${value.length > 40 ? `${value.slice(0, 37)}…` : value}”`;
  return 'other data';
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
const wireName = ({ from, to }: Wire): string => `${from.join('.')} > ${to.join('.')}`;
const counted = (count: number, one: string, many: string): string => `${count} ${count === 1 ? one : many}`;

/** What changed from one document to another, in plain words: title, nodes, settings, wires, dials. Empty: nothing that makes a difference. */
export function differences(before: FilaxisDocument, after: FilaxisDocument): string[] {
  const said: string[] = [];
  if (before.title !== after.title) said.push(`Renamed from “${before.title}” to “${after.title}”.`);
  said.push(...nodeDifferences(before, after), ...wireDifferences(before.wires, after.wires), ...dialDifferences(before.dials ?? [], after.dials ?? []));
  if (!said.length && !same(before, after)) said.push('Only places in the graph, areas or notes.');
  return said;
}

function nodeDifferences(older: FilaxisDocument, newer: FilaxisDocument): string[] {
  const [before, after] = [older.nodes, newer.nodes];
  const old = new Map(before.map((node) => [node.id, node]));
  const now = new Set(after.map(({ id }) => id));
  const gone = before.filter(({ id }) => !now.has(id));
  const added = after.filter(({ id }) => !old.has(id));
  const lines: string[] = [];
  if (added.length) lines.push(`Added ${added.map((node) => nameOf(newer, node)).join(', ')}.`);
  if (gone.length) lines.push(`Removed ${gone.map((node) => nameOf(older, node)).join(', ')}.`);
  for (const node of after) {
    const was = old.get(node.id);
    if (!was) continue;
    if (was.name !== node.name)
      lines.push(`${nameOf(older, was)} is called ${node.name === undefined ? `${kindLabelOf(newer, node)} again` : `“${node.name}”`}.`);
    if (was.type !== node.type) lines.push(`${node.id}: ${nameOf(older, was)} became ${nameOf(newer, node)}.`);
    const definition = definitionOf(newer, node);
    for (const key of new Set([...Object.keys(was.settings ?? {}), ...Object.keys(node.settings ?? {})])) {
      const [a, b] = [was.settings?.[key], node.settings?.[key]];
      if (!same(a, b)) lines.push(`${nameOf(newer, node)}, ${definition?.settings[key]?.label.toLowerCase() ?? key}: ${said(a)} → ${said(b)}.`);
    }
  }
  return lines;
}

function wireDifferences(before: readonly Wire[], after: readonly Wire[]): string[] {
  const old = new Set(before.map(wireName));
  const now = new Set(after.map(wireName));
  const added = [...now].filter((name) => !old.has(name)).length;
  const gone = [...old].filter((name) => !now.has(name)).length;
  if (added || gone)
    return [[added && `${counted(added, 'wire', 'wires')} laid`, gone && `${counted(gone, 'wire', 'wires')} taken away`].filter(Boolean).join(', ') + '.'];
  return same(before.map(wireName), after.map(wireName)) ? [] : ['The order of wires.'];
}

function dialDifferences(before: readonly Dial[], after: readonly Dial[]): string[] {
  const old = new Map(before.map((dial) => [dial.id, dial]));
  const now = new Set(after.map(({ id }) => id));
  return [
    ...after.flatMap((dial) => {
      const was = old.get(dial.id);
      if (!was) return [`New dial ${dial.label}.`];
      if (!same(was.value, dial.value)) return [`Dial ${dial.label}: ${said(was.value)} → ${said(dial.value)}${dial.unit ? ` ${dial.unit}` : ''}.`];
      return same(was, dial) ? [] : [`Dial ${dial.label}: its name or range.`];
    }),
    ...before.filter(({ id }) => !now.has(id)).map((dial) => `Dial ${dial.label} removed.`),
  ];
}
