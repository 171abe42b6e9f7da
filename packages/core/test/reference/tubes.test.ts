import { describe, expect, test } from 'vitest';
import { tube, constantField, paced } from '../../src/index.js';
import { measureChain, runChain } from '../graph.js';
import { expectReference, fineBezier, places, reference, type FormulaCurve } from './reference.js';
import { measure } from '../../src/index.js';

const single = 2e-6;

describe('tubes on circles: exact volume and area of the mesh', () => {
  for (const id of ['SW-O-01', 'SW-O-02']) {
    const { name, inputs, expected } = reference<{ R: number; r: number; rings: number; sides: number }>(id);
    test(name, async () => {
      const figures = await measureChain([
        ['lay.circle', { radius: inputs.R, points: inputs.rings }],
        ['skin.tube', { radius: inputs.r, sides: inputs.sides }],
      ]);
      expectReference(figures.volume, { ...expected['volumeMesh'], rel: single });
      expectReference(figures.area, { ...expected['areaMesh'], rel: single });
      expectReference(figures.vertices, expected['V']);
      expectReference(figures.faces, expected['quads']);
      expectReference(figures.triangles, expected['triangles']);
      expectReference(figures.euler, expected['euler']);
      expect(figures.boundaryEdges + figures.nonManifoldEdges).toBe(0);
    });
  }
});

describe('straight tubes with flat caps', () => {
  for (const id of ['SW-O-03', 'SW-O-04']) {
    const { name, inputs, expected } = reference<{ r: number; length: number; sides: number; rings: number }>(id);
    test(name, async () => {
      const figures = await measureChain([
        ['lay.line', { to: [inputs.length, 0, 0], points: inputs.rings }],
        ['skin.tube', { radius: inputs.r, sides: inputs.sides, caps: 'flat' }],
      ]);
      expectReference(figures.volume, { ...expected['volume'], rel: single });
      expectReference(figures.area, { ...expected['totalArea'], rel: single });
    });
  }

  test(reference('SW-O-09').name, async () => {
    const { inputs, expected } = reference<{ r0: number; r1: number; height: number; sides: number }>('SW-O-09');
    const figures = await measureChain([
      ['lay.line', { to: [0, inputs.height, 0] }],
      ['skin.tube', { radius: { ramp: [[0, inputs.r0], [1, inputs.r1]] }, sides: inputs.sides, caps: 'flat' }], // prettier-ignore
    ]);
    expectReference(figures.volume, { ...expected['volumeMesh'], rel: single });
    expectReference(figures.area, { ...expected['areaMeshWithCaps'], rel: single });
  });
});

describe('tubes on curves: volume by Pappus with the polygon’s own area', () => {
  for (const id of ['SW-O-05', 'SW-O-06', 'SW-O-07', 'SW-O-08']) {
    const { name, inputs, expected } = reference<{ curve: FormulaCurve; radius: number | number[]; rings: number; sides: number }>(id);
    test(name, () => {
      const curves = fineBezier(inputs.curve, inputs.rings);
      const withTangents = paced({ ...curves });
      const rings = withTangents.positions.length / 3;
      expect(rings).toBeGreaterThanOrEqual(inputs.rings);
      const radius = Array.isArray(inputs.radius)
        ? {
            constant: 0,
            values: Float64Array.from(
              { length: rings },
              (_, i) => (inputs.radius as number[])[0] + ((inputs.radius as number[])[1] - (inputs.radius as number[])[0]) * (i / (rings - 1)),
            ),
          }
        : constantField(inputs.radius);
      const { mesh, issues } = tube(withTangents, { radius, sides: inputs.sides, caps: 'flat', corners: 'mitre', uvScale: 0, ringStep: 1 });
      const figures = measure({ mesh });
      expectReference(figures.volume, expected['volumeMesh_expected']);
      expect(figures.volume).toBeGreaterThan(0);
      expect(figures.boundaryEdges).toBe(0);
      expect(issues).toEqual([]);
    });
  }
});

describe('mitred corners', () => {
  test(reference('SW-O-10').name, async () => {
    const { inputs, expected } = reference<{ path: number[][] }>('SW-O-10');
    const { mesh } = await runChain([
      ['lay.drawn', { kind: 'straight', curves: [{ points: inputs.path }] }],
      // A square of side 1 is a section of four sides with radius √½, turned by 45°.
      ['aim.frames', { start: [0, 1, 0], roll: 45 }],
      ['skin.tube', { radius: Math.SQRT1_2, sides: 4, caps: 'flat' }],
    ]);
    const figures = measure({ mesh });
    expectReference(figures.volume, { ...expected['volume'], rel: single });
    expectReference(figures.vertices, expected['V']);
    expectReference(figures.triangles, expected['triangles']);
    expectReference(figures.euler, expected['euler']);
  });

  test(reference('SW-O-11').name, async () => {
    const { inputs, expected } = reference<{ path: number[][]; r: number; sides: number }>('SW-O-11');
    const figures = await measureChain([
      ['lay.drawn', { kind: 'straight', curves: [{ points: inputs.path }] }],
      ['skin.tube', { radius: inputs.r, sides: inputs.sides, caps: 'flat' }],
    ]);
    expectReference(figures.volume, { ...expected['volume'], rel: single });
  });

  test('the corner ring of SW-O-10 without frames: the same places, since the section is round in thickness', async () => {
    const { inputs, expected } = reference<{ path: number[][] }>('SW-O-10');
    const { mesh } = await runChain([
      ['lay.drawn', { kind: 'straight', curves: [{ points: inputs.path }] }],
      ['aim.frames', { start: [0, 0, 1], roll: 45 }],
      ['skin.tube', { radius: Math.SQRT1_2, sides: 4 }],
    ]);
    const wanted = expected['cornerRingVertices_sorted'].value as number[][];
    for (const place of wanted) {
      const near = places(mesh.positions).filter((p) => Math.hypot(p[0] - place[0], p[1] - place[1], p[2] - place[2]) < 1e-6);
      expect(near.length, `a vertex at ${place.join(', ')}`).toBeGreaterThan(0);
    }
  });

  test('a path that turns straight back stays finite and is told', async () => {
    const { last, mesh } = await runChain([
      ['lay.drawn', { kind: 'straight', curves: [{ points: [[0, 0, 0], [2, 0, 0], [0.5, 0, 0]] }] }], // prettier-ignore
      ['skin.tube', { radius: 0.1, caps: 'flat' }],
    ]);
    expect(last.warnings.map(({ code }) => code)).toContain('degenerate');
    expect(mesh.positions.every(Number.isFinite)).toBe(true);
  });
});

describe('counts', () => {
  for (const id of ['SW-O-13', 'SW-O-14']) {
    const { name, inputs, expected } = reference<{ rings: number; sides: number }>(id);
    test(name, async () => {
      const open = await measureChain([['lay.line', { points: inputs.rings }], ['skin.tube', { radius: 0.01, sides: inputs.sides }]]); // prettier-ignore
      const want = (key: string): Record<string, number> => expected[key].value as Record<string, number>;
      expect({ V: open.vertices, quads: open.faces, triangles: open.triangles, boundaryEdges: open.boundaryEdges, euler: open.euler }).toMatchObject(
        pick(want('openUncapped'), ['V', 'quads', 'triangles', 'boundaryEdges', 'euler']),
      );
      const capped = await measureChain([['lay.line', { points: inputs.rings }], ['skin.tube', { radius: 0.01, sides: inputs.sides, caps: 'flat' }]]); // prettier-ignore
      expect({ V: capped.vertices, faces: capped.faces, triangles: capped.triangles, boundaryEdges: capped.boundaryEdges, euler: capped.euler }).toMatchObject(
        pick(want('cappedByPolygon'), ['V', 'faces', 'triangles', 'boundaryEdges', 'euler']),
      );
      const ring = await measureChain([['lay.circle', { points: inputs.rings }], ['skin.tube', { radius: 0.01, sides: inputs.sides }]]); // prettier-ignore
      expect({ V: ring.vertices, quads: ring.faces, boundaryEdges: ring.boundaryEdges, euler: ring.euler }).toMatchObject(
        pick(want('closedRing'), ['V', 'quads', 'boundaryEdges', 'euler']),
      );
      const { mesh } = await runChain([['lay.circle', { points: inputs.rings }], ['skin.tube', { radius: 0.01, sides: inputs.sides }]]); // prettier-ignore
      expect(mesh.positions.length / 3).toBe(want('withUVSeam_closedRing')['V']);
    });
  }
});

const pick = (from: Record<string, number>, keys: readonly string[]): Record<string, number> =>
  Object.fromEntries(keys.filter((key) => from[key] !== undefined).map((key) => [key, from[key]]));

describe('UVs', () => {
  test('v is arc length over the tile, u goes once round; walls stretch evenly on untapered tubes', async () => {
    const { report, last } = await runChain([
      ['lay.line', { to: [6, 0, 0] }],
      ['shape.hang', { value: 0.9, points: 200 }],
      ['skin.tube', { radius: 0.05, sides: 24, uvScale: 0.25 }],
      ['flow.output'],
    ]);
    expect(last.error).toBeUndefined();
    const { uv } = report.outputs['main'];
    const hung = await runChain([['lay.line', { to: [6, 0, 0] }], ['shape.hang', { value: 0.9, points: 200 }], ['flow.output']]); // prettier-ignore
    const length = hung.report.outputs['main'].length;
    expect(Math.abs(uv!.max[1] - length / 0.25)).toBeLessThan(1e-4);
    expect(uv!.max[0]).toBeCloseTo((2 * Math.PI * 0.05) / 0.25, 5);
    expect(uv!.stretch[0]).toBeGreaterThan(0.98);
    expect(uv!.stretch[1]).toBeLessThan(1.02);
  });

  test(reference('UV-O-01').name, async () => {
    const { inputs, expected } = reference<{ path?: number[][]; points?: number[][] }>('UV-O-01');
    const { mesh } = await runChain([
      ['lay.drawn', { kind: 'straight', curves: [{ points: (inputs.path ?? inputs.points)! }] }],
      ['skin.tube', { radius: 0.01, sides: 4 }],
    ]);
    const v = [...new Set(Array.from(mesh.attributes.get('uv')!.data).filter((_, i) => i % 2 === 1))];
    expectReference(v, { value: expected['u_normalised'].value, abs: 1e-6 });
  });

  test('a flat cap is laid out without distortion (common practice: one scale for all its triangles)', async () => {
    const { mesh } = await runChain([['lay.line'], ['skin.tube', { radius: 0.8, sides: 12, caps: 'flat', uvScale: 1 }]]); // prettier-ignore
    const uv = mesh.attributes.get('uv')!.data;
    const cap = mesh.corners.subarray(mesh.corners.length - 12);
    for (let i = 0; i < 12; i++) {
      const [a, b] = [cap[i], cap[(i + 1) % 12]];
      const p = places(mesh.positions);
      const real = Math.hypot(p[a][0] - p[b][0], p[a][1] - p[b][1], p[a][2] - p[b][2]);
      expect(Math.hypot(uv[a * 2] - uv[b * 2], uv[a * 2 + 1] - uv[b * 2 + 1]) / real).toBeCloseTo(1, 5);
    }
  });
});

test(`${reference('SW-O-20').name}: told as a pinch, and not before`, async () => {
  const warned = async (radius: number): Promise<string[]> => (await runChain([['lay.circle', { points: 64 }], ['skin.tube', { radius }]])).last.warnings.map(({ code }) => code); // prettier-ignore
  expect(await warned(1.25)).toContain('pinch');
  expect(await warned(0.99)).not.toContain('pinch');
});
