import { asStroke, type GivenStroke, type Stroke } from '@filaxis/core';
import type { Answers, Questions } from '@filaxis/protocol';
import { of, throwError } from 'rxjs';
import { Ray, Sphere, Vector3 } from 'three';
import { ViewCamera } from '../../src/app/ropewalk/view3d/view-camera';
import { describe, expect, test } from 'vitest';
import { Sight } from '../../src/app/ropewalk/view3d/sight';
import { StrokeEditor } from '../../src/app/ropewalk/view3d/stroke-editor';
import { graph, mounted, point, press, type Mounted } from './mounted';

/** An eye before a ball of 1 m at the origin, in a pane of 800 × 600. */
function stage(): { sight: Sight; gridStep: number } {
  const camera = Object.assign(new ViewCamera(), { aspect: 800 / 600, focal: 12 / Math.tan(Math.PI / 9) });
  camera.position.set(0, 0, 5);
  camera.reach(5);
  camera.updateMatrixWorld();
  return { sight: new Sight(camera), gridStep: 1 };
}

/** What the worker would say of the ball: one triangle for each whole degree round it, so that places can be told apart. */
function onBall({ rays }: Questions['onBody']): Answers['onBody'] {
  const hits = rays.map(({ from, along }) => {
    const at = new Ray(new Vector3(...from), new Vector3(...along)).intersectSphere(new Sphere(new Vector3(), 1), new Vector3());
    return at && { place: [at.x, at.y, at.z] as const, on: [Math.floor(((Math.atan2(at.y, at.x) + Math.PI) * 180) / Math.PI) % 360, 0.25, 0.25] as const };
  });
  return { triangles: 360, hits };
}

interface Editor extends Mounted<StrokeEditor> {
  readonly strokes: () => readonly Stroke[];
  readonly sheet: () => Element;
  readonly spots: () => Element[];
  /** From now on the worker answers. */
  readonly hear: () => void;
  readonly button: (text: string) => HTMLButtonElement | undefined;
}

async function editor(strokes: readonly GivenStroke[], { wired = true, deaf = false } = {}): Promise<Editor> {
  const nodes = [
    { id: 'ball', type: 'lay.sphere', settings: {} },
    { id: 'line', type: 'lay.surfaceStroke', settings: { strokes } },
  ];
  const wires = wired ? [{ from: ['ball', 'mesh'] as const, to: ['line', 'mesh'] as const }] : [];
  const made = await mounted(StrokeEditor, { document: graph(nodes, wires), inputs: { stage: stage(), drawnFrames: 0 } });
  made.evaluation.ask = ((topic: string, question: Questions['onBody']) => {
    if (deaf) return throwError(() => new Error('Nothing has been computed yet.'));
    return of(topic === 'onBody' ? onBall(question) : []);
  }) as typeof made.evaluation.ask;
  const box = { left: 0, top: 0, right: 800, bottom: 600, width: 800, height: 600, x: 0, y: 0, toJSON: () => null };
  // The element stands in tests under another name than in the page, where it is looked for by its own.
  const host = document.createElement('fx-stroke-editor');
  made.host.replaceWith(host);
  host.append(made.host);
  host.getBoundingClientRect = () => box;
  made.documents.select('line');
  await made.settle();
  return {
    ...made,
    strokes: () => (made.documents.document().nodes[1].settings as { strokes: readonly GivenStroke[] }).strokes.map(asStroke),
    sheet: () => {
      const sheet = made.host.querySelector('.sheet')!;
      sheet.setPointerCapture = () => undefined;
      return sheet;
    },
    hear: () => (deaf = false),
    spots: () => [...made.host.querySelectorAll('circle.point')],
    button: (text) => [...made.host.querySelectorAll('button')].find(({ textContent }) => textContent.trim().startsWith(text)),
  };
}

const click = async (made: Editor, x: number, y: number): Promise<void> => {
  point(made.sheet(), 'pointerdown', x, y, { button: 0 });
  point(made.sheet(), 'pointerup', x, y);
  await made.settle();
};
const sweep = async (made: Editor, xs: readonly number[]): Promise<void> => {
  point(made.sheet(), 'pointerdown', xs[0], 300, { button: 0 });
  for (const x of xs.slice(1)) point(made.sheet(), 'pointermove', x, 300);
  point(made.sheet(), 'pointerup', xs.at(-1)!, 300);
  await made.settle();
};

describe('strokes on a body', () => {
  test('a click lays a point on what is under it, by place and by triangle, as one edit', async () => {
    const made = await editor([]);
    await click(made, 400, 300);
    await click(made, 430, 300);
    const [{ points, on, triangles }] = made.strokes();
    expect([points.length, on!.length, triangles]).toEqual([2, 2, 360]);
    expect(points[0].map((value) => Math.round(value * 1e6) / 1e6)).toEqual([0, 0, 1]);
    expect(points[1][0]).toBeGreaterThan(0.1);
    for (const p of points) expect(Math.hypot(...p)).toBeCloseTo(1, 6);
    made.documents.undo();
    expect(made.strokes()[0].points.length).toBe(1);
  });

  test('a drag draws a whole line, which is one step back; what follows is another stroke', async () => {
    const made = await editor([]);
    await sweep(made, [380, 383, 395, 410, 425]);
    // A move of 3 pixels is none.
    expect(made.strokes().map(({ points }) => points.length)).toEqual([4]);
    await click(made, 400, 260);
    expect(made.strokes().map(({ points }) => points.length)).toEqual([4, 1]);
    made.documents.undo();
    made.documents.undo();
    expect(made.strokes()).toEqual([]);
  });

  test('beside the body nothing is laid, and that is said', async () => {
    const made = await editor([]);
    await click(made, 10, 10);
    expect([made.strokes().length, made.host.textContent.includes('nothing of the body under this click')]).toEqual([0, true]);
    await click(made, 400, 300);
    expect(made.host.textContent.includes('nothing of the body')).toBe(false);
  });

  test('Enter ends a stroke, Backspace takes the last point back, Escape ends drawing', async () => {
    const made = await editor([]);
    await click(made, 400, 300);
    press(document, 'Enter');
    await click(made, 420, 300);
    await click(made, 440, 300);
    press(document, 'Backspace');
    await made.settle();
    expect(made.strokes().map(({ points }) => points.length)).toEqual([1, 1]);
    press(document, 'Escape');
    await made.settle();
    expect(made.host.querySelector('.sheet')).toBeNull();
  });

  test('a point is moved over the body and deleted; a stroke without points goes', async () => {
    const made = await editor([[[0, 0, 1], [0.2, 0, 0.98]]]); // prettier-ignore
    const [spot] = made.spots();
    spot.setPointerCapture = () => undefined;
    point(spot, 'pointerdown', 400, 300, { button: 0 });
    point(spot, 'pointermove', 400, 250);
    point(spot, 'pointerup', 400, 250);
    await made.settle();
    const [{ points, on }] = made.strokes();
    expect([points[0][1] > 0.2, Math.hypot(...points[0]).toFixed(4), points[1], on]).toEqual([true, '1.0000', [0.2, 0, 0.98], undefined]);
    press(made.spots()[0], 'Delete');
    await made.settle();
    press(made.spots()[0], 'Delete');
    await made.settle();
    expect(made.strokes()).toEqual([]);
  });

  test('strokes are closed, taken away and cleared by their buttons', async () => {
    const line: GivenStroke = [[0, 0, 1], [0.2, 0, 0.98], [0.2, 0.2, 0.96]]; // prettier-ignore
    const made = await editor([line, line]);
    const closed = [...made.host.querySelectorAll('button')].find(({ textContent }) => textContent.includes('Closed'))!;
    closed.click();
    await made.settle();
    expect(made.strokes().map((stroke) => stroke.closed ?? false)).toEqual([false, true]);
    made.button('Delete stroke')!.click();
    await made.settle();
    expect(made.strokes().length).toBe(1);
    made.button('Clear')!.click();
    await made.settle();
    expect([made.strokes(), made.host.querySelector('.sheet') !== null]).toEqual([[], true]);
  });

  test('without a body it says what is missing', async () => {
    const bare = await editor([], { wired: false });
    expect([bare.host.querySelector('.sheet'), bare.host.textContent.includes('Wire a mesh into this node')]).toEqual([null, true]);
  });

  test('without an answer nothing is laid, and the next click counts', async () => {
    const made = await editor([], { deaf: true });
    await click(made, 400, 300);
    expect(made.strokes()).toEqual([]);
    made.hear();
    await click(made, 400, 300);
    expect(made.strokes().length).toBe(1);
  });
});
