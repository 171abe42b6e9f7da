import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { nodeDefinitions, settingFault } from '@filaxis/core';
import { askedFor } from '../src/app/ropewalk/search/asked-for';

const phrases = [...nodeDefinitions.values()].flatMap((definition) =>
  Object.entries(definition.asks).map(([phrase, settings]) => ({ phrase, definition, settings })),
);
/** Kinds of nodes that a phrase may rightly lead to. */
const right = (phrase: string): string[] => phrases.filter((each) => each.phrase === phrase).map(({ definition }) => definition.type);

describe('what artists ask for', () => {
  test('there are phrases enough, and the settings of each are taken by its node', () => {
    expect(phrases.length).toBeGreaterThanOrEqual(150);
    for (const { phrase, definition, settings } of phrases)
      for (const [name, value] of Object.entries(settings))
        expect([phrase, name, definition.settings[name] && settingFault(definition.settings[name], value, settings)]).toEqual([phrase, name, null]);
  });

  test('every phrase leads to its node first', () => {
    const wrong = phrases.filter(({ phrase }) => !right(phrase).includes(askedFor(phrase, null)[0]?.definition.type));
    expect(wrong.map(({ phrase }) => phrase)).toEqual([]);
  });

  test('so do at least 95 of 100 with other words about them, in another order', () => {
    const filler = ['please', 'I want', 'make', 'the', 'some', 'it'];
    let [tried, good] = [0, 0];
    fc.assert(
      fc.property(fc.constantFrom(...phrases), fc.array(fc.constantFrom(...filler), { maxLength: 3 }), fc.nat(), ({ phrase }, more, turn) => {
        const words = phrase.split(' ');
        const asked = [...more, ...words.slice(turn % words.length), ...words.slice(0, turn % words.length)].join(' ');
        tried++;
        if (right(phrase).includes(askedFor(asked, null)[0]?.definition.type)) good++;
      }),
      { numRuns: 400, seed: 7 },
    );
    expect(good / tried).toBeGreaterThanOrEqual(0.95);
  });

  test.each([
    ['thinner to the tip', 'skin.tube'],
    ['I want it to hang', 'shape.hang'],
    ['second point', 'pace.points'],
    ['closed ends', 'skin.tube'],
    ['braided', 'skin.rope'],
    ['hexagon surface', 'skin.tiles'],
    ['uneven', 'shape.displace'],
    ['shuffle', 'pace.reorder'],
    ['mirror', 'shape.mirror'],
    ['scatter grass', 'place.scatter'],
    ['copies upright', 'place.copies'],
    ['posts for a fence', 'place.copies'],
    ['metal', 'mesh.material'],
    ['inside out', 'mesh.normals'],
    ['measure length', 'gauge.figures'],
    ['count by length', 'gauge.formula'],
  ])('“%s”', (asked, type) => expect(askedFor(asked, null)[0]?.definition.type).toBe(type));

  test('what the chosen node can do is done on it', () => {
    const [rope, hose] = ['skin.rope', 'skin.tube'].map((type) => nodeDefinitions.get(type)!);
    expect(askedFor('close the ends', rope)[0]).toMatchObject({ definition: rope, onChosen: true, settings: { caps: 'flat' } });
    expect(Object.keys(askedFor('thinner toward the tip', rope)[0].settings)).toEqual(['diameter']);
    expect(Object.keys(askedFor('thinner toward the tip', hose)[0].settings)).toEqual(['radius']);
    expect(askedFor('hang it', rope)[0]).toMatchObject({ onChosen: false });
  });

  test('nothing is offered for nothing, or for what nobody can do', () => {
    expect(askedFor('', null)).toEqual([]);
    expect(askedFor('the of it', null)).toEqual([]);
    expect(askedFor('boil an egg', null)).toEqual([]);
  });
});
