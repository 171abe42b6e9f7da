import { numberOut } from '../../definition/ports.js';
import { compileFormula } from '../../values/formula/evaluate.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { pipeOfRadius } from '../../definition/sample.js';

export default defineNode({
  type: 'gauge.formula',
  label: 'Formula',
  family: families.gauge,
  summary: 'A number worked out from other numbers and the dials.',
  help: 'The formula knows the dials by their ids, time and frameNumber, and a, b, c, d: settings that numbers can be wired to. For values that differ from point to point write the formula into the setting itself.',
  keywords: ['expression', 'calculate', 'maths', 'add', 'multiply', 'divide', 'equation'],
  asks: {
    'compute a number': {},
    'count by length': { formula: 'a / 0.5' },
  },
  telling: ['formula'],
  sample: { settings: { formula: 'a / 2', a: 0.1 }, shownBy: pipeOfRadius },
  outputs: [numberOut],
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
