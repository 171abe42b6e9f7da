import { Bezier } from 'bezier-js';
import { CatmullRomCurve3, Vector3 } from 'three';
import { expect, test } from 'vitest';
import { curveLengths } from '../../src/index.js';
import { runChain } from '../graph.js';
import { expectReference, places, reference } from './reference.js';

for (const id of ['LV-O-01', 'LV-O-02']) {
  const { name, inputs, expected } = reference<{ points: number[][]; closed: boolean; spaced: number }>(id);
  test(`${name}: within twice the library's own error`, async () => {
    const library = new CatmullRomCurve3(inputs.points.map(([x, y, z]) => new Vector3(x, y, z)), inputs.closed, 'centripetal'); // prettier-ignore
    const through = ['lay.drawn', { kind: 'through', curves: [{ points: inputs.points, closed: inputs.closed }] }] as const;
    const { curves } = await runChain([through]);
    const exact = expected['exactLength'].value as number;
    expectReference(curveLengths(curves)[0], expected['exactLength']);
    expect(Math.abs(library.getLength() - curveLengths(curves)[0])).toBeLessThan(2 * Math.abs(library.getLength() - exact) + 1e-5);
    const count = inputs.closed ? inputs.spaced : inputs.spaced + 1;
    const resampled = await runChain([through, ['pace.resample', { count }]]);
    const theirs = library.getSpacedPoints(inputs.spaced).slice(0, count).map((p) => p.toArray()); // prettier-ignore
    const allowed = 2 * (expected['worstSpacedPointError'].value as number);
    expectReference(places(resampled.curves.positions), { value: theirs, abs: allowed });
  });
}

test(`${reference('LV-O-04').name}: bezier-js agrees on tame curves`, async () => {
  const { inputs, expected } = reference<{ controlPointLists: number[][][] }>('LV-O-04');
  const exact = expected['lengthExact'].value as number[];
  for (const [i, control] of inputs.controlPointLists.entries()) {
    if (control.length !== 4) continue;
    const { curves } = await runChain([['lay.drawn', { kind: 'bezier', curves: [{ points: control }] }]]);
    expect(Math.abs(curveLengths(curves)[0] - exact[i])).toBeLessThan(1e-6 * exact[i]);
    const theirs = new Bezier(control.map(([x, y, z]) => ({ x, y, z }))).length(); // prettier-ignore
    // The library is known to be off by 0.002 at the cusp of the second curve.
    expect(Math.abs(theirs - curveLengths(curves)[0])).toBeLessThan(i === 1 ? 3e-3 : 1e-6);
  }
});
