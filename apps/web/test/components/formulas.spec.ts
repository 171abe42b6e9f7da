/** The page about formulas: every name and function, and examples that are worked out as they are changed. */
import { expect, test, vi } from 'vitest';
import { elementNames, formulaFunctions } from '@filaxis/core';
import { FormulasPage } from '../../src/app/formulas/formulas.page';
import { LiveExample } from '../../src/app/formulas/live-example';
import { LOAD_PLOTLY, type Plotly } from '../../src/app/shared/plotly';
import { ThemeService } from '../../src/app/shared/theme.service';
import { TestBed } from '@angular/core/testing';
import { mounted, typeInto, type Mounted } from './mounted';

const plots: (readonly { y: number[]; line: { dash: string } }[])[] = [];
const plotly: Plotly = { react: async (_, traces) => void plots.push(traces as never) };
const more = [{ provide: LOAD_PLOTLY, useValue: async (): Promise<Plotly> => plotly }];
const example = (formula: string): Promise<Mounted<LiveExample>> => mounted(LiveExample, { inputs: { label: 'Try', formula }, more });
const text = ({ host }: Mounted<unknown>): string => host.textContent!.trim();

test('every name and function is on it, and every example is right', async () => {
  const page = await mounted(FormulasPage, { more });
  for (const name of [...Object.keys(elementNames), ...Object.keys(formulaFunctions), 'time', 'frameNumber', 'pi'])
    expect(page.host.textContent).toContain(name);
  expect([page.host.querySelectorAll('fx-live-example').length, page.host.querySelectorAll('[role=alert]').length]).toEqual([8, 0]);
});

test('an example runs over two curves: a wave of two metres, and a line that rises a metre', async () => {
  for (const [formula, range] of [['x', '0 … 2'], ['c', '0 … 1'], ['z', '0 … 1'], ['c * y', '0 … 1'], ['0.5', '0.5 … 0.5'], ['n', '80 … 80']]) expect([formula, text(await example(formula))]).toEqual([formula, range]); // prettier-ignore
  // 0.3 times a sine of nearly one turn; the wave goes as deep as high.
  const [low, high] = text(await example('c == 0 ? y : 0'))
    .split(' … ')
    .map(Number);
  expect([low, high]).toEqual([expect.closeTo(-0.3, 3), expect.closeTo(0.3, 3)]);
});

test('it is worked out as it is typed; a mistake is told in place of the plot', async () => {
  const made = await example('t');
  await vi.waitFor(() => expect(plots.at(-1)?.map(({ y, line }) => [y.length, y[0], y[79], line.dash])).toEqual([[80, 0, 1, 'solid'], [80, 0, 1, 'dash']])); // prettier-ignore
  typeInto(made.host.querySelector('input')!, '2 * t + c');
  await made.settle();
  expect(text(made)).toBe('0 … 3');
  await vi.waitFor(() => expect(plots.at(-1)!.map(({ y }) => [y[0], y[79]])).toEqual([[0, 2], [1, 3]])); // prettier-ignore
  typeInto(made.host.querySelector('input')!, '2 * tt');
  await made.settle();
  expect([made.host.querySelector('[role=alert]')!.textContent!.includes('"tt"'), made.host.querySelector('fx-small-plot')]).toEqual([true, null]);
  made.fixture.componentRef.setInput('formula', '7');
  await made.settle();
  expect(text(made)).toBe('7 … 7');
});

test('the theme is what was chosen, else what the system asks for; it is kept', () => {
  const begun = (): ThemeService => {
    TestBed.resetTestingModule();
    return TestBed.inject(ThemeService);
  };
  localStorage.removeItem('filaxis.theme');
  expect(begun().theme()).toBe('light');
  const before = globalThis.matchMedia;
  vi.stubGlobal('matchMedia', () => ({ matches: true }));
  expect(begun().theme()).toBe('dark');
  vi.stubGlobal('matchMedia', before);
  const theme = begun();
  theme.toggle();
  TestBed.tick();
  expect([theme.theme(), localStorage.getItem('filaxis.theme'), document.documentElement.dataset['theme'], begun().theme()]).toEqual([
    'dark',
    'dark',
    'dark',
    'dark',
  ]);
  localStorage.setItem('filaxis.theme', 'purple');
  expect(begun().theme()).toBe('light');
  localStorage.removeItem('filaxis.theme');
});
