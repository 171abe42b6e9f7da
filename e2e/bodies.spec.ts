import { expect, test } from '@playwright/test';
import { validateBytes } from 'gltf-validator';
import { Ropewalk } from './ropewalk.js';

test('a rope is wrapped round a body by a plane, drawn tight, laid as strands and exported', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await ropewalk.add('cylinder');
  await ropewalk.setNumber('radius', '0.3');
  await ropewalk.add('section by planes');
  // A flat mesh is a plane; it stands before the section, and is wired into it by hand.
  await ropewalk.add('grid');
  await ropewalk.wire('grid', 'section');
  await ropewalk.tag('section').click();
  await ropewalk.setNumber('offset', '20mm');
  await expect(page.locator('[data-fact=curves]')).toContainText('1 curve ');
  await ropewalk.add('resample');
  await ropewalk.setNumber('count', '90');
  await ropewalk.add('relax');
  await ropewalk.wireFrom('body', /Cylinder/);
  await ropewalk.setNumber('slack', '-0.14');
  await ropewalk.setNumber('radius', '0.01');
  const length = page.locator('[data-fact=curves]');
  const tight = await ropewalk.settled(length);
  await ropewalk.setNumber('slack', '0.22');
  await expect(length).not.toHaveText(tight);
  await ropewalk.setNumber('slack', '-0.14');
  await expect(length).toHaveText(tight);
  await ropewalk.add('rope');
  await ropewalk.add('output');
  await expect.poll(() => ropewalk.faceCount()).toBeGreaterThan(2000);
  const bytes = await ropewalk.export(/GLB/);
  const report = await validateBytes(bytes);
  expect(report.issues.numErrors).toBe(0);
});

test('a link that passes through a beam is found, led round it, and measured to be clear', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await ropewalk.add('line');
  await ropewalk.setVector('from', [-2, 0, 0]);
  await ropewalk.setVector('to', [2, 0, 0]);
  await ropewalk.add('clearance');
  await ropewalk.add('box');
  await ropewalk.wire('box', 'clearance');
  await page.getByRole('tab', { name: /^Checks/ }).click();
  await expect(page.getByText(/Curve 1 is \d+ mm into the body at/)).toBeVisible();
  // Mended by what Checks offers, and taken back.
  for (const remedy of ['Drop the curves that pass through', 'Lead them round', 'Push them out']) {
    await page.getByRole('button', { name: remedy }).first().click();
    await expect(page.getByText(/Curve 1 is [\d.]+ mm into the body at/)).toHaveCount(0);
    await page.getByRole('button', { name: /^Undo/ }).click();
    await expect(page.getByText(/Curve 1 is \d+ mm into the body at/)).toBeVisible();
  }
  // The ends of the line become points, and the link between them is led round.
  await ropewalk.tag('line').click();
  await ropewalk.add('points of curves');
  await ropewalk.add('link points');
  const curves = page.locator('[data-fact=curves]');
  await ropewalk.wireFrom('clearOf', /Box/);
  await expect(page.getByText(/1 were left out since a body is in their way/).first()).toBeVisible();
  await page.getByRole('tab', { name: 'Settings' }).click();
  await ropewalk.choose(ropewalk.setting('then').getByRole('combobox'), 'lead them round');
  await ropewalk.add('clearance');
  await ropewalk.wireFrom('body', /Box/);
  await ropewalk.add('tube');
  await expect(curves).toContainText('curve');
  await expect.poll(() => ropewalk.faceCount()).toBeGreaterThan(100);
  await page.getByRole('tab', { name: /^Checks/ }).click();
  await expect(page.getByText(/Curve 1 is \d+ mm into the body at/)).toHaveCount(1);
});

test('faces that look down are marked and kept, and their number stands on the tag', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await ropewalk.add('box');
  await ropewalk.add('parts');
  await ropewalk.add('mark');
  await ropewalk.add('keep or drop');
  await expect(page.locator('[data-fact=faces]')).toHaveText('1');
  await ropewalk.show('Outputs');
  await ropewalk.tag('mark').click();
  await ropewalk.setNumber('angle', '100');
  await expect(page.locator('[data-fact=faces]')).toHaveText('5');
});

test('planes are drawn over a body by hand: they cut it where the line went, and move with their knobs', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await ropewalk.add('cylinder');
  await ropewalk.setNumber('radius', '0.3');
  await ropewalk.add('drawn planes');
  const view = (await page.locator('fx-view3d canvas').first().boundingBox())!;
  const drag = async (y: number): Promise<void> => {
    await page.mouse.move(view.x + view.width * 0.3, view.y + y);
    await page.mouse.down();
    await page.mouse.move(view.x + view.width * 0.7, view.y + y + 10, { steps: 6 });
    await page.mouse.up();
  };
  await drag(view.height * 0.45);
  await expect(page.getByRole('button', { name: 'Plane 1', exact: true })).toBeVisible();
  await drag(view.height * 0.6);
  await expect(page.getByRole('button', { name: 'Plane 2', exact: true })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByText('2 planes, drawn in the 3D view')).toBeVisible();
  await expect(page.getByLabel('Plane 2 point y')).toBeVisible();
  await ropewalk.add('section by planes');
  await ropewalk.wireFrom('mesh', /Cylinder/);
  const curves = page.locator('[data-fact=curves]');
  await expect(curves).toContainText('2 curves');
  const before = await ropewalk.settled(curves);
  // A plane that is turned cuts a longer outline.
  await ropewalk.show('Outputs');
  await ropewalk.tag('planes').click();
  // Where it is once the view stands still.
  const knob = page.getByRole('button', { name: 'Arrow of plane 1' });
  await knob.hover();
  const arrow = (await knob.boundingBox())!;
  await page.mouse.down();
  await page.mouse.move(arrow.x + 70, arrow.y + 30, { steps: 6 });
  await page.mouse.up();
  await expect(curves).not.toHaveText(before);
  await page.keyboard.press('Control+z');
  await expect(curves).toHaveText(before);
});
