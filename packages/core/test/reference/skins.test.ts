import { describe, expect, test } from 'vitest';
import { curveLengths, faceCount, measure, type Copies, type Curves, type Mesh } from '../../src/index.js';
import { drawn, measureChain, runChain, runGraph, type Chain } from '../graph.js';
import { expectReference, places, reference } from './reference.js';

type Nodes = Parameters<typeof runGraph>[0];

/** A profile swept along a path; gives the mesh and its figures. */
async function swept(
  path: Chain[number],
  profile: Chain[number],
  settings: Record<string, unknown> = {},
): Promise<{ mesh: Mesh; figures: ReturnType<typeof measure>; warnings: string[] }> {
  const { results } = await runGraph({ path, profile, sweep: ['skin.sweep', { caps: 'flat', ...settings }] }, [
    'path.curves > sweep.curves',
    'profile.curves > sweep.profile',
  ]);
  const { error, outputs, warnings } = results['sweep'];
  if (error) throw new Error(error.message);
  const mesh = outputs['mesh'] as Mesh;
  return { mesh, figures: measure({ mesh }), warnings: warnings.map(({ code }) => code) };
}

const square = (side: number): Chain[number] => ['lay.rectangle', { width: side, height: side }];

describe('sweep', () => {
  const corner = reference<{ path: number[][]; side: number }>('SW-O-10');
  test(corner.name, async () => {
    const { mesh, figures } = await swept(drawn(corner.inputs.path), square(corner.inputs.side));
    expectReference(figures.volume, corner.expected['volume'], 1e-5);
    expect(figures).toMatchObject({ vertices: 12, triangles: 20, euler: 2, boundaryEdges: 0, degenerateFaces: 0 });
    const ring = places(mesh.positions).map((p) => p.map((value) => Math.round(value * 1e5) / 1e5 + 0));
    for (const wanted of corner.expected['cornerRingVertices_sorted'].value as number[][]) expect(ring).toContainEqual(wanted);
  });

  const bends = reference<{ path: number[][]; r: number; sides: number }>('SW-O-11');
  test(bends.name, async () => {
    const { figures } = await swept(drawn(bends.inputs.path), ['lay.polygon', { sides: bends.inputs.sides, radius: bends.inputs.r }]);
    expectReference(figures.volume, bends.expected['volume'], 1e-5);
  });

  const offCentre = reference<{ arcRadius: number; offset: number; side: number }>('SW-O-19');
  test(offCentre.name, async () => {
    const { arcRadius, offset, side } = offCentre.inputs;
    // The arc's normal, by curvature, points to its centre: x of the profile is inward.
    const { results } = await runGraph(
      {
        arc: ['lay.circle', { radius: arcRadius, span: 90, points: 200 }],
        frames: ['aim.frames', { method: 'curvature' }],
        square: square(side),
        moved: ['shape.transform', { move: [-offset, 0, 0] }],
        sweep: ['skin.sweep', { caps: 'flat' }],
      },
      ['arc.curves > frames.curves', 'square.curves > moved.any', 'frames.curves > sweep.curves', 'moved.any > sweep.profile'],
    );
    expect(measure({ mesh: results['sweep'].outputs['mesh'] as Mesh }).volume / (offCentre.expected['volume'].value as number)).toBeCloseTo(1, 3);
  });

  test('a pipe with a bore: volume π(R² − r²)L by the polygons’ own areas, euler 0 (Pappus; derived)', async () => {
    const { results } = await runGraph(
      {
        line: ['lay.line', { to: [0, 0, 3], points: 4 }],
        outer: ['lay.polygon', { sides: 24, radius: 0.5 }],
        inner: ['lay.polygon', { sides: 24, radius: 0.3 }],
        both: ['flow.join'],
        sweep: ['skin.sweep', { caps: 'flat' }],
      },
      ['outer.curves > both.any', 'inner.curves > both.any', 'line.curves > sweep.curves', 'both.any > sweep.profile'],
    );
    const figures = measure({ mesh: results['sweep'].outputs['mesh'] as Mesh });
    expect(figures.volume / (12 * Math.sin((2 * Math.PI) / 24) * (0.25 - 0.09) * 3)).toBeCloseTo(1, 5);
    expect(figures).toMatchObject({ boundaryEdges: 0, euler: 0, parts: 1 });
  });

  test('a profile drawn the other way round, or in another plane, faces outwards all the same', async () => {
    const volumes: number[] = [];
    const list = [[0.2, 0], [0, 0.3], [-0.1, 0], [0, -0.3]]; // prettier-ignore
    for (const points of [list.map(([x, y]) => [x, y, 0]), [...list].reverse().map(([x, y]) => [x, y, 0]), list.map(([x, y]) => [x, 0, -y])])
      volumes.push((await swept(['lay.line', { to: [0, 2, 0] }], drawn(points, true))).figures.volume);
    for (const volume of volumes) expect(volume).toBeCloseTo(2 * 0.09, 6);
  });

  test('a square blended into a larger one is a frustum: volume L(a² + ab + b²)/3 (common practice)', async () => {
    const { results } = await runGraph(
      { line: ['lay.line', { to: [0, 3, 0], points: 13 }], a: square(1), b: square(2), sweep: ['skin.sweep', { caps: 'flat' }] },
      ['line.curves > sweep.curves', 'a.curves > sweep.profile', 'b.curves > sweep.profile'],
    );
    expect(measure({ mesh: results['sweep'].outputs['mesh'] as Mesh }).volume).toBeCloseTo((3 * (1 + 2 + 4)) / 3, 4);
  });

  test('profiles that cannot be blended, or unequal lists of profiles and curves, are refused with both counts', async () => {
    const nodes: Nodes = {
      line: ['lay.line'],
      lines: ['shape.row', { count: 3, step: [0, 1, 0] }],
      a: square(0.1),
      b: square(0.2),
      two: ['shape.row', { count: 2 }],
      blend: ['skin.sweep'],
      each: ['skin.sweep', { profiles: 'perCurve' }],
      cycle: ['skin.sweep', { profiles: 'perCurve', unequal: 'cycle', caps: 'flat' }],
    };
    const { results } = await runGraph(nodes, [
      'line.curves > lines.any', 'b.curves > two.any',
      'line.curves > blend.curves', 'a.curves > blend.profile', 'two.any > blend.profile',
      'lines.any > each.curves', 'a.curves > each.profile', 'b.curves > each.profile',
      'lines.any > cycle.curves', 'a.curves > cycle.profile', 'b.curves > cycle.profile',
    ]); // prettier-ignore
    expect(results['blend'].error?.message).toMatch(/Profile 0 has 1 outlines and profile 1 has 2/);
    expect(results['each'].error?.message).toMatch(/curves 3 and profiles 2/);
    expect(measure({ mesh: results['cycle'].outputs['mesh'] as Mesh }).volume).toBeCloseTo(0.01 + 0.04 + 0.01, 6);
  });

  test('normals are exact on a taper and flat on edges: a pyramid’s sides all lean alike', async () => {
    const { mesh } = await swept(['lay.line', { to: [0, 2, 0], points: 5 }], square(1), { size: { ramp: [[0, 1], [1, 0.5]] } }); // prettier-ignore
    const part = mesh.attributes.get('part')!.data;
    const normal = places(mesh.attributes.get('normal')!.data);
    // The sides draw in by 0.25 over 2 m.
    const lean = 0.25 / 2 / Math.hypot(1, 0.25 / 2);
    for (let f = 0; f < faceCount(mesh); f++)
      if (part[f] === 0) for (let i = f * 4; i < f * 4 + 4; i++) expect(normal[mesh.corners[i]][1]).toBeCloseTo(lean, 5);
  });

  test('a size that runs out to nothing closes on one point', async () => {
    const { figures } = await swept(['lay.line', { to: [0, 3, 0], points: 7 }], square(1), { size: { ramp: [[0, 1], [1, 0]] } }); // prettier-ignore
    expect(figures.volume).toBeCloseTo(1, 4);
    expect(figures).toMatchObject({ boundaryEdges: 0, euler: 2, degenerateFaces: 0 });
  });

  test('v equals arc length within 1e-5, u the length around; stretch of a straight square is within 2 % of its mean', async () => {
    const { mesh, figures } = await swept(drawn([[0, 0, 0], [1, 0, 0], [1, 2, 0], [1, 2, 4]]), square(0.25), { uvScale: 0.5, caps: 'open' }); // prettier-ignore
    const v = [...new Set(Array.from(mesh.attributes.get('uv')!.data).filter((_, i) => i % 2 === 1).map((value) => Math.round(value * 1e5) / 1e5))]; // prettier-ignore
    expect(v.sort((a, b) => a - b)).toEqual([0, 2, 6, 14]);
    expect(figures.uv!.max[0]).toBeCloseTo(2, 5);
    const straight = await swept(['lay.line', { points: 5 }], square(0.25), { uvScale: 0.5 });
    expect(straight.figures.uv!.stretch[0]).toBeGreaterThan(0.98);
    expect(straight.figures.uv!.stretch[1]).toBeLessThan(1.02);
  });
});

describe('caps', () => {
  const cap = reference<{ sides: number; r: number }>('UV-O-04');
  test(cap.name, async () => {
    const { sides, r } = cap.inputs;
    for (const node of [['skin.tube', { radius: r, sides, caps: 'flat' }]] as Chain) {
      const { mesh } = await runChain([['lay.line'], node]);
      const part = mesh.attributes.get('part')!.data;
      const uv = mesh.attributes.get('uv')!.data;
      const end = part.findIndex((value) => value === 2);
      const from = mesh.faceStarts![end];
      const points = Array.from({ length: sides }, (_, i) => Array.from(uv.subarray(mesh.corners[from + i] * 2, mesh.corners[from + i] * 2 + 2)));
      expectReference(points, cap.expected['uvPoints'], 1e-6);
    }
  });
  test('have their own offset, turn and scale, which leave the wall alone', async () => {
    const uvs = async (settings: object): Promise<Float32Array> => (await runChain([['lay.line'], ['skin.tube', { radius: 0.1, sides: 4, caps: 'flat', ...settings }]])).mesh.attributes.get('uv')!.data; // prettier-ignore
    const plain = await uvs({});
    const moved = await uvs({ capOffset: [2, 1], capTurn: 90, capScale: 3 });
    expect(moved.slice(0, 20)).toEqual(plain.slice(0, 20));
    // (1, 0.5) is half a unit from the middle along u; turned by 90° and three times as far it is along v.
    expect(Array.from(plain.slice(20, 22))).toEqual([1, 0.5]);
    expect(moved[20]).toBeCloseTo(2.5, 5);
    expect(moved[21]).toBeCloseTo(0.5 + 1.5 + 1, 5);
  });
});

describe('pinches', () => {
  const ellipse = reference('SW-O-16');
  const path: Chain = [
    drawn(
      Array.from({ length: 400 }, (_, i) => [3 * Math.cos((i * Math.PI) / 200), 0, Math.sin((i * Math.PI) / 200)]),
      true,
    ),
  ];
  test(`${ellipse.name}: warned beyond the least radius of curvature, at its ends`, async () => {
    expect((await runChain([...path, ['skin.tube', { radius: 0.33 }]])).last.warnings).toEqual([]);
    const { warnings } = (await runChain([...path, ['skin.tube', { radius: 0.345 }]])).last;
    const length = curveLengths((await runChain(path)).curves)[0];
    expect(warnings.map(({ code }) => code)).toEqual(['pinch', 'pinch']);
    for (const { at } of warnings) expect(Math.min(Math.abs(at!), Math.abs(at! - length / 2), Math.abs(at! - length))).toBeLessThan(0.2);
  });
  test('relaxing mends them measurably: no pinch is left, and away from them the radius is as asked', async () => {
    const { last, mesh } = await runChain([...path, ['skin.tube', { radius: 0.6, relaxPinch: true, sides: 16 }]]);
    expect((await runChain([...path, ['skin.tube', { radius: 0.6 }]])).last.warnings.length).toBeGreaterThan(0);
    expect(last.warnings).toEqual([]);
    const heights = places(mesh.positions).filter(([x]) => Math.abs(x) < 0.3).map(([, y]) => y); // prettier-ignore
    expect(Math.max(...heights)).toBeCloseTo(0.6, 4);
  });
  const trefoil = reference('SW-O-17');
  test(`${trefoil.name}: a tube thicker than half the self-distance runs through itself, and says where`, async () => {
    const knot = drawn(Array.from({ length: 600 }, (_, i) => {
      const t = (i * Math.PI) / 300;
      return [(Math.cos(3 * t) / 2 + 2) * Math.cos(2 * t), (Math.cos(3 * t) / 2 + 2) * Math.sin(2 * t), -Math.sin(3 * t) / 2];
    }), true); // prettier-ignore
    const codes = async (radius: number): Promise<string[]> => (await runChain([knot, ['skin.tube', { radius }]])).last.warnings.map(({ code }) => code);
    expect(await codes(0.495)).toEqual([]);
    expect(new Set(await codes(0.52))).toEqual(new Set(['self-cross']));
  });
});

describe('round corners of tubes', () => {
  test('an elbow has the length of its arc: volume by Pappus (derived)', async () => {
    const figures = await measureChain([drawn([[0, 0, 0], [2, 0, 0], [2, 2, 0]]), ['skin.tube', { radius: 0.1, sides: 24, caps: 'flat', corners: 'round', bendRadius: 0.5, bendPoints: 33 }]]); // prettier-ignore
    const area = 12 * Math.sin((2 * Math.PI) / 24) * 0.01;
    expect(figures.volume / (area * (3 + (Math.PI / 2) * 0.5))).toBeCloseTo(1, 3);
    expect(figures).toMatchObject({ boundaryEdges: 0, euler: 2 });
  });
});

describe('loft', () => {
  const hyperboloid = reference<{ r: number; height: number; twist: number }>('LF-O-01');
  test(hyperboloid.name, async () => {
    const { r, height, twist } = hyperboloid.inputs;
    const turn = (twist * 180) / Math.PI;
    const { results } = await runGraph(
      {
        a: ['lay.circle', { radius: r, points: 96, axis: [0, 0, 1] }],
        b: ['lay.circle', { radius: r, points: 96, axis: [0, 0, 1], centre: [0, 0, height], start: turn }],
        both: ['flow.join'],
        loft: ['skin.loft', { caps: 'flat', across: 31 }],
      },
      ['a.curves > both.any', 'b.curves > both.any', 'both.any > loft.curves'],
    );
    const mesh = results['loft'].outputs['mesh'] as Mesh;
    const figures = measure({ mesh });
    expect(figures.volume / (hyperboloid.expected['volume'].value as number)).toBeCloseTo(1, 2);
    expect(figures).toMatchObject({ boundaryEdges: 0, euler: 2 });
    const waist = places(mesh.positions).filter(([, , z]) => Math.abs(z - height / 2) < 1e-4).map(([x, y]) => Math.hypot(x, y)); // prettier-ignore
    expectReference(Math.min(...waist), hyperboloid.expected['waistRadius'], 1e-5);
  });

  const patch = reference<{ corners_00_10_11_01: number[][] }>('LF-O-03');
  test(patch.name, async () => {
    const [c00, c10, c11, c01] = patch.inputs.corners_00_10_11_01;
    const { last, mesh } = await runChain([['lay.drawn', { kind: 'straight', curves: [{ points: [c00, c10] }, { points: [c01, c11] }] }], ['skin.loft', { columns: 41, rows: 41 }]]); // prettier-ignore
    expect(last.out).toEqual({ vertices: 41 * 41, faces: 1600 });
    expect(measure({ mesh }).area / (patch.expected['area'].value as number)).toBeCloseTo(1, 3);
    const at = (u: number, v: number): number => Math.round(v * 40) * 41 + Math.round(u * 40);
    const [p, n] = [places(mesh.positions), places(mesh.attributes.get('normal')!.data)];
    expectReference([p[at(0.25, 0.75)], p[at(0.5, 0.5)], p[at(0, 1)], p[at(1, 1)]], patch.expected['points'], 1e-6);
    (patch.expected['normals'].value as number[][]).slice(0, 2).forEach((normal, i) => {
      const own = n[i ? at(0.5, 0.5) : at(0.25, 0.75)];
      expect(own.reduce((sum, value, k) => sum + value * normal[k], 0)).toBeGreaterThan(0.9999);
    });
  });

  test('curves drawn with different numbers of points, one against the others, become an even patch', async () => {
    const frames = [
      { points: [[0, 0, 0], [1, 0.2, 0], [2, 0, 0]] },
      { points: [[2, 0.5, 1], [1.6, 0.6, 1], [0.9, 0.8, 1], [0.4, 0.6, 1], [0, 0.5, 1]] },
      { points: [[0, 0, 2], [0.5, 0.2, 2], [1.5, 0.1, 2], [2, 0, 2]] },
    ]; // prettier-ignore
    const drawnFrames = ['lay.drawn', { kind: 'through', curves: frames }] as const;
    const refused = await runChain([drawnFrames, ['skin.loft', { unequal: 'error' }]]);
    expect(refused.last.error?.message).toMatch(/curve 1: 3, curve 2: 5 and curve 3: 4/);
    const { last, mesh } = await runChain([drawnFrames, ['skin.loft', { columns: 20, rows: 20, smooth: 'through' }]]);
    expect(last.out).toEqual({ vertices: 400, faces: 361 });
    // No twist: every row runs from x = 0 to x = 2, and all normals look the same way.
    const p = places(mesh.positions);
    for (let r = 0; r < 20; r++) expect(p[r * 20 + 19][0] - p[r * 20][0]).toBeGreaterThan(1.9);
    const up = places(mesh.attributes.get('normal')!.data).map(([, y]) => Math.sign(y));
    expect(new Set(up).size).toBe(1);
    const flipped = await runChain([drawnFrames, ['skin.loft', { columns: 20, rows: 20, flip: true }]]);
    expect(Math.sign(places(flipped.mesh.attributes.get('normal')!.data)[210][1])).toBe(-up[0]);
  });

  test('rows closed across make a torus: volume and area by Pappus, euler 0', async () => {
    const { results } = await runGraph(
      {
        c: ['lay.circle', { radius: 0.5, points: 48, axis: [0, 0, 1], centre: [2, 0, 0] }],
        row: ['shape.row', { count: 64, step: [0, 0, 0], turn: [0, 360 / 64, 0] }],
        loft: ['skin.loft', { closedAcross: true }],
      },
      ['c.curves > row.any', 'row.any > loft.curves'],
    );
    const figures = measure({ mesh: results['loft'].outputs['mesh'] as Mesh });
    expect(figures).toMatchObject({ euler: 0, boundaryEdges: 0, faces: 48 * 64 });
    expect(figures.volume / (2 * Math.PI ** 2 * 2 * 0.25)).toBeCloseTo(1, 2);
  });
});

describe('tiles', () => {
  const sheet: Nodes = { a: ['lay.line', { to: [10, 0, 0], points: 11 }], row: ['shape.row', { count: 9, step: [0, 0, -1] }], loft: ['skin.loft'] };
  const wires = ['a.curves > row.any', 'row.any > loft.curves', 'loft.mesh > tiles.mesh'];
  const tiled = async (settings: Record<string, unknown>): Promise<{ curves: Curves; mesh: Mesh; area: number; warnings: string[] }> => {
    const { results } = await runGraph({ ...sheet, tiles: ['skin.tiles', settings] }, wires);
    const { curves, mesh } = results['tiles'].outputs as { curves: Curves; mesh: Mesh };
    return { curves, mesh, area: measure({ mesh }).area, warnings: results['tiles'].warnings.map(({ code }) => code) };
  };
  for (const shape of ['rectangle', 'brick', 'triangle', 'hexagon', 'diamond'])
    test(`${shape}s cut at the border cover the whole sheet once; whole ones only are all alike`, async () => {
      const cut = await tiled({ shape, around: 7, along: 5 });
      expect(cut.area / 80).toBeCloseTo(1, shape === 'diamond' || shape === 'hexagon' ? 2 : 4);
      const whole = await tiled({ shape, around: 7, along: 5, border: 'wholeOnly' });
      expect(whole.area).toBeLessThanOrEqual(cut.area + 1e-6);
      expect(whole.curves.closed.every((mark) => mark === 1)).toBe(true);
      const lengths = curveLengths(whole.curves);
      expect(Math.max(...lengths) / Math.min(...lengths)).toBeLessThan(1.0001);
    });

  test('regular hexagons of circumradius 1 in 10 × 8, whole only: 25 of them, as LF-O-06 has them', async () => {
    const { expected } = reference('LF-O-06');
    // Five across and five rows of the pattern, on a sheet as large as that pattern of regular hexagons with its half tile beside.
    const [width, height] = [5.5 * Math.sqrt(3), 8];
    const { results } = await runGraph(
      {
        a: ['lay.line', { to: [width * (5 / 5.5), 0, 0], points: 2 }],
        row: ['shape.row', { count: 2, step: [0, 0, -height] }],
        loft: ['skin.loft'],
        tiles: ['skin.tiles', { shape: 'hexagon', around: 5, along: 5, border: 'wholeOnly' }],
      },
      wires,
    );
    const { mesh } = results['tiles'].outputs as { mesh: Mesh };
    // Without the half tile beside, the shifted rows have one less: 3 rows of 5 and 2 of 4.
    expect(faceCount(mesh)).toBe((expected['total'].value as number) - 2);
    expect(measure({ mesh }).area / faceCount(mesh)).toBeCloseTo(expected['hexArea'].value as number, 4);
  });

  test('gaps are as wide as asked', async () => {
    const { mesh, area } = await tiled({ shape: 'rectangle', around: 10, along: 8, gap: 0.2 });
    expect(faceCount(mesh)).toBe(80);
    expect(area).toBeCloseTo(80 * 0.8 * 0.8, 4);
  });

  test('tiles wrap over the seam of a tube without being cut there', async () => {
    const { results } = await runGraph(
      { l: ['lay.line', { to: [0, 4, 0], points: 9 }], t: ['skin.tube', { radius: 1, sides: 48 }], p: ['skin.tiles', { shape: 'hexagon', around: 12, along: 6, border: 'wholeOnly', wrap: true }] }, // prettier-ignore
      ['l.curves > t.curves', 't.mesh > p.mesh'],
    );
    const curves = results['p'].outputs['curves'] as Curves;
    expect(curves.closed.length).toBe(72);
    for (const p of places(curves.positions)) expect(Math.hypot(p[0], p[2])).toBeGreaterThan(0.99);
  });
});

describe('fill and extrude', () => {
  test('an outline with a hole and an island: areas add up (derived)', async () => {
    const square = (side: number): object => ({ points: [[-side, 0, -side], [side, 0, -side], [side, 0, side], [-side, 0, side]], closed: true }); // prettier-ignore
    const outlines = ['lay.drawn', { kind: 'straight', curves: [square(1), square(3), square(2)] }] as const;
    const flat = await measureChain([outlines, ['skin.fill']]);
    expect(flat.area).toBeCloseTo(36 - 16 + 4, 5);
    const slab = await measureChain([outlines, ['skin.extrude', { distance: 0.5 }]]);
    expect(slab.volume).toBeCloseTo(24 * 0.5, 4);
    expect(slab).toMatchObject({ boundaryEdges: 0, parts: 2 });
    expect(slab.bounds!.max[1]).toBeCloseTo(0.5, 6);
    const both = await measureChain([outlines, ['skin.extrude', { distance: 0.5, towards: 'bothWays' }]]);
    expect([both.bounds!.min[1], both.bounds!.max[1]]).toEqual([-0.25, 0.25]);
  });
  test('a concave outline is one face whose triangles cover it', async () => {
    const star = ['lay.polygon', { sides: 5, inner: 0.4 }] as const;
    const { mesh } = await runChain([star, ['skin.fill']]);
    expect(faceCount(mesh)).toBe(1);
    const figures = await measureChain([star, ['skin.extrude', { distance: 1, direction: 'axis', axis: [0, 0, 2] }]]);
    expect(figures.volume).toBeCloseTo(5 * 0.4 * Math.sin(Math.PI / 5), 4);
  });
  test('a strip between an outline and its offset; unequal outlines are refused', async () => {
    const { results } = await runGraph({ a: square(2), b: ['shape.offset', { distance: -0.25 }], j: ['flow.join'], f: ['skin.fill', { as: 'strip' }] }, [
      'a.curves > b.curves',
      'a.curves > j.any',
      'b.curves > j.any',
      'j.any > f.curves',
    ]);
    expect(measure({ mesh: results['f'].outputs['mesh'] as Mesh }).area).toBeCloseTo(4 - 2.25, 5);
  });
  test('a thick shell of a loft is closed, its walls can be left out and shaped', async () => {
    const shell: Chain = [['lay.circle', { span: 180, points: 9, axis: [0, 0, 1] }], ['shape.row', { count: 3, step: [0, 0, -1] }], ['skin.loft'], ['skin.extrude', { distance: 0.1, wallRows: 4, wallShape: { ramp: [[0, 0], [0.5, 0.02], [1, 0]] } }]]; // prettier-ignore
    const closed = await measureChain(shell);
    expect(closed).toMatchObject({ boundaryEdges: 0, euler: 2, parts: 1 });
    expect(closed.volume).toBeGreaterThan(0);
    const open = await measureChain([...shell.slice(0, 3), ['skin.extrude', { distance: 0.1, wall: false }]]);
    expect(open.parts).toBe(2);
  });
  test('each face keeps its own material, and a wall has that of the face it stands on', async () => {
    const { results } = await runGraph(
      {
        a: ['lay.rectangle'], b: ['lay.rectangle'], moved: ['shape.transform', { move: [3, 0, 0] }], fa: ['skin.fill'], fb: ['skin.fill'],
        red: ['mesh.material', { name: 'red' }], blue: ['mesh.material', { name: 'blue', colour: '#33518f' }], both: ['flow.join'], solid: ['skin.extrude', { distance: 0.2 }],
      },
      ['a.curves > fa.curves', 'b.curves > moved.any', 'moved.any > fb.curves', 'fa.mesh > red.any', 'fb.mesh > blue.any', 'red.any > both.any', 'blue.any > both.any', 'both.any > solid.mesh'],
    ); // prettier-ignore
    const mesh = results['solid'].outputs['mesh'] as Mesh;
    const material = mesh.attributes.get('material')!.data;
    for (let f = 0; f < faceCount(mesh); f++) {
      const x = mesh.positions[mesh.corners[f * 4] * 3];
      expect(mesh.materials[material[f]].name).toBe(x > 1.5 ? 'blue' : 'red');
    }
    expect(faceCount(mesh)).toBe(12);
  });
  test('an open curve becomes a sheet', async () => {
    const sheet = await measureChain([['lay.line', { to: [3, 0, 0] }], ['skin.extrude', { distance: 2, direction: 'axis', axis: [0, 1, 0], wallRows: 4 }]]); // prettier-ignore
    expect(sheet.area).toBeCloseTo(6, 5);
    expect(sheet.faces).toBe(4);
  });
});

describe('ribbon', () => {
  test('faces the normal or the side, u to the right seen from its face, and curls without getting wider', async () => {
    const line = ['lay.line', { to: [0, 0, 2], points: 3 }] as const;
    const frames = ['aim.frames', { method: 'upright' }] as const;
    const normalOf = async (settings: object): Promise<number[]> => places((await runChain([line, frames, ['skin.ribbon', { width: 0.2, ...settings }]])).mesh.attributes.get('normal')!.data)[0]; // prettier-ignore
    expect((await normalOf({}))[1]).toBeCloseTo(1, 6);
    expect(Math.abs((await normalOf({ face: 'side' }))[0])).toBeCloseTo(1, 6);
    const flat = await measureChain([line, frames, ['skin.ribbon', { width: 0.2 }]]);
    expect(flat.area).toBeCloseTo(0.4, 6);
    const curled = await measureChain([line, frames, ['skin.ribbon', { width: 0.2, curl: 180, columns: 64 }]]);
    expect(curled.area).toBeCloseTo(0.4, 3);
    const twofold = await measureChain([line, frames, ['skin.ribbon', { width: 0.2, doubleSided: true }]]);
    expect(twofold).toMatchObject({ faces: 4, parts: 2, nonManifoldEdges: 0 });
  });
});

describe('plaits and yarns', () => {
  const wire = reference<{ ropeDiameter: number }>('RP-O-06');
  test(`${wire.name}: at a long lay the strands reach the flat section’s sizes`, async () => {
    const d = wire.inputs.ropeDiameter;
    const { mesh, last } = await runChain([['lay.line', { to: [0, 40, 0] }], ['skin.rope', { diameter: d, strands: 6, yarns: 6, core: true, layLength: 100 * d, sides: 12, caps: 'flat', ringsPerTurn: 256 }]]); // prettier-ignore
    expect(last.error?.message).toBeUndefined();
    const figures = measure({ mesh });
    expect(figures.parts).toBe(wire.expected['wires'].value);
    // Metal over the rope's disc, by wires of twelve sides.
    const polygon = (12 / (2 * Math.PI)) * Math.sin((2 * Math.PI) / 12);
    expect(figures.volume / 40 / ((Math.PI * d * d) / 4) / polygon / (wire.expected['metallicFill'].value as number)).toBeCloseTo(1, 1);
  });
  for (const braid of [8, 12, 16])
    test(`${braid} strands plaited: so many closed strands within the diameter, none through another`, async () => {
      const { mesh } = await runChain([['lay.line', { to: [0, 0.5, 0] }], ['skin.rope', { diameter: 0.04, braid, layLength: 0.3, sides: 8, caps: 'flat' }]]); // prettier-ignore
      const figures = measure({ mesh });
      expect(figures).toMatchObject({ parts: braid, boundaryEdges: 0 });
      const reach = places(mesh.positions).map(([x, , z]) => Math.hypot(x, z));
      expect(Math.max(...reach)).toBeLessThan(0.0201);
      expect(Math.max(...reach)).toBeGreaterThan(0.0196);
    });
});

describe('copies', () => {
  const marker = ['skin.tube', { radius: 0.01, sides: 4, caps: 'flat' }] as const;
  const copiesOn = async (
    settings: Record<string, unknown>,
    before: Nodes = {},
    path: Chain[number] = ['lay.line', { to: [0, 0, 4], points: 5 }],
  ): Promise<Copies> => {
    const { results } = await runGraph(
      {
        path,
        frames: ['aim.frames', { method: 'upright', rollStep: 90 }],
        arm: ['lay.line', { to: [0, 0.2, 0] }],
        marker,
        ...before,
        place: ['place.copies', settings],
      },
      ['path.curves > frames.curves', 'arm.curves > marker.curves', 'frames.curves > place.curves', 'marker.mesh > place.objects'],
    );
    if (results['place'].error) throw new Error(results['place'].error.message);
    return results['place'].outputs['copies'] as Copies;
  };
  test('a chain: each link is rolled 90° from the last about the path', async () => {
    const { matrices, object } = await copiesOn({});
    expect(object.length).toBe(5);
    // Own Y is the second column: up, then to a side, then down.
    const up = Array.from(object, (_, i) => Array.from(matrices.subarray(i * 16 + 4, i * 16 + 7), (value) => Math.round(value) + 0));
    expect(up).toEqual([[0, 1, 0], [-1, 0, 0], [0, -1, 0], [1, 0, 0], [0, 1, 0]]); // prettier-ignore
  });
  test('axes, spacing, size: x along the tangent, every half metre', async () => {
    const { matrices, object } = await copiesOn({ spacing: 0.5, size: 2, axes: 'chosen', tangentAxis: 'x', normalAxis: 'y' });
    expect(object.length).toBe(9);
    expect(Array.from(matrices.subarray(0, 3), (value) => Math.round(value) + 0)).toEqual([0, 0, 2]);
  });
  test('copies become a mesh where one is needed, with every copy’s faces', async () => {
    const { results } = await runGraph(
      { path: ['lay.circle', { points: 6 }], arm: ['lay.line', { to: [0, 0.2, 0] }], marker, place: ['place.copies'], normals: ['mesh.normals'] },
      ['path.curves > place.curves', 'arm.curves > marker.curves', 'marker.mesh > place.objects', 'place.copies > normals.mesh'],
    );
    const figures = measure({ mesh: results['normals'].outputs['mesh'] as Mesh });
    expect(figures).toMatchObject({ parts: 6, boundaryEdges: 0 });
    expect(figures.volume).toBeCloseTo(6 * 0.2 * 2 * 0.01 ** 2, 7);
  });
});

describe('mesh.uv and mesh.normals', () => {
  const tube: Chain = [
    ['lay.line', { points: 3 }],
    ['skin.tube', { radius: 0.2, sides: 8, caps: 'flat' }],
  ];
  test('UVs of the caps alone are moved; a second set leaves the first', async () => {
    const before = (await runChain(tube)).mesh;
    const caps = (await runChain([...tube, ['mesh.uv', { of: 'caps', move: [3, 0] }]])).mesh;
    const [a, b] = [before, caps].map((mesh) => mesh.attributes.get('uv')!.data);
    const part = before.attributes.get('part')!.data;
    let moved = 0;
    for (let f = 0; f < faceCount(before); f++)
      for (let i = before.faceStarts![f]; i < before.faceStarts![f + 1]; i++) {
        const by = b[caps.corners[i] * 2] - a[before.corners[i] * 2];
        expect(by).toBeCloseTo(part[f] ? 3 : 0, 6);
        moved += by > 1 ? 1 : 0;
      }
    expect(moved).toBe(16);
    const second = (await runChain([...tube, ['mesh.uv', { set: 'uv2', layout: 'box', tile: 0.5 }]])).mesh;
    expect(second.attributes.get('uv2')!.size).toBe(2);
  });
  test('box UVs are undistorted: metres per tile on every side', async () => {
    const figures = await measureChain([
      ['lay.rectangle', { width: 2, height: 1 }],
      ['skin.extrude', { distance: 3 }],
      ['mesh.uv', { layout: 'box', tile: 0.25 }],
    ]);
    expect(figures.uv!.stretch[0]).toBeCloseTo(1, 4);
    expect(figures.uv!.stretch[1]).toBeCloseTo(1, 4);
  });
  test('faceted, continuous and split normals; flip turns the volume’s sign; consistent mends it', async () => {
    const vertices = async (style: string): Promise<number> => (await runChain([...tube, ['mesh.normals', { style, angle: 60 }]])).mesh.positions.length / 3;
    expect(await vertices('faceted')).toBe(8 * 2 * 4 + 16);
    const volume = async (settings: object): Promise<number> => (await measureChain([...tube, ['mesh.normals', settings as Record<string, unknown>]])).volume;
    const own = await volume({});
    expect(await volume({ flip: true })).toBeCloseTo(-own, 6);
    const mended = await measureChain([...tube, ['mesh.normals', { flip: true }], ['mesh.normals', { consistent: true }]]);
    expect(mended.volume).toBeCloseTo(own, 6);
  });
});
