import { joinEnds } from '../../curves/closing.js';
import type { Geometry } from '../../geometry/geometry.js';
import { joinGeometries } from '../../geometry/join.js';
import { faceCount } from '../../geometry/mesh.js';
import { affineFrom, transformGeometry, type Affine } from '../../geometry/transform.js';
import type { DataSetting } from '../../graph/settings.js';
import type { Claimed } from '../../graph/work.js';
import { weldPoints } from '../../mesh/weld.js';
import { defineNode } from '../../graph/define.js';
import { families } from '../families.js';

export const transform = defineNode({
  type: 'shape.transform',
  label: 'Transform',
  family: families.shape,
  summary: 'Moves, turns and sizes whatever comes in.',
  help: 'Sizes first, then turns about X, Y and Z, both about the pivot, then moves. Works on curves, points, meshes and copies. Frames turn along; a mirrored size keeps faces pointing outwards.',
  keywords: ['move', 'rotate', 'scale', 'translate', 'turn', 'size', 'mirror'],
  inputs: [{ name: 'any', kinds: ['any'] }],
  outputs: [{ name: 'any', kind: 'any' }],
  passes: true,
  where: 'point',
  settings: {
    move: { kind: 'vector', label: 'Move', help: 'How far it moves along each axis.', default: [0, 0, 0], unit: 'm', step: 0.01 },
    turn: { kind: 'vector', label: 'Turn', help: 'Degrees about X, then Y, then Z.', default: [0, 0, 0], unit: '°', step: 1 },
    size: { kind: 'vector', label: 'Size', help: 'Factor along each axis.', default: [1, 1, 1], step: 0.01, direction: true },
    pivot: { kind: 'vector', label: 'Pivot', help: 'The place that turning and sizing leave where it is.', default: [0, 0, 0], unit: 'm', step: 0.01 },
  },
  run: ({ settings, input }) => ({ any: transformGeometry(input('any')!, affineFrom(settings)) }),
});

/** A mirror plane, as documents give it instead of an axis. */
export interface MirrorPlane {
  readonly point: readonly [number, number, number];
  readonly normal: readonly [number, number, number];
}

const isTriple = (value: unknown): boolean => Array.isArray(value) && value.length === 3 && value.every((n) => typeof n === 'number' && Number.isFinite(n));

const planeSetting: DataSetting<MirrorPlane | null> = {
  kind: 'data',
  edit: 'plane',
  label: 'Plane',
  help: 'Any plane instead of the axis: a point on it and its normal.',
  default: null,
  fault: (value) => {
    if (value === null) return null;
    const { point, normal, ...rest } = value as Partial<MirrorPlane>;
    if (typeof value !== 'object' || Object.keys(rest).length) return { path: '', message: 'it is a point and a normal, or nothing.' };
    if (!isTriple(point)) return { path: '/point', message: `the point is ${JSON.stringify(point)}; it is three finite numbers.` };
    if (!isTriple(normal) || normal!.every((n) => n === 0))
      return { path: '/normal', message: `the normal is ${JSON.stringify(normal)}; it is three finite numbers that are not all 0.` };
    return null;
  },
};

/** p′ = p − 2·((p − point)·n)·n. */
function reflection(point: readonly number[], normal: readonly number[]): Affine {
  const size = Math.hypot(...normal);
  const n = normal.map((value) => value / size);
  const d = n.reduce((sum, value, k) => sum + value * point[k], 0);
  return [0, 1, 2].flatMap((row) => [...[0, 1, 2].map((k) => (row === k ? 1 : 0) - 2 * n[row] * n[k]), 2 * d * n[row]]) as unknown as Affine;
}

export const mirror = defineNode({
  type: 'shape.mirror',
  label: 'Mirror',
  family: families.shape,
  summary: 'Mirrors whatever comes in at a plane, with or without the original.',
  help: 'The plane is square to an axis at an offset, or any plane given by a point and a normal. Faces keep pointing outwards. With a weld distance above 0, curves whose ends meet at the plane are chained, and points of meshes that meet become one.',
  keywords: ['symmetry', 'reflect', 'flip', 'copy', 'half'],
  inputs: [{ name: 'any', kinds: ['any'] }],
  outputs: [{ name: 'any', kind: 'any' }],
  passes: true,
  where: 'none',
  settings: {
    axis: { kind: 'choice', label: 'Axis', help: 'The axis that the plane is square to.', default: 'x', choices: { x: 'X', y: 'Y', z: 'Z' } },
    offset: { kind: 'number', label: 'Offset', help: 'Where on the axis the plane stands.', default: 0, unit: 'm', step: 0.01 },
    plane: planeSetting,
    keep: { kind: 'boolean', label: 'Keep the original', help: 'Both halves, or only the mirrored one.', default: true },
    weld: { kind: 'number', label: 'Weld', help: 'Joins what meets within this distance; 0 joins nothing.', default: 0, min: 0, unit: 'm', step: 0.0005 },
  },
  run: ({ settings, input, claim }) => {
    const given = input('any')!;
    const { axis, offset, plane, keep, weld } = settings;
    const normal = plane?.normal ?? ['x', 'y', 'z'].map((name) => (name === axis ? 1 : 0));
    const point = plane?.point ?? normal.map((value) => value * offset);
    claim(sizeOf(given, 2));
    const mirrored = transformGeometry(given, reflection(point, normal));
    const both = keep ? joinGeometries([given, mirrored]) : mirrored;
    if (!(weld > 0)) return { any: both };
    if (both.type === 'curves') return { any: joinEnds(both, weld) };
    return { any: both.type === 'mesh' ? weldPoints(both, weld) : both };
  },
});

/** The size of `times` of a geometry together. */
function sizeOf(geometry: Geometry, times: number): Claimed {
  if (geometry.type === 'copies') return { copies: geometry.object.length * times };
  if (geometry.type === 'mesh') return { vertices: geometry.pointCount * times, faces: faceCount(geometry) * times };
  return { points: (geometry.positions.length / 3) * times };
}

/** Copies of a row that are made before they are joined. */
const joinedAtOnce = 2000;

export const row = defineNode({
  type: 'shape.row',
  label: 'Row of copies',
  family: families.shape,
  summary: 'So many of the same in a row, each a step and a turn on from the last.',
  help: 'The first stays where it is (the middle one when centred); each further one is moved by the step and turned about the origin of the row by the turn. The result is one geometry of the same kind.',
  keywords: ['array', 'repeat', 'duplicate', 'series', 'linear', 'copies'],
  inputs: [{ name: 'any', kinds: ['any'] }],
  outputs: [{ name: 'any', kind: 'any' }],
  passes: true,
  where: 'none',
  settings: {
    count: { kind: 'integer', label: 'Count', help: 'How many there are.', default: 3, min: 1, max: 1_000_000 },
    step: { kind: 'vector', label: 'Step', help: 'From one to the next.', default: [1, 0, 0], unit: 'm', step: 0.01 },
    turn: { kind: 'vector', label: 'Turn', help: 'Degrees about X, then Y, then Z from one to the next.', default: [0, 0, 0], unit: '°', step: 1 },
    centred: { kind: 'boolean', label: 'Centred', help: 'The row’s middle stays where the first would be.', default: false },
  },
  run: ({ settings, input, claim, progress }) => {
    const given = input('any')!;
    const { count, step, turn, centred } = settings;
    claim(sizeOf(given, count));
    const from = centred ? -(count - 1) / 2 : 0;
    const one = (i: number): Geometry => {
      const n = i + from;
      if (n === 0) return given;
      return transformGeometry(given, affineFrom({ move: step.map((value) => value * n), turn: turn.map((value) => value * n), size: [1, 1, 1], pivot: [0, 0, 0] })); // prettier-ignore
    };
    // Joined some at a time, so that no more than those are apart at once.
    const joined: Geometry[] = [];
    for (let i = 0; i < count; i += joinedAtOnce) {
      progress(i / count);
      joined.push(joinGeometries(Array.from({ length: Math.min(joinedAtOnce, count - i) }, (_, k) => one(i + k))));
    }
    return { any: joined.length === 1 ? joined[0] : joinGeometries(joined) };
  },
});
