/** A value that differs from point to point: by chance, and read from an attribute; and the plot of what it is now. */
import { describe, expect, test, vi } from 'vitest';
import { MatSelectHarness } from '@angular/material/select/testing';
import type { NamesAnswer } from '@filaxis/protocol';
import { LOAD_PLOTLY, type Plotly } from '../../src/app/shared/plotly';
import { AttributeEditor } from '../../src/app/ropewalk/settings/varying/attribute-editor';
import { RandomEditor } from '../../src/app/ropewalk/settings/varying/random-editor';
import { answer, graph, heard, mounted, press, typeInto, type Mounted } from './mounted';

const names: NamesAnswer = {
  names: [
    { name: 'width', kind: 'dial', help: '', range: null },
    { name: 't', kind: 'element', help: '', range: [0, 1] },
    { name: 'wear', kind: 'attribute', help: '', range: [0.12345, 7] },
    { name: 'odd', kind: 'attribute', help: '', range: null },
  ],
  vectors: ['up'],
  values: { line: [1, 2, 3], bins: [1, 0, 2], low: 1, high: 4, mean: 2.3456, count: 1234 },
  complete: true,
};

const plots: { traces: readonly { x?: number[]; y: number[] }[]; layout: Record<string, Record<string, unknown>> }[] = [];
const plotly: Plotly = { react: async (_, traces, layout) => void plots.push({ traces: traces as never, layout: layout as never }) };
const more = [{ provide: LOAD_PLOTLY, useValue: async (): Promise<Plotly> => plotly }];
const document = graph([{ id: 'rope', type: 'skin.rope' }]);
/** What the worker says of the names, as after a run. */
async function told(made: Mounted<unknown>, given = names): Promise<void> {
  answer(made.worker, 'names', given);
  await made.settle();
  await made.settle();
}
const number = (made: Mounted<unknown>, label: string): HTMLInputElement => made.host.querySelector<HTMLInputElement>(`[aria-label="${label}"]`)!;

describe('by chance', () => {
  const value = { random: [0.1, 0.4], seed: 7 } as const;
  const editor = (given: object = value): Promise<Mounted<RandomEditor>> =>
    mounted(RandomEditor, { document, more, inputs: { node: 'rope', setting: 'diameter', value: given, unit: 'm', step: 0.2, min: 0, max: 2 } });

  test('its ends, seed and what is drawn for can be set one by one', async () => {
    const made = await editor();
    const kept = heard(made.component.committed);
    expect(['Lower end', 'Upper end', 'Seed'].map((label) => number(made, label).value)).toEqual(['0.1', '0.4', '7']);
    typeInto(number(made, 'Lower end'), '0.2');
    press(number(made, 'Upper end'), 'ArrowUp', { shiftKey: true });
    typeInto(number(made, 'Seed'), '8');
    const per = await made.loader.getHarness(MatSelectHarness);
    expect(await per.getValueText()).toBe('point');
    await per.open();
    await per.clickOptions({ text: 'curve' });
    expect(kept).toEqual([
      { random: [0.2, 0.4], seed: 7 },
      { random: [0.1, 2], seed: 7 },
      { random: [0.1, 0.4], seed: 8 },
      { random: [0.1, 0.4], seed: 7, per: 'curve' },
    ]);
  });

  test('without a seed it is 0', async () => {
    expect(number(await editor({ random: [0, 1] }), 'Seed').value).toBe('0');
  });
});

describe('from an attribute', () => {
  const editor = (value: object, vector = false): Promise<Mounted<AttributeEditor>> =>
    mounted(AttributeEditor, { document, more, inputs: { node: 'rope', setting: 'diameter', label: 'Diameter', value, unit: 'm', vector } });
  async function list(made: Mounted<unknown>): Promise<{ select: MatSelectHarness; texts: string[] }> {
    const select = await made.loader.getHarness(MatSelectHarness);
    await select.open();
    return { select, texts: await Promise.all((await select.getOptions()).map((option) => option.getText())) };
  }

  test('attributes come first, with their ranges, then what every point has; dials are no attributes', async () => {
    const made = await editor({ attribute: 'wear' });
    await told(made);
    const { select, texts } = await list(made);
    expect(texts.map((text) => text.replace(/\s+/g, ' '))).toEqual(['wear 0.123 … 7', 'odd', 't 0 … 1']);
    const kept = heard(made.component.committed);
    await select.clickOptions({ text: /^t/ });
    expect(kept).toEqual([{ attribute: 't' }]);
  });

  test('of a vector there are those of three numbers too', async () => {
    const made = await editor({ attribute: 'up' }, true);
    await told(made);
    expect((await list(made)).texts.map((text) => text.replace(/\s+/g, ' '))).toEqual(['up x y z', 'wear 0.123 … 7', 'odd', 't 0 … 1']);
  });

  test('one that is not there is said to be so, and stays chosen', async () => {
    const made = await editor({ attribute: 'gone', scale: 3, offset: 0.5 });
    await told(made);
    const { select, texts } = await list(made);
    expect([texts[0].replace(/\s+/g, ' '), texts.length]).toEqual(['gone (not there)', 4]);
    await select.close();
    const kept = heard(made.component.committed);
    expect([number(made, 'Scale').value, number(made, 'Offset').value]).toEqual(['3', '0.5']);
    typeInto(number(made, 'Scale'), '2');
    typeInto(number(made, 'Offset'), '-1');
    expect(kept).toEqual([{ attribute: 'gone', scale: 2, offset: 0.5 }, { attribute: 'gone', scale: 3, offset: -1 }]); // prettier-ignore
  });

  test('scale is 1 and offset 0 where nothing is said', async () => {
    const made = await editor({ attribute: 'wear' });
    expect([number(made, 'Scale').value, number(made, 'Offset').value]).toEqual(['1', '0']);
  });

  test('what it gives now is plotted in order and by size, and said in words', async () => {
    plots.length = 0;
    const made = await editor({ attribute: 'wear' });
    expect(made.host.querySelector('fx-small-plot')).toBeNull();
    await told(made);
    await vi.waitFor(() => expect(plots).not.toEqual([]));
    expect(made.host.querySelector('p')!.textContent!.replace(/\s/g, ' ')).toBe('1 … 4 m · mean 2.346 · 1 234 values');
    const [line, bars] = plots.at(-1)!.traces;
    // Bars stand in the middle of what they count.
    expect([line.y, bars.x, bars.y]).toEqual([[1, 2, 3], [1.5, 2.5, 3.5], [1, 0, 2]]); // prettier-ignore
    const { layout } = plots.at(-1)!;
    expect([layout['xaxis'], layout['yaxis'], layout['width'], layout['height']]).toEqual([
      expect.objectContaining({ showline: true, domain: [0, 0.485], showticklabels: false }),
      expect.objectContaining({ showline: false }),
      800,
      48,
    ]);
    // One value alone is a line too.
    const one = await editor({ attribute: 'wear' });
    await told(one, { ...names, values: { ...names.values!, line: [5], count: 1 } });
    await vi.waitFor(() => expect(plots.at(-1)!.traces[0].y).toHaveLength(2));
    expect([plots.at(-1)!.traces[0].y, one.host.querySelector('p')!.textContent!.endsWith('1 value')]).toEqual([[5, 5], true]); // prettier-ignore
  });
});
