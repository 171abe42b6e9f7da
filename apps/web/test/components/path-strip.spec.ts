/** The Path strip under hands: the place under the pointer, clicks, the wheel, and keys of the radius that are dragged. */
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { PathStripData, StripRamp } from '@filaxis/protocol';
import { LOAD_PLOTLY, type Plotly } from '../../src/app/shared/plotly';
import { PathStrip } from '../../src/app/ropewalk/strip/path-strip';
import { heard, mounted, point, press, type Mounted } from './mounted';

const floats = (...values: number[]): Float32Array => Float32Array.from(values);
const ramp: StripRamp = { node: 'rope', setting: 'width', factor: 0.5, min: 0.01, max: 1, value: { ramp: [[0, 0.02], [0.5, 0.04], [1, 0.02]] } }; // prettier-ignore
/** Seven metres in eight places; 800 pixels less 66 and 38 beside it are 696 across. */
const data: PathStripData = {
  curve: 0, curves: 2, node: 'line', length: 6.96, closed: false, step: 1, s: floats(0, 1, 2, 3, 4, 5, 6, 6.96), positions: new Float32Array(24),
  radius: floats(0.01, 0.012, 0.014, 0.016, 0.02, 0.018, 0.014, 0.01), roll: new Float32Array(8), curvature: new Float32Array(8), bends: { s: floats(0, 6.96), values: floats(0, 0) },
  spacing: floats(1, 1, 1, 1, 1, 1, 1, 1), attribute: null, names: [], ramp, v: null, others: [], warnings: [{ code: 'pinch', message: 'Too tight.', at: 5 }, { code: 'empty', message: 'Everywhere.' }],
}; // prettier-ignore
const pixel = (metres: number): number => 66 + metres * 100;

let drawings: { readonly layout: { readonly xaxis: { readonly range: readonly number[] } } }[] = [];
const plotly: Plotly = { react: async (_, __, layout) => void drawings.push({ layout: layout as never }) };
beforeEach(() => {
  drawings = [];
  // The clock goes on from where it is: files before this may have typed, and what is drawn waits until that is over.
  const now = performance.now();
  vi.useFakeTimers({ toFake: ['performance'] });
  vi.advanceTimersByTime(Math.ceil(now) + 1000);
});
afterEach(() => vi.useRealTimers());

interface Shown extends Mounted<PathStrip> {
  readonly plot: HTMLElement;
  readonly keys: () => SVGCircleElement[];
  /** Waits until it is drawn anew. */
  readonly drawn: () => Promise<void>;
}
async function shown(inputs: Record<string, unknown> = {}, load = async (): Promise<Plotly> => plotly): Promise<Shown> {
  const view = await mounted(PathStrip, { inputs: { data, rows: new Set(['radius']), ...inputs }, more: [{ provide: LOAD_PLOTLY, useValue: load }] });
  const drawn = async (): Promise<void> => {
    await view.settle();
    const before = drawings.length;
    vi.advanceTimersByTime(1000);
    // Where nothing is to be drawn, or cannot be, none comes.
    await vi.waitFor(() => expect(drawings.length).toBeGreaterThan(before), { timeout: 500, interval: 5 }).catch(() => undefined);
    await view.settle();
  };
  await drawn();
  return { ...view, drawn, plot: view.host.querySelector<HTMLElement>('.plot')!, keys: () => [...view.host.querySelectorAll('circle')] };
}
const places = (keys: readonly SVGCircleElement[]): number[][] =>
  keys.map((key) => ['cx', 'cy'].map((name) => Number(Number(key.getAttribute(name)).toFixed(3))));

test('without a path it says what to choose; with one it is told in words', async () => {
  const empty = await shown({ data: null });
  expect(empty.host.textContent).toContain('There is no path to unroll yet');
  expect([empty.plot.classList.contains('hidden'), drawings.length]).toEqual([true, 0]);
  empty.fixture.componentRef.setInput('data', data);
  await empty.drawn();
  expect([empty.plot.classList.contains('hidden'), empty.plot.getAttribute('aria-label')]).toEqual([
    false,
    'Path strip of curve 1 of 2, 6.96 metres long, greatest curvature 0 per metre, greatest radius 20 millimetres, 2 places to look at',
  ]);
  expect(empty.host.textContent).not.toContain('There is no path');
  expect(empty.component.asText().split('\n')).toHaveLength(9);
});

test('the pointer tells the nearest point; leaving tells none; a click flies there, or to a warning that is near', async () => {
  const { component, plot } = await shown();
  const hovered = heard(component.hovered);
  const flown = heard(component.flown);
  for (const metres of [-3, 0.4, 0.6, 6.4, 99]) point(plot, 'pointermove', pixel(metres), 20);
  plot.dispatchEvent(new PointerEvent('pointerleave'));
  expect(hovered).toEqual([0, 0, 1, 6, 7, null]);
  // 1.4 m is beside nothing; 5.13 m is within a fiftieth of what is seen from the pinch.
  for (const metres of [1.4, 1.6, 5.13]) plot.dispatchEvent(new MouseEvent('click', { clientX: pixel(metres) }));
  expect(flown).toEqual([1, 2, 5]);
});

test('the marked point has a line with its figures, on the side that has room; one that is not there has none', async () => {
  const { fixture, host, settle } = await shown({ marked: 2 });
  const reading = (): [string | undefined, string | undefined, boolean | undefined] => {
    const text = host.querySelector<HTMLElement>('.reading');
    return [text?.style.left, text?.textContent, text?.classList.contains('left')];
  };
  expect(reading()).toEqual(['266px', '2 m · radius 14 mm · roll 0° · bend 0 /m', false]);
  fixture.componentRef.setInput('marked', 5);
  await settle();
  expect(reading()).toEqual(['566px', '5 m · radius 18 mm · roll 0° · bend 0 /m', true]);
  for (const none of [8, null]) {
    fixture.componentRef.setInput('marked', none);
    await settle();
    expect(reading()).toEqual([undefined, undefined, undefined]);
  }
});

test('the wheel looks nearer about the place under the pointer; a double click, the button and another curve show the whole', async () => {
  const { fixture, plot, host, drawn } = await shown();
  const range = (): readonly number[] => drawings.at(-1)!.layout.xaxis.range;
  const nearer = async (): Promise<WheelEvent> => {
    const event = new WheelEvent('wheel', { deltaY: -200, clientX: pixel(2), cancelable: true });
    plot.dispatchEvent(event);
    await drawn();
    return event;
  };
  const button = (): HTMLButtonElement | null => host.querySelector('.whole');
  expect([range(), button()]).toEqual([[0, 6.96], null]); // prettier-ignore
  expect((await nearer()).defaultPrevented).toBe(true);
  const [first, last] = range();
  expect([(2 - first) / (last - first), last - first]).toEqual([expect.closeTo(2 / 6.96, 6), expect.closeTo(6.96 * Math.exp(-0.3), 6)]);
  plot.dispatchEvent(new MouseEvent('dblclick'));
  await drawn();
  expect(range()).toEqual([0, 6.96]);
  await nearer();
  button()!.click();
  await drawn();
  expect([range(), button()]).toEqual([[0, 6.96], null]); // prettier-ignore
  await nearer();
  // The same curve after a run stays as it is looked at.
  fixture.componentRef.setInput('data', { ...data });
  await drawn();
  expect(range()[1]).toBeLessThan(6);
  fixture.componentRef.setInput('data', { ...data, curve: 1 });
  await drawn();
  expect(range()).toEqual([0, 6.96]);
});

test('keys of the radius stand where they are in the plot and say so; a path of no length, or without a ramp, has none', async () => {
  const { fixture, keys, drawn, plot } = await shown();
  // The scale goes to 25 mm either way, over 0.86 of 572 pixels from 6 on.
  const y = (mm: number): number => Number((6 + 0.86 * 572 * (1 - (mm + 25) / 50)).toFixed(3));
  expect(places(keys())).toEqual([[66, y(10)], [414, y(20)], [762, y(10)]]); // prettier-ignore
  expect(keys()[1].getAttribute('aria-label')).toBe('Key 2 at 3.48 m, radius 20 mm. Arrow keys move it.');
  fixture.componentRef.setInput('data', { ...data, ramp: { ...ramp, value: { ...ramp.value, ramp: [[3, 0.04]], over: 's' } } });
  await drawn();
  expect(places(keys())).toEqual([[366, y(20)]]);
  fixture.componentRef.setInput('data', { ...data, ramp: null });
  await drawn();
  expect(keys()).toEqual([]);
  const wheel = new WheelEvent('wheel', { deltaY: 5, cancelable: true });
  fixture.componentRef.setInput('data', { ...data, length: 0 });
  await drawn();
  plot.dispatchEvent(wheel);
  expect(wheel.defaultPrevented).toBe(false);
});

test('a key is dragged along and across with the scale kept, told all the way, and done once it is let go', async () => {
  const { component, host, keys, fixture, drawn, settle } = await shown();
  const [scrubbed, committed] = [heard(component.scrubbed), heard(component.committed)];
  const [, key] = keys();
  const [, [x, y]] = places(keys());
  // Before it is pressed nothing moves.
  point(key, 'pointermove', x, y - 50);
  expect(scrubbed).toEqual([]);
  point(key, 'pointerdown', x, y);
  // 49.192 pixels are 5 mm of the radius, 10 mm of the width.
  point(key, 'pointermove', x + 69.6, y - 49.192);
  expect(scrubbed).toEqual([{ node: 'rope', setting: 'width', value: { ramp: [[0, 0.02], [0.6, 0.05], [1, 0.02]] } }]); // prettier-ignore
  // A thicker path meanwhile does not change the scale, and its outline is there before it is drawn.
  fixture.componentRef.setInput('data', { ...data, radius: data.radius!.map((r) => r * 2) });
  await settle();
  const outline = host.querySelector('path')!.getAttribute('d')!;
  expect(outline.split('M').slice(1).map((side) => side.split('L').length)).toEqual([8, 8]); // prettier-ignore
  // 20 mm at the first place, either way.
  const at = (mm: number): string => (6 + 0.86 * 572 * (1 - (mm + 25) / 50)).toFixed(1);
  expect(outline.split('M').slice(1).map((side) => side.split('L')[0])).toEqual([`66.0 ${at(20)}`, `66.0 ${at(-20)}`]); // prettier-ignore
  await drawn();
  expect(places(keys())[0][1]).toBeCloseTo(places(keys())[2][1], 6);
  expect(places(keys())[1]).toEqual([x, y]);
  expect(committed).toEqual([]);
  point(key, 'pointerup', x, y);
  expect(committed).toEqual(scrubbed.slice(-1));
  await drawn();
  expect([host.querySelector('path'), places(keys())[1][1] > y]).toEqual([null, true]);
  // Pressed and let go: nothing was changed.
  point(keys()[1], 'pointerdown', x, y);
  point(keys()[1], 'pointerup', x, y);
  expect(committed).toHaveLength(1);
});

test('arrows move a key and Delete takes it away; other keys are left to the page', async () => {
  const { component, keys } = await shown();
  const committed = heard(component.committed);
  expect(press(keys()[1], 'ArrowUp').defaultPrevented).toBe(true);
  press(keys()[1], 'Delete');
  expect(press(keys()[1], 'x').defaultPrevented).toBe(false);
  expect(committed.map(({ value }) => value.ramp)).toEqual([[[0, 0.02], [0.5, 0.042], [1, 0.02]], [[0, 0.02], [1, 0.02]]]); // prettier-ignore
});

test('what cannot be drawn is said', async () => {
  const { host } = await shown({}, async () => {
    throw new Error('Plotly is not there.');
  });
  expect(host.textContent).toContain('The strip cannot be drawn: Plotly is not there.');
});
