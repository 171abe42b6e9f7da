import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Evaluator, Plan, requireDocument } from '@filaxis/core';
import { measurePlaces, type Anchor, type Measure } from '@filaxis/protocol';
import { measuresOf, withMeasures } from '../src/app/ropewalk/document/measures';
import { keepViewAs, keptViews, forgetView, freeViewName } from '../src/app/ropewalk/document/kept-views';
import { anchorOf, measuredNow } from '../src/workers/measuring';
import type { Newest } from '../src/workers/newest';

async function ran(radius: number, sides = 8): Promise<Newest> {
  const document = requireDocument({
    format: 'filaxis-graph',
    version: 1,
    title: 'Measured',
    nodes: [
      { id: 'ring', type: 'lay.circle', settings: { radius, points: 64 } },
      { id: 'hose', type: 'skin.tube', settings: { radius: 0.1, sides } },
    ],
    wires: [{ from: ['ring', 'curves'], to: ['hose', 'curves'] }],
  });
  const plan = new Plan(document);
  return { plan, run: await new Evaluator().run(plan), shown: ['hose'], time: 0 };
}

const free = (...place: number[]): Anchor => ({ node: null, place });
const value = async (measure: Measure, radius = 2): Promise<number | null> => measuredNow(await ran(radius), { measures: [measure] })[0].value;

describe('measures', () => {
  test('distance and angle of places that hang on nothing', async () => {
    expect(await value({ kind: 'distance', anchors: [free(0, 0, 0), free(3, 4, 12)] })).toBe(13);
    expect(await value({ kind: 'angle', anchors: [free(1, 0, 0), free(0, 0, 0), free(0, 5, 0)] })).toBeCloseTo(90, 10);
    expect(await value({ kind: 'angle', anchors: [free(1, 0, 0), free(1, 0, 0), free(0, 5, 0)] })).toBeNull();
  });

  test('an angle is that of the sine and cosine of it, however narrow', async () => {
    const newest = await ran(1);
    fc.assert(
      fc.property(fc.double({ min: 1e-7, max: Math.PI, noNaN: true }), fc.double({ min: 0.01, max: 100, noNaN: true }), (angle, size) => {
        const measure: Measure = { kind: 'angle', anchors: [free(1, 0, 0), free(0, 0, 0), free(size * Math.cos(angle), size * Math.sin(angle), 0)] };
        expect((measuredNow(newest, { measures: [measure] })[0].value! * Math.PI) / 180 / angle).toBeCloseTo(1, 6);
      }),
    );
  });

  test('the bend of a circle has its radius, and half way round it is half its length', async () => {
    const on = (share: number): Anchor => ({ node: 'ring', place: [0, 0, 0], curve: 0, share });
    expect(await value({ kind: 'bend', anchors: [on(0.3)] })).toBeCloseTo(2, 3);
    // A polygon of 64 corners has 64 · 2 r sin(π / 64) as its length.
    expect(await value({ kind: 'along', anchors: [on(0.75), on(0.25)] })).toBeCloseTo(64 * 2 * Math.sin(Math.PI / 64), 4);
    expect(await value({ kind: 'along', anchors: [on(0.25), free(1, 1, 1)] })).toBeNull();
  });

  test('what was clicked goes along when the document changes, and says so when it is gone', async () => {
    const before = await ran(2);
    const { positions, corners } = [...Object.values(before.run.nodes.get('hose')!.outputs)][0] as unknown as { positions: Float32Array; corners: Uint32Array };
    const triangle = [...corners.subarray(0, 3)].flatMap((vertex) => [...positions.subarray(vertex * 3, vertex * 3 + 3)]);
    const middle = [0, 1, 2].map((k) => (triangle[k] + triangle[3 + k] + triangle[6 + k]) / 3);
    const anchor = anchorOf(before, { seen: { corners: triangle, copy: null, point: null }, place: middle });
    expect(anchor.node).toBe('hose');
    for (const share of anchor.shares!) expect(share).toBeCloseTo(1 / 3, 5);
    const measures: Measure[] = [{ kind: 'distance', anchors: [anchor, free(0, 0, 0)] }];
    const [was] = measuredNow(before, { measures });
    was.places[0].forEach((each, k) => expect(each).toBeCloseTo(middle[k], 5));
    const [larger] = measuredNow(await ran(4), { measures });
    expect(larger.value! - was.value!).toBeCloseTo(2, 1);
    const gone = { ...measures[0], anchors: [{ ...anchor, node: 'other' }, free(0, 0, 0)] };
    expect(measuredNow(before, { measures: [gone] })[0]).toMatchObject({ lost: true, value: was.value });
    const { positions: points } = Object.values(before.run.nodes.get('ring')!.outputs)[0] as unknown as { positions: Float32Array };
    const onCurve = anchorOf(before, { seen: { corners: null, copy: null, point: [...points.subarray(48, 51)] }, place: [...points.subarray(48, 51)] });
    expect(onCurve).toMatchObject({ node: 'ring', curve: 0 });
    expect(onCurve.share).toBeCloseTo(0.25, 5);
  });

  test('are kept in the document, and what is no measure there is left out', () => {
    const document = requireDocument({ format: 'filaxis-graph', version: 1, title: 'Kept', nodes: [], wires: [] });
    const measure: Measure = { kind: 'bend', anchors: [free(1, 2, 3)] };
    expect(measuresOf(withMeasures(document, [measure]))).toEqual([measure]);
    const odd = [
      null,
      3,
      { kind: 'bend' },
      { kind: 'bend', anchors: [] },
      { kind: 'toString', anchors: [] },
      { kind: 'distance', anchors: [free(1), free(2)] },
    ];
    expect(measuresOf({ ...document, view: { measures: odd } })).toEqual([]);
    expect(Object.values(measurePlaces)).toEqual([2, 2, 3, 1]);
  });
});

describe('views that a document keeps', () => {
  const document = requireDocument({ format: 'filaxis-graph', version: 1, title: 'Kept', nodes: [], wires: [] });
  const camera = { position: [1, 2, 3], target: [0, 0, 0], focal: 60 };

  test('have names of their own, are replaced under the same name, and forgotten', () => {
    const two = keepViewAs(keepViewAs(document, 'Bow', camera), freeViewName(document), camera);
    expect(keptViews(two).map(({ name }) => name)).toEqual(['Bow', 'View 1']);
    expect(freeViewName(two)).toBe('View 2');
    const again = keepViewAs(two, 'Bow', { ...camera, focal: 24 });
    expect(keptViews(again)[0]).toEqual({ name: 'Bow', camera: { ...camera, focal: 24 } });
    expect(keptViews(forgetView(again, 'Bow')).map(({ name }) => name)).toEqual(['View 1']);
  });

  test('what is no view is left out', () => {
    expect(keptViews({ ...document, view: { kept: [null, { name: 'A' }, { name: 'B', camera: { position: [1], target: [0, 0, 0] } }] } })).toEqual([]);
  });
});
