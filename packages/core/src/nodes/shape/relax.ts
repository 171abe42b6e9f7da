import { curvesIn, curvesOut } from '../../definition/ports.js';
import { paced } from '../../curves/change/resample.js';
import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import { surfaceOf } from '../../near/surface.js';
import { relax } from '../../shape/relax/relax.js';

export default defineNode({
  type: 'shape.relax',
  label: 'Relax',
  family: families.shape,
  summary: 'Lets ropes come to rest: drawn tight or slack, under gravity, on bodies and on each other.',
  help: 'Each curve becomes a rope of its own length, made longer or shorter by the slack: −0.05 draws it 5 % tighter, onto the body that is wired in; above 0 it hangs. It lies a radius off the body. Ropes keep apart, or stack: later curves (in the order of the wires of a Join) come to lie on earlier ones, lifted over a length that suits their stiffness. Points are as they come in, so resample before it; a piece should not be longer than the rope is thick where ropes cross. Ends of open curves are held unless you let them go, and so is every point for which Hold is true, such as a mark. The result is the same on every run. What has not come to rest is told.',
  attributes: { drops: ['tangent', 'handleIn', 'handleOut'] },
  keywords: ['simulate', 'physics', 'tighten', 'slack', 'gravity', 'collide', 'cloth', 'settle', 'rest', 'wrap', 'stack', 'fall'],
  asks: {
    'pull the rope tight': { slack: -0.12 },
    'let the rope hang on the body': { slack: 0.06 },
    'ropes on top of each other': { ropes: 'stack' },
    'simulate a rope': {},
  },
  telling: ['slack', 'ropes'],
  handles: [{ kind: 'direction', setting: 'down', at: ['middle'] }],
  inputs: [curvesIn, { name: 'body', kinds: ['mesh'], optional: true, aliases: ['mesh'] }],
  outputs: [curvesOut],
  passes: true,
  settings: {
    slack: {
      kind: 'number',
      label: 'Slack',
      help: 'New length ÷ old − 1: below 0 it tightens, above 0 it hangs.',
      default: -0.03,
      earlier: { before: 2, default: -0.05 },
      min: -0.9,
      max: 10,
      step: 0.005,
      varies: 'curve',
    },
    gravity: { kind: 'number', label: 'Gravity', help: 'What pulls it down; 0: nothing does.', default: 9.81, min: 0, max: 1000, unit: 'm/s²', step: 0.1 },
    down: { kind: 'vector', label: 'Down', help: 'Which way it falls.', default: [0, -1, 0], direction: true },
    stiffness: { kind: 'number', label: 'Stiffness', help: '0 is limp as a thread, 1 stiff as a rod.', default: 0.1, min: 0, max: 1, step: 0.01 },
    radius: {
      kind: 'number',
      label: 'Radius',
      help: 'Half the thickness of a rope: so far it stays off the body.',
      default: 0.012,
      min: 0,
      above: true,
      unit: 'm',
      step: 0.001,
    },
    friction: { kind: 'number', label: 'Friction', help: '0 slides on the body, 1 sticks to it.', default: 0.2, min: 0, max: 1, step: 0.01 },
    ropes: {
      kind: 'choice',
      label: 'Ropes',
      help: 'What curves are to each other.',
      default: 'apart',
      choices: { apart: 'keep apart', stack: 'later ones lie on earlier ones', through: 'pass through each other' },
    },
    settle: {
      kind: 'choice',
      label: 'Settle',
      help: 'As long as it takes, or so many steps.',
      default: 'untilSettled',
      choices: { untilSettled: 'until it rests', steps: 'so many steps' },
    },
    steps: {
      kind: 'integer',
      label: 'Steps',
      help: 'How long it may move.',
      default: 60,
      earlier: { before: 2, default: 20 },
      min: 1,
      max: 2000,
      shownWhen: { settle: ['steps'] },
    },
    pinEnds: { kind: 'boolean', label: 'Hold ends', help: 'Ends of open curves stay where they are.', default: true },
    hold: {
      kind: 'boolean',
      label: 'Hold',
      help: 'Points that stay where they are: none, or those for which a condition holds, such as a mark.',
      default: false,
      condition: true,
    },
  },
  upgrade: (settings) => {
    const { stack, ...rest } = settings;
    return stack === undefined ? settings : { ropes: stack ? 'stack' : 'apart', ...rest };
  },
  run: (context) => {
    const { settings, input, field, warn } = context;
    const given = paced(input('curves'), context);
    const body = input('body');
    const made = relax(
      given,
      body ? surfaceOf(body, context) : null,
      { ...settings, slack: field(settings.slack, given, 'curve'), pinned: field(settings.hold, given, 'point') },
      context,
    );
    if (made.inside)
      warn({ code: 'through-body', message: `${made.inside} points lay in the body at first, and were taken out to its nearest side.`, remedy: 'Begin outside: Section by planes with an offset, or Keep outside, before this.' }); // prettier-ignore
    if (settings.settle === 'untilSettled' && made.unsettled.length)
      warn({
        code: 'degenerate',
        curve: made.unsettled[0],
        message: `${made.unsettled.length} of ${made.curves.starts.length - 1} ropes have not come to rest: the worst still goes ${Number((made.residual * 1000).toPrecision(2))} mm a step.`,
        remedy: 'Give it more stiffness or friction, or hold a point of it.',
      });
    if (made.tooNear > settings.radius * 0.05)
      warn({ code: 'through-body', message: `A rope is still ${Number((made.tooNear * 1000).toPrecision(2))} mm nearer to the body than its radius.`, remedy: 'The body is narrow there: use a thinner rope.' }); // prettier-ignore
    return { curves: made.curves };
  },
});
