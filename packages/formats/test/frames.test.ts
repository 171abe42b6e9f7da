import { unzipSync } from 'fflate';
import { validateBytes } from 'gltf-validator';
import { WebIO } from '@gltf-transform/core';
import { describe, expect, test } from 'vitest';
import { affineFrom, makeCopies, makePoints, refreshNormals, transformGeometry, type GeometrySet, type Mesh } from '@filaxis/core';
import { frameWriter, framesEnding, type WriteOptions } from '../src/index.js';
import { gatherPieces } from '../src/textSink.js';
import { engineMeshes, usdMeshes } from './foreign.js';
import { colouredTube } from './shapes.js';

/** A tube that goes up a metre a frame; of the first frame there is nothing. */
async function written(ending: string, options: WriteOptions = {}): Promise<Uint8Array> {
  const { mesh } = await colouredTube();
  const at = (frame: number): GeometrySet => ({
    mesh: transformGeometry(mesh!, affineFrom({ move: [0, frame, 0], turn: [0, 0, 0], size: [1, 1, 1], pivot: [0, 0, 0] })) as Mesh,
  });
  const { out, bytes } = gatherPieces();
  const writer = frameWriter(out, ending, 'post', { from: 0, to: 3, rate: 24 }, options);
  for (let frame = 0; frame <= 3; frame++) await writer.add(frame, frame ? at(frame) : {});
  await writer.end();
  return bytes();
}

test('an archive has a file for each frame that foreign readers take, and the same frames give the same bytes', async () => {
  const bytes = await written('.glb');
  expect(framesEnding('.glb')).toBe('.zip');
  const files = unzipSync(bytes);
  expect(Object.keys(files)).toEqual(['post.0000.glb', 'post.0001.glb', 'post.0002.glb', 'post.0003.glb', 'frames.json']);
  for (const name of Object.keys(files).filter((each) => each.endsWith('.glb'))) expect((await validateBytes(files[name])).issues.numErrors).toBe(0);
  expect(await written('.glb')).toEqual(bytes);
});

test('USD has every frame in one file: a foreign reader finds them all, each where it is at its time', async () => {
  const bytes = await written('.usda', { up: 'z', unit: 'cm' });
  expect(framesEnding('.usda')).toBe('.usda');
  const found = await usdMeshes(bytes);
  expect(found).toHaveLength(3);
  const text = new TextDecoder().decode(bytes);
  expect(text).toContain('upAxis = "Z"');
  expect(text.match(/"inherited"/g)).toHaveLength(3);
  expect(text.match(/def Material "iron_0"/g)).toHaveLength(1);
  // Up is z, and a metre is a hundred.
  const lowest = found.map(({ mesh }) => Math.min(...Array.from(mesh.points).filter((_, i) => i % 3 === 2)));
  expect(lowest).toEqual([100, 200, 300].map((value) => expect.closeTo(value, 3) as number));
});

test('what a format cannot hold is told by the frame', async () => {
  await expect(written('.svg')).rejects.toThrow('Frame 1: .svg cannot hold mesh.');
});

describe('frames as morph targets of one file', () => {
  const bending = async (frames: readonly number[], more: (frame: number, set: GeometrySet) => GeometrySet = (_, set) => set): Promise<Uint8Array> => {
    const { mesh } = await colouredTube();
    const { out, bytes } = gatherPieces();
    const writer = frameWriter(out, '.glb', 'post', { from: frames[0], to: frames.at(-1)!, rate: 25 }, { together: true });
    // Higher places go further to the side: no move of the whole.
    for (const frame of frames) {
      const positions = mesh!.positions.map((value, i) => (i % 3 ? value : value + 0.1 * frame * mesh!.positions[i + 1] ** 2));
      await writer.add(frame, more(frame, { mesh: refreshNormals({ ...mesh!, positions }) }));
    }
    await writer.end();
    return bytes();
  };

  test('are valid, and a foreign reader finds each frame where it is at its time, and halfway between two the mean of both', async () => {
    expect([framesEnding('.glb', true), framesEnding('.obj', true)]).toEqual(['.glb', '.zip']);
    const bytes = await bending([10, 11, 12, 13]);
    const { issues } = await validateBytes(bytes);
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
    const read = await new WebIO().readBinary(bytes);
    const root = read.getRoot();
    const [primitive] = root.listMeshes()[0].listPrimitives();
    const [sampler] = root.listAnimations()[0].listSamplers();
    const times = [...sampler.getInput()!.getArray()!];
    expect(times).toEqual([0, 1, 2, 3].map((i) => Math.fround(i / 25)));
    const weights = sampler.getOutput()!.getArray()!;
    const targets = primitive.listTargets();
    expect(targets.map((target) => target.getName())).toEqual(['11', '12', '13']);
    // What glTF says a reader does: the base, and of each target as much as its weight.
    const at = (time: number, semantic: string): number[] => {
      const i = Math.min(2, Math.floor(time));
      const base = [...primitive.getAttribute(semantic)!.getArray()!];
      targets.forEach((target, t) => {
        const weight = weights[i * 3 + t] + (time - i) * (weights[(i + 1) * 3 + t] - weights[i * 3 + t]);
        Array.from<number>(target.getAttribute(semantic)!.getArray()!).forEach((value, k) => (base[k] += weight * value));
      });
      return base;
    };
    const alone = async (frame: number): Promise<number[]> => {
      const one = await new WebIO().readBinary(await bending([frame]));
      expect(one.getRoot().listAnimations()).toEqual([]);
      return [...one.getRoot().listMeshes()[0].listPrimitives()[0].getAttribute('POSITION')!.getArray()!];
    };
    for (const [i, frame] of [10, 11, 12, 13].entries())
      expect(at(i, 'POSITION')).toEqual((await alone(frame)).map((value) => expect.closeTo(value, 5) as number));
    const [b, c] = [await alone(11), await alone(12)];
    expect(at(1.5, 'POSITION')).toEqual(b.map((value, k) => expect.closeTo((value + c[k]) / 2, 5) as number));
    const normals = at(2, 'NORMAL');
    for (let v = 0; v < normals.length; v += 3) expect(Math.hypot(normals[v], normals[v + 1], normals[v + 2])).toBeCloseTo(1, 4);
    const [shown] = await engineMeshes(bytes);
    const manager = shown.morphTargetManager!;
    expect(manager.numTargets).toBe(3);
    for (let t = 0; t < 3; t++) {
      const frame = await alone(11 + t);
      expect([...manager.getTarget(t).getPositions()!]).toEqual(frame.map((value) => expect.closeTo(value, 5) as number));
    }
    expect(await bending([10, 11, 12, 13])).toEqual(bytes);
  });

  test('copies are one mesh in it, so that they may move too', async () => {
    const object = (await colouredTube()).mesh!;
    const copies = (frame: number): GeometrySet => ({ copies: makeCopies([object], Uint32Array.of(0, 0), Float32Array.from([0, frame].flatMap((x) => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, 0, 0, 1]))) }); // prettier-ignore
    const read = await new WebIO().readBinary(await bending([1, 2], copies));
    const [primitive] = read.getRoot().listMeshes()[0].listPrimitives();
    const moved = Array.from<number>(primitive.listTargets()[0].getAttribute('POSITION')!.getArray()!);
    const half = moved.length / 2;
    expect([Math.max(...moved.slice(0, half).map(Math.abs)), Math.min(...moved.slice(half).filter((_, i) => i % 3 === 0))]).toEqual([0, expect.closeTo(1, 5)]);
  });

  test('what cannot be a target is told by the frame, with what else to do', async () => {
    const fewer = (frame: number, set: GeometrySet): GeometrySet => (frame === 3 ? { mesh: { ...set.mesh!, corners: set.mesh!.corners.slice(4) } } : set);
    await expect(bending([2, 3], fewer)).rejects.toThrow(
      'Frame 3: its faces are not those of frame 2, as morph targets need them. Write a file for each frame, or USD',
    );
    await expect(bending([2, 3], (frame, set) => (frame === 2 ? set : { points: makePoints(Float32Array.of(0, 0, 0)) }))).rejects.toThrow(
      'Frame 3: there is no mesh, and morph targets move one.',
    );
    const points = makePoints(Float32Array.of(0, 0, 0));
    await expect(bending([2, 3], (_, set) => ({ ...set, points }))).rejects.toThrow('Frame 2: morph targets are of meshes alone, and there are points too.');
  });
});
