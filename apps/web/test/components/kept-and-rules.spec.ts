import { MatMenuHarness } from '@angular/material/menu/testing';
import type { FilaxisDocument } from '@filaxis/core';
import { describe, expect, test, vi } from 'vitest';
import type { FromWorker } from '@filaxis/protocol';
import { rulesFault } from '../../src/app/ropewalk/settings/rules-language';
import { SettingsPanel } from '../../src/app/ropewalk/settings/settings-panel';
import { FakeServer } from '../services';
import { graph, mounted } from './mounted';

/** A server that takes files. */
class Shelf extends FakeServer {
  readonly put: [hash: string, name: string][] = [];
  async putAsset(hash: string, name: string): Promise<void> {
    this.put.push([hash, name]);
  }
}

describe('Frozen', () => {
  const nodes = [{ id: 'line', type: 'lay.line' }, { id: 'it', type: 'flow.frozen' }]; // prettier-ignore
  const wires = [{ from: ['line', 'curves'] as const, to: ['it', 'any'] as const }];

  test('takes what comes in as a file of the document, says of what and when, and lets it go', async () => {
    const server = new Shelf();
    const made = await mounted(SettingsPanel, { document: graph(nodes, wires), server });
    made.documents.select('it');
    await made.settle();
    const buttons = (): HTMLButtonElement[] => [...made.host.querySelectorAll<HTMLButtonElement>('fx-frozen button')];
    expect(buttons().map(({ textContent }) => textContent!.trim())).toEqual(['Freeze']);
    buttons()[0].click();
    await made.settle();
    const asked = made.worker.heard('freeze').at(-1)!;
    expect(asked.from).toEqual(['line', 'curves']);
    made.worker.say({ kind: 'frozen', request: asked.request, bytes: new Uint8Array([1, 2, 3]), counts: { curves: 1, points: 1234 } });
    await vi.waitFor(() => expect(made.worker.heard('asset').length).toBe(1));
    const { hash } = made.worker.heard('asset')[0];
    made.worker.say({ kind: 'asset-read', hash, found: { curves: 1, faces: 0, points: 0 } });
    await vi.waitFor(() => expect(made.documents.undoLabel()).toBe('Freeze Line'));
    await made.settle();
    expect(server.put).toEqual([[hash, 'Line: 1 curve, 1 234 points']]);
    expect(made.documents.document().assets![hash]).toMatchObject({ bytes: 3, taken: expect.stringMatching(/^\d{4}-/) as string });
    expect(made.host.querySelector('fx-frozen')!.textContent).toContain('just now');
    expect(buttons().map(({ textContent }) => textContent!.trim())).toEqual(['Freeze again', 'Thaw']);
    buttons()[1].click();
    await made.settle();
    expect(made.documents.document().nodes[1].settings).toEqual({});
  });

  test('says why there is nothing to take', async () => {
    const made = await mounted(SettingsPanel, { document: graph(nodes, wires), server: new Shelf() });
    made.documents.select('it');
    await made.settle();
    made.host.querySelector<HTMLButtonElement>('fx-frozen button')!.click();
    await made.settle();
    const { request } = made.worker.heard('freeze').at(-1)!;
    made.worker.say({ kind: 'no-answer', request, message: 'There is nothing yet that could be frozen.' } as FromWorker);
    await vi.waitFor(() => expect(made.host.querySelector('fx-frozen button')!.textContent).toContain('Freeze'));
    await made.settle();
    expect(made.host.querySelector('fx-frozen [role=alert]')!.textContent).toBe('There is nothing yet that could be frozen.');
    const alone = made.documents.document();
    made.documents.apply('Alone', { ...alone, wires: [] });
    await made.settle();
    expect(made.host.querySelector<HTMLButtonElement>('fx-frozen button')!.disabled).toBe(true);
  });
});

describe('rules', () => {
  test('are counted after each round, told of when wrong, and begun with a plant', async () => {
    const made = await mounted(SettingsPanel, { document: graph([{ id: 'it', type: 'grow.rules', settings: { axiom: 'A', rules: 'A -> F[A]A', times: 3 } }]) });
    made.documents.select('it');
    await made.settle();
    await made.settle();
    expect(made.host.querySelector('[data-testid=modules]')!.textContent).toBe('Modules after each round: 1 · 5 · 13 · 29');
    expect(made.host.querySelector('[data-testid=faces-behind]')).toBeNull();
    // A tube behind it: 7 steps are drawn, each a ring of walls further.
    const tubed = (budget: number): FilaxisDocument =>
      graph(
        [{ id: 'it', type: 'grow.rules', settings: { axiom: 'A', rules: 'A -> F[A]A', times: 3 } }, { id: 'soft', type: 'shape.transform' }, { id: 'skin', type: 'skin.tube', settings: { sides: 8 } }, { id: 'out', type: 'flow.output', settings: { budget } }],
        [
          { from: ['it', 'curves'], to: ['soft', 'any'] },
          { from: ['soft', 'any'], to: ['skin', 'curves'] },
          { from: ['skin', 'mesh'], to: ['out', 'any'] },
        ],
      ); // prettier-ignore
    made.documents.apply('Tube', tubed(500));
    await made.settle();
    await made.settle();
    const behind = (): string => made.host.querySelector('[data-testid=faces-behind]')!.textContent!.trim();
    expect(behind()).toBe('About 56 faces behind them');
    made.documents.apply('Budget', tubed(100));
    await made.settle();
    expect(behind()).toBe('About 56 faces behind them, more than the budget of 100 triangles');
    expect(made.host.querySelector('[data-testid=faces-behind]')!.classList).toContain('wrong');
    made.documents.apply('Wrong', graph([{ id: 'it', type: 'grow.rules', settings: { axiom: 'A', rules: 'A -> F[A', times: 3 } }]));
    await made.settle();
    await made.settle();
    expect(made.host.querySelector('fx-rules [role=alert]')!.textContent).toBe('line 1, column 7: this bracket is not closed');
    const menu = await made.loader.getHarness(MatMenuHarness.with({ triggerText: 'Begin with …' }));
    await menu.open();
    await (await menu.getItems({ text: 'fern' }))[0].click();
    await made.settle();
    expect(made.documents.undoLabel()).toBe('Begin with fern');
    expect(made.documents.document().nodes[0].settings).toMatchObject({ times: 30, names: 'kept, curl', first: 0.9 });
    expect(rulesFault({ axiom: 'A(1)', names: ['n'] }, 'A(l) -> F(m)')?.message).toContain('there is no "m" here');
  });
});
