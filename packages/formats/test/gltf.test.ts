import { describe, expect, test } from 'vitest';
import { curveLengths, hexColour, linearColour, measure, type GeometrySet } from '@filaxis/core';
import { readers } from '../src/index.js';

const encode = (text: string): Uint8Array => new TextEncoder().encode(text);

/** A glTF text with one buffer of floats, and what is said about it. */
function gltf(floats: readonly number[], rest: object): Uint8Array {
  const bytes = new Uint8Array(Float32Array.from(floats).buffer);
  return encode(
    JSON.stringify({
      asset: { version: '2.0' },
      buffers: [{ byteLength: bytes.length, uri: `data:application/octet-stream;base64,${Buffer.from(bytes).toString('base64')}` }],
      bufferViews: [{ buffer: 0, byteLength: bytes.length }],
      accessors: [{ bufferView: 0, componentType: 5126, count: floats.length / 3, type: 'VEC3', min: [0, 0, 0], max: [9, 9, 9] }],
      scenes: [{ nodes: [0] }],
      ...rest,
    }),
  );
}
const read = (bytes: Uint8Array): Promise<GeometrySet> => readers['.gltf'](bytes);
const primitive = (mode: number, more: object = {}) => ({ meshes: [{ primitives: [{ attributes: { POSITION: 0 }, mode, ...more }] }] });

/** A tetrahedron that encloses 1/6, faces outwards. */
const tetrahedron = [0, 1, 2, 0, 3, 1, 0, 2, 3, 1, 3, 2].reverse().flatMap((v) => [[0, 0, 0], [1, 0, 0], [0, 1, 0], [0, 0, 1]][v]); // prettier-ignore

describe('glTF 2.0 primitives by mode (Khronos, glTF 2.0 specification, section 3.7.2.1)', () => {
  test('triangles as a list, a strip and a fan', async () => {
    const node = { nodes: [{ mesh: 0 }] };
    const list = (await read(gltf(tetrahedron, { ...primitive(4), ...node }))).mesh!;
    expect(Math.abs(measure({ mesh: list }).volume)).toBeCloseTo(1 / 6, 6);
    const square = [0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0];
    const strip = (await read(gltf(square, { ...primitive(5), ...node }))).mesh!;
    expect(Array.from(strip.corners)).toEqual([0, 1, 2, 1, 3, 2]);
    const fan = (await read(gltf([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0], { ...primitive(6), ...node }))).mesh!;
    expect(Array.from(fan.corners)).toEqual([0, 1, 2, 0, 2, 3]);
    for (const mesh of [strip, fan]) expect(measure({ mesh }).area).toBeCloseTo(1, 6);
  });

  test('points, pairs, strips and loops of lines', async () => {
    const path = [0, 0, 0, 3, 0, 0, 3, 4, 0, 0, 4, 0];
    const node = { nodes: [{ mesh: 0 }] };
    expect((await read(gltf(path, { ...primitive(0), ...node }))).points!.positions.length).toBe(12);
    const lengths = async (mode: number): Promise<number[]> => [...curveLengths((await read(gltf(path, { ...primitive(mode), ...node }))).curves!)];
    expect(await lengths(1)).toEqual([3, 3]);
    expect(await lengths(2)).toEqual([14]);
    expect(await lengths(3)).toEqual([10]);
  });
});

describe('what nodes do to meshes', () => {
  test('are placed through all their parents, once for every node that names them', async () => {
    const { mesh } = await read(
      gltf(tetrahedron, { ...primitive(4), nodes: [{ children: [1, 2], translation: [0, 10, 0] }, { mesh: 0, scale: [2, 2, 2] }, { mesh: 0 }] }),
    );
    const { volume, bounds, parts } = measure({ mesh: mesh! });
    expect(Math.abs(volume)).toBeCloseTo((8 + 1) / 6, 5);
    expect([bounds!.min, bounds!.max, parts]).toEqual([[0, 10, 0], [2, 12, 2], 2]); // prettier-ignore
  });
  test('one that mirrors turns its faces over, so that they keep pointing outwards', async () => {
    const of = async (scale: number[]): Promise<number> => measure({ mesh: (await read(gltf(tetrahedron, { ...primitive(4), nodes: [{ mesh: 0, scale }] }))).mesh! }).volume; // prettier-ignore
    expect(await of([-1, 1, 1])).toBeCloseTo(await of([1, 1, 1]), 6);
  });
});

test('factors of materials come along: colour in linear light, roughness, metalness, opacity', async () => {
  const materials = [
    {
      name: 'brass',
      pbrMetallicRoughness: { baseColorFactor: [...linearColour('#c39a1b'), 0.5], roughnessFactor: 0.25, metallicFactor: 1 },
      alphaMode: 'BLEND',
    },
  ];
  const { mesh } = await read(gltf(tetrahedron, { ...primitive(4, { material: 0 }), materials, nodes: [{ mesh: 0 }, { mesh: 0 }] }));
  expect(mesh!.materials).toEqual([{ name: 'brass', colour: '#c39a1b', roughness: 0.25, metalness: 1, opacity: 0.5, checker: false }]);
  expect(new Set(mesh!.attributes.get('material')!.data)).toEqual(new Set([0]));
});

test('every colour of the palette comes back from linear light as it was', () => {
  for (let value = 0; value < 256; value++) {
    const hex = `#${value.toString(16).padStart(2, '0').repeat(3)}`;
    expect(hexColour(linearColour(hex))).toBe(hex);
  }
  expect(hexColour([-1, 2, 0])).toBe('#00ff00');
});

describe('refused before memory is spent', () => {
  const lines = (rest: object): Uint8Array => gltf([0, 0, 0, 1, 0, 0], { ...primitive(3), nodes: [{ mesh: 0 }], ...rest });
  test.each([
    ['an accessor without values', { accessors: [{ componentType: 5126, count: 300_000_000, type: 'VEC3' }] }, /^\/accessors\/0: it has no bufferView/],
    ['a sparse one larger than the file', { accessors: [{ componentType: 5126, count: 300_000_000, type: 'VEC3', sparse: {} }] }, /^\/accessors\/0\/count: the file of \d+ bytes cannot hold 300000000 values/],
    ['a count that is none', { accessors: [{ bufferView: 0, componentType: 5126, count: -1, type: 'VEC3' }] }, /^\/accessors\/0\/count: it is -1/],
    ['another version', { asset: { version: '1.0' } }, /^\/asset\/version: it is "1.0"; this reads glTF 2.0/],
    ['a buffer elsewhere', { buffers: [{ uri: 'rope.bin', byteLength: 24 }] }, /^\/buffers\/0\/uri: the buffer is in another file/],
    ['vertices that are not there', { ...primitive(1, { indices: 1 }), accessors: [{ bufferView: 0, componentType: 5126, count: 2, type: 'VEC3' }, { bufferView: 0, byteOffset: 12, componentType: 5125, count: 2, type: 'SCALAR' }] }, /^Index 0 of a primitive names vertex 1065353216; there are 2/],
  ])('%s', async (_, rest, message) => {
    await expect(read(lines(rest))).rejects.toThrow(message);
  }); // prettier-ignore

  test('a small mesh placed so often that it would fill memory', async () => {
    const floats = Array.from({ length: 9000 }, (_, i) => i % 7);
    const nodes = Array.from({ length: 7000 }, () => ({ mesh: 0 }));
    await expect(read(gltf(floats, { ...primitive(3), nodes }))).rejects.toThrow('/nodes: they place 21000000 vertices in all; the limit is 20000000.');
  });
});
