import { MatDialogRef } from '@angular/material/dialog';
import { MatSelectHarness } from '@angular/material/select/testing';
import { beforeEach, expect, test } from 'vitest';
import { MouseDialog } from '../../src/app/ropewalk/view3d/mouse-dialog';
import { MouseHabits, plainHabits, readHabits } from '../../src/app/ropewalk/view3d/mouse-habits';
import { mounted } from './mounted';

beforeEach(() => localStorage.clear());

test('what the buttons do is told as what happens, set, remembered, and as at first again', async () => {
  const made = await mounted(MouseDialog, { more: [{ provide: MatDialogRef, useValue: { close: () => undefined } }] });
  const habits = made.fixture.debugElement.injector.get(MouseHabits);
  const list = await made.loader.getHarness(MatSelectHarness.with({ selector: '[aria-label="Right button, dragged"]' }));
  expect(await list.getValueText()).toBe('slides the view');
  await list.open();
  await list.clickOptions({ text: 'turns the view' });
  expect(habits.habits()).toEqual({ ...plainHabits, right: 'turn' });
  expect(readHabits(localStorage.getItem('filaxis-mouse'))).toEqual(habits.habits());
  [...made.host.querySelectorAll('button')].find(({ textContent }) => textContent!.includes('As it was at first'))!.click();
  await made.settle();
  expect(await list.getValueText()).toBe('slides the view');
  expect(habits.habits()).toEqual(plainHabits);
});
