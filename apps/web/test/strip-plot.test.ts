/** What the Path strip draws: rows over the same metres, their scales, and where hands find them. */
import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest';
import type { PathStripData, StripOther } from '@filaxis/protocol';
import type { Plotly } from '../src/app/shared/plotly';
import { drawStrip, hoverPlace, stripRows, type StripPlot, type StripRow } from '../src/app/ropewalk/strip/strip-plot';

interface Trace {
  readonly x: readonly (number | null)[];
  readonly y: readonly (number | null)[];
  readonly z?: readonly (readonly number[])[];
  readonly xaxis: string;
  readonly yaxis: string;
  readonly fill?: string;
  readonly line?: { readonly color?: string; readonly width: number; readonly shape?: string };
}
interface Layout extends Readonly<Record<string, unknown>> {
  readonly shapes: readonly Readonly<Record<string, unknown>>[];
  readonly annotations: readonly Readonly<Record<string, unknown>>[];
}
interface Axis {
  readonly range: readonly [number, number];
  readonly domain: readonly [number, number];
  readonly nticks: number;
}

const floats = (...values: number[]): Float32Array => Float32Array.from(values);
/** A curve of four metres with five places. */
const data: PathStripData = {
  curve: 0, curves: 1, node: 'line', length: 4, closed: false, step: 1, s: floats(0, 1, 2, 3, 4), positions: new Float32Array(15), radius: floats(0.01, 0.02, 0.04, 0.02, 0.01),
  roll: floats(0, 1, 2, 3, 4), curvature: floats(0, 5, 30, 5, 0), bends: { s: floats(0, 1, 2, 2, 3, 4), values: floats(0, 5, 30, 10, 5, 0) }, spacing: floats(1, 1, 1, 1, 1),
  attribute: { name: 'wear', values: floats(0, 1, 2, 3, 4) }, names: [], ramp: null, v: floats(0, 0.25, 0.5, 0.75, 1), others: [], warnings: [],
}; // prettier-ignore
const other: StripOther = {
  s: floats(0, 2),
  radius: floats(0.08, 0.05),
  bends: { s: floats(0, 1, 2), values: floats(50, 0, 0) },
  spacing: floats(2, 2),
  attribute: floats(7, 8),
};

const [width, height] = [704, 628];
const pane = { clientWidth: width, clientHeight: height } as HTMLElement;
const all = new Set(Object.keys(stripRows) as StripRow[]);

beforeAll(() => vi.stubGlobal('getComputedStyle', () => ({ getPropertyValue: (name: string) => ` ${name.slice(2)} ` })));
afterAll(() => vi.unstubAllGlobals());

async function drawn(
  change: Partial<PathStripData> = {},
  rows: Iterable<StripRow> = all,
  { zoom = null, held = null }: { zoom?: readonly [number, number] | null; held?: readonly [number, number] | null } = {},
): Promise<{ plot: StripPlot; traces: Trace[]; layout: Layout; axis: (name: string) => Axis }> {
  let given: { traces: Trace[]; layout: Layout } | null = null;
  const plotly: Plotly = { react: async (_, traces, layout) => void (given = { traces: traces as Trace[], layout: layout as Layout }) };
  const plot = await drawStrip(plotly, pane, { ...data, ...change }, new Set(rows), zoom, held);
  const { traces, layout } = given!;
  return { plot, traces, layout, axis: (name) => layout[name] as Axis };
}
const close = (values: readonly (number | null)[]): (number | null)[] => values.map((value) => (value === null ? null : Number(value.toFixed(4))));

describe('rows', () => {
  test('are stacked in their order, each on its part of the height, whatever the order they were asked in', async () => {
    const { traces, layout, axis, plot } = await drawn({}, ['spacing', 'radius']);
    expect([...new Set(traces.map(({ yaxis }) => yaxis))]).toEqual(['y', 'y2']);
    expect(layout['yaxis3']).toBeUndefined();
    expect([close(axis('yaxis').domain), close(axis('yaxis2').domain)]).toEqual([[0.57, 1], [0.07, 0.5]]); // prettier-ignore
    expect(layout.annotations.map(({ text }) => (text as string).replace(/<.*?>/g, '|'))).toEqual(['radius||mm|', 'spacing||mm|']);
    expect(layout.annotations.map(({ y }) => y)).toEqual([1 - 0.5 * 0.43, 0.5 - 0.5 * 0.43]);
    // 600 pixels are drawn on: 628 without what is above and below.
    expect(plot.row('radius')).toEqual({ top: 6, height: 258, range: [-50, 50].map((value) => expect.closeTo(value, 4)) });
    expect(plot.row('spacing')).toMatchObject({ top: 306, height: 258 });
    expect(plot.row('roll')).toBeNull();
  });

  test('that have nothing to show are left out; a value has its name as its title', async () => {
    const { layout } = await drawn({ radius: null, v: null });
    const titles = layout.annotations.map(({ text }) => (text as string).split('<')[0]);
    expect(titles).toEqual(['roll', 'curvature', 'spacing', 'wear']);
    expect((await drawn({ attribute: null })).layout.annotations).toHaveLength(5);
  });

  test('a low row has fewer figures', async () => {
    expect((await drawn({}, ['roll'])).axis('yaxis').nticks).toBe(4);
    const low = { clientWidth: width, clientHeight: 140 } as HTMLElement;
    let layout: Record<string, Axis> = {};
    await drawStrip(
      { react: async (_, __, given) => void (layout = given as typeof layout) },
      low,
      data,
      new Set(['roll', 'radius', 'spacing'] as const),
      null,
      null,
    );
    expect(layout['yaxis'].nticks).toBe(2);
  });
});

describe('what a row shows', () => {
  test('radius: both sides in millimetres, with room; the thickest of all curves sets the scale, or the hand that holds a key', async () => {
    const { traces, axis } = await drawn({}, ['radius']);
    expect(traces.map(({ y }) => close(y))).toEqual([[-10, -20, -40, -20, -10], [10, 20, 40, 20, 10]]); // prettier-ignore
    expect(traces.map(({ fill }) => fill)).toEqual([undefined, 'tonexty']);
    expect(close(axis('yaxis').range)).toEqual([-50, 50]);
    const beside = await drawn({ others: [other] }, ['radius']);
    expect(close(beside.axis('yaxis').range)).toEqual([-100, 100]);
    expect([beside.traces[0].x, close(beside.traces[0].y)]).toEqual([[0, 2, null], [80, 50, null]]); // prettier-ignore
    expect(beside.traces).toHaveLength(3);
    const held = await drawn({}, ['radius', 'spacing'], { held: [-7, 7] });
    expect([held.axis('yaxis').range, held.plot.row('radius')!.range]).toEqual([[-7, 7], [-7, 7]]); // prettier-ignore
    expect(held.axis('yaxis2').range[0]).toBe(0);
  });

  test('roll: near nothing it is not made to look like much; a turn is cut, not drawn through', async () => {
    const { traces, axis } = await drawn({}, ['roll']);
    expect([axis('yaxis').range, traces[0].y]).toEqual([[-6, 6], [0, 1, 2, 3, 4]]); // prettier-ignore
    const turning = await drawn({ roll: floats(100, 170, -170, -6, 8) }, ['roll']);
    expect([turning.axis('yaxis').range, turning.traces[0].y]).toEqual([[-190, 190], [100, 170, null, -6, 8]]); // prettier-ignore
  });

  test('curvature: over its own places, with the band beyond which the skin folds where that is in sight', async () => {
    const { traces, axis } = await drawn({}, ['curvature']);
    expect(close(axis('yaxis').range)).toEqual([-2.16, 36]);
    // The limit is one by the radius: 100, 50, 25, 50, 100, of which 36 are in sight.
    expect(traces.map(({ y }) => close(y))).toEqual([[36, 36, 25, 36, 36], [36, 36, 36, 36, 36], [0, 5, 30, 10, 5, 0]]); // prettier-ignore
    expect(traces[1].fill).toBe('tonexty');
    expect(traces[2].x).toEqual([0, 1, 2, 2, 3, 4]);
    for (const radius of [null, floats(0.001, 0.001, 0.001, 0.001, 0.001), floats(0, 0, 0, 0, 0)])
      expect((await drawn({ radius }, ['curvature'])).traces).toHaveLength(1);
    const beside = await drawn({ others: [other], radius: null }, ['curvature']);
    expect([close(beside.axis('yaxis').range), beside.traces[0].x]).toEqual([[-3.6, 60], [0, 1, 2, null]]); // prettier-ignore
    const straight = await drawn({ bends: { s: floats(0, 4), values: floats(0, 0) } }, ['curvature']);
    expect(straight.axis('yaxis').range[1]).toBeCloseTo(0.0012, 9);
  });

  test('spacing: steps in millimetres, from nothing up', async () => {
    const { traces, axis } = await drawn({ spacing: floats(0.1, 0.2, 0.1, 0.1, 0.1), others: [{ ...other, spacing: floats(0.4, 0.4) }] }, ['spacing']);
    expect([close(axis('yaxis').range), close(traces[1].y)]).toEqual([[0, 460], [100, 200, 100, 100, 100]]); // prettier-ignore
    expect([traces[1].line!.shape, close(traces[0].y)]).toEqual(['hv', [400, 400, null]]);
  });

  test('a value: as it is, with those of the other curves that have it', async () => {
    const { traces, plot } = await drawn({ others: [other, { ...other, attribute: null }] }, ['attribute']);
    expect(traces.map(({ y }) => y)).toEqual([[7, 8, null], [0, 1, 2, 3, 4]]); // prettier-ignore
    expect(plot.row('attribute')).toBeNull();
  });

  test('checker: eight squares a tile, each as long as it lies on the skin', async () => {
    const [{ x, y, z }] = (await drawn({}, ['checker'])).traces;
    expect([x, y]).toEqual([[0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4], [0, 0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 0.875, 1]]); // prettier-ignore
    expect([z!.length, z![0], z![1]]).toEqual([8, [0, 1, 0, 1, 0, 1, 0, 1], [1, 0, 1, 0, 1, 0, 1, 0]]);
    // Stretched to double at its end; a part of a square is as long as it is; where v stands still nothing is divided by it.
    const uneven = await drawn({ v: floats(0, 0.25, 0.25, 0.25, 0.3) }, ['checker']);
    expect(close(uneven.traces[0].x)).toEqual([0, 0.5, 1, 4]);
    for (const v of [floats(0), floats(0, 0, 0, 0, 0)]) expect((await drawn({ v }, ['checker'])).traces).toEqual([]);
    expect((await drawn({ v: floats(0, 1, 2, 3, 1e6) }, ['checker'])).traces[0].z![0]).toHaveLength(4000);
  });
});

describe('what is wrong', () => {
  const warnings = [{ code: 'pinch', message: 'Too tight.', at: 3.9 }, { code: 'flip', message: 'Look.', at: 0 }, { code: 'empty', message: 'Everywhere.' }] as const; // prettier-ignore

  test('is shaded where it is, and the first pinch said beside it, on the side that has room', async () => {
    const { layout } = await drawn({ warnings }, ['radius', 'roll']);
    expect(layout.shapes.map(({ x0, x1 }) => close([x0 as number, x1 as number]))).toEqual([[3.852, 3.948], [0, 0.048]]); // prettier-ignore
    const note = layout.annotations.at(-1)!;
    expect([note['text'], note['x'], note['xanchor'], note['y']]).toEqual(['pinches at 3.9 m', 3.9, 'right', 0.25]);
    const early = await drawn({ warnings: [{ code: 'pinch', message: 'Too tight.', at: 1 }] }, ['radius']);
    expect(early.layout.annotations.at(-1)!['xanchor']).toBe('left');
    const fine = await drawn({ warnings: warnings.slice(1) }, ['radius']);
    expect([fine.layout.annotations.length, fine.layout.shapes.length]).toEqual([1, 1]);
  });

  test('ends with the curve, and is as wide in a part that is looked at nearer', async () => {
    const { layout } = await drawn({ warnings: [{ code: 'pinch', message: 'Too tight.', at: 4 }] }, ['radius'], { zoom: [3, 4] });
    expect(close([layout.shapes[0]['x0'] as number, layout.shapes[0]['x1'] as number])).toEqual([3.988, 4]);
  });
});

describe('metres and pixels', () => {
  test('go over into one another, of all of the curve or a part of it', async () => {
    // 600 pixels across, from 66 on.
    for (const [zoom, first, last] of [[null, 0, 4], [[1, 3] as const, 1, 3]] as const) {
      const { plot, layout } = await drawn({}, ['radius'], { zoom });
      expect([plot.toPixel(first), plot.toPixel(last), plot.toPixel(2)]).toEqual([66, 666, 366]);
      expect([plot.toMetres(66), plot.toMetres(666), plot.toMetres(216)]).toEqual([first, last, first + (last - first) / 4]);
      expect(layout['xaxis']).toMatchObject({ range: [first, last], anchor: 'y' });
    } // prettier-ignore
    expect((await drawn({}, ['radius', 'roll', 'spacing'])).layout['xaxis']).toMatchObject({ anchor: 'y3' });
    expect((await drawn({ length: 0 }, ['roll'])).layout['xaxis']).toMatchObject({ range: [0, 1] });
  });

  test('the place nearest to some metres is found by halving; the earlier one of two as near', () => {
    const s = floats(0, 1, 3, 3, 10);
    expect([-5, 0.4, 0.6, 0.5, 2.1, 6.4, 6.6, 99].map((metres) => hoverPlace(s, metres))).toEqual([0, 0, 1, 0, 2, 3, 4, 4]);
    expect(hoverPlace(floats(2), 9)).toBe(0);
  });

  test('a line of many places is drawn by those that can be told apart', async () => {
    const s = Float32Array.from({ length: 20_001 }, (_, i) => i / 5000);
    const { traces } = await drawn({ s, roll: s.map((value) => value * 10), radius: null }, ['roll']);
    // Two for each of 352 columns, and the ends.
    expect(traces[0].x.length).toBeGreaterThan(650);
    expect(traces[0].x.length).toBeLessThan(710);
  });
});
