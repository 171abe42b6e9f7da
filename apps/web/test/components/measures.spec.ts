import { describe, expect, test } from 'vitest';
import type { Measure } from '@filaxis/protocol';
import { Measures } from '../../src/app/ropewalk/view3d/measuring';
import { Selecting } from '../../src/app/ropewalk/view3d/selecting';
import { Sight } from '../../src/app/ropewalk/view3d/sight';
import { ViewCamera } from '../../src/app/ropewalk/view3d/view-camera';
import { answer, graph, heard, mounted, press, refuse, type Mounted } from './mounted';

/** An eye above the ground, that looks at the origin. */
function sight(): Sight {
  const camera = Object.assign(new ViewCamera(), { aspect: 800 / 600 });
  camera.position.set(0, 6, 6);
  camera.lookAt(0, 0, 0);
  camera.reach(8.5);
  camera.updateMatrixWorld();
  return new Sight(camera);
}

const free = (...place: number[]): Measure['anchors'][number] => ({ node: null, place });

async function measures(
  kept: readonly Measure[] = [],
  found: unknown[] = [],
): Promise<Mounted<Measures> & { kept: () => Measure[]; button: (text: string) => HTMLButtonElement }> {
  const made = await mounted(Measures, {
    document: graph([], [], { view: { measures: kept } }),
    inputs: { stage: { sight: sight() }, drawnFrames: 0, taking: true },
    more: [{ provide: Selecting, useValue: { seenAt: () => found } }],
  });
  await new Promise((done) => setTimeout(done, 60));
  return {
    ...made,
    kept: () => made.documents.document().view!['measures'] as Measure[],
    button: (text) => [...made.host.querySelectorAll('button')].find((each) => (each.getAttribute('aria-label') ?? each.textContent!).trim().startsWith(text))!,
  };
}

describe('measures in the 3D view', () => {
  test('two clicks on the ground are a distance in the document, one change', async () => {
    const made = await measures();
    expect(made.host.textContent).toContain('Click the first place.');
    await made.component.click(0, 0);
    await made.settle();
    expect(made.host.textContent).toContain('Click the second place.');
    expect(made.host.querySelectorAll('.dot').length).toBe(1);
    await made.component.click(0.2, 0);
    await made.settle();
    const [measure] = made.kept();
    expect([measure.kind, measure.anchors.map(({ node }) => node)]).toEqual(['distance', [null, null]]);
    measure.anchors[0].place.forEach((value) => expect(value).toBeCloseTo(0, 6));
    expect(made.documents.undoLabel()).toBe('Measure');
  });

  test('what is clicked is hung on what made it; when nobody knows, nothing is put', async () => {
    const seen = { corners: [0, 0, 0, 1, 0, 0, 0, 1, 0], copy: null, point: null };
    const made = await measures([], [{ seen, place: [0.2, 0.2, 0] }]);
    const first = made.component.click(0, 0);
    expect(answer(made.worker, 'anchor', { node: 'hose', place: [0.2, 0.2, 0], vertices: [0, 1, 2], shares: [0.6, 0.2, 0.2] })).toEqual({
      seen,
      place: [0.2, 0.2, 0],
    });
    await first;
    const second = made.component.click(0, 0);
    refuse(made.worker, 'anchor', 'Nothing has been computed yet.');
    await second;
    await made.settle();
    expect(made.host.textContent).toContain('Click the second place.');
    expect(made.documents.undoLabel()).toBeNull();
  });

  test('says what they come to, where they lie, and that what they hung on is gone', async () => {
    const made = await measures([
      { kind: 'distance', anchors: [free(0, 0, 0), free(1, 0, 0)] },
      { kind: 'angle', anchors: [free(1, 0, 0), free(0, 0, 0), free(0, 0, 1)] },
      { kind: 'along', anchors: [free(0, 0, 0), free(1, 0, 0)] },
    ]);
    answer(made.worker, 'measured', [
      { places: [[0, 0, 0], [1, 0, 0]], line: [[0, 0, 0], [1, 0, 0]], value: 1.25, why: null, lost: false },
      { places: [], line: [[1, 0, 0], [0, 0, 0], [0, 0, 1]], value: 90, why: null, lost: true },
      { places: [], line: [[0, 0, 0], [1, 0, 0]], value: null, why: 'Its places are not on one curve.', lost: false },
    ]); // prettier-ignore
    await made.settle();
    const said = [...made.host.querySelectorAll('.value')].map((each) => each.firstChild!.textContent!.trim());
    expect(said).toEqual(['1.25 m', '90° · what it was put on is gone', 'Its places are not on one curve.']);
    expect(made.host.querySelectorAll('polyline').length).toBe(3);
  });

  test('are deleted one by one or all at once', async () => {
    const two: Measure[] = [1, 2].map((x) => ({ kind: 'distance', anchors: [free(0, 0, 0), free(x, 0, 0)] }));
    const made = await measures(two);
    answer(made.worker, 'measured', [1, 2].map((x) => ({ places: [], line: [[0, 0, 0], [x, 0, 0]], value: x, why: null, lost: false }))); // prettier-ignore
    await made.settle();
    made.button('Delete the measure 1 m').click();
    expect(made.kept()).toEqual([two[1]]);
    made.button('Clear').click();
    expect(made.kept()).toEqual([]);
    made.documents.undo();
    made.documents.undo();
    expect(made.kept()).toEqual(two);
  });

  test('Escape drops what was begun, then ends it', async () => {
    const made = await measures();
    const ends = heard(made.component.done);
    await made.component.click(0, 0);
    press(document.body, 'Escape');
    await made.settle();
    expect([made.host.querySelectorAll('.dot').length, ends.length]).toEqual([0, 0]);
    press(document.body, 'Escape');
    expect(ends.length).toBe(1);
  });
});
