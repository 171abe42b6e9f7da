import fc from 'fast-check';
import { expect, test } from 'vitest';
import { unbounded } from '../../src/index.js';
import { derive } from '../../src/grow/rules/derive.js';
import { readRules, RulesError } from '../../src/grow/rules/read.js';
import { drawModules } from '../../src/grow/rules/turtle.js';

const pieces = ['A', 'B', 'F', 'f', '+', '-', '&', '^', '\\', '/', '|', '$', '[', ']', '!', '~', '%', '(', ')', '(l)', '(l, w)', '(1)', '(2*l)', ',', ' ', '\n', '->', '→', '->(0.5)', '<', '>', ':', 'l > 1', '=', 'r = 0.9', 'ignore: +-', '#', '0', '1.5', 'random(1)', 'é', '\u0000', '💧']; // prettier-ignore
const text = fc.array(fc.constantFrom(...pieces), { maxLength: 24 }).map((list) => list.join(''));

test('whatever is written is rules, or is refused at a line and a column inside it', () => {
  fc.assert(
    fc.property(text, text, (axiom, rules) => {
      try {
        readRules(axiom, rules, ['a']);
      } catch (error) {
        if (!(error instanceof RulesError)) throw error;
        const line = error.line ? rules.split('\n')[error.line - 1] : axiom;
        expect(line).toBeDefined();
        expect(error.column).toBeGreaterThanOrEqual(1);
        expect(error.column).toBeLessThanOrEqual(line.length + 1);
      }
    }),
    { numRuns: 20_000 },
  );
});

test('rules of any kind are derived and drawn, or stopped at so many modules; brackets stay in pairs, and nothing is not finite', () => {
  const part = fc.array(fc.constantFrom('A', 'B', 'F', '+(33)', '-', '&', '/', '!', '~', '[A]', '[+F]', '[&B~]', 'F(0.5)'), { minLength: 1, maxLength: 7 }).map((list) => list.join(' ')); // prettier-ignore
  const rule = fc.tuple(fc.constantFrom('A', 'B', 'F', 'A < B', 'A < F > B', 'B > A'), part).map(([head, body]) => `${head} -> ${body}`);
  fc.assert(
    fc.property(part, fc.array(rule, { maxLength: 4 }), fc.nat(6), fc.nat(99), (axiom, rules, times, seed) => {
      const set = readRules(axiom, rules.join('\n'), []);
      let made;
      try {
        made = derive(set, { times, seed, given: [], most: 20_000 }, unbounded);
      } catch (error) {
        if (error instanceof RulesError && error.message.includes('more than 20,000 modules')) return;
        throw error;
      }
      const { modules, counts } = made;
      expect([counts.length, counts.at(-1)]).toEqual([times + 1, modules.count]);
      let depth = 0;
      for (const symbol of modules.symbols.subarray(0, modules.count)) {
        if (symbol === 91) depth++;
        if (symbol === 93) depth--;
        expect(depth).toBeGreaterThanOrEqual(0);
      }
      expect(depth).toBe(0);
      const { curves, leaves } = drawModules(modules, { angle: 25, step: 0.1, width: 0.02, taper: 0.7, tropism: [0, -1, 0], tropismStrength: 0.2, pace: 1, times }, unbounded); // prettier-ignore
      for (const { data } of [...curves.attributes.values(), ...leaves.attributes.values()]) expect(data.every(Number.isFinite)).toBe(true);
      const drawing = modules.symbols.subarray(0, modules.count).filter((symbol) => symbol === 70).length;
      expect(curves.positions.length / 3 - (curves.starts.length - 1)).toBe(drawing);
    }),
    { numRuns: 400 },
  );
});
