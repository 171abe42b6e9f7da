/** What the worker answers about results: names, colours, what a file can be made of. */
import { describe, expect, test } from 'vitest';
import { answer } from '../src/workers/answers';
import { apart, colourNames, meshValues, rangeOfValues } from '../src/workers/colour';
import { curves, ran } from './runs';

test('what can be chosen for a file: UV sets, values that could be a colour, parts and copies', async () => {
  const run = await ran([...curves, ['t', 'skin.tube', { caps: 'flat' }]]);
  expect(answer(run, 'writable', { nodes: ['t'] })).toEqual({ uvSets: ['uv'], colours: ['material', 'normal', 'part', 'width'].filter((name) => name !== 'material'), parts: 3, copies: 0, pieces: [{ name: 'Tube', counts: { vertices: expect.any(Number), faces: expect.any(Number) } }], endings: ['.glb', '.gltf', '.obj', '.stl', '.ply', '.usda', '.json'], fault: null }); // prettier-ignore
  expect(() => answer(run, 'writable', { nodes: ['late'] })).toThrow('late has not been computed yet.');
  expect(answer(run, 'writable', { nodes: ['d'] })).toMatchObject({
    parts: 0,
    pieces: [{ counts: { curves: 2, points: 5 } }],
    endings: ['.glb', '.gltf', '.obj', '.usda', '.svg', '.csv', '.json'],
  });
});

describe('the names a setting can be given by', () => {
  test('elements, attributes and dials with their ranges, and the values it has', async () => {
    const dials = [{ id: 'thick', label: 'Thick', kind: 'number', value: 0.3 }];
    const run = await ran([...curves, ['t', 'skin.tube', { radius: { formula: 'thick + 0.01*width' } }]], dials);
    const { names, values, complete } = answer(run, 'names', { node: 't', setting: 'radius' });
    expect(complete).toBe(true);
    const known = Object.fromEntries(names.map((each) => [each.name, each]));
    expect(known['width']).toMatchObject({ kind: 'attribute', range: [0, 11] });
    expect(known['s']).toMatchObject({ kind: 'element', range: [0, 4] });
    expect(known['thick']).toMatchObject({ kind: 'dial', range: [0.3, 0.3] });
    expect(values!.low).toBeCloseTo(0.3, 9);
    expect(values!.line.length).toBe(3);
  });

  test('names stay known while a mistake is in the value', async () => {
    const wrong = await ran([...curves, ['t', 'skin.tube', { radius: { formula: '0.1*widht' } }]]);
    const { names, values } = answer(wrong, 'names', { node: 't', setting: 'radius' });
    expect(names.map(({ name }) => name)).toContain('width');
    expect(values).toBeNull();
  });
});

describe('values as colour', () => {
  test('of vertices, and of faces on a mesh taken apart', async () => {
    const { run } = await ran([['l', 'lay.line', { to: [2, 0, 0] }], ['t', 'skin.tube', { sides: 4 }], ['f', 'gauge.set', { name: 'own', carrier: 'faces', value: { formula: 'i' } }]]); // prettier-ignore
    const mesh = run.nodes.get('f')!.outputs['any'];
    if (mesh.type !== 'mesh') throw new Error('no mesh');
    expect(colourNames(mesh)).toEqual(expect.arrayContaining(['x', 'u', 'own']));
    expect(meshValues(mesh, 'own')).toMatchObject({ per: 'face', values: Float32Array.of(0, 1, 2, 3) });
    expect(meshValues(mesh, 'x')!.per).toBe('point');
    expect(meshValues(mesh, 'nothing')).toBeNull();
    const own = apart(mesh);
    expect(own.positions.length).toBe(mesh.corners.length * 3);
    expect([...own.positions.slice(0, 3)]).toEqual([...mesh.positions.slice(mesh.corners[0] * 3, mesh.corners[0] * 3 + 3)]);
    expect(rangeOfValues([Float32Array.of(NaN, 2), null, Float32Array.of(-1)])).toEqual({ low: -1, high: 2 });
    expect(rangeOfValues([Float32Array.of(NaN)])).toBeNull();
  });
});
