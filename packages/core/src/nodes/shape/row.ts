import { anyIn, anyOut } from '../../definition/ports.js';
import type { Geometry } from '../../geometry/geometry.js';
import { joinGeometries } from '../../geometry/join.js';
import { affineFrom, transformGeometry } from '../../geometry/transform.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { post } from '../../definition/sample.js';
import { sizeOf } from './repeated.js';

/** Copies of a row that are made before they are joined. */
const joinedAtOnce = 2000;

export default defineNode({
  type: 'shape.row',
  label: 'Row of copies',
  family: families.shape,
  summary: 'So many of the same in a row, each a step and a turn on from the last.',
  help: 'The first stays where it is (the middle one when centred); each further one is moved by the step and turned about the origin of the row by the turn. The result is one geometry of the same kind.',
  keywords: ['array', 'repeat', 'duplicate', 'series', 'linear'],
  asks: {
    'a row of copies': {},
    'ten in a row': { count: 10 },
    'repeat in a line': { count: 5 },
    'a fan of copies': { turn: [0, 30, 0] },
  },
  telling: ['count', 'step'],
  sample: { settings: { count: 5, step: [0.3, 0, 0] }, given: { any: post } },
  handles: [
    { kind: 'place', setting: 'step', at: [] },
    { kind: 'turn', setting: 'turn' },
  ],
  inputs: [anyIn],
  outputs: [anyOut],
  passes: true,
  where: 'none',
  settings: {
    count: { kind: 'integer', label: 'Count', help: 'How many there are.', default: 3, min: 1, max: 1_000_000 },
    step: { kind: 'vector', label: 'Step', help: 'From one to the next.', default: [1, 0, 0], unit: 'm', step: 0.01 },
    turn: { kind: 'vector', label: 'Turn', help: 'Degrees about X, then Y, then Z from one to the next.', default: [0, 0, 0], unit: '°', step: 1 },
    centred: { kind: 'boolean', label: 'Centred', help: 'The row’s middle stays where the first would be.', default: false },
  },
  run: ({ settings, input, claim, progress }) => {
    const given = input('any');
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
