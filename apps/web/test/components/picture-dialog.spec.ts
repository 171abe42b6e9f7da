/** The dialog that takes pictures of the 3D view: one as PNG, several as a zip, stopped or refused. */
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { MatCheckboxHarness } from '@angular/material/checkbox/testing';
import { beforeEach, expect, test, vi } from 'vitest';
import { unzipSync } from 'fflate';
import { PictureDialog } from '../../src/app/ropewalk/view3d/picture-dialog';
import type { DrawPicture } from '../../src/app/ropewalk/view3d/stage';
import { mounted, typeInto, type Mounted } from './mounted';

/** Files that were handed to the browser. */
let saved: { name: string; blob: Blob }[] = [];
let taken: { change: object }[] = [];
let away = false;
beforeEach(() => {
  saved = [];
  taken = [];
  away = false;
  let newest: Blob;
  URL.createObjectURL = (blob: Blob) => ((newest = blob), 'blob:x');
  URL.revokeObjectURL = () => undefined;
  vi.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: HTMLAnchorElement) {
    saved.push({ name: this.download, blob: newest });
  });
  const brush = new Proxy({}, { get: () => () => ({ addColorStop: () => undefined }), set: () => true });
  vi.spyOn(HTMLCanvasElement.prototype, 'getContext').mockReturnValue(brush as never);
  vi.spyOn(HTMLCanvasElement.prototype, 'toBlob').mockImplementation(function (this: HTMLCanvasElement, told) {
    told(new Blob([`${this.width} × ${this.height}`]));
  });
});

const stage = {
  orbit: { state: { position: [1, 0, 0], target: [0, 0, 0] } },
  aside: <T>(change: object, work: (draw: DrawPicture) => T): T | null => {
    taken.push({ change });
    return away ? null : work(() => document.createElement('canvas'));
  },
};

interface Dialog extends Mounted<PictureDialog> {
  readonly closed: () => number;
  readonly button: (text: RegExp) => HTMLButtonElement | undefined;
  readonly type: (label: string, text: string) => Promise<void>;
}
async function dialog(): Promise<Dialog> {
  const close = vi.fn();
  const made = await mounted(PictureDialog, {
    more: [
      { provide: MAT_DIALOG_DATA, useValue: { stage, title: 'Quay rail ropes' } },
      { provide: MatDialogRef, useValue: { close } },
    ],
  });
  const type = async (label: string, text: string): Promise<void> => {
    typeInto(made.host.querySelector<HTMLInputElement>(`[aria-label="${label}"]`)!, text);
    await made.settle();
  };
  const button = (text: RegExp): HTMLButtonElement | undefined => [...made.host.querySelectorAll('button')].find(({ textContent }) => text.test(textContent!));
  return { ...made, type, button, closed: () => close.mock.calls.length };
}
const whenSaved = (): Promise<void> => vi.waitFor(() => expect(saved).not.toEqual([]), { timeout: 5000 });

test('one is saved as PNG in the size that is asked, named after the document', async () => {
  const { button, type, settle, closed } = await dialog();
  await type('Width', '640');
  await type('Height', '360');
  expect(button(/Save/)!.textContent).toContain('Save the picture');
  button(/Save/)!.click();
  await whenSaved();
  expect([saved[0].name, saved[0].blob.type, await saved[0].blob.text(), taken]).toEqual(['quay-rail-ropes.png', 'image/png', '640 × 360', [{ change: {} }]]); // prettier-ignore
  await settle();
  expect([button(/Stop/), closed()]).toEqual([undefined, 0]);
  button(/Close/)!.click();
  expect(closed()).toBe(1);
});

test('several all round come as a zip, in their order; on a transparent ground there is no floor', async () => {
  const { button, type, loader } = await dialog();
  await type('Pictures all round', '3');
  await (await loader.getHarness(MatCheckboxHarness)).check();
  expect(button(/Save/)!.textContent).toContain('Save 3 pictures');
  button(/Save/)!.click();
  await whenSaved();
  expect([saved.map(({ name, blob }) => [name, blob.type]), taken.map(({ change }) => change)]).toEqual([[['quay-rail-ropes-round.zip', 'application/zip']], [{ floor: false }, { floor: false }, { floor: false }]]); // prettier-ignore
  expect(Object.keys(unzipSync(new Uint8Array(await saved[0].blob.arrayBuffer())))).toEqual([
    'quay-rail-ropes.001.png',
    'quay-rail-ropes.002.png',
    'quay-rail-ropes.003.png',
  ]);
});

test('it tells how many are taken, and who stops or closes it wants none', async () => {
  for (const end of ['Stop', 'destroy']) {
    taken = [];
    const made = await dialog();
    await made.type('Pictures all round', '360');
    made.button(/Save/)!.click();
    await vi.waitFor(() => expect(taken.length).toBeGreaterThan(2));
    made.fixture.detectChanges();
    expect(made.host.querySelector('[role=status]')!.textContent).toMatch(/^[1-9]\d* of 360 taken/);
    if (end === 'Stop') made.button(/Stop/)!.click();
    else made.fixture.destroy();
    await new Promise((done) => setTimeout(done, 50));
    const before = taken.length;
    await new Promise((done) => setTimeout(done, 50));
    expect([taken.length === before, before < 360, saved]).toEqual([true, true, []]);
    if (end === 'destroy') continue;
    await made.settle();
    expect([made.button(/Stop/), made.button(/Save/) !== undefined]).toEqual([undefined, true]);
    // Once more is from the beginning.
    await made.type('Pictures all round', '1');
    made.button(/Save/)!.click();
    await whenSaved();
    saved = [];
    made.fixture.destroy();
  }
});

test('a fault is told, and can be tried again', async () => {
  const { button, settle, host } = await dialog();
  away = true;
  button(/Save/)!.click();
  await vi.waitFor(async () => {
    await settle();
    expect(host.querySelector('[role=alert]')?.textContent).toContain('The graphics are away for the moment');
  });
  away = false;
  button(/Save/)!.click();
  await whenSaved();
  await settle();
  expect(host.querySelector('[role=alert]')).toBeNull();
});
