import { curveCount, curveKinds, paced, type Curves } from '@filaxis/core';
import { originOf } from './far.js';
import type { UsdaSink } from './usdaSink.js';

/** Curves by kind and wrap, since one prim holds curves of one sort: straight ones linear, smooth ones as the cubic Bezier spans they are made of. */
export function curvesPrims(usd: UsdaSink, given: Curves): void {
  const curves = paced(given);
  for (const straight of [true, false])
    for (const closed of [0, 1]) {
      const own = Array.from({ length: curveCount(curves) }, (_, c) => c).filter(
        (c) => (curveKinds[curves.kind[c]] === 'straight') === straight && curves.closed[c] === closed && curves.starts[c + 1] - curves.starts[c] > 1,
      );
      if (own.length) curvesPrim(usd, curves, own, straight, closed === 1);
    }
}

function curvesPrim(usd: UsdaSink, curves: Curves, own: readonly number[], straight: boolean, closed: boolean): void {
  const radius = curves.attributes.get('radius');
  const [places, counts, widths]: [number[], number[], number[]] = [[], [], []];
  for (const c of own) {
    const before = places.length;
    curvePlaces(curves, c, straight, places);
    counts.push((places.length - before) / 3);
    for (let i = curves.starts[c]; radius?.carrier === 'point' && i < curves.starts[c + 1]; i++) widths.push(2 * radius.data[i]);
  }
  usd.block(`def BasisCurves "${straight ? 'straight' : 'smooth'}${closed ? 'Closed' : ''}"`, () => {
    usd.lines(`uniform token type = "${straight ? 'linear' : 'cubic'}"`);
    if (!straight) usd.lines('uniform token basis = "bezier"');
    usd.lines(`uniform token wrap = "${closed ? 'periodic' : 'nonperiodic'}"`);
    usd.numbers('int[] curveVertexCounts', counts);
    usd.tuples('point3f[] points', places, 3);
    usd.place(originOf(curves.attributes));
    if (widths.length) usd.tuples('float[] widths', widths, 1, 'varying');
    const points = own.flatMap((c) => Array.from({ length: curves.starts[c + 1] - curves.starts[c] }, (_, i) => curves.starts[c] + i));
    for (const [name, attribute] of curves.attributes) {
      const rows = attribute.carrier === 'point' ? points : attribute.carrier === 'curve' ? own : null;
      if (!rows) continue;
      const data = Float32Array.from({ length: rows.length * attribute.size }, (_, i) => attribute.data[rows[Math.floor(i / attribute.size)] * attribute.size + (i % attribute.size)]); // prettier-ignore
      usd.values(new Map([[name, { ...attribute, data }]]), (carrier) => ({ interpolation: carrier === 'point' ? 'varying' : 'uniform' }));
    }
  });
}

function curvePlaces(curves: Curves, c: number, straight: boolean, out: number[]): void {
  const p = curves.positions;
  const from = curves.starts[c];
  const count = curves.starts[c + 1] - from;
  const [into, leaving] = ['handleIn', 'handleOut'].map((name) => curves.attributes.get(name)?.data);
  const gaps = curves.closed[c] ? count : count - 1;
  for (let i = 0; i < count; i++) {
    const a = (from + i) * 3;
    for (let k = 0; k < 3; k++) out.push(p[a + k]);
    if (straight || i >= gaps) continue;
    const b = (from + ((i + 1) % count)) * 3;
    for (let k = 0; k < 3; k++) out.push(p[a + k] + (leaving?.[a + k] ?? 0));
    for (let k = 0; k < 3; k++) out.push(p[b + k] + (into?.[b + k] ?? 0));
  }
}
