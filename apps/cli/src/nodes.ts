import { nodeDefinitions, sampleOf, whyNoHandle, type FilaxisDocument, type NodeDefinition, type Setting } from '@filaxis/core';
import { exitCodes, Refused } from './exit.js';
import { readOptions } from './options.js';

const plainSetting = (setting: Setting): Record<string, unknown> =>
  Object.fromEntries(
    Object.entries(setting)
      .map(([key, value]) => [key, value instanceof RegExp ? value.source : value])
      .filter(([key, value]) => typeof value !== 'function' && key !== 'shownWhen'),
  );

/** A definition as plain data: what `nodes --json` prints. Settings that one expects to take hold of in the scene say why they have no handle. */
export function plainDefinition(definition: NodeDefinition): Record<string, unknown> {
  const { type, version, label, family, summary, help, keywords, inputs, outputs, settings, attributes } = definition;
  const plain = ([name, setting]: [string, Setting]): [string, object] => {
    const noHandle = whyNoHandle(definition, name);
    return [name, { ...plainSetting(setting), ...(noHandle && { noHandle }) }];
  };
  const all = Object.fromEntries(Object.entries(settings).map(plain));
  return { id: type, version, label, family: family.label, summary, help, keywords, inputs, outputs, attributes, settings: all };
}

/** `filaxis nodes`: every node with its ports and settings, for people or as JSON; or a small document in which one is at work. */
export function nodes(args: readonly string[]): number {
  const { values } = readOptions(args, { json: { type: 'boolean' }, example: { type: 'string' } }, { least: 0, most: 0, names: 'no names' });
  if (values.example !== undefined) {
    console.log(JSON.stringify(exampleOf(values.example), null, 2));
    return exitCodes.done;
  }
  const all = [...nodeDefinitions.values()];
  if (values.json) {
    console.log(JSON.stringify(all.map(plainDefinition), null, 2));
    return exitCodes.done;
  }
  for (const { type, label, inputs, outputs, summary, settings } of all) {
    const ports = (list: readonly { name: string; many?: boolean }[]): string => list.map(({ name, many }) => `${name}${many ? '*' : ''}`).join(', ');
    console.log(`${type.padEnd(18)} ${label}: ${ports(inputs)} → ${ports(outputs) || 'result'}\n${' '.repeat(19)}${summary}`);
    for (const [key, setting] of Object.entries(settings)) console.log(`${' '.repeat(19)}  ${key}: ${describe(setting)}`);
  }
  return exitCodes.done;
}

/** @throws Refused for a type that does not exist, or one that needs a file. */
function exampleOf(type: string): FilaxisDocument {
  const definition = nodeDefinitions.get(type);
  if (!definition) throw new Refused(`There is no node "${type}"; \`filaxis nodes\` lists them.`);
  const example = sampleOf(definition);
  if (!example) throw new Refused(`${type} shows what is in a file, so it has no example without one.`);
  return example;
}

function describe(setting: Setting): string {
  const unit = 'unit' in setting && setting.unit ? ` ${setting.unit}` : '';
  const varies = 'varies' in setting && setting.varies ? `, may vary per ${setting.varies}` : '';
  if (setting.kind === 'choice') return `${Object.keys(setting.choices).join(' | ')} (${setting.default})`;
  return `${setting.kind} (${setting.kind === 'data' ? 'a list' : JSON.stringify(setting.default)})${unit}${varies}`;
}
