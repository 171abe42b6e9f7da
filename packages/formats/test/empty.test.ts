/** Files with nothing in them, as other programs' readers see them. */
import { describe, expect, test } from 'vitest';
import { validateBytes } from 'gltf-validator';
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js';
import { OBJLoader } from 'three/addons/loaders/OBJLoader.js';
import { PLYLoader } from 'three/addons/loaders/PLYLoader.js';
import { STLLoader } from 'three/addons/loaders/STLLoader.js';
import { USDLoader } from 'three/addons/loaders/USDLoader.js';
import { emptyCurves, emptyMesh, makeCopies, measure, type GeometrySet } from '@filaxis/core';
import { frameWriter, readers, writers } from '../src/index.js';
import { colouredTube } from './shapes.js';

const nothing: Readonly<Record<string, GeometrySet>> = {
  'no kind': {},
  'a mesh without faces': { mesh: emptyMesh },
  'curves without points': { curves: emptyCurves },
  'no copies': { copies: makeCopies([], new Uint32Array(0), new Float32Array(0)) },
};
const text = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);

describe('an empty result is a valid file in every format', () => {
  for (const [name, set] of Object.entries(nothing))
    test(name, async () => {
      for (const [ending, write] of Object.entries(writers)) {
        const bytes = await write(set, 'before growth');
        // A drawing without a line is refused by our own reader, and has no other meaning.
        if (ending === '.svg' || !readers[ending]) continue;
        expect([ending, measure(await readers[ending](bytes))]).toEqual([ending, expect.objectContaining({ vertices: 0, faces: 0, points: 0, length: 0 })]);
      }
    });

  test('foreign readers find nothing, and nothing wrong', async () => {
    const [glb, gltf] = [await writers['.glb']({}, 'x'), await writers['.gltf']({}, 'x')];
    for (const bytes of [glb, gltf]) expect((await validateBytes(bytes)).issues).toMatchObject({ numErrors: 0, numWarnings: 0 });
    expect((await new GLTFLoader().parseAsync(glb.slice().buffer, '')).scene.children.every(({ children }) => children.length === 0)).toBe(true);
    expect(new OBJLoader().parse(text(await writers['.obj']({}, 'x'))).children.length).toBeLessThanOrEqual(1);
    expect(new STLLoader().parse((await writers['.stl']({}, 'x')).slice().buffer).attributes['position'].count).toBe(0);
    expect(new PLYLoader().parse((await writers['.ply']({}, 'x')).slice().buffer).attributes['position']?.count ?? 0).toBe(0);
    expect(new USDLoader().parse(text(await writers['.usda']({}, 'x')))).toBeDefined();
  });
});

test('frames of one mesh with moments of nothing: no size while there is nothing', async () => {
  const { mesh } = await colouredTube();
  const pieces: Uint8Array[] = [];
  const writer = frameWriter((bytes) => void pieces.push(bytes.slice()), '.glb', 'late', { from: 0, to: 3, rate: 24 }, { together: true });
  for (const [frame, set] of [{}, { mesh }, { mesh }, {}].entries()) await writer.add(frame, set);
  await writer.end();
  const glb = Buffer.concat(pieces);
  expect((await validateBytes(glb)).issues.numErrors).toBe(0);
  const { animations } = await new GLTFLoader().parseAsync(glb.buffer.slice(glb.byteOffset, glb.byteOffset + glb.length), '');
  const scale = animations[0].tracks.find(({ name }) => name.endsWith('.scale'))!;
  expect([[...scale.times], [...scale.values].filter((_, i) => i % 3 === 0)]).toEqual([[0, 1, 2, 3].map((k) => expect.closeTo(k / 24, 6)), [0, 1, 1, 0]]);
  const none: Uint8Array[] = [];
  const empty = frameWriter((bytes) => void none.push(bytes.slice()), '.glb', 'never', { from: 0, to: 1, rate: 24 }, { together: true });
  for (const frame of [0, 1]) await empty.add(frame, {});
  await empty.end();
  expect((await validateBytes(Buffer.concat(none))).issues.numErrors).toBe(0);
});
