import { describe, expect, test } from 'vitest';
import { faceAreas, faceCount, type Mesh } from '../../src/index.js';
import { measureChain, runChain } from '../graph.js';
import { places } from '../reference/reference.js';

const made = async (type: string, settings: object = {}): Promise<Mesh> => (await runChain([[type, settings as Record<string, unknown>]])).mesh;
const figures = (type: string, settings: object = {}) => measureChain([[type, settings as Record<string, unknown>]]);
const problem = async (type: string, settings: object): Promise<string> =>
  (await runChain([[type, settings as Record<string, unknown>]])).report.problems[0].message;

describe('Box', () => {
  test('is closed, faces outwards, and has the volume and area of its size', async () => {
    for (const divisions of [1, 3, 8]) {
      const found = await figures('lay.box', { size: [2, 3, 4], divisions });
      expect(found).toMatchObject({ faces: 6 * divisions ** 2, boundaryEdges: 0, nonManifoldEdges: 0, euler: 2, parts: 1 });
      expect([found.volume, found.area]).toEqual([expect.closeTo(24, 4), expect.closeTo(2 * (6 + 8 + 12), 4)]);
      expect(found.bounds).toEqual({ min: [-1, -1.5, -2], max: [1, 1.5, 2] });
      expect(found.uv).toMatchObject({ min: [0, 0], max: [1, 1] });
    }
  });
  test('has the normal of its side at every vertex', async () => {
    const mesh = await made('lay.box', { size: [1, 2, 3], divisions: 2 });
    const normals = places(mesh.attributes.get('normal')!.data);
    const areas = places(faceAreas(mesh));
    areas.forEach((area, f) => {
      const size = Math.hypot(...area);
      for (let j = 0; j < 4; j++) normals[mesh.corners[f * 4 + j]].forEach((value, k) => expect(value).toBeCloseTo(area[k] / size, 6));
    });
  });
  test('has UVs in metres a tile when asked, none stretched', async () => {
    for (const [type, settings] of [['lay.box', { size: [3, 0.5, 1] }], ['lay.grid', { size: [6, 2] }]] as const) {
      const { uv } = await figures(type, { ...settings, uvScale: 0.25 });
      expect(uv!.stretch.map((value) => Math.round(value * 1e4) / 1e4)).toEqual([1, 1]);
      expect(uv!.max[0]).toBeCloseTo(settings.size[0] / 0.25, 5);
    }
  }); // prettier-ignore
  test('of no extent is refused, naming the axis', async () => {
    expect(await problem('lay.box', { size: [1, 0, 1] })).toContain('Size is 0 m along y; it must be more than 0.');
    expect(await problem('lay.grid', { size: [1, -2] })).toContain('Size is -2 m along z');
    expect(await problem('lay.grid', { size: [1, 2, 3] })).toContain('it accepts two finite numbers [x, z].');
    expect(await problem('lay.grid', { divisions: [1, 0] })).toContain('Divisions [1] is 0; it accepts whole numbers from 1 to 10000');
  });
});

describe('Sphere', () => {
  test('its points lie on it, its faces nearly; closed, facing outwards (Euler: 2)', async () => {
    for (const [kind, divisions, faces] of [['icosphere', 3, 180], ['icosphere', 4, 320], ['icosphere', 12, 2880], ['rings', 4, 128], ['rings', 12, 1152]] as const) {
      const found = await figures('lay.sphere', { radius: 2, kind, divisions });
      expect(found).toMatchObject({ faces, boundaryEdges: 0, nonManifoldEdges: 0, euler: 2, degenerateFaces: 0 });
      for (const p of places((await made('lay.sphere', { radius: 2, kind, divisions })).positions)) expect(Math.hypot(...p)).toBeCloseTo(2, 5);
      const volume = (4 / 3) * Math.PI * 8;
      expect(found.volume / volume).toBeLessThan(1);
      expect(found.volume / volume).toBeGreaterThan(1 - 4 / divisions ** 2);
    }
  }); // prettier-ignore
  test('as an icosphere it has triangles of nearly one size, whatever it is divided by', async () => {
    for (const divisions of [5, 8, 9]) {
      const areas = places(faceAreas(await made('lay.sphere', { divisions }))).map((area) => Math.hypot(...area));
      expect(Math.max(...areas) / Math.min(...areas)).toBeLessThan(2);
    }
  });
  test('its UVs run once round and from pole to pole, without a face that goes back over them', async () => {
    for (const kind of ['icosphere', 'rings']) {
      const mesh = await made('lay.sphere', { kind, divisions: 6 });
      const uv = mesh.attributes.get('uv')!.data;
      for (let f = 0; f < faceCount(mesh); f++) {
        const [from, to] = mesh.faceStarts ? [mesh.faceStarts[f], mesh.faceStarts[f + 1]] : [f * mesh.uniform, (f + 1) * mesh.uniform];
        const us = Array.from(mesh.corners.subarray(from, to), (v) => uv[v * 2]);
        expect(Math.max(...us) - Math.min(...us)).toBeLessThan(0.3);
      }
    }
  });
});

describe('Cylinder', () => {
  test('stands about the origin with the volume of a prism of its sides; a cone with a third of it', async () => {
    const [sides, radius, height] = [24, 0.5, 3];
    const base = (sides / 2) * Math.sin((2 * Math.PI) / sides) * radius ** 2;
    const post = await figures('lay.cylinder', { radius, height, sides });
    expect([post.volume, post.euler, post.boundaryEdges]).toEqual([expect.closeTo(base * height, 4), 2, 0]);
    expect([post.bounds!.min[1], post.bounds!.max[1]]).toEqual([-1.5, 1.5]);
    const cone = await figures('lay.cylinder', { radius, radiusTop: 0, height, sides });
    expect([cone.volume, cone.boundaryEdges]).toEqual([expect.closeTo((base * height) / 3, 4), 0]);
    const frustum = await figures('lay.cylinder', { radius, radiusTop: 0.25, height, sides });
    // A frustum holds (1 + q + q²)/3 of the prism, q the ratio of its radii (common practice).
    expect(frustum.volume).toBeCloseTo((base * height * (1 + 0.5 + 0.25)) / 3, 4);
    expect((await figures('lay.cylinder', { caps: 'open' })).boundaryEdges).toBe(48);
  });
});

describe('Grid and Terrain', () => {
  test('a grid lies level, looks up, and is divided as asked', async () => {
    const found = await figures('lay.grid', { size: [4, 6], divisions: [2, 3] });
    expect(found).toMatchObject({ faces: 6, vertices: 12, boundaryEdges: 10, euler: 1, bounds: { min: [-2, 0, -3], max: [2, 0, 3] } });
    const areas = places(faceAreas(await made('lay.grid', { divisions: 5 })));
    expect(areas).toHaveLength(25);
    for (const [, y] of areas) expect(y).toBeGreaterThan(0);
  });
  test('a terrain stays within its height, is the same for the same seed, and rougher the rougher it is', async () => {
    const ground = async (settings: object): Promise<Mesh> => made('lay.terrain', { divisions: 60, ...settings });
    const heights = (mesh: Mesh): number[] => places(mesh.positions).map(([, y]) => y);
    const one = heights(await ground({ seed: 5 }));
    expect(heights(await ground({ seed: 5 }))).toEqual(one);
    expect(heights(await ground({ seed: 6 }))).not.toEqual(one);
    expect(Math.max(...one.map(Math.abs))).toBeLessThanOrEqual(6);
    expect(Math.max(...one) - Math.min(...one)).toBeGreaterThan(3);
    // How bent the ground is from square to square, as a share of its relief.
    const bent = async (roughness: number): Promise<number> => {
      const all = heights(await ground({ roughness }));
      const bends = all.slice(2).map((y, i) => Math.abs(y - 2 * all[i + 1] + all[i]));
      return bends.reduce((sum, value) => sum + value, 0) / (Math.max(...all) - Math.min(...all));
    };
    const [smooth, middling, rough] = [await bent(0), await bent(0.4), await bent(0.8)];
    expect([middling > 1.5 * smooth, rough > 1.5 * middling]).toEqual([true, true]);
    expect((await figures('lay.terrain', { divisions: 20, height: 0 })).area).toBeCloseTo(160 * 120, 0);
  });
  test('more faces than the limit allows are refused before memory is spent', async () => {
    expect(await problem('lay.grid', { divisions: 10_000 })).toMatch(/100 000 000 faces|100,000,000 faces|limit/);
  });
});
