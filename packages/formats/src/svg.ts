import { XMLParser, XMLValidator } from 'fast-xml-parser';
import SvgPath from 'svgpath';
import { curveCount, curvesBounds, makeCurves, paced, type Attribute, type Curves, type GeometrySet } from '@filaxis/core';
import { FormatError } from './errors.js';

/** One element as the parser gives it, with order kept: { tag: children, ':@': attributes }. */
type XmlNode = Record<string, unknown>;

/** A subpath as corners with the places of the handles before and after each. */
interface Subpath {
  points: number[][];
  before: number[][];
  after: number[][];
  closed: boolean;
  /** Lines only. */
  straight: boolean;
}

const attributesOf = (node: XmlNode): Record<string, string> => (node[':@'] ?? {}) as Record<string, string>;
const tagOf = (node: XmlNode): string => Object.keys(node).find((key) => key !== ':@') ?? '';

/** Elements whose content is not drawn where it stands. */
const hidden = new Set(['defs', 'symbol', 'clipPath', 'mask', 'marker', 'pattern', 'style', 'script', 'metadata', 'title', 'desc']);
const deepest = 200;
const mostPoints = 5_000_000;

/**
 * Curves from an SVG drawing (W3C SVG 2): path, line, polyline, polygon, rect, circle and ellipse, with the transforms on them and on the
 * groups around. Every subpath is one Bezier curve in the plane z = 0; one unit is one metre, y is turned up. Not read: text, use, CSS.
 * @throws FormatError with the line or the element of what cannot be read.
 */
export function readSvgCurves(text: string): Curves {
  const valid = XMLValidator.validate(text);
  if (valid !== true) throw new FormatError(`Line ${valid.err.line}: ${valid.err.msg}`);
  const parser = new XMLParser({ preserveOrder: true, ignoreAttributes: false, attributeNamePrefix: '', processEntities: false, removeNSPrefix: true });
  const roots = parsed(parser, text);
  const root = roots.find((node) => tagOf(node) === 'svg');
  if (!root) throw new FormatError('Line 1: there is no svg element.');
  const subpaths: Subpath[] = [];
  walk(root, '', subpaths, 0);
  if (!subpaths.length) throw new FormatError('The drawing has no path, line or shape.');
  return toCurves(subpaths);
}

/** @throws FormatError for what the parser refuses, such as elements nested too deep. */
function parsed(parser: XMLParser, text: string): XmlNode[] {
  try {
    return parser.parse(text) as XmlNode[];
  } catch (error) {
    throw new FormatError(`The drawing cannot be read: ${(error as Error).message}.`);
  }
}

function walk(node: XmlNode, transform: string, out: Subpath[], depth: number): void {
  if (depth > deepest) throw new FormatError(`Elements are nested more than ${deepest} deep.`);
  const tag = tagOf(node);
  if (hidden.has(tag)) return;
  const attributes = attributesOf(node);
  const whole = `${transform} ${attributes['transform'] ?? ''}`.trim();
  const d = pathData(tag, attributes);
  if (d) readPath(d, whole, `<${tag}${attributes['id'] ? ` id="${attributes['id']}"` : ''}> ${out.length + 1}`, out);
  const children = node[tag];
  if (Array.isArray(children)) for (const child of children as XmlNode[]) walk(child, whole, out, depth + 1);
}

/** Path data for a basic shape (the equivalents given in SVG 2, chapter 10), or null for other elements. */
function pathData(tag: string, attributes: Record<string, string>): string | null {
  const n = (name: string): number => {
    const value = parseFloat(attributes[name] ?? '0');
    if (!Number.isFinite(value)) throw new FormatError(`<${tag}>: ${name} is "${attributes[name]}"; it must be a number.`);
    return value;
  };
  switch (tag) {
    case 'path':
      return attributes['d'] ?? null;
    case 'line':
      return `M${n('x1')} ${n('y1')}L${n('x2')} ${n('y2')}`;
    case 'polyline':
    case 'polygon':
      return attributes['points']?.trim() ? `M${attributes['points'].trim()}${tag === 'polygon' ? 'Z' : ''}` : null;
    case 'rect':
      return rectData(
        n('x'),
        n('y'),
        n('width'),
        n('height'),
        Math.min(n(attributes['rx'] ? 'rx' : 'ry'), n('width') / 2),
        Math.min(n(attributes['ry'] ? 'ry' : 'rx'), n('height') / 2),
      );
    case 'circle':
      return ellipseData(n('cx'), n('cy'), n('r'), n('r'));
    case 'ellipse':
      return ellipseData(n('cx'), n('cy'), n('rx'), n('ry'));
    default:
      return null;
  }
}

const ellipseData = (cx: number, cy: number, rx: number, ry: number): string =>
  `M${cx + rx} ${cy}A${rx} ${ry} 0 0 1 ${cx} ${cy + ry}A${rx} ${ry} 0 0 1 ${cx - rx} ${cy}A${rx} ${ry} 0 0 1 ${cx} ${cy - ry}A${rx} ${ry} 0 0 1 ${cx + rx} ${cy}Z`;

function rectData(x: number, y: number, w: number, h: number, rx: number, ry: number): string {
  if (!rx || !ry) return `M${x} ${y}H${x + w}V${y + h}H${x}Z`;
  const arc = (ex: number, ey: number): string => `A${rx} ${ry} 0 0 1 ${ex} ${ey}`;
  return `M${x + rx} ${y}H${x + w - rx}${arc(x + w, y + ry)}V${y + h - ry}${arc(x + w - rx, y + h)}H${x + rx}${arc(x, y + h - ry)}V${y + ry}${arc(x + rx, y)}Z`;
}

function readPath(d: string, transform: string, where: string, out: Subpath[]): void {
  const path = SvgPath(d).transform(transform);
  const fault = (path as unknown as { err?: string }).err;
  if (fault) throw new FormatError(`${where}: ${fault.replace(/^SvgPath: /, '')}.`);
  let current: Subpath | null = null;
  const begin = (x: number, y: number): void => {
    finish();
    current = { points: [[x, -y]], before: [[x, -y]], after: [[x, -y]], closed: false, straight: true };
  };
  const finish = (): void => {
    if (current && current.points.length > 1) out.push(tidied(current));
    current = null;
  };
  const add = (ax: number, ay: number, bx: number, by: number, x: number, y: number): void => {
    const { points, before, after } = current!;
    if (points.length > mostPoints) throw new FormatError(`${where}: more than ${mostPoints} points.`);
    after[points.length - 1] = [ax, -ay];
    points.push([x, -y]);
    before.push([bx, -by]);
    after.push([x, -y]);
  };
  const line = (x: number, y: number, ex: number, ey: number): void => add(x + (ex - x) / 3, y + (ey - y) / 3, ex - (ex - x) / 3, ey - (ey - y) / 3, ex, ey);
  const bend: typeof add = (...places) => {
    current!.straight = false;
    add(...places);
  };
  path
    .abs()
    .unarc()
    .unshort()
    .iterate((segment: (string | number)[], _index: number, x: number, y: number) => {
      const [command, ...v] = segment as [string, ...number[]];
      if (command !== 'M' && !current) begin(x, y);
      if (command === 'M') begin(v[0], v[1]);
      else if (command === 'L') line(x, y, v[0], v[1]);
      else if (command === 'H') line(x, y, v[0], y);
      else if (command === 'V') line(x, y, x, v[0]);
      else if (command === 'C') bend(v[0], v[1], v[2], v[3], v[4], v[5]);
      else if (command === 'Q')
        bend(x + (2 / 3) * (v[0] - x), y + (2 / 3) * (v[1] - y), v[2] + (2 / 3) * (v[0] - v[2]), v[3] + (2 / 3) * (v[1] - v[3]), v[2], v[3]);
      else if (command === 'Z') {
        current!.closed = true;
        finish();
      }
    });
  finish();
}

/** A closed subpath that returns to its first point by itself does not repeat that point. */
function tidied(subpath: Subpath): Subpath {
  const { points, before, after, closed, straight } = subpath;
  const last = points.length - 1;
  if (!closed || last < 2 || Math.hypot(points[0][0] - points[last][0], points[0][1] - points[last][1]) > 1e-9 * (1 + Math.hypot(...points[0]))) return subpath;
  return { points: points.slice(0, last), before: [before[last], ...before.slice(1, last)], after: after.slice(0, last), closed, straight };
}

function toCurves(subpaths: readonly Subpath[]): Curves {
  const starts = new Uint32Array(subpaths.length + 1);
  subpaths.forEach(({ points }, c) => (starts[c + 1] = starts[c] + points.length));
  const total = starts[subpaths.length];
  const positions = new Float32Array(total * 3);
  const handleIn = new Float32Array(total * 3);
  const handleOut = new Float32Array(total * 3);
  let at = 0;
  for (const { points, before, after } of subpaths)
    points.forEach((p, i) => {
      for (let k = 0; k < 2; k++) {
        positions[at + k] = p[k];
        handleIn[at + k] = before[i][k] - p[k];
        handleOut[at + k] = after[i][k] - p[k];
      }
      at += 3;
    });
  const attributes = new Map<string, Attribute>([
    ['handleIn', { carrier: 'point', size: 3, data: handleIn }],
    ['handleOut', { carrier: 'point', size: 3, data: handleOut }],
  ]);
  return makeCurves({
    positions,
    starts,
    closed: Uint8Array.from(subpaths, ({ closed, points }) => (closed && points.length > 2 ? 1 : 0)),
    kind: Uint8Array.from(subpaths, ({ straight }) => (straight ? 0 : 2)),
    attributes,
  });
}

/** The planes that curves can be drawn in: the axes that run to the right and upwards on paper. */
const plans = { plan: [0, 2, -1], front: [0, 1, 1] } as const;

/**
 * A result's curves in plan as an SVG drawing: seen from above, X to the right and −Z upwards, one unit a metre; curves that lie in an upright plane are drawn from the
 * front. Straight curves are lines, smooth ones the cubic spans they are made of.
 * @throws FormatError when the result has no curves.
 */
export function writeSvg(set: GeometrySet): string {
  if (!set.curves?.positions.length) throw new FormatError('There is nothing to write: SVG holds curves, and the result has none.');
  const curves = paced(set.curves);
  const bounds = curvesBounds(curves)!;
  const size = bounds.max.map((value, k) => value - bounds.min[k]);
  const [across, up, sign] = size[2] < 1e-6 * Math.max(...size) && size[1] > 0 ? plans.front : plans.plan;
  const number = (value: number): string => String(Number(value.toPrecision(9)));
  const p = curves.positions;
  const [into, leaving] = ['handleIn', 'handleOut'].map((name) => curves.attributes.get(name)?.data);
  const place = (i: number, handle?: Float32Array): string =>
    `${number(p[i * 3 + across] + (handle?.[i * 3 + across] ?? 0))} ${number(-sign * (p[i * 3 + up] + (handle?.[i * 3 + up] ?? 0)))}`;
  const paths: string[] = [];
  for (let c = 0; c < curveCount(curves); c++) {
    const [from, to] = [curves.starts[c], curves.starts[c + 1]];
    if (to - from < 2) continue;
    const parts = [`M${place(from)}`];
    for (let i = from; i < (curves.closed[c] ? to : to - 1); i++) {
      const next = i + 1 < to ? i + 1 : from;
      if (curves.kind[c]) parts.push(`C${place(i, leaving)} ${place(next, into)} ${place(next)}`);
      else if (next !== from) parts.push(`L${place(next)}`);
    }
    if (curves.closed[c]) parts.push('Z');
    paths.push(`  <path d="${parts.join('')}"/>`);
  }
  const [x0, x1] = [bounds.min[across], bounds.max[across]];
  const edges = [-sign * bounds.min[up], -sign * bounds.max[up]];
  const [y0, y1] = [Math.min(...edges), Math.max(...edges)];
  const margin = Math.max(x1 - x0, y1 - y0) * 0.02 || 1;
  const box = [x0 - margin, y0 - margin, x1 - x0 + 2 * margin, y1 - y0 + 2 * margin].map(number).join(' ');
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${box}" fill="none" stroke="black" stroke-width="${number(margin / 10)}">\n${paths.join('\n')}\n</svg>\n`;
}
