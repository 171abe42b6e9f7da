import { applies, colourOf, type Dial, type GraphNode, type NodeDefinition } from '@filaxis/core';
import { withDialValues } from '../document/dials';
import { valueText } from '../settings/value-text';

/** What a tag tells of a node's settings: a line, and a colour to show with it. */
export interface Telling {
  readonly text: string;
  readonly colour: string | null;
}

/** The setting that says most of a node: of those that its kind names, the first that was changed, else the first. Null: it has nothing to tell. */
export function tellingOf(definition: NodeDefinition, node: GraphNode, dials: readonly Dial[]): Telling | null {
  const { settings, telling } = definition;
  const value = (name: string): unknown => node.settings?.[name] ?? settings[name]?.default;
  const shown = telling.filter((name) => applies(settings[name], value));
  const told = shown.filter((name) => settings[name].kind !== 'colour');
  const name = told.find((each) => node.settings?.[each] !== undefined) ?? told[0];
  const colour = shown.find((each) => settings[each].kind === 'colour');
  const given = colour === undefined ? null : withDialValues(dials, value(colour));
  // Red, green and blue may be given each by itself.
  const colourValue = Array.isArray(given) ? colourOf(given as number[]) : given;
  const text = name === undefined ? '' : valueText(settings[name], value(name), dials);
  // A number alone does not say of what: its label goes before it.
  const bare = name !== undefined && ['number', 'integer', 'vector', 'boolean'].includes(settings[name].kind);
  const line = text && bare ? `${settings[name].label.toLowerCase()} ${text}` : text;
  return line || colourValue ? { text: line, colour: typeof colourValue === 'string' ? colourValue : null } : null;
}
