import { expect, test } from '@playwright/test';
import { pixelsOf } from './pixels';
import { Ropewalk } from './ropewalk';

test('a panel that breaks is told of in its place; the rest goes on, and it can be shown again', async ({ page }) => {
  const ropewalk = await Ropewalk.copy(page, 'Mooring chain');
  const reported = page.waitForRequest('**/api/reports/error');
  await page.evaluate(() => {
    // What the values write their numbers with: six digits are theirs alone.
    const write = Number.prototype.toPrecision;
    (window as { write?: unknown }).write = write;
    Number.prototype.toPrecision = function (digits) {
      if (digits === 6) throw new RangeError('broken for the test');
      return write.call(this, digits);
    };
  });
  await page.getByRole('tab', { name: 'Values' }).click();
  await expect(page.getByText('The values cannot be shown: something in it went wrong.')).toBeVisible();
  const report = (await reported).postDataJSON() as { message: string; where: string };
  // What it was and where, and nothing of the document.
  expect(report).toMatchObject({ message: 'RangeError', where: expect.stringMatching(/\.js:\d+:\d+/) });
  // The other panels, the graph and the view go on.
  await page.getByRole('tab', { name: 'History' }).click();
  await expect(page.locator('fx-history')).toContainText('version 1');
  await page.locator('fx-graph .area').click({ position: { x: 300, y: 40 } });
  await ropewalk.add('line');
  await expect(ropewalk.tag('line')).toBeVisible();
  await page.evaluate(() => (Number.prototype.toPrecision = (window as unknown as { write: (digits?: number) => string }).write));
  await page.getByRole('tab', { name: 'Values' }).click();
  await expect(page.getByTestId('values-count')).toBeVisible();
});

test('graphics that are taken away come back by themselves, and no empty picture is stored meanwhile', async ({ page }) => {
  const pictures: string[] = [];
  page.on('request', (request) => void (request.method() === 'PUT' && /\/picture/.test(request.url()) && pictures.push(request.url())));
  const ropewalk = await Ropewalk.copy(page, 'Mooring chain');
  const canvas = page.locator('fx-view3d canvas').first();
  const colours = async (): Promise<number> => {
    const { data } = await pixelsOf(canvas);
    return new Set(Array.from({ length: Math.floor(data.length / 400) }, (_, i) => data.slice(i * 400, i * 400 + 3).join())).size;
  };
  await expect.poll(colours).toBeGreaterThan(20);
  // The picture of what was there before may be on its way already.
  await expect.poll(() => pictures.length).toBe(1);
  await page.evaluate(() => {
    const shown = document.querySelector<HTMLCanvasElement>('fx-view3d canvas')!;
    const extension = shown.getContext('webgl2')!.getExtension('WEBGL_lose_context')!;
    (window as { graphics?: unknown }).graphics = extension;
    extension.loseContext();
  });
  await expect(page.getByText('The browser took the graphics away for the moment.')).toBeVisible();
  await page.getByRole('tab', { name: /Dials/ }).click();
  const slack = page.locator('[data-dial=slack] input[type=range]');
  await slack.press('ArrowRight');
  await ropewalk.isSaved();
  await page.waitForTimeout(2500);
  expect(pictures.length).toBe(1);
  await page.evaluate(() => (window as unknown as { graphics: WEBGL_lose_context }).graphics.restoreContext());
  await expect(page.getByText('The browser took the graphics away for the moment.')).toHaveCount(0);
  await expect.poll(colours).toBeGreaterThan(20);
  await slack.press('ArrowRight');
  await expect.poll(() => pictures.length).toBe(2);
});
