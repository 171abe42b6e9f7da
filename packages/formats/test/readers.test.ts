/** Every written format read back by a reader that is not ours: three.js loaders, the glTF SDK and validator, the path library. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { resolve } from 'node:path';
import { WebIO } from '@gltf-transform/core';
import { EXTMeshGPUInstancing, type InstancedMesh } from '@gltf-transform/extensions';
import fc from 'fast-check';
import { validateBytes } from 'gltf-validator';
import Papa from 'papaparse';
import SvgPath from 'svgpath';
import type { InstancedMesh as InstancedMesh3, Mesh as ThreeMesh } from 'three';
import { Matrix4, Quaternion, Vector3, type BufferGeometry, type Object3D } from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { MTLLoader } from 'three/examples/jsm/loaders/MTLLoader.js';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js';
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import { USDLoader } from 'three/examples/jsm/loaders/USDLoader.js';
import { describe, expect, test } from 'vitest';
import {
  curveLengths,
  curvesFromLists,
  Evaluator,
  makeCopies,
  measure,
  namedResults,
  parseDocument,
  Plan,
  withoutCopies,
  type Curves,
  type GeometrySet,
} from '@filaxis/core';
import { companions, fittingEndings, readImport, readers, writers } from '../src/index.js';
import { colouredTube } from './shapes.js';

const curvesIn = async (bytes: Uint8Array): Promise<Curves> => (await readImport(bytes)).curves!;

const text = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);
const encode = (content: string): Uint8Array => new TextEncoder().encode(content);
const curves: GeometrySet = { curves: curvesFromLists([[[0, 0, 0], [1, 0, 0], [1, 0, 1]], [[0, 0, 2], [3, 0, 2], [3, 0, 3]]], { closed: [false, true] }) }; // prettier-ignore

/** Signed volume of triangles (divergence theorem). */
function volumeOf(geometry: BufferGeometry): number {
  const p = geometry.getAttribute('position');
  const index = geometry.getIndex();
  const count = index ? index.count : p.count;
  const [a, b, c] = [new Vector3(), new Vector3(), new Vector3()];
  let volume = 0;
  for (let i = 0; i < count; i += 3) {
    [a, b, c].forEach((corner, k) => corner.fromBufferAttribute(p, index ? index.getX(i + k) : i + k));
    volume += a.dot(b.clone().cross(c)) / 6;
  }
  return volume;
}

/** The tube twice as copies, once turned and mirrored in size. */
async function placedTubes(): Promise<GeometrySet> {
  const { mesh } = await colouredTube();
  const matrices = Float32Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 3, 0, 0, 1, 0, 2, 0, 0, -2, 0, 0, 0, 0, 0, 2, 0, 0, 0, 5, 1);
  return { copies: makeCopies([mesh!], Uint32Array.of(0, 0), matrices) };
}

describe('meshes', () => {
  test('STL: three.js finds the same triangles and volume; 84 + 50 bytes each, not to be taken for text', async () => {
    const set = await colouredTube();
    const bytes = await writers['.stl'](set, 'bollard');
    const figures = measure(set);
    expect(bytes.length).toBe(84 + 50 * figures.triangles);
    expect(text(bytes.subarray(0, 5))).not.toBe('solid');
    const read = new STLLoader().parse(bytes.slice().buffer);
    expect(volumeOf(read)).toBeCloseTo(figures.volume, 5);
    const back = await readers['.stl'](bytes);
    expect(measure(back)).toMatchObject({ boundaryEdges: 0, euler: 2, triangles: figures.triangles });
  });

  test('PLY: three.js finds the same volume, normals and UVs', async () => {
    const set = await colouredTube();
    const bytes = await writers['.ply'](set, 'bollard');
    const read = new PLYLoader().parse(text(bytes));
    expect(volumeOf(read)).toBeCloseTo(measure(set).volume, 5);
    expect(Array.from(read.getAttribute('uv').array).slice(0, 12)).toEqual(Array.from(set.mesh!.attributes.get('uv')!.data.slice(0, 12)));
    expect(read.getAttribute('normal').count).toBe(set.mesh!.positions.length / 3);
    const back = await readers['.ply'](bytes);
    expect(measure({ mesh: back.mesh! }).volume).toBeCloseTo(measure(set).volume, 6);
  });

  test('PLY as published: one triangle in text (Turk 1994; from memory), and the same in binary', async () => {
    const head = (format: string): string =>
      `ply\nformat ${format} 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n`;
    const inText = await readers['.ply'](encode(`${head('ascii')}0 0 0\n1 0 0\n0 1 0\n3 0 1 2\n`));
    const body = new DataView(new ArrayBuffer(36 + 13));
    [0, 0, 0, 1, 0, 0, 0, 1, 0].forEach((value, i) => body.setFloat32(i * 4, value, true));
    body.setUint8(36, 3);
    [0, 1, 2].forEach((value, i) => body.setInt32(37 + i * 4, value, true));
    const binary = await readers['.ply'](Uint8Array.of(...encode(head('binary_little_endian')), ...new Uint8Array(body.buffer)));
    for (const { mesh } of [inText, binary]) expect(measure({ mesh: mesh! })).toMatchObject({ faces: 1, vertices: 3, area: 0.5 });
  });

  test('OBJ and MTL: three.js finds the volume, and the material by its name with its values', async () => {
    const set = await colouredTube();
    const materials = new MTLLoader().parse(companions['.obj'].write(set)!, '');
    const group = new OBJLoader().setMaterials(materials).parse(text(await writers['.obj'](set, 'bollard')));
    const [mesh] = group.children as ThreeMesh[];
    expect(volumeOf(mesh.geometry)).toBeCloseTo(measure(set).volume, 5);
    expect((mesh.material as unknown as { name: string; opacity: number }).name).toBe('iron_0');
    expect((mesh.material as unknown as { opacity: number }).opacity).toBeCloseTo(0.5, 6);
    expect(text(await writers['.obj'](set, 'bollard'))).toContain('mtllib bollard.mtl\n');
  });

  test('glTF as text holds its data and is valid; it reads back', async () => {
    const set = { ...(await colouredTube()), ...curves };
    const bytes = await writers['.gltf'](set, 'bollard');
    const { issues } = await validateBytes(bytes);
    expect(issues.numErrors + issues.numWarnings).toBe(0);
    const back = await readers['.gltf'](bytes);
    expect(measure({ mesh: back.mesh! }).volume).toBeCloseTo(measure({ mesh: set.mesh! }).volume, 5);
    await expect(readers['.gltf'](encode('{"asset":{"version":"2.0"},"buffers":[{"byteLength":4,"uri":"other.bin"}]}'))).rejects.toThrow(
      '/buffers/0/uri: the buffer is in another file',
    );
  });

  test('USD text: three.js composes a mesh of the same volume', async () => {
    const set = await colouredTube();
    const group = new USDLoader().parse(text(await writers['.usda'](set, 'bollard'))) as unknown as { traverse(visit: (child: ThreeMesh) => void): void };
    const volumes: number[] = [];
    group.traverse((child) => void (child.isMesh && volumes.push(volumeOf(child.geometry))));
    expect(volumes.reduce((sum, volume) => sum + volume, 0)).toBeCloseTo(measure(set).volume, 4);
  });
});

describe('copies', () => {
  test('are instances in GLB where that is asked for, valid, at the same places, turns and sizes', async () => {
    const set = await placedTubes();
    const bytes = await writers['.glb'](set, 'bollards', { instances: true });
    const { issues } = await validateBytes(bytes);
    expect(issues.numErrors).toBe(0);
    const document = await new WebIO().registerExtensions([EXTMeshGPUInstancing]).readBinary(bytes as Uint8Array<ArrayBuffer>);
    const [node] = document.getRoot().listNodes();
    expect(node.getExtension<InstancedMesh>('EXT_mesh_gpu_instancing')!.getAttribute('TRANSLATION')!.getCount()).toBe(2);
    const back = await readers['.glb'](bytes);
    Array.from(back.copies!.matrices).forEach((value, i) => expect(value).toBeCloseTo(set.copies!.matrices[i], 5));
  });

  test('turned in any way, of any size, mirrored or not, stand for three.js where they stood', async () => {
    const { mesh } = await colouredTube();
    const number = (most: number): fc.Arbitrary<number> => fc.double({ min: -most, max: most, noNaN: true });
    const turn = fc.oneof(
      fc.tuple(number(1), number(1), number(1), number(1)).filter((q) => Math.hypot(...q) > 0.1),
      // Half and quarter turns are where formulas for this go over into one another.
      fc.constantFrom([0, 0, 0, 1], [1, 0, 0, 0], [0, 1, 0, 0], [0, 0, 1, 0], [1, 1, 0, 0], [0, 1, 0, 1], [1, 1, 1, 1], [0.5, -0.5, 0.5, -0.5]),
    );
    const copy = fc.record({
      turn,
      place: fc.tuple(number(9), number(9), number(9)),
      size: fc.tuple(...[0, 1, 2].map(() => fc.double({ min: 0.01, max: 5, noNaN: true }))),
      mirrored: fc.boolean(),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(copy, { minLength: 1, maxLength: 4 }), fc.boolean(), async (given, instances) => {
        const matrices = given.map(({ turn: q, place, size: [x, y, z], mirrored }) =>
          new Matrix4().compose(
            new Vector3(...place),
            new Quaternion(...(q as [number, number, number, number])).normalize(),
            new Vector3(mirrored ? -x : x, y, z),
          ),
        );
        const copies = makeCopies([mesh!], new Uint32Array(given.length), Float32Array.from(matrices.flatMap((m) => m.elements)));
        const bytes = await writers['.glb']({ copies }, 'bollards', { instances });
        const { scene } = await new GLTFLoader().parseAsync(bytes.slice().buffer, '');
        scene.updateMatrixWorld(true);
        const found: Matrix4[] = [];
        scene.traverse((each) => {
          const many = each as InstancedMesh3;
          if (many.isInstancedMesh) for (let i = 0; i < many.count; i++) many.getMatrixAt(i, (found[found.length] = new Matrix4()));
          else if (many.isMesh) found.push(many.matrixWorld);
        });
        const back = found.flatMap((m) => m.elements);
        expect(back.length).toBe(given.length * 16);
        matrices.flatMap((m) => m.elements).forEach((value, i) => expect(back[i]).toBeCloseTo(value, 4));
      }),
      { numRuns: 40 },
    );
  });

  /** Volumes of the meshes that a scene of three.js shows, each where it stands. */
  const shown = (root: Object3D): number[] => {
    root.updateMatrixWorld(true);
    const volumes: number[] = [];
    root.traverse((child) => {
      if ((child as ThreeMesh).isMesh) volumes.push(Math.abs(volumeOf((child as ThreeMesh).geometry.clone().applyMatrix4(child.matrixWorld))));
    });
    return volumes.sort((a, b) => a - b);
  };

  test('are all there for readers that know no instances: three.js from GLB and USD, assimp from GLB', async () => {
    const set = await placedTubes();
    const one = measure(await colouredTube()).volume;
    const glb = await writers['.glb'](set, 'bollards');
    expect((await validateBytes(glb)).issues.numErrors).toBe(0);
    const { scene } = await new GLTFLoader().parseAsync(glb.slice().buffer, '');
    expect(shown(scene)).toEqual([expect.closeTo(one, 4), expect.closeTo(one * 8, 3)]);
    const usd = new USDLoader().parse(text(await writers['.usda'](set, 'bollards'))) as unknown as Object3D;
    expect(shown(usd)).toEqual([expect.closeTo(one, 4), expect.closeTo(one * 8, 3)]);
    // The instances of USD, for readers that follow them, refer to the first.
    expect(text(await writers['.usda'](set, 'bollards', { instances: true })).match(/def Mesh/g)).toHaveLength(1);
    // The mesh is stored once.
    expect(glb.length).toBeLessThan((await writers['.glb'](set, 'bollards', { expanded: true })).length);
    const folder = mkdtempSync(resolve(tmpdir(), 'filaxis-assimp-'));
    writeFileSync(resolve(folder, 'bollards.glb'), glb);
    const made = spawnSync('assimp', ['export', 'bollards.glb', 'bollards.stl', '-fstlb'], { cwd: folder, encoding: 'utf8' });
    expect([made.status, made.error]).toEqual([0, undefined]);
    expect(measure(await readers['.stl'](readFileSync(resolve(folder, 'bollards.stl')))).volume).toBeCloseTo(one * 9, 3);
  });

  test('that are mirrored keep their faces outwards in every format', async () => {
    const { mesh } = await colouredTube();
    const set = { copies: makeCopies([mesh!], Uint32Array.of(0), Float32Array.of(-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1)) };
    for (const ending of ['.glb', '.gltf', '.obj', '.stl', '.ply'] as const) {
      const back = await readers[ending](await writers[ending](set, 'x'));
      expect([ending, measure({ mesh: back.mesh! }).volume > 0]).toEqual([ending, true]);
    }
    const { scene } = await new GLTFLoader().parseAsync((await writers['.glb'](set, 'x')).slice().buffer, '');
    scene.updateMatrixWorld(true);
    scene.traverse((child) => {
      // A node that mirrors has its faces turned over by whoever draws it (glTF 2.0, 3.7.4), so the mesh itself faces outwards.
      if ((child as ThreeMesh).isMesh) expect([volumeOf((child as ThreeMesh).geometry) > 0, child.matrixWorld.determinant() < 0]).toEqual([true, true]);
    });
  });

  test('are one mesh when asked, and in formats without instances: nine volumes of one', async () => {
    const set = await placedTubes();
    const one = measure(await colouredTube()).volume;
    for (const back of [await readers['.glb'](await writers['.glb'](set, 'x', { expanded: true })), await readers['.stl'](await writers['.stl'](set, 'x'))])
      expect(measure({ mesh: back.mesh! }).volume).toBeCloseTo(one * 9, 4);
    const figures = measure(set);
    expect(figures).toMatchObject({ copies: 2, vertices: 32 });
    expect(figures.expanded).toMatchObject({ vertices: 64, parts: 2 });
    expect(figures.expanded!.volume).toBeCloseTo(one * 9, 4);
  });

  test('that are sheared become meshes of their own in glTF, the others stay instances: foreign readers find all places', async () => {
    const { mesh } = await colouredTube();
    // A mirrored and sheared one, two plain ones, and a sheared one that is turned and moved.
    const matrices = Float32Array.of(
      -1, 0, 0, 0, 0.5, 1, 0, 0, 0, 0, 1, 0, 3, 0, 0, 1,
      1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1,
      2, 0, 0, 0, 0, 2, 0, 0, 0, 0, 2, 0, 6, 0, 0, 1,
      0, 0, -1, 0, 0.3, 1, 0.4, 0, 1, 0, 0, 0, -4, 1, 2, 1,
    ); // prettier-ignore
    const set = { copies: makeCopies([mesh!], new Uint32Array(4), matrices) };
    expect(measure(set)).toMatchObject({ copies: 4, sheared: 2 });
    const wanted = measure({ mesh: withoutCopies(set).mesh! });
    for (const options of [{}, { instances: true }]) {
      const glb = await writers['.glb'](set, 'fence', options);
      expect((await validateBytes(glb)).issues.numErrors).toBe(0);
      const back = await readers['.glb'](glb);
      const found = measure({ mesh: withoutCopies(back).mesh! });
      expect(found.volume).toBeCloseTo(wanted.volume, 4);
      for (const end of ['min', 'max'] as const) found.bounds![end].forEach((value, k) => expect(value).toBeCloseTo(wanted.bounds![end][k], 4));
      expect(found.faces).toBe(wanted.triangles);
    }
    const { scene } = await new GLTFLoader().parseAsync((await writers['.glb'](set, 'fence')).slice().buffer, '');
    expect(shown(scene).reduce((sum, value) => sum + value, 0)).toBeCloseTo(wanted.volume, 3);
  });
});

describe('curves', () => {
  test('SVG in plan: the path library measures the same lengths; it reads back to the same', async () => {
    const drawing = text(await writers['.svg'](curves, 'rails'));
    const paths = [...drawing.matchAll(/ d="([^"]+)"/g)].map(([, d]) => d);
    const lengths = paths.map((d) => {
      let sum = 0;
      let start: [number, number] = [0, 0];
      SvgPath(d)
        .abs()
        .iterate((segment, _i, x, y) => {
          if (segment[0] === 'M') start = [segment[1], segment[2]];
          const [ex, ey] = segment[0] === 'Z' ? start : [segment[1] as number, segment[2] as number];
          if (segment[0] !== 'M') sum += Math.hypot(ex - x, ey - y);
        });
      return sum;
    });
    curveLengths(curves.curves!).forEach((length, c) => expect(lengths[c]).toBeCloseTo(length, 6));
    curveLengths(await curvesIn(encode(drawing))).forEach((length, c) => expect(length).toBeCloseTo(lengths[c], 5));
  });

  test('CSV ends its records with CRLF (RFC 4180) and has a column a number', async () => {
    const table = text(await writers['.csv'](curves, 'rails'));
    expect(table.startsWith('x,y,z,curve,closed\r\n0,0,0,0,0\r\n')).toBe(true);
    expect(Papa.parse<string[]>(table.trim()).data.length).toBe(7);
    const back = await curvesIn(encode(table));
    expect([...back.closed]).toEqual([0, 1]);
  });

  test('imports: OBJ lines, glTF lines and GeoJSON (RFC 7946) by what they are', async () => {
    const obj = await curvesIn(encode('# quay\nv 0 0 0\nv 1 0 0\nv 1 1 0\nl 1 2 3\n'));
    expect(curveLengths(obj)[0]).toBeCloseTo(2, 6);
    const gltf = await curvesIn(await writers['.glb'](curves, 'x'));
    expect(curveLengths(gltf)[0]).toBeCloseTo(2, 6);
    const map = await curvesIn(encode('{"type":"Feature","geometry":{"type":"Polygon","coordinates":[[[0,0],[4,0],[4,3],[0,0]]]},"properties":{}}'));
    expect([map.closed[0], curveLengths(map)[0]]).toEqual([1, 12]);
    await expect(curvesIn(encode('{"type":"LineString","coordinates":[[0,0],[1,"a"]]}'))).rejects.toThrow('/coordinates/1: [1,"a"] is no position');
    expect((await readImport(encode('v 0 0 0\nv 1 0 0\n'))).points!.positions).toHaveLength(6);
    await expect(readImport(encode('o nothing\n'))).rejects.toThrow('The file has no lines, faces or points');
  });
});

describe('meshes are imported by what they are', () => {
  for (const ending of ['.glb', '.gltf', '.obj', '.stl', '.ply'])
    test(`${ending}: as large as it was, whole and facing outwards`, async () => {
      const set = await colouredTube();
      const { mesh } = await readImport(await writers[ending](set, 'post'));
      const [given, back] = [measure(set), measure({ mesh })];
      expect([back.volume / given.volume, back.area / given.area]).toEqual([expect.closeTo(1, 5), expect.closeTo(1, 5)]);
      expect(back.triangles).toBe(given.triangles);
    });

  test('STL as text, and a file of lines and faces, whose both are there', async () => {
    const facet = 'facet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\n';
    expect(measure(await readImport(encode(`solid post\n${facet}endsolid post\n`)))).toMatchObject({ faces: 1, area: 0.5 });
    const both = await readImport(encode('v 0 0 0\nv 1 0 0\nv 1 1 0\nl 1 2\nf 1 2 3\n'));
    expect(measure(both)).toMatchObject({ curves: 1, faces: 1 });
  });
});

test('formats that fit are told by what a result holds', async () => {
  expect(fittingEndings(curves)).toEqual(['.glb', '.gltf', '.obj', '.usda', '.svg', '.csv', '.json']);
  expect(fittingEndings(await colouredTube())).toEqual(['.glb', '.gltf', '.obj', '.stl', '.ply', '.usda', '.json']);
  await expect(writers['.stl'](curves, 'x')).rejects.toThrow('STL holds faces');
});

describe('malformed files are refused with their place, however large they say they are', () => {
  for (const [ending, content, message] of [
    ['.stl', new Uint8Array(90), /Byte 80: the file says it has 0 triangles/],
    ['.stl', encode('solid x\nvertex 0 0\n'), /Line 2/],
    ['.ply', encode('ply\nformat ascii 1.0\nelement vertex 4000000000\nproperty float x\nend_header\n'), /announces 4000000000 of "vertex"/],
    [
      '.ply',
      encode('ply\nformat ascii 1.0\nelement vertex 1\nproperty float x\nproperty float y\nproperty float z\nend_header\n0 0\n'),
      /ends after 2 numbers/,
    ],
    ['.geojson', encode('{"type":"Wave"}'), /\/type: "Wave" is no kind/],
    ['.gltf', encode('{'), /This is not JSON/],
  ] as const)
    test(`${ending}: ${String(message)}`, async () => {
      await expect(readers[ending](content)).rejects.toThrow(message);
    });
});

const demos = resolve(import.meta.dirname, '../../../demo/documents');
for (const file of readdirSync(demos).filter((name) => name.endsWith('.json')))
  test(`demo ${file}: its GLB, with instances and expanded, is valid by the Khronos validator`, async () => {
    const plan = new Plan(parseDocument(readFileSync(resolve(demos, file), 'utf8')));
    const run = await new Evaluator().run(plan);
    const [set] = namedResults(plan, run).values();
    for (const [, node] of run.nodes) expect([node.error ?? null, node.warnings]).toEqual([null, []]);
    for (const expanded of [false, true]) {
      const { issues } = await validateBytes(await writers['.glb'](set, 'demo', { expanded }));
      // Severity 0 and 1: errors and warnings.
      expect(issues.messages.filter(({ severity }) => severity < 2)).toEqual([]);
    }
  }, 60_000);
