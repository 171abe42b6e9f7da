import { readFileSync } from 'node:fs';
import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';
import { Ropewalk } from './ropewalk.js';

test('documents are renamed, duplicated, deleted and brought back', async ({ page }, { retry }) => {
  // What a first try left behind is not found by a second one.
  const name = `Net loft lashing ${retry}`;
  const ropewalk = await Ropewalk.begin(page);
  await ropewalk.add('line');
  await ropewalk.isSaved();
  await page.getByLabel('Title', { exact: true }).fill(name);
  await page.getByLabel('Title', { exact: true }).press('Enter');
  await ropewalk.isSaved();
  await page.getByRole('link', { name: 'Library /' }).click();
  const card = page.locator(`[data-title="${name}"]`);
  await expect(card).toBeVisible();

  await card.getByRole('button', { name: /More/ }).click();
  await page.getByRole('menuitem', { name: 'Rename' }).click();
  await page.getByLabel('New name').fill(`${name}s`);
  await page.getByLabel('New name').press('Enter');
  const renamed = page.locator(`[data-title="${name}s"]`);
  await expect(renamed).toBeVisible();

  await renamed.getByRole('button', { name: /More/ }).click();
  await page.getByRole('menuitem', { name: 'Duplicate' }).click();
  const copy = page.locator(`[data-title="${name}s copy"]`);
  await expect(copy).toContainText('1 nodes');
  // Its picture comes last; a menu opened before may belong to a card that is drawn anew.
  await expect(copy.locator('img')).toBeVisible();
  await expect(page.getByRole('menu')).toHaveCount(0);

  // Cards that moved a moment ago are asked about.
  await page.waitForTimeout(1100);
  await copy.getByRole('button', { name: /More/ }).click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(copy).toHaveCount(0);
  // It is in the list of what was deleted, and comes back from there too.
  await page.getByRole('button', { name: 'Recently deleted' }).click();
  await expect(
    page
      .getByRole('dialog')
      .getByRole('button', { name: /^Bring back .* copy$/ })
      .first(),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Close', exact: true }).last().click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(copy).toBeVisible();

  await page.getByPlaceholder('Search documents').fill('quay');
  await expect(page.locator('[data-title="Quay rail ropes"]')).toBeVisible();
  await expect(renamed).toHaveCount(0);
});

test('a document file goes out and comes in with its imported files', async ({ page }) => {
  await page.goto('/');
  await page.getByPlaceholder('Search documents').fill('Lamp cable');
  const card = page.locator('[data-title="Lamp cable"]').first();
  await card.getByRole('button', { name: /More/ }).click();
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('menuitem', { name: 'Download document file' }).click()]);
  expect(file.suggestedFilename()).toBe('lamp-cable.filaxis.zip');
  const bytes = readFileSync(await file.path());
  const before = await page.locator('[data-title="Lamp cable"]').count();
  const [chooser] = await Promise.all([page.waitForEvent('filechooser'), page.getByRole('button', { name: 'Import' }).click()]);
  await chooser.setFiles([
    { name: 'lamp-cable.filaxis.zip', mimeType: 'application/zip', buffer: bytes },
    {
      name: 'broken.json',
      mimeType: 'application/json',
      buffer: Buffer.from('{"format":"filaxis-graph","version":1,"title":"x","nodes":[{"id":"a"}],"wires":[]}'),
    },
  ]);
  await expect(page.locator('[data-title="Lamp cable"]')).toHaveCount(before + 1);
  await expect(page.getByText("broken.json: /nodes/0: The document here must have required property 'type'.")).toBeVisible();
});

test('two tabs on one document are noticed, and neither loses its edits', async ({ page, context }) => {
  const one = await Ropewalk.empty(page);
  await one.add('line');
  await one.isSaved();
  const other = await context.newPage();
  await other.goto(page.url());
  const two = new Ropewalk(other);
  await expect(two.tag('line')).toBeVisible();
  await expect(page.getByText('open in another tab')).toBeVisible();
  await two.tag('line').focus();
  await two.add('tube');
  await two.isSaved();
  // The first tab had nothing unsaved, so it takes the newer version.
  await expect(one.tag('tube')).toBeVisible();
});

test('edits wait while the server cannot be reached, and are saved later', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await page.route('**/api/documents/*', (route) => (route.request().method() === 'PUT' ? route.abort() : route.continue()));
  await ropewalk.add('circle');
  await expect(ropewalk.saved).toContainText('the server cannot be reached');
  await page.unroute('**/api/documents/*');
  await expect(ropewalk.saved).toContainText('saved · version 2', { timeout: 12_000 });
});

test('no serious fault of accessibility on the Library and the Ropewalk', async ({ page }) => {
  const serious = async (): Promise<string[]> => {
    const { violations } = await new AxeBuilder({ page }).analyze();
    return violations.filter(({ impact }) => impact === 'serious' || impact === 'critical').map(({ id, nodes }) => `${id}: ${nodes.slice(0, 3).map((node) => node.html.slice(0, 160)).join(' | ')}`); // prettier-ignore
  };
  await page.goto('/');
  await expect(page.locator('.card').first()).toBeVisible();
  expect(await serious()).toEqual([]);
  const ropewalk = await Ropewalk.open(page, 'Quay rail ropes');
  await expect(ropewalk.faces).not.toHaveText('0');
  expect(await serious()).toEqual([]);
  await ropewalk.tag('rope').click();
  await page.getByRole('tab', { name: 'Settings' }).click();
  expect(await serious()).toEqual([]);
  await page.evaluate(() => localStorage.setItem('filaxis.theme', 'dark'));
  await page.reload();
  await expect(ropewalk.faces).not.toHaveText('0');
  expect(await serious()).toEqual([]);
});
