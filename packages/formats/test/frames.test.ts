import { unzipSync } from 'fflate';
import { validateBytes } from 'gltf-validator';
import { expect, test } from 'vitest';
import { affineFrom, transformGeometry, type GeometrySet, type Mesh } from '@filaxis/core';
import { frameWriter, framesEnding, type WriteOptions } from '../src/index.js';
import { gatherPieces } from '../src/textSink.js';
import { usdMeshes } from './foreign.js';
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
  writer.end();
  return bytes();
}

test('an archive has a file for each frame that foreign readers take, and the same frames give the same bytes', async () => {
  const bytes = await written('.glb');
  expect(framesEnding('.glb')).toBe('.zip');
  const files = unzipSync(bytes);
  expect(Object.keys(files)).toEqual(['post.0001.glb', 'post.0002.glb', 'post.0003.glb', 'frames.json']);
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
