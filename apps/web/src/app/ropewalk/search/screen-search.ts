import { kindLabelOf, labelOf, type GraphNode } from '@filaxis/core';
import type { Action } from '../actions';
import { setSetting } from '../document/edits';
import { withOwn, type OwnShortcuts } from '../keys/shortcuts';
import { ropewalkActions, type RopewalkScreen } from '../ropewalk-actions';
import { valueText } from '../settings/value-text';
import { actionWords } from './action-words';
import { askedFor, type Wish } from './asked-for';
import { indexed } from './fit';
import { knownNodes, search, type Entry, type Find, type Candidate } from './search';

/** The one search of the screen: every kind of node, recipes in the words of the trade, what can be done, and the nodes of the graph. */
export function screenSearch(screen: RopewalkScreen, own: OwnShortcuts = {}): Find {
  const actions = withOwn(ropewalkActions(screen), own).filter(({ quiet, off }) => !quiet && !off);
  const known = [
    ...knownNodes((type, settings) => screen.graph.addByName(type, settings)),
    ...actions.map((action) => knownAction(screen, action)),
    ...screen.documents.document().nodes.map((node) => knownPlace(screen, node)),
  ];
  const recipes = (text: string): { entry: Entry; likeness: number }[] =>
    askedFor(text, screen.documents.chosenDefinition()).map((wish) => ({ entry: recipe(screen, wish), likeness: wish.likeness }));
  return (text, kind) => search(text, kind, known, recipes);
}

function knownAction(screen: RopewalkScreen, action: Action): Candidate {
  const { name, shortcut = '', detail = '' } = action;
  return {
    entry: { group: 'action', name, mark: shortcut, detail, run: () => (action.held ? screen.tellHeld(action) : action.run()) },
    index: indexed({ name, words: actionWords[name] ?? [], text: detail }),
  };
}

/** A node of the graph, to go to. */
function knownPlace(screen: RopewalkScreen, node: GraphNode): Candidate {
  const document = screen.documents.document();
  const called = `${labelOf(document, node)} ${node.id}`;
  const detail = String(node.settings?.['name'] ?? (node.name === undefined ? '' : kindLabelOf(document, node)));
  return {
    entry: { group: 'place', name: `Go to ${called}`, mark: '', detail, run: () => screen.graph.goTo(node.id) },
    index: indexed({ name: called, words: ['go to'], text: detail }),
  };
}

/** A wish as something that can be done: on the chosen node, or by a new one. */
function recipe(screen: RopewalkScreen, { phrase, definition, settings, onChosen }: Wish): Entry {
  const values = Object.entries(settings).map(
    ([name, value]) => `${definition.settings[name].label.toLowerCase()} ${valueText(definition.settings[name], value)}`,
  );
  const name = `${definition.label}: ${phrase}`;
  if (!onChosen) {
    const detail = `Adds ${definition.label}${values.length ? `, ${values.join(', ')}` : ''}. ${definition.summary}`;
    const run = (): void => screen.graph.addByName(definition.type, settings);
    return { group: 'recipe', name, mark: '', detail, adds: { type: definition.type, settings }, run };
  }
  const run = (): void => {
    const document = screen.documents.document();
    const node = screen.documents.chosen()!.id;
    const set = Object.entries(settings).reduce((now, [setting, value]) => setSetting(now, node, setting, value), document);
    screen.documents.apply(phrase.replace(/^./, (letter) => letter.toUpperCase()), set); // prettier-ignore
  };
  return { group: 'recipe', name, mark: '', detail: `Sets ${values.join(', ')}.`, run };
}
