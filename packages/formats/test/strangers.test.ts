/** Files as strangers make them: what they mean arrives, and what cannot be read is refused by name. */
import { Document, WebIO } from '@gltf-transform/core';
import { EXTMeshoptCompression, KHRLightsPunctual, KHRMeshQuantization } from '@gltf-transform/extensions';
import { strToU8, zipSync } from 'fflate';
import fc from 'fast-check';
import { MeshoptDecoder, MeshoptEncoder } from 'meshoptimizer';
import { svgPathProperties } from 'svg-path-properties';
import { describe, expect, test } from 'vitest';
import { curveLengths, curvesBounds, makeCopies, makeMesh, measure, type Curves, type GeometrySet, type Mesh } from '@filaxis/core';
import { readImport, readers, unpackDocument, writers } from '../src/index.js';
import { colouredTube } from './shapes.js';

const encode = (text: string): Uint8Array => new TextEncoder().encode(text);
const text = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);
const svg = async (inner: string, head = ''): Promise<Curves> =>
  (await readImport(encode(`<svg xmlns="http://www.w3.org/2000/svg" ${head}>${inner}</svg>`))).curves!;
const total = (curves: Curves): number => curveLengths(curves).reduce((sum, length) => sum + length, 0);

describe('formats are told apart by their first meaningful lines', () => {
  const face = 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n';
  test('an OBJ is one however it begins', async () => {
    for (const head of ['vn 0 0 1\n', 'vt 0 0\n', 's off\n', 'usemtl x\n', 'mtllib x.mtl\n', `${'#'.repeat(60)}\n`.repeat(200), '\n'.repeat(5000), '\r\r# a\r'])
      expect((await readImport(encode(head + face))).mesh!.corners).toHaveLength(3);
  });
  test('long runs of remarks, blanks and signs that lead nowhere end at once, whatever comes behind them', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.constantFrom('#', ' ', '\n', '\t', '#\n', '# \r\n', '(', '[', '-', ',', ';', '0', 'v ', '<', '"', '&', 'e'), fc.integer({ min: 1, max: 3000 })), { minLength: 1, maxLength: 6 }),
        fc.constantFrom('vn', 'v 0 0', 'x', '<svg>', '{', 'solid\nfacet', '1;2;3', ''),
        async (runs, end) => {
          const began = process.cpuUsage().user;
          await readImport(encode(runs.map(([sign, count]) => sign.repeat(count)).join('') + end)).catch((error: Error) => expect(error.message.length).toBeGreaterThan(5));
          // CPU time, so that a busy machine does not count: what backtracks takes minutes.
          expect(process.cpuUsage().user - began).toBeLessThan(5e6);
        },
      ),
      { numRuns: 150 },
    );
  }, 120_000); // prettier-ignore
});

describe('SVG is read as it is drawn', () => {
  test('arcs are true to a millionth of their radius, in pieces', async () => {
    for (const [rx, ry, turn, large, sweep, x, y] of [[1, 1, 0, 0, 1, 1, 1], [1, 1, 0, 1, 0, 1, 1], [3, 1, 30, 1, 1, 2, 1], [0.2, 0.1, 0, 0, 1, 4, 0]]) {
      const d = `M0 0A${rx} ${ry} ${turn} ${large} ${sweep} ${x} ${y}`;
      expect(total(await svg(`<path d="${d}"/>`)) / new svgPathProperties(d).getTotalLength()).toBeCloseTo(1, 4);
    }
    const circle = await svg('<circle r="2"/>');
    for (let i = 0; i < circle.positions.length; i += 3) expect(Math.hypot(circle.positions[i], circle.positions[i + 1])).toBeCloseTo(2, 6);
    expect(Math.abs(total(circle) / (4 * Math.PI) - 1)).toBeLessThan(1e-6);
  }); // prettier-ignore
  test('a closed subpath of two points has two spans, one of a single piece is whole', async () => {
    const lens = await svg('<path d="M0 0C1 1 2 1 3 0Z"/><path d="M0 0L10 0Z"/><path d="M0 0C4 4 -4 4 0 0Z"/>');
    expect([...lens.closed]).toEqual([1, 1, 1]);
    expect(curveLengths(lens)[1]).toBeCloseTo(20, 5);
    expect(curveLengths(lens)[0]).toBeCloseTo(new svgPathProperties('M0 0C1 1 2 1 3 0Z').getTotalLength(), 3);
    expect(curveLengths(lens)[2]).toBeCloseTo(new svgPathProperties('M0 0C4 4 -4 4 0 0Z').getTotalLength(), 3);
  });
  test('short forms after an arc begin from the point itself (SVG 2, 9.3.6)', async () => {
    const d = 'M0 0A2 2 0 0 1 2 2S5 5 6 2A1 1 0 0 0 8 2T9 9';
    expect(total(await svg(`<path d="${d}"/>`))).toBeCloseTo(total(await svg('<path d="M0 0A2 2 0 0 1 2 2C2 2 5 5 6 2A1 1 0 0 0 8 2Q8 2 9 9"/>')), 5);
  });
  test('what is used stands where it is used; symbols and nested drawings have their view boxes', async () => {
    const box = (curves: Curves) => curvesBounds(curves)!;
    const used = await svg('<defs><rect id="a" width="2" height="1"/></defs><use href="#a" x="10" y="5"/><use xlink:href="#a" transform="scale(2)"/>');
    expect(curveLengths(used)[0]).toBeCloseTo(6, 5);
    expect(curveLengths(used)[1]).toBeCloseTo(12, 5);
    expect([box(used).max[0], box(used).min[1]]).toEqual([12, -6]);
    const symbol = await svg('<symbol id="s" viewBox="0 0 10 10"><path d="M0 0H10V10H0Z"/></symbol><use href="#s" x="5" width="20" height="40"/>');
    // Kept in proportion and in the middle: 20 by 20, 10 further down.
    expect(box(symbol)).toMatchObject({ min: [5, -30, 0], max: [25, -10, 0] });
    const nested = await svg(
      '<svg x="1" y="2" width="50%" height="30" viewBox="0 0 1 1" preserveAspectRatio="none"><path d="M0 0L1 1"/></svg>',
      'viewBox="0 0 80 60"',
    );
    expect(box(nested)).toMatchObject({ min: [1, -32, 0], max: [41, -2, 0] });
    await expect(svg('<g id="a"><use href="#a"/></g>')).rejects.toThrow('uses itself');
    await expect(svg('<use href="#nowhere"/>')).rejects.toThrow('it uses "#nowhere", which is not in the drawing');
  });
  test('references that multiply are stopped', async () => {
    const levels = Array.from({ length: 8 }, (_, i) => `<g id="g${i + 1}">${`<use href="#g${i}"/>`.repeat(10)}</g>`).join('');
    await expect(svg(`<defs><path id="g0" d="M0 0L1 0"/>${levels}</defs><use href="#g8"/>`)).rejects.toThrow('more than 500000 elements');
  });
  test('what is hidden is not read; what is visible in it is', async () => {
    const line = '<path d="M0 0L1 0"/>';
    const drawn = await svg(
      `<style>.off{display:none}/* .on */ #x, path.gone { visibility: hidden } @media print { path { display: none } }</style>${line}<g display="none">${line}</g><g style="display:none">${line}</g><g class="off">${line}</g><path class="gone" d="M0 0L1 0"/><path id="x" d="M0 0L1 0"/><g visibility="hidden">${line}<path visibility="visible" d="M0 0L1 0"/></g><clipPath>${line}</clipPath>`,
    );
    expect(drawn.closed).toHaveLength(2);
  });
  test('transforms of attributes and styles, about an origin; lengths with units and percentages', async () => {
    const at = async (inner: string, head = ''): Promise<number[]> => {
      const { min, max } = curvesBounds(await svg(inner, head))!;
      return [min[0], -max[1], max[0], -min[1]].map((value) => Number(value.toFixed(3)));
    };
    const square = 'd="M0 0H2V2H0Z"';
    expect(await at(`<path ${square} style="transform: translate(10px, 1in) scale(2)"/>`)).toEqual([10, 96, 14, 100]);
    expect(await at(`<path ${square} transform="rotate(90)" transform-origin="1 1"/>`)).toEqual([0, 0, 2, 2]);
    expect(await at(`<path ${square} transform="rotate(.25turn 1 1) translate(1)"/>`)).toEqual([0, 1, 2, 3]);
    expect(await at(`<path ${square} transform="skewX(45)"/>`)).toEqual([0, 0, 4, 2]);
    expect(await at('<rect x="10%" y="1cm" width="25.4mm" height="50%"/>', 'viewBox="0 0 200 100"')).toEqual([20, 37.795, 116, 87.795]);
    await expect(svg(`<path ${square} transform="turn(3)"/>`)).rejects.toThrow('the transform "turn(3)" cannot be read');
    await expect(svg('<rect width="3furlongs" height="1"/>')).rejects.toThrow('width is "3furlongs"; it must be a length.');
  });
});

describe('glTF in its pose, its scene and its extensions', () => {
  /** A triangle of area 1/2, made by the SDK that others use. */
  const triangle = (): { document: Document; primitive: ReturnType<Document['createPrimitive']>; node: ReturnType<Document['createNode']> } => {
    const document = new Document();
    const buffer = document.createBuffer();
    const primitive = document.createPrimitive().setAttribute('POSITION', document.createAccessor().setType('VEC3').setArray(Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0)).setBuffer(buffer)); // prettier-ignore
    const node = document.createNode('n').setMesh(document.createMesh().addPrimitive(primitive));
    document.createScene().addChild(node);
    return { document, primitive, node };
  };
  const written = (document: Document, io = new WebIO()): Promise<Uint8Array> => io.writeBinary(document);
  const places = async (document: Document, io?: WebIO): Promise<number[]> => Array.from((await readers['.glb'](await written(document, io))).mesh!.positions, (value) => Number(value.toFixed(4))); // prettier-ignore

  test('skinned meshes stand where their joints are, whatever their own node says', async () => {
    const { document, primitive, node } = triangle();
    const buffer = document.getRoot().listBuffers()[0];
    const weights = Float32Array.of(1, 0, 0, 0, 0.5, 0.5, 0, 0, 0, 1, 0, 0);
    primitive.setAttribute('JOINTS_0', document.createAccessor().setType('VEC4').setArray(Uint8Array.of(0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0)).setBuffer(buffer));
    primitive.setAttribute('WEIGHTS_0', document.createAccessor().setType('VEC4').setArray(weights).setBuffer(buffer));
    const joints = [[0, 0, 0], [0, 0, 4]].map((at) => document.createNode().setTranslation(at as [number, number, number]));
    const inverse = Float32Array.from([0, 1].flatMap(() => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]));
    const skin = document.createSkin().setInverseBindMatrices(document.createAccessor().setType('MAT4').setArray(inverse).setBuffer(buffer));
    for (const joint of joints) {
      skin.addJoint(joint);
      document.getRoot().listScenes()[0].addChild(joint);
    }
    node.setSkin(skin).setTranslation([50, 0, 0]);
    expect(await places(document)).toEqual([0, 0, 0, 1, 0, 2, 0, 1, 4]);
  }); // prettier-ignore
  test('morph targets are added by the weights of the node, else of the mesh', async () => {
    const { document, primitive, node } = triangle();
    const buffer = document.getRoot().listBuffers()[0];
    const by = document
      .createAccessor()
      .setType('VEC3')
      .setArray(Float32Array.of(0, 0, 2, 0, 0, 2, 0, 0, 2))
      .setBuffer(buffer);
    primitive.addTarget(document.createPrimitiveTarget().setAttribute('POSITION', by));
    node.getMesh()!.setWeights([0.5]);
    expect((await places(document))[2]).toBe(1);
    node.setWeights([0.25]);
    expect((await places(document))[2]).toBe(0.5);
  });
  test('the default scene alone is read, else the first', async () => {
    const { document, node } = triangle();
    const other = document.createNode().setMesh(node.getMesh()).setTranslation([7, 0, 0]);
    const second = document.createScene().addChild(other);
    expect((await places(document))[0]).toBe(0);
    document.getRoot().setDefaultScene(second);
    expect(await places(document)).toEqual([7, 0, 0, 8, 0, 0, 7, 1, 0]);
  });
  test('lights that are required do not matter; quantised and meshopt-compressed meshes are read', async () => {
    const { document, primitive, node } = triangle();
    const lights = document.createExtension(KHRLightsPunctual).setRequired(true);
    node.setExtension('KHR_lights_punctual', lights.createLight());
    expect(await places(document, new WebIO().registerExtensions([KHRLightsPunctual]))).toEqual([0, 0, 0, 1, 0, 0, 0, 1, 0]);
    document.createExtension(KHRMeshQuantization).setRequired(true);
    primitive
      .getAttribute('POSITION')!
      .setArray(Int16Array.of(0, 0, 0, 32767, 0, 0, 0, 32767, 0))
      .setNormalized(true);
    node.setScale([4, 4, 4]);
    const known = [KHRLightsPunctual, KHRMeshQuantization, EXTMeshoptCompression];
    expect(await places(document, new WebIO().registerExtensions(known))).toEqual([0, 0, 0, 4, 0, 0, 0, 4, 0]);
    await MeshoptEncoder.ready;
    document.createExtension(EXTMeshoptCompression).setRequired(true).setEncoderOptions({ method: EXTMeshoptCompression.EncoderMethod.QUANTIZE });
    const io = new WebIO().registerExtensions(known).registerDependencies({ 'meshopt.encoder': MeshoptEncoder, 'meshopt.decoder': MeshoptDecoder });
    expect(await places(document, io)).toEqual([0, 0, 0, 4, 0, 0, 0, 4, 0]);
  });
  test('what lies about itself is refused with its place', async () => {
    const { document } = triangle();
    const { json, resources } = await new WebIO().writeJSON(document);
    const [bytes] = Object.values(resources);
    const broken = async (change: (file: typeof json) => void): Promise<GeometrySet> => {
      const file = structuredClone(json);
      file.buffers![0].uri = `data:application/octet-stream;base64,${Buffer.from(bytes).toString('base64')}`;
      change(file);
      return readers['.gltf'](encode(JSON.stringify(file)));
    };
    await expect(broken(() => undefined)).resolves.toBeTruthy();
    await expect(broken((file) => (file.accessors![0].count = 9))).rejects.toThrow('/accessors/0: its 9 values end at byte');
    await expect(broken((file) => (file.meshes![0].primitives[0].mode = 9 as never))).rejects.toThrow(
      '/meshes/0/primitives/0/mode: it is 9; modes are 0 to 6.',
    );
    await expect(broken((file) => (file.meshes![0].primitives[0].attributes['POSITION'] = 5))).rejects.toThrow('"POSITION" names accessor 5; there are 1');
    await expect(broken((file) => (file.bufferViews![0].byteLength = 1e6))).rejects.toThrow('/bufferViews/0: it ends at byte 1000000');
    await expect(broken((file) => (file.accessors![0].componentType = 7 as never))).rejects.toThrow('which there are not');
    await expect(broken((file) => (file.extensionsRequired = ['KHR_draco_mesh_compression']))).rejects.toThrow('KHR_draco_mesh_compression, which is not read');
    const beside = { ...json, buffers: [{ ...json.buffers![0], uri: 'body%20parts.bin' }] };
    const found = await readers['.gltf'](encode(JSON.stringify(beside)), (name) => (name === 'body parts.bin' ? bytes : null));
    expect(found.mesh!.corners).toHaveLength(3);
  });
  test('values go out and come back: of points, corners and faces, colours, on curves and points', async () => {
    const { mesh } = await colouredTube();
    const vertices = mesh!.positions.length / 3;
    const faces = measure({ mesh: mesh! }).faces;
    const attributes = new Map(mesh!.attributes);
    attributes.set('flowRate', { carrier: 'corner', size: 1, data: Float32Array.from({ length: vertices }, (_, i) => i / 4) });
    attributes.set('colour', { carrier: 'corner', size: 3, data: new Float32Array(vertices * 3).fill(0.25) });
    attributes.set('batch', { carrier: 'face', size: 1, data: Float32Array.from({ length: faces }, (_, f) => f % 3) });
    const back = (await readers['.glb'](await writers['.glb']({ mesh: { ...mesh!, attributes } as Mesh }, 'x'))).mesh!;
    expect([...back.attributes.keys()].sort()).toEqual(['batch', 'colour', 'flowRate', 'material', 'normal', 'uv']);
    expect(new Set(back.attributes.get('batch')!.data)).toEqual(new Set([0, 1, 2]));
    expect(Math.max(...back.attributes.get('flowRate')!.data)).toBeCloseTo((vertices - 1) / 4, 5);
    expect(back.attributes.get('colour')!.data[0]).toBeCloseTo(0.25, 6);
    expect(measure({ mesh: back }).volume).toBeCloseTo(measure({ mesh: mesh! }).volume, 5);
  });
  test('each primitive has the vertices that it uses, open surfaces show their backs, and many curves are one draw', async () => {
    const positions = Float32Array.from({ length: 300 }, (_, i) => (i * 7919) % 101);
    const corners = Uint32Array.from({ length: 300 }, (_, i) => i % 100);
    const material = { name: 'a', colour: '#102030', roughness: 1, metalness: 0, opacity: 1, checker: false };
    const mesh = makeMesh({ positions, corners, uniform: 3, materials: [material, { ...material, name: 'b' }], attributes: new Map([['material', { carrier: 'face', size: 1, data: Float32Array.from({ length: 100 }, (_, f) => (f < 10 ? 0 : 1)) }]]) }); // prettier-ignore
    const document = await new WebIO().readBinary((await writers['.glb']({ mesh }, 'x')) as Uint8Array<ArrayBuffer>);
    const [first, second] = document.getRoot().listMeshes()[0].listPrimitives();
    expect(first.getAttribute('POSITION')!.getCount()).toBeLessThanOrEqual(30);
    expect(second.getAttribute('POSITION')!.getCount()).toBeLessThanOrEqual(100);
    expect(document.getRoot().listMaterials().map((each) => each.getDoubleSided())).toEqual([true, true]); // prettier-ignore
    const closed = await new WebIO().readBinary((await writers['.glb'](await colouredTube(), 'x')) as Uint8Array<ArrayBuffer>);
    expect(closed.getRoot().listMaterials()[0].getDoubleSided()).toBe(false);
    const many = await svg(Array.from({ length: 500 }, (_, i) => `<path d="M0 ${i}H5V${i + 1}${i % 2 ? 'Z' : ''}"/>`).join(''));
    const glb = await writers['.glb']({ curves: many }, 'x');
    expect((await new WebIO().readBinary(glb as Uint8Array<ArrayBuffer>)).getRoot().listMeshes()[0].listPrimitives()).toHaveLength(1);
    const back = (await readers['.glb'](glb)).curves!;
    expect([...back.closed]).toEqual([...many.closed]);
    expect(curveLengths(back)).toEqual(curveLengths(many));
  });
});

describe('JSON keeps all', () => {
  test('copies with their objects, materials, values and shared vertices come back as they were', async () => {
    const { mesh } = await colouredTube();
    const matrices = Float32Array.from([0, 5].flatMap((x) => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, 0, 0, 1]));
    const copies = makeCopies([mesh!], Uint32Array.of(0, 0), matrices, new Map([['id', { carrier: 'copy', size: 1, data: Float32Array.of(4, 2) }]]));
    const back = await readers['.json'](await writers['.json']({ mesh: mesh!, copies }, 'x'));
    expect(back.copies!.matrices).toEqual(matrices);
    expect([...back.copies!.attributes.get('id')!.data]).toEqual([4, 2]);
    for (const made of [back.mesh!, back.copies!.objects[0]]) {
      expect(made.materials).toEqual(mesh!.materials);
      expect(measure({ mesh: made })).toEqual(measure({ mesh: mesh! }));
      expect(made.positions.length).toBeLessThanOrEqual(mesh!.positions.length);
    }
    const plain = JSON.parse(text(await writers['.json']({ copies }, 'x'))) as { copies: { object: number[] } };
    plain.copies.object[1] = 7;
    await expect(readers['.json'](encode(JSON.stringify(plain)))).rejects.toThrow('/copies/object/1: 7 is none of the 1 objects');
  });
});

describe('quirks of the real world', () => {
  test('OBJ: continued lines, remarks behind, bare returns, Latin-1, groups as parts, normals, colours, negative indices', async () => {
    const obj =
      'mtllib é.mtl\rg left wing\rv 0 0 0 1 0 0 # red\rv 1 0 \\\r0 0 1 0\rv 0 1 0 0 0 1\rv 0 0 1 1 1 1\rvn 0 0 1\rf 1//1 2//1 3//1 # a face\rg right\rf -1//1 \\\r-2//1 -3//1\r';
    const { mesh } = await readImport(Uint8Array.from(obj, (sign) => sign.charCodeAt(0)));
    expect(measure({ mesh: mesh! })).toMatchObject({ faces: 2, vertices: 4 });
    expect([...mesh!.attributes.get('body')!.data]).toEqual([0, 1]);
    expect([...mesh!.attributes.get('colour')!.data.slice(0, 3)]).toEqual([1, 0, 0]);
    expect([...mesh!.attributes.get('normal')!.data.slice(0, 3)]).toEqual([0, 0, 1]);
    await expect(readImport(encode('v 0 0 0\nv 1 nan 0\n'))).rejects.toThrow('Line 2: "v 1 nan 0" needs 3 finite numbers.');
  });
  test('CSV: decimal commas, semicolons, spaces, tabs, remarks, sep=, units in headings; a column that only counts is asked about', async () => {
    const read = async (table: string): Promise<number[]> =>
      Array.from((await readImport(encode(table))).curves!.positions, (value) => Number(value.toFixed(4)));
    const wanted = [0, 0.5, 0, 1.25, 0, 2];
    for (const table of [
      'x;y;z\n0;0,5;0\n1,25;0;2\n',
      'sep=;\nx;y;z\n0;0,5;0\n1,25;0;2\n',
      '# made by hand\nX [cm],Y (mm),z\n0,500,0\n# between\n125,0,2\n',
      'x y z\n0 0.5 0\n1.25 0 2\n',
      'x\ty\tz\r\n0\t0,5\t0\r\n1,25\t0\t2\r\n',
      '0,0.5,0\n1.25,0,2\n',
      'id,Pos_X,Pos_Y,Pos_Z\n7,0,0.5,0\n8,1.25,0,2\n',
      '\uFEFFx,y,z\r0,0.5,0\r1.25,0,2',
    ])
      expect([table, await read(table)]).toEqual([table, wanted]);
    await expect(read('0,5,5,5\n1,6,6,6\n2,7,7,7\n')).rejects.toThrow('Line 1: the first column only numbers the rows');
    await expect(read('x [ells],y,z\n1,2,3\n')).rejects.toThrow('the unit "ells" is not known');
    await expect(read('# a\n\nx,y,z\n1,2,3\n4,inf,6\n')).rejects.toThrow('Line 5: y is "inf"');
  });
  test('CSV: columns of numbers are values of the points, and come back; columns of words are none', async () => {
    const { curves } = await readImport(encode('x,y,z,flow,lean.x,lean.y,curve,name\n0,0,0,1.5,1,2,a,post\n9,9,9,8,8,8,b,end\n1,0,0,2.5,3,4,a,post\n2,0,0,3,5,6,b,end\n'));
    expect([...curves!.attributes.keys()]).toEqual(['flow', 'lean']);
    expect([...curves!.attributes.get('flow')!.data]).toEqual([1.5, 2.5, 8, 3]);
    expect([...curves!.attributes.get('lean')!.data]).toEqual([1, 2, 3, 4, 8, 8, 5, 6]);
    const back = (await readers['.csv'](await writers['.csv']({ curves: curves! }, 'x'))).curves!;
    expect(back.attributes).toEqual(curves!.attributes);
  }); // prettier-ignore
  test('STL: capitals, long names, bytes behind the triangles', async () => {
    const facet = 'facet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\nendsolid\n';
    for (const file of [`SOLID X\n${facet.toUpperCase()}`, `solid ${'long '.repeat(400)}\n${facet}`, `  solid\r${facet.replace(/\n/g, '\r')}`])
      expect((await readImport(encode(file))).mesh!.corners).toHaveLength(3);
    const binary = await writers['.stl'](await colouredTube(), 'x');
    expect(measure(await readImport(Uint8Array.of(...binary, 1, 2, 3, 4, 5))).volume).toBeCloseTo(measure(await colouredTube()).volume, 5);
  });
  test('PLY: colours in bytes, values of its own, points alone', async () => {
    const ply = (body: string): string => `ply\nformat ascii 1.0\n${body}`;
    const { points } = await readImport(encode(ply('element vertex 2\nproperty float x\nproperty float y\nproperty float z\nproperty uchar red\nproperty uchar green\nproperty uchar blue\nproperty float quality\nproperty float way_0\nproperty float way_1\nend_header\n0 0 0 255 0 51 7 1 2\n1 1 1 0 0 0 8 3 4\n')));
    expect(Array.from(points!.attributes.get('colour')!.data.slice(0, 3), (value) => Number(value.toFixed(3)))).toEqual([1, 0, 0.2]);
    expect([...points!.attributes.get('quality')!.data]).toEqual([7, 8]);
    expect([...points!.attributes.get('way')!.data]).toEqual([1, 2, 3, 4]);
    const back = await readers['.ply'](await writers['.ply']({ points: points! }, 'x'));
    for (const name of ['colour', 'quality', 'way']) expect(back.points!.attributes.get(name)!.data).toEqual(points!.attributes.get(name)!.data);
  }); // prettier-ignore
  test('map coordinates in millions of metres keep their millimetres, and go back where they were', async () => {
    const track = 'x,y,z\n2600000.125,450.5,1199999.75\n2600001.375,450.625,1200000.25\n2600003.001,451,1200001.002\n';
    const { curves } = await readImport(encode(track));
    expect(Math.max(...curves!.positions.map(Math.abs))).toBeLessThan(3);
    const length = Math.hypot(1.25, 0.125, 0.5) + Math.hypot(1.626, 0.375, 0.752);
    expect(total(curves!)).toBeCloseTo(length, 5);
    const csv = text(await writers['.csv']({ curves: curves! }, 'x')).split('\r\n');
    expect(csv[1].startsWith('2600000.125,450.5,1199999.75')).toBe(true);
    expect(csv[3].startsWith('2600003.001,451,1200001.002')).toBe(true);
    const obj = text(await writers['.obj']({ curves: curves! }, 'x'));
    expect(obj).toContain('v 2600000.125 450.5 1199999.75\n');
    expect(total((await readImport(encode(obj))).curves!)).toBeCloseTo(length, 5);
    // What lies near is left where it is.
    expect((await readImport(encode('x,y,z\n100,2,3\n2000,5,6\n'))).curves!.positions[0]).toBe(100);
  });
  test('unit and up axis of what is written: sizes, and what the format says', async () => {
    const set = await colouredTube();
    const { bounds } = measure(set);
    const back = await readers['.obj'](await writers['.obj'](set, 'x', { up: 'z', unit: 'mm' }));
    const made = measure({ mesh: back.mesh! });
    expect(made.bounds!.max[2]).toBeCloseTo(bounds!.max[1] * 1000, 2);
    expect(made.bounds!.min[1]).toBeCloseTo(-bounds!.max[2] * 1000, 2);
    expect(made.volume).toBeCloseTo(measure(set).volume * 1e9, -4);
    expect(text(await writers['.usda'](set, 'x', { up: 'z', unit: 'cm' }))).toContain('metersPerUnit = 0.01\n    upAxis = "Z"');
  });
});

describe('what does not hang together is refused with its place', () => {
  const mesh = (more: object): string =>
    JSON.stringify({ mesh: { positions: [0, 0, 0, 1, 0, 0, 0, 1, 0], corners: [0, 1, 2], faceStarts: [0, 3], attributes: {}, ...more } });
  const refused = async (text: string, message: string): Promise<void> => {
    await expect(readers['.json'](encode(text))).rejects.toThrow(message);
  };
  test('values that are too many, of nothing, or no numbers; faces of one corner; starts that lie', async () => {
    await refused(mesh({ attributes: { heat: { carrier: 'face', size: 1, data: [1, 2] } } }), '/mesh/attributes/heat: 1 of 1 numbers each are needed; there are 2.');
    await refused(mesh({ attributes: { heat: { carrier: 'moon', size: 1, data: [1] } } }), '/mesh/attributes/heat: values are of corner, face, whole; these are of "moon".');
    await refused(mesh({ attributes: { heat: { carrier: 'face', size: 1e9, data: [1] } } }), '/mesh/attributes/heat: a value has 1 to 16 numbers');
    await refused(mesh({ attributes: { heat: { carrier: 'face', size: 1, data: [1e300] } } }), '/mesh/attributes/heat: value 0 is Infinity; values must be finite numbers.');
    await refused(mesh({ faceStarts: [0, 1, 3] }), '/mesh/faceStarts: face 0 has 1 points; 3 or more are needed.');
    await refused(mesh({ faceStarts: [0, 1_000_000_000] }), '/mesh/faceStarts: it has to begin with 0 and to end with 3.');
    await refused(mesh({ faceStarts: [0, 3, 0, 3] }), '/mesh/faceStarts: face 1 has');
    const copies = { objects: [JSON.parse(mesh({}))], object: [0], matrices: [1e300, ...new Array<number>(15).fill(0)] };
    await refused(JSON.stringify({ copies }), '/copies/matrices/0: a number of copy 0 is Infinity');
    await expect(readers['.ply'](encode('ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n0 1 0\n1 0\n'))).rejects.toThrow('face 0 has 1 points');
  }); // prettier-ignore
  test('archives are bounded by what they unpack to, whatever they say of themselves', () => {
    const document = strToU8('{"format":"filaxis-graph","version":1,"title":"x","nodes":[],"wires":[]}');
    const bomb = zipSync({ 'document.json': document, [`assets/${'a'.repeat(64)}`]: new Uint8Array(65 * 1024 * 1024) });
    expect(bomb.length).toBeLessThan(200_000);
    expect(() => unpackDocument(bomb)).toThrow('unpacks to more than 67108864 bytes');
    // The size that is written in it is a lie: nothing is made by that.
    const lying = zipSync({ 'document.json': document });
    const at = lying.findIndex((_, i) => lying[i] === 0x50 && lying[i + 1] === 0x4b && lying[i + 2] === 1 && lying[i + 3] === 2);
    new DataView(lying.buffer, lying.byteOffset).setUint32(at + 24, 0x7fffffff, true);
    expect(unpackDocument(lying).document.title).toBe('x');
    const many = Object.fromEntries(Array.from({ length: 5 }, (_, i) => [`assets/${String(i).repeat(64)}`, new Uint8Array(60 * 1024 * 1024)]));
    expect(() => unpackDocument(zipSync({ 'document.json': document, ...many }))).toThrow('The archive unpacks to more than 268435456 bytes.');
    expect(() => unpackDocument(lying.subarray(0, lying.length - 30))).toThrow('The archive cannot be read: its end is missing.');
  }); // prettier-ignore
});
