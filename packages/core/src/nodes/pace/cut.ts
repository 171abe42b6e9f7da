import { curvesIn, curvesOut } from '../../definition/ports.js';
import { cutToSpan } from '../../curves/change/cut.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';

export default defineNode({
  type: 'pace.cut',
  label: 'Cut to span',
  family: families.pace,
  summary: 'Keeps the part of each curve between two places along it.',
  help: 'Cuts every curve at its true length, without changing its course. Places are fractions of the length or metres; beyond an end they mean the end. On a closed curve a start after the end keeps the part across its first point. Values are interpolated.',
  attributes: { writes: ['tangent'], drops: ['normal'] },
  keywords: ['trim', 'shorten', 'part', 'crop', 'segment'],
  asks: {
    'keep the first half': { start: 0, end: 0.5 },
    'shorten the curve': { end: 0.9 },
    'cut off by metres': { in: 'metres' },
  },
  telling: ['start', 'end'],
  sample: { settings: { start: 0.2, end: 0.7 } },
  inputs: [curvesIn],
  outputs: [curvesOut],
  passes: true,
  settings: {
    in: {
      kind: 'choice',
      label: 'In',
      help: 'What the places are counted in.',
      default: 'fraction',
      choices: { fraction: 'fraction of the length', metres: 'metres' },
    },
    start: { kind: 'number', label: 'Start', help: 'Where the kept part begins.', default: 0, min: 0, step: 0.005, varies: 'curve' },
    end: { kind: 'number', label: 'End', help: 'Where it ends.', default: 1, min: 0, step: 0.005, varies: 'curve' },
  },
  run: (context) => {
    const { settings, input, field, warn } = context;
    const given = input('curves');
    const { curves: result, gone } = cutToSpan(
      given,
      { start: field(settings.start, given, 'curve'), end: field(settings.end, given, 'curve'), in: settings.in },
      context,
    );
    for (const curve of gone.slice(0, 50))
      warn({ code: 'empty', curve, message: `Nothing is left of curve ${curve + 1}: its start is not before its end.`, remedy: 'Move the end further.' });
    return { curves: result };
  },
});
