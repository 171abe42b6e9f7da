import { describe, expect, test } from 'vitest';
import { emptyDocument, nodeDefinitions, type FilaxisDocument } from '@filaxis/core';
import { stepAt } from '../src/app/ropewalk/lessons/lesson';
import { lessons } from '../src/app/ropewalk/lessons/lessons';
import { addDial, dialFromSetting } from '../src/app/ropewalk/document/dials';
import { addNode, bestInput, connect, setSetting } from '../src/app/ropewalk/document/edits';

type Deed = (document: FilaxisDocument) => FilaxisDocument;

/** Adds a node after the newest of a kind, by the port that the search would choose; or by itself. */
const add =
  (type: string, after?: string): Deed =>
  (document) => {
    const made = addNode(document, type, [0, 0]);
    const from = after && made.document.nodes.findLast((node) => node.type === after)!.id;
    return from ? connect(made.document, [from, nodeDefinitions.get(after)!.outputs[0].name], bestInput(made.document, [from, nodeDefinitions.get(after)!.outputs[0].name], made.id)!) : made.document; // prettier-ignore
  };
const set =
  (type: string, name: string, value: unknown): Deed =>
  (document) =>
    setSetting(document, document.nodes.findLast((node) => node.type === type)!.id, name, value);
const wire =
  (from: string, to: string, input: string): Deed =>
  (document) => {
    const id = (type: string): string => document.nodes.findLast((node) => node.type === type)!.id;
    return connect(document, [id(from), nodeDefinitions.get(from)!.outputs[0].name], [id(to), input]);
  };
const drawn = (count: number): Deed => set('lay.drawn', 'curves', [{ points: Array.from({ length: count }, (_, i) => [i, 0, (i % 2) * 2]) }]);

/** What an artist does in each lesson, a deed a step. */
const deeds: Readonly<Record<string, readonly Deed[]>> = {
  rope: [
    add('lay.line'),
    set('lay.line', 'to', [4, 0, 0]),
    add('shape.hang', 'lay.line'),
    set('shape.hang', 'value', 0.8),
    add('skin.rope', 'shape.hang'),
    add('mesh.material', 'skin.rope'),
    add('flow.output', 'mesh.material'),
    (document) => dialFromSetting(document, document.nodes.find(({ type }) => type === 'shape.hang')!.id, 'value')!.document,
  ],
  pipe: [
    add('lay.drawn'),
    drawn(4),
    set('lay.drawn', 'kind', 'straight'),
    add('shape.roundCorners', 'lay.drawn'),
    add('skin.tube', 'shape.roundCorners'),
    set('skin.tube', 'radius', 0.08),
    set('skin.tube', 'caps', 'flat'),
    add('flow.output', 'skin.tube'),
  ],
  fence: [
    add('lay.terrain'),
    (document) => set('lay.terrain', 'height', 3)(set('lay.terrain', 'size', [30, 30])(document)),
    add('lay.drawn'),
    drawn(3),
    add('shape.drape', 'lay.drawn'),
    wire('lay.terrain', 'shape.drape', 'body'),
    add('lay.box'),
    set('lay.box', 'size', [0.12, 1.6, 0.12]),
    add('place.copies', 'shape.drape'),
    wire('lay.box', 'place.copies', 'objects'),
    set('place.copies', 'spacing', 2),
    add('flow.output', 'place.copies'),
  ],
};

describe.each(lessons.map((lesson) => [lesson.title, lesson] as const))('%s', (_, lesson) => {
  test('each step is open until it is done, and is asked for again when it is undone', () => {
    let document = emptyDocument;
    expect(deeds[lesson.id]).toHaveLength(lesson.steps.length);
    for (const [i, deed] of deeds[lesson.id].entries()) {
      expect(stepAt(lesson, document)).toBe(i);
      const before = document;
      document = deed(document);
      expect(stepAt(lesson, document)).toBe(i + 1);
      expect(stepAt(lesson, before)).toBe(i);
    }
  });

  test('says what to type by names that are on screen', () => {
    const names = new Set([...nodeDefinitions.values()].map(({ label }) => label.toLowerCase()));
    for (const [, word] of lesson.steps.flatMap(({ hint }) => [...hint.matchAll(/type “([^”]+)” and press/g)])) expect(names.has(word)).toBe(true);
  });

  test('shows something of the page for every step', () => {
    for (const { aims } of lesson.steps) expect(aims(emptyDocument).length).toBeGreaterThan(0);
  });
});

test('other work in the document does not count as a step, and steps may be done in any order', () => {
  const [rope] = lessons;
  const other = add('flow.output', 'skin.tube')(add('skin.tube', 'lay.circle')(add('lay.circle')(addDial(emptyDocument, 'number').document)));
  expect(stepAt(rope, other)).toBe(0);
  const early = add('shape.hang', 'lay.line')(add('lay.line')(emptyDocument));
  expect(stepAt(rope, early)).toBe(1);
  expect(stepAt(rope, set('lay.line', 'to', [4, 0, 0])(early))).toBe(3);
});
