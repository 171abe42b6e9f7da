import { WebIO } from '@gltf-transform/core';
import { describe, expect, test } from 'vitest';
import { type Curves, curveCount, curveLengths, curvesFromLists, type GeometrySet, measure } from '@filaxis/core';
import { validateBytes } from 'gltf-validator';
import { packDocument, readImport, readers, standUp, unpackDocument, writers } from '../src/index.js';
import { csvHeading, readCsvCurves } from '../src/csv.js';
import { readSvgCurves } from '../src/svg/read.js';
import { colouredTube } from './shapes.js';

const encode = (text: string): Uint8Array => new TextEncoder().encode(text);
const curves = { curves: curvesFromLists([[[0, 0, 0], [1, 0, 0], [1, 1, 0]], [[0, 2, 0], [3, 2, 0], [3, 3, 1]]], { closed: [false, true] }) }; // prettier-ignore

describe('GLB', () => {
  test('is valid by the Khronos validator, with the material as glTF values (glTF 2.0: base colour is linear)', async () => {
    const bytes = await writers['.glb'](await colouredTube(), 'bollard');
    const { issues } = await validateBytes(bytes);
    expect(issues.numErrors + issues.numWarnings).toBe(0);
    const [material] = (await new WebIO().readBinary(bytes as Uint8Array<ArrayBuffer>)).getRoot().listMaterials();
    expect(material.getName()).toBe('iron');
    // sRGB 128 is 0.2158605 linear (IEC 61966-2-1).
    expect(material.getBaseColorFactor()[0]).toBeCloseTo(0.2158605, 5);
    expect([material.getRoughnessFactor(), material.getMetallicFactor(), material.getAlphaMode()]).toEqual([0.25, 1, 'BLEND']);
  });

  test('reads back with the same volume and UVs; curves come back as lines', async () => {
    const set = { ...(await colouredTube()), ...curves };
    const back = await readers['.glb'](await writers['.glb'](set, 'bollard'));
    expect(measure({ mesh: back.mesh! }).volume).toBeCloseTo(measure({ mesh: set.mesh! }).volume, 6);
    expect([...back.mesh!.attributes.get('uv')!.data].slice(0, 6).map((value) => value.toFixed(5))).toEqual(
      [...set.mesh!.attributes.get('uv')!.data].slice(0, 6).map((value) => value.toFixed(5)),
    );
    expect(curveCount(back.curves!)).toBe(2);
    expect(curveLengths(back.curves!)[0]).toBeCloseTo(2, 6);
  });

  test('the same result gives the same bytes', async () => {
    expect(await writers['.glb'](await colouredTube(), 'a')).toEqual(await writers['.glb'](await colouredTube(), 'a'));
  });

  test('bytes that are no GLB, or are cut short, are refused with their place', async () => {
    await expect(readers['.glb'](encode('solid nothing of the kind'))).rejects.toThrow('Byte 0: this is not a binary glTF file');
    const bytes = await writers['.glb'](await colouredTube(), 'a');
    await expect(readers['.glb'](bytes.slice(0, 400))).rejects.toThrow(/^Byte 8: the file says it has \d+ bytes, but it has 400\.$/);
  });

  test('an empty result is refused', async () => {});
});

describe('OBJ', () => {
  test('has every point once, polygons whole, UVs and normals by vertex, and reads back the same', async () => {
    const set = await colouredTube();
    const text = new TextDecoder().decode(await writers['.obj'](set, 'iron bollard'));
    const count = (word: string): number => text.split('\n').filter((line) => line.startsWith(`${word} `)).length;
    expect({ v: count('v'), f: count('f') }).toEqual({ v: 32, f: 26 });
    const back = await readers['.obj'](encode(text));
    const [before, after] = [measure({ mesh: set.mesh! }), measure({ mesh: back.mesh! })];
    expect(after.volume).toBeCloseTo(before.volume, 6);
    expect(after.euler).toBe(2);
    expect(after.uv!.max).toEqual(before.uv!.max);
  });

  test('curves as l lines, closed ones back to their first point', async () => {
    const back = await readers['.obj'](await writers['.obj'](curves, 'rails'));
    expect([...back.curves!.closed]).toEqual([0, 1]);
    expect([...curveLengths(back.curves!)]).toEqual([...curveLengths(curves.curves)]);
  });

  test('what cannot be read is told with its line; negative indices count from the end', async () => {
    await expect(readers['.obj'](encode('v 0 0 0\nv 1 0\n'))).rejects.toThrow('Line 2: "v 1 0" needs 3 finite numbers.');
    await expect(readers['.obj'](encode('v 0 0 0\nv 1 0 0\nv 1 1 0\nf 1 2 9\n'))).rejects.toThrow('Line 4: index 9 is not among the 3 read so far.');
    const { mesh } = await readers['.obj'](encode('v 0 0 0\nv 1 0 0\nv 1 1 0\nf -3 -2 -1\n'));
    expect(measure({ mesh: mesh! }).area).toBeCloseTo(0.5, 9);
  });
});

describe('JSON', () => {
  test('is the plain form: distinct points, corner attributes for every corner; and reads back', async () => {
    const set = { ...(await colouredTube()), ...curves };
    const text = new TextDecoder().decode(await writers['.json'](set, 'x'));
    const plain = JSON.parse(text) as {
      mesh: { positions: number[]; corners: number[]; faceStarts: number[]; attributes: Record<string, { carrier: string; data: number[] }> };
      curves: { starts: number[]; kind: string[] };
    };
    expect(plain.mesh.positions.length / 3).toBe(32);
    expect(plain.mesh.attributes['uv'].carrier).toBe('corner');
    expect(plain.mesh.attributes['uv'].data.length).toBe(plain.mesh.corners.length * 2);
    expect(plain.mesh.faceStarts[plain.mesh.faceStarts.length - 1]).toBe(plain.mesh.corners.length);
    expect(plain.curves).toMatchObject({ starts: [0, 3, 6], kind: ['straight', 'straight'] });
    const back = await readers['.json'](encode(text));
    expect(measure(back)).toMatchObject({ euler: 2, curves: 2, boundaryEdges: 0 });
  });

  test('what cannot be read is told with its pointer', async () => {
    await expect(readers['.json'](encode('{"mesh":{"positions":[0,0,0],"corners":[0,0,7],"faceStarts":[0,3]}}'))).rejects.toThrow(
      '/mesh/corners/2: 7 is none of the 1 points.',
    );
    await expect(readers['.json'](encode('{"curves":{"positions":[0,null,0],"starts":[0,1]}}'))).rejects.toThrow(
      '/curves/positions/1: null is not a finite number.',
    );
  });
});

describe('CSV', () => {
  test('names with commas, quotes or breaks are in quotes (RFC 4180, 2.6 and 2.7)', () => {
    expect(csvHeading(['x', 'wear, dry', 'the "end"', 'a\nb'])).toBe('x,"wear, dry","the ""end""","a\nb"\r\n');
  });

  const read = readCsvCurves;

  test('columns by name, several curves, closed ones', () => {
    const made = read('curve,x,z,y,closed\nrail,0,1,2,0\nbuoy,5,0,0,1\nrail,1,1,2,0\nbuoy,6,0,0,1\nbuoy,6,0,1,1\n');
    expect([...made.starts]).toEqual([0, 2, 5]);
    expect([...made.closed]).toEqual([0, 1]);
    expect([...made.positions.subarray(0, 6)]).toEqual([0, 2, 1, 1, 2, 1]);
  });

  test('without a heading; two columns lie in the plane; quotes by RFC 4180', () => {
    expect([...read('0,0\n"1",2\n').positions]).toEqual([0, 0, 0, 1, 2, 0]);
  });

  test('what cannot be read is told with its line', async () => {
    expect(() => read('x,y,z\n0,0,0\n1,,3\n')).toThrow('Line 3: y is ""; it must be a finite number.');
    expect(() => read('a,b\n1,2\n')).toThrow('Line 1: the table has columns a, b; it needs x and y.');
    expect(() => read('  \n')).toThrow('The table is empty.');
    await expect(readImport(Uint8Array.of(0x31, 0xff, 0xfe, 0x2c))).rejects.toThrow('it needs x and y');
  });
});

describe('SVG (W3C SVG 2, paths)', () => {
  const read = (body: string): Curves => readSvgCurves(`<svg xmlns="http://www.w3.org/2000/svg">${body}</svg>`);

  test('absolute and relative commands give the same path of length 140, y turned up', () => {
    for (const d of ['M 0 0 L 30 0 V 40 H 0 Z', 'm0 0h30v40h-30z']) {
      const made = read(`<path d="${d}"/>`);
      expect(curveLengths(made)[0]).toBeCloseTo(140, 6);
      expect([...made.closed]).toEqual([1]);
      expect([...made.positions.subarray(6, 8)]).toEqual([30, -40]);
    }
  });

  test('arcs and shapes have their true length: a circle within 3e-4 (cubic arcs), a rounded rectangle', () => {
    expect(curveLengths(read('<circle cx="1" cy="2" r="10"/>'))[0] / (20 * Math.PI)).toBeCloseTo(1, 3);
    expect(curveLengths(read('<rect width="10" height="6" rx="2"/>'))[0]).toBeCloseTo(2 * (6 + 2) + 4 * Math.PI, 2);
    expect(curveLengths(read('<polygon points="0,0 3,0 3,4"/>'))[0]).toBeCloseTo(12, 6);
  });

  test('transforms of groups and elements are applied, inner first', () => {
    const made = read('<g transform="translate(10 0)"><g transform="scale(2)"><path d="M1 1L2 1" transform="translate(1 0)"/></g></g>');
    expect([...made.positions]).toEqual([14, -2, 0, 16, -2, 0]);
  });

  test.each([
    ['', [50, 0], [150, -100]],
    ['xMinYMin', [0, 0], [100, -100]],
    ['xMidYMid meet', [50, 0], [150, -100]],
    ['xMaxYMax', [100, 0], [200, -100]],
    ['xMidYMin slice', [0, 0], [200, -200]],
    ['xMinYMid slice', [0, 50], [200, -150]],
    ['xMaxYMax slice', [0, 100], [200, -100]],
    ['none', [0, 0], [200, -100]],
  ])('a view box is fitted as preserveAspectRatio="%s" says (SVG 2, 8.6)', (aspect, from, to) => {
    // A square of 100 in a viewport of 200 by 100.
    const made = read(`<svg width="200" height="100" viewBox="10 20 100 100" ${aspect && `preserveAspectRatio="${aspect}"`}><path d="M10 20L110 120"/></svg>`);
    expect([...made.positions].map((value) => value + 0)).toEqual([...from, 0, ...to, 0]);
  });

  test('what is written is seen whole, with a fiftieth of room around it, in lines a five hundredth of it wide', async () => {
    const looked = async (set: GeometrySet): Promise<string[]> =>
      /viewBox="(.*?)".*stroke-width="(.*?)"/.exec(new TextDecoder().decode(await writers['.svg'](set, 'x')))!.slice(1);
    // Plans are drawn with x to the right and z down, elevations with y up.
    expect(await looked({ curves: curvesFromLists([[[10, 0, 5], [30, 0, 15]]]) })).toEqual(['9.6 4.6 20.8 10.8', '0.04']); // prettier-ignore
    expect(await looked({ curves: curvesFromLists([[[10, 5, 0], [30, 15, 0]]]) })).toEqual(['9.6 -15.4 20.8 10.8', '0.04']); // prettier-ignore
  });

  test('several subpaths are several curves; definitions are not drawn', () => {
    expect(curveCount(read('<defs><path d="M0 0L9 9"/></defs><path d="M0 0L1 0M2 0C3 0 3 1 4 1"/>'))).toBe(2);
  });

  test('what cannot be read is told with its place', async () => {
    await expect(readImport(encode('<svg>\n<g>\n</svg>'))).rejects.toThrow(/^Line \d: /);
    expect(() => read('<path id="jib" d="M0 0 L1 x"/>')).toThrow(/^<path id="jib"> 1: /);
    expect(() => read('<text>hello</text>')).toThrow('The drawing has no path, line or shape that is drawn.');
    await expect(readImport(encode('<html></html>'))).rejects.toThrow('Line 1: there is no svg element.');
  });

  test('entities are not expanded', () => {
    const bomb = '<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;">]><svg><path d="M0 0L1 1"/><title>&b;</title></svg>';
    expect(curveCount(readSvgCurves(bomb))).toBe(1);
  });
});

describe('document files', () => {
  const document = { format: 'filaxis-graph', version: 1, edition: 3, title: 'Packed', nodes: [], wires: [] } as const;

  test('a document and its imported files go into one archive and come out', () => {
    const hash = 'ab'.repeat(32);
    const packed = packDocument({ document, assets: new Map([[hash, encode('x,y\n0,0\n1,1\n')]]) });
    const { document: back, assets } = unpackDocument(packed);
    expect(back).toEqual(document);
    expect(new TextDecoder().decode(assets.get(hash))).toBe('x,y\n0,0\n1,1\n');
    expect(packDocument({ document, assets })).toEqual(packed);
  });

  test('plain JSON is a document file too; broken archives are refused', () => {
    expect(unpackDocument(encode(JSON.stringify(document))).document).toEqual(document);
    expect(() => unpackDocument(Uint8Array.of(0x50, 0x4b, 3, 4, 9, 9, 9, 9))).toThrow('The archive cannot be read');
  });
});

test('standing a result up turns Z into Y', () => {
  const { curves: stood } = standUp({ curves: curvesFromLists([[[0, 0, 0], [1, 2, 3]]]) }); // prettier-ignore
  expect([...stood!.positions.subarray(3)].map((value) => Math.round(value * 1e5) / 1e5)).toEqual([1, 3, -2]);
});
