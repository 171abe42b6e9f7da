import type { NodeDefinition } from './define.js';
import type { Setting } from './settings.js';

/** Why lengths and angles of these names have no handle in the 3D view. */
const reasons: readonly (readonly [why: string, names: readonly string[]])[] = [
  ['It is a tolerance or threshold, which has no place in the scene.', ['tolerance', 'deviation', 'distance', 'angle', 'sharp', 'hard', 'keepCorners', 'cornerAngle', 'weld', 'within', 'maxError', 'least', 'greatest', 'reach', 'minGap', 'gap', 'avoid', 'ends']], // prettier-ignore
  ['It is laid out on the UV sheet, not in the scene.', ['uvScale', 'capOffset', 'capTurn', 'tile', 'scale', 'move', 'turn']],
  ['It is the same off every place of a surface or curve, so no one place stands for it.', ['offset', 'padding', 'clearance', 'lift', 'radius', 'bendRadius', 'corner', 'blend', 'cell', 'edge', 'before', 'spacing', 'length', 'width', 'value']], // prettier-ignore
  ['It adds up from one piece or point to the next.', ['rollStep', 'twist', 'curl', 'alternateRoll', 'step']],
  ['It shapes chance or noise, which shows only as a whole.', ['noise', 'tilt', 'shift', 'size']],
  ['It stands for the file’s own unit.', ['scale']],
];

/** Ways that a node seen from, whichever curve it is, has no one place for. */
const facing = 'Each curve is seen from its own middle, so no one place stands for it.';

/** Whether a setting is a place, direction, length or angle, which one expects to take hold of in the scene. */
export const isSpatial = (setting: Setting): boolean =>
  setting.kind === 'vector' || (setting.kind === 'number' && (setting.unit === 'm' || setting.unit === '°'));

/** Why a place, direction, length or angle has no handle; null where it has one or is not spatial; undefined where no reason is given. */
export function whyNoHandle({ handles, settings, type }: NodeDefinition, name: string): string | null | undefined {
  const setting = settings[name];
  if (!isSpatial(setting) || handles.some((handle) => handle.setting === name)) return null;
  if ('varies' in setting && setting.varies) return 'It may vary from element to element: edit it as a ramp, or by a formula.';
  if (name === 'facingTo') return facing;
  if (type.startsWith('lay.import') && name === 'scale') return reasons[5][0];
  return reasons.find(([, names]) => names.includes(name))?.[0];
}
