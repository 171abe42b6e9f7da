/**
 * `npm run screenshots`: pictures of the main views from the demo data to `docs/screenshots`, and the demo documents' own pictures to
 * `demo/documents`. Needs the built application.
 */
import { spawn } from 'node:child_process';
import { mkdirSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { chromium } from '@playwright/test';
import { needWeb } from './build.mjs';
import { chromiumArguments, chromiumPath, needChromium } from './debian.mjs';

const root = resolve(import.meta.dirname, '..');
const port = 4397;
const address = `http://127.0.0.1:${port}`;
const demos = resolve(root, 'demo/documents');
const pictures = resolve(root, 'docs/screenshots');
needWeb();
needChromium();
mkdirSync(pictures, { recursive: true });
for (const file of readdirSync(demos)) if (file.endsWith('.png')) rmSync(resolve(demos, file));

const server = spawn(process.execPath, ['scripts/test-server.mjs', String(port), 'pictures'], { cwd: root, stdio: ['ignore', 'pipe', 'inherit'] });
await new Promise((done) => server.stdout.once('data', done));
const browser = await chromium.launch({
  executablePath: chromiumPath(),
  args: chromiumArguments,
});
let failed = null;
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme: 'light' });
  await page.addInitScript(() => localStorage.setItem('filaxis-smooth-edges', 'on'));

  const cards = await (await fetch(`${address}/api/documents`)).json();
  const idOf = (title) => cards.find((card) => card.title === title).id;
  const fileOf = (title) => title.toLowerCase().replace(/ /g, '-');
  const open = async (title) => {
    await page.goto(`${address}/d/${idOf(title)}`);
    await page.waitForFunction(() => Number(document.querySelector('[data-fact=faces]')?.textContent?.replace(/\D/g, '')) > 0);
    // Whole scenes, whatever is chosen.
    await page.locator('fx-view-shows').getByText('Outputs', { exact: true }).click();
    await page.waitForTimeout(1500);
  };
  const look = async (name) => {
    await page.getByRole('combobox', { name: 'How surfaces look' }).click();
    await page.getByRole('option', { name, exact: true }).click();
  };
  const shoot = async (name) => {
    await page.waitForTimeout(1200);
    // The still picture, with its shadows, comes when nothing moves any more.
    if (await page.locator('fx-view3d').count()) await page.locator('fx-view3d[data-rests]').waitFor({ timeout: 60_000 });
    await page.screenshot({ path: resolve(pictures, `${name}.png`) });
  };

  for (const { title, id } of cards) {
    await open(title);
    let answer;
    for (let tries = 0; tries < 60 && !answer?.ok; tries++) {
      await page.waitForTimeout(250);
      answer = await fetch(`${address}/api/documents/${id}/picture`);
    }
    if (!answer.ok) throw new Error(`${title} made no picture.`);
    writeFileSync(resolve(demos, `${fileOf(title)}.png`), Buffer.from(await answer.arrayBuffer()));
  }

  await page.goto(address);
  await page.waitForSelector('.card img');
  await shoot('library');

  await open('Quay rail ropes');
  await page.locator('fx-tag[data-node=rope]').click();
  await page.getByRole('tab', { name: 'Settings' }).click();
  await shoot('ropewalk');

  await open('Lamp cable');
  await page.locator('fx-tag[data-node=cable]').click();
  await page.getByRole('tab', { name: 'Settings' }).click();
  await page.getByRole('button', { name: 'Frames', exact: true }).click();
  await page.locator('fx-setting[data-setting=radius] .linked').click();
  const strip = await page.locator('fx-path-strip').boundingBox();
  await page.mouse.move(strip.x + strip.width * 0.52, strip.y + 50);
  await shoot('frames-and-ramp');

  await open('Lamp cable');
  await page.locator('fx-tag[data-node=cable]').click();
  await page.getByRole('tab', { name: 'Settings' }).click();
  await page.locator('fx-setting[data-setting=radius] .mode').click();
  await page.getByRole('menuitem', { name: 'Formula' }).click();
  const formula = page.locator('fx-setting[data-setting=radius] .cm-content');
  await formula.click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('0.02 + 0.03*smoothstep(0.8, 1, abs(2*t - 1)) + 0.004*sin(20*s)');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await page.locator('fx-results').getByRole('button', { name: 'Rows' }).click();
  await page.getByRole('menuitemcheckbox', { name: 'checker' }).click();
  await page.keyboard.press('Escape');
  await shoot('formula-and-path-strip');

  await open('Quay rail ropes');
  await page.locator('fx-tag[data-node=rope]').click();
  await page.getByRole('tab', { name: 'Values' }).click();
  await page.getByLabel('Filter by a formula').fill('y > 0.98');
  await page.waitForTimeout(500);
  await page.locator('fx-values thead button').nth(2).click();
  await page.getByRole('button', { name: 'Show as colour' }).click();
  await shoot('values-and-colour');

  await open('Deck hose');
  await page.getByRole('tab', { name: /Dials/ }).click();
  await page.getByRole('tab', { name: /Checks/ }).click();
  await page.getByRole('button', { name: 'Show me' }).first().click();
  await shoot('checks');

  await open('Mooring chain');
  await page.getByRole('tab', { name: /Dials/ }).click();
  const slider = page.locator('fx-dials input[type=range]').first();
  for (let step = 0; step < 2; step++) {
    await slider.focus();
    await page.keyboard.press('ArrowRight');
    await page.waitForTimeout(3200);
  }
  await page.getByRole('tab', { name: 'History' }).click();
  await page.locator('fx-history .row').first().click();
  await shoot('history');
  const { token } = await (await fetch(`${address}/api/documents/${idOf('Beacon cage')}/handout`, { method: 'POST' })).json();
  await page.goto(`${address}/h/${token}`);
  await page.waitForFunction(() => Number(document.querySelector('[data-fact=faces]')?.textContent?.replace(/\D/g, '')) > 0);
  await shoot('handout');

  await page.goto(`${address}/formulas`);
  await shoot('formulas');

  await open('Pump house pipes');
  await look('Checker');
  await page.getByRole('button', { name: 'Wire', exact: true }).click();
  await page.getByRole('tab', { name: /Dials/ }).click();
  await page.locator('fx-tag[data-node=outlet]').focus();
  await page.keyboard.press('n');
  await shoot('checker-and-search');

  await open('Dune rope walk');
  await page.locator('fx-graph').getByRole('button', { name: 'Fit', exact: true }).click();
  await page.locator('fx-tag[data-node=lie]').click();
  await page.getByRole('tab', { name: 'Settings' }).click();
  await page.locator('fx-view3d').hover();
  for (let turn = 0; turn < 4; turn++) await page.mouse.wheel(0, -240);
  await shoot('on-bodies');

  await open('Bollard lashing');
  await page.locator('fx-tag[data-node=rope]').click();
  await page.getByRole('tab', { name: /Dials/ }).click();
  await shoot('sections');

  await open('Fender rack');
  await page.locator('fx-tag[data-node=links]').click();
  await page.getByRole('tab', { name: 'Settings' }).click();
  await shoot('links-and-loops');

  await open('Sea pea on the ice-house');
  await page.getByRole('tab', { name: 'Timeline' }).click();
  await page.getByLabel('Frame', { exact: true }).fill('96');
  await page.keyboard.press('Enter');
  await page.waitForTimeout(2000);
  await shoot('growth-and-timeline');

  await open('Eelgrass bed');
  await page.locator('fx-tag[data-node=plants]').click();
  await page.getByRole('tab', { name: 'Settings' }).click();
  await shoot('branching-rules');

  await open('Scale lean-to');
  await page.locator('fx-graph').getByRole('button', { name: 'Fit', exact: true }).click();
  await page.locator('fx-tag[data-node=scales]').click();
  await page.getByRole('tab', { name: 'Settings' }).click();
  await shoot('panels');

  await open('Clinker dinghy');
  await page.getByRole('tab', { name: /Dials/ }).click();
  await page.locator('fx-tag').filter({ hasText: 'Loft' }).first().focus();
  await page.getByRole('tab', { name: /UV sheet/ }).click();
  await look('Checker');
  await page.locator('fx-view3d canvas').first().focus();
  await page.keyboard.press('w');
  await page.waitForTimeout(2000);
  await shoot('cut-and-uv-sheet');

  await open('Deck hose');
  await page.locator('fx-graph').getByRole('button', { name: 'Fit', exact: true }).click();
  await page.locator('fx-tag[data-node=course]').click();
  await page.getByRole('tab', { name: 'Settings' }).click();
  await page.getByRole('button', { name: 'Point 8 of curve 1', exact: true }).focus();
  await page.keyboard.press('ArrowLeft');
  await shoot('curve-editing');

  await page.evaluate(() => localStorage.setItem('filaxis.theme', 'dark'));
  await open('Quay rail ropes');
  await page.getByRole('tab', { name: /Dials/ }).click();
  await shoot('ropewalk-dark');
} catch (error) {
  failed = error;
}
await browser.close();
server.kill('SIGTERM');
await new Promise((done) => server.once('exit', done));
if (failed) console.error(failed);
else console.log('Pictures are in docs/screenshots and demo/documents.');
process.exit(failed ? 1 : 0);
