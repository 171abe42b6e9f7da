import { expect, test } from '@playwright/test';
import { validateBytes } from 'gltf-validator';
import { dropFile, dropFiles } from './files.js';
import { Ropewalk } from './ropewalk.js';

test('a demo opens from the Library, and dragging a dial changes counts and bounds', async ({ page }) => {
  const ropewalk = await Ropewalk.open(page, 'Quay rail ropes');
  await expect(ropewalk.faces).toHaveText('42 096');
  const before = await ropewalk.faceCount();
  const boundsBefore = await exportedLowest(ropewalk);

  await page.getByRole('tab', { name: /Dials/ }).click();
  const strands = page.locator('[data-dial=strands] input[type=range]');
  await strands.focus();
  await strands.press('ArrowRight');
  // One strand more for three: the ropes' faces grow by a third, the posts' stay.
  await expect(ropewalk.faces).not.toHaveText('42 096');
  expect(await ropewalk.faceCount()).toBeGreaterThan(before * 1.25);

  const sag = page.locator('[data-dial=sag] input[type=range]');
  const box = (await sag.boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.31, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.5, box.y + box.height / 2, { steps: 6 });
  await page.mouse.move(box.x + box.width * 0.66, box.y + box.height / 2, { steps: 6 });
  await page.mouse.up();
  await ropewalk.isSaved();
  const boundsAfter = await exportedLowest(ropewalk);
  expect(boundsAfter).toBeLessThan(boundsBefore - 0.15);
});

/** Height of the lowest rope vertex in the exported file (posts reach down to 0, so only those between them are looked at). */
async function exportedLowest(ropewalk: Ropewalk): Promise<number> {
  const text = new TextDecoder().decode(await ropewalk.export(/^OBJ/));
  const places = text.split('\n').filter((line) => line.startsWith('v ')).map((line) => line.split(' ').slice(1).map(Number)); // prettier-ignore
  const between = places.filter(([x]) => x > -1.9 && x < -1.4);
  expect(between.length).toBeGreaterThan(100);
  return Math.min(...between.map(([, y]) => y));
}

test('Line, Hang, Rope and Output are built from nothing with mouse and keyboard', async ({ page }) => {
  const ropewalk = await Ropewalk.begin(page);
  await ropewalk.graph.dblclick({ position: { x: 60, y: 150 } });
  await page.getByLabel('Search nodes', { exact: true }).fill('line');
  await page.getByRole('option', { name: /^Line/ }).first().click();
  await expect(ropewalk.tag('line')).toBeVisible();
  await ropewalk.setting('to').locator('input').nth(0).fill('4');
  await ropewalk.setting('to').locator('input').nth(0).press('Enter');
  await ropewalk.tag('line').focus();

  await ropewalk.add('hang');
  await expect(ropewalk.tag('hang')).toContainText('24 pts');
  await ropewalk.setNumber('value', '2*25cm');
  await expect(ropewalk.setting('value').locator('input').first()).toHaveValue('0.5');

  // Dragging from the tag's edge offers what fits.
  await ropewalk.tag('hang').hover();
  const out = ropewalk.tag('hang').locator('.out');
  const from = (await out.boundingBox())!;
  await page.mouse.move(from.x + 10, from.y + 12);
  await page.mouse.down();
  await page.mouse.move(from.x + 90, from.y + 120, { steps: 5 });
  await page.mouse.up();
  await expect(page.getByRole('option', { name: /^Material/ })).toHaveCount(0);
  await page.getByLabel('Search nodes', { exact: true }).fill('rope');
  await page.keyboard.press('Enter');
  await expect(ropewalk.tag('rope')).toContainText('f');

  await ropewalk.add('output');
  await expect(ropewalk.faces).not.toHaveText('0');
  expect(await ropewalk.faceCount()).toBeGreaterThan(1000);
  await ropewalk.isSaved();
  await page.reload();
  await expect(ropewalk.tag('rope')).toBeVisible();
  expect(await page.locator('fx-tag').count()).toBe(4);
  await expect(ropewalk.faces).not.toHaveText('0');
});

test('what Enter adds is what was typed, though the pointer rests on the list', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await ropewalk.add('line');
  const tag = (await ropewalk.tag('line').boundingBox())!;
  await page.mouse.move(tag.x + tag.width + 2, tag.y + tag.height / 2);
  await page.mouse.down();
  await page.mouse.move(tag.x + tag.width + 60, tag.y + 90, { steps: 4 });
  await page.mouse.up();
  // The pointer moves onto the third suggestion, and then lies still while the list changes beneath it.
  const offered = page.getByRole('option');
  await offered.nth(2).hover();
  await page.getByLabel('Search nodes', { exact: true }).fill('hang');
  await expect(offered.first()).toContainText('Hang');
  await page.waitForTimeout(500);
  await page.keyboard.press('Enter');
  await expect(ropewalk.tag('hang')).toContainText('24 pts');
});

test('a dropped SVG file is swept, undone and redone, and is there after a reload', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  const svg = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 4 4"><g transform="translate(1 2)"><path d="M0 0 C1 -2 2 2 3 0"/></g></svg>';
  await dropFile(page, 'fx-graph .area', 'handrail.svg', svg, { x: 80, y: 160 });
  await expect(ropewalk.tag('importCurves')).toContainText('1 c 2 pts');
  await ropewalk.tag('importCurves').focus();
  await ropewalk.add('tube');
  await expect(ropewalk.tag('tube')).toContainText('f');
  await expect(ropewalk.faces).not.toHaveText('0');
  const faces = await ropewalk.faceCount();

  await page.keyboard.press('Control+z');
  await expect(ropewalk.tag('tube')).toHaveCount(0);
  await page.keyboard.press('Control+Shift+z');
  await expect(ropewalk.tag('tube')).toBeVisible();
  await ropewalk.isSaved();
  await page.reload();
  await expect(ropewalk.setting('asset')).toHaveCount(0);
  await expect(ropewalk.tag('importCurves')).toContainText('1 c 2 pts');
  await expect.poll(() => ropewalk.faceCount()).toBe(faces);
});

test('a path is draped on a dropped body, with a point more where it goes over the ridge', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  const roof = 'v -2 0 -2\nv 2 0 -2\nv 2 0 2\nv -2 0 2\nv 0 1 -2\nv 0 1 2\nf 1 5 6 4\nf 5 2 3 6\n';
  await dropFile(page, 'fx-graph .area', 'roof.obj', roof, { x: 60, y: 120 });
  await expect(ropewalk.tag('importMesh')).toContainText('2 f');
  // A line over the roof, then Drape behind it, with the roof drawn into its other input.
  await page.locator('fx-graph .area').click({ position: { x: 300, y: 440 } });
  await ropewalk.add('line');
  await ropewalk.setVector('from', [-1.5, 3, 0]);
  await ropewalk.setVector('to', [1.5, 3, 0]);
  await ropewalk.tag('line').focus();
  await ropewalk.add('drape');
  await ropewalk.wire('importMesh', 'drape');
  await ropewalk.tag('drape').focus();
  await page.getByRole('tab', { name: 'Settings' }).click();
  await ropewalk.choose(ropewalk.setting('method').getByRole('combobox'), 'along direction');
  await ropewalk.choose(ropewalk.setting('follow').getByRole('combobox'), 'refine');
  // Over the ridge: a point more, and the length of two slopes of 1.5 m across and 0.75 m up.
  await expect(ropewalk.tag('drape')).toContainText('3 pts');
  await ropewalk.tag('drape').focus();
  await expect(page.locator('fx-view3d')).toContainText('3.35 m');
});

test('a glTF and the file of its buffer are dropped together; points of a file carry copies', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  // A triangle whose nine numbers stand in a file beside: the signs of a text that are 32-bit numbers, 32 ("\\0\\0\\0B") and 0.
  const numbers = [0, 0, 0, 32, 0, 0, 0, 32, 0].map((value) => (value ? '\0\0\0B' : '\0\0\0\0')).join('');
  const gltf = { asset: { version: '2.0' }, buffers: [{ uri: 'posts.bin', byteLength: 36 }], bufferViews: [{ buffer: 0, byteLength: 36 }], accessors: [{ bufferView: 0, componentType: 5126, count: 3, type: 'VEC3', min: [0, 0, 0], max: [32, 32, 0] }], meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }], nodes: [{ mesh: 0 }], scenes: [{ nodes: [0] }] }; // prettier-ignore
  await dropFile(page, 'fx-graph .area', 'posts.gltf', JSON.stringify(gltf), { x: 60, y: 120 });
  await expect(page.getByText('the buffer is in another file, "posts.bin", which is not here; give it too')).toBeVisible();
  await dropFiles(page, 'fx-graph .area', [['posts.bin', numbers], ['posts.gltf', JSON.stringify(gltf)]], { x: 60, y: 120 }); // prettier-ignore
  await expect(ropewalk.tag('importMesh')).toContainText('1 f');
  await dropFile(page, 'fx-graph .area', 'stakes.obj', 'v 0 0 0\nv 1 0 0\nv 2 0 1\n', { x: 60, y: 300 });
  await expect(ropewalk.tag('importPoints')).toContainText('3 pts');
});

test('a broken file is refused with its line, and nothing is changed', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await dropFile(page, 'fx-graph .area', 'posts.csv', 'x,y,z\n0,0,0\n1,two,0\n', { x: 80, y: 160 });
  await expect(page.getByText('posts.csv: Line 3: y is "two"; it must be a finite number.')).toBeVisible();
  await expect(page.locator('fx-tag')).toHaveCount(0);
  await expect(ropewalk.saved).toContainText('version 1');
});

test('Peek shows a step of its own, and back', async ({ page }) => {
  const ropewalk = await Ropewalk.copy(page, 'Lamp cable');
  await expect(ropewalk.faces).not.toHaveText('0');
  const whole = await ropewalk.faceCount();
  await ropewalk.show('Outputs');
  await ropewalk.tag('cable').focus();
  await page.keyboard.press('p');
  await expect(page.getByText('Peeking at Cable')).toBeVisible();
  await expect.poll(() => ropewalk.faceCount()).toBeLessThan(whole);
  await page.keyboard.press('p');
  await expect.poll(() => ropewalk.faceCount()).toBe(whole);
});

test('the exported GLB passes the Khronos validator without error or warning', async ({ page }) => {
  for (const title of ['Quay rail ropes', 'Pump house pipes', 'Lamp cable']) {
    const ropewalk = await Ropewalk.copy(page, title);
    await expect(ropewalk.faces).not.toHaveText('0');
    const { issues, info } = await validateBytes(await ropewalk.export(/^GLB/));
    expect({ title, errors: issues.numErrors, warnings: issues.numWarnings }).toEqual({ title, errors: 0, warnings: 0 });
    expect(info.totalTriangleCount).toBeGreaterThan(1000);
  }
});

test('a wrong value is marked, its message stands in the head, and the last picture stays', async ({ page }) => {
  const ropewalk = await Ropewalk.copy(page, 'Pump house pipes');
  await expect(ropewalk.faces).not.toHaveText('0');
  const before = await ropewalk.faceCount();
  await ropewalk.show('Outputs');
  await ropewalk.tag('wheel').click();
  await page.getByRole('tab', { name: 'Settings' }).click();
  await ropewalk.setNumber('radius', '-3');
  // The words stand in the head, where they move no field; the field they are about is marked.
  await expect(page.locator('fx-side-pane').getByRole('alert')).toHaveText('Radius is -3; it accepts numbers above 0 m.');
  await expect(ropewalk.setting('radius').locator('.label.wrong')).toHaveAttribute('title', /^Radius is -3/);
  await expect(ropewalk.tag('wheel')).toContainText('no result');
  expect(await ropewalk.faceCount()).toBe(before);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(ropewalk.tag('wheel')).not.toContainText('no result');
});

test('nodes are copied and pasted with their wires, and tidied', async ({ page }) => {
  const ropewalk = await Ropewalk.copy(page, 'Pump house pipes');
  await expect(ropewalk.faces).not.toHaveText('0');
  const before = await page.getByTestId('save-state').textContent();
  await page.locator('fx-graph .area').click({ position: { x: 300, y: 440 } });
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+c');
  await page.keyboard.press('Control+v');
  await ropewalk.isSaved();
  await expect(page.getByTestId('save-state')).not.toHaveText(before!);
  await page.keyboard.press('f');
  await expect(page.locator('fx-tag')).toHaveCount(24);
  await page.keyboard.press('t');
  await expect(page.getByRole('button', { name: 'Undo' })).toHaveAttribute('title', /Undo: Tidy/);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(page.locator('fx-tag')).toHaveCount(12);
});

test('a setting becomes a dial, and a ramp is given by its keys', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await ropewalk.add('circle');
  await ropewalk.add('tube');
  await ropewalk
    .setting('radius')
    .getByRole('button', { name: /change how it is given/ })
    .click();
  await page.getByRole('menuitem', { name: 'Make it a dial' }).click();
  const value = page.locator('[data-dial=radius] fx-number input');
  await expect(value).toHaveValue('0.05');
  await page.getByRole('tab', { name: 'Settings' }).click();
  await ropewalk
    .setting('radius')
    .getByRole('button', { name: /change how it is given/ })
    .click();
  await page.getByRole('menuitem', { name: 'Ramp along the path' }).click();
  const keys = ropewalk.setting('radius').getByRole('slider');
  await expect(keys).toHaveCount(2);
  await keys.nth(1).focus();
  await page.keyboard.press('Shift+ArrowUp');
  await expect(page.getByLabel('Value of the key')).toHaveValue('0.055');
  await ropewalk.isSaved();
});

test('the Path strip and the 3D view mark the same place', async ({ page }) => {
  const ropewalk = await Ropewalk.copy(page, 'Lamp cable');
  await ropewalk.tag('cable').click();
  await expect(page.getByTestId('strip-curve')).toContainText('6.32 m');
  await expect(page.locator('fx-path-strip .plot svg').first()).toBeVisible();
  const box = (await page.locator('fx-path-strip').boundingBox())!;
  await page.mouse.move(box.x + 66 + (box.width - 104) / 2, box.y + 40);
  // Half way along a cable of 6.32 m, where it has its plain thickness.
  await expect(page.locator('fx-path-strip .reading')).toContainText(/^3\.1\d* m · radius 28 mm/);
});
