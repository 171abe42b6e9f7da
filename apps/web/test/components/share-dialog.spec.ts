import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { expect, test, vi } from 'vitest';
import { ApiError } from '../../src/app/shared/api.service';
import { ShareDialog } from '../../src/app/ropewalk/share/share-dialog';
import { FakeServer } from '../services';
import { mounted, withClipboard, type Mounted } from './mounted';

/** The dialog over a server that opens and closes handouts, or fails to. */
async function dialog(failure: ApiError | null = null): Promise<Mounted<ShareDialog> & { told: string[]; shut: () => number }> {
  const told: string[] = [];
  let shut = 0;
  const step = async (what: string, id: string): Promise<{ token: string }> => {
    if (failure) throw failure;
    told.push(`${what} ${id}`);
    return { token: 'k9' };
  };
  const server = Object.assign(new FakeServer(), {
    openHandout: (id: string) => step('open', id),
    closeHandout: (id: string) => step('close', id),
  });
  const made = await mounted(ShareDialog, {
    server,
    more: [
      { provide: MAT_DIALOG_DATA, useValue: 'quay' },
      { provide: MatDialogRef, useValue: { close: () => shut++ } },
    ],
  });
  await made.settle();
  return { ...made, told, shut: () => shut };
}
const press = ({ host }: Mounted<unknown>, name: string): void =>
  [...host.querySelectorAll('button')].find(({ textContent }) => textContent!.trim() === name)!.click();

test('gives the link, copies it, and says that it has', async () => {
  const made = await dialog();
  const address = `${location.origin}/h/k9`;
  expect([made.told, made.host.querySelector('input')!.value, made.host.querySelector('a')!.href]).toEqual([['open quay'], address, address]);
  const writeText = vi.fn(async () => undefined);
  await withClipboard({ writeText }, async () => {
    press(made, 'Copy link');
    await made.settle();
  });
  expect([writeText.mock.calls, made.host.textContent.includes('Copied')]).toEqual([[[address]], true]);
  press(made, 'Done');
  expect(made.shut()).toBe(1);
});

test('closes the handout, after which there is no link', async () => {
  const made = await dialog();
  press(made, 'Close the handout');
  await made.settle();
  expect(made.told).toEqual(['open quay', 'close quay']);
  expect([made.host.querySelector('[role=status]')!.textContent!.trim(), made.host.querySelector('input'), made.host.querySelector('a')]).toEqual([
    'The handout is closed. Its link leads nowhere now.',
    null,
    null,
  ]);
});

test('says why there is no link', async () => {
  const made = await dialog(new ApiError(0, 'The server cannot be reached.', null));
  expect([made.host.querySelector('[role=alert]')!.textContent, made.host.textContent.includes('Making')]).toEqual(['The server cannot be reached.', false]);
});
