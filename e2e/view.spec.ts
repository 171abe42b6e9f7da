import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { lightings, towards } from '../apps/web/src/app/ropewalk/view3d/lighting';
import { pixelsOf, type Pixels } from './pixels';
import { Ropewalk } from './ropewalk';

// Still pictures with all the light, as artists have them.
test.use({ storageState: { cookies: [], origins: [] } });

const grey = { colour: '#808080', roughness: 1, metalness: 0 };

/** A document of nodes, the last wired into an output, with views kept under names. */
const looked = (nodes: readonly object[], wires: readonly object[], kept: readonly object[]): object => ({
  format: 'filaxis-graph',
  version: 1,
  title: 'Looked at',
  nodes,
  wires,
  view: { kept },
});

const wire = (from: string, port: string, to: string, into: string): object => ({ from: [from, port], to: [to, into] });

/** Waits until the picture is the last, with all the light. */
async function rested(page: Page): Promise<void> {
  // What was clicked reaches the view within a frame; until then it says that it rests as it did before.
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await expect(page.locator('fx-view3d')).toHaveAttribute('data-rests', '', { timeout: 20_000 });
}

/** Shows a view that the document keeps, and waits for the still picture of it. */
async function showKept(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: 'View', exact: true }).click();
  await page.getByRole('button', { name: `Show ${name}`, exact: true }).click();
  await page.keyboard.press('Escape');
  await rested(page);
}

const canvas = (page: Page) => page.locator('fx-view3d canvas').first();

/** The mean colour of a square of 5 pixels about a share of the picture. */
function colourAt({ width, height, data }: Pixels, x: number, y: number): number[] {
  const sum = [0, 0, 0];
  const [cx, cy] = [Math.round(width * x), Math.round(height * y)];
  for (let i = -2; i <= 2; i++) for (let j = -2; j <= 2; j++) for (let k = 0; k < 3; k++) sum[k] += data[((cy + j) * width + cx + i) * 4 + k] / 25;
  return sum;
}

const apart = (a: readonly number[], b: readonly number[]): number => Math.max(...a.map((value, k) => Math.abs(value - b[k])));

test('half grey is half grey where the light falls on it, in every lighting, while it moves and still', async ({ page }) => {
  const kept = Object.values(lightings).map(({ label, key }) => ({
    name: label,
    camera: { position: towards(key.round, key.above).map((value, k) => value * 6 + (k === 1 ? 2 : 0)), target: [0, 2, 0] },
  }));
  const nodes = [
    { id: 'ball', type: 'lay.sphere', settings: { radius: 0.8, divisions: 24 } },
    { id: 'up', type: 'shape.transform', settings: { move: [0, 2, 0] } },
    { id: 'paint', type: 'mesh.material', settings: grey },
    { id: 'out', type: 'flow.output', settings: {} },
  ];
  const ropewalk = await Ropewalk.stored(
    page,
    looked(nodes, [wire('ball', 'mesh', 'up', 'any'), wire('up', 'any', 'paint', 'mesh'), wire('paint', 'mesh', 'out', 'any')], kept),
  );
  await expect.poll(() => ropewalk.faceCount()).toBeGreaterThan(1000);
  for (const { label } of Object.values(lightings)) {
    await page.getByRole('button', { name: 'View', exact: true }).click();
    await ropewalk.choose(page.getByRole('combobox', { name: 'Lighting' }), label);
    await page.keyboard.press('Escape');
    await showKept(page, label);
    const [r, g, b] = colourAt(await pixelsOf(canvas(page)), 0.5, 0.5);
    // 50 % ± 2 on the whole; the light itself has a colour.
    expect(Math.abs((r * 0.2126 + g * 0.7152 + b * 0.0722) / 255 - 0.5), label).toBeLessThan(0.02);
  }
});

test('a thing darkens the floor below it, backs of faces differ from fronts, and can be hidden or like fronts', async ({ page }) => {
  const kept = [
    { name: 'Above', camera: { position: [0, 9, 0.01], target: [0, 0, 0] } },
    { name: 'Front', camera: { position: [0, 1.5, 6], target: [0, 1.5, 0] } },
    { name: 'Below', camera: { position: [0, -4, 0.01], target: [0, 1.5, 0] } },
  ];
  const nodes = [
    { id: 'sheet', type: 'lay.grid', settings: { size: [1, 1], divisions: 4 } },
    { id: 'up', type: 'shape.transform', settings: { move: [0, 1.5, 0] } },
    { id: 'paint', type: 'mesh.material', settings: { ...grey, backs: 'unseen' } },
    { id: 'out', type: 'flow.output', settings: {} },
  ];
  const ropewalk = await Ropewalk.stored(
    page,
    looked(nodes, [wire('sheet', 'mesh', 'up', 'any'), wire('up', 'any', 'paint', 'mesh'), wire('paint', 'mesh', 'out', 'any')], kept),
  );
  await expect.poll(() => ropewalk.faceCount()).toBe(16);
  await showKept(page, 'Above');
  // Towards the light is where the shadow is not.
  const { key } = lightings.window;
  const [lx, , lz] = towards(key.round, key.above);
  const away = 1.5 / Math.tan((key.above * Math.PI) / 180) / Math.hypot(lx, lz);
  const perMetre = 0.5 / (9 * (12 / 45));
  const { width, height } = await pixelsOf(canvas(page));
  const shade = (pixels: Pixels, sign: number): number[] =>
    colourAt(pixels, 0.5 - sign * lx * away * perMetre * (height / width), 0.5 - sign * lz * away * perMetre);
  const lit = await pixelsOf(canvas(page));
  expect(shade(lit, -1)[1] - shade(lit, 1)[1]).toBeGreaterThan(20);
  await page.getByRole('button', { name: 'View', exact: true }).click();
  await page.getByRole('checkbox', { name: 'Shadows' }).uncheck();
  await page.keyboard.press('Escape');
  await rested(page);
  const plain = await pixelsOf(canvas(page));
  expect(shade(lit, 1)[1]).toBeLessThan(shade(plain, 1)[1] - 20);
  const front = colourAt(plain, 0.5, 0.5);
  await showKept(page, 'Below');
  expect(apart(front, colourAt(await pixelsOf(canvas(page)), 0.5, 0.5))).toBeGreaterThan(40);
  await page.getByRole('button', { name: 'View', exact: true }).click();
  await ropewalk.choose(page.getByRole('combobox', { name: 'Backs of faces' }), 'hidden');
  await page.keyboard.press('Escape');
  await rested(page);
  const hidden = colourAt(await pixelsOf(canvas(page)), 0.5, 0.5);
  await page.getByRole('button', { name: 'View', exact: true }).click();
  await ropewalk.choose(page.getByRole('combobox', { name: 'Backs of faces' }), 'as fronts');
  await page.keyboard.press('Escape');
  await rested(page);
  expect(apart(hidden, colourAt(await pixelsOf(canvas(page)), 0.5, 0.5))).toBeGreaterThan(25);
});

test('what stands on something darkens it close by, in the light too, and nothing farther away', async ({ page }) => {
  const kept = [{ name: 'Above', camera: { position: [0, 9, 0.01], target: [0, 0.5, 0] } }];
  const nodes = [
    { id: 'sheet', type: 'lay.grid', settings: { size: [5, 5], divisions: 4 } },
    { id: 'raised', type: 'shape.transform', settings: { move: [0, 0.5, 0] } },
    { id: 'box', type: 'lay.box', settings: { size: [1, 0.2, 1] } },
    { id: 'standing', type: 'shape.transform', settings: { move: [0, 0.6, 0] } },
    { id: 'paint', type: 'mesh.material', settings: grey },
    { id: 'out', type: 'flow.output', settings: {} },
  ];
  const wires = [wire('sheet', 'mesh', 'raised', 'any'), wire('box', 'mesh', 'standing', 'any'), wire('raised', 'any', 'paint', 'mesh'), wire('paint', 'mesh', 'out', 'any'), wire('standing', 'any', 'out', 'any')]; // prettier-ignore
  const ropewalk = await Ropewalk.stored(page, looked(nodes, wires, kept));
  await expect.poll(() => ropewalk.faceCount()).toBeGreaterThan(20);
  await showKept(page, 'Above');
  const shaded = await pixelsOf(canvas(page));
  await page.getByRole('button', { name: 'View', exact: true }).click();
  await page.getByRole('checkbox', { name: 'Contact shade' }).uncheck();
  await page.keyboard.press('Escape');
  await rested(page);
  const open = await pixelsOf(canvas(page));
  // On the side that the light comes from, on the sheet, 8.5 m below the eye.
  const toLight = Math.sign(towards(lightings.window.key.round, lightings.window.key.above)[0]);
  const at = (pixels: Pixels, metres: number): number =>
    colourAt(pixels, 0.5 + ((toLight * metres) / (2 * 8.5 * (12 / 45))) * (pixels.height / pixels.width), 0.5)[1];
  expect(at(open, 0.57) - at(shaded, 0.57)).toBeGreaterThan(8);
  expect(Math.abs(at(open, 1.8) - at(shaded, 1.8))).toBeLessThan(3);
});

test('what lies below the floor looks as it does without one', async ({ page }) => {
  const kept = [{ name: 'Down', camera: { position: [0.5, 3, 4.5], target: [0.5, -1.5, 0.5] } }];
  const nodes = [
    { id: 'box', type: 'lay.box', settings: {} },
    { id: 'down', type: 'shape.transform', settings: { move: [0.5, -2, 0.5] } },
    { id: 'paint', type: 'mesh.material', settings: grey },
    { id: 'out', type: 'flow.output', settings: {} },
  ];
  await Ropewalk.stored(
    page,
    looked(nodes, [wire('box', 'mesh', 'down', 'any'), wire('down', 'any', 'paint', 'mesh'), wire('paint', 'mesh', 'out', 'any')], kept),
  );
  await expect(page.locator('[data-fact=faces]')).toHaveText('6');
  await showKept(page, 'Down');
  const seen = await pixelsOf(canvas(page));
  await page.getByRole('button', { name: 'View', exact: true }).click();
  await page.getByRole('checkbox', { name: 'Floor', exact: true }).uncheck();
  await page.keyboard.press('Escape');
  await rested(page);
  const bare = await pixelsOf(canvas(page));
  // Lines are drawn over it; between them, where most pixels are, nothing differs.
  const [cx, cy] = [Math.round(bare.width / 2), Math.round(bare.height / 2)];
  const differences = Array.from({ length: 61 * 61 }, (_, i) => {
    const at = ((cy - 30 + Math.floor(i / 61)) * bare.width + cx - 30 + (i % 61)) * 4;
    return apart([...seen.data.subarray(at, at + 3)], [...bare.data.subarray(at, at + 3)]);
  }).toSorted((one, other) => one - other);
  expect(differences[differences.length >> 1]).toBeLessThan(3);
  // It is the box that is compared, not the ground beside it.
  expect(apart(colourAt(seen, 0.5, 0.5), colourAt(bare, 0.06, 0.9))).toBeGreaterThan(20);
});

test('a click chooses what made a thing, a second its element, a third what lies behind; every look has its key', async ({ page }) => {
  const kept = [{ name: 'Along', camera: { position: [0.5, 0, 4], target: [0.5, 0, 0] } }];
  const nodes = [
    { id: 'line', type: 'lay.line', settings: {} },
    { id: 'hose', type: 'skin.tube', settings: { radius: 0.1 } },
    { id: 'ball', type: 'lay.sphere', settings: { radius: 0.3, divisions: 8 } },
    { id: 'behind', type: 'shape.transform', settings: { move: [0.5, 0, -1] } },
    { id: 'paint', type: 'mesh.material', settings: grey },
    { id: 'out', type: 'flow.output', settings: {} },
  ];
  const wires = [wire('line', 'curves', 'hose', 'curves'), wire('hose', 'mesh', 'paint', 'mesh'), wire('paint', 'mesh', 'out', 'any'), wire('ball', 'mesh', 'behind', 'any'), wire('behind', 'any', 'out', 'any')]; // prettier-ignore
  const ropewalk = await Ropewalk.stored(page, looked(nodes, wires, kept));
  await expect.poll(() => ropewalk.faceCount()).toBeGreaterThan(100);
  await showKept(page, 'Along');
  const box = (await canvas(page).boundingBox())!;
  const click = (): Promise<void> => page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await click();
  await expect(ropewalk.tag('hose')).toHaveClass(/chosen/);
  await expect(page.locator('fx-view3d .way')).toContainText(/Tube.*Material.*Output/s);
  await page.waitForTimeout(600);
  await click();
  await expect(page.getByRole('tab', { name: /Values/ })).toHaveAttribute('aria-selected', 'true');
  await expect(page.locator('fx-view3d .way')).toContainText(/face \d+/);
  await click();
  await expect(ropewalk.tag('behind')).toHaveClass(/chosen/);
  await canvas(page).focus();
  for (const [key, look] of [['k', 'Clay'], ['u', 'Checker'], ['i', 'Parts'], ['b', 'Normals'], ['d', 'Depth'], ['e', 'Ink'], ['c', 'Colour'], ['s', 'Shaded']] as const) {
    // Letters that come faster are a word.
    await page.waitForTimeout(600);
    await page.keyboard.press(key);
    await expect(page.getByRole('combobox', { name: 'How surfaces look' })).toContainText(look);
  } // prettier-ignore
  // V held turns the light with the pointer; V alone takes the next lighting. Three letters within a second would be a word.
  await page.waitForTimeout(1100);
  await page.keyboard.down('v');
  await page.mouse.move(box.x + 200, box.y + 300);
  await page.mouse.down();
  await page.mouse.move(box.x + 300, box.y + 300, { steps: 4 });
  await expect(page.getByText(/Drag to turn the light · \d+/)).toBeVisible();
  await page.mouse.up();
  await page.keyboard.up('v');
  await page.keyboard.press('v');
  await page.getByRole('button', { name: 'View', exact: true }).click();
  await expect(page.getByRole('combobox', { name: 'Lighting' })).toContainText('Low sun');
  await expect(page.getByRole('textbox', { name: 'Light turned about the vertical' })).not.toHaveValue('0');
  await page.getByRole('button', { name: 'Keep this view' }).click();
  await page.getByRole('textbox', { name: 'Name of View 1' }).fill('From the quay');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Show From the quay' })).toBeVisible();
  await page.getByRole('checkbox', { name: /Parallel/ }).check();
  await page.keyboard.press('Escape');
  await ropewalk.isSaved();
  await page.reload();
  await page.getByRole('button', { name: 'View', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Show From the quay' })).toBeVisible();
  await expect(page.getByRole('checkbox', { name: /Parallel/ })).toBeChecked();
});

test('from nothing: a hose is shaped by its handles, measured, cut open, laid flat and photographed', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await ropewalk.add('circle');
  await ropewalk.add('tube');
  await ropewalk.show('Outputs');
  await expect.poll(() => ropewalk.faceCount()).toBeGreaterThan(100);
  const box = (await canvas(page).boundingBox())!;
  await page.locator('fx-tag').filter({ hasText: 'Circle' }).first().focus();
  const knob = page.locator('[data-knob=radius]');
  const from = (await knob.boundingBox())!;
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(from.x - 30, from.y - 4, { steps: 6 });
  await expect(page.locator('fx-handles')).toContainText(/Radius 0\.\d+ m/);
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toHaveAttribute('title', /Drag radius/);
  await knob.focus();
  for (const key of ['0', '.', '5', 'Enter']) await page.keyboard.press(key);
  await expect(page.getByRole('textbox', { name: 'Radius', exact: true })).toHaveValue('0.5');

  // Across the ring: two places on the ground, as Ctrl-free clicks give them.
  await page.getByRole('button', { name: 'Fit', exact: true }).last().click();
  await canvas(page).focus();
  await page.keyboard.press('j');
  await expect(page.getByText('Click the first place.')).toBeVisible();
  await page.mouse.click(box.x + box.width * 0.42, box.y + box.height * 0.5);
  await expect(page.getByText('Click the second place.')).toBeVisible();
  await page.mouse.click(box.x + box.width * 0.58, box.y + box.height * 0.5);
  await expect(page.locator('fx-measures .value')).toHaveText(/\d+(\.\d+)? m/);
  await ropewalk.choose(page.getByRole('combobox', { name: 'What is measured' }), 'Radius of a bend');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('toolbar', { name: 'Measures' })).toHaveCount(0);

  await canvas(page).focus();
  await page.keyboard.press('w');
  const cut = page.locator('[data-knob=cut]');
  await expect(cut).toBeVisible();
  const before = await pixelsOf(canvas(page));
  const at = (await cut.boundingBox())!;
  await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2);
  await page.mouse.down();
  await page.mouse.move(at.x - 70, at.y, { steps: 5 });
  await page.mouse.up();
  await rested(page);
  const after = await pixelsOf(canvas(page));
  expect(after.data.equals(before.data)).toBe(false);

  await page.getByRole('tab', { name: 'UV sheet' }).click();
  await expect(page.getByTestId('uv-facts')).toContainText(/1 island.*px\/m.*nothing overlaps/s);
  const sheet = (await page.locator('fx-uv-sheet .pane').boundingBox())!;
  await page.mouse.move(sheet.x + sheet.width / 2, sheet.y + sheet.height / 2);
  await expect(page.locator('fx-uv-sheet .here')).toContainText(/px\/m · stretched/);
  const [svg] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save SVG' }).click()]);
  expect(svg.suggestedFilename()).toMatch(/-uv\.svg$/);

  await page.getByRole('button', { name: 'View', exact: true }).click();
  await page.getByRole('button', { name: /Take pictures/ }).click();
  await page.getByRole('textbox', { name: 'Width', exact: true }).fill('1300');
  await page.keyboard.press('Tab');
  await page.getByRole('textbox', { name: 'Height', exact: true }).fill('700');
  await page.keyboard.press('Tab');
  const [picture] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save the picture' }).click()]);
  const png = readFileSync(await picture.path());
  // Width and height stand at byte 16 of a PNG (W3C PNG specification, section 11.2.1).
  expect([png.readUInt32BE(16), png.readUInt32BE(20)]).toEqual([1300, 700]);
});
