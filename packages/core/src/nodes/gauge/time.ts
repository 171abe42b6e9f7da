import { numberOut } from '../../definition/ports.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { pipeOfRadius } from '../../definition/sample.js';

export default defineNode({
  type: 'gauge.time',
  label: 'Time',
  family: families.gauge,
  summary: 'The seconds of the timeline as a number.',
  help: 'Gives time × speed + offset. Formulas know time as well, under its name.',
  keywords: ['animation', 'frame', 'clock', 'seconds'],
  asks: {
    'animate by time': {},
    'the frame number': { in: 'frames' },
  },
  telling: ['in', 'speed'],
  sample: { settings: { speed: 0.02, offset: 0.02 }, shownBy: pipeOfRadius },
  outputs: [numberOut],
  timed: () => true,
  settings: {
    in: {
      kind: 'choice',
      label: 'In',
      help: 'Seconds, or frames as the timeline counts them.',
      default: 'seconds',
      choices: { seconds: 'seconds', frames: 'frames' },
    },
    speed: { kind: 'number', label: 'Speed', help: 'Factor on the time.', default: 1, step: 0.01 },
    offset: { kind: 'number', label: 'Offset', help: 'Added to it.', default: 0, step: 0.01 },
  },
  run: ({ settings, time, rate }) => {
    const base = settings.in === 'frames' ? Math.round(time * rate) : time;
    return { number: { type: 'number', value: base * settings.speed + settings.offset } };
  },
});
