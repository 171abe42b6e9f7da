import type { InstancedMesh } from 'three';
import { Matrix4, Vector3 } from 'three';
import { describe, expect, test } from 'vitest';
import { makePoints, placeCopies, box, constantField } from '@filaxis/core';
import { frameArrows } from '../src/app/ropewalk/view3d/stage-objects';

describe('arrows of frames', () => {
  const tangents = Float32Array.of(0, 0, 1, 0.6, 0, 0.8, 0, 1, 0);
  const normals = Float32Array.of(0, 1, 0, 0, 1, 0, 0.6, 0, 0.8);
  const positions = Float32Array.of(0, 0, 0, 1, 0, 0, 2, 0, 0);
  test('show where X, Y and Z of an object placed there go', () => {
    const inks = { side: '#a00', normal: '#0a0', tangent: '#00a' } as Parameters<typeof frameArrows>[3];
    const arrows = frameArrows({ points: positions, tangents, normals } as Parameters<typeof frameArrows>[0], 1, 1, inks) as InstancedMesh;
    const points = makePoints(
      positions,
      new Map([
        ['tangent', { carrier: 'point' as const, size: 3, data: tangents }],
        ['normal', { carrier: 'point' as const, size: 3, data: normals }],
      ]),
    );
    const { matrices } = placeCopies(points, [box([1, 1, 1], 1)], {
      pick: 'inTurn',
      weights: [],
      seed: 1,
      size: constantField(1),
      turn: constantField(0),
      lean: constantField(0),
      toward: constantField(0),
      axes: null,
      align: 'frame',
    });
    const matrix = new Matrix4();
    expect(arrows.count).toBe(9);
    for (let point = 0; point < 3; point++)
      for (let axis = 0; axis < 3; axis++) {
        arrows.getMatrixAt(point * 3 + axis, matrix);
        // An arrow is drawn along its own Y.
        const way = new Vector3().setFromMatrixColumn(matrix, 1);
        const placed = matrices.subarray(point * 16 + axis * 4, point * 16 + axis * 4 + 3);
        way.toArray().forEach((value, k) => expect(value).toBeCloseTo(placed[k], 5));
      }
  });

  test('stand as far apart as they do not crowd each other, whichever way the curve goes', () => {
    const inks = { side: '#a00', normal: '#0a0', tangent: '#00a' } as Parameters<typeof frameArrows>[3];
    for (const [x, y, z] of [
      [0.01, 0, 0],
      [0, 0.01, 0],
      [0, 0, -0.01],
      [0.006, -0.008, 0],
    ]) {
      const points = Float32Array.from({ length: 300 }, (_, i) => 5 + Math.floor(i / 3) * [x, y, z][i % 3]);
      const along = Float32Array.from({ length: 300 }, (_, i) => [0, 0, 1][i % 3]);
      const picture = { points, tangents: along, normals: along } as Parameters<typeof frameArrows>[0];
      // Six tenths of an arrow are nearly six steps; asked for every fifth, it is every fifth.
      expect([0, 5].map((wanted) => (frameArrows(picture, 0.095, wanted, inks) as InstancedMesh).count / 3)).toEqual([17, 20]);
    }
  });
});
