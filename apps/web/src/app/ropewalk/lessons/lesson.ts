import { nodeDefinitions, settingsOf, type FilaxisDocument, type GraphNode } from '@filaxis/core';
import { portName } from '../graph/wire-aim';

/** One thing that the artist does. */
export interface Step {
  /** What to do, in one sentence. */
  readonly say: string;
  /** How it is done, or why. */
  readonly hint: string;
  /** What is used for it on screen, as selectors: the first that is there is shown. */
  readonly aims: (document: FilaxisDocument) => readonly string[];
  /** It is done, however it was done. */
  readonly done: (document: FilaxisDocument) => boolean;
}

/** A short way from an empty document to something that can be delivered, each step done by hand. */
export interface Lesson {
  readonly id: string;
  readonly title: string;
  readonly steps: readonly Step[];
  /** Told at the end. */
  readonly end: string;
}

/** The step that a document is at: the first that is not done; as many as there are when all are. What is undone is asked for again. */
export function stepAt({ steps }: Lesson, document: FilaxisDocument): number {
  const open = steps.findIndex(({ done }) => !done(document));
  return open < 0 ? steps.length : open;
}

const nodesOf = (document: FilaxisDocument, type: string): GraphNode[] => document.nodes.filter((node) => node.type === type);

/** Whether some node of a kind has a setting for which this holds. */
export const isSet = (document: FilaxisDocument, type: string, name: string, holds: (value: unknown) => boolean): boolean =>
  nodesOf(document, type).some((node) => holds(settingsOf(document, node)[name]));

/** Whether a node of a kind is there and its setting is no longer as it began. */
export const isChanged = (document: FilaxisDocument, type: string, ...names: readonly string[]): boolean =>
  names.some((name) => isSet(document, type, name, (value) => JSON.stringify(value) !== JSON.stringify(nodeDefinitions.get(type)!.settings[name].default)));

/** Whether a wire leads from a node of one kind to one of another, into the input of that name where one is given. */
export function isWired(document: FilaxisDocument, from: string, to: string, input?: string): boolean {
  const ids = (type: string): Set<string> => new Set(nodesOf(document, type).map(({ id }) => id));
  const [sources, targets] = [ids(from), ids(to)];
  return document.wires.some((wire) => sources.has(wire.from[0]) && targets.has(wire.to[0]) && (input === undefined || wire.to[1] === input));
}

const labelOf = (type: string): string => nodeDefinitions.get(type)!.label;

/** The name of a setting, as it is written on screen. */
export const settingLabel = (type: string, name: string): string => nodeDefinitions.get(type)!.settings[name].label;

const [addButton, fitButton] = ['Add a node', 'Show the whole graph'].map((title) => `fx-graph .tools button[title^="${title}"]`);

/** Something of the tag of the newest node of a kind; where that is out of sight, what brings it back. */
export const tagOf = (document: FilaxisDocument, type: string, part = ''): readonly string[] => [
  ...nodesOf(document, type)
    .slice(-1)
    .map(({ id }) => `fx-tag[data-node="${id}"]${part}`),
  fitButton,
];

/** A step that adds a node: after the chosen one of another kind, or by itself. */
export function adds(type: string, after: string | null, hint: string): Step {
  const add = `click + Node, type “${labelOf(type).toLowerCase()}” and press Enter.`;
  return {
    say: after === null ? `Add ${labelOf(type)}.` : `Add ${labelOf(type)} after ${labelOf(after)}.`,
    hint: `${after === null ? add.replace('c', 'C') : `With ${labelOf(after)} chosen ${add}`} ${hint}`,
    aims: () => [addButton],
    done: (document) => (after === null ? nodesOf(document, type).length > 0 : isWired(document, after, type)),
  };
}

/** A step that gives settings of a node. */
export function sets(type: string, names: readonly string[], say: string, hint: string, done?: Step['done']): Step {
  return {
    say,
    hint,
    aims: (document) => [...names.map((name) => `fx-setting[data-setting="${name}"]`), ...tagOf(document, type)],
    done: done ?? ((document) => isChanged(document, type, ...names)),
  };
}

/** A step that draws in the 3D view: at least so many points in one curve. */
export function draws(count: number, say: string, hint: string): Step {
  const enough = (value: unknown): boolean => (value as { points: unknown[] }[]).some(({ points }) => points.length >= count);
  return {
    say,
    hint,
    aims: (document) => ['fx-curve-editor .sheet', ...tagOf(document, 'lay.drawn')],
    done: (document) => isSet(document, 'lay.drawn', 'curves', enough),
  };
}

/** A step that drags a wire from one node to an input of another. */
export function wires(from: string, to: string, input: string, hint: string): Step {
  const port = portName(input, 'input');
  return {
    say: `Drag a wire from ${labelOf(from)} to “${port}” of ${labelOf(to)}.`,
    hint: `Press on the right edge of ${labelOf(from)}, and let go on the eyelet of ${labelOf(to)} that says “${port}” when the pointer rests on it. ${hint}`,
    aims: (document) => tagOf(document, from, ' .out'),
    done: (document) => isWired(document, from, to, input),
  };
}
