import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { copyFileSync, existsSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, symlinkSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { resolve } from 'node:path';
import { buildSync } from 'esbuild';
import { validateBytes } from 'gltf-validator';
import { unzipSync } from 'fflate';
import { describe, expect, test } from 'vitest';
import { nodeDefinitions } from '@filaxis/core';

const folder = mkdtempSync(resolve(tmpdir(), 'filaxis-cli-'));
const demo = resolve(import.meta.dirname, '../../../demo/documents');
const file = (name: string): string => resolve(folder, name);

// Bundled once, so that a hundred starts do not each compile the sources; the program that people start is tried by itself below.
buildSync({
  entryPoints: [resolve(import.meta.dirname, '../src/main.ts')],
  outfile: resolve(folder, 'bin/main.mjs'),
  bundle: true,
  platform: 'node',
  format: 'esm',
  logLevel: 'error',
});
// What it loads when it is used lies beside it, as in its own package.
copyFileSync(createRequire(import.meta.url).resolve('manifold-3d/manifold.wasm'), resolve(folder, 'bin/manifold.wasm'));

/** Runs the command line as a build pipeline would. */
function filaxis(args: readonly string[], input?: string, program = resolve(folder, 'bin/main.mjs')): { code: number | null; out: string; errors: string } {
  const { status, stdout, stderr } = spawnSync(process.execPath, [program, ...args], {
    encoding: 'utf8',
    input,
    cwd: folder,
  });
  return { code: status, out: stdout, errors: stderr };
}

/** The rope of the contract: 6 m between its ends, 0.4 m sag, tapering from 30 to 20 mm. */
const mooring = {
  format: 'filaxis-graph',
  version: 1,
  title: 'Mooring rope',
  dials: [{ id: 'sag', label: 'Sag', kind: 'number', value: 0.4, min: 0, max: 2, step: 0.01, unit: 'm' }],
  nodes: [
    { id: 'a', type: 'lay.line', at: [0, 0], settings: { from: [0, 2, 0], to: [6, 2, 0], points: 2 } },
    { id: 'b', type: 'shape.hang', at: [220, 0], settings: { by: 'sag', value: { dial: 'sag' }, points: 48 } },
    { id: 'c', type: 'skin.tube', at: [440, 0], settings: { radius: { ramp: [[0, 0.03], [1, 0.02]] }, sides: 12, caps: 'flat' } }, // prettier-ignore
    { id: 'out', type: 'flow.output', at: [660, 0], settings: { name: 'rope' } },
  ],
  wires: [
    { from: ['a', 'curves'], to: ['b', 'curves'] },
    { from: ['b', 'curves'], to: ['c', 'curves'] },
    { from: ['c', 'mesh'], to: ['out', 'any'] },
  ],
  areas: [],
  notes: [],
  view: {},
};
writeFileSync(file('mooring.json'), JSON.stringify(mooring));

test('a fault elsewhere in the document does not stop a result, but is said: exit 1', () => {
  const document = {
    ...mooring,
    nodes: [...mooring.nodes, { id: 'p', type: 'shape.smooth' }, { id: 'q', type: 'shape.smooth' }],
    wires: [...mooring.wires, { from: ['p', 'any'], to: ['q', 'any'] }, { from: ['q', 'any'], to: ['p', 'any'] }],
  };
  writeFileSync(file('circle.json'), JSON.stringify(document));
  const { code, errors } = filaxis(['run', 'circle.json', '--out', 'circle.glb']);
  expect([code, errors]).toEqual([1, expect.stringContaining('elsewhere in the document: /wires: The wires go round in a circle')]);
  expect(existsSync(file('circle.glb'))).toBe(true);
});

describe('filaxis run', () => {
  test('writes a valid GLB, and a report with the figures of the result', async () => {
    const { code, errors } = filaxis(['run', 'mooring.json', '--out', 'rope.glb', '--report', 'report.json']);
    expect({ code, errors }).toEqual({ code: 0, errors: '' });
    const { issues } = await validateBytes(new Uint8Array(readFileSync(file('rope.glb'))));
    expect(issues.numErrors + issues.numWarnings).toBe(0);
    const report = JSON.parse(readFileSync(file('report.json'), 'utf8'));
    // Counts as in the contract: 48 rings of 12, 47 bands and two caps.
    expect(report).toMatchObject({
      title: 'Mooring rope',
      ok: true,
      nodes: { c: { type: 'skin.tube', in: { curves: 1, points: 48 }, out: { vertices: 576, faces: 566 }, warnings: [] } },
    });
    expect(report.outputs.rope).toMatchObject({
      vertices: 576,
      faces: 566,
      triangles: 1148,
      parts: 1,
      boundaryEdges: 0,
      nonManifoldEdges: 0,
      euler: 2,
      degenerateFaces: 0,
      materials: 1,
    });
    expect(report.outputs.rope.bounds.min[1]).toBeCloseTo(2 - 0.4 - 0.025, 3);
  });

  test('dials are set, and refused out of their range', () => {
    expect(filaxis(['run', 'mooring.json', '--dial', 'sag=1.5', '--out', 'deep.json', '--report', 'deep-report.json']).code).toBe(0);
    expect(JSON.parse(readFileSync(file('deep-report.json'), 'utf8')).outputs.rope.bounds.min[1]).toBeCloseTo(0.475, 2);
    expect(filaxis(['run', 'mooring.json', '--dial', 'sag=9', '--out', 'x.glb'])).toEqual({
      code: 2,
      out: '',
      errors: 'filaxis: /nodes/1/settings/value/dial: Dial "sag" is 9; it accepts numbers from 0 to 2 m.\n',
    });
    expect(filaxis(['run', 'mooring.json', '--dial', 'slack=1', '--out', 'x.glb']).errors).toBe('filaxis: There is no dial "slack"; there are "sag".\n');
  });

  test('one node’s own result, from standard input, as JSON', () => {
    const { code } = filaxis(['run', '-', '--node', 'b', '--out', 'hung.json'], JSON.stringify(mooring));
    expect(code).toBe(0);
    const { curves } = JSON.parse(readFileSync(file('hung.json'), 'utf8'));
    expect(curves.starts).toEqual([0, 48]);
    expect(curves.positions.slice(0, 3)).toEqual([0, 2, 0]);
    expect(curves.attributes.tangent).toMatchObject({ carrier: 'point', size: 3 });
  });

  test('the same document gives the same bytes', () => {
    for (const out of ['one.glb', 'two.glb']) expect(filaxis(['run', resolve(demo, 'quay-rail-ropes.json'), '--out', out]).code).toBe(0);
    expect(readFileSync(file('one.glb')).equals(readFileSync(file('two.glb')))).toBe(true);
  });

  test('an imported file beside the document', () => {
    writeFileSync(file('rail.csv'), 'x,y,z\n0,0,0\n1,0,0\n1,1,0\n');
    const document = { ...mooring, dials: [], nodes: [{ id: 'a', type: 'lay.importCurves', settings: { asset: 'rail.csv', scale: 2 } }, mooring.nodes[3]], wires: [{ from: ['a', 'curves'], to: ['out', 'any'] }] }; // prettier-ignore
    writeFileSync(file('rail.json'), JSON.stringify(document));
    expect(filaxis(['run', 'rail.json', '--out', 'rail-out.json', '--report', 'rail-report.json']).code).toBe(0);
    expect(JSON.parse(readFileSync(file('rail-report.json'), 'utf8')).outputs.rope).toMatchObject({ curves: 1, points: 3, length: 4 });
  });

  test('files outside of the folder of a document are read only when that is allowed, links and special files too', () => {
    mkdirSync(file('inner'), { recursive: true });
    const naming = (asset: string): string => JSON.stringify({ ...mooring, dials: [], nodes: [{ id: 'a', type: 'lay.importCurves', settings: { asset } }, mooring.nodes[3]], wires: [{ from: ['a', 'curves'], to: ['out', 'any'] }] }); // prettier-ignore
    writeFileSync(file('rail.csv'), 'x,y,z\n0,0,0\n1,0,0\n');
    symlinkSync(file('rail.csv'), file('inner/link.csv'));
    for (const asset of ['../rail.csv', file('rail.csv'), 'link.csv']) {
      writeFileSync(file('inner/doc.json'), naming(asset));
      const refused = filaxis(['run', 'inner/doc.json', '--out', 'x.json']);
      expect([asset, refused.code, refused.errors]).toEqual([
        asset,
        2,
        expect.stringMatching(/^filaxis: a: its file .* lies outside of the document's folder\. Give --outside/),
      ]);
      expect(filaxis(['run', 'inner/doc.json', '--outside', '--out', 'x.json'])).toMatchObject({ code: 0, errors: '' });
    }
    writeFileSync(file('inner/doc.json'), naming('/dev/zero'));
    expect(filaxis(['run', 'inner/doc.json', '--outside', '--out', 'x.json']).errors).toBe('filaxis: a: /dev/zero is no plain file.\n');
  });

  test('an imported body beside the document, with a rope where a plane cuts it', () => {
    expect(filaxis(['run', resolve(demo, 'bollard-lashing.json'), '--node', 'raised', '--out', 'trunk.stl']).code).toBe(0);
    const nodes = [
      { id: 'trunk', type: 'lay.importMesh', settings: { asset: 'trunk.stl' } },
      { id: 'plane', type: 'lay.grid' },
      { id: 'up', type: 'shape.transform', settings: { move: [0, 0.7, 0] } },
      { id: 'cut', type: 'mesh.section', settings: { offset: 0.02 } },
      { id: 'out', type: 'flow.output' },
    ];
    const wires = ['plane.mesh up.any', 'up.any cut.planes', 'trunk.mesh cut.mesh', 'cut.curves out.any'].map((wire) => {
      const [from, to] = wire.split(' ').map((end) => end.split('.'));
      return { from, to };
    });
    writeFileSync(file('lashed.json'), JSON.stringify({ format: 'filaxis-graph', version: 1, title: 'Lashed', nodes, wires }));
    expect(filaxis(['run', 'lashed.json', '--out', 'lashed-out.json', '--report', 'lashed-report.json']).code).toBe(0);
    const { curves, length } = JSON.parse(readFileSync(file('lashed-report.json'), 'utf8')).outputs.main;
    // A little more round than the trunk, which is 0.19 m at its foot and 0.15 m at its top.
    expect([curves, length > 2 * Math.PI * 0.18, length < 2 * Math.PI * 0.21]).toEqual([1, true, true]);
  });

  test('plain refusals: no file, unknown format, unknown output, an output file that is not named', () => {
    expect(filaxis(['run', 'nowhere.json', '--out', 'x.glb']).errors).toBe('filaxis: nowhere.json cannot be read: there is no such file.\n');
    expect(filaxis(['run', 'mooring.json', '--out', 'x.fbx']).errors).toBe(
      'filaxis: x.fbx: results can be written as .glb, .gltf, .obj, .stl, .ply, .usda, .svg, .csv, .json.\n',
    );
    expect(filaxis(['run', 'mooring.json', '--output', 'net', '--out', 'x.glb']).errors).toBe('filaxis: There is no output "net"; there are "rope".\n');
    expect(filaxis(['run', 'mooring.json'])).toMatchObject({
      code: 2,
      errors: 'filaxis: Say where to write with --out FILE (.glb, .gltf, .obj, .stl, .ply, .usda, .svg, .csv, .json).\n',
    });
  });
});

describe('filaxis run, besides', () => {
  const chain = (...steps: [string, object, string, string][]): string => {
    const nodes = steps.map(([type, settings], i) => ({ id: `n${i}`, type, settings }));
    const wires = steps.slice(1).map(([, , from, to], i) => ({ from: [`n${i}`, from], to: [`n${i + 1}`, to] }));
    return JSON.stringify({ format: 'filaxis-graph', version: 1, title: 'Chain', nodes, wires });
  };
  const output: [string, object, string, string] = ['flow.output', {}, 'curves', 'any'];

  test('the report has every figure of the contract, for every output, and every node its counts and time', () => {
    filaxis(['run', resolve(demo, 'mooring-chain.json'), '--out', 'chain.glb', '--report', 'chain.json']);
    const report = JSON.parse(readFileSync(file('chain.json'), 'utf8'));
    const figures = ['area', 'boundaryEdges', 'bounds', 'copies', 'curves', 'degenerateFaces', 'euler', 'faces', 'length', 'materials', 'nonManifoldEdges', 'parts', 'points', 'triangles', 'uv', 'vertices', 'volume']; // prettier-ignore
    for (const measures of Object.values<Record<string, unknown>>(report.outputs)) {
      expect(Object.keys(measures).filter((name) => name !== 'expanded').sort()).toEqual(figures); // prettier-ignore
      expect(Object.keys(measures['expanded'] as object).sort()).toEqual(figures);
      expect((measures['expanded'] as { faces: number }).faces).toBeGreaterThan(measures['faces'] as number);
    }
    for (const node of Object.values<Record<string, unknown>>(report.nodes))
      expect(node).toMatchObject({ type: expect.any(String), ms: expect.any(Number), bytes: expect.any(Number), in: expect.any(Object), out: expect.any(Object), warnings: expect.any(Array) }); // prettier-ignore
  });

  test('parts, UV set, colour and welded points are chosen by options', () => {
    const tube = chain(['lay.line', {}, '', ''], ['skin.tube', { caps: 'flat' }, 'curves', 'curves'], ['flow.output', {}, 'mesh', 'any']);
    expect(filaxis(['run', '-', '--out', 'parts.obj', '--parts'], tube)).toMatchObject({ code: 0, errors: '' });
    expect(readFileSync(file('parts.obj'), 'utf8').match(/^g Tube_part_\d$/gm)).toHaveLength(3);
    expect(filaxis(['run', '-', '--out', 'welded.ply', '--welded'], tube)).toMatchObject({ code: 0, errors: '' });
    expect(filaxis(['run', '-', '--out', 'welded.glb', '--colour', 'part'], tube)).toMatchObject({ code: 0, errors: '' });
    expect(readFileSync(file('welded.ply'), 'utf8')).toContain('property list uchar float texcoord');
    const refused = filaxis(['run', '-', '--out', 'x.glb', '--uv', 'paint'], tube);
    expect(refused).toMatchObject({ code: 2, errors: 'filaxis: The result has no UV set "paint"; it has uv.\n' });
    expect(existsSync(file('x.glb.part'))).toBe(false);
  });

  test('several outputs go into one file, each under its name; one object is asked for by --joined', () => {
    const node = (id: string, type: string, more: object = {}): object => ({ id, type, ...more });
    const two = JSON.stringify({
      format: 'filaxis-graph',
      version: 1,
      title: 'Landing',
      nodes: [
        node('line', 'lay.line'),
        node('tube', 'skin.tube', { name: 'Hand rail' }),
        node('post', 'lay.box'),
        node('near', 'flow.output', { settings: { name: 'near' } }),
        node('main', 'flow.output'),
      ],
      wires: [
        { from: ['line', 'curves'], to: ['tube', 'curves'] },
        { from: ['tube', 'mesh'], to: ['near', 'any'] },
        { from: ['post', 'mesh'], to: ['main', 'any'] },
        { from: ['tube', 'mesh'], to: ['main', 'any'] },
      ],
    });
    const objects = (...how: string[]): string[] => {
      expect(filaxis(['run', '-', '--out', 'two.obj', ...how], two)).toMatchObject({ code: 0, errors: '' });
      return readFileSync(file('two.obj'), 'utf8').match(/^o .*$/gm)!;
    };
    expect(objects()).toEqual(['o Box', 'o Hand_rail']);
    expect(objects('--output', 'near')).toEqual(['o near']);
    expect(objects('--outputs')).toEqual(['o near', 'o Box', 'o Hand_rail']);
    expect(objects('--node', 'tube', '--node', 'post')).toEqual(['o Hand_rail', 'o Box']);
    expect(objects('--outputs', '--joined')).toEqual(['o Landing']);
    expect(filaxis(['run', '-', '--out', 'two.obj', '--outputs', '--node', 'tube'], two).code).toBe(2);
    const none = JSON.stringify({ format: 'filaxis-graph', version: 1, title: 'None', nodes: [node('line', 'lay.line')], wires: [] });
    expect(filaxis(['run', '-', '--out', 'two.obj', '--outputs'], none)).toMatchObject({ code: 2, errors: expect.stringContaining('no Output node') });
  });

  test('what depends on time is asked for at a time', () => {
    const timed = chain(['lay.helix', { radius: { formula: '1 + time' }, turns: 1, height: 0.5 }, '', ''], output);
    const widest = (time: string[]): number => {
      expect(filaxis(['run', '-', ...time, '--out', 'timed.json'], timed)).toMatchObject({ code: 0, errors: '' });
      const { curves } = JSON.parse(readFileSync(file('timed.json'), 'utf8'));
      return Math.max(...curves.positions);
    };
    expect([widest([]), widest(['--time', '2.5'])]).toEqual([1, 3.5]);
    expect(filaxis(['run', '-', '--time', 'noon', '--out', 'timed.json'], timed).errors).toBe('filaxis: --time is "noon"; it must be a number of seconds.\n');
  });

  test('a range of frames is an archive with a file for each, and a list; a moment with nothing is an empty file with a warning', () => {
    const line = ['lay.line', { to: [4, 0, 0] }, '', ''] as const;
    const growing = chain([...line], ['grow.reveal', { seconds: 2, soft: 0 }, 'curves', 'any'], ['flow.output', {}, 'any', 'any']);
    expect(filaxis(['run', '-', '--frames', '0..3', '--each', '.json', '--out', 'growing.zip', '--report', 'frames-report.json'], growing)).toMatchObject({
      code: 1,
      errors: expect.stringMatching(/^warning: frame 0: n2: .*\(and 1 more\)\n$/),
    });
    const report = JSON.parse(readFileSync(file('frames-report.json'), 'utf8')) as {
      frames: { frame: number; seconds: number; outputs: { main: { length: number } } }[];
    };
    expect(report.frames.map(({ frame, outputs }) => [frame, outputs.main.length])).toEqual([
      [0, 0],
      ...[1, 2, 3].map((k) => [k, expect.closeTo((4 * k) / 48, 5)]),
    ]);
    const files = unzipSync(readFileSync(file('growing.zip')));
    expect(Object.keys(files)).toEqual(['growing.0000.json', 'growing.0001.json', 'growing.0002.json', 'growing.0003.json', 'frames.json']);
    const text = (name: string) => JSON.parse(new TextDecoder().decode(files[name]));
    expect(text('frames.json')).toMatchObject({
      rate: 24,
      frames: [{ frame: 0, file: 'growing.0000.json', empty: true }, { frame: 1, seconds: 1 / 24 }, {}, { frame: 3, file: 'growing.0003.json' }],
    });
    expect(Math.max(...text('growing.0003.json').curves.positions)).toBeCloseTo((4 * 3) / 48, 5);
    expect(filaxis(['run', '-', '--frames', '0..3', '--out', 'growing.usda'], growing)).toMatchObject({ code: 1 });
    const usd = readFileSync(file('growing.usda'), 'utf8');
    expect(usd).toMatch(/startTimeCode = 0\n\s+endTimeCode = 3\n\s+timeCodesPerSecond = 24/);
    expect(usd.match(/def Xform "frame_\d+"/g)).toEqual(['def Xform "frame_1"', 'def Xform "frame_2"', 'def Xform "frame_3"']);
    expect(usd).toMatch(/visibility\.timeSamples = \{\s+1: "invisible",\s+2: "inherited",\s+3: "invisible",/);
    expect(usd.split('{').length).toBe(usd.split('}').length);
    const wrong = (...args: string[]): string => filaxis(['run', '-', ...args], growing).errors;
    expect(wrong('--frames', '5', '--out', 'x.zip')).toBe('filaxis: --frames is "5"; write the first and the last as 1..50.\n');
    expect(wrong('--frames', '5..1', '--out', 'x.zip')).toContain('the last frame comes before the first');
    expect(wrong('--frames', '0..99999', '--out', 'x.zip')).toContain('the limit is 10000');
    expect(wrong('--frames', '1..2', '--out', 'x.obj')).toContain('give --out a name that ends in .zip, .usda or .glb');
    expect(wrong('--frames', '1..2', '--out', 'x.glb')).toContain('Frame 1: there is no mesh, and morph targets move one.');
    expect(existsSync(file('x.glb.part'))).toBe(false);
    expect(wrong('--frames', '1..2', '--out', 'x.zip', '--time', '1')).toContain('not both');
    expect(existsSync(file('x.zip'))).toBe(false);
  });

  test('frames of which only places change are one GLB with morph targets, played at the document’s rate', async () => {
    const breathing = chain(['lay.line', {}, '', ''], ['skin.tube', { radius: { formula: '0.1 + 0.1 * time' } }, 'curves', 'curves'], ['flow.output', {}, 'mesh', 'any']); // prettier-ignore
    expect(filaxis(['run', '-', '--frames', '0..24', '--out', 'breathing.glb'], breathing)).toMatchObject({ code: 0, errors: '' });
    const glb = readFileSync(file('breathing.glb'));
    const json = JSON.parse(glb.subarray(20, 20 + glb.readUInt32LE(12)).toString()) as {
      meshes: { primitives: { targets: unknown[] }[] }[];
      animations: unknown[];
    };
    expect([json.meshes[0].primitives[0].targets.length, json.animations.length]).toEqual([24, 1]);
  });

  test('a file that a document names by what is in it, and does not have, is told by its beginning', () => {
    const lost = chain(['lay.importCurves', { asset: '0123456789ab'.repeat(6).slice(0, 64) }, '', ''], ['flow.output', {}, 'curves', 'any']); // prettier-ignore
    const { code, errors } = filaxis(['run', '-', '--out', 'lost.json'], lost);
    expect([code, errors]).toEqual([
      2,
      expect.stringContaining('The imported file 0123456789ab… is missing. Pack the document with its files, or name a file beside it.'),
    ]);
  });

  test('a frame in which something is wrong is told by its number, and no file is left', () => {
    // A quarter of a second is frame 6 of 24 a second.
    const shrinking = chain(['lay.line', {}, '', ''], ['skin.tube', { radius: { formula: '0.25 - time' } }, 'curves', 'curves'], ['flow.output', {}, 'mesh', 'any']); // prettier-ignore
    const { code, errors } = filaxis(['run', '-', '--frames', '4..9', '--each', '.obj', '--out', 'shrinking.zip'], shrinking);
    expect([code, errors]).toEqual([2, expect.stringContaining('filaxis: frame 7: /nodes/1/settings/radius:')]);
    expect([existsSync(file('shrinking.zip')), existsSync(file('shrinking.zip.part'))]).toEqual([false, false]);
  });

  test('warnings of frames are told with their numbers, the first of each and how many more, and are in the report', () => {
    const two = chain(['lay.drawn', { curves: [0, 1].map((z) => ({ points: [[0, 0, z], [1, 0, z]] })) }, '', ''], ['skin.tube', { radius: { formula: 'time - 0.25 < 0 ? 0 : 0.1' } }, 'curves', 'curves'], ['flow.output', {}, 'mesh', 'any']); // prettier-ignore
    const { code, errors } = filaxis(['run', '-', '--frames', '4..7', '--out', 'late.zip', '--report', 'late.json'], two);
    expect(code).toBe(1);
    expect(errors.match(/^warning: frame \d: n1: .*\(and 3 more\)$/gm)).toHaveLength(2);
    const { frames } = JSON.parse(readFileSync(file('late.json'), 'utf8')) as { frames: { nodes: { n1: { warnings: { code: string }[] } } }[] };
    expect(frames.map(({ nodes }) => nodes.n1.warnings.map((warning) => warning.code))).toEqual([
      ['degenerate', 'degenerate'],
      ['degenerate', 'degenerate'],
      [],
      [],
    ]);
    const morph = filaxis(['run', '-', '--frames', '4..7', '--out', 'late.glb'], two);
    expect([morph.code, existsSync(file('late.glb'))]).toEqual([1, true]);
  });

  test('an empty result is no error in any format: a valid empty file, and a warning that says why', () => {
    const empty = chain(['lay.drawn', { curves: [{ points: [[1, 1, 1], [1, 1, 1]] }] }, '', ''], ['skin.tube', {}, 'curves', 'curves'], ['flow.output', {}, 'mesh', 'any']); // prettier-ignore
    for (const ending of ['.glb', '.gltf', '.obj', '.stl', '.ply', '.usda', '.svg', '.csv', '.json']) {
      const { code, errors } = filaxis(['run', '-', '--out', `empty${ending}`, '--report', 'empty-report.json'], empty);
      expect([ending, code, existsSync(file(`empty${ending}`))]).toEqual([ending, 1, true]);
      expect(errors).toContain('n1: All points of curve 1 lie in one place');
      expect(errors).toContain(`"n2" is empty, so there is nothing in empty${ending}.`);
    }
    expect(JSON.parse(readFileSync(file('empty-report.json'), 'utf8')).outputs.main).toMatchObject({ vertices: 0, faces: 0, bounds: null, uv: null });
  });

  test('the program itself gives what its parts give: output, errors, exit codes, standard input', () => {
    const program = resolve(import.meta.dirname, '../bin/filaxis.mjs');
    for (const [args, input] of [[['check', '-'], JSON.stringify(mooring)], [['run', 'nowhere.json', '--out', 'x.glb']], [['nodes', '--json']]] as const) {
      const [whole, part] = [filaxis(args, input, program), filaxis(args, input)];
      expect({ ...whole, out: whole.out.replace(/[\d.]+ ms/, '') }).toEqual({ ...part, out: part.out.replace(/[\d.]+ ms/, '') });
    }
  }); // prettier-ignore

  test('an interrupt is heard at once, in the middle of a step, and leaves no file behind', async () => {
    writeFileSync(file('long.json'), chain(['lay.circle', { points: 2_000_000 }, '', ''], ['skin.rope', { diameter: 0.002, layLength: 0.01 }, 'curves', 'curves'], ['flow.output', {}, 'mesh', 'any'])); // prettier-ignore
    const run = spawn(process.execPath, [resolve(import.meta.dirname, '../bin/filaxis.mjs'), 'run', 'long.json', '--out', 'long.stl'], { cwd: folder });
    await new Promise((done) => setTimeout(done, 2500));
    expect(run.exitCode).toBeNull();
    run.kill('SIGINT');
    expect(await once(run, 'exit')).toEqual([130, null]);
    expect(readdirSync(folder).filter((name) => name.startsWith('long.stl'))).toEqual([]);
  });
});

describe('filaxis check', () => {
  test('0 for every demo document', () => {
    const documents = readdirSync(demo).filter((name) => name.endsWith('.json'));
    expect(documents.length).toBeGreaterThan(7);
    for (const name of documents) expect(filaxis(['check', resolve(demo, name)])).toMatchObject({ code: 0, errors: '' });
  }, 240_000);

  test('1 with warnings, 2 with what is wrong and where', () => {
    const thick = { ...mooring, nodes: mooring.nodes.map((node) => (node.id === 'c' ? { ...node, settings: { radius: 40 } } : node)) };
    writeFileSync(file('thick.json'), JSON.stringify(thick));
    const warned = filaxis(['check', 'thick.json']);
    expect(warned.code).toBe(1);
    expect(warned.out).toMatch(/warning: c: Pinches at \d\.\d\d m of curve 1/);
    writeFileSync(file('wrong.json'), JSON.stringify({ ...mooring, wires: [...mooring.wires, { from: ['c', 'mesh'], to: ['b', 'curves'] }] }));
    const wrong = filaxis(['check', 'wrong.json']);
    expect(wrong.code).toBe(2);
    expect(wrong.errors).toContain('/wires/3: Tube gives mesh, which does not fit "curves" of Hang; that takes curves.');
    writeFileSync(file('torn.json'), '{"format":');
    expect(filaxis(['check', 'torn.json'])).toMatchObject({ code: 2 });
  });
});

describe('filaxis nodes', () => {
  test('--json lists every node with its ports and settings', () => {
    const { code, out } = filaxis(['nodes', '--json']);
    expect(code).toBe(0);
    const list = JSON.parse(out) as { id: string; settings: Record<string, { kind: string; default: unknown; help: string }> }[];
    expect(list.map(({ id }) => id)).toEqual([...nodeDefinitions.keys()]);
    expect(list.find(({ id }) => id === 'skin.tube')!.settings['radius']).toMatchObject({ kind: 'number', default: 0.05, unit: 'm', varies: 'point' });
  });

  test('--example gives a document that runs; types that do not exist, or need a file, are told', () => {
    const { out } = filaxis(['nodes', '--example', 'skin.rope']);
    const run = filaxis(['run', '-', '--node', 'rope', '--out', 'example.obj'], out);
    expect([run.code, run.errors]).toEqual([0, '']);
    expect(readFileSync(file('example.obj'), 'utf8')).toMatch(/^f /m);
    expect(filaxis(['nodes', '--example', 'skin.cable']).errors).toBe('filaxis: There is no node "skin.cable"; `filaxis nodes` lists them.\n');
    const needsFile = filaxis(['nodes', '--example', 'lay.importMesh']);
    expect([needsFile.code, needsFile.errors]).toEqual([2, 'filaxis: lay.importMesh shows what is in a file, so it has no example without one.\n']);
  });

  test('for people, one after another', () => {
    expect(filaxis(['nodes']).out).toContain('shape.hang         Hang: curves → curves');
  });
});

describe('filaxis convert', () => {
  test('OBJ to GLB to JSON; Z up is turned to Y up', () => {
    writeFileSync(file('post.obj'), 'v 0 0 0\nv 1 0 0\nv 0 0 1\nf 1 2 3\n');
    expect(filaxis(['convert', 'post.obj', 'post.glb', '--up', 'z']).code).toBe(0);
    expect(filaxis(['convert', 'post.glb', 'post.json']).code).toBe(0);
    const { mesh } = JSON.parse(readFileSync(file('post.json'), 'utf8'));
    expect(Math.max(...mesh.positions.filter((_: number, i: number) => i % 3 === 1))).toBe(1);
  });

  test('a broken file is told with its line', () => {
    writeFileSync(file('bad.obj'), 'v 0 0 zero\n');
    expect(filaxis(['convert', 'bad.obj', 'bad.glb'])).toMatchObject({ code: 2, errors: 'filaxis: bad.obj: Line 1: "v 0 0 zero" needs 3 finite numbers.\n' });
  });
});

test('an unknown command, and help', () => {
  expect(filaxis(['weave'])).toMatchObject({ code: 2, errors: 'filaxis: There is no command "weave". Commands: run, check, nodes, convert.\n' });
  const usage = filaxis(['--help']).out;
  expect(usage).toMatch(/^filaxis run DOC /);
  for (const asked of [['help'], ['-h'], ['run', '--help']]) expect(filaxis(asked)).toEqual({ code: 0, out: usage, errors: '' });
  expect(filaxis([])).toEqual({ code: 2, out: usage, errors: '' });
  expect(filaxis(['--help'])).toMatchObject({ code: 0 });
});

describe('formats', () => {
  test('OBJ comes with its materials beside it, named as the file is', () => {
    expect(filaxis(['run', resolve(demo, 'pump-house-pipes.json'), '--out', 'pipes.obj']).code).toBe(0);
    expect(readFileSync(file('pipes.obj'), 'utf8')).toContain('mtllib pipes.mtl\n');
    expect(readFileSync(file('pipes.mtl'), 'utf8')).toContain('newmtl copper_0\n');
  });

  test('a format that cannot hold the result is refused with those that can', () => {
    const { code, errors } = filaxis(['run', 'mooring.json', '--out', 'rope.svg']);
    expect({ code, errors }).toEqual({
      code: 2,
      errors: 'filaxis: rope.svg: this format cannot hold mesh; it can be written as .glb, .gltf, .obj, .stl, .ply, .usda, .json.\n',
    });
    expect(filaxis(['run', 'mooring.json', '--node', 'b', '--out', 'course.svg']).code).toBe(0);
  });

  test('buffers of a glTF file are looked for beside it and nowhere else, by links neither', () => {
    const triangle = Buffer.from(Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0).buffer);
    mkdirSync(file('room/folder.bin'), { recursive: true });
    writeFileSync(file('outside.bin'), triangle);
    writeFileSync(file('room/beside.bin'), triangle);
    symlinkSync(file('outside.bin'), file('room/link.bin'));
    const convert = (uri: string): { code: number | null; errors: string } => {
      const accessor = { bufferView: 0, componentType: 5126, count: 3, type: 'VEC3', min: [0, 0, 0], max: [1, 1, 0] };
      const mesh = { primitives: [{ attributes: { POSITION: 0 } }] };
      const document = { asset: { version: '2.0' }, scenes: [{ nodes: [0] }], nodes: [{ mesh: 0 }], meshes: [mesh], accessors: [accessor], bufferViews: [{ buffer: 0, byteLength: 36 }], buffers: [{ byteLength: 36, uri }] }; // prettier-ignore
      writeFileSync(file('room/a.gltf'), JSON.stringify(document));
      const { code, errors } = filaxis(['convert', 'room/a.gltf', 'room/a.stl']);
      return { code, errors };
    };
    expect(convert('beside.bin')).toEqual({ code: 0, errors: '' });
    for (const uri of ['../outside.bin', file('outside.bin'), 'link.bin', 'folder.bin', 'lost.bin'])
      expect([uri, convert(uri)]).toEqual([
        uri,
        { code: 2, errors: expect.stringMatching(/^filaxis: room\/a\.gltf: \/buffers\/0\/uri: the buffer is in another file, ".*", which is not here/) },
      ]);
  });

  test('convert refuses a file with nothing in it by what it lacks, not by the format', () => {
    writeFileSync(file('nothing.obj'), '# nobody drew here\n');
    writeFileSync(file('nothing.gltf'), JSON.stringify({ asset: { version: '2.0' } }));
    for (const name of ['nothing.obj', 'nothing.gltf'])
      expect(filaxis(['convert', name, 'other.stl'])).toMatchObject({
        code: 2,
        errors: `filaxis: ${name}: nothing in it has a shape: no faces, no curves, no points.\n`,
      });
  });

  test('convert goes through the open formats, and copies are expanded when asked', () => {
    expect(filaxis(['run', resolve(demo, 'mooring-chain.json'), '--out', 'chain.glb', '--instances']).code).toBe(0);
    expect(filaxis(['convert', 'chain.glb', 'chain.json']).code).toBe(0);
    expect(JSON.parse(readFileSync(file('chain.json'), 'utf8')).copies.object.length).toBe(37);
    expect(filaxis(['convert', 'chain.glb', 'whole.ply', '--expanded']).code).toBe(0);
    expect(filaxis(['convert', 'whole.ply', 'whole.stl']).code).toBe(0);
    expect(readFileSync(file('whole.stl')).length).toBeGreaterThan(84 + 50 * 10_000);
  });
});
