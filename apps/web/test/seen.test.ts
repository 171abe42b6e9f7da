import { readdirSync, readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { Ray, Vector3 } from 'three';
import { describe, expect, test } from 'vitest';
import {
  Evaluator,
  firstHit,
  joinMeshes,
  newRayHit,
  outputsOf,
  parseDocument,
  Plan,
  requireDocument,
  resultOf,
  surfaceOf,
  withoutCopies,
  type Mesh,
} from '@filaxis/core';
import type { Picture } from '@filaxis/protocol';
import { Picking } from '../src/app/ropewalk/view3d/picking';
import type { Newest } from '../src/workers/newest';
import { unpack } from '../src/workers/parcel';
import { makePicture } from '../src/workers/picture';
import { edgesShown, makerOf, outlineOf } from '../src/workers/seen';

const folder = resolve(import.meta.dirname, '../../../demo/documents');

async function newest(document: Parameters<typeof requireDocument>[0]): Promise<{ newest: Newest; picture: Picture; whole: Mesh | null }> {
  const plan = new Plan(requireDocument(document));
  const run = await new Evaluator().run(plan);
  const outputs = outputsOf(plan.document).map(({ id }) => id);
  const shown = outputs.length ? outputs : [plan.document.nodes.at(-1)!.id];
  const sets = shown.map((id) => resultOf(run.nodes.get(id)));
  const picture = unpack(makePicture({ sets, paths: [], budget: 0, colour: null, ghost: [] }).parcel, null);
  const meshes = sets.flatMap((set) => withoutCopies(set).mesh ?? []);
  return { newest: { plan, run, shown, time: 0 }, picture, whole: meshes.length ? joinMeshes(meshes) : null };
}

/** Numbers that look random and are the same each time: a linear congruential generator (constants of Numerical Recipes, 1992). */
function numbers(seed: number): () => number {
  let state = seed;
  return () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
}

/** Lines of sight from one eye through a box. */
function sights({ min, max }: NonNullable<Picture['bounds']>, count: number): Ray[] {
  const next = numbers(7);
  const [low, high] = [new Vector3(...min), new Vector3(...max)];
  const eye = low
    .clone()
    .lerp(high, 0.5)
    .add(new Vector3(0.7, 0.6, 1.4).multiplyScalar(low.distanceTo(high)));
  return Array.from({ length: count }, () => {
    const through = new Vector3(low.x + (high.x - low.x) * next(), low.y + (high.y - low.y) * next(), low.z + (high.z - low.z) * next());
    return new Ray(eye.clone(), through.sub(eye).normalize());
  });
}

/** How far along a line of sight core finds a mesh; null: nowhere. */
function coreHit(mesh: Mesh, ray: Ray): number | null {
  const hit = newRayHit();
  firstHit(surfaceOf(mesh).nearest.tree, ray.origin.toArray(), ray.direction.toArray(), hit);
  return hit.piece < 0 ? null : hit.t;
}

const demos = readdirSync(folder).filter((file) => file.endsWith('.json'));

describe('what is picked in the picture', () => {
  test.each(demos)('%s: 200 lines of sight meet what core finds, and the node named for it has made it', async (file) => {
    const made = await newest(parseDocument(readFileSync(resolve(folder, file), 'utf8')));
    const { picture, whole } = made;
    if (!picture.bounds || !whole) throw new Error(`${file} shows no surface.`);
    const picking = new Picking();
    const [some] = sights(picture.bounds, 1);
    const scanned = picking.along(picture, some);
    picking.prepare(picture);
    // With trees and without the same is met.
    const close = (hits: typeof scanned): unknown[] => hits.map(({ distance, corners }) => [distance.toFixed(4), corners.length]);
    expect(close(picking.along(picture, some))).toEqual(close(scanned));
    const size = new Vector3(...picture.bounds.max).distanceTo(new Vector3(...picture.bounds.min));
    const wholes = new Map<string, Mesh>();
    let met = 0;
    for (const ray of sights(picture.bounds, 200)) {
      const [hit] = picking.along(picture, ray, true);
      const core = coreHit(whole, ray);
      expect(hit === undefined).toBe(core === null);
      if (!hit) continue;
      met++;
      expect(Math.abs(hit.distance - core!)).toBeLessThan(size * 1e-5);
      if (met > 40) continue;
      const maker = makerOf(made.newest, { corners: hit.corners, copy: hit.copy, point: null })!;
      // The node has it itself, where it is seen, and each node on the way is wired to the one before.
      const own = wholes.get(maker.node) ?? withoutCopies(resultOf(made.newest.run.nodes.get(maker.node))).mesh!;
      wholes.set(maker.node, own);
      const again = coreHit(own, ray);
      expect(again).not.toBeNull();
      expect(Math.abs(again! - hit.distance)).toBeLessThan(size * 1e-5);
      const way = [maker.node, ...maker.through];
      expect(made.newest.shown).toContain(way.at(-1));
      for (const [i, id] of way.slice(1).entries())
        expect(made.newest.plan.document.wires.some(({ from, to }) => from[0] === way[i] && to[0] === id)).toBe(true);
    }
    expect(met).toBeGreaterThan(10);
  });

  test('a rope behind a material and an output is chosen, not what it passes through; lines through both find both', async () => {
    const made = await newest(parseDocument(readFileSync(resolve(folder, 'quay-rail-ropes.json'), 'utf8')));
    const types = new Map(made.newest.plan.document.nodes.map(({ id, type }) => [id, type]));
    const found = new Set<string>();
    const picking = new Picking();
    picking.prepare(made.picture);
    for (const ray of sights(made.picture.bounds!, 400)) {
      const [hit] = picking.along(made.picture, ray, true);
      const maker = hit && makerOf(made.newest, { corners: hit.corners, copy: hit.copy, point: null });
      if (maker) found.add(`${types.get(maker.node)} ${maker.through.map((id) => types.get(id)).join(' ')}`);
    }
    expect([...found].sort()).toEqual(['skin.rope mesh.material flow.output', 'skin.tube mesh.material flow.output']);
  });

  const copied = {
    format: 'filaxis-graph',
    version: 1,
    title: 'Seen',
    nodes: [
      { id: 'line', type: 'lay.line', settings: { to: [4, 0, 0], points: 5 } },
      { id: 'ball', type: 'lay.sphere', settings: { radius: 0.2, divisions: 3 } },
      { id: 'copies', type: 'place.copies', settings: {} },
      { id: 'tube', type: 'skin.tube', settings: { radius: 0.05 } },
      { id: 'out', type: 'flow.output', settings: {} },
    ],
    wires: [
      { from: ['line', 'curves'], to: ['copies', 'points'] },
      { from: ['ball', 'mesh'], to: ['copies', 'objects'] },
      { from: ['line', 'curves'], to: ['tube', 'curves'] },
      { from: ['copies', 'copies'], to: ['out', 'any'] },
      { from: ['tube', 'mesh'], to: ['out', 'any'] },
    ],
  };

  test('of copies the node that places them and the copy are told, and everything behind it comes after', async () => {
    const made = await newest(copied as never);
    const hits = new Picking().along(made.picture, new Ray(new Vector3(2, 0, 5), new Vector3(0, 0, -1)));
    const makers = hits.map(({ corners, copy }) => makerOf(made.newest, { corners, copy, point: null })!);
    expect(makers[0]).toMatchObject({ node: 'copies', kind: 'copies', per: 'copy', element: 2 });
    expect(new Set(makers.map(({ node }) => node))).toEqual(new Set(['copies', 'tube']));
    expect(hits.map(({ distance }) => distance)).toEqual([...hits.map(({ distance }) => distance)].sort((a, b) => a - b));
  });

  test('a point of a curve tells the curve and who drew it', async () => {
    const made = await newest(copied as never);
    expect(makerOf(made.newest, { corners: null, copy: null, point: [3, 0, 0] })).toMatchObject({ node: 'line', kind: 'curves', per: 'curve', element: 0 });
    expect(makerOf(made.newest, { corners: null, copy: null, point: [3, 0, 1] })).toBeNull();
  });

  test('outlines are of what is to be seen: a body that was moved on is not where it was', async () => {
    const made = await newest(copied as never);
    expect(outlineOf(made.newest, { node: 'tube' })!.indices.length).toBeGreaterThan(100);
    expect(outlineOf(made.newest, { node: 'copies' })!.matrices!.length).toBe(5 * 16);
    // The ball itself is not in the picture, only its copies are.
    expect(outlineOf(made.newest, { node: 'ball' })).toBeNull();
    expect(outlineOf(made.newest, { node: 'line' })).toMatchObject({ bounds: { min: [0, 0, 0], max: [4, 0, 0] } });
  });

  test('a box has twelve sharp edges and no border; a sheet has a border alone', async () => {
    const one = async (type: string, settings: object) =>
      (await newest({ format: 'filaxis-graph', version: 1, title: 'One', nodes: [{ id: 'a', type, settings }], wires: [] } as never)).newest;
    const edges = async (type: string, settings: object, sharp: boolean): Promise<number> => edgesShown(await one(type, settings), { sharp }).length / 6;
    expect(await edges('lay.box', {}, false)).toBe(0);
    expect(await edges('lay.box', {}, true)).toBe(12);
    expect(await edges('lay.grid', { divisions: 4 }, true)).toBe(16);
  });
});
