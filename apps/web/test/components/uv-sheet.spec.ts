import { MatSelectHarness } from '@angular/material/select/testing';
import { describe, expect, test } from 'vitest';
import type { UvSheet } from '@filaxis/core';
import { UvSheetPanel } from '../../src/app/ropewalk/uv/uv-sheet';
import { answer, graph, mounted, refuse, type Mounted } from './mounted';

/** Two triangles of a square metre, one over the other. */
const sheet: UvSheet = {
  corners: Float32Array.of(0, 0, 0.5, 0, 0.5, 0.5, 0, 0, 0.5, 0, 0.5, 0.5),
  places: Float32Array.of(0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 0, 1, 1, 0, 1, 1, 1, 1),
  island: Uint32Array.of(0, 1),
  islands: 2,
  density: Float32Array.of(0.5, 0.5),
  stretch: Float32Array.of(1, 1),
  overlapping: Uint8Array.of(1, 1),
  edges: new Float32Array(0),
};

async function panel(): Promise<Mounted<UvSheetPanel> & { facts: () => string }> {
  const made = await mounted(UvSheetPanel, { document: graph([{ id: 'hose', type: 'skin.tube' }]) });
  await new Promise((done) => setTimeout(done, 200));
  return { ...made, facts: () => made.host.querySelector('[data-testid=uv-facts]')?.textContent ?? '' };
}

describe('the UV sheet', () => {
  test('is of what is chosen, and tells islands, texels to the metre and what overlaps', async () => {
    const made = await panel();
    made.documents.select('hose');
    await made.settle();
    await new Promise((done) => setTimeout(done, 200));
    expect(answer(made.worker, 'uvSheet', sheet)).toEqual({ node: 'hose' });
    await made.settle();
    expect(made.facts()).toContain('2 islands');
    // Half a unit of UV a metre, of 1,024 texels.
    expect(made.facts()).toContain('512 px/m');
    expect(made.facts()).toContain('100 % lies over something else');
  });

  test('texels to the metre go with the size of the texture', async () => {
    const made = await panel();
    answer(made.worker, 'uvSheet', { ...sheet, overlapping: Uint8Array.of(0, 0), islands: 1 });
    await made.settle();
    const size = await made.loader.getHarness(MatSelectHarness.with({ selector: '[aria-label="Size of the texture"]' }));
    await size.open();
    await size.clickOptions({ text: /4.096 px/ });
    expect(made.facts()).toContain('2050 px/m');
    expect(made.facts()).toMatch(/1 island(?!s)/);
    expect(made.facts()).toContain('nothing overlaps');
  });

  test('asks anew for each picture, and says why there is none', async () => {
    const made = await panel();
    answer(made.worker, 'uvSheet', null);
    await made.settle();
    const saves = [...made.host.querySelectorAll('button')].filter(({ textContent }) => textContent!.includes('Save'));
    expect(saves.map(({ disabled }) => disabled)).toEqual([true, true]);
    const before = made.worker.heard('ask').length;
    made.evaluation.pictures.next({} as never);
    await new Promise((done) => setTimeout(done, 200));
    expect(made.worker.heard('ask').length).toBe(before + 1);
    refuse(made.worker, 'uvSheet', 'Nothing has been computed yet.');
    await made.settle();
    expect(made.facts()).toBe('');
  });

  test('without graphics it says so', async () => {
    expect((await panel()).host.textContent).toContain('The UV sheet needs WebGL 2');
  });
});
