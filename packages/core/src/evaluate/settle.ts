import { formulaConstants, formulaFunctions } from '../values/formula/functions.js';
import { compileFormula } from '../values/formula/evaluate.js';
import { formulaNames } from '../values/formula/parse.js';
import { FormulaError } from '../values/formula/tokens.js';
import { elementNames, type GivenNumbers } from '../varying/elements.js';
import type { Problem } from '../document/problem.js';
import { framesPerSecond, type NodeDefinition } from '../definition/define.js';
import { dialFault, type DialValues } from '../document/dials.js';
import type { FilaxisDocument } from '../document/document.js';
import type { GraphNode } from '../definition/graph.js';
import type { PlannedNode } from './plan.js';
import { colourOf, partsOf, settingFault, withPart, type Setting } from '../definition/settings.js';

/** The settings of a node as its `run` gets them, or what is wrong with them. */
export interface Settled {
  readonly values: Readonly<Record<string, unknown>>;
  /** The values as text: the part of the result's identity that they make. */
  readonly text: string;
  readonly fault: Problem | null;
  /** The time is among them. */
  readonly moves: boolean;
  /** Numbers of the document that a formula among the text settings names. */
  readonly given: GivenNumbers;
}

/** Numbers of the document that settings may name. */
export interface SettlingNumbers {
  readonly dials: DialValues;
  /** Seconds of the timeline, and its frames a second. */
  readonly time: number;
  readonly rate: number;
}

const isObject = (value: unknown): value is object => typeof value === 'object' && value !== null && !Array.isArray(value);
const isDial = (value: unknown): value is { dial: string } => isObject(value) && 'dial' in value;
const isFormula = (value: unknown): value is { formula: string } => isObject(value) && 'formula' in value && typeof value.formula === 'string';

/** Resolved settings of nodes (as they stand in documents) that nothing outside changes and nothing is wrong with: edits keep the other nodes. */
const settledNodes = new WeakMap<GraphNode, Settled>();

/** Settings resolved once, when no dial, formula or wire is among them. */
export function settledOf(planned: PlannedNode): Settled | null {
  const { node, definition } = planned;
  if (planned.wires.some(({ port }) => Object.hasOwn(definition!.settings, port))) return null;
  const known = settledNodes.get(node);
  if (known) return known;
  if (definition!.timed(node.settings ?? {}) || Object.values(definition!.settings).some((setting) => setting.kind === 'text' && setting.formula)) return null;
  if (Object.values(node.settings ?? {}).some((value) => partsOf(value).some((part) => isDial(part) || isFormula(part)))) return null;
  const settled = settle(planned, definition!, { dials: {}, time: 0, rate: framesPerSecond }, null, {});
  if (settled.fault) return null;
  settledNodes.set(node, settled);
  return settled;
}

/** All values of a node: those of the document, dials and wires put in, defaults for the rest; each checked. */
export function settle(
  { node, index }: PlannedNode,
  definition: NodeDefinition,
  numbers: SettlingNumbers,
  document: FilaxisDocument | null,
  wired: Readonly<Record<string, unknown>>,
): Settled {
  const values: Record<string, unknown> = {};
  const own = node.settings ?? {};
  for (const [key, setting] of Object.entries(definition.settings)) values[key] = wired[key] ?? own[key] ?? setting.default;
  const problem = (key: string, path: string, message: string): Settled => ({
    values,
    text: '',
    given: {},
    moves: false,
    fault: { pointer: `/nodes/${index}/settings/${key}${path}`, message, node: node.id, setting: key },
  });
  for (const [key, whole] of Object.entries(values)) {
    for (const [k, part] of partsOf(whole).entries()) {
      if (!isDial(part)) continue;
      const at = Array.isArray(whole) ? `/${k}/dial` : '/dial';
      const dial = document?.dials?.find((candidate) => candidate.id === part.dial);
      if (!dial) return problem(key, at, `There is no dial "${String(part.dial)}".`);
      const fault = dialFault(dial, numbers.dials[dial.id]);
      if (fault) return problem(key, at, fault);
      values[key] = withPart(values[key], k, numbers.dials[dial.id]);
    }
  }
  let given: GivenNumbers = {};
  let moves = false;
  for (const [key, setting] of Object.entries(definition.settings)) {
    if (!isSingle(setting)) continue;
    const whole = values[key];
    for (const [k, part] of partsOf(whole).entries()) {
      if (!isFormula(part)) continue;
      try {
        values[key] = withPart(values[key], k, singleNumber(part.formula, numbers));
      } catch (error) {
        if (!(error instanceof FormulaError)) throw error;
        return problem(key, Array.isArray(whole) ? `/${k}/formula` : '/formula', `${setting.label}: ${error.message}.`);
      }
      moves ||= hasTime(givenFor(part.formula, numbers));
    }
  }
  const timed = definition.timed(values);
  moves ||= timed;
  for (const [key, setting] of Object.entries(definition.settings)) {
    const fault = settingFault(setting, values[key], values);
    if (fault) return problem(key, fault.path, fault.message);
    if (setting.kind === 'colour' && Array.isArray(values[key])) values[key] = colourOf(values[key] as number[]);
    const value = values[key];
    // Only after its form was checked: a formula then has its numbers with it, so that they are part of the result's identity.
    for (const [k, part] of partsOf(value).entries())
      if (isFormula(part)) {
        const own = givenFor(part.formula, numbers);
        moves ||= hasTime(own);
        values[key] = withPart(values[key], k, { ...part, given: own, known: numberNames(numbers) });
      }
    if (setting.kind === 'text' && setting.formula) given = { ...given, ...givenFor(value as string, numbers) };
  }
  moves ||= hasTime(given);
  const outside = timed || Object.keys(given).length ? JSON.stringify([given, timed ? [numbers.time, numbers.rate] : null]) : '';
  return { values, text: JSON.stringify(values) + outside, given, moves, fault: null };
}

/** A number, or a vector of numbers, that is the same for all that the node works on. Its formulas know the numbers of the document alone. */
const isSingle = (setting: Setting): boolean => ['number', 'integer', 'vector', 'colour'].includes(setting.kind) && !('varies' in setting && setting.varies);

/** What a formula gives that knows dials and time alone. @throws FormulaError */
function singleNumber(formula: string, numbers: SettlingNumbers): number {
  const given = givenFor(formula, numbers);
  const source = (name: string): number | string | undefined =>
    Object.hasOwn(given, name)
      ? given[name]
      : Object.hasOwn(elementNames, name)
        ? `"${name}" belongs to single elements, and this is one number for all of them`
        : undefined;
  const { constant, evaluate } = compileFormula(formula, { source, names: [...numberNames(numbers), 'time', 'frameNumber'], id: 0 });
  return constant ?? evaluate(1)[0];
}

/** Dials that formulas can read. */
const numberNames = ({ dials }: SettlingNumbers): string[] =>
  Object.entries(dials).flatMap(([name, value]) => (typeof value === 'number' || typeof value === 'boolean' ? [name] : []));

const hasTime = (given: GivenNumbers): boolean => 'time' in given || 'frameNumber' in given;

/** The numbers of the document that a formula uses. */
export function givenFor(formula: string, { dials, time, rate }: SettlingNumbers): GivenNumbers {
  const given: Record<string, number> = {};
  for (const name of formulaNames(formula)) {
    const dial = Object.hasOwn(dials, name) ? dials[name] : undefined;
    if (name === 'time') given[name] = time;
    else if (name === 'frameNumber') given[name] = Math.round(time * rate);
    else if (typeof dial === 'number' || typeof dial === 'boolean') given[name] = Number(dial);
  }
  return given;
}

/** Names that a dial cannot have if formulas are to read it, since they mean something else there. */
export const takenByFormulas = (name: string): boolean =>
  Object.hasOwn(formulaFunctions, name) || Object.hasOwn(formulaConstants, name) || ['and', 'or', 'not', 'time', 'frameNumber'].includes(name);
