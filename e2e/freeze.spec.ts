import { expect, test } from '@playwright/test';
import { validateBytes } from 'gltf-validator';
import { Ropewalk } from './ropewalk.js';

test('a result is frozen, the work before it goes on, it is thawed and frozen anew; deleted nodes leave it', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await ropewalk.add('line');
  await ropewalk.setNumber('points', '5');
  await ropewalk.add('frozen');
  await expect(page.locator('fx-frozen')).toContainText('not frozen');
  await ropewalk.add('tube');
  await expect(ropewalk.faces).not.toHaveText(/^0/);
  const before = await ropewalk.settled(ropewalk.faces);
  await ropewalk.show('Outputs');
  await ropewalk.tag('frozen').click();
  await page.getByRole('button', { name: 'Freeze', exact: true }).click();
  await expect(page.locator('fx-frozen')).toContainText('1 curve, 5 points');
  await expect(page.locator('fx-frozen')).toContainText('just now');
  await ropewalk.tag('line').click();
  await ropewalk.setNumber('points', '40');
  await expect(ropewalk.tag('line')).toContainText('40');
  await expect(ropewalk.faces).toHaveText(before);
  // Opened anew it is there.
  await ropewalk.isSaved();
  await page.reload();
  await expect(ropewalk.faces).toHaveText(before);
  await ropewalk.tag('frozen').click();
  await page.getByRole('button', { name: 'Thaw' }).click();
  await expect(ropewalk.faces).not.toHaveText(before);
  const live = await ropewalk.settled(ropewalk.faces);
  await page.getByRole('button', { name: 'Freeze', exact: true }).click();
  await expect(page.locator('fx-frozen')).toContainText('40 points');
  await ropewalk.tag('line').click();
  await ropewalk.graph.focus();
  await page.keyboard.press('Shift+Delete');
  await expect(ropewalk.tag('line')).toHaveCount(0);
  await expect(ropewalk.faces).toHaveText(live);
  await ropewalk.tag('tube').click();
  expect((await validateBytes(await ropewalk.export(/GLB/))).issues.numErrors).toBe(0);
});

test('any node is frozen from its menu: a Frozen node comes behind it', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await ropewalk.add('line');
  await ropewalk.add('tube');
  await ropewalk.tag('line').click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Freeze what the chosen node gives' }).click();
  await expect(page.locator('fx-frozen')).toContainText('Line');
  await expect(ropewalk.tag('frozen')).toContainText('frozen');
  await page.keyboard.press('Control+z');
  await expect(ropewalk.tag('frozen')).toHaveCount(0);
});

test('a hole is cut into a body by hand, and the open body that cannot is told of', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await ropewalk.add('box');
  await ropewalk.add('solid');
  await ropewalk.choose(ropewalk.setting('operation').getByRole('combobox'), 'cut out');
  await ropewalk.add('cylinder');
  await ropewalk.setNumber('radius', '0.2');
  await ropewalk.setNumber('height', '3');
  await ropewalk.wire('cylinder', 'solid');
  await ropewalk.show('Outputs');
  await expect.poll(() => ropewalk.faceCount()).toBeGreaterThan(60);
  await ropewalk.tag('cylinder').click();
  await ropewalk.choose(ropewalk.setting('caps').getByRole('combobox'), 'open');
  await ropewalk.tag('solid').click();
  await expect(page.getByRole('alert').filter({ hasText: 'Body 2 is not closed' })).toBeVisible();
});
