import { curvesOut } from '../../definition/ports.js';
import { makeCurves } from '../../geometry/curves.js';
import { defineNode } from '../../definition/define.js';
import { progressEvery } from '../../base/work.js';
import { families } from '../../definition/families.js';

export default defineNode({
  type: 'lay.line',
  label: 'Line',
  family: families.lay,
  summary: 'A straight line between two places, or of a length in a direction.',
  help: 'Gives one straight curve from one place to another. Give a length to measure it from the first place along a direction instead, from its middle when centred. More than two points are spaced evenly.',
  keywords: ['straight', 'segment', 'edge', 'start'],
  asks: {
    'a line between two points': {},
    'a straight line of a length': { length: 1 },
    'a line with many points': { points: 24 },
  },
  telling: ['from', 'to'],
  handles: [
    { kind: 'place', setting: 'from' },
    { kind: 'place', setting: 'to' },
    { kind: 'direction', setting: 'direction', at: ['from'], with: 'length' },
    { kind: 'length', setting: 'length', at: ['from'], along: { of: 'direction' } },
  ],
  outputs: [curvesOut],
  settings: {
    from: { kind: 'vector', label: 'From', help: 'Where the line starts.', default: [0, 0, 0], unit: 'm' },
    to: { kind: 'vector', label: 'To', help: 'Where it ends. Not used when a length is given.', default: [1, 0, 0], unit: 'm', shownWhen: { length: [0] } },
    points: { kind: 'integer', label: 'Points', help: 'Points along the line, both ends included.', default: 2, min: 2, max: 20_000_000 },
    length: {
      kind: 'number',
      label: 'Length',
      help: 'The line has this length along its direction, or it ends at To.',
      default: 0,
      special: { called: 'ends at To', instead: 1 },
      min: 0,
      unit: 'm',
      step: 0.01,
    },
    direction: { kind: 'vector', label: 'Direction', help: 'Which way a line given by length runs.', default: [1, 0, 0], direction: true },
    centred: { kind: 'boolean', label: 'Centred', help: 'A line given by length has its middle at From.', default: false },
  },
  run: ({ settings, claim, progress, memory }) => {
    const { points } = settings;
    claim({ points });
    let from = settings.from;
    let to = settings.to;
    if (settings.length > 0) {
      const size = Math.hypot(...settings.direction);
      const along = settings.direction.map((value) => (value / size) * settings.length);
      const middle = settings.centred ? 0.5 : 0;
      from = [from[0] - along[0] * middle, from[1] - along[1] * middle, from[2] - along[2] * middle];
      to = [from[0] + along[0], from[1] + along[1], from[2] + along[2]];
    }
    if (from.every((value, k) => value === to[k]))
      throw new RangeError(`The line starts and ends at ${JSON.stringify(from)}; it needs two different places, or a length above 0.`);
    const positions = memory.float32(points * 3);
    for (let i = 0; i < points; i++) {
      if (i % progressEvery === 0) progress(i / points);
      const f = i / (points - 1);
      for (let k = 0; k < 3; k++) positions[i * 3 + k] = from[k] * (1 - f) + to[k] * f;
    }
    return { curves: makeCurves({ positions, starts: Uint32Array.of(0, points) }) };
  },
});
