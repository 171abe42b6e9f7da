/**
 * `npm run bench:browser [-- drag values pan]`: how soon the interface answers, in Debian's Chromium, against the address where `npm start` serves (FILAXIS_URL, or the usual
 * one). Not a test: figures depend on the machine, and where software draws the drawing itself takes longer than all the rest; so the drag is measured up to the
 * moment when the mesh is handed to the graphics.
 */
import { chromium, type Page } from '@playwright/test';
import { chromiumArguments, chromiumPath } from '../scripts/debian.mjs';
import { printTable, rows } from './timing.js';

const address = process.env['FILAXIS_URL'] ?? 'http://127.0.0.1:4310';
const round = (value: number): string => `${value.toFixed(0)} ms`;
const share = (times: readonly number[], part: number): number => [...times].sort((a, b) => a - b)[Math.floor(times.length * part)];

type Node = readonly [id: string, type: string, settings: object];

/** Opens a new document with nodes in a row, each wired to the next by its first output and input. */
async function opened(page: Page, nodes: readonly Node[], ports: readonly (readonly [string, string])[]): Promise<void> {
  const document = {
    format: 'filaxis-graph',
    version: 1,
    title: 'Bench',
    nodes: nodes.map(([id, type, settings], i) => ({ id, type, settings, at: [(i % 20) * 180, Math.floor(i / 20) * 90] })),
    wires: ports.map(([from, to], i) => ({ from: [nodes[i][0], from], to: [nodes[i + 1][0], to] })),
  };
  const answer = await page.request.post(`${address}/api/documents`, { data: { document } });
  if (!answer.ok()) throw new Error(`The document was refused: ${await answer.text()}`);
  await page.goto(`${address}/d/${((await answer.json()) as { id: string }).id}`);
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

/** The ground of 300 nodes dragged about, frames a second. */
async function pan(page: Page): Promise<void> {
  const nodes = Array.from({ length: 300 }, (_, i): Node => (i ? [`n${i}`, 'shape.transform', { move: [0, 0.001, 0] }] : ['n0', 'lay.line', {}]));
  await opened(
    page,
    nodes,
    nodes.slice(1).map((_, i) => (i ? ['any', 'any'] : ['curves', 'any'])),
  );
  await page.waitForTimeout(4000);
  const [x, y] = await page.evaluate(bareGround);
  const still = (await page.locator('fx-tag').first().boundingBox())!;
  await page.mouse.move(x, y);
  await page.mouse.down();
  const counting = page.evaluate(async () => {
    const begun = performance.now();
    let frames = 0;
    for (; performance.now() - begun < 4000; frames++) await new Promise(requestAnimationFrame);
    return (frames * 1000) / (performance.now() - begun);
  });
  for (let i = 0; i < 240; i++) {
    await page.mouse.move(x + 80 * Math.sin(i / 9), y + 40 * Math.cos(i / 9));
    await page.waitForTimeout(8);
  }
  const rate = await counting;
  const moved = (await page.locator('fx-tag').first().boundingBox())!;
  if (moved.x === still.x && moved.y === still.y) throw new Error('The ground did not move.');
  await page.mouse.up();
  rows.push({ what: '300 nodes panned', ours: `${rate.toFixed(0)} frames/s`, against: '', result: '', reach: '> 30 frames/s' });
}

const works = { drag, values, pan };
const asked = process.argv.slice(2);
const unknown = asked.find((name) => !Object.hasOwn(works, name));
if (unknown !== undefined) throw new Error(`There is no measure "${unknown}"; there are ${Object.keys(works).join(', ')}.`);
const browser = await chromium.launch({ executablePath: chromiumPath() ?? undefined, args: [...chromiumArguments] });
try {
  for (const [name, work] of Object.entries(works)) {
    if (asked.length && !asked.includes(name)) continue;
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await work(page);
    await page.close();
  }
} finally {
  await browser.close();
}
printTable();
