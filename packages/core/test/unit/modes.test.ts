import { describe, expect, test } from 'vitest';
import { nodeDefinitions, type NumberSetting } from '../../src/index.js';
import { runGraph } from '../graph.js';

type Nodes = Record<string, readonly [type: string, settings?: Readonly<Record<string, unknown>>]>;

/** What settings stand beside the one that varies, so that it is looked at. */
const beside: Readonly<Record<string, Readonly<Record<string, unknown>>>> = {
  'pace.resample spacing': { by: 'spacing' },
  'gauge.set second': { numbers: 'three' },
  'gauge.set third': { numbers: 'three' },
};

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
    it: [type, { ...beside[`${type} ${key}`], [key]: value }],
  }; // prettier-ignore
  const wires = ['curves.curves > set.any', 'set.any > onCurves.any', 'curves.curves > box.curves'];
  const from: Readonly<Record<string, string>> = { curves: 'onCurves.any', any: 'onCurves.any', profile: 'square.curves', objects: 'box.mesh' };
  for (const { name } of definition.inputs) if (from[name]) wires.push(`${from[name]} > it.${name}`);
  const { results } = await runGraph(nodes, wires);
  return { counts: results['it'].out, error: results['it'].error?.message, varied: key in results['it'].varied };
}

describe('every setting that may vary takes all six ways', () => {
  for (const { type, settings } of nodeDefinitions.values())
    for (const [key, setting] of Object.entries(settings)) {
      if (setting.kind !== 'number' && setting.kind !== 'integer') continue;
      if (!setting.varies) continue;
      const number = fitting(setting);
      const whole = setting.kind === 'integer' ? Math.max(3, Math.round(number)) : number;
      // Of what is only about to be made there is nothing yet but the way along it.
      const attribute = type === 'lay.helix' || key === 'wallShape' ? 't' : setting.varies === 'curve' ? 'ofCurve' : 'own';
      test(`${type} ${key}`, async () => {
        const fixed = await made(type, key, whole);
        expect([fixed.error, fixed.varied]).toEqual([undefined, true]);
        // Each is the same number written another way, so that what comes out has the same counts.
        const ways: readonly unknown[] = [
          { formula: `${whole} + 0*random(1)` },
          { ramp: [[0, whole], [1, whole]] },
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
