import { readFileSync } from 'node:fs';
import { WebIO } from '@gltf-transform/core';
import { expect, test } from '@playwright/test';
import { validateBytes } from 'gltf-validator';
import { Ropewalk } from './ropewalk.js';

test('a curve is drawn by clicking in the 3D view, a point moved, a star swept along it, seen with the checker, exported and read back', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await ropewalk.add('drawn');
  const points = page.getByRole('button', { name: /^Point \d+ of curve 1$/ });
  // It begins empty and at once in drawing: points lie where the view is clicked, which stays as it is meanwhile.
  const view = (await page.locator('fx-view3d').boundingBox())!;
  await expect(page.locator('fx-curve-editor .sheet')).toBeVisible();
  const grid = await page.getByText(/^grid /).textContent();
  const lay = async (x: number, y: number, count: number): Promise<void> => {
    await page.mouse.click(view.x + view.width * x, view.y + view.height * y);
    await expect(points).toHaveCount(count);
  };
  for (const [i, [x, y]] of [[0.25, 0.75], [0.35, 0.6], [0.5, 0.7], [0.65, 0.6], [0.8, 0.7]].entries()) await lay(x, y, i + 1); // prettier-ignore
  // The last is taken back, and another laid higher.
  await page.keyboard.press('Backspace');
  await expect(points).toHaveCount(4);
  await page.getByLabel('Height at which points are laid').fill('200mm');
  await page.keyboard.press('Enter');
  await lay(0.8, 0.7, 5);
  await lay(0.6, 0.8, 6);
  await expect(page.locator('fx-curve-editor text.drop')).toHaveText('200 mm');
  expect(await page.getByText(/^grid /).textContent()).toBe(grid);
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(page.locator('fx-curve-editor .sheet')).toHaveCount(0);
  const length = page.locator('[data-fact=curves]');
  const drawn = await ropewalk.settled(length);

  // The third point is taken by the pointer and moved; the curve follows, and one undo takes it back.
  const third = (await points.nth(2).boundingBox())!;
  await page.mouse.move(third.x + third.width / 2, third.y + third.height / 2);
  await page.mouse.down();
  await page.mouse.move(third.x + 60, third.y + 50, { steps: 6 });
  await page.mouse.up();
  await expect(length).not.toHaveText(drawn);
  // What is read is what the hand left, not what passed by on the way.
  const moved = await ropewalk.settled(length);
  await page.keyboard.press('Control+z');
  await expect(length).toHaveText(drawn);
  await page.keyboard.press('Control+Shift+z');
  await expect(length).toHaveText(moved);

  // By numbers, by keyboard, inserted and deleted.
  await points.nth(2).focus();
  await points.nth(2).press('ArrowRight');
  await expect(length).not.toHaveText(moved);
  const x = page.getByLabel('x of the point');
  await x.fill('1.5');
  await x.press('Enter');
  await expect(x).toHaveValue('1.5');
  await page.getByRole('button', { name: 'Insert a point after point 1' }).click();
  await expect(points).toHaveCount(7);
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: /^Delete point/ }).click();
  await expect(points).toHaveCount(6);

  await ropewalk.tag('drawn').focus();
  await ropewalk.add('sweep');
  await ropewalk.add('star');
  await ropewalk.setNumber('radius', '80mm');
  await ropewalk.setNumber('inner', '0.5');
  const out = (await ropewalk.tag('polygon').locator('.out').boundingBox())!;
  const into = (await ropewalk.tag('sweep').boundingBox())!;
  await page.mouse.move(out.x + out.width / 2, out.y + out.height / 2);
  await page.mouse.down();
  await page.mouse.move(into.x + into.width / 2, into.y + into.height / 2, { steps: 8 });
  await page.mouse.up();
  await ropewalk.tag('sweep').focus();
  await expect.poll(() => ropewalk.faceCount()).toBeGreaterThan(100);

  await ropewalk.look('Checker');
  await expect(page.getByText('texels a square')).toBeVisible();

  await ropewalk.add('output');
  const bytes = await ropewalk.export(/^GLB/);
  const { issues, info } = await validateBytes(bytes);
  expect(issues.numErrors + issues.numWarnings).toBe(0);
  expect(info.totalTriangleCount).toBe((await ropewalk.faceCount()) * 2);
  const [primitive] = (await new WebIO().readBinary(bytes as Uint8Array<ArrayBuffer>)).getRoot().listMeshes()[0].listPrimitives();
  expect(primitive.getAttribute('TEXCOORD_0')!.getCount()).toBe(primitive.getAttribute('POSITION')!.getCount());
});

test('placed copies are shown and counted, and exported as instances or as one mesh', async ({ page }) => {
  const ropewalk = await Ropewalk.copy(page, 'Mooring chain');
  await expect(ropewalk.points).toContainText('37 copies');
  const instances = await ropewalk.export(/^GLB/);
  await page.getByRole('button', { name: 'Export', exact: true }).click();
  await page.getByRole('checkbox', { name: /^Copies as one mesh/ }).check();
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: /^Download/ }).click()]);
  expect(file.suggestedFilename()).toBe('copy-of-mooring-chain.glb');
  await expect(page.getByText('Written:')).toBeVisible();
  // Two objects written once, against 37 copies written out.
  const whole = readFileSync(await file.path());
  expect(whole.length).toBeGreaterThan(instances.length * 5);
  const { issues } = await validateBytes(new Uint8Array(whole));
  expect(issues.numErrors + issues.numWarnings).toBe(0);
});

test('an exported OBJ comes with its materials, as two files', async ({ page }) => {
  await Ropewalk.copy(page, 'Pump house pipes');
  await page.getByRole('button', { name: 'Export', exact: true }).click();
  await page.getByRole('radio', { name: /^OBJ/ }).check();
  const names: string[] = [];
  page.on('download', (file) => void names.push(file.suggestedFilename()));
  await page.getByRole('button', { name: /^Download/ }).click();
  await expect(page.getByText('Written:')).toBeVisible();
  await expect.poll(() => names).toEqual(['copy-of-pump-house-pipes.obj', 'copy-of-pump-house-pipes.mtl']);
});

test('strokes are drawn on a body by the pointer, keep to it, and become a tube', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await ropewalk.add('sphere');
  await ropewalk.add('stroke on surface');
  await expect(page.locator('fx-stroke-editor .sheet')).toBeVisible();
  await expect(page.locator('[data-fact=faces]')).not.toHaveText(/^0/);
  const view = (await page.locator('fx-view3d').boundingBox())!;
  const [x, y] = [view.x + view.width / 2, view.y + view.height / 2];
  const points = page.locator('fx-stroke-editor circle.point');
  await page.mouse.move(x - 50, y);
  await page.mouse.down();
  await page.mouse.move(x + 50, y + 10, { steps: 10 });
  await page.mouse.up();
  await expect(points).toHaveCount(11);
  await page.mouse.click(x, y - 50);
  await page.mouse.click(x + 30, y - 50);
  await expect(points).toHaveCount(13);
  await expect(page.locator('[data-fact=curves]')).toContainText('2 curves');
  // Beside the body there is nothing to draw on.
  await page.mouse.click(view.x + 20, view.y + view.height / 2);
  await expect(page.getByText('There is nothing of the body under this click')).toBeVisible();
  await page.getByRole('button', { name: 'Done' }).click();
  await ropewalk.add('tube');
  const length = await ropewalk.settled(page.locator('[data-fact=faces]'));
  // A larger ball carries its strokes along.
  await ropewalk.tag('sphere').click();
  await ropewalk.setNumber('radius', '2');
  await expect(page.locator('[data-fact=faces]')).not.toHaveText(length);
  await page.getByRole('tab', { name: 'Checks' }).click();
  await expect(page.getByText(/other triangles/)).toHaveCount(0);
});
