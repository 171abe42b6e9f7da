import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { unzipSync } from 'fflate';
import { validateBytes } from 'gltf-validator';
import { Ropewalk } from './ropewalk.js';

test('vines are grown from a guide drawn on a body, played, scrubbed, and exported at a moment', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await ropewalk.add('sphere');
  await ropewalk.add('stroke on surface');
  // Three clicks on the body, where it is seen.
  const view = (await page.locator('fx-view3d canvas').first().boundingBox())!;
  for (const [x, y] of [[-60, 20], [0, 40], [60, 20]]) await page.mouse.click(view.x + view.width / 2 + x, view.y + view.height / 2 + y); // prettier-ignore
  await expect(page.locator('[data-fact=curves]')).toContainText('1 curve ');
  await ropewalk.add('resample');
  await ropewalk.setNumber('count', '12');
  await ropewalk.add('creep');
  await ropewalk.wireFrom('mesh', /Sphere/);
  await expect(page.locator('[data-fact=curves]')).toContainText('12 curves');
  await expect(page.getByRole('tab', { name: 'Timeline' })).toHaveCount(0);
  await ropewalk.add('reveal');
  await ropewalk.add('tube');
  await ropewalk.setNumber('radius', '0.01');
  // What depends on time brings the Timeline; at its first frame nothing has grown yet.
  await page.getByRole('tab', { name: 'Timeline' }).click();
  const frame = page.getByLabel('Frame', { exact: true });
  await frame.fill('30');
  await frame.press('Enter');
  await expect(page.getByTestId('moment')).toHaveText('1.25 s');
  await expect.poll(() => ropewalk.faceCount()).toBeGreaterThan(500);
  const early = await ropewalk.settled(ropewalk.faces);
  await frame.fill('60');
  await frame.press('Enter');
  await expect(ropewalk.faces).not.toHaveText(early);
  const bytes = await ropewalk.export(/GLB/);
  expect((await validateBytes(bytes)).issues.numErrors).toBe(0);
  // All frames of a range as an archive, a file each.
  await page.getByRole('button', { name: 'Export', exact: true }).click();
  await page.getByRole('checkbox', { name: /Every frame/ }).check();
  await page.getByLabel('First frame to write').fill('58');
  await page.getByLabel('First frame to write').press('Enter');
  await page.getByLabel('Last frame to write').fill('60');
  await page.getByLabel('Last frame to write').press('Enter');
  const [archive] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: /^Download .*\.zip/ }).click()]);
  const files = unzipSync(new Uint8Array(readFileSync(await archive.path())));
  const names = Object.keys(files);
  expect(names.map((name) => name.replace(/^.*\.(?=\d)/, ''))).toEqual(['0058.glb', '0059.glb', '0060.glb', 'frames.json']);
  for (const name of names.slice(0, 3)) expect((await validateBytes(files[name])).issues.numErrors).toBe(0);
  await page.getByRole('button', { name: 'Close' }).click();
  // Back again it is as it was, and marked as ready.
  await frame.fill('30');
  await frame.press('Enter');
  await expect(ropewalk.faces).toHaveText(early);
  await expect(page.locator('fx-timeline')).toContainText('frames ready');
  // Played, it goes on by itself; stopped, it stays; a key goes one frame on.
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect.poll(async () => Number(await frame.inputValue())).toBeGreaterThan(36);
  await page.getByRole('button', { name: 'Stop playing' }).click();
  const stopped = Number(await frame.inputValue());
  await ropewalk.graph.focus();
  await page.keyboard.press(']');
  await expect(frame).toHaveValue(String(stopped + 1));
  // The range is part of the document.
  await page.getByLabel('Last frame').fill('80');
  await page.getByLabel('Last frame').press('Enter');
  await expect(page.locator('fx-timeline')).toContainText('of 81 frames ready');
  await ropewalk.isSaved();
  await page.reload();
  await page.getByRole('tab', { name: 'Timeline' }).click();
  await expect(page.getByLabel('Last frame')).toHaveValue('80');
});

test('rules are written, told of by line and column when wrong, mended, and begun anew with another plant', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await ropewalk.add('branching rules');
  const curves = page.locator('[data-fact=curves]');
  await expect(page.getByTestId('modules')).toContainText('Modules after each round: 1 · ');
  const axiom = ropewalk.setting('axiom').getByRole('textbox');
  await axiom.fill('F');
  await axiom.press('Enter');
  const rules = page.getByRole('textbox', { name: 'Rules' });
  await rules.click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('F -> F[+F]F[-F');
  await expect(page.locator('fx-rules')).toContainText('line 1, column 12: this bracket is not closed');
  await page.keyboard.type(']F');
  await expect(page.locator('fx-rules [role=alert]')).toHaveCount(0);
  await page.keyboard.press('Control+Enter');
  await ropewalk.setNumber('times', '3');
  await expect(page.getByTestId('modules')).toHaveText('Modules after each round: 1 · 11 · 61 · 311');
  // 125 pieces: one stem, and a curve for each branch.
  await expect(curves).toContainText('63 curves');
  await page.getByRole('button', { name: 'Begin with …' }).click();
  await page.getByRole('menuitem', { name: 'coral' }).click();
  await expect(rules).toContainText('Every tip forks');
  await expect(curves).not.toContainText('63 curves');
  await ropewalk.add('tube');
  await expect.poll(() => ropewalk.faceCount()).toBeGreaterThan(500);
});

test('veins run from marked starts to everywhere', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await ropewalk.add('sphere');
  await ropewalk.add('shortest routes');
  await expect(page.getByText('There are no starts.').first()).toBeVisible();
  await ropewalk.mode('begin', 'Formula');
  const formula = ropewalk.setting('begin').getByRole('textbox');
  await formula.click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('y > 0.49');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-fact=curves]')).toContainText(/\d\d+ curves/);
  await ropewalk.add('tube');
  await ropewalk.mode('radius', 'Formula');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('0.002 * traffic ^ 0.3');
  await page.keyboard.press('Enter');
  await expect.poll(() => ropewalk.faceCount()).toBeGreaterThan(500);
});
