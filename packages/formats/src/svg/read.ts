import { XMLParser, XMLValidator } from 'fast-xml-parser';
import type { Curves } from '@filaxis/core';
import { FormatError } from '../errors.js';
import { lengthOf, type Viewport } from './lengths.js';
import { identity, readTransform, times, translation, type Matrix } from './matrix.js';
import { shapeData } from './shapes.js';
import { StyleSheets } from './styles.js';
import { readPath, toCurves, type Subpath } from './subpaths.js';

/** One element as the parser gives it, with order kept: { tag: children, ':@': attributes }. */
type XmlNode = Record<string, unknown>;

const attributesOf = (node: XmlNode): Record<string, string> => (node[':@'] ?? {}) as Record<string, string>;
const tagOf = (node: XmlNode): string => Object.keys(node).find((key) => key !== ':@') ?? '';
const childrenOf = (node: XmlNode): readonly XmlNode[] => {
  const children = node[tagOf(node)];
  return Array.isArray(children) ? (children as XmlNode[]) : [];
};

/** Elements whose content is not drawn where it stands. */
const elsewhere = new Set(['defs', 'symbol', 'clippath', 'mask', 'marker', 'pattern', 'style', 'script', 'metadata', 'title', 'desc', 'lineargradient', 'radialgradient', 'filter', 'foreignobject', 'text']); // prettier-ignore
const deepest = 200;
/** Elements that may be looked at, those that `use` repeats counted each time. */
const mostElements = 500_000;

/** Where an element stands. */
interface Place {
  readonly matrix: Matrix;
  readonly viewport: Viewport;
  readonly visible: boolean;
  readonly depth: number;
  /** Elements that a `use` around stands for, so that none stands for itself. */
  readonly using: readonly XmlNode[];
}

/**
 * Curves from an SVG drawing (W3C SVG 2): path, line, polyline, polygon, rect, circle and ellipse, where they are drawn: with transforms (attributes and CSS),
 * nested drawings and their view boxes, `use` and `symbol`, units and percentages; not what is hidden. Every subpath is one Bezier curve in the plane z = 0; one user
 * unit of the drawing is one metre, y is turned up. Text is not read.
 * @throws FormatError with the line or the element of what cannot be read.
 */
export function readSvgCurves(text: string): Curves {
  const valid = XMLValidator.validate(text);
  if (valid !== true) throw new FormatError(`Line ${valid.err.line}: ${valid.err.msg}`);
  const parser = new XMLParser({ preserveOrder: true, ignoreAttributes: false, attributeNamePrefix: '', processEntities: false, removeNSPrefix: true });
  const root = parsed(parser, text).find((node) => tagOf(node) === 'svg');
  if (!root) throw new FormatError('Line 1: there is no svg element.');
  const subpaths = new Drawing(root).subpaths();
  if (!subpaths.length) throw new FormatError('The drawing has no path, line or shape that is drawn.');
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

/** One drawing while it is read. */
class Drawing {
  private readonly byId = new Map<string, XmlNode>();
  private readonly sheets = new StyleSheets();
  private readonly out: Subpath[] = [];
  private elements = 0;

  constructor(private readonly root: XmlNode) {
    this.index(root, 0);
  }

  subpaths(): Subpath[] {
    const { width, height, viewBox } = attributesOf(this.root);
    const box = numbersOf(viewBox);
    const usual = { width: 100, height: 100 };
    const given = { width: lengthOf(width ?? '', 0, usual), height: lengthOf(height ?? '', 1, usual) };
    // The drawing's own user units are what counts, so its outermost size scales nothing.
    const viewport = box ? { width: box[2], height: box[3] } : { width: given.width || 100, height: given.height || 100 };
    const visible = this.isVisible(this.root, true);
    if (visible !== null) this.children(this.root, { matrix: this.transformOf(this.root, viewport), viewport, visible, depth: 0, using: [] });
    return this.out;
  }

  private index(node: XmlNode, depth: number): void {
    if (depth > deepest) throw new FormatError(`Elements are nested more than ${deepest} deep.`);
    const { id } = attributesOf(node);
    if (id !== undefined && !this.byId.has(id)) this.byId.set(id, node);
    if (tagOf(node) === 'style') this.sheets.add(childrenOf(node).map((child) => String(child['#text'] ?? '')).join('')); // prettier-ignore
    for (const child of childrenOf(node)) this.index(child, depth + 1);
  }

  private nameOf(node: XmlNode): string {
    const { id } = attributesOf(node);
    return `<${tagOf(node)}${id ? ` id="${id}"` : ''}> ${this.out.length + 1}`;
  }

  /** Whether an element is drawn as its surroundings are; null: neither it nor anything in it. */
  private isVisible(node: XmlNode, around: boolean): boolean | null {
    const { display, visibility } = this.sheets.of(tagOf(node), attributesOf(node));
    if (display === 'none') return null;
    return visibility === undefined || visibility === 'inherit' ? around : visibility === 'visible';
  }

  private transformOf(node: XmlNode, viewport: Viewport): Matrix {
    const { transform, 'transform-origin': origin } = this.sheets.of(tagOf(node), attributesOf(node));
    if (!transform) return identity;
    const where = this.nameOf(node);
    const length = (text: string, direction: 0 | 1): number => lengthOf(text, direction, viewport);
    const matrix = readTransform(transform, where, length);
    if (!origin) return matrix;
    const words = origin.trim().split(/\s+/);
    const sides: Readonly<Record<string, string>> = { left: '0%', top: '0%', center: '50%', right: '100%', bottom: '100%' };
    const [x, y] = [length(sides[words[0]] ?? words[0], 0), length(sides[words[1] ?? 'center'] ?? words[1], 1)];
    if (!Number.isFinite(x) || !Number.isFinite(y)) throw new FormatError(`${where}: the transform-origin "${origin}" cannot be read.`);
    return times(times(translation(x, y), matrix), translation(-x, -y));
  }

  private children(node: XmlNode, place: Place): void {
    const children = childrenOf(node);
    // Of a switch the first child that nothing speaks against is drawn.
    const drawn = tagOf(node) === 'switch' ? children.filter((child) => tagOf(child) !== '#text' && attributesOf(child)['requiredExtensions'] === undefined).slice(0, 1) : children; // prettier-ignore
    for (const child of drawn) this.draw(child, place);
  }

  private draw(node: XmlNode, { matrix, viewport, visible, depth, using }: Place): void {
    const tag = tagOf(node);
    if (tag === '#text' || elsewhere.has(tag.toLowerCase())) return;
    if (depth > deepest) throw new FormatError(`Elements are nested more than ${deepest} deep.`);
    if (++this.elements > mostElements)
      throw new FormatError(`The drawing has more than ${mostElements} elements, those that are used again counted each time.`);
    const shown = this.isVisible(node, visible);
    if (shown === null) return;
    const attributes = attributesOf(node);
    const place: Place = { matrix: times(matrix, this.transformOf(node, viewport)), viewport, visible: shown, depth: depth + 1, using };
    if (tag === 'use') this.use(node, place);
    else if (tag === 'svg') this.nested(node, attributes, place);
    else {
      const length = (name: string, direction: 0 | 1 | 2): number => this.lengthAt(node, attributes[name] ?? '0', name, direction, viewport);
      const data = shown ? shapeData(tag, attributes, length) : null;
      if (data) readPath(data, place.matrix, this.nameOf(node), this.out);
      this.children(node, place);
    }
  }

  /** @throws FormatError for a length that cannot be read. */
  private lengthAt(node: XmlNode, text: string, name: string, direction: 0 | 1 | 2, viewport: Viewport): number {
    const value = lengthOf(text, direction, viewport);
    if (!Number.isFinite(value)) throw new FormatError(`${this.nameOf(node)}: ${name} is "${text}"; it must be a length.`);
    return value;
  }

  /** Draws what a `use` stands for at its place (SVG 2, 5.6). */
  private use(node: XmlNode, place: Place): void {
    const { href = '', x = '0', y = '0', width, height } = attributesOf(node);
    const target = href.startsWith('#') ? this.byId.get(href.slice(1)) : undefined;
    if (!target) throw new FormatError(`${this.nameOf(node)}: it uses "${href}", which is not in the drawing.`);
    if (place.using.includes(target)) throw new FormatError(`${this.nameOf(node)}: "${href}" uses itself.`);
    const [dx, dy] = [this.lengthAt(node, x, 'x', 0, place.viewport), this.lengthAt(node, y, 'y', 1, place.viewport)];
    const inner: Place = { ...place, matrix: times(place.matrix, translation(dx, dy)), using: [...place.using, target] };
    const tag = tagOf(target);
    if (tag !== 'symbol' && tag !== 'svg') return this.draw(target, inner);
    const shown = this.isVisible(target, inner.visible);
    if (shown === null) return;
    const size = { ...attributesOf(target), ...(width !== undefined && { width }), ...(height !== undefined && { height }) };
    this.nested(target, size, { ...inner, visible: shown });
  }

  /** Draws the content of a nested drawing or symbol into its viewport, by its view box (SVG 2, 8.2). */
  private nested(node: XmlNode, attributes: Readonly<Record<string, string>>, place: Place): void {
    const { viewport } = place;
    const at = (name: string, usual: string, direction: 0 | 1): number => {
      const given = attributes[name] ?? usual;
      return this.lengthAt(node, given === 'auto' ? usual : given, name, direction, viewport);
    };
    const [x, y, width, height] = [at('x', '0', 0), at('y', '0', 1), at('width', '100%', 0), at('height', '100%', 1)];
    if (!(width > 0 && height > 0)) return;
    const box = numbersOf(attributes['viewBox']);
    const fitted = box ? fit(box, width, height, attributes['preserveAspectRatio'] ?? '') : identity;
    const inside = box ? { width: box[2], height: box[3] } : { width, height };
    this.children(node, { ...place, matrix: times(times(place.matrix, translation(x, y)), fitted), viewport: inside });
  }
}

/** Four numbers of a view box; null where it is none, or empty. */
function numbersOf(text: string | undefined): readonly [number, number, number, number] | null {
  const numbers = (text ?? '').split(/[\s,]+/).filter(Boolean).map(Number); // prettier-ignore
  if (numbers.length !== 4 || !numbers.every(Number.isFinite) || !(numbers[2] > 0 && numbers[3] > 0)) return null;
  return numbers as unknown as readonly [number, number, number, number];
}

/** Maps a view box onto a viewport, keeping its proportions unless told otherwise. */
function fit([x, y, w, h]: readonly [number, number, number, number], width: number, height: number, aspect: string): Matrix {
  const [sx, sy] = [width / w, height / h];
  if (/\bnone\b/.test(aspect)) return times([sx, 0, 0, sy, 0, 0], translation(-x, -y));
  const scale = /\bslice\b/.test(aspect) ? Math.max(sx, sy) : Math.min(sx, sy);
  const share = (axis: 'x' | 'Y'): number => (new RegExp(`${axis}Min`).test(aspect) ? 0 : new RegExp(`${axis}Max`).test(aspect) ? 1 : 0.5);
  return times(times(translation((width - w * scale) * share('x'), (height - h * scale) * share('Y')), [scale, 0, 0, scale, 0, 0]), translation(-x, -y));
}
