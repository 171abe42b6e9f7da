import { expect, test, type Page } from '@playwright/test';
import { Ropewalk } from './ropewalk';

const box = (page: Page) => page.getByLabel('Search nodes', { exact: true });
const everything = (page: Page) => page.getByLabel('Search nodes and actions', { exact: true });

/** Keeps the page from doing anything else for a while, as a run that is too long would. */
const busy = (page: Page, ms: number): Promise<void> =>
  page.evaluate((length) => void setTimeout(() => { for (const end = performance.now() + length; performance.now() < end; ); }), ms); // prettier-ignore

async function dropOnGround(page: Page, ropewalk: Ropewalk, node: string): Promise<void> {
  const port = (await ropewalk.tag(node).locator('.out').first().boundingBox())!;
  await page.mouse.move(port.x + port.width / 2, port.y + port.height / 2);
  await page.mouse.down();
  await page.mouse.move(port.x + 60, port.y + 90, { steps: 4 });
  await page.mouse.up();
}

for (const slow of [1, 6])
  test(`keys belong to the box that is asked for, from the first one on, with a processor ${slow} times as slow`, async ({ page }) => {
    const ropewalk = await Ropewalk.empty(page);
    if (slow > 1) await (await page.context().newCDPSession(page)).send('Emulation.setCPUThrottlingRate', { rate: slow });
    await ropewalk.add('line');

    // A wire let go on the ground, and a word at twenty keys a second while the page is busy.
    for (const word of ['sweep', 'material', 'parts']) {
      await busy(page, 2000);
      await dropOnGround(page, ropewalk, 'line');
      await page.keyboard.type(word, { delay: 50 });
      await expect(box(page)).toHaveValue(word);
      await page.keyboard.press('Escape');
      await expect(page.locator('fx-add-menu')).toHaveCount(0);
    }

    // N and a word, and the next N while the new tag is on its way.
    await page.locator('fx-graph .area').click({ position: { x: 60, y: 300 } });
    await busy(page, 2000);
    await page.keyboard.type('ncircle', { delay: 50 });
    await page.keyboard.press('Enter');
    await page.keyboard.type('nstar', { delay: 50 });
    await expect(box(page)).toHaveValue('star');
    await page.keyboard.press('Enter');
    await expect(page.locator('fx-tag')).toHaveCount(3);
    await page.keyboard.press('Control+k');
    await page.keyboard.type('undo', { delay: 20 });
    await expect(everything(page)).toHaveValue('undo');
  });

test('a word where no text is opens the search; N works where the pointer is; a number that is kept gives the keyboard back', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await ropewalk.add('line');
  await ropewalk.graph.focus();
  await page.keyboard.type('loft', { delay: 20 });
  await expect(everything(page)).toHaveValue('loft');
  await page.keyboard.press('Escape');
  await expect(ropewalk.tag('line')).toBeVisible();
  await expect(page.locator('fx-tag')).toHaveCount(1);

  await page.getByRole('tab', { name: 'Help' }).click();
  await page.mouse.move(260, 300);
  await page.keyboard.type('nhang', { delay: 50 });
  await expect(box(page)).toHaveValue('hang');
  await page.keyboard.press('Escape');

  await ropewalk.tag('line').click();
  await page.keyboard.press('F4');
  await ropewalk.setNumber('points', '12');
  await page.keyboard.type('nrope', { delay: 50 });
  await page.keyboard.press('Enter');
  await expect(ropewalk.tag('rope')).toBeVisible();
});

test('? lists the shortcuts; another key is given by pressing it, and is remembered', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await ropewalk.graph.focus();
  await page.keyboard.press('?');
  await page.getByLabel('Search shortcuts').fill('add a node');
  const key = page.locator('[data-shortcut=N] .key');
  await key.click();
  await page.keyboard.press('t');
  await expect(page.getByText('T belongs to “Tidy the graph”.')).toBeVisible();
  await page.getByRole('button', { name: 'Use it here instead' }).click();
  await expect(key).toHaveText('T');
  await page.getByRole('button', { name: 'Done' }).click();
  await page.reload();
  await expect(page.getByText('Begin with a curve')).toBeVisible();
  await ropewalk.graph.focus();
  await page.keyboard.press('n');
  await page.keyboard.press('t');
  await expect(box(page)).toBeFocused();
});
