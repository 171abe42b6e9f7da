import { MatButtonToggleGroupHarness } from '@angular/material/button-toggle/testing';
import { MatCheckboxHarness } from '@angular/material/checkbox/testing';
import { MAT_DIALOG_DATA, MatDialogRef } from '@angular/material/dialog';
import { MatRadioGroupHarness } from '@angular/material/radio/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { TestBed } from '@angular/core/testing';
import { describe, expect, test } from 'vitest';
import type { WritableAnswer } from '@filaxis/protocol';
import { EvaluationService } from '../../src/app/ropewalk/evaluation.service';
import { ExportDialog, type ExportData } from '../../src/app/ropewalk/export/export-dialog';
import { exportSources, outputSources } from '../../src/app/ropewalk/export/export-sources';
import { answer, graph, mounted, typeInto, type Mounted } from './mounted';

const writable: WritableAnswer = {
  uvSets: ['uv'],
  colours: [],
  parts: 1,
  copies: 0,
  pieces: [{ name: 'Rope', counts: { faces: 1200, vertices: 700 } }],
  endings: ['.glb', '.gltf', '.obj', '.stl', '.ply', '.usda', '.json'],
  fault: null,
};
/** Closed with, by the dialog. */
const closed: unknown[] = [];
const reference = { provide: MatDialogRef, useValue: { close: (given: unknown) => closed.push(given) } };

/** The dialog over two outputs; `found` is what the worker says of the first. */
async function dialog(
  found: Partial<WritableAnswer> = {},
  sources: ExportData['sources'] = [
    { id: 'a', label: 'Output “main”', nodes: ['a'] },
    { id: 'b', label: 'Output “far”', nodes: ['b'] },
  ],
): Promise<Mounted<ExportDialog>> {
  // prettier-ignore
  const data = { title: 'Quay rail', sources, graph: true } as Omit<ExportData, 'evaluation'>;
  const made = await mounted(ExportDialog, {
    more: [reference, { provide: MAT_DIALOG_DATA, useFactory: () => ({ ...data, get evaluation() { return TestBed.inject(EvaluationService); } }) }], // prettier-ignore
  });
  if (sources.length) answer(made.worker, 'writable', { ...writable, ...found });
  await made.settle();
  return made;
}
const button = ({ host }: Mounted<unknown>): HTMLButtonElement =>
  [...host.querySelectorAll('button')].find(({ textContent }) => /Download|Writing/.test(textContent!))!;
const holds = ({ host }: Mounted<unknown>): string[] =>
  [...host.querySelectorAll('.pieces li')].map(({ textContent }) => textContent!.trim().replace(/\s+/g, ' '));
const remedy = ({ host }: Mounted<unknown>): HTMLButtonElement | undefined => host.querySelector<HTMLButtonElement>('.told button') ?? undefined;
const asked = ({ worker }: Mounted<unknown>): { nodes: readonly string[]; ending: string; name: string; how: unknown } => worker.heard('export').at(-1)!;

describe('exporting frames', () => {
  const over = async (): Promise<Mounted<ExportDialog>> => {
    const made = await mounted(ExportDialog, {
      more: [reference, { provide: MAT_DIALOG_DATA, useFactory: () => ({ title: 'Vines', graph: true, sources: [{ id: 'a', label: 'Output “main”', nodes: ['a'] }], frames: { from: 0, to: 40 }, get evaluation() { return TestBed.inject(EvaluationService); } }) }], // prettier-ignore
    });
    answer(made.worker, 'writable', writable);
    await made.settle();
    return made;
  };

  test('is offered where there is a timeline: its range, the kind of file, how far it is, and Stop', async () => {
    const made = await over();
    const every = await made.loader.getHarness(MatCheckboxHarness.with({ label: /^Every frame/ }));
    await every.check();
    await made.settle();
    expect(button(made).textContent!.trim()).toBe('Download vines.zip');
    typeInto(made.host.querySelector<HTMLInputElement>('input[aria-label="Last frame to write"]')!, '12');
    await made.settle();
    button(made).click();
    await made.settle();
    const { request, frames } = made.worker.heard('export').at(-1)!;
    expect(frames).toEqual({ from: 0, to: 12 });
    made.worker.say({ kind: 'writing', request, fraction: 0.25 });
    await made.settle();
    expect(made.host.querySelector('mat-progress-bar')!.getAttribute('aria-valuenow')).toBe('25');
    expect([...made.host.querySelectorAll('button')].some(({ textContent }) => textContent!.trim() === 'Stop')).toBe(true);
    made.worker.say({ kind: 'export-failed', request, message: 'Writing was stopped.', obstacle: null });
    await made.settle();
    expect(made.host.querySelector('.problem')!.textContent).toBe('Writing was stopped.');
    // One file with morph targets, where the format has them.
    await (await made.loader.getHarness(MatCheckboxHarness.with({ label: /^One file that engines play/ }))).check();
    expect(button(made).textContent!.trim()).toBe('Download vines.glb');
    expect(made.host.textContent).toContain('Every frame: one file with morph targets');
    button(made).click();
    await made.settle();
    expect(made.worker.heard('export').at(-1)!.how).toMatchObject({ together: true });
    made.worker.say({
      kind: 'export-failed',
      request: made.worker.heard('export').at(-1)!.request,
      message: 'Frame 3: its faces are not those of frame 2.',
      obstacle: { cure: 'file-a-frame' },
    });
    await made.settle();
    expect(made.host.querySelector('.problem')!.textContent).toContain('Frame 3');
    remedy(made)!.click();
    await made.settle();
    expect([remedy(made), button(made).textContent!.trim()]).toEqual([undefined, 'Download vines.zip']);
    const formats = await made.loader.getHarness(MatRadioGroupHarness);
    await formats.checkRadioButton({ label: /^USD/ });
    expect(button(made).textContent!.trim()).toBe('Download vines.usda');
  });

  test('is not offered where nothing depends on the time', async () => {
    const made = await dialog();
    expect(made.host.textContent).not.toContain('Every frame');
  });
});

describe('exporting', () => {
  test('offers outputs first, and says what it will write', async () => {
    const made = await dialog();
    const result = await made.loader.getHarness(MatSelectHarness);
    expect(await result.getValueText()).toBe('Output “main”');
    expect(holds(made)).toEqual(['Rope 1 200 faces']);
    expect(button(made).textContent!.trim()).toBe('Download quay-rail.glb');
  });

  test('a run that was under way when Export was pressed is told of when it ends, at the choices that were made', async () => {
    const made = await dialog({ pieces: [] });
    expect(holds(made)).toEqual(['There is nothing in this result.']);
    await (await made.loader.getHarness(MatRadioGroupHarness)).checkRadioButton({ label: /^OBJ/ });
    made.evaluation.nodes.set({});
    await made.settle();
    expect(answer(made.worker, 'writable', writable)).toEqual({ nodes: ['a'] });
    await made.settle();
    expect(holds(made)).toEqual(['Rope 1 200 faces']);
    expect(button(made).textContent!.trim()).toBe('Download quay-rail.obj');
  });

  test('writes the chosen result in the chosen format, unit and way up, under the typed name', async () => {
    const made = await dialog();
    const formats = await made.loader.getHarness(MatRadioGroupHarness);
    await formats.checkRadioButton({ label: /^OBJ/ });
    const [up, unit] = await made.loader.getAllHarnesses(MatButtonToggleGroupHarness);
    await (await up.getToggles({ text: 'Z' }))[0].check();
    await (await unit.getToggles({ text: 'centimetres' }))[0].check();
    typeInto(made.host.querySelector<HTMLInputElement>('fx-text input')!, 'rail');
    await made.settle();
    button(made).click();
    expect(asked(made)).toMatchObject({ nodes: ['a'], ending: '.obj', name: 'rail', how: { up: 'z', unit: 'cm', expanded: false } });
  });

  test('asks about copies and parts only where there are some, and where the format knows them', async () => {
    const labels = async (made: Mounted<unknown>): Promise<string[]> =>
      Promise.all((await made.loader.getAllHarnesses(MatCheckboxHarness)).map((box) => box.getLabelText()));
    const made = await dialog({ copies: 12, parts: 3 });
    expect((await labels(made)).map((label) => label.split(' ')[0])).toEqual(['Copies', 'Copies', 'Each', 'Tangents']);
    const [whole] = await made.loader.getAllHarnesses(MatCheckboxHarness);
    await whole.check();
    expect((await labels(made)).map((label) => label.split(' ')[0])).toEqual(['Copies', 'Each', 'Tangents']);
    await (await made.loader.getHarness(MatRadioGroupHarness)).checkRadioButton({ label: /^STL/ });
    expect(await labels(made)).toEqual([]);
  });

  test('tells what could not be written, and what was', async () => {
    const made = await dialog();
    button(made).click();
    await made.settle();
    expect([button(made).disabled, button(made).textContent!.trim()]).toEqual([true, 'Writing …']);
    made.worker.say({ kind: 'export-failed', request: made.worker.heard('export')[0].request, message: 'The result is empty.', obstacle: null });
    await made.settle();
    expect(made.host.querySelector('[role=alert]')!.textContent).toContain('The result is empty.');
    expect(button(made).disabled).toBe(false);
  });

  test('without a name nothing is written; without outputs it is said what to do', async () => {
    const made = await dialog();
    typeInto(made.host.querySelector<HTMLInputElement>('fx-text input')!, '  ');
    await made.settle();
    expect(button(made).disabled).toBe(true);
    TestBed.resetTestingModule();
    expect((await dialog({}, [])).host.textContent).toContain('Wire a result to an Output node');
  });

  test('what is in the way stands beside the button with what helps: the node, another format, or a choice left out', async () => {
    const made = await dialog({ fault: { node: 'offset', message: 'The curve folds over itself.' } });
    expect([made.host.querySelector('[role=alert]')!.textContent, button(made).disabled]).toEqual(['The curve folds over itself.', true]);
    remedy(made)!.click();
    expect(closed.at(-1)).toBe('offset');
    made.evaluation.nodes.set({});
    await made.settle();
    answer(made.worker, 'writable', { ...writable, pieces: [{ name: 'Guide', counts: { curves: 1, points: 5 } }], endings: ['.glb', '.svg'] });
    await made.settle();
    await (await made.loader.getHarness(MatRadioGroupHarness)).checkRadioButton({ label: /^STL/ });
    expect(button(made).disabled).toBe(true);
    remedy(made)!.click();
    await made.settle();
    expect([button(made).textContent!.trim(), button(made).disabled, remedy(made)]).toEqual(['Download quay-rail.glb', false, undefined]);
    await (await made.loader.getHarness(MatCheckboxHarness.with({ label: /^Tangents/ }))).check();
    button(made).click();
    await made.settle();
    const { request } = made.worker.heard('export').at(-1)!;
    made.worker.say({ kind: 'export-failed', request, message: 'Tangents need UVs and normals; the mesh has no UVs.', obstacle: { cure: 'no-tangents' } });
    await made.settle();
    remedy(made)!.click();
    await made.settle();
    button(made).click();
    expect(made.worker.heard('export').at(-1)!.how).toMatchObject({ tangents: false });
  });

  test('outputs of a document are offered by their names, after what is shown and before the chosen node; each thing once', () => {
    const document = graph([
      { id: 'a', type: 'flow.output', settings: { name: 'near' } },
      { id: 'b', type: 'lay.line', name: 'Guide' },
      { id: 'c', type: 'flow.output' },
    ]);
    expect(outputSources(document).map(({ label, nodes }) => [label, nodes])).toEqual([
      ['All outputs', ['a', 'c']],
      ['Output “near”', ['a']],
      ['Output “main”', ['c']],
    ]);
    expect(exportSources(document, ['b'], 'b').map(({ label }) => label)).toEqual(['What is shown: Guide', 'All outputs', 'Output “near”', 'Output “main”']);
    expect(exportSources(document, ['a', 'c'], 'b').map(({ id }) => id)).toEqual(['', 'a', 'c', 'chosen']);
    // One that is gone since is not offered.
    expect(exportSources(document, ['gone'], 'gone').map(({ id }) => id)).toEqual(['', 'a', 'c']);
  });
});
