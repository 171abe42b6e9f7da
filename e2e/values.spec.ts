import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { Ropewalk } from './ropewalk.js';

/** Line → Tube → Output, from nothing. */
async function tube(page: Page): Promise<Ropewalk> {
  const ropewalk = await Ropewalk.empty(page);
  await ropewalk.add('line');
  await ropewalk.setNumber('points', '21');
  await ropewalk.tag('line').focus();
  await ropewalk.add('tube');
  await ropewalk.tag('tube').focus();
  await ropewalk.add('output');
  await ropewalk.tag('tube').focus();
  await expect(ropewalk.faces).toHaveText('240');
  return ropewalk;
}

/** Greatest distance of a vertex from the x axis, in the exported file. */
async function thickness(ropewalk: Ropewalk): Promise<number> {
  const text = new TextDecoder().decode(await ropewalk.export(/^OBJ/));
  const places = text.split('\n').filter((line) => line.startsWith('v ')).map((line) => line.split(' ').slice(1).map(Number)); // prettier-ignore
  return Math.max(...places.map(([, y, z]) => Math.hypot(y, z)));
}

test('a radius becomes a ramp, and a key dragged in the Path strip thickens the mesh', async ({ page }) => {
  const ropewalk = await tube(page);
  await ropewalk.mode('radius', 'Ramp along the path');
  const keys = page.locator('fx-path-strip .keys circle');
  await expect(keys).toHaveCount(2);
  expect(await thickness(ropewalk)).toBeCloseTo(0.05, 3);

  const strip = page.locator('fx-path-strip .plot');
  const greatest = async (): Promise<number> => Number(/greatest radius ([\d.]+)/.exec((await strip.getAttribute('aria-label')) ?? '')?.[1]);
  // Hovering waits until the key stands still.
  await keys.nth(0).hover();
  const key = (await keys.nth(0).boundingBox())!;
  await page.mouse.down();
  await page.mouse.move(key.x + 6, key.y - 2, { steps: 3 });
  await page.mouse.move(key.x + 6, key.y - 8, { steps: 3 });
  // The hand is still down: the strip has the new radius already.
  await expect.poll(greatest).toBeGreaterThan(52);
  await page.mouse.up();
  await keys.nth(1).focus();
  await keys.nth(1).press('Shift+ArrowUp');
  await ropewalk.isSaved();
  const thick = await thickness(ropewalk);
  expect(thick).toBeGreaterThan(0.0535);
  expect(thick * 1000).toBeCloseTo(await greatest(), 0);
});

test('a wrong formula is told at its column, and mended by its message', async ({ page }) => {
  const ropewalk = await tube(page);
  await ropewalk.mode('radius', 'Formula');
  const box = page.locator('fx-setting[data-setting=radius] .cm-content');
  // It looks like what can be written in.
  await expect(page.locator('fx-setting[data-setting=radius] fx-formula .box')).toHaveCSS('border-top-width', '1px');
  await box.click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('0.1*(1-tt)');
  const wrong = page.locator('fx-setting[data-setting=radius] .wrong');
  await expect(wrong).toHaveText('Column 8: there is no "tt" here; "t" may be meant');
  // Back before the bracket, which closes whatever is suggested.
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('Backspace');
  await expect(wrong).toHaveCount(0);
  await page.keyboard.press('Enter');
  await expect(page.locator('fx-setting[data-setting=radius] fx-value-plot')).toContainText('0 … 0.1 m');
  await ropewalk.isSaved();
  expect(await thickness(ropewalk)).toBeCloseTo(0.1, 4);

  // Completion knows the names with their ranges.
  await box.click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('0.1*s');
  await expect(page.getByRole('option', { name: /^sin ?function/ })).toBeVisible();

  // Out of the field by Escape, once for the list and once for the field: the key that removes does not reach the graph.
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await expect(box).not.toBeFocused();
  await page.keyboard.press('Backspace');
  await expect(ropewalk.tag('tube')).toBeVisible();
  await ropewalk.tag('tube').focus();
  await page.keyboard.press('Backspace');
  await expect(ropewalk.tag('tube')).toHaveCount(0);
});

test('the Values table is filtered by a formula, and what is left is marked in the 3D view', async ({ page }) => {
  const ropewalk = await tube(page);
  await page.getByRole('tab', { name: 'Values' }).click();
  await expect(page.getByTestId('values-count')).toHaveText('240 faces');
  await page.getByLabel('Filter by a formula').fill('x > 0.5');
  await expect(page.getByTestId('values-count')).toHaveText('120 of 240 faces');
  const view = page.locator('fx-view3d');
  await expect(view).toHaveAttribute('data-picks', '120');
  await page.getByLabel('Filter by a formula').fill('x > 0.5 and');
  await expect(page.locator('fx-values [role=alert]')).toContainText('Column 12: expected a number, a name or "(", found the end');
  await page.getByLabel('Filter by a formula').fill('');
  await expect(page.getByTestId('values-count')).toHaveText('240 faces');

  const header = page.locator('fx-values th', { hasText: /^\s*x/ });
  await header.getByRole('button').click();
  await header.getByRole('button').click();
  await expect(header).toHaveAttribute('aria-sort', 'descending');
  await expect(page.locator('fx-values .card')).toContainText('0.025 … 0.975');
  await page.locator('fx-values tbody tr:not(.space)').first().click();
  await expect(view).toHaveAttribute('data-picks', '1');
  await page.getByRole('button', { name: 'Show as colour' }).click();
  await expect(page.getByRole('combobox', { name: 'Shown as colour' })).toHaveText('x');
  await expect(page.getByLabel('Value of the last colour')).toHaveValue('1');
  await ropewalk.tag('line').focus();
  await expect(page.getByTestId('values-count')).toHaveText('21 points');
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save CSV' }).click()]);
  expect(file.suggestedFilename()).toBe('line-point.csv');
});

test('a check names its place, and its remedy mends the graph and can be undone', async ({ page }) => {
  await tube(page);
  const tab = page.getByRole('tab', { name: /Checks/ });
  await expect(tab).toContainText('1');
  await tab.click();
  await expect(page.locator('fx-checks li')).toContainText('24 edges are open');
  await page.locator('fx-checks').getByRole('button', { name: 'Show me' }).click();
  await page.getByRole('button', { name: 'Close the ends' }).click();
  await expect(page.locator('fx-checks')).toContainText('Nothing to mend');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('fx-checks li')).toContainText('24 edges are open');
});

test('a setting dropped on Dials becomes one, and turns in a Handout that changes nothing stored', async ({ page }) => {
  const ropewalk = await tube(page);
  await ropewalk
    .setting('radius')
    .locator('.label')
    .dragTo(page.getByRole('tab', { name: /Dials/ }));
  await expect(page.locator('[data-dial=radius]')).toBeVisible();
  await ropewalk.isSaved();
  await page.getByRole('button', { name: 'Hand out' }).click();
  const link = await page.getByLabel('Link to the handout').inputValue();
  await page.goto(link);
  const dial = page.locator('[data-dial=radius]').getByLabel('Tube radius value');
  await expect(dial).toHaveValue('0.05');
  await expect(page.getByRole('button', { name: 'As given' })).toBeDisabled();
  await dial.fill('80mm');
  await dial.press('Enter');
  await expect(page.getByRole('button', { name: 'As given' })).toBeEnabled();
  const handout = new Ropewalk(page);
  await expect(handout.faces).toHaveText('240');
  expect(await thickness(handout)).toBeCloseTo(0.08, 4);
  await page.getByRole('button', { name: 'Copy link' }).click();
  const copied = await page.evaluate(() => navigator.clipboard.readText());
  expect(copied).toBe(`${link}?radius=0.08`);
  await page.goto(copied);
  await expect(dial).toHaveValue('0.08');
  await page.goto(link);
  await expect(dial).toHaveValue('0.05');
  const faults = await new AxeBuilder({ page }).analyze();
  expect(faults.violations.filter(({ impact }) => impact === 'serious' || impact === 'critical')).toEqual([]);
});

test('a version is looked at, noted and restored as a new one', async ({ page }) => {
  const ropewalk = await tube(page);
  await ropewalk.isSaved();
  await ropewalk.setNumber('sides', '6');
  await expect(ropewalk.faces).toHaveText('120');
  await ropewalk.isSaved();
  const now = Number(/version (\d+)/.exec((await ropewalk.saved.textContent())!)![1]);
  await page.getByRole('tab', { name: 'History' }).click();
  const rows = page.locator('fx-history .row');
  await rows.first().click();
  await expect(page.locator('fx-history .detail')).toContainText('Tube, sides: the default → 6.');
  await rows.first().click();
  await rows.nth(1).click();
  await page.getByPlaceholder('what this version is').fill('Twelve sides');
  await page.keyboard.press('Tab');
  await expect(rows.nth(1)).toContainText('Twelve sides');
  await page.getByRole('button', { name: `Restore version ${now - 1}` }).click();
  await expect(ropewalk.faces).toHaveText('240');
  await expect(ropewalk.saved).toContainText(`saved · version ${now + 1}`);
  await expect(rows).toHaveCount(now + 1);
});

test('nodes are put on wires, grouped, noted, found and followed to where a value comes from', async ({ page }) => {
  const ropewalk = await tube(page);
  // A wire that is chosen goes through the next node that is added.
  const [a, b] = [(await ropewalk.tag('line').boundingBox())!, (await ropewalk.tag('tube').boundingBox())!];
  await page.mouse.click((a.x + a.width + b.x) / 2, a.y + a.height / 2);
  await ropewalk.add('set attribute');
  await expect(ropewalk.tag('set')).toContainText('21 pts');
  await ropewalk.tag('tube').focus();
  await expect(ropewalk.tag('tube')).toContainText('240 f');
  await ropewalk.mode('radius', 'From an attribute');
  await ropewalk.choose(page.getByRole('combobox', { name: 'Radius, attribute' }), /^value/);
  await ropewalk.mode('radius', /Go to where it comes from: Set attribute/);
  await expect(ropewalk.tag('set')).toHaveClass(/chosen/);

  await page.locator('fx-graph .area[tabindex]').focus();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('a');
  await page.getByLabel('Title of the area').fill('Mooring');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await page.keyboard.press('m');
  await page.getByRole('textbox', { name: 'Note' }).fill('Mind the tide');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Control+k');
  await page.locator('fx-palette').getByRole('combobox').fill('go to tube');
  await page.keyboard.press('Enter');
  await expect(ropewalk.tag('tube')).toHaveClass(/chosen/);
  await ropewalk.isSaved();
  await page.reload();
  await expect(page.getByLabel('Title of the area')).toHaveValue('Mooring');
  await expect(page.getByRole('textbox', { name: 'Note' })).toHaveValue('Mind the tide');
});

test('no serious fault of accessibility with a formula, Values, Checks, History, and on the page of formulas', async ({ page }) => {
  const ropewalk = await tube(page);
  const serious = async (): Promise<unknown[]> => (await new AxeBuilder({ page }).analyze()).violations.filter(({ impact }) => impact === 'serious' || impact === 'critical').map(({ id, nodes }) => [id, nodes[0].html]); // prettier-ignore
  await ropewalk.mode('radius', 'Formula');
  await ropewalk.look('Colour');
  for (const tab of [/Path strip/, /Values/, /Checks/, /History/]) {
    await page.getByRole('tab', { name: tab }).click();
    await page.waitForTimeout(700);
    expect(await serious()).toEqual([]);
  }
  await page.goto('/formulas');
  await page.getByLabel('Thinner toward the tip, formula').fill('0.02*(1-');
  await expect(page.getByRole('alert')).toContainText('Column 9: expected a number, a name or "(", found the end');
  await page.getByLabel('Thinner toward the tip, formula').fill('0.02*t');
  await expect(page.getByRole('alert')).toHaveCount(0);
  expect(await serious()).toEqual([]);
});
