/**
 * `npm run bench:browser [-- drag values pan orbit copies sheet typing settings wire open]`: how soon the interface answers, in Debian's Chromium, against the address where `npm start` serves (FILAXIS_URL, or the usual
 * one). Not a test: figures depend on the machine, and where software draws the drawing itself takes longer than all the rest; so the drag is measured up to the
 * moment when the mesh is handed to the graphics.
 */
import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { chromiumArguments, chromiumPath } from '../scripts/debian.mjs';
import { printTable, rows } from './timing.js';

const address = process.env['FILAXIS_URL'] ?? 'http://127.0.0.1:4310';
const round = (value: number): string => `${value.toFixed(0)} ms`;
const share = (times: readonly number[], part: number): number => [...times].sort((a, b) => a - b)[Math.floor(times.length * part)];

/** Documents that were made to be measured, and go afterwards. */
const made: string[] = [];

/** Has the server keep a document until the end, and gives its id. */
async function kept(page: Page, document: object): Promise<string> {
  const answer = await page.request.post(`${address}/api/documents`, { data: { document } });
  if (!answer.ok()) throw new Error(`The document was refused: ${await answer.text()}`);
  const { id } = (await answer.json()) as { id: string };
  made.push(id);
  return id;
}

type Node = readonly [id: string, type: string, settings: object];

type Wire = readonly [from: string, port: string, to: string, into: string];

/** Opens a new document with nodes in a row, each wired to the next by an output and an input, and others beside them. */
async function opened(
  page: Page,
  nodes: readonly Node[],
  ports: readonly (readonly [string, string])[],
  beside: { readonly more: readonly Node[]; readonly wires: readonly Wire[] } = { more: [], wires: [] },
): Promise<void> {
  const document = {
    format: 'filaxis-graph',
    version: 1,
    title: 'Bench',
    nodes: [...nodes, ...beside.more].map(([id, type, settings], i) => ({ id, type, settings, at: [(i % 20) * 180, Math.floor(i / 20) * 90] })),
    wires: [
      ...ports.map(([from, to], i) => ({ from: [nodes[i][0], from], to: [nodes[i + 1][0], to] })),
      ...beside.wires.map(([from, port, to, into]) => ({ from: [from, port], to: [to, into] })),
    ],
  };
  await page.goto(`${address}/d/${await kept(page, document)}`);
  await page.locator('fx-tag').first().waitFor();
}

/** Runs in the page before it: notes when a pointer moved, when a run was asked for, and when its mesh went to the graphics. */
function watchDrag(): void {
  const log = { asked: 0, fresh: false, times: [] as number[] };
  Object.assign(globalThis, { dragLog: log });
  addEventListener('pointermove', () => (log.asked = performance.now()), true);
  const Real = Worker;
  globalThis.Worker = class extends Real {
    constructor(...given: ConstructorParameters<typeof Real>) {
      super(...given);
      this.addEventListener('message', ({ data }: MessageEvent<{ picture?: unknown }>) => (log.fresh ||= !!data.picture));
    }
  };
  const draw = WebGL2RenderingContext.prototype.drawElements;
  WebGL2RenderingContext.prototype.drawElements = function (mode, count, type, offset) {
    draw.call(this, mode, count, type, offset);
    if (!log.fresh || count < 100_000) return;
    log.fresh = false;
    log.times.push(performance.now() - log.asked);
  };
}

/** A key of a radius ramp dragged in the Path strip, on a tube of 100,000 faces, a step at a time. */
async function drag(page: Page): Promise<void> {
  await page.addInitScript(watchDrag);
  const radius = { ramp: [[0, 0.03], [0.5, 0.02], [1, 0.005]] }; // prettier-ignore
  const helix = { radius: 0.5, height: 12, turns: 60, pointsPerTurn: 104 };
  await opened(
    page,
    [
      ['path', 'lay.helix', helix],
      ['tube', 'skin.tube', { radius, sides: 16 }],
      ['out', 'flow.output', {}],
    ],
    [
      ['curves', 'curves'],
      ['mesh', 'any'],
    ],
  );
  const key = page.locator('fx-path-strip circle').nth(1);
  const { x, y } = (await key.boundingBox())!;
  await page.mouse.move(x + 6, y + 6);
  await page.mouse.down();
  const step = async (i: number): Promise<void> => {
    await page.mouse.move(x + 6 + 2 * Math.sin(i), y + 6 + 6 * Math.sin(i * 0.7));
    await page.waitForTimeout(200);
  };
  // The first steps still compile.
  for (let i = 0; i < 20; i++) await step(i);
  await page.evaluate('dragLog.times.length = 0');
  for (let i = 0; i < 80; i++) await step(i);
  await page.mouse.up();
  const times = await page.evaluate<number[]>('dragLog.times');
  rows.push({
    what: 'a ramp’s key dragged in the Path strip, 100,000 faces: pointer to mesh',
    ours: round(share(times, 0.5)),
    against: '',
    result: `p95 ${round(share(times, 0.95))}`,
    reach: '< 50 ms',
  });
}

/** The table of a million points, from the click on its tab to its first rows. */
async function values(page: Page): Promise<void> {
  await opened(page, [['path', 'lay.helix', { turns: 10_000, pointsPerTurn: 100 }]], []);
  const tab = (name: string) => page.getByRole('tab', { name });
  await page.locator('fx-tag').filter({ hasText: '1 000 001' }).first().waitFor();
  await page.waitForTimeout(1500);
  const times: number[] = [];
  for (let i = 0; i < 8; i++) {
    await tab('Path strip').click();
    await page.waitForTimeout(800);
    times.push(await page.evaluate(firstRow));
  }
  rows.push({
    what: 'Values of a million points, from the click to the rows',
    ours: round(share(times, 0.5)),
    against: `first time ${round(times[0])}`,
    result: `most ${round(Math.max(...times))}`,
    reach: '< 300 ms',
  });
}

/** Runs in the page: clicks on Values and waits for a row. */
async function firstRow(): Promise<number> {
  const begun = performance.now();
  Array.from(document.querySelectorAll<HTMLElement>('[role=tab]'))
    .find((tab) => tab.textContent?.includes('Values'))!
    .click();
  while (!document.querySelector('tr[data-row] td')) {
    if (performance.now() - begun > 10_000) throw new Error('Values shows no row.');
    await new Promise(requestAnimationFrame);
  }
  return performance.now() - begun;
}

/** Runs in the page: a place of the ground with no node on it, far from its edges. */
function bareGround(): [number, number] {
  const { left, top, width, height } = document.querySelector('fx-graph .area')!.getBoundingClientRect();
  for (let y = top + height / 2; y < top + height; y++)
    for (let x = left + width / 3; x < left + width; x++) if (document.elementFromPoint(x, y)?.matches('.area, canvas')) return [x, y];
  throw new Error('There is no bare ground.');
}

/** Opens a graph of 300 nodes. */
async function many(page: Page): Promise<void> {
  const nodes = Array.from({ length: 300 }, (_, i): Node => (i ? [`n${i}`, 'shape.transform', { move: [0, 0.001, 0] }] : ['n0', 'lay.line', {}]));
  await opened(
    page,
    nodes,
    nodes.slice(1).map((_, i) => (i ? ['any', 'any'] : ['curves', 'any'])),
  );
  await page.waitForTimeout(4000);
}

/** Frames a second while a hand that holds something goes about a place, as far as `wide` and `high` pixels from it. */
async function framesWhile(page: Page, about: readonly [number, number], wide: number, high: number): Promise<number> {
  const counting = page.evaluate(async () => {
    const begun = performance.now();
    let frames = 0;
    for (; performance.now() - begun < 4000; frames++) await new Promise(requestAnimationFrame);
    return (frames * 1000) / (performance.now() - begun);
  });
  for (let i = 0; i < 240; i++) {
    await page.mouse.move(about[0] + wide * Math.sin(i / 9), about[1] + high * Math.cos(i / 8));
    await page.waitForTimeout(8);
  }
  return counting;
}

/** The ground of 300 nodes dragged about, frames a second. */
async function pan(page: Page): Promise<void> {
  await many(page);
  const at = await page.evaluate(bareGround);
  const still = (await page.locator('fx-tag').first().boundingBox())!;
  await page.mouse.move(...at);
  await page.mouse.down();
  const rate = await framesWhile(page, at, 80, 40);
  const moved = (await page.locator('fx-tag').first().boundingBox())!;
  if (moved.x === still.x && moved.y === still.y) throw new Error('The ground did not move.');
  await page.mouse.up();
  rows.push({ what: '300 nodes panned', ours: `${rate.toFixed(0)} frames/s`, against: '', result: '', reach: '> 30 frames/s' });
}

/** Runs in the page: drags with the button held over something, and gives how long each frame took, ms, until the graphics had drawn it. */
async function framesOfDrag({ selector, frames }: { selector: string; frames: number }): Promise<number[]> {
  const canvas = document.querySelector<HTMLElement>(selector)!;
  const gl = canvas instanceof HTMLCanvasElement ? canvas.getContext('webgl2') : null;
  const { left, top } = canvas.getBoundingClientRect();
  canvas.setPointerCapture = () => undefined;
  const tell = (type: string, i: number): boolean =>
    canvas.dispatchEvent(new PointerEvent(type, { clientX: left + 200 + i * 4, clientY: top + 120, bubbles: true, pointerId: 1, buttons: 1 }));
  tell('pointerdown', 0);
  const times: number[] = [];
  let last = performance.now();
  for (let i = 0; i < frames; i++) {
    tell('pointermove', i);
    await new Promise(requestAnimationFrame);
    // The graphics work on by themselves until somebody asks for a pixel.
    gl?.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
    times.push(performance.now() - last);
    last = performance.now();
  }
  tell('pointerup', frames);
  return times;
}

const drawn = async (page: Page): Promise<void> => {
  await page.locator('fx-view3d[data-rests]').waitFor({ timeout: 120_000 });
  await page.waitForTimeout(1500);
};

/** The demo of the quay's ropes turned about, and the same without floor and light but what software draws while it moves. */
async function orbit(page: Page): Promise<void> {
  await page.goto(`${address}/d/${await demo(page, 'quay-rail-ropes.json')}`);
  await drawn(page);
  const whole = { selector: 'fx-view3d canvas', frames: 40 };
  const all = await page.evaluate(framesOfDrag, whole);
  await page.getByRole('button', { name: 'View', exact: true }).click();
  for (const name of ['Floor', 'Shadows', 'Contact shade']) await page.getByRole('checkbox', { name }).uncheck();
  await page.keyboard.press('Escape');
  await drawn(page);
  const bare = await page.evaluate(framesOfDrag, whole);
  rows.push({
    what: 'an orbit of Quay rail ropes, 42,000 faces: a frame; against the mesh alone',
    ours: round(share(all, 0.5)),
    against: round(share(bare, 0.5)),
    result: `${(share(all, 0.5) / share(bare, 0.5)).toFixed(2)} ×, p95 ${round(share(all, 0.95))}`,
    reach: '< 33 ms with a graphics card; ≤ 1.3 × in software',
  });
}

/** A million tufts, drawn as copies. */
async function copies(page: Page): Promise<void> {
  const nodes: Node[] = [
    ['ground', 'lay.grid', { size: [100, 100], divisions: 10 }],
    ['places', 'place.scatter', { count: 1_000_000 }],
    ['tufts', 'place.copies', {}],
    ['tuft', 'lay.grid', { size: [0.03, 0.03], divisions: 1 }],
  ];
  await opened(page, nodes.slice(0, 3), [['mesh', 'mesh'], ['points', 'points']], { more: nodes.slice(3), wires: [['tuft', 'mesh', 'tufts', 'objects']] }); // prettier-ignore
  await page
    .locator('fx-view3d [data-fact=points]')
    .filter({ hasText: /1 000 000 copies/ })
    .waitFor();
  await drawn(page);
  const times = await page.evaluate(framesOfDrag, { selector: 'fx-view3d canvas', frames: 12 });
  await drawn(page);
  await page.getByRole('button', { name: 'View', exact: true }).click({ timeout: 120_000 });
  const held = await page.getByText(/MB on the graphics card/).textContent();
  rows.push({
    what: 'an orbit of 1,000,000 copies of two triangles: a frame',
    ours: round(share(times, 0.5)),
    against: held!.trim(),
    result: `p95 ${round(share(times, 0.95))}`,
    reach: 'drawn as instances',
  });
}

/** The UV sheet of 200,000 faces slid about. */
async function sheet(page: Page): Promise<void> {
  await opened(
    page,
    [
      ['path', 'lay.helix', { radius: 0.5, height: 12, turns: 60, pointsPerTurn: 208 }],
      ['tube', 'skin.tube', { radius: 0.03, sides: 16 }],
      ['out', 'flow.output', {}],
    ],
    [
      ['curves', 'curves'],
      ['mesh', 'any'],
    ],
  );
  await drawn(page);
  await page.getByRole('tab', { name: 'UV sheet' }).click();
  await page
    .getByTestId('uv-facts')
    .filter({ hasText: /island/ })
    .waitFor();
  await page.waitForTimeout(1500);
  const times = await page.evaluate(framesOfDrag, { selector: 'fx-uv-sheet .pane', frames: 60 });
  const rate = 1000 / share(times, 0.5);
  rows.push({
    what: 'the UV sheet of 200,000 faces slid about',
    ours: `${rate.toFixed(0)} frames/s`,
    against: '',
    result: `p95 ${round(share(times, 0.95))}`,
    reach: '> 30 frames/s',
  });
}

/** A copy of a demo's document, so that nothing is changed in it. */
async function demo(page: Page, file: string): Promise<string> {
  return kept(page, JSON.parse(readFileSync(resolve(import.meta.dirname, '../demo/documents', file), 'utf8')) as object);
}

/** Runs in the page before it: how long after a key the picture with what it did is drawn. */
function watchKeys(): void {
  const times: number[] = [];
  Object.assign(globalThis, { keyTimes: times });
  addEventListener('keydown', ({ timeStamp }) => requestAnimationFrame(() => setTimeout(() => times.push(performance.now() - timeStamp))), true);
}

/** Letters typed into the search and into a formula on the quay's ropes: from the key to the picture with the letter. */
async function typing(page: Page): Promise<void> {
  await page.addInitScript(watchKeys);
  await page.goto(`${address}/d/${await demo(page, 'quay-rail-ropes.json')}`);
  await drawn(page);
  await page.getByRole('button', { name: 'Search nodes and actions' }).click();
  const letters = async (text: string): Promise<number[]> => {
    await page.evaluate('keyTimes.length = 0');
    for (const letter of text) {
      await page.keyboard.press(letter);
      await page.waitForTimeout(90);
    }
    return page.evaluate<number[]>('keyTimes');
  };
  await letters('thinner');
  for (let i = 0; i < 7; i++) await page.keyboard.press('Backspace');
  await page.waitForTimeout(1000);
  const search: number[] = [];
  for (const wish of ['every second point along the path', 'close the ends', 'count by length', 'a rope between two points']) {
    search.push(...(await letters(wish)));
    await page.keyboard.press('Control+a');
  }
  await page.keyboard.press('Escape');
  await page.locator('fx-tag').filter({ hasText: 'Rope' }).first().click();
  await page.getByRole('tab', { name: 'Settings' }).click();
  await page.locator('fx-setting[data-setting=diameter] .mode').click();
  await page.getByRole('menuitem', { name: 'Formula' }).click();
  await page.locator('fx-formula .cm-content').click();
  await page.keyboard.press('Control+a');
  const formula = await letters('0.02*(1-t)+0.01*sin(s*4)+0.0+0.004*cos(t*9)*(1-t)+0.002*max(t,0.5)');
  for (const [where, times] of [['the search', search], ['a formula that is run once the hand rests', formula]] as const)
    rows.push({ what: `a letter typed into ${where}, to the picture with it`, ours: round(share(times, 0.5)), against: '', result: `p95 ${round(share(times, 0.95))}, most ${round(Math.max(...times))}`, reach: '< 50 ms' }); // prettier-ignore
}

/** The settings of node after node of a demo, from the press on the tag to their fields. It is pressed 600 ms after the one before, as by a hand, so that what that one began is over. */
async function settings(page: Page): Promise<void> {
  await page.goto(`${address}/d/${await demo(page, 'quay-rail-ropes.json')}`);
  await drawn(page);
  await page.getByRole('tab', { name: 'Settings' }).click();
  const times = await page.evaluate(async () => {
    const all: number[] = [];
    const tags = Array.from(document.querySelectorAll<HTMLElement>('fx-tag'));
    for (let round = 0; round < 4; round++)
      for (const tag of tags) {
        const begun = performance.now();
        const { left, top } = tag.getBoundingClientRect();
        tag.setPointerCapture = () => undefined;
        for (const type of ['pointerdown', 'pointerup'])
          tag.dispatchEvent(new PointerEvent(type, { clientX: left + 30, clientY: top + 8, bubbles: true, pointerId: 1 }));
        await new Promise((done) => requestAnimationFrame(() => setTimeout(done)));
        if (round) all.push(performance.now() - begun);
        await new Promise((done) => setTimeout(done, 600));
      }
    return all;
  });
  rows.push({ what: 'settings of a node, from the press on its tag', ours: round(share(times, 0.5)), against: '', result: `p95 ${round(share(times, 0.95))}`, reach: '< 50 ms' }); // prettier-ignore
}

/** A wire dragged about over 300 nodes, frames a second. */
async function wire(page: Page): Promise<void> {
  await many(page);
  const out = (await page.locator('fx-tag[data-node=n42] .out').first().boundingBox())!;
  await page.mouse.move(out.x + out.width / 2, out.y + out.height / 2);
  await page.mouse.down();
  const rate = await framesWhile(page, [280, 280], 180, 160);
  if (!(await page.locator('fx-graph .aimed').count())) throw new Error('No wire was dragged.');
  await page.mouse.up();
  rows.push({ what: 'a wire dragged over 300 nodes', ours: `${rate.toFixed(0)} frames/s`, against: '', result: '', reach: '> 30 frames/s' });
}

/** Every demo, from the click on its card to the fitted graph, and to the counts of its result. */
async function open(page: Page): Promise<void> {
  const cards = ((await (await page.request.get(`${address}/api/documents?count=180`)).json()) as { id: string; title: string; sample: boolean }[]).filter(
    ({ sample }) => sample,
  );
  const times: [fitted: number, counted: number, title: string][] = [];
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  // The first opens the code of the page.
  for (const { id, title } of [cards[0], ...cards]) {
    const own = await context.newPage();
    await own.goto(address);
    await own.getByLabel('Search documents').fill(title);
    const card = own.locator(`.picture[href="/d/${id}"]`);
    await card.waitFor();
    await own.waitForTimeout(1500);
    const begun = performance.now();
    await card.click();
    await own.locator('fx-tag').first().waitFor();
    const fitted = performance.now() - begun;
    await own.locator('[data-fact=faces]').filter({ hasText: /[1-9]/ }).waitFor();
    times.push([fitted, performance.now() - begun, title]);
    await own.close();
  }
  await context.close();
  const all = times.slice(1);
  for (const [fitted, counted, title] of all) console.log(`  ${title}: fitted ${round(fitted)}, counted ${round(counted)}`);
  for (const [k, what] of ['fitted graph', 'counted result'].entries()) {
    const each = all.map((row) => row[k] as number);
    rows.push({ what: `${cards.length} demos opened, from the click on the card to the ${what}`, ours: round(share(each, 0.5)), against: '', result: `most ${round(Math.max(...each))}`, reach: k ? '' : '< 1500 ms' }); // prettier-ignore
  }
}

const works = { drag, values, pan, orbit, copies, sheet, typing, settings, wire, open };
const asked = process.argv.slice(2);
const unknown = asked.find((name) => !Object.hasOwn(works, name));
if (unknown !== undefined) throw new Error(`There is no measure "${unknown}"; there are ${Object.keys(works).join(', ')}.`);
const browser = await chromium.launch({ executablePath: chromiumPath() ?? undefined, args: [...chromiumArguments] });
try {
  for (const [name, work] of Object.entries(works)) {
    if (asked.length && !asked.includes(name)) continue;
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    // What runs in the page was compiled with a helper that keeps the names of functions.
    await page.addInitScript('globalThis.__name = (made) => made');
    await work(page);
    await page.close();
  }
} finally {
  await browser.close();
  for (const id of made) await fetch(`${address}/api/documents/${id}`, { method: 'DELETE' });
}
printTable();
