import { expect, test, type Page } from '@playwright/test';
import { Ropewalk } from './ropewalk';

/** Where a port of a node is on screen. */
async function port(ropewalk: Ropewalk, node: string, which: string): Promise<{ x: number; y: number }> {
  const box = (await ropewalk.tag(node).locator(which).boundingBox())!;
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
}

async function drag(page: Page, from: { x: number; y: number }, to: { x: number; y: number }): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 6 });
  await page.mouse.up();
}

const stored = async (page: Page): Promise<{ nodes: { id: string; name?: string }[]; wires: { from: string[]; to: string[] }[] }> => {
  const [, id] = /\/d\/(.+)/.exec(page.url())!;
  return (await (await page.request.get(`/api/documents/${id}`)).json()).document;
};
const wires = async (page: Page): Promise<string[]> => (await stored(page)).wires.map(({ from, to }) => `${from.join('.')} > ${to.join('.')}`);

const node = (id: string, type: string, x: number, y: number): object => ({ id, type, at: [x, y] });
async function begun(page: Page, nodes: readonly object[], laid: readonly object[] = []): Promise<Ropewalk> {
  const ropewalk = await Ropewalk.stored(page, { format: 'filaxis-graph', version: 1, title: 'By hand', nodes, wires: laid });
  await expect(page.locator('fx-tag')).toHaveCount(nodes.length);
  await expect(page.getByTestId('save-state')).toContainText('saved');
  return ropewalk;
}

test('a first rope: from nothing to a coloured, exported file, by what is written on screen', async ({ page }) => {
  await page.goto('/');
  let actions = 0;
  const act = async (action: Promise<unknown>): Promise<void> => {
    actions++;
    await action;
  };
  await act(page.getByRole('button', { name: 'New document' }).click());
  for (const word of ['line', 'hang', 'rope', 'material', 'output']) {
    // A key and a word, as it comes out of fast hands.
    await page.getByRole('button', { name: '+ Node' }).waitFor();
    await act(page.getByRole('button', { name: '+ Node' }).click());
    await act(page.keyboard.type(word));
    await act(page.keyboard.press('Enter'));
    await expect(page.locator('fx-add-menu')).toHaveCount(0);
  }
  await expect(page.locator('[data-fact=faces]')).not.toHaveText('0');
  await act(page.getByRole('button', { name: 'Export', exact: true }).click());
  await expect(page.locator('.pieces li')).toHaveText([/^Rope\s*[\d ]+ faces$/]);
  const [file] = await Promise.all([page.waitForEvent('download'), act(page.getByRole('button', { name: /^Download/ }).click())]);
  expect(file.suggestedFilename()).toBe('untitled.glb');
  expect(actions).toBeLessThanOrEqual(20);
});

test('a wire goes to the port it is aimed at, comes off it, and tells what it would do', async ({ page }) => {
  const ropewalk = await begun(page, [
    node('circle', 'lay.circle', 0, 0),
    node('line', 'lay.line', 0, 140),
    node('sweep', 'skin.sweep', 260, 60),
    node('tube', 'skin.tube', 260, 220),
  ]);
  await drag(page, await port(ropewalk, 'circle', '.out'), await port(ropewalk, 'sweep', '[data-input=profile]'));
  await drag(page, await port(ropewalk, 'line', '.out'), await port(ropewalk, 'tube', '[data-input=curves]'));
  await expect.poll(() => wires(page)).toEqual(['circle.curves > sweep.profile', 'line.curves > tube.curves']);

  // Over a port it says what it would be wired to; where it does not fit, why.
  const mesh = await port(ropewalk, 'tube', '.out');
  await page.mouse.move(mesh.x, mesh.y);
  await page.mouse.down();
  const eyelet = await port(ropewalk, 'sweep', '[data-input=curves]');
  await page.mouse.move(eyelet.x, eyelet.y, { steps: 6 });
  await expect(page.locator('p.aimed.refused')).toHaveText('Sweep takes curves there, not mesh.');
  await page.mouse.up();
  expect(await wires(page)).toHaveLength(2);

  // Taken off its input and let go on the ground, it is gone; undo brings it back.
  const into = await port(ropewalk, 'tube', '[data-input=curves]');
  await drag(page, into, { x: into.x - 40, y: into.y + 110 });
  await expect.poll(() => wires(page)).toEqual(['circle.curves > sweep.profile']);
  await page.keyboard.press('Control+z');
  await expect.poll(() => wires(page)).toHaveLength(2);
});

test('a node gets a name by double click, F2 and its menu; it is told by it everywhere', async ({ page }) => {
  const ropewalk = await begun(
    page,
    [node('line', 'lay.line', 0, 0), node('tube', 'skin.tube', 220, 0)],
    [{ from: ['line', 'curves'], to: ['tube', 'curves'] }],
  );
  await ropewalk.tag('tube').locator('.name').dblclick();
  await page.keyboard.type('Hose');
  await page.keyboard.press('Enter');
  await expect(ropewalk.tag('tube').locator('.name')).toHaveText('Hose');
  await expect(ropewalk.tag('tube').locator('.telling')).toHaveText('Tube');
  await page.keyboard.press('F2');
  await page.keyboard.type('Deck hose');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Deck hose' })).toBeVisible();
  await ropewalk.tag('tube').click({ button: 'right' });
  await expect(page.getByRole('menuitem', { name: /^Name the chosen node/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('tab', { name: 'History' }).click();
  await ropewalk.isSaved();
  await page.locator('fx-history ol button').first().click();
  await expect(
    page.locator('fx-history').getByText('Hose (tube) is called “Deck hose”.').or(page.locator('fx-history').getByText('Tube is called “Deck hose”.')),
  ).toBeVisible();
  await expect.poll(async () => (await stored(page)).nodes[1].name).toBe('Deck hose');
});

test('one of several is chosen alone; a new node takes all of them; a middle one goes and its neighbours are joined', async ({ page }) => {
  const ropewalk = await begun(page, [node('a', 'lay.line', 0, 0), node('b', 'lay.circle', 0, 90), node('c', 'lay.polygon', 0, 180)]);
  await page.keyboard.press('Control+a');
  await ropewalk.add('join');
  await expect.poll(async () => await wires(page)).toEqual(['a.curves > join.any', 'b.curves > join.any', 'c.curves > join.any']);
  await ropewalk.add('smooth');
  await ropewalk.add('tube');
  await page.keyboard.press('f');
  await ropewalk.tag('smooth').click();
  await page.keyboard.press('Delete');
  await expect.poll(async () => (await wires(page)).at(-1)).toBe('join.any > tube.curves');

  // A copy is fed as what it was copied from.
  await ropewalk.tag('tube').click();
  await page.keyboard.press('Control+d');
  await expect.poll(async () => (await wires(page)).at(-1)).toBe('join.any > tube2.curves');
  await page.keyboard.press('Control+a');
  await ropewalk.tag('b').click();
  await expect(page.locator('fx-tag.chosen')).toHaveCount(1);
  await expect(ropewalk.tag('b')).toHaveClass(/chosen/);
});

test('every input can be wired by keyboard', async ({ page }) => {
  const ropewalk = await begun(page, [node('line', 'lay.line', 0, 0), node('star', 'lay.polygon', 0, 100), node('sweep', 'skin.sweep', 260, 40)]);
  await ropewalk.tag('sweep').focus();
  await page.getByRole('tab', { name: 'Settings' }).click();
  for (const [input, source] of [
    ['curves', 'Line (line)'],
    ['profile', 'Polygon or star (star)'],
  ] as const) {
    await page.getByRole('button', { name: `Wire something into ${input}` }).focus();
    await page.keyboard.press('Enter');
    await page.getByRole('menuitem', { name: source }).focus();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('menu')).toHaveCount(0);
  }
  await expect.poll(async () => await wires(page)).toEqual(['line.curves > sweep.curves', 'star.curves > sweep.profile']);
});

for (const [width, height] of [
  [853, 533],
  [1024, 700],
] as const)
  // prettier-ignore
  test(`nothing is cut off in a window of ${width} × ${height}`, async ({ page }) => {
    await page.setViewportSize({ width, height });
    const ropewalk = await Ropewalk.copy(page, 'Beacon cage');
    await expect(ropewalk.faces).not.toHaveText('0');
    for (const tab of ['Settings', 'Dials', 'Help']) await page.getByRole('tab', { name: tab }).click();
    // What has no room beside the tabs of the results is in their menu.
    await page.getByRole('button', { name: 'Rows' }).click();
    await page.getByRole('menuitem', { name: /Next curve.*now 1 of/ }).click();
    await expect(page.getByTestId('strip-curve')).toHaveText(/^2 of/);
    // Every button and tab that is shown lies in the window, on one line, and none lies on another.
    const faults = await page.evaluate(() => {
      const shown = Array.from(document.querySelectorAll<HTMLElement>('fx-top-bar button, fx-top-bar a, .modes button, .mat-mdc-tab-link, fx-graph .tools button, fx-results .head > button, fx-results .head > span:not(.space)'))
        .map((element) => ({ text: element.innerText.trim() || element.getAttribute('aria-label') || '', box: element.getBoundingClientRect() }))
        .filter(({ box }) => box.width > 0);
      const out = shown.filter(({ box }) => box.left < -1 || box.right > innerWidth + 1 || box.bottom > innerHeight + 1 || box.height > 45);
      const over = shown.flatMap((a, i) => shown.slice(0, i).filter((b) => a.box.left < b.box.right - 1 && b.box.left < a.box.right - 1 && a.box.top < b.box.bottom - 1 && b.box.top < a.box.bottom - 1).map((b) => `${a.text} over ${b.text}`));
      return [...out.map(({ text }) => text), ...over];
    });
    expect(faults).toEqual([]);
    // The graph is shown whole, by signs that do not overlap.
    const signs = await page.locator('fx-tag .sign').evaluateAll((all) => all.map((sign) => sign.getBoundingClientRect()).map(({ left, right, top, bottom }) => ({ left, right, top, bottom })));
    expect(signs.length).toBeGreaterThan(10);
    const overlaps = signs.flatMap((a, i) => signs.slice(0, i).filter((b) => a.left < b.right - 1 && b.left < a.right - 1 && a.top < b.bottom - 1 && b.top < a.bottom - 1));
    expect(overlaps).toEqual([]);
  });

test('help shows a node at work: its example is put in, peeked at, and taken back as one change', async ({ page }) => {
  const ropewalk = await begun(page, [node('sweep', 'skin.sweep', 0, 0)]);
  await ropewalk.tag('sweep').click();
  await page.keyboard.press('F1');
  await page.getByRole('button', { name: 'Put an example into the graph' }).click();
  await expect(page.locator('fx-tag')).toHaveCount(5);
  await expect(page.locator('[data-fact=faces]')).toHaveText(/^[1-9]/);
  await expect(page.getByText('Peeking at Sweep')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await expect(page.locator('fx-tag')).toHaveCount(1);
});

test('the 3D view shows what is chosen, the outputs or all, and says which; a node that waits empties nothing', async ({ page }) => {
  const ropewalk = await begun(
    page,
    [node('line', 'lay.line', 0, 0), node('tube', 'skin.tube', 220, 0), node('box', 'lay.box', 0, 160)],
    [{ from: ['line', 'curves'], to: ['tube', 'curves'] }],
  );
  const told = page.locator('fx-view-shows .told');
  await expect(ropewalk.faces).toHaveText('18');
  await expect(told).toHaveText('Tube, Box');
  await ropewalk.tag('line').click();
  await expect(page.getByTestId('strip-curve')).toContainText('1 of 1 ');
  await expect(ropewalk.faces).toHaveText('0');
  await expect(told).toHaveText('Line');
  await ropewalk.show('Outputs');
  await expect(ropewalk.faces).toHaveText('18');
  await ropewalk.show('Chosen');
  await ropewalk.tag('box').click();
  await expect(ropewalk.faces).toHaveText('6');
  await ropewalk.add('place copies');
  await expect(ropewalk.tag('copies')).toContainText('0 copies');
  await expect(ropewalk.faces).toHaveText('6');
  await expect(page.locator('fx-view3d .reason')).toHaveCount(0);
  await expect(page.locator('fx-node-messages')).toContainText('Waiting');
});

test('a lesson leads from nothing to a fence on ground, by hand and eye; leaving keeps what was made', async ({ page }) => {
  const ropewalk = await Ropewalk.begin(page);
  await page.getByRole('button', { name: 'A fence on ground' }).click();
  const card = page.locator('fx-lesson');
  const says = (text: string): Promise<void> => expect(card.locator('.say')).toHaveText(text);
  const add = async (name: string): Promise<void> => {
    await page.getByRole('button', { name: '+ Node' }).click();
    await page.keyboard.type(name);
    await page.keyboard.press('Enter');
    await expect(page.locator('fx-add-menu')).toHaveCount(0);
  };
  const type = async (setting: string, ...values: readonly string[]): Promise<void> => {
    for (const [i, value] of values.entries()) {
      const box = ropewalk.setting(setting).locator('fx-number input').nth(i);
      await box.fill(value);
      await box.press('Enter');
    }
  };
  const wire = async (from: string, to: string, input: string): Promise<void> => {
    await page.getByTitle('Show the whole graph').click();
    // The graph has come to rest.
    await ropewalk.tag(from).locator('.out').hover();
    await drag(page, await port(ropewalk, from, '.out'), await port(ropewalk, to, `[data-input=${input}]`));
  };
  await says('Add Terrain.');
  await add('terrain');
  await type('size', '30', '30');
  await type('height', '3');
  await says('Add Drawn curve.');
  await page.locator('fx-view3d').getByRole('button', { name: 'Fit' }).click();
  await add('drawn curve');
  await expect(page.locator('fx-curve-editor .sheet.fx-ringed')).toBeVisible();
  const view = (await page.locator('fx-view3d').boundingBox())!;
  for (const [x, y] of [[0.4, 0.5], [0.5, 0.62], [0.62, 0.55]]) await page.mouse.click(view.x + view.width * x, view.y + view.height * y); // prettier-ignore
  await says('Add Drape after Drawn curve.');
  await page.keyboard.press('Escape');
  await add('drape');
  await says('Drag a wire from Terrain to “body” of Drape.');
  await wire('terrain', 'drape', 'body');
  await page.keyboard.press('Escape');
  await add('box');
  await type('size', '0.12', '1.6', '0.12');
  await says('Add Place copies after Drape.');
  await ropewalk.tag('drape').click();
  await add('place copies');
  await wire('box', 'copies', 'objects');
  await says('Set the posts apart.');
  await ropewalk.tag('copies').click();
  await ropewalk.setting('spacing').getByRole('checkbox').check();
  await type('spacing', '2');
  await says('Add Output after Place copies.');
  // What is undone is asked for again.
  await ropewalk.graph.focus();
  // The figure, and the tick before it.
  for (const key of ['Control+z', 'Control+z']) await page.keyboard.press(key);
  await says('Set the posts apart.');
  for (const key of ['Control+Shift+z', 'Control+Shift+z']) await page.keyboard.press(key);
  await ropewalk.tag('copies').click();
  await add('output');
  await says('Done.');
  // More posts than the line has points: they stand along it.
  await expect.poll(async () => Number(/(\d+) copies/.exec(await page.locator('fx-view3d').innerText())?.[1])).toBeGreaterThan(3);
  await card.getByRole('button', { name: 'Close' }).click();
  await expect(card).toBeEmpty();
  await expect(page.locator('fx-tag')).toHaveCount(6);
});
