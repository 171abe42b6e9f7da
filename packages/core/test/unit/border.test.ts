import { describe, expect, test } from 'vitest';
import { edgesOf, hasBorder, makeMesh, randomAt, type Mesh } from '../../src/index.js';
import { runChain } from '../graph.js';

/** The same by the table of all edges. */
const byEdges = (mesh: Mesh): boolean => {
  const { sides, count } = edgesOf(mesh);
  for (let e = 0; e < count; e++) if (sides[e] === 1) return true;
  return false;
};

const meshOf = async (type: string, settings: Readonly<Record<string, unknown>>): Promise<Mesh> => (await runChain([[type, settings]])).mesh;

describe('whether a surface has a border', () => {
  test('closed bodies have none, and lose that with any of their faces', async () => {
    for (const [type, settings] of [['lay.box', { divisions: 2 }], ['lay.sphere', { kind: 'icosphere', divisions: 2 }], ['lay.cylinder', { sides: 40 }]] as const) {
      const mesh = await meshOf(type, settings);
      expect(hasBorder(mesh)).toBe(false);
      const faces = edgesOf(mesh).count && (mesh.uniform ? mesh.corners.length / mesh.uniform : mesh.faceStarts!.length - 1);
      for (let gone = 0; gone < faces; gone += Math.ceil(faces / 9)) {
        const starts = mesh.faceStarts ?? Uint32Array.from({ length: faces + 1 }, (_, f) => f * mesh.uniform);
        const kept = Array.from({ length: faces }, (_, f) => f).filter((f) => f !== gone);
        const corners = kept.flatMap((f) => [...mesh.corners.subarray(starts[f], starts[f + 1])]);
        const faceStarts = new Uint32Array(kept.length + 1);
        kept.forEach((f, i) => (faceStarts[i + 1] = faceStarts[i] + starts[f + 1] - starts[f]));
        expect(hasBorder({ ...mesh, corners: Uint32Array.from(corners), uniform: 0, faceStarts })).toBe(true);
      }
    }
  }); // prettier-ignore

  test('random faces, some of them of many corners: as the table of edges has it', () => {
    let drawn = 0;
    const random = (): number => randomAt(5, drawn++);
    let [open, closed] = [0, 0];
    for (let round = 0; round < 400; round++) {
      const points = 3 + Math.floor(random() * 6);
      // Faces twice, so that many sides are there twice, and here and there one more.
      const faces = Array.from({ length: 1 + Math.floor(random() * 4) }, () => Array.from({ length: 3 + Math.floor(random() * 3) }, (_, i) => (i * 2 + Math.floor(random() * 2)) % points));
      const all = random() < 0.6 ? [...faces, ...faces.map((face) => [...face].reverse())] : faces;
      const faceStarts = Uint32Array.from([0, ...all.map((_, f) => all.slice(0, f + 1).reduce((sum, face) => sum + face.length, 0))]);
      // Points of one vertex each, or of several, as along seams.
      const sides = 1 + Math.floor(random() * 12);
      const pointOf = Uint32Array.from({ length: points * sides }, (_, v) => v % points);
      const corners = Uint32Array.from(all.flat(), (point) => point + points * Math.floor(random() * sides));
      const mesh = makeMesh({ positions: new Float32Array(pointOf.length * 3), corners, faceStarts, pointOf: sides > 1 ? pointOf : null, pointCount: points });
      expect(hasBorder(mesh)).toBe(byEdges(mesh));
      if (hasBorder(mesh)) open++;
      else closed++;
    }
    expect(Math.min(open, closed)).toBeGreaterThan(40);
  }); // prettier-ignore

  test('a fan of a thousand faces about one point is looked through quickly, closed and open', async () => {
    const drum = await meshOf('lay.cylinder', { sides: 1000, caps: 'domed' });
    expect(hasBorder(drum)).toBe(byEdges(drum));
    const open = await meshOf('lay.cylinder', { sides: 1000, caps: 'open' });
    expect(hasBorder(open)).toBe(true);
  });

  test('nothing has none', () => expect(hasBorder(makeMesh({ positions: new Float32Array(0), corners: new Uint32Array(0), uniform: 4 }))).toBe(false));
});
