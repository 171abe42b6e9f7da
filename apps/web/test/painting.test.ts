/** What is painted under the tags: wires told apart by form, dots, and no more of them than the view needs. */
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { requireDocument, type PortKind, type Wire } from '@filaxis/core';
import { Ground } from '../src/app/ropewalk/graph/ground';
import { Viewport } from '../src/app/ropewalk/graph/viewport';
import { paintGround, paintWire, readInks, type WireInks } from '../src/app/ropewalk/graph/wire-painter';
import type { WirePath } from '../src/app/ropewalk/graph/wire-route';

type Call = readonly [name: string, ...given: number[]];
/** A brush that remembers what it was asked, with the ink it had then. */
class Brush {
  readonly calls: Call[] = [];
  readonly inks: string[] = [];
  readonly widths: number[] = [];
  strokeStyle = '';
  fillStyle = '';
  lineWidth = 1;
  globalAlpha = 1;
  readonly as = new Proxy(this, {
    get: (brush, name: string) =>
      name in brush ? brush[name as keyof Brush] : (...given: number[]) => {
        brush.calls.push([name, ...given]);
        if (name === 'stroke' || name === 'fill') {
          brush.inks.push(name === 'stroke' ? brush.strokeStyle : brush.fillStyle);
          brush.widths.push(brush.lineWidth);
        }
      },
  }) as unknown as CanvasRenderingContext2D; // prettier-ignore
  of = (name: string): number[][] => this.calls.filter(([each]) => each === name).map(([, ...given]) => given);
}
const inks = Object.fromEntries(['walnut', 'hemp', 'band', 'chevron', 'verdigris', 'madder', 'indigo', 'linen', 'dot', 'woad'].map((name) => [name, name])) as unknown as WireInks; // prettier-ignore
/** A straight wire from 0 to 160 at height 10. */
const straight: WirePath = [[{ x: 0, y: 10 }, { x: 160 / 3, y: 10 }, { x: 320 / 3, y: 10 }, { x: 160, y: 10 }]]; // prettier-ignore
function painted(kind: PortKind, zoom = 1, chosen = false): Brush {
  const brush = new Brush();
  paintWire(brush.as, kind, straight, inks, zoom, chosen);
  return brush;
}

describe('a wire', () => {
  test('of points is a string of beads, eight apart, on the wire', () => {
    const brush = painted('points');
    const beads = brush.of('arc');
    expect(beads).toHaveLength(20);
    beads.forEach(([x, y, radius], i) => expect([x, y, radius].map((value) => Number(value.toFixed(6)))).toEqual([4 + i * 8, 10, 2.5]));
    expect(new Set(brush.inks)).toEqual(new Set(['verdigris']));
  });

  test('of copies is a chain, whose links lie and stand by turns', () => {
    const links = painted('copies').of('ellipse');
    expect(links).toHaveLength(20);
    expect(links.map(([, , , high]) => high)).toEqual(links.map((_, i) => (i % 2 ? 1.2 : 3)));
    expect(links.every(([, , long, , angle]) => long === 5.4 && Math.abs(angle) < 1e-12)).toBe(true);
  });

  test('of curves is a twisted cord: strands aslant, inside the cord', () => {
    const brush = painted('curves');
    expect([brush.inks, brush.widths]).toEqual([['walnut', 'hemp'], [5.5, 1.9]]); // prettier-ignore
    // The first is where the cord itself begins.
    const [, ...from] = brush.of('moveTo');
    const to = brush.of('lineTo');
    expect([from.length, to.length]).toEqual([36, 36]);
    for (const [i, [x, y]] of from.entries()) {
      expect([x < to[i][0], y > to[i][1]]).toEqual([true, true]);
      for (const value of [y, to[i][1]]) expect(Math.abs(value - 10)).toBeLessThan(5.5 / 2);
    }
  });

  test('of meshes is a band of chevrons that point where the wire goes', () => {
    const brush = painted('mesh');
    expect([brush.inks, brush.widths]).toEqual([['band', 'chevron'], [9, 1.3]]); // prettier-ignore
    const tips = brush.of('lineTo').filter((_, i) => i % 2 === 0);
    const [, ...tails] = brush.of('moveTo');
    expect(tips).toHaveLength(27);
    tips.forEach(([x, y], i) => expect([x > tails[i][0], Math.abs(y - 10) < 1e-9]).toEqual([true, true]));
  });

  test('of numbers is a thread; so is one whose kind is not known', () => {
    for (const kind of ['number', 'vector', 'any'] as const) expect([painted(kind).inks, painted(kind).widths]).toEqual([['madder'], [1.4]]);
  });

  test('from afar has one line and a sign that stays as large on screen; from farther the line alone', () => {
    const brush = painted('copies', 0.5);
    expect(brush.inks).toEqual(['indigo', 'linen', 'indigo']);
    expect(brush.widths[0]).toBeCloseTo(3.6, 9);
    expect([brush.of('translate'), brush.of('scale')]).toEqual([[[80, 10]], [[2, 2]]]);
    expect(painted('mesh', 0.2).widths).toEqual([10]);
    expect([painted('mesh', 0.2).of('scale'), painted('number', 0.5).of('scale')]).toEqual([[], []]);
    // With its texture from here on.
    expect([painted('points', 0.6).of('arc').length, painted('points', 0.59).of('arc').length]).toEqual([20, 2]);
  });

  test('that is chosen lies on a glow, which the others do not get', () => {
    const brush = painted('number', 1, true);
    expect([brush.inks, brush.widths, brush.globalAlpha]).toEqual([['woad', 'madder'], [13, 1.4], 1]); // prettier-ignore
  });
});

test('inks are those of the theme', () => {
  vi.stubGlobal('getComputedStyle', () => ({ getPropertyValue: (name: string) => ` ${name.slice(2)} ` }));
  expect(readInks({} as Element)).toEqual(inks);
  vi.unstubAllGlobals();
});

test('dots go with the view, and are never nearer than 14 pixels', () => {
  const dots = (zoom: number, pan = { x: 0, y: 0 }): number[][] => {
    const brush = new Brush();
    paintGround(brush.as, 200, 100, pan, zoom, inks);
    return brush.of('fillRect');
  };
  const gapOf = (all: number[][]): number => all[1][0] - all[0][0];
  expect([gapOf(dots(1)), gapOf(dots(2)), gapOf(dots(0.5)), gapOf(dots(0.1))].map((gap) => Number(gap.toFixed(6)))).toEqual([22, 44, 22, 17.6]);
  expect([dots(1)[0].slice(0, 2), dots(1, { x: -5, y: 30 })[0].slice(0, 2)]).toEqual([[-0.9, -0.9], [17 - 0.9, 8 - 0.9]]); // prettier-ignore
  expect(dots(1)).toHaveLength(10 * 5);
});

describe('the ground', () => {
  const brush = { now: new Brush() };
  const canvas = { style: { transform: '' }, width: 0, height: 0, getContext: () => brush.now.as };
  let viewport: Viewport;
  let ground: Ground;
  const nodes = [
    { id: 'line', type: 'lay.line', at: [100, 100] as const },
    { id: 'tube', type: 'skin.tube', at: [400, 100] as const },
    { id: 'far', type: 'lay.line', at: [9000, 100] as const },
    { id: 'farther', type: 'skin.tube', at: [9400, 100] as const },
  ];
  const wires: Wire[] = [{ from: ['line', 'curves'], to: ['tube', 'curves'] }, { from: ['far', 'curves'], to: ['farther', 'curves'] }]; // prettier-ignore
  const document = requireDocument({ format: 'filaxis-graph', version: 1, title: 'Test', nodes, wires });
  const paint = (more: object = {}): Brush => {
    brush.now = new Brush();
    ground.paint({ document, states: {}, selected: null, inks, pulled: null, ...more });
    return brush.now;
  };
  beforeEach(() => {
    vi.stubGlobal('devicePixelRatio', 2);
    vi.stubGlobal('document', { createElement: () => ({ getContext: () => null }) });
    viewport = new Viewport();
    viewport.resize(800, 600, nodes.slice(0, 2));
    ground = new Ground(canvas as unknown as HTMLCanvasElement, viewport);
  });
  afterEach(() => vi.unstubAllGlobals());

  test('is painted at the pixels of the screen, with 240 more on each side', () => {
    const { calls } = paint();
    expect([canvas.width, canvas.height]).toEqual([(800 + 480) * 2, (600 + 480) * 2]);
    expect(calls.slice(0, 2)).toEqual([['setTransform', 2, 0, 0, 2, 0, 0], ['clearRect', 0, 0, 1280, 1080]]); // prettier-ignore
  });

  test('has the wires that are near, but not the one in the hand', () => {
    const cords = (more: object = {}): number => paint(more).inks.filter((ink) => ink === 'walnut').length;
    expect([cords(), cords({ pulled: wires[0] }), cords({ document: { ...document, wires: [] } })]).toEqual([1, 0, 0]);
    expect(paint({ selected: wires[0] }).inks).toContain('woad');
    // What a run has found goes before what the definition says.
    expect(paint({ states: { line: { kinds: { curves: 'points' } } } }).inks).toContain('verdigris');
  });

  test('slides with the view as far as it is painted, then has to be painted anew', () => {
    paint();
    const { x, y } = viewport.pan();
    expect([ground.follow({ x: x + 240, y: y - 100 }), canvas.style.transform]).toEqual([true, 'translate(240px, -100px)']);
    expect(ground.follow({ x, y: y + 241 })).toBe(false);
    paint();
    expect(canvas.style.transform).toBe('');
  });

  test('is left alone while the pane has no size', () => {
    viewport.resize(0, 0, nodes);
    expect(paint().calls).toEqual([]);
  });
});
