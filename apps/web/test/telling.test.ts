import { describe, expect, test } from 'vitest';
import { nodeDefinitions, type Dial, type Setting } from '@filaxis/core';
import { tellingOf } from '../src/app/ropewalk/graph/telling';
import { valueText } from '../src/app/ropewalk/settings/value-text';

const length: Setting = { kind: 'number', label: 'Length', help: '', default: 1, unit: 'm' };
const angle: Setting = { kind: 'number', label: 'Angle', help: '', default: 0, unit: '°' };
const dials: readonly Dial[] = [{ id: 'sag', label: 'Sag', kind: 'number', value: 0.25 }];

describe('a value in one line', () => {
  test.each<[string, Setting, unknown, string]>([
    ['a number', length, 0.12345678, '0.1235 m'],
    ['a degree', angle, 90, '90°'],
    ['a dial', length, { dial: 'sag' }, '0.25 m'],
    ['a dial that is not there', length, { dial: 'gone' }, 'gone (missing)'],
    ['a ramp', length, { ramp: [[0, 1], [0.5, 7], [1, 0.5]] }, '1 → 0.5 m'], // prettier-ignore
    ['a formula', length, { formula: '2 * t' }, 'ƒ 2 * t'],
    ['chance', length, { random: [0.1, 0.3], seed: 1 }, '0.1 … 0.3 m'],
    ['an attribute', length, { attribute: 'birth', scale: 2, offset: 1 }, 'birth × 2 + 1'],
    ['a plain attribute', length, { attribute: 't' }, 't'],
    ['a choice', { kind: 'choice', label: '', help: '', default: 'a', choices: { a: 'as it is', b: 'turned' } }, 'b', 'turned'],
    ['a vector', { kind: 'vector', label: '', help: '', default: [0, 0, 0], unit: 'm' }, [1, 0.5, -2], '1, 0.5, -2 m'],
    ['a switch', { kind: 'boolean', label: '', help: '', default: false }, true, 'on'],
    ['text', { kind: 'text', label: '', help: '', default: '' }, 'hemp', 'hemp'],
  ])('%s', (_, setting, value, said) => expect(valueText(setting, value, dials)).toBe(said));
});

describe('what a tag tells', () => {
  const told = (type: string, settings: Record<string, unknown> = {}): ReturnType<typeof tellingOf> =>
    tellingOf(nodeDefinitions.get(type)!, { id: 'a', type, settings }, dials);

  test('of a material its name and colour', () =>
    expect(told('mesh.material', { name: 'hemp', colour: '#aa8855' })).toEqual({ text: 'hemp', colour: '#aa8855' }));

  test('of a material the colour that its parts and dials make', () => {
    expect(told('mesh.material', { colour: [1, { dial: 'sag' }, 0] })!.colour).toBe('#ff4000');
    expect(tellingOf(nodeDefinitions.get('mesh.material')!, { id: 'a', type: 'mesh.material', settings: { colour: { dial: 'dye' } } }, [{ id: 'dye', label: 'Dye', kind: 'colour', value: '#123456' }])!.colour).toBe('#123456'); // prettier-ignore
  });

  test('of a transform the first of its moves that was set', () => {
    expect(told('shape.transform', { move: [0, 1.2, 0] })!.text).toBe('move 0, 1.2, 0 m');
    expect(told('shape.transform', { turn: [0, 90, 0] })!.text).toBe('turn 0, 90, 0°');
  });

  test('every node with settings that tell gives a line or a colour', () => {
    const silent = [...nodeDefinitions.values()].filter(
      (definition) => definition.telling.length && !tellingOf(definition, { id: 'a', type: definition.type }, []),
    );
    // Those whose first value is empty until something is chosen.
    for (const { settings, telling } of silent)
      expect(telling.every((name) => ['', null].includes(settings[name].default as string | null) || settings[name].kind === 'data')).toBe(true);
  });
});
