import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { post } from '../../definition/sample.js';

export default defineNode({
  type: 'gauge.vector',
  label: 'Vector',
  family: families.gauge,
  summary: 'Three numbers, to be wired to settings.',
  help: 'Wire it to any setting of three numbers: a direction, a place, a size. Each of its own numbers can be wired in turn.',
  keywords: ['direction', 'position', 'xyz', 'offset'],
  asks: {
    'three numbers as a vector': {},
    'a place to wire': {},
  },
  telling: ['x', 'y', 'z'],
  sample: { settings: { y: 0.5 }, shownBy: (move) => ({ type: 'shape.transform', given: { any: post, move } }) },
  outputs: [{ name: 'vector', kind: 'vector' }],
  settings: {
    x: { kind: 'number', label: 'X', help: 'Its part to the right.', default: 0, step: 0.01 },
    y: { kind: 'number', label: 'Y', help: 'Its part upwards.', default: 0, step: 0.01 },
    z: { kind: 'number', label: 'Z', help: 'Its part to the front.', default: 0, step: 0.01 },
  },
  run: ({ settings: { x, y, z } }) => ({ vector: { type: 'vector', value: [x, y, z] } }),
});
