import { describe, expect, test } from 'vitest';
import { nodeDefinitions, type NumberSetting } from '../../src/index.js';
import { runGraph } from '../graph.js';

type Nodes = Record<string, readonly [type: string, settings?: Readonly<Record<string, unknown>>]>;

/** What settings stand beside the one that varies, so that it is looked at. */
const beside: Readonly<Record<string, Readonly<Record<string, unknown>>>> = {
  'pace.resample spacing': { by: 'spacing' },
  'place.scatter density': { by: 'density' },
  'grow.routes harder': { begin: { formula: 'x < 0.1' } },
  'gauge.set second': { numbers: 'three' },
  'gauge.set third': { numbers: 'three' },
};

/** Settings that are given for points of meshes, along which nothing runs. */
const onMeshes: ReadonlySet<string> = new Set(['grow.routes harder']);

/** A value in the middle of what a setting takes. */
function fitting({ default: own, min = 0, max = Infinity }: NumberSetting): number {
  const usual = typeof own === 'number' ? own : own.ramp[0][1];
  return Math.min(max, Math.max(usual || 0.2, min || 0.2));
}

/** The counts of what the node makes when the setting has this value. */
async function made(type: string, key: string, value: unknown): Promise<{ counts: unknown; error: string | undefined; varied: boolean }> {
  const definition = nodeDefinitions.get(type)!;
  const nodes: Nodes = {
    curves: ['lay.drawn', { curves: [0, 2].map((z) => ({ points: [[0, 0, z], [1, 0.2, z], [2, 0, z + 0.5], [3, 0, z]] })) }],
    set: ['gauge.set', { name: 'own', value: 0.2 }],
    onCurves: ['gauge.set', { name: 'ofCurve', carrier: 'curves', value: 0.2 }],
    square: ['lay.rectangle', { width: 0.2, height: 0.2 }],
    box: ['skin.tube', { radius: 0.1, sides: 4, caps: 'flat' }],
    onCorners: ['gauge.set', { name: 'ofCorner', carrier: 'corners', value: 0.2 }],
    onFaces: ['gauge.set', { name: 'ofFace', carrier: 'faces', value: 0.2 }],
    copies: ['place.copies'],
    it: [type, { ...beside[`${type} ${key}`], [key]: value }],
  }; // prettier-ignore
  const wires = ['curves.curves > set.any', 'set.any > onCurves.any', 'curves.curves > box.curves', 'box.mesh > onCorners.any', 'onCorners.any > onFaces.any'];
  wires.push('onCurves.any > copies.curves', 'box.mesh > copies.objects');
  const setting = definition.settings[key];
  const ofCopies = 'varies' in setting && setting.varies === 'copy';
  const from: Readonly<Record<string, string>> = {
    curves: 'onCurves.any',
    points: 'onCurves.any',
    roots: 'onCurves.any',
    any: ofCopies ? 'copies.copies' : 'onCurves.any',
    body: 'box.mesh',
    profile: 'square.curves',
    objects: 'box.mesh',
  };
  // What may take curves instead is given those.
  const takesCurves = definition.inputs.some(({ name }) => name === 'curves');
  if (definition.inputs.some(({ name, optional }) => name === 'mesh' && (!takesCurves || !optional))) wires.push('onFaces.any > it.mesh');
  for (const { name } of definition.inputs)
    if (from[name] && !(name === 'points' && definition.inputs.some((port) => port.name === 'curves'))) wires.push(`${from[name]} > it.${name}`);
  const { results } = await runGraph(nodes, wires);
  return { counts: results['it'].out, error: results['it'].error?.message, varied: key in results['it'].varied };
}

test('a vector that varies: an attribute of three numbers, chance for each axis, one number for all axes', async () => {
  const moved = async (vector: unknown): Promise<{ ways: number[][]; error: string | undefined }> => {
    const { results } = await runGraph(
      {
        path: ['lay.line', { points: 5 }],
        frames: ['aim.frames', { roll: 30 }],
        out: ['gauge.set', { name: 'away', numbers: 'three', value: { formula: 'i' }, second: 2, third: { formula: 'nz' } }],
        it: ['shape.displace', { pattern: 'vector', amount: 1, vector }],
      },
      ['path.curves > frames.curves', 'frames.curves > out.any', 'out.any > it.any'],
    );
    const [before, after] = ['out', 'it'].map((id) => results[id].outputs['any']);
    if (after?.type !== 'curves' || before.type !== 'curves') return { ways: [], error: results['it'].error?.message };
    const shift = Array.from(after.positions, (value, k) => value - before.positions[k]);
    return { ways: Array.from({ length: 5 }, (_, i) => shift.slice(i * 3, i * 3 + 3)), error: undefined };
  };
  const close = (ways: number[][], wanted: number[][]): void => ways.forEach((way, i) => way.forEach((value, k) => expect(value).toBeCloseTo(wanted[i][k], 5)));
  const all = (way: number[]): number[][] => Array.from({ length: 5 }, () => way);
  close((await moved([1, 2, 3])).ways, all([1, 2, 3]));
  const nz = Math.sin(Math.PI / 6);
  close((await moved({ attribute: 'away' })).ways, [0, 1, 2, 3, 4].map((i) => [i, 2, nz])); // prettier-ignore
  close((await moved({ attribute: 'away', scale: 2, offset: 1 })).ways, [0, 1, 2, 3, 4].map((i) => [2 * i + 1, 5, 2 * nz + 1])); // prettier-ignore
  close((await moved({ formula: '0.5*t' })).ways, [0, 1, 2, 3, 4].map((i) => [i / 8, i / 8, i / 8])); // prettier-ignore
  close((await moved({ ramp: [[0, 1], [1, 3]] })).ways, [0, 1, 2, 3, 4].map((i) => [1 + i / 2, 1 + i / 2, 1 + i / 2])); // prettier-ignore
  const chance = (await moved({ random: [1, 2], seed: 5 })).ways.flat();
  expect(new Set(chance.map((value) => value.toFixed(5))).size).toBe(15);
  expect(chance.every((value) => value >= 1 - 1e-6 && value < 2 + 1e-6)).toBe(true);
  expect((await moved({ attribute: 'nowhere' })).error).toContain('The attribute "nowhere" was not found on the points');
  expect((await moved({ formula: 'nobody' })).error).toContain('Vector: Column 1: there is no "nobody" here');
  expect((await moved({ formula: '' })).error).toBeDefined();
  expect((await moved([1, 2])).error).toBe('Vector is [1,2]; it accepts three finite numbers [x, y, z], each of which may vary.');
  // Each number in its own way.
  close((await moved([7, { formula: '0.5*t' }, { attribute: 'away', scale: 2 }])).ways, [0, 1, 2, 3, 4].map((i) => [7, i / 8, NaN]).map(([x, y]) => [x, y, 2])); // prettier-ignore
  expect((await moved([0, { formula: 'nobody' }, 0])).error).toContain('Vector: Column 1: there is no "nobody" here');
  expect((await moved([0, { ramp: [] }, 0])).error).toBe('Vector y: A ramp needs a list of 1 to 256 keys [place, value].');
  expect((await moved([0, { formula: '1/(i-i)' }, 0])).error).toContain('Vector y is');
});

describe('every setting that may vary takes all six ways', () => {
  for (const { type, settings } of nodeDefinitions.values())
    for (const [key, setting] of Object.entries(settings)) {
      if (setting.kind !== 'number' && setting.kind !== 'integer') continue;
      if (!setting.varies) continue;
      const number = fitting(setting);
      const whole = setting.kind === 'integer' ? Math.max(3, Math.round(number)) : number;
      // Of what is only about to be made there is nothing yet but the way along it.
      const attribute = onMeshes.has(`${type} ${key}`)
        ? 'ofCorner'
        : type === 'lay.helix' || key === 'wallShape'
          ? 't'
          : { curve: 'ofCurve', face: 'ofFace', point: 'own', copy: 'own', whole: 'own' }[setting.varies];
      test(`${type} ${key}`, async () => {
        const fixed = await made(type, key, whole);
        expect([fixed.error, fixed.varied]).toEqual([undefined, true]);
        // Each is the same number written another way, so that what comes out has the same counts.
        const ways: readonly unknown[] = [
          { formula: `${whole} + 0*random(1)` },
          { ramp: [[0, whole], [1, whole]], over: setting.varies === 'face' || setting.varies === 'copy' || onMeshes.has(`${type} ${key}`) ? 'x' : 't' },
          { random: [whole, whole], seed: 4 },
          { attribute, scale: 0, offset: whole },
        ]; // prettier-ignore
        for (const value of ways) expect([value, await made(type, key, value)]).toEqual([value, fixed]);
        expect((await made(type, key, { formula: 'nobody' })).error).toContain('there is no "nobody" here');
      });
    }
});

test('what is about to be made varies along the way: a helix that widens by formula, a wall that bulges', async () => {
  const { results } = await runGraph(
    {
      cone: ['lay.helix', { radius: { formula: '1 + t' }, turns: 3, pointsPerTurn: 24, height: 2 }],
      ring: ['lay.circle', { radius: 1, points: 24 }],
      wall: ['skin.extrude', { distance: 1, wallRows: 8, wallShape: { formula: '0.5*sin(pi*t)' } }],
    },
    ['ring.curves > wall.curves'],
  );
  const cone = results['cone'].outputs['curves'];
  if (cone.type !== 'curves') throw new Error('no curves');
  for (let i = 0; i <= 72; i++) expect(Math.hypot(cone.positions[i * 3], cone.positions[i * 3 + 2])).toBeCloseTo(1 + i / 72, 5);
  const wall = results['wall'].outputs['mesh'];
  if (wall.type !== 'mesh') throw new Error('no mesh');
  const widest = Math.max(...Array.from({ length: wall.positions.length / 3 }, (_, v) => Math.hypot(wall.positions[v * 3], wall.positions[v * 3 + 2])));
  expect(widest).toBeCloseTo(1.5, 2);
});
