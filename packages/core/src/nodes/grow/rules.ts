import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import type { DataSetting } from '../../definition/settings.js';
import { derive, mostModules, type Modules } from '../../grow/rules/derive.js';
import { rulesPresets } from '../../grow/rules/presets.js';
import { readRules, RulesError } from '../../grow/rules/read.js';
import { origin, rootsOf, seedsOf } from '../../grow/rules/roots.js';
import { drawModules, drawPlants } from '../../grow/rules/turtle.js';
import { fieldAt } from '../../values/field.js';
import { seedSetting } from '../settings/common.js';

/** Settings that hold the numbers of the node, in the order of their names in the rules. */
export const rulesNumbers = ['first', 'second', 'third', 'fourth'] as const;

/** The names that rules have for the numbers of the node, as its settings give them. */
export const rulesNamesOf = ({ names }: { readonly names?: unknown }): string[] =>
  typeof names === 'string' ? names.split(',').map((name) => name.trim()).filter((name) => name !== '') : []; // prettier-ignore

/** Names and rules of documents before edition 2, in which the numbers were a to d. */
const lettered = { names: 'a, b, c, d', rules: (text: string): string => text.replace(/\bkept\b/g, 'a') };

const {
  axiom: firstAxiom,
  rules: firstRules,
  names: firstNames,
  first: firstNumber,
  times: firstTimes,
} = rulesPresets['stem'].settings as { axiom: string; rules: string; names: string; first: number; times: number };

const rulesSetting: DataSetting<string> = {
  kind: 'data',
  edit: 'rules',
  label: 'Rules',
  help: 'A rule a line: what stands left of the arrow becomes what stands right of it, everywhere at once.',
  default: firstRules,
  earlier: { before: 2, default: lettered.rules(firstRules) },
  fault: (value, { axiom, names }) => {
    if (typeof value !== 'string') return { path: '', message: 'This must be text.' };
    try {
      readRules(typeof axiom === 'string' ? axiom : '', value, rulesNamesOf({ names }));
      return null;
    } catch (error) {
      if (!(error instanceof RulesError)) throw error;
      return { path: '', message: `${error.message}.` };
    }
  },
};

const numbered = (nth: string, letter: string, usual = 0) =>
  ({
    kind: 'number',
    label: `${nth} number`,
    help: 'What the rules know by its name in Names. May differ from plant to plant.',
    default: usual,
    step: 0.01,
    varies: 'point',
    group: 'Numbers',
    formerly: [letter],
  }) as const;

export default defineNode({
  type: 'grow.rules',
  label: 'Branching rules',
  family: families.grow,
  summary: 'A plant from rules that replace symbols, drawn by a turtle: stems as curves, places for leaves as points.',
  help: 'The axiom is replaced by the rules, all symbols at once, so many times; a turtle then draws what came of it (bracketed L-systems, Prusinkiewicz & Lindenmayer 1990). F goes forward, + and − turn left and right, & and ^ down and up, \\ and / roll, [ ] are a branch, ! sets the width, ~ is a place for a leaf. Symbols may have parameters, A(l, w), and rules a condition after a colon, a chance in brackets after the arrow, and neighbours: left < A > right. Formulas know the numbers by their Names, which can follow dials, and random(k), another for every symbol. Stems are whole curves through all their branches. A Tube or Ribbon put behind it is as wide as the rules say (0.5 * width is the radius). Rolls turn what grows from a stem, not the stem’s own skin: Frames twist that. Leaf points have frames, so copies stand as the turtle stood. With points at roots a plant grows from each, every one another: its seed follows from the seed here and from seed or id of its point, or its number; curves and leaves say which by plant.',
  attributes: { writes: ['tangent', 'normal', 'width', 'distance', 'birth', 'age', 'depth', 'parent', 'plant'] },
  keywords: ['tree', 'plant', 'l-system', 'lsystem', 'branch', 'grammar', 'rewrite', 'turtle', 'fern', 'fractal', 'foliage'],
  asks: Object.fromEntries(Object.values(rulesPresets).map(({ label, settings }) => [`a plant: ${label}`, settings])),
  telling: ['times', 'angle'],
  thick: 'width',
  handles: [{ kind: 'direction', setting: 'tropism', at: ['middle'] }],
  inputs: [{ name: 'roots', kinds: ['points'], optional: true }],
  outputs: [
    { name: 'curves', kind: 'curves' },
    { name: 'leaves', kind: 'points' },
  ],
  settings: {
    axiom: { kind: 'text', label: 'Axiom', help: 'What there is at first.', default: firstAxiom },
    rules: rulesSetting,
    times: { kind: 'integer', label: 'Times', help: 'How often all is replaced.', default: firstTimes, min: 0, max: 1000 },
    angle: { kind: 'number', label: 'Angle', help: 'Of turns that say nothing else.', default: 25, min: -360, max: 360, unit: '°', step: 0.5 },
    step: { kind: 'number', label: 'Step', help: 'Of F alone.', default: 0.1, min: 0, unit: 'm', step: 0.005 },
    width: { kind: 'number', label: 'Width', help: 'At first.', default: 0.02, min: 0, unit: 'm', step: 0.001 },
    taper: { kind: 'number', label: 'Taper', help: 'What ! alone multiplies the width by.', default: 0.7, min: 0, max: 1, step: 0.01 },
    tropism: {
      kind: 'vector',
      label: 'Tropism',
      help: 'What steps bend to: 0, −1, 0 down, 0, 1, 0 to the light.',
      default: [0, 1, 0],
      step: 0.05,
      direction: true,
    },
    tropismStrength: { kind: 'number', label: 'Bends', help: 'How much, at each step.', default: 0, min: -3, max: 3, step: 0.01 },
    names: {
      kind: 'text',
      label: 'Names',
      help: 'What the rules call the numbers below, in their order, with commas between: up to four.',
      default: firstNames,
      earlier: { before: 2, default: lettered.names },
      pattern: /^\s*([A-Za-z_][A-Za-z0-9_]*\s*(,\s*[A-Za-z_][A-Za-z0-9_]*\s*){0,3})?$/,
      accepts: 'up to four names of letters, digits and _, with commas between',
      group: 'Numbers',
    },
    first: numbered('First', 'a', firstNumber),
    second: numbered('Second', 'b'),
    third: numbered('Third', 'c'),
    fourth: numbered('Fourth', 'd'),
    seed: { ...seedSetting, help: 'Another seed, another plant of the same kind.' },
    stand: {
      kind: 'choice',
      label: 'Stand',
      help: 'Of plants at points: upright, or along the normal of their point.',
      default: 'upright',
      choices: { upright: 'upright', normal: 'along the normal' },
    },
    pace: {
      kind: 'number',
      label: 'Pace',
      help: 'How fast growth goes along, for birth.',
      default: 0.4,
      min: 0,
      above: true,
      unit: 'm/s',
      step: 0.01,
      group: 'Time',
    },
  },
  run: (context) => {
    const { settings, input, warn } = context;
    const names = rulesNamesOf(settings);
    const set = readRules(settings.axiom, settings.rules, names);
    const given = input('roots');
    const { roots, flat } = rootsOf(given ?? origin, settings.stand === 'normal');
    const seeds = given ? seedsOf(given, settings.seed) : () => settings.seed;
    const numbers = rulesNumbers.map((name) => context.field(settings[name], given ?? origin, 'point')).slice(0, names.length);
    const plantOf = (plant: number): Modules =>
      derive(set, { times: settings.times, seed: seeds(plant), given: numbers.map((of) => fieldAt(of, plant)), most: mostModules }, context).modules;
    const { curves, leaves } = given ? drawPlants(roots, plantOf, settings, context) : drawModules(plantOf(0), settings, context);
    for (const { symbol, line, column } of set.idle)
      warn({ code: 'degenerate', message: `${symbol} (${line ? `line ${line}` : 'axiom'}, column ${column}) does nothing: no rule is for it, and the turtle does not know it.`, remedy: 'Give it a rule, or take it away.' }); // prettier-ignore
    if (flat)
      warn({
        code: 'degenerate',
        message: `${flat} points have no frame, so their plants stand upright.`,
        remedy: 'Scatter points on faces, or give them frames before.',
      });
    if (!curves.positions.length && !(given && !given.positions.length))
      warn({ code: 'empty', message: 'The turtle drew nothing.', remedy: 'There is no F in what the rules made; give more rounds, or an F.' });
    return { curves, leaves };
  },
});
