import { compileFormula } from '../../values/formula/evaluate.js';
import { defineNode, framesPerSecond } from '../../graph/define.js';
import { families } from '../families.js';

const numberOut = [{ name: 'number', kind: 'number' }] as const;

export const numberNode = defineNode({
  type: 'gauge.number',
  label: 'Number',
  family: families.gauge,
  summary: 'One number, to be wired to settings.',
  help: 'Wire it to any setting of one number: the setting then follows it. One number may feed many settings. To let people change it from outside, use a dial instead.',
  keywords: ['value', 'constant', 'float', 'integer', 'scalar'],
  outputs: numberOut,
  settings: { value: { kind: 'number', label: 'Value', help: 'The number.', default: 0, step: 0.01 } },
  run: ({ settings }) => ({ number: { type: 'number', value: settings.value } }),
});

export const vectorNode = defineNode({
  type: 'gauge.vector',
  label: 'Vector',
  family: families.gauge,
  summary: 'Three numbers, to be wired to settings.',
  help: 'Wire it to any setting of three numbers: a direction, a place, a size. Each of its own numbers can be wired in turn.',
  keywords: ['direction', 'position', 'xyz', 'offset'],
  outputs: [{ name: 'vector', kind: 'vector' }],
  settings: {
    x: { kind: 'number', label: 'X', help: 'Its part to the right.', default: 0, step: 0.01 },
    y: { kind: 'number', label: 'Y', help: 'Its part upwards.', default: 0, step: 0.01 },
    z: { kind: 'number', label: 'Z', help: 'Its part to the front.', default: 0, step: 0.01 },
  },
  run: ({ settings: { x, y, z } }) => ({ vector: { type: 'vector', value: [x, y, z] } }),
});

export const timeNode = defineNode({
  type: 'gauge.time',
  label: 'Time',
  family: families.gauge,
  summary: 'The seconds of the timeline as a number.',
  help: 'Gives time × speed + offset. Formulas know time as well, under its name.',
  keywords: ['animation', 'frame', 'clock', 'seconds'],
  outputs: numberOut,
  timed: true,
  settings: {
    in: {
      kind: 'choice',
      label: 'In',
      help: `Seconds, or frames of ${framesPerSecond} a second.`,
      default: 'seconds',
      choices: { seconds: 'seconds', frames: 'frames' },
    },
    speed: { kind: 'number', label: 'Speed', help: 'Factor on the time.', default: 1, step: 0.01 },
    offset: { kind: 'number', label: 'Offset', help: 'Added to it.', default: 0, step: 0.01 },
  },
  run: ({ settings, time }) => {
    const base = settings.in === 'frames' ? Math.round(time * framesPerSecond) : time;
    return { number: { type: 'number', value: base * settings.speed + settings.offset } };
  },
});

export const formulaNode = defineNode({
  type: 'gauge.formula',
  label: 'Formula',
  family: families.gauge,
  summary: 'A number worked out from other numbers and the dials.',
  help: 'The formula knows the dials by their ids, time and frameNumber, and a, b, c, d: settings that numbers can be wired to. For values that differ from point to point write the formula into the setting itself.',
  keywords: ['expression', 'calculate', 'maths', 'add', 'multiply', 'divide', 'equation'],
  outputs: numberOut,
  settings: {
    formula: { kind: 'text', label: 'Formula', help: 'What is worked out.', default: 'a + b', formula: true },
    a: { kind: 'number', label: 'A', help: 'Known to the formula as a.', default: 0, step: 0.01 },
    b: { kind: 'number', label: 'B', help: 'Known to the formula as b.', default: 0, step: 0.01 },
    c: { kind: 'number', label: 'C', help: 'Known to the formula as c.', default: 0, step: 0.01 },
    d: { kind: 'number', label: 'D', help: 'Known to the formula as d.', default: 0, step: 0.01 },
  },
  run: ({ settings, given }) => {
    const { a, b, c, d } = settings;
    const names: Readonly<Record<string, number>> = { ...given, a, b, c, d };
    const { constant, evaluate } = compileFormula(settings.formula, {
      source: (name) => (Object.hasOwn(names, name) ? names[name] : undefined),
      names: Object.keys(names),
      id: 0,
    });
    // Only random() is left when everything else is known.
    const value = constant ?? evaluate(1)[0];
    if (!Number.isFinite(value)) throw new RangeError(`The formula gives ${value}; it must give a finite number.`);
    return { number: { type: 'number', value } };
  },
});
