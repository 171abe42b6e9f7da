/** Areas and notes under the tags: moved, sized, written on and taken away, each as one change. */
import { expect, test } from 'vitest';
import { GroundThings } from '../../src/app/ropewalk/graph/ground-things';
import { areasOf, notesOf } from '../../src/app/ropewalk/document/layout';
import { graph, mounted, point, press, type Mounted } from './mounted';

const document = graph([{ id: 'line', type: 'lay.line', at: [20, 50] }, { id: 'far', type: 'lay.circle', at: [900, 0] }], [], {
  areas: [{ id: 'a', title: 'Ropes', at: [0, 0], size: [200, 150] }],
  notes: [{ id: 'n', text: 'Mind the gap.', at: [400, 300] }],
}); // prettier-ignore

interface Ground extends Mounted<GroundThings> {
  readonly area: () => HTMLElement;
  readonly note: () => HTMLElement;
  readonly find: (selector: string) => HTMLElement;
}
async function ground(zoom = 1): Promise<Ground> {
  const made = await mounted(GroundThings, { document, inputs: { zoom } });
  const find = (selector: string): HTMLElement => made.host.querySelector<HTMLElement>(selector)!;
  return { ...made, find, area: () => find('.area'), note: () => find('.note') };
}
const placed = (element: HTMLElement): string[] => ['left', 'top', 'width', 'height'].map((side) => element.style.getPropertyValue(side));

test('they stand where the document has them', async () => {
  const { area, note, find } = await ground();
  expect([placed(area()), placed(note()).slice(0, 2)]).toEqual([['0px', '0px', '200px', '150px'], ['400px', '300px']]); // prettier-ignore
  expect([find('.area input'), find('.note textarea')].map((box) => (box as HTMLInputElement).value)).toEqual(['Ropes', 'Mind the gap.']);
});

test('an area is moved by its head with what stands in it, in the graph’s own measure; nothing else moves, and one undo takes it back', async () => {
  const { find, documents, settle, area } = await ground(0.5);
  const head = find('.area header');
  point(head, 'pointerdown', 100, 100);
  // Two units of the graph are no drag yet.
  point(head, 'pointermove', 101, 100);
  expect(documents.document()).toBe(documents.settledDocument());
  point(head, 'pointermove', 130, 80);
  await settle();
  expect([placed(area()).slice(0, 2), documents.undoLabel()]).toEqual([['60px', '-40px'], null]); // prettier-ignore
  point(head, 'pointerup', 130, 80);
  const moved = documents.document();
  expect([areasOf(moved)[0].at, moved.nodes.map(({ at }) => at), documents.undoLabel()]).toEqual([[60, -40], [[80, 10], [900, 0]], 'Move area']); // prettier-ignore
  documents.undo();
  expect(areasOf(documents.document())[0].at).toEqual([0, 0]);
});

test('it is sized by its corner, down to where its title can be read', async () => {
  const { find, documents } = await ground();
  for (const [x, y, size] of [[50, 20, [250, 170]], [-900, -900, [90, 60]]] as const) {
    point(find('.corner'), 'pointerdown', 0, 0);
    point(find('.corner'), 'pointermove', x, y);
    point(find('.corner'), 'pointerup', x, y);
    expect([areasOf(documents.document())[0].size, documents.undoLabel()]).toEqual([size, 'Size of area']);
  } // prettier-ignore
});

test('a note is moved by its grip', async () => {
  const { find, documents } = await ground(2);
  point(find('.grip'), 'pointerdown', 0, 0);
  point(find('.grip'), 'pointermove', 50, 20);
  point(find('.grip'), 'pointerup', 50, 20);
  expect([notesOf(documents.document())[0].at, documents.undoLabel()]).toEqual([[425, 310], 'Move note']); // prettier-ignore
});

test('a press without a drag, another button, and a drag that is broken off change nothing', async () => {
  const { find, documents } = await ground();
  point(find('.grip'), 'pointerdown', 0, 0);
  point(find('.grip'), 'pointerup', 0, 0);
  point(find('.grip'), 'pointermove', 90, 90);
  point(find('.grip'), 'pointerdown', 0, 0, { button: 2 });
  point(find('.grip'), 'pointermove', 90, 90);
  point(find('.grip'), 'pointerdown', 0, 0);
  point(find('.grip'), 'pointermove', 90, 90);
  point(find('.grip'), 'pointercancel', 90, 90);
  point(find('.grip'), 'pointerup', 90, 90);
  expect([documents.document(), documents.undoLabel()]).toEqual([document, null]);
});

test('hands on them do not reach the graph beneath', async () => {
  const { host, find } = await ground();
  const reached: string[] = [];
  for (const type of ['pointerdown', 'wheel']) host.addEventListener(type, ({ target }) => reached.push(`${type} ${(target as Element).tagName}`));
  for (const each of ['.area header', '.corner', '.grip', '.area input', '.area button', '.note textarea', '.note button'])
    point(find(each), 'pointerdown', 0, 0);
  find('.note textarea').dispatchEvent(new WheelEvent('wheel', { bubbles: true }));
  expect(reached).toEqual([]);
});

test('titles and notes are written; a title of nothing is not taken, and Enter ends writing', async () => {
  const { find, documents } = await ground();
  const write = (selector: string, text: string): void => {
    const box = find(selector) as HTMLInputElement;
    box.focus();
    box.value = text;
    box.dispatchEvent(new Event('change'));
  };
  write('.area input', '  Cables ');
  expect([areasOf(documents.document())[0].title, documents.undoLabel()]).toEqual(['Cables', 'Title of area']);
  write('.area input', '   ');
  expect(areasOf(documents.document())[0].title).toBe('Cables');
  press(find('.area input'), 'Enter');
  expect(globalThis.document.activeElement).not.toBe(find('.area input'));
  write('.note textarea', 'Done.');
  expect([notesOf(documents.document())[0].text, documents.undoLabel()]).toEqual(['Done.', 'Note']);
});

test('an area that is removed leaves its nodes; a note goes', async () => {
  const { find, documents } = await ground();
  find('.area button').click();
  expect([areasOf(documents.document()), documents.document().nodes.length, documents.undoLabel()]).toEqual([[], 2, 'Remove area']);
  find('.note button').click();
  expect([notesOf(documents.document()), documents.undoLabel()]).toEqual([[], 'Remove note']);
});
