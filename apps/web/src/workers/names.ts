import { elementNames, elementsOf, fieldAt, resolveVarying, type Elements, type NameSource, type NodeResult, type Varying } from '@filaxis/core';
import type { KnownName, NamesAnswer, Questions } from '@filaxis/protocol';
import type { Newest } from './newest';
import { sketchOf } from './sketch';

/** Elements whose values are looked at for a range; more would make typing slow. */
const looked = 20_000;

/** What settings were given for when their node last got so far: names stay known while a mistake is being mended. */
const remembered = new Map<string, NodeResult['varied'][string]>();

/** The names that a setting's formula can use with their ranges now, and a sketch of the setting's own values. */
export function namesFor({ plan, run }: Newest, { node, setting }: Questions['names']): NamesAnswer {
  const result = run.nodes.get(node);
  const at = `${node} ${setting}`;
  const where = result?.varied[setting] ?? remembered.get(at);
  if (where) remembered.set(at, where);
  const dials = (plan.document.dials ?? []).filter(({ kind }) => kind === 'number' || kind === 'integer' || kind === 'seed' || kind === 'boolean');
  const names: KnownName[] = dials.map((dial) => ({
    name: dial.id,
    help: `the dial ${dial.label}`,
    kind: 'dial',
    range: [Number(dial.value), Number(dial.value)],
  }));
  if (!result || !where) return { complete: false, names, vectors: [], values: null };
  const elements = elementsOf(where.over, where.per);
  const own: KnownName[] = elements.scope.names.map((name) => ({
    name,
    help: elementNames[name] ?? `a value of each ${where.per}`,
    kind: Object.hasOwn(elementNames, name) ? 'element' : 'attribute',
    range: rangeOf(elements, elements.scope.source(name)),
  }));
  const value = result.settings[setting] as Varying | boolean | undefined;
  let values: NamesAnswer['values'] = null;
  try {
    if (typeof value === 'object') {
      const field = resolveVarying(value, where.over, where.per);
      const first = where.over.type === 'curves' && where.per === 'point' ? where.over.starts[1] : elements.count;
      values = sketchOf((i) => fieldAt(field, i), elements.count, first);
    }
  } catch {
    // What is wrong with the value is told at its node.
  }
  const vectors = [...where.over.attributes].filter(([, { size }]) => size === 3).map(([name]) => name);
  return { complete: true, vectors, names: [...own, ...names.filter(({ name }) => !own.some((known) => known.name === name))], values };
}

function rangeOf({ count }: Elements, source: NameSource | string | undefined): readonly [number, number] | null {
  if (source === undefined || typeof source === 'string' || !count) return null;
  if (typeof source === 'number') return [source, source];
  const values = new Float64Array(Math.min(count, looked));
  source.fill(values, 0, values.length);
  let [low, high] = [Infinity, -Infinity];
  for (const value of values) {
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return low <= high ? [low, high] : null;
}
