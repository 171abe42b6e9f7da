/** What goes out as it is chosen: points that stay whole, values, parts, tangents, backs, far places; found by readers that are not ours. */
import { parse } from '@loaders.gl/core';
import { GLTFLoader, postProcessGLTF } from '@loaders.gl/gltf';
import { OBJLoader } from '@loaders.gl/obj';
import { PLYLoader } from '@loaders.gl/ply';
import { WebIO } from '@gltf-transform/core';
import { validateBytes } from 'gltf-validator';
import type { Mesh as ThreeMesh, Object3D } from 'three';
import { PLYLoader as ThreePly } from 'three/examples/jsm/loaders/PLYLoader.js';
import { USDLoader } from 'three/examples/jsm/loaders/USDLoader.js';
import { describe, expect, test } from 'vitest';
import {
  faceCount,
  makeCopies,
  makeCurves,
  makeMesh,
  makePoints,
  measure,
  splitNormals,
  type Attribute,
  type GeometrySet,
  type Mesh,
  type Piece,
} from '@filaxis/core';
import { companions, readers, writers, type Content, type WriteOptions } from '../src/index.js';
import { numberText, TextSink, gatherPieces } from '../src/textSink.js';
import { engineMeshes, placedVolume, usdMeshes } from './foreign.js';
import { colouredTube } from './shapes.js';

const text = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);
const tube = async (extra: Record<string, Attribute> = {}): Promise<Mesh> => {
  const { mesh } = await colouredTube();
  return { ...mesh!, attributes: new Map([...mesh!.attributes, ...Object.entries(extra)]) };
};
const perVertex = (mesh: Mesh, size: number, value: (v: number, k: number) => number): Attribute => ({
  carrier: 'corner',
  size,
  data: Float32Array.from({ length: (mesh.positions.length / 3) * size }, (_, i) => value(Math.floor(i / size), i % size)),
});
const glbOf = async (set: Content, options?: WriteOptions) => new WebIO().readBinary((await writers['.glb'](set, 'post', options)) as Uint8Array<ArrayBuffer>);

describe('points stay whole where only UVs or normals differ', () => {
  test('USD: as many points as the mesh has, UVs by numbers at the corners; two readers find the volume', async () => {
    const mesh = await tube();
    expect(mesh.pointCount).toBeLessThan(mesh.positions.length / 3);
    const usda = await writers['.usda']({ mesh }, 'post');
    expect(/point3f\[\] points = \[(.*)\]/.exec(text(usda))![1].split('), (')).toHaveLength(mesh.pointCount);
    expect(/int\[\] primvars:st:indices = \[(.*)\]/.exec(text(usda))![1].split(', ')).toHaveLength(trianglesOfLarge(mesh).corners.length);
    const { volume } = measure({ mesh });
    const [{ mesh: found, place }, ...others] = await usdMeshes(usda);
    expect(others).toEqual([]);
    expect(placedVolume(found.points, found.faceVertexIndices, place)).toBeCloseTo(volume, 4);
    const uvs: number[] = [];
    (new USDLoader().parse(text(usda)) as unknown as Object3D).traverse((child) => {
      if ((child as ThreeMesh).isMesh) uvs.push(...(child as ThreeMesh).geometry.getAttribute('uv').array);
    });
    const given = mesh.attributes.get('uv')!.data;
    for (const k of [0, 1]) {
      const [found, wanted] = [uvs, given].map((list) => Array.from(list).filter((_, i) => i % 2 === k));
      expect([Math.min(...found), Math.max(...found)]).toEqual([expect.closeTo(Math.min(...wanted), 5), expect.closeTo(Math.max(...wanted), 5)]);
    }
  });
  test('PLY welded: one vertex a point, UVs in the faces, read back as they were; else several vertices with s and t', async () => {
    const mesh = await tube();
    const welded = await writers['.ply']({ mesh }, 'post', { welded: true });
    expect(text(welded)).toContain(`element vertex ${mesh.pointCount}\n`);
    expect(text(welded)).toContain('property list uchar float texcoord');
    expect(text(await writers['.ply']({ mesh }, 'post'))).toContain(`element vertex ${mesh.positions.length / 3}\n`);
    const back = (await readers['.ply'](welded)).mesh!;
    expect(back.pointCount).toBe(mesh.pointCount);
    expect(measure({ mesh: back }).boundaryEdges).toBe(0);
    expect(cornersOf(back, 'uv')).toEqual(cornersOf(trianglesOfLarge(mesh), 'uv'));
    const other = (await parse(welded.slice().buffer, PLYLoader)) as unknown as { indices: { value: ArrayLike<number> }; attributes: { POSITION: { value: ArrayLike<number> } } };
    expect(placedVolume(other.attributes.POSITION.value, other.indices.value, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1])).toBeCloseTo(measure({ mesh }).volume, 4);
  }); // prettier-ignore
});

/** A value at every corner, in order. */
const cornersOf = (mesh: Mesh, name: string): number[][] => {
  const { size, data } = mesh.attributes.get(name)!;
  return Array.from(mesh.corners, (v) => Array.from(data.subarray(v * size, v * size + size), (value) => Number(value.toFixed(5))));
};
/** The tube's caps, of eight corners, are cut into fans, as PLY has them. */
const trianglesOfLarge = (mesh: Mesh): Mesh => {
  const corners: number[] = [];
  for (let f = 0; f + 1 < mesh.faceStarts!.length; f++) {
    const face = Array.from(mesh.corners.subarray(mesh.faceStarts![f], mesh.faceStarts![f + 1]));
    if (face.length <= 4) corners.push(...face);
    else for (let i = 2; i < face.length; i++) corners.push(face[0], face[i - 1], face[i]);
  }
  return { ...mesh, corners: Uint32Array.from(corners) };
};

describe('values', () => {
  test('USD primvars: of corners, faces and the whole; the colour as displayColor', async () => {
    const mesh = await tube();
    const attributes = new Map(mesh.attributes);
    attributes.set(
      'flow',
      perVertex(mesh, 1, (v) => v / 2),
    );
    attributes.set('batch', { carrier: 'face', size: 1, data: new Float32Array(measure({ mesh }).faces).fill(3) });
    attributes.set('lean', { carrier: 'whole', size: 3, data: Float32Array.of(1, 2, 3) });
    attributes.set(
      'colour',
      perVertex(mesh, 3, (_, k) => k / 2),
    );
    const usda = text(await writers['.usda']({ mesh: { ...mesh, attributes } }, 'post'));
    expect(await usdMeshes(new TextEncoder().encode(usda))).toHaveLength(1);
    expect(usda).toMatch(/float\[\] primvars:flow = \[0, 0\.5, 1,[^\n]*\] \(\n\s+interpolation = "faceVarying"\n\s+\)\n\s+int\[\] primvars:flow:indices/);
    expect(usda).toMatch(/float\[\] primvars:batch = \[3, 3[^\n]*\] \(\n\s+interpolation = "uniform"/);
    expect(usda).toMatch(/float3\[\] primvars:lean = \[\(1, 2, 3\)\] \(\n\s+interpolation = "constant"/);
    expect(usda).toMatch(/color3f\[\] primvars:displayColor = \[\(0, 0\.5, 1\)/);
  });
  test('the UV set and the vertex colour are chosen by name; a single number is grey; one that is not there is refused', async () => {
    const mesh = await tube();
    const attributes = new Map(mesh.attributes);
    attributes.set(
      'uv2',
      perVertex(mesh, 2, (v) => v),
    );
    attributes.set('wear', { carrier: 'face', size: 1, data: new Float32Array(measure({ mesh }).faces).fill(0.25) });
    const set = { mesh: { ...mesh, attributes } };
    const [first] = (await glbOf(set, { uv: 'uv2', colour: 'wear' })).getRoot().listMeshes()[0].listPrimitives();
    expect(Math.max(...first.getAttribute('TEXCOORD_0')!.getArray()!)).toBe(mesh.positions.length / 3 - 1);
    expect(Math.min(...first.getAttribute('TEXCOORD_0')!.getArray()!)).toBe(2 - mesh.positions.length / 3);
    expect(first.getAttribute('TEXCOORD_1')!.getElement(0, [])[0]).toBeCloseTo(mesh.attributes.get('uv')!.data[0], 5);
    expect(first.getAttribute('COLOR_0')!.getElement(0, [])).toEqual([0.25, 0.25, 0.25]);
    const back = new ThreePly().parse(text(await writers['.ply'](set, 'post', { uv: 'uv2' })));
    expect(back.getAttribute('uv').getX(5)).toBe(5);
    await expect(writers['.obj'](set, 'post', { uv: 'uv7' })).rejects.toThrow('The result has no UV set "uv7"; it has uv, uv2.');
    await expect(writers['.ply'](set, 'post', { colour: 'wear' })).rejects.toThrow('"wear" is a value of faces; this format has colours of vertices alone.');
    await expect(writers['.glb'](set, 'post', { colour: 'nothing' })).rejects.toThrow('The result has no value of 1, 3 or 4 numbers "nothing"; it has');
  });
  test('PLY: colours are bytes, as readers take them, and points keep their values', async () => {
    const points = makePoints(Float32Array.of(0, 0, 0, 1, 1, 1), new Map([['colour', { carrier: 'point', size: 3, data: Float32Array.of(1, 0, 0.2, 0, 1, 0) }]]));
    const ply = await writers['.ply']({ points }, 'post');
    expect(text(ply)).toContain('property uchar red');
    expect(new ThreePly().parse(text(ply)).getAttribute('color').count).toBe(2);
    expect(Array.from((await readers['.ply'](ply)).points!.attributes.get('colour')!.data, (value) => Number(value.toFixed(3)))).toEqual([1, 0, 0.2, 0, 1, 0]);
  }); // prettier-ignore
});

describe('pieces', () => {
  test('each is an object of its name in every format that has objects, and they are where they are in one', async () => {
    const { mesh } = await colouredTube();
    const curves = makeCurves({ positions: Float32Array.from([0, 0, 0, 1, 0, 0]), starts: Uint32Array.from([0, 2]), closed: Uint8Array.from([0]) });
    const away: Mesh = { ...mesh!, positions: mesh!.positions.map((value, i) => (i % 3 ? value : value + 5)) };
    const pieces: Piece[] = [
      { name: 'near post', set: { mesh: mesh! } },
      { name: 'far post', set: { mesh: away } },
      { name: 'near_post', set: { curves } },
    ];
    const glb = await glbOf(pieces);
    expect(glb.getRoot().listNodes().map((node) => node.getName())).toEqual(['near post', 'far post', 'near_post']); // prettier-ignore
    const usda = text(await writers['.usda'](pieces, 'x'));
    expect(usda.match(/^ {4}def Xform "\w+"/gm)).toEqual(['near_post', 'far_post', 'near_post_2'].map((name) => `    def Xform "${name}"`));
    const obj = text(await writers['.obj'](pieces, 'x'));
    expect(obj.match(/^o .*/gm)).toEqual(['o near_post', 'o far_post', 'o near_post_2']);
    const volume = async (ending: string, content: Content): Promise<number> => measure(await readers[ending](await writers[ending](content, 'x'))).volume;
    for (const ending of ['.glb', '.obj', '.stl', '.ply', '.json'])
      expect(await volume(ending, pieces.slice(0, 2))).toBeCloseTo(2 * measure({ mesh }).volume, 5);
    const joined = await glbOf(pieces, { joined: true, called: 'pier' });
    expect(joined.getRoot().listNodes().map((node) => node.getName())).toEqual(['pier']); // prettier-ignore
  });

  test('OBJ: faces name the materials of the library beside it, whether pieces are copies or not, apart or joined', async () => {
    const { mesh } = await colouredTube();
    const painted = (colour: string): Mesh => ({
      ...mesh!,
      materials: [{ name: colour, colour, roughness: 0.5, metalness: 0, opacity: 1, checker: false }],
      attributes: new Map<string, Attribute>([...mesh!.attributes, ['material', { carrier: 'face', size: 1, data: new Float32Array(faceCount(mesh!)) }]]),
    });
    const copies = makeCopies([painted('#111111')], new Uint32Array(1), Float32Array.from([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]));
    const pieces: Piece[] = [{ name: 'first', set: { copies } }, { name: 'second', set: { mesh: painted('#222222') } }]; // prettier-ignore
    for (const joined of [false, true]) {
      const used = text(await writers['.obj'](pieces, 'x', { joined })).match(/^usemtl .*/gm)!.map((line) => line.slice(7)); // prettier-ignore
      const known = companions['.obj'].write(pieces, { joined })!.match(/^newmtl .*/gm)!.map((line) => line.slice(7)); // prettier-ignore
      expect([used.length, new Set(used)]).toEqual([2, new Set(known)]);
    }
  });

  test('copies are named after what they belong to, counted from 1; a value that one piece has is enough to be chosen', async () => {
    const { mesh } = await colouredTube();
    const copies = makeCopies([mesh!], new Uint32Array(2), Float32Array.from([0, 1].flatMap((x) => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, 0, 0, 1])));
    const pieces: Piece[] = [{ name: 'Posts', set: { copies } }, { name: 'Ground', set: { mesh: { ...mesh!, attributes: new Map() } } }]; // prettier-ignore
    const glb = await glbOf(pieces, { colour: 'part' });
    expect(glb.getRoot().listNodes().map((node) => node.getName())).toEqual(['Posts', 'Posts copy 1', 'Posts copy 2', 'Ground']); // prettier-ignore
    expect(glb.getRoot().listMeshes().map((each) => each.getName())).toEqual(['Posts', 'Ground']); // prettier-ignore
    await expect(writers['.glb'](pieces, 'x', { colour: 'gone' })).rejects.toThrow('"gone"');
  });
});

describe('parts, tangents and backs', () => {
  test('each part is a node, a prim, a group of its own name, and together they are the whole', async () => {
    const { mesh } = await colouredTube();
    const faces = measure({ mesh: mesh! }).faces;
    const parted = { mesh: { ...mesh!, attributes: new Map([...mesh!.attributes, ['body', { carrier: 'face', size: 1, data: Float32Array.from({ length: faces }, (_, f) => (f < 24 ? 0 : 5)) }]]) } as Mesh }; // prettier-ignore
    const { volume } = measure(parted);
    const glb = await writers['.glb'](parted, 'post', { parts: true });
    expect((await validateBytes(glb)).issues.numErrors).toBe(0);
    const shown = await engineMeshes(glb);
    expect(shown.map(({ name }) => name).sort()).toEqual(['post part 0', 'post part 5']);
    expect(measure(await readers['.glb'](glb)).volume).toBeCloseTo(volume, 5);
    expect((await usdMeshes(await writers['.usda'](parted, 'post', { parts: true }))).map(({ mesh: each }) => each.points.length > 0)).toEqual([true, true]);
    const obj = await writers['.obj'](parted, 'post', { parts: true });
    expect(text(obj).match(/^g .*$/gm)).toEqual(['g post_part_0', 'g post_part_5']);
    const back = (await readers['.obj'](obj)).mesh!;
    expect(new Set(back.attributes.get('body')!.data).size).toBe(2);
    expect(measure({ mesh: back }).volume).toBeCloseTo(volume, 5);
  });
  test('tangents stand on the normals, along growing u, and say on which side v grows; the validator and a second engine take them', async () => {
    const mesh = await tube();
    const glb = await writers['.glb']({ mesh }, 'post', { tangents: true });
    expect((await validateBytes(glb)).issues.numErrors).toBe(0);
    const [primitive] = (await new WebIO().readBinary(glb as Uint8Array<ArrayBuffer>)).getRoot().listMeshes()[0].listPrimitives();
    const [p, n, t, uv] = ['POSITION', 'NORMAL', 'TANGENT', 'TEXCOORD_0'].map((name) => primitive.getAttribute(name)!);
    const indices = primitive.getIndices()!;
    let looked = 0;
    for (let i = 0; i < indices.getCount(); i += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => indices.getScalar(i + k));
      const at = (which: typeof p, v: number): number[] => which.getElement(v, []);
      const dp = [b, c].map((v) => at(p, v).map((value, k) => value - at(p, a)[k]));
      // v grows upwards here and downwards in the file.
      const [du, dv] = [0, 1].map((k) => [b, c].map((v) => (at(uv, v)[k] - at(uv, a)[k]) * (k ? -1 : 1)));
      const det = du[0] * dv[1] - du[1] * dv[0];
      if (Math.abs(det) < 1e-9) continue;
      const along = [0, 1, 2].map((k) => (dp[0][k] * dv[1] - dp[1][k] * dv[0]) / det);
      const up = [0, 1, 2].map((k) => (dp[1][k] * du[0] - dp[0][k] * du[1]) / det);
      const [normal, tangent] = [at(n, a), at(t, a)];
      const dot = (x: number[], y: number[]): number => x[0] * y[0] + x[1] * y[1] + x[2] * y[2];
      expect(Math.abs(dot(normal, tangent))).toBeLessThan(1e-4);
      expect(dot(tangent, along)).toBeGreaterThan(0);
      const across = [normal[1] * tangent[2] - normal[2] * tangent[1], normal[2] * tangent[0] - normal[0] * tangent[2], normal[0] * tangent[1] - normal[1] * tangent[0]];
      expect(dot(across, up) * tangent[3]).toBeGreaterThan(0);
      looked++;
    }
    expect(looked).toBeGreaterThan(40);
    expect((await engineMeshes(glb))[0].isVerticesDataPresent('tangent')).toBe(true);
    const bare = makeMesh({ positions: mesh.positions, corners: Uint32Array.of(0, 1, 2), uniform: 3 });
    await expect(writers['.glb']({ mesh: bare }, 'x', { tangents: true })).rejects.toThrow('Tangents need UVs and normals; the mesh has no UVs.');
  }); // prettier-ignore
  test('a material says whether backs are seen; else open surfaces show them', async () => {
    const mesh = await tube();
    const said = (doubleSided?: boolean): GeometrySet => ({ mesh: { ...mesh, materials: [{ ...mesh.materials[0], ...(doubleSided !== undefined && { doubleSided }) }] } });
    for (const [set, wanted] of [[said(), false], [said(true), true], [said(false), false]] as const) {
      expect((await glbOf(set)).getRoot().listMaterials()[0].getDoubleSided()).toBe(wanted);
      expect(text(await writers['.usda'](set, 'post')).includes('doubleSided = 1')).toBe(wanted);
    }
    const sheet = (doubleSided?: boolean): GeometrySet => ({ mesh: { ...said(doubleSided).mesh!, corners: mesh.corners.slice(0, 4), faceStarts: Uint32Array.of(0, 4), attributes: new Map([['material', { carrier: 'face', size: 1, data: Float32Array.of(0) }]]) } });
    for (const [set, wanted] of [[sheet(), true], [sheet(false), false]] as const) expect((await glbOf(set)).getRoot().listMaterials()[0].getDoubleSided()).toBe(wanted);
    expect((await readers['.glb'](await writers['.glb'](said(true), 'x'))).mesh!.materials[0].doubleSided).toBe(true);
    expect((await readers['.json'](await writers['.json'](said(false), 'x'))).mesh!.materials[0].doubleSided).toBe(false);
  }); // prettier-ignore
});

describe('far from the origin', () => {
  const far = async (): Promise<Mesh> => tube({ origin: { carrier: 'whole', size: 3, data: Float32Array.of(2600000, 450, 1200000) } });

  test('glTF, USD, PLY and OBJ say where it is, and give it back to the millimetre', async () => {
    const mesh = await far();
    const { volume } = measure({ mesh });
    for (const ending of ['.glb', '.gltf', '.ply', '.obj', '.json']) {
      const back = (await readers[ending](await writers[ending]({ mesh }, 'post'))).mesh!;
      const origin = back.attributes.get('origin')!.data;
      const low = [0, 1, 2].map((k) => origin[k] + Math.min(...back.positions.filter((_, i) => i % 3 === k)));
      const wanted = [2600000, 450, 1200000].map((value, k) => value + Math.min(...mesh.positions.filter((_, i) => i % 3 === k)));
      expect([ending, ...low]).toEqual([ending, ...wanted.map((value) => expect.closeTo(value, 3))]);
      expect([ending, measure({ mesh: back }).volume]).toEqual([ending, expect.closeTo(volume, 4)]);
    }
    const [{ place }] = await usdMeshes(await writers['.usda']({ mesh }, 'post'));
    expect(place.slice(12, 15)).toEqual([2600000, 450, 1200000]);
  });
  test('copies, in the unit and with the axis that are wanted', async () => {
    const { mesh } = await colouredTube();
    const copies = makeCopies([mesh!], Uint32Array.of(0), Float32Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 5, 0, 0, 1), new Map([['origin', { carrier: 'whole', size: 3, data: Float32Array.of(2600000, 0, 0) }]]));
    const back = await readers['.glb'](await writers['.glb']({ copies }, 'post', { unit: 'cm' }));
    const low = back.mesh!.attributes.get('origin')!.data[0] + Math.min(...back.mesh!.positions.filter((_, i) => i % 3 === 0));
    expect(low).toBeCloseTo(260000450, 1);
  }); // prettier-ignore
});

describe('other readers', () => {
  test('a second web engine and the loaders of a third show the same volume and vertices', async () => {
    const mesh = await tube();
    const glb = await writers['.glb']({ mesh }, 'post');
    const [shown, ...others] = await engineMeshes(glb);
    expect([others.length, shown.material!.name]).toEqual([0, 'iron']);
    const identity = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
    const { volume, triangles } = measure({ mesh });
    expect(Math.abs(placedVolume(shown.getVerticesData('position')!, shown.getIndices()!, identity))).toBeCloseTo(volume, 5);
    const read = postProcessGLTF(await parse(glb.slice().buffer, GLTFLoader));
    const [{ attributes, indices }] = read.meshes[0].primitives;
    expect(indices!.count).toBe(triangles * 3);
    expect(placedVolume(attributes['POSITION'].value, indices!.value, identity)).toBeCloseTo(volume, 5);
    const obj = (await parse((await writers['.obj']({ mesh }, 'post')).slice().buffer, OBJLoader)) as unknown as { attributes: { POSITION: { value: ArrayLike<number> } } };
    const points = obj.attributes.POSITION.value;
    expect(placedVolume(points, Array.from({ length: points.length / 3 }, (_, i) => i), identity)).toBeCloseTo(volume, 5);
  }); // prettier-ignore
  test('copies are all there for them too, mirrored ones and those of USD', async () => {
    const { mesh } = await colouredTube();
    const one = measure({ mesh: mesh! }).volume;
    const matrices = Float32Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 3, 0, 0, 1, -2, 0, 0, 0, 0, 2, 0, 0, 0, 0, 2, 0, 0, 0, 5, 1);
    const set = { copies: makeCopies([mesh!], Uint32Array.of(0, 0), matrices) };
    expect(await engineMeshes(await writers['.glb'](set, 'posts'))).toHaveLength(2);
    const found = await usdMeshes(await writers['.usda'](set, 'posts'));
    // The mirrored one is turned inside out by its matrix, which readers undo by its sign.
    expect(found.map(({ mesh: each, place }) => placedVolume(each.points, each.faceVertexIndices, place))).toEqual([expect.closeTo(one, 4), expect.closeTo(-one * 8, 3)]); // prettier-ignore
  });
});

test('numbers are written with as few digits as bring the same 32 bits back, and never other than the language would', () => {
  let piece: Uint8Array = new Uint8Array(0);
  const sink = new TextSink((bytes) => (piece = bytes));
  const written = (value: number): string => {
    sink.number(value);
    sink.end();
    return text(piece);
  };
  expect([0, -0, 0.1, 1, -2.5, 1e-4, 123456.789, 1e9, 1e-7, 3e38, 0.00001, 99999.99, 999999999].map(written)).toEqual(['0', '0', '0.1', '1', '-2.5', '0.0001', '123456.789', '1000000000', '1e-7', '3e+38', '0.00001', '99999.99', '999999999']); // prettier-ignore
  const bits = new Uint32Array(1);
  const float = new Float32Array(bits.buffer);
  const wrong: unknown[] = [];
  let seed = 7;
  for (let i = 0; i < 100_000; i++) {
    bits[0] = seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    if (!Number.isFinite(float[0])) continue;
    const made = written(float[0]);
    if (Math.fround(Number(made)) !== float[0] || made.length > numberText(float[0]).length) wrong.push([float[0], made, numberText(float[0])]);
  }
  expect(wrong).toEqual([]);
});

test('base64 and long texts are what the language makes of them', () => {
  for (const length of [0, 1, 2, 3, 4, 100, 70_001]) {
    const bytes = Uint8Array.from({ length }, (_, i) => (i * 7919) % 256);
    const pieces = gatherPieces();
    const sink = new TextSink(pieces.out);
    sink.base64(bytes);
    sink.line('ñandú ≠ '.repeat(length));
    sink.end();
    expect(text(pieces.bytes())).toBe(`${Buffer.from(bytes).toString('base64')}${'ñandú ≠ '.repeat(length)}\n`);
  }
});

test('what is split by angle goes out and comes back split', async () => {
  const mesh = splitNormals(await tube(), 30);
  for (const ending of ['.obj', '.ply', '.glb', '.json']) {
    const back = (await readers[ending](await writers[ending]({ mesh }, 'x'))).mesh!;
    expect([ending, back.positions.length / 3]).toEqual([ending, mesh.positions.length / 3]);
  }
});
