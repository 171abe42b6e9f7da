import { MatMenuHarness } from '@angular/material/menu/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { MatSnackBarHarness } from '@angular/material/snack-bar/testing';
import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { describe, expect, test, vi } from 'vitest';
import { emptyDocument, type FilaxisDocument } from '@filaxis/core';
import type { DeletedDocument, DocumentCard } from '@filaxis/protocol';
import { packDocument, unpackDocument } from '@filaxis/formats';
import { LibraryPage } from '../../src/app/library/library.page';
import { Notices } from '../../src/app/shared/notices';
import { ApiError } from '../../src/app/shared/api.service';
import { FakeServer } from '../services';
import { mounted, press, typeInto, type Mounted } from './mounted';

const card = (id: string, title: string): DocumentCard => ({
  id,
  title,
  version: 3,
  createdAt: '2026-01-02T10:00:00Z',
  updatedAt: '2026-01-02T10:00:00Z',
  nodes: 5,
  dials: 2,
  pictureOf: null,
  sample: false,
});

/** A server with documents to list. */
class Shelf extends FakeServer {
  cards = [card('a', 'Quay rail'), card('b', 'Beacon')];
  asked: unknown[] = [];
  made: FilaxisDocument[] = [];
  gone: string[] = [];
  broken: Error | null = null;
  async list(page: unknown): Promise<DocumentCard[]> {
    this.asked.push(page);
    if (this.broken) throw this.broken;
    return this.cards.filter(({ id }) => !this.gone.includes(id));
  }
  async create(document: FilaxisDocument): Promise<{ id: string; version: number }> {
    this.made.push(document);
    return { id: 'new', version: 1 };
  }
  async remove(id: string): Promise<void> {
    this.gone.push(id);
  }
  async restore(id: string): Promise<void> {
    this.gone = this.gone.filter((each) => each !== id);
  }
  async deleted(): Promise<DeletedDocument[]> {
    return this.gone.map((id) => ({
      id,
      title: this.cards.find((each) => each.id === id)!.title,
      deletedAt: '2026-01-02T10:00:00Z',
      goesAt: '2026-01-03T10:00:00Z',
    }));
  }
  async forget(id?: string): Promise<void> {
    for (const each of id === undefined ? [...this.gone] : [id]) {
      this.cards = this.cards.filter((one) => one.id !== each);
      await this.restore(each);
    }
  }
  async picture(): Promise<null> {
    return null;
  }
}

async function library(server = new Shelf()): Promise<Mounted<LibraryPage> & { shelf: Shelf }> {
  const made = await mounted(LibraryPage, { server });
  await made.settle();
  return { ...made, shelf: server };
}
const titles = ({ host }: Mounted<unknown>): string[] => [...host.querySelectorAll('.title')].map(({ textContent }) => textContent!);
const menu = ({ loader }: Mounted<unknown>, title: string): Promise<MatMenuHarness> =>
  loader.getHarness(MatMenuHarness.with({ selector: `[aria-label="More for ${title}"]` }));

describe('the Library', () => {
  test('lists documents with their facts', async () => {
    const made = await library();
    expect(titles(made)).toEqual(['Quay rail', 'Beacon']);
    expect(made.host.querySelector('.facts')!.textContent).toBe('5 nodes · 2 dials · v3');
    expect(made.host.querySelector('.picture')!.getAttribute('href')).toBe('/d/a');
  });

  test('has only the rows in sight on the page, and asks for the next documents when their end comes near', async () => {
    const shelf = new Shelf();
    const all = Array.from({ length: 130 }, (_, i) => card(`d${i}`, `Document ${i}`));
    shelf.list = async (page) => {
      shelf.asked.push(page);
      const { from, count } = page as { from: number; count: number };
      return all.slice(from, from + count);
    };
    const made = await library(shelf);
    const shown = made.host.querySelectorAll('[role=listitem]').length;
    expect(shown).toBeGreaterThan(3);
    expect(shown).toBeLessThan(40);
    const view = made.host.querySelector('cdk-virtual-scroll-viewport')!;
    for (const from of [60, 120]) {
      view.scrollTop = from * 1000;
      view.dispatchEvent(new Event('scroll'));
      await vi.waitFor(() => expect(shelf.asked.at(-1)).toMatchObject({ from }));
      await made.settle();
    }
    // Two cards a row, 340 px each.
    view.scrollTop = 65 * 340 - 600;
    view.dispatchEvent(new Event('scroll'));
    await vi.waitFor(() => expect(titles(made)).toContain('Document 129'));
  });

  test('asks the server for what is searched, once the hand rests, and in which order', async () => {
    const made = await library();
    const box = made.host.querySelector<HTMLInputElement>('input[type=search]')!;
    for (const text of ['b', 'be', 'bea']) typeInto(box, text);
    await vi.waitFor(() => expect(made.shelf.asked).toHaveLength(2));
    expect(made.shelf.asked[1]).toMatchObject({ search: 'bea', sort: 'changed', from: 0 });
    const order = await made.loader.getHarness(MatSelectHarness);
    await order.open();
    await order.clickOptions({ text: 'by name' });
    await vi.waitFor(() => expect(made.shelf.asked.at(-1)).toMatchObject({ sort: 'name' }));
  });

  test('a document is renamed in place; Escape leaves it', async () => {
    const made = await library();
    await (await menu(made, 'Quay rail')).clickItem({ text: 'Rename' });
    await made.settle();
    const box = made.host.querySelector<HTMLInputElement>('[aria-label="New name"]')!;
    box.value = ' Harbour rail ';
    press(box, 'Enter');
    await vi.waitFor(() => expect(made.shelf.saves.map(({ title }) => title)).toEqual(['Harbour rail']));
    press(made.host.querySelector('[data-title="Beacon"]')!, 'F2');
    await made.settle();
    press(made.host.querySelector('[aria-label="New name"]')!, 'Escape');
    await made.settle();
    expect([made.host.querySelector('[aria-label="New name"]'), made.shelf.saves.length]).toEqual([null, 1]);
  });

  test('a copy gets a title of its own', async () => {
    const made = await library();
    made.shelf.document = { ...emptyDocument, title: 'Quay rail' };
    await (await menu(made, 'Quay rail')).clickItem({ text: 'Duplicate' });
    await vi.waitFor(() => expect(made.shelf.made.map(({ title }) => title)).toEqual(['Quay rail copy']));
  });

  test('what was deleted comes back by Undo', async () => {
    const made = await library();
    await (await menu(made, 'Beacon')).clickItem({ text: 'Delete' });
    await vi.waitFor(() => expect(made.shelf.gone).toEqual(['b']));
    await made.settle();
    expect(titles(made)).toEqual(['Quay rail']);
    await (await made.overlays.getHarness(MatSnackBarHarness)).dismissWithAction();
    await vi.waitFor(() => expect(made.shelf.gone).toEqual([]));
  });

  test('what was deleted is listed: brought back, or let go for good after asking', async () => {
    const made = await library();
    made.shelf.gone = ['a', 'b'];
    const press = async (label: string): Promise<void> => {
      const wanted = (): HTMLElement | undefined =>
        [...document.querySelectorAll<HTMLElement>('button')].find((each) => (each.getAttribute('aria-label') ?? each.textContent).trim() === label);
      await vi.waitFor(() => expect(wanted()).toBeDefined());
      wanted()!.click();
      await made.settle();
    };
    const listed = (): string[] => [...document.querySelectorAll('fx-deleted .name')].map(({ textContent }) => textContent!);
    await press('Recently deleted');
    await vi.waitFor(() => expect(listed()).toEqual(['Quay rail', 'Beacon']));
    await press('Bring back Quay rail');
    await vi.waitFor(() => expect([listed(), made.shelf.gone]).toEqual([['Beacon'], ['b']]));
    await press('Delete Beacon for good');
    await press('Cancel');
    expect(made.shelf.gone).toEqual(['b']);
    await press('Clear the list');
    await press('Delete for good');
    await vi.waitFor(() => expect([listed(), made.shelf.cards.length]).toEqual([[], 1]));
    await press('Close');
    await vi.waitFor(() => expect(titles(made)).toEqual(['Quay rail']));
  });

  test('cards stay where they are while a menu is open; deleting asks where they had just moved', async () => {
    const made = await library();
    const beacon = await menu(made, 'Beacon');
    await beacon.open();
    made.shelf.cards = [card('c', 'Newest'), ...made.shelf.cards];
    typeInto(made.host.querySelector<HTMLInputElement>('input[type=search]')!, 'e');
    await vi.waitFor(() => expect(made.shelf.asked).toHaveLength(2));
    await made.settle();
    expect(titles(made)).toEqual(['Quay rail', 'Beacon']);
    await beacon.close();
    await made.settle();
    expect(titles(made)).toEqual(['Newest', 'Quay rail', 'Beacon']);
    press(made.host.querySelector('[data-title="Newest"]')!, 'Delete');
    await made.settle();
    expect([document.querySelector('fx-ask h2')!.textContent, made.shelf.gone]).toEqual(['Delete “Newest”?', []]);
    [...document.querySelectorAll<HTMLElement>('fx-ask button')].at(-1)!.click();
    await vi.waitFor(() => expect(made.shelf.gone).toEqual(['c']));
  });

  test('a new document is made and opened', async () => {
    const made = await library();
    const went = vi.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);
    [...made.host.querySelectorAll('button')].find(({ textContent }) => textContent!.includes('New document'))!.click();
    await vi.waitFor(() => expect(went).toHaveBeenCalledWith(['/d', 'new']));
    expect(made.shelf.made).toEqual([emptyDocument]);
  });

  test('says what is wrong and tries again', async () => {
    const shelf = new Shelf();
    shelf.broken = new ApiError(0, 'The server cannot be reached.', null);
    const made = await library(shelf);
    expect(made.host.querySelector('.empty')!.textContent).toContain('The server cannot be reached.');
    shelf.broken = null;
    made.host.querySelector<HTMLButtonElement>('.empty button')!.click();
    await made.settle();
    await made.settle();
    expect(titles(made)).toEqual(['Quay rail', 'Beacon']);
  });

  test('without documents says what one is; with a search that finds none offers all', async () => {
    const shelf = new Shelf();
    shelf.cards = [];
    const made = await library(shelf);
    expect(made.host.textContent).toContain('Nothing here yet');
    typeInto(made.host.querySelector<HTMLInputElement>('input[type=search]')!, 'x');
    await made.settle();
    expect(made.host.textContent).toContain('No document is called that');
  });

  /** What was handed to the browser as files. */
  function downloads(): { name: string; blob: Blob }[] {
    const saved: { name: string; blob: Blob }[] = [];
    let newest: Blob;
    URL.createObjectURL = (blob: Blob) => ((newest = blob), 'blob:x');
    URL.revokeObjectURL = () => undefined;
    vi.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: HTMLAnchorElement) {
      saved.push({ name: this.download, blob: newest });
    });
    return saved;
  }
  const hash = 'f'.repeat(64);
  const withFile: FilaxisDocument = { ...emptyDocument, title: 'Quay rail', assets: { [hash]: { name: 'plan.svg', bytes: 3 } } };

  test('a document is downloaded with the files that it uses, and can be read again', async () => {
    const saved = downloads();
    const shelf = new Shelf();
    shelf.document = withFile;
    shelf.assets.set(hash, Uint8Array.of(1, 2, 3));
    const made = await library(shelf);
    await (await menu(made, 'Quay rail')).clickItem({ text: 'Download document file' });
    await vi.waitFor(() => expect(saved).toHaveLength(1));
    expect([saved[0].name, saved[0].blob.type]).toEqual(['quay-rail.filaxis.zip', 'application/zip']);
    const back = unpackDocument(new Uint8Array(await saved[0].blob.arrayBuffer()));
    expect([back.document.title, [...back.assets.get(hash)!]]).toEqual(['Quay rail', [1, 2, 3]]); // prettier-ignore
  });

  test('one that cannot be read is given as it is stored', async () => {
    const saved = downloads();
    const shelf = Object.assign(new Shelf(), { text: async (id: string) => `{"broken": "${id}"` });
    shelf.cards = [{ ...card('a', 'Old one'), damaged: true } as DocumentCard];
    const made = await library(shelf);
    expect(made.host.textContent).toContain('damaged: its text cannot be read');
    await (await menu(made, 'Old one')).clickItem({ text: 'Download document file' });
    await vi.waitFor(() => expect(saved).toHaveLength(1));
    expect([saved[0].name, await saved[0].blob.text()]).toEqual(['old-one.json', '{"broken": "a"']);
  });

  test('files that are dropped become documents, with what is in them; one that cannot be read is said by its name, the others go in', async () => {
    const put: [string, string, number][] = [];
    const shelf = Object.assign(new Shelf(), { putAsset: async (key: string, name: string, bytes: Uint8Array) => void put.push([key, name, bytes.length]) });
    const made = await library(shelf);
    const packed = packDocument({ document: withFile, assets: new Map([[hash, Uint8Array.of(1, 2, 3)]]) });
    const files = [
      new File(['{'], 'broken.json'),
      new File([packed as Uint8Array<ArrayBuffer>], 'rail.zip'),
      new File([JSON.stringify({ ...emptyDocument, title: 'Plain' })], 'plain.json'),
    ];
    const event = Object.assign(new Event('drop', { bubbles: true, cancelable: true }), { dataTransfer: { files } });
    made.host.dispatchEvent(event);
    await vi.waitFor(() => expect(shelf.made.map(({ title }) => title)).toEqual(['Quay rail', 'Plain']));
    // SHA-256 of the bytes 1, 2, 3 (computed by Python's hashlib).
    expect([event.defaultPrevented, put]).toEqual([true, [['039058c6f2c0cb492c533b0a4d14ef77cc0f78abccced5287d84a1a2011cfb81', 'plan.svg', 3]]]);
    const said = vi.spyOn(TestBed.inject(Notices), 'say');
    made.host.dispatchEvent(Object.assign(new Event('drop', { bubbles: true, cancelable: true }), { dataTransfer: { files: [files[0]] } }));
    await vi.waitFor(() => expect(said).toHaveBeenCalledWith(expect.stringMatching(/^broken\.json: /), 'long'));
  });

  test('Import asks for files', async () => {
    const made = await library();
    const asked: HTMLInputElement[] = [];
    vi.spyOn(HTMLInputElement.prototype, 'click').mockImplementation(function (this: HTMLInputElement) {
      asked.push(this);
    });
    [...made.host.querySelectorAll('button')].find(({ textContent }) => textContent!.includes('Import'))!.click();
    expect([asked[0].type, asked[0].accept, asked[0].multiple]).toEqual(['file', '.json,.zip', true]);
    Object.defineProperty(asked[0], 'files', { value: [new File([JSON.stringify({ ...emptyDocument, title: 'Chosen' })], 'a.json')] });
    asked[0].onchange!(new Event('change'));
    await vi.waitFor(() => expect(made.shelf.made.map(({ title }) => title)).toEqual(['Chosen']));
  });

  test('F2 and Delete work on the card that has the keyboard; a copy has the picture too', async () => {
    const pictures: unknown[] = [];
    const png = new Blob(['png']);
    const shelf = Object.assign(new Shelf(), { picture: async () => png, setPicture: async (...given: unknown[]) => void pictures.push(given) });
    shelf.document = { ...emptyDocument, title: 'Beacon copy' };
    shelf.cards.push(card('c', 'Beacon copy'));
    const made = await library(shelf as unknown as Shelf);
    const cards = (): HTMLElement[] => [...made.host.querySelectorAll<HTMLElement>('.card')];
    press(cards()[0], 'F2');
    await made.settle();
    expect(cards()[0].querySelector('[aria-label="New name"]')).not.toBeNull();
    press(cards()[0], 'x');
    expect(shelf.gone).toEqual([]);
    press(cards()[1], 'Delete');
    await vi.waitFor(() => expect(shelf.gone).toEqual(['b']));
    await made.settle();
    await (await menu(made, 'Beacon copy')).clickItem({ text: 'Duplicate' });
    await vi.waitFor(() => expect(pictures).toEqual([['new', 1, png]]));
    expect(shelf.made.at(-1)!.title).toBe('Beacon copy 2');
  });
});
