import { defineNode } from '../../definition/define.js';
import { families } from '../../definition/families.js';
import type { Geometry } from '../../geometry/geometry.js';
import { birthsByLength, revealCopies, revealCurves, revealPoints, type RevealOptions } from '../../grow/reveal.js';

/** When each element is born, if it says so. */
function birthsOf({ type, attributes }: Geometry): Float32Array | null {
  const birth = attributes.get('birth');
  return birth?.size === 1 && birth.carrier === (type === 'copies' ? 'copy' : 'point') ? birth.data : null;
}

/** @throws RangeError when there is nothing by which it could be told when elements are born. */
function birthsFor(given: Geometry, by: 'birth' | 'length', seconds: number): Float32Array {
  const births = by === 'birth' ? birthsOf(given) : null;
  if (births) return births;
  if (given.type === 'curves') return birthsByLength(given, seconds);
  throw new RangeError(
    `These ${given.type} have no "birth": place them on points of Creep, Shortest routes or Reveal by length, or write it by Set attribute, in seconds.`,
  );
}

export default defineNode({
  type: 'grow.reveal',
  label: 'Reveal',
  family: families.grow,
  summary: 'Growth at a moment: what is born until then, by the timeline or by hand.',
  help: 'Curves are cut where the growth front is, in the middle of a piece as well, so that they grow without jerks; copies and points appear when they are born, copies from nothing to their size. When things are born is told by birth (seconds), which Creep and Shortest routes write and copies take from their points; curves without it grow by length: all at one pace, longer ones start earlier, and all end together. Grown, 0 at the front to 1 behind it, is for what is to become thick behind the front: give a radius by the formula 0.01 * grown. A width is multiplied by it.',
  attributes: { reads: ['birth'], writes: ['birth', 'grown'], keeps: ['point', 'curve', 'copy', 'whole'] },
  keywords: ['grow', 'animate', 'front', 'time', 'draw on', 'trim', 'appear', 'wipe'],
  asks: {
    'play growth over time': { front: 'time' },
    'draw curves on': { front: 'share', by: 'length' },
    'grow to a share': { front: 'share' },
  },
  telling: ['front', 'share'],
  sample: { settings: { front: 'share' }, given: { any: { type: 'grow.rules' } } },
  inputs: [{ name: 'any', kinds: ['curves', 'copies', 'points'] }],
  outputs: [{ name: 'any', kind: 'any', follows: 'any' }],
  passes: true,
  where: 'none',
  timed: ({ front = 'time', on = true }) => front === 'time' && on !== false,
  settings: {
    front: {
      kind: 'choice',
      label: 'Front',
      help: 'Goes with the timeline, or stands where it is put.',
      default: 'time',
      choices: { time: 'by time', share: 'by hand' },
    },
    share: { kind: 'number', label: 'Grown', help: 'From nothing, 0, to all, 1.', default: 0.5, min: 0, max: 1, step: 0.005, shownWhen: { front: ['share'] } },
    delay: { kind: 'number', label: 'Delay', help: 'Until growth begins.', default: 0, unit: 's', step: 0.05, shownWhen: { front: ['time'] } },
    speed: { kind: 'number', label: 'Speed', help: 'Factor on the time.', default: 1, min: 0, step: 0.01, shownWhen: { front: ['time'] } },
    by: {
      kind: 'choice',
      label: 'Order',
      help: 'By when it grew, where that is known, or curves by their length alone.',
      default: 'birth',
      choices: { birth: 'as it grew', length: 'longer ones first' },
    },
    seconds: { kind: 'number', label: 'Lasts', help: 'How long curves take that grow by length.', default: 4, min: 0, above: true, unit: 's', step: 0.05 },
    soft: {
      kind: 'number',
      label: 'Soft',
      help: 'How long things take from nothing to their size behind the front.',
      default: 0.5,
      min: 0,
      unit: 's',
      step: 0.02,
    },
  },
  run: (context) => {
    const { settings, input, time } = context;
    const given = input('any');
    const births = birthsFor(given, settings.by, settings.seconds);
    const last = births.reduce((most, birth) => Math.max(most, birth), 0);
    const front = settings.front === 'time' ? (time - settings.delay) * settings.speed : settings.share * (last + settings.soft);
    const options: RevealOptions = { front, soft: settings.soft };
    switch (given.type) {
      case 'curves':
        return { any: revealCurves(given, births, options, context) };
      case 'copies':
        return { any: revealCopies(given, births, options) };
      case 'points':
        return { any: revealPoints(given, births, options) };
    }
  },
});
