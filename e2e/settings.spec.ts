import { expect, test } from '@playwright/test';
import { nodeDefinitions } from '@filaxis/core';
import { middleOf, pixelsOf } from './pixels';
import { Ropewalk } from './ropewalk';

test('a vector has its letters in its fields, a fixed value a thread in sight, a plane fields of its own', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await ropewalk.add('line');
  await ropewalk.add('mirror');
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));

  const plane = ropewalk.setting('plane');
  await plane.getByText('a plane of its own').click();
  await plane.getByLabel('Plane normal y').fill('1');
  await plane.getByLabel('Plane normal y').press('Enter');
  await plane.getByLabel('Plane point x').fill('0.5');
  await plane.getByLabel('Plane point x').press('Enter');
  await expect(plane.getByLabel('Plane point x')).toHaveValue('0.5');
  await plane.getByText('a plane of its own').click();
  await expect(plane.getByLabel('Plane point x')).toHaveCount(0);
  expect(errors).toEqual([]);

  await ropewalk.add('transform');
  const move = ropewalk.setting('move');
  await expect(move.locator('.axis')).toHaveText(['x', 'y', 'z']);
  const sign = move.locator('> button.mode');
  // In sight without the pointer, and out of the way of Tab; its own key opens it from the field.
  await page.mouse.move(5, 5);
  await expect(sign).toHaveCSS('opacity', '1');
  await expect(sign).toHaveAttribute('tabindex', '-1');
  await move.locator('fx-number input').first().focus();
  await page.keyboard.press('Control+m');
  await expect(page.getByRole('menuitem', { name: 'Make it a dial' })).toBeVisible();
  await page.keyboard.press('Escape');
  await sign.click();
  await page.getByRole('menuitem', { name: 'Make it a dial' }).click();
  await expect(page.locator('fx-dials .axis')).toHaveText(['x', 'y', 'z']);
});

test('one number of a vector follows a dial of its own, without another node', async ({ page }) => {
  const ropewalk = await Ropewalk.empty(page);
  await ropewalk.add('line');
  await ropewalk.add('transform');
  await ropewalk.setting('move').getByRole('button', { name: /^Move y is fixed/ }).click(); // prettier-ignore
  await page.getByRole('menuitem', { name: 'Make it a dial' }).click();
  await page.getByLabel('Transform move y value').fill('2');
  await page.keyboard.press('Enter');
  await ropewalk.isSaved();
  expect(await page.locator('fx-tag').count()).toBe(2);
  const [, id] = /\/d\/(.+)/.exec(page.url())!;
  const { document } = await (await page.request.get(`/api/documents/${id}`)).json();
  expect(document.nodes[1].settings.move).toEqual([0, { dial: document.dials[0].id }, 0]);
  expect(document.dials[0]).toMatchObject({ kind: 'number', value: 2, unit: 'm' });
});

test('objects of a run have a row each: where they stand, and their share', async ({ page }) => {
  const ropewalk = await Ropewalk.copy(page, 'Sheepfold');
  await expect.poll(() => ropewalk.faces.textContent()).toMatch(/\d/);
  await ropewalk.tag('fence').click();
  await page.keyboard.press('F4');
  const objects = ropewalk.setting('stands');
  await expect(objects.locator('tbody tr')).toHaveCount(2);
  await expect(objects.getByLabel('Share of Oak plain (oakPlain)')).toHaveValue('3');
  const before = await ropewalk.faces.textContent();
  const where = async (object: string, place: string): Promise<void> => {
    await objects.getByRole('combobox', { name: `Where ${object} stands` }).click();
    await page.getByRole('option', { name: place }).click();
    await page.keyboard.press('Escape');
    await expect(page.getByRole('listbox')).toHaveCount(0);
  };
  await where('Oak tight (oakTight)', 'along the run');
  await expect.poll(() => ropewalk.faces.textContent()).not.toBe(before);
  // Posts of one kind where pieces of the other meet, then none for the run itself.
  await where('Oak tight (oakTight)', 'where pieces meet');
  await where('Oak plain (oakPlain)', 'along the run');
  await expect(page.getByText('there is none left for the run itself').first()).toBeVisible();
});

test('F fits the pane that has the keyboard', async ({ page }) => {
  const ropewalk = await Ropewalk.copy(page, 'Quay rail ropes');
  await expect.poll(() => ropewalk.faces.textContent()).toMatch(/\d/);
  const canvas = page.locator('fx-view3d canvas').first();
  const place = async (): Promise<string | null> =>
    ropewalk.graph
      .locator('fx-tag')
      .first()
      .evaluate((tag) => JSON.stringify(tag.getBoundingClientRect()));
  await canvas.click({ position: { x: 400, y: 300 } });
  for (let i = 0; i < 6; i++) await page.mouse.wheel(0, -300);
  const tags = await place();
  await page.waitForTimeout(300);
  const near = await canvas.screenshot();
  await page.keyboard.press('f');
  await page.waitForTimeout(500);
  expect(near.equals(await canvas.screenshot())).toBe(false);
  expect(await place()).toBe(tags);
  await ropewalk.graph.click({ position: { x: 12, y: 200 } });
  await page.keyboard.press('+');
  await expect.poll(place).not.toBe(tags);
  await page.keyboard.press('f');
  await expect.poll(place).toBe(tags);
});

test('the arrows of a frame lie along the axes of an object that is placed on it', async ({ page }) => {
  const bar = (axis: number): object => ({ size: [0, 1, 2].map((k) => (k === axis ? 1 : 0.08)) });
  const moved = (axis: number): object => ({ move: [0, 1, 2].map((k) => (k === axis ? 0.5 : 0)) });
  // Three bars along +X, +Y and +Z in colours that nothing else has; a path whose frames are rolled, so that no axis of the world fits by chance.
  const inks = ['#ff00ff', '#00ffff', '#ffff00'];
  const nodes = [
    { id: 'path', type: 'lay.line', settings: { from: [0, 0, 0], to: [0.004, 0.003, 0.02], points: 2 } },
    { id: 'frames', type: 'aim.frames', settings: { roll: 35 } },
    ...[0, 1, 2].flatMap((axis) => [
      { id: `bar${axis}`, type: 'lay.box', settings: bar(axis) },
      { id: `out${axis}`, type: 'shape.transform', settings: moved(axis) },
      { id: `ink${axis}`, type: 'mesh.material', settings: { name: `ink ${axis}`, colour: inks[axis], roughness: 1 } },
    ]),
    { id: 'marker', type: 'flow.join' },
    { id: 'put', type: 'place.copies' },
    { id: 'out', type: 'flow.output' },
  ];
  const wires = [
    ['path.curves', 'frames.curves'],
    ['frames.curves', 'put.points'],
    ['marker.any', 'put.objects'],
    ['put.copies', 'out.any'],
    ['frames.curves', 'out.any'],
    ...[0, 1, 2].flatMap((axis) => [[`bar${axis}.mesh`, `out${axis}.any`], [`out${axis}.any`, `ink${axis}.any`], [`ink${axis}.any`, 'marker.any']]),
  ].map(([from, to]) => ({ from: from.split('.'), to: to.split('.') })); // prettier-ignore
  const answer = await page.request.post('/api/documents', { data: { document: { format: 'filaxis-graph', version: 1, title: 'Axes', nodes, wires } } });
  await page.goto(`/d/${(await answer.json()).id}`);
  await expect.poll(() => page.locator('[data-fact=faces]').textContent()).toMatch(/\d/);
  await page.waitForTimeout(1500);
  const canvas = page.locator('fx-view3d canvas').first();
  const plain = await pixelsOf(canvas);
  const bars = [
    middleOf(plain, (r, g, b) => r > 90 && b > 90 && g < r * 0.35),
    middleOf(plain, (r, g, b) => g > 90 && b > 90 && r < g * 0.35),
    middleOf(plain, (r, g, b) => r > 90 && g > 90 && b < r * 0.35),
  ];
  for (const { count } of bars) expect(count).toBeGreaterThan(60);
  await page.getByRole('button', { name: 'Frames', exact: true }).click();
  const length = page.getByLabel('Arrow length; 0 chooses by itself');
  await length.fill('1.6');
  await length.press('Enter');
  await page.waitForTimeout(800);
  const drawn = await pixelsOf(canvas);
  // Madder, verdigris and woad, where they are new, below the buttons.
  const arrows = [
    middleOf(drawn, (r, g, b) => r > 1.5 * g && r > 1.5 * b, plain, 110),
    middleOf(drawn, (r, g, b) => g > 1.3 * r && g > 1.02 * b, plain, 110),
    middleOf(drawn, (r, g, b) => b > 1.5 * r && b > 1.2 * g, plain, 110),
  ];
  const origin = (['x', 'y'] as const).map((k) => bars.reduce((sum, at) => sum + at[k] / 3, 0));
  arrows.forEach((arrow, axis) => {
    expect(arrow.count).toBeGreaterThan(60);
    const [ax, ay] = [arrow.x - origin[0], arrow.y - origin[1]];
    const [bx, by] = [bars[axis].x - origin[0], bars[axis].y - origin[1]];
    const cosine = (ax * bx + ay * by) / (Math.hypot(ax, ay) * Math.hypot(bx, by));
    expect(cosine, `arrow ${axis}`).toBeGreaterThan(0.7);
  });
});

test('every setting of every node has an editor', async ({ page }) => {
  test.setTimeout(180_000);
  const types = [...nodeDefinitions.keys()];
  const answer = await page.request.post('/api/documents', {
    data: {
      document: {
        format: 'filaxis-graph',
        version: 1,
        title: 'Every node',
        nodes: types.map((type, i) => ({
          id: type.replace('.', '_'),
          type,
          at: [(i % 10) * 220, Math.floor(i / 10) * 120],
          ...(type === 'flow.output' && { settings: { name: 'result' } }),
        })),
        wires: [],
      },
    },
  });
  expect(answer.status()).toBe(201);
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  await page.goto(`/d/${(await answer.json()).id}`);
  // All tags in view: those out of it are not there.
  await page.getByTitle('Show the whole graph (F)').click();
  const missing: string[] = [];
  for (const [type, { settings, label }] of nodeDefinitions) {
    await page.locator(`fx-tag[data-node="${type.replace('.', '_')}"]`).focus();
    await expect(page.getByLabel('Settings and dials').getByRole('heading', { name: label, exact: true })).toBeVisible();
    for (const [name, setting] of Object.entries(settings)) {
      const shown = Object.entries(setting.shownWhen ?? {}).every(([other, values]) => (values as readonly unknown[]).includes(settings[other].default));
      const field = page.locator(`[data-setting="${name}"]`).first();
      if (!shown) continue;
      const editor = field.locator('input, select, textarea, button, [contenteditable]').first();
      if ((await field.count()) === 0 || (await editor.count()) === 0) missing.push(`${type} ${name}`);
    }
  }
  expect(missing).toEqual([]);
  expect(errors).toEqual([]);
});
