import { anyIn, anyOut } from '../../definition/ports.js';
import { withAttributes } from '../../geometry/attributes.js';
import { axesToFollow, axisAliases, axisChoices, turnToStandard } from '../../geometry/axes.js';
import { matrixOf } from '../../geometry/expand.js';
import { transformGeometry, type Affine } from '../../geometry/transform.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { post } from '../../definition/sample.js';

export default defineNode({
  type: 'aim.axes',
  label: 'Axes to follow',
  family: families.aim,
  summary: 'Says which own axis of a placed object follows the tangent, and which the normal.',
  help: 'Placed objects have their Z along the tangent and their Y along the normal, unless told otherwise. On curves and points this node says so for the Place copies behind it; objects and copies themselves are turned, so that the chosen axes become Z and Y.',
  attributes: { writes: ['axes'] },
  keywords: ['orientation', 'forward', 'up axis', 'align', 'turn'],
  asks: {
    'point the other way': { tangent: 'minusZ' },
    'swap the axes of copies': {},
  },
  telling: ['tangent', 'normal'],
  sample: { settings: { tangent: 'y', normal: 'z' }, given: { any: post } },
  inputs: [anyIn],
  outputs: [anyOut],
  passes: true,
  where: 'none',
  settings: {
    tangent: { kind: 'choice', label: 'Tangent', help: 'The own axis that follows the tangent.', default: 'z', choices: axisChoices, aliases: axisAliases },
    normal: { kind: 'choice', label: 'Normal', help: 'The own axis that follows the normal.', default: 'y', choices: axisChoices, aliases: axisAliases },
  },
  run: ({ settings, input }) => {
    const given = input('any');
    const chosen = axesToFollow(settings.tangent, settings.normal);
    const r = turnToStandard(chosen);
    const turn: Affine = [r[0], r[3], r[6], 0, r[1], r[4], r[7], 0, r[2], r[5], r[8], 0];
    if (given.type === 'mesh') return { any: transformGeometry(given, turn) };
    if (given.type === 'copies') {
      const matrices = new Float32Array(given.matrices.length);
      for (let i = 0; i < given.object.length; i++) matrices.set(columns(times(matrixOf(given, i), turn)), i * 16);
      return { any: { ...given, matrices } };
    }
    return { any: { ...given, attributes: withAttributes(given.attributes, { axes: { carrier: 'whole', size: 9, data: Float32Array.from(r) } }) } };
  },
});

/** The map that applies `b`, then `a`. */
const times = (a: Affine, b: Affine): Affine =>
  [0, 4, 8].flatMap((row) =>
    [0, 1, 2, 3].map((column) => a[row] * b[column] + a[row + 1] * b[4 + column] + a[row + 2] * b[8 + column] + (column === 3 ? a[row + 3] : 0)),
  ) as unknown as Affine;

const columns = (m: Affine): number[] => [m[0], m[4], m[8], 0, m[1], m[5], m[9], 0, m[2], m[6], m[10], 0, m[3], m[7], m[11], 1];
