/**
 * `npm run corpus`: reads thousands of drawings that others made, and compares the total length of their curves with what a browser (Debian's Chromium: tree, styles,
 * transforms, what is drawn) and the package svg-path-properties (length of path data) say. The packages are installed into `.local/corpus` and nothing of them is kept here.
 */
import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { build } from 'esbuild';
import { curveLengths } from '@filaxis/core';
import { FormatError } from '@filaxis/formats';
import { readSvgCurves } from '../packages/formats/src/svg/read.js';
import { chromiumArguments, chromiumPath, needChromium } from './debian.mjs';

const packages = ['bootstrap-icons@1.13.2', '@tabler/icons@3.52.0', 'flag-icons@7.5.0', 'simple-icons@16.37.0', 'lucide-static@1.62.0', '@fortawesome/fontawesome-free@7.3.1', '@mdi/svg@7.4.47']; // prettier-ignore
const root = resolve(import.meta.dirname, '..');
const folder = resolve(root, '.local/corpus');
/** A length, and the relative difference that counts as the same. */
interface Measured {
  readonly sum: number;
  readonly same: number;
}

function filesOf(at: string): string[] {
  return readdirSync(at, { withFileTypes: true, recursive: true })
    .filter((entry) => entry.isFile() && entry.name.endsWith('.svg'))
    .map((entry) => resolve(entry.parentPath, entry.name))
    .sort();
}

/** Runs in the page: the total length of what a drawing shows, in its own user units; a text where the browser cannot say. */
const inPage = `
import { svgPathProperties } from 'svg-path-properties';
const shapes = 'path, line, polyline, polygon, rect, circle, ellipse';
function outline(element) {
  const value = (name) => element[name].baseVal.value;
  switch (element.tagName) {
    case 'path': return element.getAttribute('d') ?? '';
    case 'line': return \`M\${value('x1')} \${value('y1')}L\${value('x2')} \${value('y2')}\`;
    case 'rect': {
      const [x, y, w, h] = ['x', 'y', 'width', 'height'].map(value);
      if (!(w > 0 && h > 0)) return '';
      const has = (name) => element.hasAttribute(name);
      const rx = Math.min(has('rx') ? value('rx') : has('ry') ? value('ry') : 0, w / 2);
      const ry = Math.min(has('ry') ? value('ry') : has('rx') ? value('rx') : 0, h / 2);
      return rx && ry
        ? \`M\${x + rx} \${y}H\${x + w - rx}A\${rx} \${ry} 0 0 1 \${x + w} \${y + ry}V\${y + h - ry}A\${rx} \${ry} 0 0 1 \${x + w - rx} \${y + h}H\${x + rx}A\${rx} \${ry} 0 0 1 \${x} \${y + h - ry}V\${y + ry}A\${rx} \${ry} 0 0 1 \${x + rx} \${y}Z\`
        : \`M\${x} \${y}h\${w}v\${h}h\${-w}Z\`;
    }
    case 'circle': case 'ellipse': {
      const [cx, cy] = [value('cx'), value('cy')];
      const [rx, ry] = element.tagName === 'circle' ? [value('r'), value('r')] : [value('rx'), value('ry')];
      return rx > 0 && ry > 0 ? \`M\${cx - rx} \${cy}A\${rx} \${ry} 0 0 1 \${cx + rx} \${cy}A\${rx} \${ry} 0 0 1 \${cx - rx} \${cy}Z\` : '';
    }
    default: {
      const places = Array.from(element.points, ({ x, y }) => \`\${x} \${y}\`);
      return places.length > 1 ? \`M\${places.join('L')}\${element.tagName === 'polygon' ? 'Z' : ''}\` : '';
    }
  }
}
globalThis.lengthOf = (text) => {
  const holder = document.createElement('div');
  holder.innerHTML = text.slice(text.indexOf('<svg'));
  document.body.append(holder);
  try {
    const svg = holder.querySelector('svg');
    for (let round = 0; round < 5; round++)
      for (const use of [...svg.querySelectorAll('use')]) {
        const href = use.getAttribute('href') ?? use.getAttribute('xlink:href') ?? '';
        const target = svg.querySelector(href);
        if (!target) return 'a use of nothing';
        const group = document.createElementNS('http://www.w3.org/2000/svg', 'g');
        for (const { name, value } of [...use.attributes]) if (!['x', 'y', 'width', 'height', 'href', 'xlink:href'].includes(name)) group.setAttribute(name, value);
        const moved = document.createElementNS('http://www.w3.org/2000/svg', 'g');
        moved.setAttribute('transform', \`translate(\${use.x.baseVal.value} \${use.y.baseVal.value})\`);
        let copy = target.cloneNode(true);
        if (target.tagName === 'symbol') {
          const nested = document.createElementNS('http://www.w3.org/2000/svg', 'svg');
          for (const { name, value } of [...target.attributes]) nested.setAttribute(name, value);
          for (const name of ['width', 'height']) if (use.hasAttribute(name)) nested.setAttribute(name, use.getAttribute(name));
          nested.append(...copy.childNodes);
          copy = nested;
        }
        copy.removeAttribute('id');
        moved.append(copy);
        group.append(moved);
        use.replaceWith(group);
      }
    const base = svg.getScreenCTM().inverse();
    let sum = 0;
    let coarse = false;
    for (const element of svg.querySelectorAll(shapes)) {
      if (element.closest('defs, symbol, clipPath, mask, marker, pattern')) continue;
      const style = getComputedStyle(element);
      if (style.visibility !== 'visible') continue;
      let shown = true;
      for (let at = element; at && at !== holder; at = at.parentElement) shown &&= getComputedStyle(at).display !== 'none';
      if (!shown) continue;
      const d = outline(element);
      if (!d) continue;
      const m = base.multiply(element.getScreenCTM());
      const parts = new svgPathProperties(d);
      let own = parts.getTotalLength();
      // The package cannot measure some arcs; the browser can, to about a hundredth.
      if (!Number.isFinite(own)) {
        const path = document.createElementNS('http://www.w3.org/2000/svg', 'path');
        path.setAttribute('d', d);
        own = path.getTotalLength();
        coarse = true;
      }
      const [sx, sy, dot] = [Math.hypot(m.a, m.b), Math.hypot(m.c, m.d), m.a * m.c + m.b * m.d];
      if (Math.abs(sx - sy) < 1e-6 * sx && Math.abs(dot) < 1e-6 * sx * sy) sum += own * sx;
      // Neither can measure a path that is sized unevenly: the package's places along it are too uneven to add up, the browser's jump between subpaths.
      else return 'a path that is sized unevenly';
    }
    return { sum, same: coarse ? 0.02 : 1e-3 };
  } catch (error) {
    return String(error);
  } finally {
    holder.remove();
  }
};`;

mkdirSync(folder, { recursive: true });
if (!existsSync(resolve(folder, 'package.json'))) writeFileSync(resolve(folder, 'package.json'), '{ "private": true }\n');
const missing = packages.filter((name) => !existsSync(resolve(folder, 'node_modules', name.slice(0, name.lastIndexOf('@')))));
if (missing.length) execFileSync('npm', ['install', '--no-audit', '--no-fund', '--ignore-scripts', ...missing], { cwd: folder, stdio: 'inherit' });
needChromium();
const bundle = await build({ stdin: { contents: inPage, resolveDir: root }, bundle: true, write: false, format: 'iife' });
const browser = await chromium.launch({ executablePath: chromiumPath()!, args: [...chromiumArguments] });
/** A page that can measure. Many drawings fill its memory, so each batch has its own. */
async function newPage(): Promise<Page> {
  const page = await browser.newPage();
  await page.setContent('<!doctype html><body></body>');
  await page.addScriptTag({ content: bundle.outputFiles[0].text });
  return page;
}

const files = filesOf(resolve(folder, 'node_modules'));
const counts = { read: 0, refused: 0, wrong: 0, unknown: 0 };
const told: string[] = [];
const began = performance.now();
let reading = 0;
for (let from = 0; from < files.length; from += 200) {
  const batch = files.slice(from, from + 200);
  const texts = batch.map((file) => readFileSync(file, 'utf8'));
  const page = await newPage();
  const wanted = await page.evaluate(
    (list) => list.map((text) => (globalThis as unknown as { lengthOf: (text: string) => Measured | string }).lengthOf(text)),
    texts,
  );
  await page.close();
  batch.forEach((file, i) => {
    const name = file.slice(folder.length + 14);
    const before = performance.now();
    try {
      const length = curveLengths(readSvgCurves(texts[i])).reduce((sum, each) => sum + each, 0);
      const theirs = wanted[i];
      if (typeof theirs === 'string') {
        counts.unknown++;
        told.push(`unknown  ${name}: ${theirs}`);
      } else if (Math.abs(length - theirs.sum) <= theirs.same * Math.max(theirs.sum, 1e-9)) counts.read++;
      else {
        counts.wrong++;
        told.push(`wrong    ${name}: ${length} against ${theirs.sum}`);
      }
    } catch (error) {
      if (!(error instanceof FormatError)) told.push(`CRASHED  ${name}: ${String(error)}`);
      counts.refused++;
      told.push(`refused  ${name}: ${(error as Error).message}`);
    }
    reading += performance.now() - before;
  });
}
await browser.close();
for (const line of told.slice(0, 60)) console.log(line);
if (told.length > 60) console.log(`… and ${told.length - 60} more`);
console.log(
  `\n${files.length} drawings of ${packages.length} packages: ${counts.read} read, ${counts.refused} refused by name, ${counts.wrong} wrong, ${counts.unknown} that the browser cannot say`,
);
console.log(`${(reading / 1000).toFixed(1)} s to read them, ${((performance.now() - began) / 1000).toFixed(0)} s in all`);
process.exitCode = counts.wrong ? 1 : 0;
