import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  Evaluator,
  freshMemory,
  isEmptyResult,
  makeMesh,
  Plan,
  Pool,
  requireDocument,
  resultOf,
  triangulate,
  type FilaxisDocument,
  type GeometrySet,
  type Mesh,
  type RunResult,
} from '@filaxis/core';
import type { Picture, PictureParcel } from '@filaxis/protocol';
import { meshParcel } from '../src/workers/meshParcel';
import { buffersOf, unpack } from '../src/workers/parcel';
import { heldBy, makePicture, type Content, type Sent } from '../src/workers/picture';

/** What a drag may change. `sides` and `turns` change the triangles, the rest only where they lie or how they look. */
interface Change {
  readonly radius: number;
  readonly sides: number;
  readonly turns: number;
  readonly caps: 'open' | 'flat';
  readonly colour: string | null;
  readonly paint: string;
  readonly side: 'x' | 'z';
  /** False: a run whose picture is not shown, as when something shown has no result. */
  readonly seen: boolean;
  readonly shown: 'tube' | 'copies' | 'paint' | 'both';
}

const graph = ({ radius, sides, turns, caps, paint, side }: Change): FilaxisDocument =>
  requireDocument({
    format: 'filaxis-graph',
    version: 1,
    title: 'Parcels',
    nodes: [
      { id: 'path', type: 'lay.helix', settings: { turns, pointsPerTurn: 150 } },
      { id: 'tube', type: 'skin.tube', settings: { radius, sides, caps } },
      { id: 'paint', type: 'mesh.material', settings: { colour: paint, where: { formula: `${side} > 0` } } },
      { id: 'disc', type: 'lay.circle', settings: { radius: 0.03 } },
      { id: 'post', type: 'skin.extrude', settings: { distance: 0.2 } },
      { id: 'copies', type: 'place.copies', settings: { size: radius * 10 } },
    ],
    wires: [
      { from: ['path', 'curves'], to: ['tube', 'curves'] },
      { from: ['tube', 'mesh'], to: ['paint', 'any'] },
      { from: ['disc', 'curves'], to: ['post', 'curves'] },
      { from: ['path', 'curves'], to: ['copies', 'points'] },
      { from: ['post', 'mesh'], to: ['copies', 'objects'] },
    ],
  });

const nodesOf = { tube: ['tube'], copies: ['copies'], paint: ['paint'], both: ['tube', 'post', 'path'] };
const contentOf = (run: RunResult, { shown, colour }: Change): Content => {
  const sets: GeometrySet[] = nodesOf[shown].map((id) => resultOf(run.nodes.get(id)));
  if (sets.some(isEmptyResult)) throw new Error(`${shown} shows nothing: ${JSON.stringify([...run.nodes.values()].map(({ error }) => error))}`);
  return { sets, paths: [resultOf(run.nodes.get('path')).curves!], budget: 0, colour, ghost: [] };
};

/** The worker and the page: memory is handed over, comes back, and is used again. */
class Pair {
  private readonly pool = new Pool();
  private readonly evaluator = new Evaluator({ pool: this.pool });
  private sent: Sent | undefined;
  page: Picture | null = null;
  parcel: PictureParcel | null = null;

  async show(change: Change): Promise<void> {
    const run = await this.evaluator.run(new Plan(graph(change)));
    if (!change.seen) return this.evaluator.reclaim(run, this.sent && heldBy(this.sent));
    const { parcel, sent } = makePicture(contentOf(run, change), this.sent, this.pool);
    this.sent = sent;
    this.parcel = structuredClone(parcel, { transfer: buffersOf(parcel) });
    this.evaluator.reclaim(run, heldBy(sent));
    const old = this.page;
    this.page = unpack(this.parcel, old);
    const inUse = new Set(buffersOf(this.page));
    if (old) this.pool.receive(buffersOf(old).filter((buffer) => !inUse.has(buffer)));
  }
}

async function afresh(change: Change): Promise<Picture> {
  const run = await new Evaluator().run(new Plan(graph(change)));
  return unpack(makePicture(contentOf(run, change)).parcel, null);
}

/** A picture with each array as its length and the sum of its bytes. */
const summary = (picture: Picture): unknown =>
  JSON.parse(
    JSON.stringify(picture, (_, value: unknown) =>
      ArrayBuffer.isView(value) ? [value.byteLength, createHash('sha256').update(new Uint8Array(value.buffer, value.byteOffset, value.byteLength)).digest('hex')] : value,
    ),
  ); // prettier-ignore

const plain: Change = { radius: 0.05, sides: 8, turns: 6, caps: 'open', colour: null, paint: '#a04020', side: 'x', seen: true, shown: 'tube' };

describe('pictures on their way to the page', () => {
  test('a tube whose radius changes sends places and normals alone, with caps too', async () => {
    for (const caps of ['open', 'flat'] as const) {
      const pair = new Pair();
      await pair.show({ ...plain, caps });
      expect(Object.values(pair.parcel!.mesh!)).not.toContain('same');
      await pair.show({ ...plain, caps, radius: 0.06 });
      const { positions, normals, uv, indices, edges } = pair.parcel!.mesh!;
      expect([uv, indices, edges, pair.parcel!.curves]).toEqual(['same', 'same', 'same', 'same']);
      // The radius is the same all along, so the normals are too.
      expect(normals).toBe('same');
      expect(positions).toBeInstanceOf(Float32Array);
    }
  });

  test('a new material sends no array at all', async () => {
    const pair = new Pair();
    await pair.show({ ...plain, shown: 'paint' });
    await pair.show({ ...plain, shown: 'paint', paint: '#204060' });
    const { groups, ...arrays } = pair.parcel!.mesh!;
    expect(Object.values(arrays).every((part) => part === 'same')).toBe(true);
    expect(groups.map(({ material }) => material?.colour)).toContain('#204060');
  });

  test('results that were never shown leave alone what the page has', async () => {
    const others = [0.02, 0.03, 0.04, 0.06, 0.07].map((radius) => ({ ...plain, radius }));
    for (const shown of others) {
      const pair = new Pair();
      await pair.show(plain);
      for (const other of others) await pair.show({ ...other, seen: false });
      await pair.show(shown);
      expect(summary(pair.page!)).toEqual(summary(await afresh(shown)));
    }
  });

  test('whatever came before, the page has what a first picture would bring, in memory that is its own', () =>
    fc.assert(
      fc.asyncProperty(
        fc.array(
          fc.record(
            {
              radius: fc.constantFrom(0.02, 0.03, 0.04, 0.05),
              sides: fc.constantFrom(3, 8),
              turns: fc.constantFrom(5, 6),
              caps: fc.constantFrom('open' as const, 'flat' as const),
              colour: fc.constantFrom(null, 't', 'part'),
              paint: fc.constantFrom('#a04020', '#204060'),
              side: fc.constantFrom('x' as const, 'z' as const),
              seen: fc.boolean(),
              shown: fc.constantFrom('tube' as const, 'copies' as const, 'paint' as const, 'both' as const),
            },
            { requiredKeys: [] },
          ),
          { minLength: 2, maxLength: 8 },
        ),
        async (steps) => {
          const pair = new Pair();
          let change: Change = { ...plain, shown: 'paint' };
          for (const step of steps) {
            change = { ...change, ...step };
            await pair.show(change);
            if (change.seen) expect(summary(pair.page!)).toEqual(summary(await afresh(change)));
          }
        },
      ),
      { numRuns: 40 },
    ));

  test('a face that is no longer convex is cut anew, though its corners are the same', () => {
    const house = (roof: number): Mesh => {
      const positions = Float32Array.from([0, 0, 0, 2, 0, 0, 2, 2, 0, 1, roof, 0, 0, 2, 0, 3, 0, 0, 4, 0, 0, 3, 1, 0]);
      return makeMesh({ positions, corners: Uint32Array.from([0, 1, 2, 3, 4, 5, 6, 7]), faceStarts: Uint32Array.from([0, 5, 8]) });
    };
    const first = meshParcel(house(3), null, null, freshMemory);
    const pointed = meshParcel(house(2.5), null, first.sent, freshMemory);
    const dented = meshParcel(house(0.5), null, pointed.sent, freshMemory);
    expect([pointed.parcel.indices, pointed.parcel.edges]).toEqual(['same', 'same']);
    expect(dented.parcel.indices).toEqual(triangulate(house(0.5)).indices);
    expect(dented.parcel.indices).not.toEqual(first.parcel.indices);
  });

  test('what builds on a picture that is not there is refused', async () => {
    const pair = new Pair();
    await pair.show(plain);
    await pair.show({ ...plain, radius: 0.06 });
    expect(() => unpack(pair.parcel!, null)).toThrow('that are not here');
  });
});
