/** What came out, in figures: which part is shown, rows and names of the Path strip, and what is done on it. */
import { MatMenuHarness } from '@angular/material/menu/testing';
import { describe, expect, test, vi } from 'vitest';
import type { PathStripData } from '@filaxis/protocol';
import { ChecksService } from '../../src/app/ropewalk/checks/checks.service';
import { PathStrip } from '../../src/app/ropewalk/strip/path-strip';
import { plainStrip, ResultsPane, type StripView } from '../../src/app/ropewalk/results/results-pane';
import { LOAD_PLOTLY } from '../../src/app/shared/plotly';
import { By } from '@angular/platform-browser';
import { TestBed } from '@angular/core/testing';
import { graph, heard, mounted, withClipboard, type Mounted } from './mounted';

const data = {
  curve: 0, curves: 3, node: 'line', length: 2, closed: false, step: 1, s: Float32Array.of(0, 2), positions: Float32Array.of(1, 2, 3, 4, 5, 6), radius: null, roll: new Float32Array(2),
  curvature: new Float32Array(2), bends: { s: new Float32Array(2), values: new Float32Array(2) }, spacing: new Float32Array(2), attribute: null, names: ['wear', 'width'], ramp: null, v: null, others: [], warnings: [],
} satisfies PathStripData; // prettier-ignore
const document = graph(
  [{ id: 'line', type: 'lay.line' }, { id: 'rope', type: 'skin.rope', settings: { diameter: 0.04 } }, { id: 'out', type: 'flow.output' }, { id: 'last', type: 'lay.circle' }],
  [{ from: ['line', 'curves'], to: ['rope', 'curves'] }],
); // prettier-ignore

interface Pane extends Mounted<ResultsPane> {
  readonly tabs: () => string[];
  readonly view: () => StripView;
  readonly strip: () => PathStrip;
}
async function pane(inputs: Record<string, unknown> = {}, strip: PathStripData | null = data): Promise<Pane> {
  const made = await mounted(ResultsPane, {
    document,
    inputs: { tab: 'strip', strip: plainStrip, ...inputs },
    more: [{ provide: LOAD_PLOTLY, useValue: async () => ({ react: async () => undefined }) }],
  });
  (made.evaluation.strip as unknown as { set: (data: PathStripData | null) => void }).set(strip);
  await made.settle();
  return {
    ...made,
    tabs: () => [...made.host.querySelectorAll('[mat-tab-link]')].map(({ textContent }) => textContent!.trim().replace(/\s+/g, ' ')),
    view: () => made.component.strip(),
    strip: () => made.fixture.debugElement.query(By.directive(PathStrip)).componentInstance as PathStrip,
  };
}

describe('which part', () => {
  test('a tab is chosen by a click; the timeline is there for what depends on the time alone', async () => {
    const { tabs, host, component, settle } = await pane();
    expect(tabs()).toEqual(['Path strip', 'UV sheet', 'Values', 'Checks', 'History']);
    [...host.querySelectorAll<HTMLElement>('[mat-tab-link]')][2].click();
    await settle();
    expect([component.tab(), host.querySelector('fx-values') !== null, host.querySelector('fx-path-strip')]).toEqual(['values', true, null]);
  });

  test.each([['uv', 'fx-uv-sheet'], ['values', 'fx-values'], ['checks', 'fx-checks'], ['history', 'fx-history'], ['strip', 'fx-path-strip'], ['timeline', 'fx-path-strip']])('%s shows %s', async (tab, shown) => {
    const { host } = await pane({ tab });
    expect(host.querySelector(shown)).not.toBeNull();
  }); // prettier-ignore

  test('checks tell how many there are, and whether something is wrong', async () => {
    const { tabs, host, settle } = await pane();
    const findings = TestBed.inject(ChecksService).findings as unknown as { set: (found: object[]) => void };
    for (const [levels, text, wrong] of [[['look', 'look'], 'Checks 2', false], [['look', 'wrong'], 'Checks 2', true], [[], 'Checks', undefined]] as const) {
      findings.set(levels.map((level) => ({ level })));
      await settle();
      expect([tabs()[3], host.querySelector('.badge')?.classList.contains('wrong')]).toEqual([text, wrong]);
    } // prettier-ignore
  });

  test('Values lists the chosen node, else the first Output, else the last node', async () => {
    const { component, documents } = await pane({ tab: 'values' });
    const listed = (component as unknown as { listed: () => string | null }).listed;
    expect(listed()).toBe('out');
    documents.select('rope');
    expect(listed()).toBe('rope');
    documents.select();
    documents.apply('Remove', { ...documents.document(), nodes: documents.document().nodes.filter(({ id }) => id !== 'out') });
    expect(listed()).toBe('last');
    documents.apply('Remove', { ...documents.document(), nodes: [], wires: [] });
    expect(listed()).toBeNull();
  });

  test('a double click on the head asks for the whole window', async () => {
    const { component, host } = await pane();
    const filled = heard(component.filled);
    host.querySelector('.head')!.dispatchEvent(new MouseEvent('dblclick'));
    expect(filled).toHaveLength(1);
  });
});

describe('the Path strip', () => {
  test('rows are ticked on and off in the menu, which stays open; a value is a row by its name', async () => {
    const { view, loader } = await pane();
    const menu = await loader.getHarness(MatMenuHarness.with({ triggerText: 'Rows' }));
    await menu.open();
    const texts = await Promise.all((await menu.getItems()).map((item) => item.getText()));
    expect(texts.map((text) => text.replace(/\s+/g, ' ').trim())).toEqual(['✓ radius', '✓ roll', '✓ curvature', 'spacing', 'checker', 'other curves behind', 'Previous curve (,)', 'Next curve (.), now 1 of 3 · 2 m', 'Value', 'Copy the values']); // prettier-ignore
    await menu.clickItem({ text: /roll/ });
    await menu.clickItem({ text: /spacing/ });
    await menu.clickItem({ text: /other curves/ });
    expect([view().rows, view().others, await menu.isOpen()]).toEqual([['radius', 'curvature', 'attribute', 'spacing'], true, true]);
    await menu.clickItem({ text: /^\s*Value/ }, { text: /wear/ });
    expect(view().name).toBe('wear');
  });

  test('goes from curve to curve, round and round; of one curve there is nothing to go to', async () => {
    const { component, host, view, settle } = await pane();
    const steps = (): HTMLButtonElement[] => [...host.querySelectorAll<HTMLButtonElement>('.step')];
    steps()[0].click();
    expect(view().curve).toBe(2);
    steps()[1].click();
    expect(view().curve).toBe(1);
    component.step(4);
    expect([view().curve, host.querySelector('[data-testid=strip-curve]')!.textContent]).toEqual([1, '1 of 3 · 2 m']); // prettier-ignore
    const one = await pane({}, { ...data, curves: 1 });
    expect(one.host.querySelectorAll('.step')).toHaveLength(0);
    const none = await pane({}, null);
    none.component.step(1);
    expect([none.view().curve, none.host.querySelector('[data-testid=strip-curve]')!.textContent]).toEqual([0, '']);
    await settle();
  });

  test('what is pointed at is marked, what is clicked is flown to', async () => {
    const { component, strip } = await pane();
    const flown = heard(component.flown);
    strip().hovered.emit(1);
    strip().flown.emit(1);
    expect([component.marked(), flown]).toEqual([1, [[4, 5, 6]]]); // prettier-ignore
  });

  test('a radius that is dragged is seen at once and kept once: one undo', async () => {
    const { documents, strip } = await pane();
    const edit = (value: number): never => ({ node: 'rope', setting: 'diameter', value: { ramp: [[0, value], [1, 0.04]] } }) as never; // prettier-ignore
    const diameter = (): unknown => documents.document().nodes[1].settings!['diameter'];
    strip().scrubbed.emit(edit(0.1));
    expect([diameter(), documents.undoLabel()]).toEqual([{ ramp: [[0, 0.1], [1, 0.04]] }, null]); // prettier-ignore
    strip().scrubbed.emit(edit(0.2));
    strip().committed.emit(edit(0.2));
    expect([diameter(), documents.undoLabel()]).toEqual([{ ramp: [[0, 0.2], [1, 0.04]] }, 'Radius along the path']); // prettier-ignore
    documents.undo();
    expect(diameter()).toBe(0.04);
  });

  test('its values are copied as a table; without a path nothing is', async () => {
    const written = vi.fn(async () => undefined);
    for (const strip of [data, null]) {
      const { loader } = await pane({}, strip);
      const menu = await loader.getHarness(MatMenuHarness.with({ triggerText: 'Rows' }));
      await withClipboard({ writeText: written } as never, () => menu.clickItem({ text: /Copy the values/ }));
    }
    expect(written.mock.calls).toEqual([['s (m)\troll (°)\tcurvature (1/m)\tspacing (m)\n0\t0\t0\t0\n2\t0\t0\t0']]);
  });
});
