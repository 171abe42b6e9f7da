import { axisSetting, axisWays } from '../settings/common.js';
import { anyIn, anyOut } from '../../definition/ports.js';
import { joinEnds } from '../../curves/change/closing.js';
import { joinGeometries } from '../../geometry/join.js';
import { transformGeometry, type Affine } from '../../geometry/transform.js';
import type { DataSetting } from '../../definition/settings.js';
import { weldPoints } from '../../mesh/change/weld.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { boxOf, moved } from '../../definition/sample.js';
import { sizeOf } from './repeated.js';

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

export default defineNode({
  type: 'shape.mirror',
  label: 'Mirror',
  family: families.shape,
  summary: 'Mirrors whatever comes in at a plane, with or without the original.',
  help: 'The plane is square to an axis at an offset, or any plane given by a point and a normal. Faces keep pointing outwards. With a weld distance, curves whose ends meet at the plane are chained, and points of meshes that meet become one.',
  keywords: ['symmetry', 'reflect', 'flip', 'copy', 'half'],
  asks: {
    'mirror it': {},
    'both halves': { keep: true },
    'mirror front to back': { axis: 'z' },
  },
  telling: ['axis'],
  sample: { given: { any: moved(boxOf(0.4, 0.4, 0.4), 1, 0, 0) } },
  usualAfter: { mesh: 5 },
  handles: [
    { kind: 'length', setting: 'offset', along: { by: 'axis', ways: axisWays }, without: 'plane' },
    { kind: 'plane', setting: 'plane' },
  ],
  inputs: [anyIn],
  outputs: [anyOut],
  passes: true,
  where: 'none',
  settings: {
    axis: { ...axisSetting, help: 'The axis that the plane is square to.', default: 'x' },
    offset: { kind: 'number', label: 'Offset', help: 'Where on the axis the plane stands.', default: 0, unit: 'm', step: 0.01 },
    plane: planeSetting,
    keep: { kind: 'boolean', label: 'Keep the original', help: 'Both halves, or only the mirrored one.', default: true },
    weld: {
      kind: 'number',
      label: 'Weld',
      help: 'Joins what meets within this distance.',
      default: 0,
      min: 0,
      unit: 'm',
      step: 0.0005,
      special: { called: 'joins nothing', instead: 0.001 },
    },
  },
  run: (context) => {
    const { settings, input, claim } = context;
    const given = input('any');
    const { axis, offset, plane, keep, weld } = settings;
    const normal = plane?.normal ?? ['x', 'y', 'z'].map((name) => (name === axis ? 1 : 0));
    const point = plane?.point ?? normal.map((value) => value * offset);
    claim(sizeOf(given, 2));
    const mirrored = transformGeometry(given, reflection(point, normal));
    const both = keep ? joinGeometries([given, mirrored]) : mirrored;
    if (!(weld > 0)) return { any: both };
    if (both.type === 'curves') return { any: joinEnds(both, weld, context) };
    return { any: both.type === 'mesh' ? weldPoints(both, weld) : both };
  },
});
