import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { emptyDocument, type FilaxisDocument } from '@filaxis/core';
import { DocumentService } from '../src/app/ropewalk/document/document.service';
import { addNode } from '../src/app/ropewalk/document/edits';
import { addDial } from '../src/app/ropewalk/document/dials';
import { ApiError } from '../src/app/shared/api.service';
import { FakeServer, make, openTab, stubBrowser } from './services';

let server: FakeServer;
let kept: Map<string, string>;
let documents: DocumentService;
const titled = (title: string): FilaxisDocument => ({ ...emptyDocument, title });
const rename = (title: string): void => documents.apply(`Rename to ${title}`, { ...documents.document(), title });
/** Lets a pause in the editing pass, and all that follows it. */
const pause = (ms = 1000): Promise<unknown> => vi.advanceTimersByTimeAsync(ms);

beforeEach(async () => {
  vi.useFakeTimers();
  kept = stubBrowser();
  server = new FakeServer();
  documents = make(DocumentService, server);
  await documents.open('d1');
});
afterEach(() => {
  documents.ngOnDestroy();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('saving', () => {
  test('waits for a pause in the editing, and saves once', async () => {
    for (const title of ['A', 'B', 'C']) {
      rename(title);
      await pause(300);
    }
    expect(server.saves).toEqual([]);
    expect(documents.saveState()).toBe('unsaved');
    await pause();
    expect(server.saves.map(({ title }) => title)).toEqual(['C']);
    expect([documents.saveState(), documents.version()]).toEqual(['saved', 2]);
  });

  test('edits during a save are saved after it', async () => {
    let letGo = (): void => undefined;
    server.hold = new Promise((done) => (letGo = done));
    rename('A');
    await pause();
    expect(documents.saveState()).toBe('saving');
    rename('B');
    server.hold = null;
    letGo();
    await pause(2000);
    expect(server.saves.map(({ title }) => title)).toEqual(['A', 'B']);
    expect(documents.isSaved).toBe(true);
  });

  test('without a server, edits are kept in the browser and saved when it is there again', async () => {
    server.failure = new ApiError(0, 'The server cannot be reached.', null);
    rename('A');
    await pause();
    expect([documents.saveState(), documents.saveMessage()]).toEqual(['offline', 'The server cannot be reached.']);
    // The page is closed and opened again.
    documents.ngOnDestroy();
    server.failure = null;
    documents = make(DocumentService, server);
    await documents.open('d1');
    expect(server.saves.map(({ title }) => title)).toEqual(['A']);
    expect(documents.document().title).toBe('A');
    expect([...kept.keys()]).toEqual([]);
  });

  test('it is tried again less often the longer the server is away, and at once when the way to it is back', async () => {
    server.failure = new ApiError(0, 'The server cannot be reached.', null);
    let tries = 0;
    const save = server.save.bind(server);
    server.save = (...given) => (tries++, save(...given));
    rename('A');
    await pause();
    expect(tries).toBe(1);
    // After 4, 8, 16, 30, 30 seconds …
    for (const [seconds, expected] of [
      [4, 2],
      [8, 3],
      [16, 4],
      [30, 5],
      [30, 6],
    ]) {
      // prettier-ignore
      await pause(seconds * 1000 - 1500);
      expect(tries).toBe(expected - 1);
      await pause(1500);
      expect(tries).toBe(expected);
    }
    server.failure = null;
    window.dispatchEvent(new Event('online'));
    await pause(10);
    expect([tries, documents.saveState()]).toEqual([7, 'saved']);
    // Once it is saved nothing is asked any more, and the next miss begins with the shortest wait.
    await pause(120_000);
    expect(tries).toBe(7);
    server.failure = new ApiError(0, 'Away again.', null);
    rename('B');
    await pause();
    server.failure = null;
    await pause(4100);
    expect([tries, documents.saveState()]).toEqual([9, 'saved']);
  });

  test('who asks for a save while one is on its way is told when what was there is through', async () => {
    let letGo = (): void => undefined;
    server.hold = new Promise((done) => (letGo = done));
    rename('A');
    const first = documents.save();
    rename('B');
    const order: string[] = [];
    void first.then(() => order.push('first'));
    void documents.save().then(() => order.push(`second: ${server.saves.map(({ title }) => title).join()}`));
    await pause(10);
    expect(order).toEqual([]);
    server.hold = null;
    letGo();
    await pause(10);
    expect(order).toEqual(['first', 'second: A,B']);
  });

  test('it is tried again by itself', async () => {
    server.failure = new ApiError(503, 'Busy.', null);
    rename('A');
    await pause();
    expect(documents.saveState()).toBe('offline');
    server.failure = null;
    await pause(5000);
    expect([documents.saveState(), server.document.title]).toEqual(['saved', 'A']);
  });

  test('what the server refuses is told and not sent again', async () => {
    server.failure = new ApiError(422, 'The title is too long.', null);
    rename('A');
    await pause(20_000);
    expect([documents.saveState(), documents.saveMessage()]).toEqual(['refused', 'The title is too long.']);
    server.failure = null;
    await pause(20_000);
    expect(server.saves).toEqual([]);
    // The next edit is another chance.
    rename('B');
    await pause();
    expect(documents.isSaved).toBe(true);
  });
});

describe('a conflict', () => {
  beforeEach(async () => {
    server.document = titled('Theirs');
    server.version = 7;
    rename('Mine');
    await pause();
    expect(documents.saveState()).toBe('conflict');
  });

  test('loses nothing while it lasts', async () => {
    rename('Mine again');
    await pause(20_000);
    expect(documents.saveState()).toBe('conflict');
    expect(server.document.title).toBe('Theirs');
    expect([...kept.entries()].find(([key]) => key.startsWith('filaxis.unsaved.d1.'))![1]).toContain('Mine again');
  });

  test('is settled with one’s own', async () => {
    await documents.keepMine();
    expect([server.document.title, documents.version(), documents.saveState()]).toEqual(['Mine', 8, 'saved']);
  });

  test('is settled with the other, and undo brings one’s own back', async () => {
    await documents.takeTheirs();
    expect([documents.document().title, documents.saveState()]).toEqual(['Theirs', 'saved']);
    documents.undo();
    expect(documents.document().title).toBe('Mine');
    await pause();
    expect(server.document.title).toBe('Mine');
  });
});

describe('a save whose answer was lost', () => {
  test('is asked again with its key and known, also when edits came meanwhile: no conflict with oneself', async () => {
    server.loseAnswer = true;
    rename('A');
    await pause();
    expect([documents.saveState(), server.version]).toEqual(['offline', 2]);
    rename('B');
    await pause(20_000);
    expect([documents.saveState(), documents.version(), server.document.title]).toEqual(['saved', 3, 'B']);
    expect(server.saves.map(({ title }) => title)).toEqual(['A', 'B']);
  });
  test('is known by its key after the page was closed and opened', async () => {
    server.loseAnswer = true;
    rename('A');
    await pause(750);
    rename('B');
    documents.ngOnDestroy();
    documents = make(DocumentService, server);
    await documents.open('d1');
    expect([documents.saveState(), server.version, server.document.title]).toEqual(['saved', 3, 'B']);
  });
});

test('a save that is asked for while another is on its way waits for it, and takes the newest along', async () => {
  let letGo = (): void => undefined;
  server.hold = new Promise((done) => (letGo = done));
  rename('A');
  await pause();
  rename('B');
  const asked = documents.save();
  server.hold = null;
  letGo();
  await asked;
  expect([documents.saveState(), server.document.title]).toEqual(['saved', 'B']);
});

describe('unsaved edits of another tab', () => {
  const gone = async (title: string): Promise<void> => {
    server.failure = new ApiError(0, 'The server cannot be reached.', null);
    rename(title);
    await pause();
    documents.ngOnDestroy();
    server.failure = null;
  };
  const reopened = async (): Promise<void> => {
    openTab();
    documents = make(DocumentService, server);
    await documents.open('d1');
    await pause(500);
  };
  test('are offered with what they change, taken up as one step, which can be undone', async () => {
    await gone('From a tab that is gone');
    await reopened();
    expect(documents.document().title).toBe('Stored');
    expect(documents.leftOverChanges()).toEqual(['Renamed from “Stored” to “From a tab that is gone”.']);
    documents.takeLeftOver();
    await pause();
    expect([documents.leftOver(), server.document.title, documents.undoLabel()]).toEqual([null, 'From a tab that is gone', 'Take up unsaved edits']);
    expect([...kept.keys()]).toEqual([]);
  });
  test('are not erased by what this one saves, and gone when they are dropped', async () => {
    await gone('Left');
    await reopened();
    rename('Saved here');
    await pause();
    expect([server.document.title, kept.size]).toEqual(['Saved here', 1]);
    documents.dropLeftOver();
    expect([documents.leftOver(), kept.size]).toEqual([null, 0]);
  });
  test('are not offered while that tab is there', async () => {
    server.failure = new ApiError(0, 'The server cannot be reached.', null);
    rename('Mine, elsewhere');
    await pause();
    server.failure = null;
    server.hold = new Promise(() => undefined);
    openTab();
    const other = make(DocumentService, server);
    await other.open('d1');
    await pause(500);
    expect([other.leftOver(), kept.size]).toEqual([null, 1]);
    other.ngOnDestroy();
  });
});

test('another tab that saved is followed where nothing is unsaved here', async () => {
  openTab();
  const other = make(DocumentService, server);
  await other.open('d1');
  expect([documents.openElsewhere(), other.openElsewhere()]).toEqual([true, true]);
  other.apply('Rename', titled('From the other tab'));
  await pause();
  expect(documents.document().title).toBe('From the other tab');
  expect(documents.version()).toBe(2);
  other.ngOnDestroy();
});

describe('changes under the hand', () => {
  test('are shown, and one step of undo takes back all of them', () => {
    for (const title of ['1', '2', '3']) documents.show(titled(title));
    expect(documents.settledDocument().title).toBe('Stored');
    documents.apply('Drag', titled('4'));
    expect(documents.undoLabel()).toBe('Drag');
    documents.undo();
    expect(documents.document().title).toBe('Stored');
    documents.redo();
    expect(documents.document().title).toBe('4');
  });

  test('are dropped without a trace', async () => {
    documents.show(titled('1'));
    documents.dropPreview();
    await pause();
    expect([documents.document().title, documents.undoLabel(), server.saves.length]).toEqual(['Stored', null, 0]);
  });

  test('a dragged dial counts at once and is written when let go', () => {
    documents.apply('Add dial', addDial(documents.document(), 'number').document);
    const dial = documents.document().dials![0];
    documents.dragDial(dial, 0.9);
    expect(documents.dials()[0].value).toBe(0.9);
    expect(documents.document().dials![0].value).toBe(0.5);
    documents.keepDial(dial, 0.8);
    expect([documents.dials()[0].value, documents.document().dials![0].value, documents.liveDials()]).toEqual([0.8, 0.8, {}]);
    documents.undo();
    expect(documents.dials()[0].value).toBe(0.5);
  });
});

test('undo leaves nothing chosen that is not there any more', () => {
  const made = addNode(documents.document(), 'lay.line', [0, 0]);
  documents.apply('Add', made.document);
  documents.select(made.id);
  expect(documents.chosen()?.type).toBe('lay.line');
  documents.undo();
  expect([documents.chosen(), documents.selection().size]).toEqual([null, 0]);
});

test('moving a tag does not ask for another run; a setting does', () => {
  const made = addNode(documents.document(), 'lay.line', [0, 0]);
  documents.apply('Add', made.document);
  const before = documents.meaning();
  documents.apply('Move', { ...made.document, nodes: [{ ...made.document.nodes[0], at: [50, 50] }] });
  expect(documents.meaning()).toBe(before);
  documents.apply('Set', { ...made.document, nodes: [{ ...made.document.nodes[0], settings: { points: 9 } }] });
  expect(documents.meaning()).not.toBe(before);
});

describe('holding a key to see the last change', () => {
  test('shows the document before it, and comes back without a trace', () => {
    documents.openLoose({ ...emptyDocument, title: 'First' });
    documents.apply('Rename', { ...emptyDocument, title: 'Second' });
    const now = documents.document();
    documents.lookBack();
    expect([documents.document().title, documents.lookingBack()]).toEqual(['First', 'Before “Rename”']);
    // The key repeats, and nothing is done to what is only looked at.
    documents.lookBack();
    documents.apply('Rename', { ...emptyDocument, title: 'Third' });
    expect(documents.document().title).toBe('First');
    documents.lookAgain();
    expect(documents.document()).toBe(now);
    expect([documents.undoLabel(), documents.redoLabel(), documents.lookingBack()]).toEqual(['Rename', null, null]);
  });

  test('what is saved meanwhile is the document as it is', async () => {
    rename('Kept');
    documents.lookBack();
    await pause();
    expect(server.saves.map(({ title }) => title)).toEqual(['Kept']);
    documents.lookAgain();
    await pause();
    expect([documents.isSaved, server.document.title]).toEqual([true, 'Kept']);
  });

  test('is nothing where nothing was changed, or while a change is under the hand', () => {
    documents.openLoose({ ...emptyDocument, title: 'First' });
    documents.lookBack();
    expect(documents.lookingBack()).toBeNull();
    documents.apply('Rename', { ...emptyDocument, title: 'Second' });
    documents.show({ ...emptyDocument, title: 'Dragged' });
    documents.lookBack();
    documents.lookAgain();
    expect(documents.document().title).toBe('Dragged');
  });
});
