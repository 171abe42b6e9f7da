import { seedSetting } from '../settings/common.js';
import { copiesOut } from '../../definition/ports.js';
import { axesToFollow, axisAliases, axisChoices } from '../../geometry/axes.js';
import { makeCopies } from '../../geometry/copies.js';
import { pointsOf } from '../../curves/evaluate/knots.js';
import { resample } from '../../curves/change/resample.js';
import { defineNode } from '../../definition/define.js';
import { placeCopies } from '../../place/copies.js';
import { constantField } from '../../values/field.js';
import { families } from '../../definition/families.js';
import { post, ringOfPoints } from '../../definition/sample.js';
import { weightsSetting } from '../settings/weights.js';

export default defineNode({
  type: 'place.copies',
  label: 'Place copies',
  family: families.place,
  summary: 'Puts a copy of an object on every point, or along curves.',
  help: 'Each copy follows the frame of its point: its own Z along the tangent and its Y along the normal, unless other axes are chosen here or by an Axes to follow before it. On curves a spacing puts copies so far apart; 0 takes the curve’s points. Several objects take turns, are drawn by chance, or are named by a value. Copies are shown and exported as instances; a node that needs a mesh expands them.',
  attributes: { reads: ['tangent', 'normal', 'axes'], keeps: ['point', 'curve'], drops: ['tangent', 'normal'] },
  keywords: ['copies', 'instance', 'instances', 'scatter', 'clone', 'chain', 'duplicate', 'along'],
  asks: {
    'copies along the path': { spacing: 0.5 },
    'one at every point': { spacing: 0 },
    'posts along a fence': { spacing: 2, align: 'upright' },
    'each copy a little different in size': { size: { random: [0.8, 1.2], seed: 1, per: 'point' } },
    'random objects': { pick: 'random' },
    'keep copies upright': { align: 'upright' },
    'lean each copy a little by chance': { lean: { random: [0, 6], seed: 1, per: 'point' }, toward: { random: [0, 360], seed: 2, per: 'point' } },
    'turn each copy by chance': { turn: { random: [0, 360], seed: 1, per: 'point' } },
  },
  telling: ['spacing', 'align'],
  sample: { given: { points: ringOfPoints, objects: post } },
  usualAfter: { curves: 8, points: 1 },
  inputs: [
    { name: 'points', kinds: ['points'], optional: true },
    { name: 'curves', kinds: ['curves'], optional: true },
    { name: 'objects', kinds: ['mesh'], many: true },
  ],
  outputs: [copiesOut],
  settings: {
    spacing: {
      kind: 'number',
      label: 'Spacing',
      help: 'Along curves, evened out to meet the end; or a copy at each of the points there are.',
      default: 0,
      special: { called: 'at their points', instead: 0.5 },
      min: 0,
      unit: 'm',
      step: 0.005,
    },
    size: { kind: 'number', label: 'Size', help: 'Factor on each copy.', default: 1, min: 0, step: 0.005, varies: 'point' },
    turn: {
      kind: 'number',
      label: 'Turn',
      help: 'About the tangent (about the vertical, when upright or not aligned).',
      default: 0,
      unit: '°',
      step: 1,
      varies: 'point',
    },
    lean: {
      kind: 'number',
      label: 'Lean',
      help: 'Away from the tangent (away from the vertical, when upright or not aligned). Turning comes before it, so that all can lean one way.',
      default: 0,
      unit: '°',
      step: 0.5,
      varies: 'point',
    },
    toward: {
      kind: 'number',
      label: 'Leans toward',
      help: 'Which way it leans: degrees round what it leans from; 0 is along the path when upright, along Z when not aligned.',
      default: 0,
      unit: '°',
      step: 1,
      varies: 'point',
    },
    align: {
      kind: 'choice',
      label: 'Align',
      help: 'Follow the frame, stay upright and follow the way level, or do not turn.',
      default: 'frame',
      choices: { frame: 'frame', upright: 'upright', none: 'none' },
    },
    axes: {
      kind: 'choice',
      label: 'Axes',
      help: 'Whether own axes are those of the points (z along the tangent, y along the normal, if nothing was said), or chosen here.',
      default: 'asGiven',
      choices: { asGiven: 'as given', chosen: 'chosen' },
    },
    tangentAxis: {
      kind: 'choice',
      label: 'Along the tangent',
      help: 'The own axis that follows the tangent.',
      default: 'z',
      choices: axisChoices,
      aliases: axisAliases,
      shownWhen: { axes: ['chosen'] },
    },
    normalAxis: {
      kind: 'choice',
      label: 'Along the normal',
      help: 'The own axis that follows the normal.',
      default: 'y',
      choices: axisChoices,
      aliases: axisAliases,
      shownWhen: { axes: ['chosen'] },
    },
    pick: {
      kind: 'choice',
      label: 'Pick',
      help: 'Which of several objects a point gets.',
      default: 'inTurn',
      choices: { inTurn: 'in turn', random: 'by chance', byAttribute: 'by attribute' },
    },
    weights: weightsSetting,
    seed: { ...seedSetting, shownWhen: { pick: ['random'] } },
    attribute: {
      kind: 'text',
      label: 'Attribute',
      help: 'The value that names the object: 0 is the first.',
      default: 'curve',
      earlier: { before: 2, default: 'id' },
      shownWhen: { pick: ['byAttribute'] },
    },
  },
  keepsMeaning: (settings, edition, wired) => {
    let kept = settings;
    // Points of curves once had the number of their curve as id.
    if (edition < 2 && kept['attribute'] === 'id' && wired('curves')) kept = { ...kept, attribute: 'curve' };
    // What is upright once turned about its level tangent, which is a lean to the side.
    if (edition < 3 && kept['align'] === 'upright' && kept['turn'] !== undefined) {
      const { turn, ...rest } = kept;
      kept = { ...rest, lean: turn, toward: -90 };
    }
    return kept;
  },
  run: (context) => {
    const { settings, input, inputs, field, warn, claim } = context;
    const points = input('points');
    const curves = input('curves');
    if (points && curves) throw new RangeError('Place copies got points and curves; it takes one of them.');
    const even = {
      by: 'spacing',
      count: constantField(2),
      spacing: constantField(settings.spacing),
      deviation: 1,
      fit: 'even',
      spread: 'even',
      keepFrames: true,
    } as const;
    const places = points ?? (curves && pointsOf(settings.spacing > 0 ? resample(curves, even, context) : curves));
    if (!places) {
      warn({ code: 'empty', message: 'Waiting for points or curves.', remedy: 'Wire one of them to it.' });
      return { copies: makeCopies([], new Uint32Array(0), new Float32Array(0)) };
    }
    claim({ copies: places.positions.length / 3 });
    const options = {
      ...settings,
      pick: settings.pick === 'byAttribute' ? { attribute: settings.attribute } : settings.pick,
      size: field(settings.size, places, 'point'),
      turn: field(settings.turn, places, 'point'),
      lean: field(settings.lean, places, 'point'),
      toward: field(settings.toward, places, 'point'),
      axes: settings.axes === 'chosen' ? axesToFollow(settings.tangentAxis, settings.normalAxis) : null,
    };
    return { copies: placeCopies(places, inputs('objects'), options, context) };
  },
});
