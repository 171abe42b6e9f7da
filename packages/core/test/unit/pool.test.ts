import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  arraysOf,
  Evaluator,
  nodeDefinitions,
  Plan,
  Pool,
  requireDocument,
  ResultCache,
  resultOf,
  type FilaxisDocument,
  type Memory,
  type NodeResult,
  type RunResult,
} from '../../src/index.js';
import { chainDocument, type Chain } from '../graph.js';
import { fingerprint } from '../fingerprint.js';

const none: ReadonlySet<ArrayBufferLike> = new Set();

describe('the pool', () => {
  test('gives an array again when it was reclaimed, and not while it is in use', () => {
    const pool = new Pool();
    const first = pool.float32(100_000);
    pool.reclaim(new Set([first.buffer]));
    expect(pool.uint32(100_000).buffer).not.toBe(first.buffer);
    pool.reclaim(none);
    const again = [pool.float32(100_000), pool.uint32(99_000)].map(({ buffer }) => buffer);
    expect(again).toContain(first.buffer);
    expect(pool.freeBytes).toBe(0);
  });

  test('arrays have the length asked for, and none shares memory with another that is in use', () =>
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 0, max: 300_000 }), fc.boolean()), { maxLength: 30 }), (steps) => {
        const pool = new Pool();
        let used: (Float32Array | Float64Array)[] = [];
        for (const [length, dropped] of steps) {
          const array = length % 2 ? pool.float32(length) : pool.float64(length);
          expect(array.length).toBe(length);
          expect(used.every(({ buffer }) => buffer !== array.buffer)).toBe(true);
          used.push(array);
          if (!dropped) continue;
          used = used.slice(1);
          pool.reclaim(new Set(used.map(({ buffer }) => buffer)));
        }
      }),
      { numRuns: 50 },
    ));

  test('keeps no more free than its limit, and nothing that was handed over', () => {
    const pool = new Pool(1_000_000);
    for (let i = 0; i < 8; i++) pool.float32(100_000);
    pool.reclaim(none);
    expect(pool.freeBytes).toBeGreaterThan(400_000);
    expect(pool.freeBytes).toBeLessThanOrEqual(1_000_000);
    const other = new Pool();
    const { buffer } = other.float32(100_000);
    structuredClone(null, { transfer: [buffer] });
    other.reclaim(none);
    expect(other.freeBytes).toBe(0);
  });
});

test('what comes smaller has its memory from what is free, unless that is more than twice as large', () => {
  const pool = new Pool();
  const [large, huge] = [pool.float32(100_000), pool.float32(400_000)].map(({ buffer }) => buffer);
  pool.reclaim(none);
  const smaller = pool.float32(60_000);
  expect([smaller.length, smaller.buffer]).toEqual([60_000, large]);
  expect(pool.float32(60_000).buffer).not.toBe(huge);
  expect(pool.freeBytes).toBe(huge.byteLength);
});

test('sizes that nobody asks for any more do not keep others out', () => {
  const pool = new Pool(1_000_000);
  pool.float32(200_000);
  pool.reclaim(none);
  const { buffer } = pool.float32(100_000);
  pool.reclaim(none);
  expect(pool.freeBytes).toBeLessThanOrEqual(1_000_000);
  expect(pool.float32(100_000).buffer).toBe(buffer);
});

/** Gives arrays full of what is no number, so that a place that a step forgets to write is seen. */
const soiled: Memory = {
  float32: (length) => new Float32Array(length).fill(NaN),
  float64: (length) => new Float64Array(length).fill(NaN),
  uint32: (length) => new Uint32Array(length).fill(0xfffffff1),
};
class SoiledPool extends Pool {
  override float32 = soiled.float32;
  override float64 = soiled.float64;
  override uint32 = soiled.uint32;
}

const wave = ['lay.helix', { radius: 1, turns: 2, pointsPerTurn: 700 }] as const;
const curvesBefore: Chain = [wave, ['gauge.set', { name: 'width', value: { ramp: [[0, 1], [1, 2]] } }]]; // prettier-ignore
const paths = [...nodeDefinitions.values()].filter(({ inputs }) => inputs.length && inputs[0].kinds.includes('curves')).map(({ type }) => type);
const varied: Readonly<Record<string, Readonly<Record<string, unknown>>>> = {
  'skin.tube': { radius: { formula: '0.02+0.01*sin(i)+0.001*t' }, caps: 'domed' },
  'skin.rope': { diameter: { ramp: [[0, 0.05], [1, 0.02]] } }, // prettier-ignore
  'pace.resample': { by: 'count', count: 900 },
};

describe('steps write every number of the memory they take', () => {
  for (const type of paths)
    test(type, async () => {
      const plan = new Plan(chainDocument([...curvesBefore, [type, varied[type] ?? {}]]));
      const clean = await new Evaluator().run(plan);
      const dirty = await new Evaluator({ pool: new SoiledPool() }).run(plan);
      expect(fingerprint(dirty)).toBe(fingerprint(clean));
    });
});

test('so do places on straight and smooth curves together', async () => {
  const plan = new Plan(
    requireDocument({
      format: 'filaxis-graph',
      version: 1,
      title: 'Both',
      nodes: [
        { id: 'line', type: 'lay.line', settings: { to: [3, 1, 0], points: 900 } },
        { id: 'helix', type: 'lay.helix', settings: { turns: 2 } },
        { id: 'both', type: 'flow.join' },
        { id: 'even', type: 'pace.resample', settings: { by: 'count', count: 700 } },
        { id: 'tube', type: 'skin.tube', settings: { caps: 'flat' } },
      ],
      wires: [
        { from: ['line', 'curves'], to: ['both', 'any'] },
        { from: ['helix', 'curves'], to: ['both', 'any'] },
        { from: ['both', 'any'], to: ['even', 'curves'] },
        { from: ['even', 'curves'], to: ['tube', 'curves'] },
      ],
    }),
  );
  const clean = await new Evaluator().run(plan);
  expect([...clean.nodes.values()].map(({ error }) => error?.message)).toEqual(Array(5).fill(undefined));
  expect(fingerprint(await new Evaluator({ pool: new SoiledPool() }).run(plan))).toBe(fingerprint(clean));
});

describe('an evaluator with a pool', () => {
  const ropes = (sides: number, radius: number): FilaxisDocument =>
    chainDocument([
      ['lay.circle', { points: 1500 }],
      ['skin.tube', { sides, radius: { formula: `${radius}+0.01*t` } }],
      ['mesh.normals', { flip: true }],
    ]);
  /** Buffers of the tube, the second node. */
  const tubeBuffers = (run: RunResult): ArrayBufferLike[] => arraysOf(resultOf(run.nodes.get('n1')).mesh!).map(({ buffer }) => buffer);

  test('gives what one without gives, whatever was run and given back before', () =>
    fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.integer({ min: 3, max: 12 }), fc.integer({ min: 1, max: 4 })), { minLength: 2, maxLength: 12 }),
        async (changes) => {
          const pooled = new Evaluator({ pool: new Pool() });
          for (const [sides, radius] of changes) {
            const plan = new Plan(ropes(sides, radius / 100));
            const run = await pooled.run(plan);
            pooled.reclaim(run);
            expect(fingerprint(run)).toBe(fingerprint(await new Evaluator().run(plan)));
          }
        },
      ),
      { numRuns: 15 },
    ));

  test('uses the memory of a dragged dial’s older results again', async () => {
    // So little is kept that older results go, however long they took.
    const pooled = new Evaluator({ pool: new Pool(), memory: 8_000_000 });
    const seen = new Set<ArrayBufferLike>();
    const fresh: number[] = [];
    for (let step = 0; step < 20; step++) {
      const run = await pooled.run(new Plan(ropes(12, 0.02 + step * 0.001)));
      pooled.reclaim(run);
      const large = tubeBuffers(run).filter(({ byteLength }) => byteLength >= 2 ** 16);
      fresh.push(large.filter((buffer) => !seen.has(buffer)).length);
      for (const buffer of large) seen.add(buffer);
    }
    expect(fresh[0]).toBeGreaterThan(3);
    // What is kept goes by the time that it took, so that on a busy machine one step may keep a little more.
    expect(fresh.slice(-5).filter((count) => count === 0).length).toBeGreaterThanOrEqual(4);
    expect(Math.max(...fresh.slice(-5))).toBeLessThanOrEqual(1);
  });
});

describe('kept results', () => {
  const result = (ms: number, bytes: number): NodeResult => ({ outputs: {}, settings: {}, varied: {}, key: 1, ms, bytes, in: {}, out: {}, warnings: [] });
  const kept = (cache: ResultCache): number[] => [1, 2, 3, 4, 5].filter((id) => cache.get(id));

  test('of large ones that were cheap to make a node keeps two, so that one step back costs nothing', () => {
    const cache = new ResultCache(1e9);
    for (const id of [1, 2, 3, 4]) cache.set(id, result(20, 1e6), 'tube');
    cache.set(5, result(20, 1e6), 'another');
    expect(kept(cache)).toEqual([3, 4, 5]);
    expect([...cache.large()]).toHaveLength(3);
  });

  test('of small ones it keeps more', () => {
    const cache = new ResultCache(1e9);
    for (let id = 1; id <= 18; id++) cache.set(id, result(20, 100), 'line');
    expect(kept(cache)).toEqual([3, 4, 5]);
  });

  test('those that took long are kept as long as there is room', () => {
    const cache = new ResultCache(1e7);
    for (const id of [1, 2]) cache.set(id, result(20, 100), 'tube');
    for (const id of [3, 4, 5]) cache.set(id, result(2000, 4e6), 'tube');
    // The least recently used went for want of room: both small ones and the first large one.
    expect(kept(cache)).toEqual([4, 5]);
    const roomy = new ResultCache(1e9);
    for (const id of [1, 2, 3, 4, 5]) roomy.set(id, result(2000, 4e6), 'tube');
    expect(kept(roomy)).toEqual([1, 2, 3, 4, 5]);
  });
});

test('what was handed over and comes back is given out again; strange sizes are let go', () => {
  const pool = new Pool();
  const { buffer } = pool.float32(100_000);
  const away = structuredClone(buffer, { transfer: [buffer] }) as ArrayBuffer;
  pool.receive([away, new ArrayBuffer(100_001), new ArrayBuffer(8)]);
  expect(pool.freeBytes).toBe(away.byteLength);
  expect(pool.uint32(100_000).buffer).toBe(away);
});
